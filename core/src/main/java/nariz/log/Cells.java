package nariz.log;

import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** What stands in a cell. */
final class Cells {
    private static final Pattern NUMBER_AND_UNIT = Pattern.compile(
            "([-+]?[0-9][0-9.,]*)\\s*([%°A-Za-zλ\"][%°A-Za-z/0-9 ]{0,9})");
    /** A date that ends in the year is passed over: whether day or month comes first is not said. */
    private static final Pattern CLOCK = Pattern.compile(
            "(?:([0-9]{4})[-/.]([0-9]{1,2})[-/.]([0-9]{1,2})[T ]+|[0-9]{1,2}[-/.][0-9]{1,2}[-/.](?:[0-9]{4}|[0-9]{2})"
            + "[T, ]+)?(?:([0-9]{1,2}):)?([0-9]{1,2}):([0-9]{1,2}(?:[.,][0-9]+)?)(?: ?([AaPp])\\.?[Mm]\\.?)?"
            + "(?:Z|[+-][0-9]{2}:?[0-9]{2})?");
    /** So many digits stay below 2^53. */
    private static final int MOST_DIGITS = 15;
    private static final double[] POWERS = {1, 10, 100, 1e3, 1e4, 1e5, 1e6, 1e7, 1e8, 1e9, 1e10, 1e11, 1e12, 1e13,
        1e14, 1e15};
    private static final double DAY_S = 86400.0;

    private Cells() {
    }

    static boolean blank(String s) {
        return s.isEmpty() || "nan".equalsIgnoreCase(s) || "-".equals(s) || "--".equals(s) || "null".equals(s);
    }

    /** A number with a decimal point or comma, whatever unit stands behind it; NaN when it is none. */
    static double number(String cell) {
        return NumberStyle.EITHER.leading(cell);
    }

    /** A number and what stands behind it; the second is empty where nothing does. */
    record Reading(double value, String unit) {
    }

    /** A number with a unit behind it; NaN and no unit where it is something else. */
    static Reading withUnit(String cell, NumberStyle style) {
        Matcher m = NUMBER_AND_UNIT.matcher(cell.trim());
        return m.matches() && cell.indexOf(':') < 0 ? new Reading(style.number(m.group(1)), m.group(2).trim())
                : new Reading(Double.NaN, "");
    }

    /**
     * Digits with at most one point or comma, read without the general parser: a whole number below 2^53 over a power
     * of ten up to 10^22 is one rounded division of two exact doubles, hence the nearest double (W. D. Clinger, How to
     * read floating point numbers accurately, PLDI 1990, section 4).
     *
     * @param s text without blanks around it
     * @param decimal what parts whole from fraction, 0 for either of point and comma
     * @return the number, or NaN for whatever is written in another way
     */
    static double plain(String s, char decimal) {
        int n = s.length();
        int i = n > 0 && s.charAt(0) == '-' ? 1 : 0;
        if (n - i > MOST_DIGITS || i == n) {
            return Double.NaN;
        }
        long whole = 0;
        int point = -1;
        for (int at = i; at < n; at++) {
            char c = s.charAt(at);
            if (c >= '0' && c <= '9') {
                whole = 10 * whole + (c - '0');
            } else if (point < 0 && (decimal == 0 ? c == '.' || c == ',' : c == decimal)) {
                point = at;
            } else {
                return Double.NaN;
            }
        }
        return value(whole, point, i, n, i > 0);
    }

    /** The same of characters in a buffer; a comma that may group is left to the text's own way. */
    static double plain(char[] b, int from, int to, char decimal) {
        int i = from < to && b[from] == '-' ? from + 1 : from;
        if (to - i > MOST_DIGITS || i == to) {
            return Double.NaN;
        }
        long whole = 0;
        int point = -1;
        for (int at = i; at < to; at++) {
            char c = b[at];
            if (c >= '0' && c <= '9') {
                whole = 10 * whole + (c - '0');
            } else if (point < 0 && (decimal == 0 ? c == '.' : c == decimal)) {
                point = at;
            } else {
                return Double.NaN;
            }
        }
        return value(whole, point, i, to, i > from);
    }

    private static double value(long whole, int point, int from, int to, boolean negative) {
        if (point >= 0 && to - from == 1) {
            return Double.NaN;
        }
        double v = point < 0 ? whole : whole / POWERS[to - 1 - point];
        return negative ? -v : v;
    }

    /** Infinity is spelled out as a word, and a word is no reading. */
    static boolean numeric(char c) {
        return (c >= '0' && c <= '9') || c == '-' || c == '+' || c == '.' || c == ',' || c == 'I';
    }

    static boolean clock(String cell) {
        return cell.indexOf(':') > 0 && CLOCK.matcher(cell.trim()).matches();
    }

    /** Seconds of the day, or since 1970 with a date that begins with the year; NaN when it is no clock time. */
    static double clockS(String cell) {
        Matcher m = CLOCK.matcher(cell.trim());
        if (!m.matches()) {
            return Double.NaN;
        }
        double s = 60.0 * Integer.parseInt(m.group(5)) + Double.parseDouble(m.group(6).replace(',', '.'));
        if (m.group(4) != null) {
            int hour = Integer.parseInt(m.group(4));
            // Twelve o'clock is the first hour of either half.
            s += 3600.0 * (m.group(7) == null ? hour : hour % 12 + ("Pp".contains(m.group(7)) ? 12 : 0));
        }
        if (m.group(1) != null) {
            try {
                s += DAY_S * java.time.LocalDate.of(Integer.parseInt(m.group(1)), Integer.parseInt(m.group(2)),
                        Integer.parseInt(m.group(3))).toEpochDay();
            } catch (java.time.DateTimeException e) {
                return Double.NaN;
            }
        }
        return s;
    }
}
