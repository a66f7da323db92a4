package nariz.log;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * One way to read a header: words, and the unit that stands with them.
 *
 * @param words lower case, in the order of the header
 * @param unit as written, plain; empty when none stands there
 */
record Header(List<String> words, String unit) {
    /** What stands for having no unit. */
    private static final Set<String> NO_UNIT = Set.of("-", "--", "none", "n/a", "na", "1", "ratio", "dimensionless");

    /** Takes over what was read. */
    Header {
        unit = NO_UNIT.contains(unit) ? "" : unit;
    }

    private static final Pattern BRACKETS = Pattern.compile("[(\\[{]([^)\\]}]*)[)\\]}]?");
    private static final Pattern SEPARATOR = Pattern.compile("[\\s_,:;|/.-]+");
    /** No unit is longer than so many parts. */
    private static final int MOST_PARTS = 4;

    /**
     * The ways a header can be read: as words alone, or with a unit in brackets, below it, at its end or its beginning.
     *
     * @param title as it stands in the file
     * @param unitBelow field of the row of units; empty when there is none
     * @return readings, at least one
     */
    static List<Header> readings(String title, String unitBelow) {
        List<Header> out = new ArrayList<>();
        String t = HeaderWords.unaccented(title.trim()).replaceAll("([%°])", " $1");
        Matcher m = BRACKETS.matcher(t);
        String outside = m.replaceAll(" ");
        if (!unitBelow.isBlank()) {
            out.add(new Header(HeaderWords.split(t), UnitSpellings.plain(unitBelow.replaceAll("[()]", ""))));
            out.add(new Header(HeaderWords.split(outside), UnitSpellings.plain(unitBelow.replaceAll("[()]", ""))));
            return out;
        }
        m.reset();
        while (m.find()) {
            if (!m.group(1).isBlank()) {
                String rest = t.substring(0, m.start()) + " " + t.substring(m.end());
                out.add(new Header(HeaderWords.split(rest), UnitSpellings.plain(m.group(1))));
            }
        }
        out.add(new Header(HeaderWords.split(t), ""));
        if (UnitSpellings.known(t)) {
            out.add(new Header(List.of(), UnitSpellings.plain(t)));
        }
        parts(t, out);
        return out;
    }

    /** Units at the end ("map kPa", "vacuum in inHg") or at the beginning ("kPa MAP"). */
    private static void parts(String t, List<Header> out) {
        List<int[]> gaps = new ArrayList<>();
        Matcher m = SEPARATOR.matcher(t);
        while (m.find()) {
            if (m.start() > 0 && m.end() < t.length()) {
                gaps.add(new int[] {m.start(), m.end()});
            }
        }
        for (int k = 0; k < gaps.size(); k++) {
            String before = t.substring(0, gaps.get(k)[0]);
            String after = t.substring(gaps.get(k)[1]);
            if (gaps.size() - k <= MOST_PARTS && UnitSpellings.known(after)) {
                out.add(new Header(HeaderWords.split(before.toLowerCase(Locale.ROOT).endsWith(" in")
                        ? before.substring(0, before.length() - 3) : before), UnitSpellings.plain(after)));
            }
            if (k < MOST_PARTS && UnitSpellings.known(before)) {
                out.add(new Header(HeaderWords.split(after), UnitSpellings.plain(before)));
            }
        }
    }
}
