package nariz.build;

import static nariz.words.CoreWords.say;

import java.util.Locale;

/** A field that the sheet left out, as a person would call it. */
public final class Assumption {
    private Assumption() {
    }

    /**
     * Words for an assumed field. The value stays as it would be written in the sheet: that is where it is put right.
     *
     * @param assumed one of {@link BuildSheet#assumed()}, {@code path = value}
     * @return name of the part or property, and the value
     */
    public static String words(String assumed) {
        int split = assumed.indexOf(" = ");
        return say("sheet.assumed", label(assumed.substring(0, split)), assumed.substring(split + 3));
    }

    /**
     * Name of a field of the sheet.
     *
     * @param path where it stands
     * @return the name for people, with its side
     */
    public static String label(String path) {
        return SideName.ofKey(group(path)).map(s -> say("part.of-side", s.label(), part(path))).orElseGet(() -> part(
                path));
    }

    /**
     * Name of a field of the sheet, whichever side it is on.
     *
     * @param path where it stands
     * @return the name for people
     */
    public static String part(String path) {
        String group = group(path);
        String name = kebab(path.substring(path.lastIndexOf('.') + 1));
        boolean side = SideName.ofKey(group).isPresent();
        return Part.ofKey(name).filter(p -> side).map(Part::label).orElseGet(() -> say("sheet." + (side ? "barrels"
                : kebab(group)) + "." + name));
    }

    /** What the field is part of; the name of the car stands by itself. */
    private static String group(String path) {
        String[] steps = path.split("\\.", -1);
        return steps.length < 2 ? "car" : steps[steps.length - 2];
    }

    /** {@code idleSpeed} as {@code idle-speed}. */
    private static String kebab(String camel) {
        return camel.replaceAll("([A-Z])", "-$1").toLowerCase(Locale.ROOT);
    }
}
