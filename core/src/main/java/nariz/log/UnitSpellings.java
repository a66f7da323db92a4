package nariz.log;

import java.text.Normalizer;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Properties;

/**
 * How people spell units, from {@code unit-spellings.properties}: {@code °C}, {@code deg C} and {@code celsius} are c.
 */
final class UnitSpellings {
    private static final Map<String, String> USUAL = load();

    private UnitSpellings() {
    }

    private static Map<String, String> load() {
        Map<String, String> out = new HashMap<>();
        Properties p = HeaderWords.properties("unit-spellings.properties");
        for (String unit : p.stringPropertyNames()) {
            for (String spelling : p.getProperty(unit).split(",")) {
                out.put(spelling.trim(), unit);
            }
        }
        for (Channel c : Channel.values()) {
            c.units().forEach(u -> out.putIfAbsent(u.name(), u.name()));
        }
        return Map.copyOf(out);
    }

    /** Lower case, without accents and brackets, one blank between words; a degree sign becomes deg. */
    static String plain(String spelling) {
        String s = Normalizer.normalize(spelling.trim().toLowerCase(Locale.ROOT).replace("º", "°").replace("ø", "o")
                .replace("°", "deg ").replace("λ", "lambda"), Normalizer.Form.NFKD).replaceAll("\\p{M}", "");
        return s.replaceAll("[\\[\\]{}]", "").replaceAll("\\s+", " ").trim();
    }

    /** The usual spelling of a plain one; the same text where it is none that is known. */
    static String usual(String plain) {
        return USUAL.getOrDefault(plain, plain);
    }

    /** Whether a spelling is that of a unit of some channel. */
    static boolean known(String spelling) {
        String s = plain(spelling);
        return !s.isEmpty() && USUAL.containsKey(s);
    }
}
