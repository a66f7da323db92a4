package nariz.units;

import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A number with its unit, as a person writes it: {@code "59 thou"}, {@code "6.5 inHg"}, {@code "38.1 mm"}.
 *
 * @param si the value in SI
 * @param unit the unit it was written in, canonical spelling
 */
public record Quantity(double si, String unit) {
    private static final Pattern TEXT =
            Pattern.compile("\\s*([-+]?[0-9]*\\.?[0-9]+(?:[eE][-+]?[0-9]+)?)\\s*(1/100\\s*mm|[A-Za-z°/0-9]*)\\s*");

    /**
     * Reads a marked quantity.
     *
     * @param text number, optional space, unit; decimal point
     * @param dimension what it must measure
     * @return the quantity, or empty when the text is not one of this dimension
     */
    public static Optional<Quantity> parse(String text, Dimension dimension) {
        Matcher m = TEXT.matcher(text);
        if (!m.matches()) {
            return Optional.empty();
        }
        double value = Double.parseDouble(m.group(1));
        String name = m.group(2).replace("°", "").replaceAll("\\s", "");
        return dimension.unit(name)
                .filter(u -> Double.isFinite(value))
                .map(u -> new Quantity(dimension.toSi(value, u), u));
    }

    /**
     * Writes a number without trailing zeros.
     *
     * @param value the number
     * @param decimals most decimals to keep, 0 to 9
     * @return decimal text with a point, for example {@code "6.5"}
     */
    public static String trim(double value, int decimals) {
        String s = String.format(Locale.ROOT, "%." + decimals + "f", value);
        if (s.indexOf('.') >= 0) {
            s = s.replaceAll("0+$", "").replaceAll("\\.$", "");
        }
        return "-0".equals(s) ? "0" : s;
    }
}
