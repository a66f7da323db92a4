package nariz.words;

import java.util.Locale;
import java.util.ResourceBundle;

/**
 * Text of one module by key. The language is one for the whole program: what the core says and what the window says
 * belong to one sentence. Numbers keep the decimal point in every language, as in the files.
 */
public final class Words {
    private static volatile Language language = Language.ENGLISH;

    private final String base;
    private volatile Loaded loaded;

    private record Loaded(Language language, ResourceBundle bundle) {
    }

    /**
     * Text of a module.
     *
     * @param base name of its resource bundle, for example {@code nariz.words.words}
     */
    public Words(String base) {
        this.base = base;
    }

    /**
     * Sets the language from here on; what was said before stays as it was.
     *
     * @param to language
     */
    public static void speak(Language to) {
        language = to;
    }

    /** {@return the language spoken} */
    public static Language spoken() {
        return language;
    }

    /**
     * Text of a key.
     *
     * @param key key in the bundle
     * @param values values for its places, as {@link String#format}; none leaves the text as it stands
     * @return the text
     * @throws java.util.MissingResourceException when no language has the key
     */
    public String say(String key, Object... values) {
        Loaded now = loaded;
        if (now == null || now.language() != language) {
            // No fallback to the platform's language: English is the base wherever the program runs.
            now = new Loaded(language, ResourceBundle.getBundle(base, language.locale(), Words.class.getClassLoader(),
                    ResourceBundle.Control.getNoFallbackControl(ResourceBundle.Control.FORMAT_PROPERTIES)));
            loaded = now;
        }
        String text = now.bundle().getString(key);
        return values.length == 0 ? text : String.format(Locale.ROOT, text, values);
    }
}
