package nariz.text;

import com.ibm.icu.text.PluralRules;
import java.util.Locale;
import java.util.Map;
import java.util.ResourceBundle;
import java.util.concurrent.ConcurrentHashMap;

/**
 * Text of one module by key, in every language. Numbers keep the decimal point in every language, as in the files.
 *
 * <p>A text that goes with a count has one entry for each form its language needs, {@code key.one} and
 * {@code key.other} in English: which one a number takes is the language's rule in the Unicode CLDR. The first number
 * among the values is the count.
 */
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
        ResourceBundle bundle = loaded.computeIfAbsent(language, l -> ResourceBundle.getBundle(base, l.locale(),
                Bundle.class.getClassLoader(), ResourceBundle.Control.getNoFallbackControl(ResourceBundle.Control
                        .FORMAT_PROPERTIES)));
        String text = bundle.getString(bundle.containsKey(key) ? key : key + form(language, values));
        return values.length == 0 ? text : String.format(Locale.ROOT, text, values);
    }

    private static String form(Language language, Object... values) {
        for (Object v : values) {
            if (v instanceof Number n) {
                String form = PluralRules.forLocale(language.locale()).select(n.doubleValue());
                // Forms for millions and the like read as all other numbers do in what this program says.
                return form.equals(PluralRules.KEYWORD_ONE) ? ".one" : ".other";
            }
        }
        return "";
    }
}
