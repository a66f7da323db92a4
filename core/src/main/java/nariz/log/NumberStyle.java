package nariz.log;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * How numbers are written in a column: what parts whole from fraction, and the unit that stands behind them, if one
 * does.
 *
 * <p>"1,550" is one and a half or fifteen hundred. Which it is shows in the rest of the file: "14.7" says that the
 * point is the decimal mark, hence the comma groups thousands; "0,985" and "14,7" say the opposite. Where nothing in
 * the file tells, a column whose whole numbers stay below a thousand without the mark groups by it; otherwise such a
 * cell is not read at all.
 *
 * @param decimal point or comma; 0 where the file does not tell
 * @param unit unit behind most of the numbers, as written
 */
record NumberStyle(char decimal, Optional<String> unit) {
    /** Point or comma, as it comes. */
    static final NumberStyle EITHER = new NumberStyle((char) 0, Optional.empty());
    private static final Pattern ONE_MARK = Pattern.compile("[-+]?([0-9]*)([.,])([0-9]*)");
    private static final Pattern GROUPED = Pattern.compile("[-+]?[1-9][0-9]{0,2}(?:,[0-9]{3})+(?:\\.[0-9]*)?"
            + "|[-+]?[1-9][0-9]{0,2}(?:\\.[0-9]{3})+(?:,[0-9]*)?"
            + "|[-+]?[1-9][0-9]{0,2}(?:['\u2019 \u00a0\u202f][0-9]{3})+(?:[.,][0-9]*)?");
    private static final double MOSTLY = 0.6;
    private static final int GROUP = 3;
    /** One stray cell, a note for example, does not make a file that mixes both marks. */
    private static final int CLEARLY = 20;

    /** Styles of the columns of a sample. */
    static List<NumberStyle> of(List<List<String>> sample) {
        int[] evidence = new int[2];
        int width = 0;
        for (List<String> row : sample) {
            width = Math.max(width, row.size());
            for (String cell : row) {
                weigh(cell.trim(), evidence);
            }
        }
        char file = evidence[0] > CLEARLY * evidence[1] ? '.' : evidence[1] > CLEARLY * evidence[0] ? ',' : (char) 0;
        List<NumberStyle> out = new ArrayList<>();
        for (int i = 0; i < width; i++) {
            out.add(column(sample, i, file));
        }
        return List.copyOf(out);
    }

    /** Counts what a cell tells of the decimal mark: points in the first place, commas in the second. */
    private static void weigh(String cell, int[] evidence) {
        String number = cell.replaceAll("(?<=[0-9])\\s*[%°A-Za-zλ\"].*$", "");
        Matcher m = ONE_MARK.matcher(number);
        int point = number.lastIndexOf('.');
        int comma = number.lastIndexOf(',');
        if (m.matches()) {
            boolean grouping = m.group(3).length() == GROUP && !m.group(1).isEmpty() && m.group(1).length() <= GROUP
                    && m.group(1).charAt(0) != '0';
            if (!grouping && !m.group(1).isEmpty()) {
                evidence[m.group(2).equals(".") ? 0 : 1]++;
            }
        } else if (point >= 0 && comma >= 0 && GROUPED.matcher(number).matches()) {
            evidence[point > comma ? 0 : 1]++;
        } else if (GROUPED.matcher(number).matches() && (point >= 0 || comma >= 0)) {
            // 1,234,567: what comes twice groups.
            evidence[comma >= 0 ? 0 : 1]++;
        }
    }

    private static NumberStyle column(List<List<String>> sample, int field, char file) {
        Map<String, Integer> units = new HashMap<>();
        int cells = 0;
        int marked = 0;
        boolean wholeBelow = true;
        int plain = 0;
        for (List<String> row : sample) {
            String c = field < row.size() ? row.get(field).trim() : "";
            if (!Cells.blank(c)) {
                cells++;
                String unit = Cells.withUnit(c, EITHER).unit();
                if (!unit.isEmpty()) {
                    units.merge(unit, 1, Integer::sum);
                }
                marked += c.indexOf(',') >= 0 ? 1 : 0;
                if (c.indexOf(',') < 0 && c.indexOf('.') < 0) {
                    plain++;
                    wholeBelow &= Math.abs(EITHER.leading(c)) < 1000;
                }
            }
        }
        int all = cells;
        Optional<String> unit = units.entrySet().stream().filter(e -> e.getValue() > MOSTLY * all)
                .map(Map.Entry::getKey)
                .findFirst();
        boolean groups = file == 0 && marked > 0 && plain > 0 && wholeBelow;
        return new NumberStyle(groups ? '.' : file, unit);
    }

    /**
     * A number without anything behind it.
     *
     * @param cell text of a cell
     * @return NaN when it is none, or when it could be two numbers
     */
    double number(String cell) {
        int n = cell.length();
        // Nearly every cell of a log comes without blanks around it.
        String s = n > 0 && (cell.charAt(0) <= ' ' || cell.charAt(n - 1) <= ' ') ? cell.trim() : cell;
        if (s.isEmpty() || !Cells.numeric(s.charAt(0))) {
            return Double.NaN;
        }
        double plain = Cells.plain(s, decimal);
        if (!Double.isNaN(plain) && (decimal != 0 || s.indexOf(',') < 0 || !GROUPED.matcher(s).matches())) {
            return plain;
        }
        return slow(s);
    }

    private double slow(String s) {
        if (GROUPED.matcher(s).matches()) {
            int last = Math.max(s.lastIndexOf('.'), s.lastIndexOf(','));
            boolean onlyMark = last >= 0 && s.indexOf(s.charAt(last)) == last && s.replaceAll("[-+0-9.,]", "").isEmpty()
                    && s.indexOf('.') < 0 != s.indexOf(',') < 0;
            char groupedBy = onlyMark ? s.charAt(last) : 0;
            if (onlyMark && (decimal == 0 || decimal == groupedBy)) {
                // One mark before three digits: only the decimal mark of the file says what it is.
                return decimal == groupedBy ? parsed(s.replace(',', '.')) : Double.NaN;
            }
            char fraction = onlyMark ? decimal : last >= 0 && s.indexOf(s.charAt(last)) == last ? s.charAt(last) : 0;
            if (fraction != 0 && decimal != 0 && fraction != decimal && !onlyMark) {
                return Double.NaN;
            }
            StringBuilder plain = new StringBuilder();
            for (int i = 0; i < s.length(); i++) {
                char c = s.charAt(i);
                plain.append(c == fraction ? "." : Character.isDigit(c) || c == '-' || c == '+' ? String.valueOf(c)
                        : "");
            }
            return parsed(plain.toString());
        }
        return parsed(decimal == '.' ? s : s.replace(',', '.'));
    }

    private static double parsed(String s) {
        try {
            double v = Double.parseDouble(s);
            // Java takes "1d" and "0x1p3" for numbers; no logger writes them.
            return !Double.isInfinite(v) && s.chars().anyMatch(c -> c > 'A' && c != 'E' && c != 'e') ? Double.NaN : v;
        } catch (NumberFormatException e) {
            return Double.NaN;
        }
    }

    /** A number, whatever unit stands behind it. */
    double leading(String cell) {
        double v = number(cell);
        return Double.isNaN(v) && !cell.isEmpty() ? Cells.withUnit(cell, this).value() : v;
    }
}
