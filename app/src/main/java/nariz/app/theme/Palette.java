package nariz.app.theme;

import javafx.scene.paint.Color;

/**
 * Colours of the drawings. Rich is ochre and points down, lean is indigo and points up: never colour alone, never red
 * against green. The same values stand in nariz.css as looked-up colours.
 *
 * @param paper window background
 * @param panel background of a picture
 * @param ink text and main lines
 * @param faint secondary text
 * @param rule thin lines and grids
 * @param accent selection, cursor, model
 * @param rich too much fuel
 * @param lean too little fuel
 * @param fine on target
 * @param fuel fuel itself
 */
public record Palette(Color paper, Color panel, Color ink, Color faint, Color rule, Color accent, Color rich,
        Color lean, Color fine, Color fuel) {
    /** For sun. */
    public static final Palette DAY = new Palette(Color.web("#efece4"), Color.web("#fbfaf6"), Color.web("#23282c"),
            Color.web("#62696d"), Color.web("#d8d3c6"), Color.web("#0b6b75"), Color.web("#a85f00"),
            Color.web("#4a46b8"), Color.web("#5d7478"), Color.web("#d9b778"));
    /** For the night. */
    public static final Palette NIGHT = new Palette(Color.web("#14181b"), Color.web("#1c2226"), Color.web("#e8e6df"),
            Color.web("#9aa4a8"), Color.web("#343d42"), Color.web("#4fc0c9"), Color.web("#eba03f"),
            Color.web("#a29cff"), Color.web("#8aa3a6"), Color.web("#8d7442"));

    /** {@return the same for eyes that need more contrast: nothing faint, and rules as strong as small words were} */
    public Palette strong() {
        return new Palette(paper, panel, ink, ink, faint, accent, rich, lean, ink, fuel);
    }

    /**
     * Colour of an error.
     *
     * @param error lambda/target - 1; positive is lean
     * @return rich, lean or fine (within 2.5 %)
     */
    public Color of(double error) {
        if (Double.isNaN(error) || Math.abs(error) < 0.025) {
            return fine;
        }
        return error > 0 ? lean : rich;
    }
}
