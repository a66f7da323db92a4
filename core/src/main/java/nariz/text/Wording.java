package nariz.text;

import nariz.units.Shown;

/**
 * How messages are put into words: a language, and units for numbers.
 *
 * @param language language
 * @param units units of everything but mixtures
 */
public record Wording(Language language, Shown units) {
    private static final Bundle CORE = new Bundle("nariz.text.messages");
    /** English in the usual units: what exceptions and files for programs carry. */
    public static final Wording ENGLISH = new Wording(Language.ENGLISH, Shown.USUAL);

    /**
     * Words for a message.
     *
     * @param m message
     * @return its text
     */
    public String text(Message m) {
        return m.in(this);
    }

    String pattern(String code, Object... values) {
        return CORE.text(language, code, values);
    }

    /**
     * The same in another language.
     *
     * @param other language
     * @return a new wording
     */
    public Wording in(Language other) {
        return new Wording(other, units);
    }

    /**
     * The same with other units.
     *
     * @param other units
     * @return a new wording
     */
    public Wording with(Shown other) {
        return new Wording(language, other);
    }
}
