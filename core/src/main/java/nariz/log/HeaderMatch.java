package nariz.log;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import nariz.build.InputProblem;

/** Which column carries which channel, from a header line such as {@code time_s,rpm,vacuum_inHg,afr}. */
final class HeaderMatch {
    /** One recognised column. */
    record Column(int index, String title, Channel channel, Channel.Unit unit) {
    }

    private HeaderMatch() {
    }

    static List<Column> match(String source, long line, List<String> titles) {
        List<Column> columns = new ArrayList<>();
        for (int i = 0; i < titles.size(); i++) {
            Optional<Column> c = column(source, line, i, titles.get(i));
            if (c.isPresent()) {
                rejectTwice(source, line, columns, c.get());
                columns.add(c.get());
            }
        }
        return columns;
    }

    private static void rejectTwice(String source, long line, List<Column> columns, Column c) {
        for (Column other : columns) {
            if (other.channel() == c.channel()) {
                throw new InputProblem(source, line, c.index() + 1, c.title(),
                        "a second column for " + c.channel().label() + " (the first is \"" + other.title() + "\")",
                        "Keep one, or name the other sensor afr2 or lambda2.");
            }
        }
    }

    private static Optional<Column> column(String source, long line, int index, String title) {
        String plain = title.trim().toLowerCase(Locale.ROOT).replace("]", ")").replace("[", "(");
        String name = plain;
        String unit = "";
        int open = plain.indexOf('(');
        int bar = plain.lastIndexOf('_');
        if (open >= 0) {
            name = plain.substring(0, open);
            unit = plain.substring(open + 1).replace(")", "").trim();
        } else if (bar > 0 && !known(squeeze(plain))) {
            name = plain.substring(0, bar);
            unit = plain.substring(bar + 1);
        }
        String word = squeeze(name);
        for (Channel c : Channel.values()) {
            if (c.words().contains(word)) {
                return Optional.of(new Column(index, title.trim(), c, unit(source, line, index, title, c, unit)));
            }
        }
        return Optional.empty();
    }

    private static boolean known(String word) {
        for (Channel c : Channel.values()) {
            if (c.words().contains(word)) {
                return true;
            }
        }
        return false;
    }

    private static Channel.Unit unit(String source, long line, int index, String title, Channel c, String unit) {
        for (Channel.Unit u : c.units()) {
            if (u.name().equals(unit)) {
                return u;
            }
        }
        boolean plainNumber = c == Channel.AFR || c == Channel.AFR_2 || c == Channel.LAMBDA || c == Channel.LAMBDA_2;
        if (plainNumber || c == Channel.RPM || (unit.isEmpty() && c == Channel.TIME)
                || (unit.isEmpty() && c == Channel.THROTTLE)) {
            return c.units().getFirst();
        }
        List<String> names = c.units().stream().map(Channel.Unit::name).toList();
        throw new InputProblem(source, line, index + 1, title.trim(),
                unit.isEmpty() ? "no unit for " + c.label() : "the unit \"" + unit + "\" for " + c.label(),
                "Put the unit in the header, for example " + c.header() + " (units: " + String.join(", ", names)
                        + ").");
    }

    private static String squeeze(String s) {
        return s.replaceAll("[^a-z0-9]", "");
    }
}
