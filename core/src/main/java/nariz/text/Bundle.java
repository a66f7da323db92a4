package nariz.text;

import java.util.Locale;
import java.util.Map;
import java.util.ResourceBundle;
import java.util.concurrent.ConcurrentHashMap;

/** Text of one module by key, in every language. Numbers keep the decimal point in every language, as in the files. */
public final class Bundle {
    private final String base;
    private final Map<Language, ResourceBundle> loaded = new ConcurrentHashMap<>();

    /**
     * Text of a module.
     *
     * @param base name of its resource bundle, for example {@code nariz.text.messages}
     */
    public Bundle(String base) {
        this.base = base;
    }

    /**
     * Text of a key.
     *
     * @param language language
     * @param key key in the bundle
     * @param values values for its places, as {@link String#format}; none leaves the text as it stands
     * @return the text
     * @throws java.util.MissingResourceException when no language has the key
     */
    public String text(Language language, String key, Object... values) {
        // No fallback to the platform's language: English is the base wherever the program runs.
        String text = loaded.computeIfAbsent(language, l -> ResourceBundle.getBundle(base, l.locale(), Bundle.class
                .getClassLoader(), ResourceBundle.Control.getNoFallbackControl(ResourceBundle.Control
                .FORMAT_PROPERTIES))).getString(key);
        return values.length == 0 ? text : String.format(Locale.ROOT, text, values);
    }
}
