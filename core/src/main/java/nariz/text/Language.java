package nariz.text;

import java.util.Locale;

/** Languages the program speaks. */
public enum Language {
    /** English, the base. */
    ENGLISH("en", "English"),
    /** Spanish. */
    SPANISH("es", "Español");

    private final Locale locale;
    private final String own;

    Language(String code, String own) {
        locale = Locale.of(code);
        this.own = own;
    }

    /** {@return its locale} */
    public Locale locale() {
        return locale;
    }

    /** {@return its name in itself} */
    public String own() {
        return own;
    }

    /**
     * The language of a code.
     *
     * @param code for example {@code es} or {@code es-MX}
     * @return that language, or English where the program does not speak it
     */
    public static Language of(String code) {
        for (Language l : values()) {
            if (l.locale.getLanguage().equals(Locale.forLanguageTag(code).getLanguage())) {
                return l;
            }
        }
        return ENGLISH;
    }
}
