package nariz.log;

import java.time.LocalDate;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Numbers of a spreadsheet as the cell shows them: a share as percent, a part of a day as a clock. */
final class SheetCells {
    private static final Pattern QUOTED = Pattern.compile("\"[^\"]*\"|\\\\.|\\[(?:\\$|Red|Blue|Black|Green|White|Color"
            + ")[^\\]]*\\]");
    private static final Pattern DURATION = Pattern.compile(
            "P(?:([0-9]+)D)?T?(?:([0-9]+)H)?(?:([0-9]+)M)?(?:([0-9]+(?:[.,][0-9]+)?)S)?");
    private static final double DAY_S = 86_400.0;
    private static final LocalDate EPOCH = LocalDate.of(1899, 12, 30);
    /** Days of a spreadsheet go to the year 9999. */
    private static final double LAST_DAY = 2_958_466;

    private SheetCells() {
    }

    static boolean percent(String format) {
        return QUOTED.matcher(format).replaceAll("").indexOf('%') >= 0;
    }

    /** Whether a format shows hours, minutes or seconds. */
    static boolean clock(String format) {
        String s = QUOTED.matcher(format).replaceAll("").toLowerCase(Locale.ROOT);
        return s.indexOf('h') >= 0 || s.indexOf('s') >= 0;
    }

    /** Whether a format counts on past the end of the day, as [h]:mm does. */
    static boolean elapsed(String format) {
        return format.toLowerCase(Locale.ROOT).matches(".*\\[(?:h+|m+|s+)\\].*");
    }

    /** A part of a day, or a day with a part, as a clock. */
    static String clock(double days, boolean elapsed) {
        if (!(days >= 0 && days < LAST_DAY)) {
            return Double.toString(days);
        }
        if (elapsed && days >= 1) {
            return Double.toString(days * DAY_S);
        }
        long us = Math.round(days * DAY_S * 1e6);
        long day = us / (long) (DAY_S * 1e6);
        String time = time(us - day * (long) (DAY_S * 1e6));
        return day == 0 ? time : EPOCH.plusDays(day) + " " + time;
    }

    private static String time(long us) {
        return String.format(Locale.ROOT, "%02d:%02d:%02d.%06d", us / 3_600_000_000L, us / 60_000_000L % 60,
                us / 1_000_000L % 60, us % 1_000_000L);
    }

    /** An ISO 8601 duration as a clock, PT11H06M40.5S; the text itself where it is none. */
    static String duration(String iso) {
        Matcher m = DURATION.matcher(iso);
        if (!m.matches()) {
            return iso;
        }
        double s = part(m, 1) * DAY_S + part(m, 2) * 3600 + part(m, 3) * 60 + part(m, 4);
        return s < DAY_S ? time(Math.round(s * 1e6)) : Double.toString(s);
    }

    private static double part(Matcher m, int group) {
        return m.group(group) == null ? 0.0 : Double.parseDouble(m.group(group).replace(',', '.'));
    }

    static String percent(double share) {
        return Double.toString(share * 100.0) + "%";
    }
}
