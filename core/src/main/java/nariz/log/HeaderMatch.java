package nariz.log;

import static nariz.text.Message.message;

import java.text.Normalizer;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import nariz.carburetor.InputProblem;
import nariz.text.Message;
import org.jspecify.annotations.Nullable;

/**
 * What the columns of a table carry: by header words in several languages, by units in the header or in a row of their
 * own, and, where asked to guess, by the range of the numbers.
 */
final class HeaderMatch {
    private static final List<String> EVENTS = List.of("event", "events", "marker", "mark", "lap", "marca", "evento",
            "marke", "ereignis", "repere", "evenement");
    private static final List<String> RATIOS = List.of("phi", "equivalenceratio", "equivratio", "eqr", "richesse");
    /** Words that name a channel where no better one does. */
    private static final Map<String, Channel> STAND_INS = Map.of("pedal", Channel.THROTTLE, "gaspedal",
            Channel.THROTTLE, "pedale", Channel.THROTTLE, "acceleratorpedal", Channel.THROTTLE, "accelerator",
            Channel.THROTTLE, "enginetemp", Channel.COOLANT, "enginetemperature", Channel.COOLANT);
    /** What stands beside these is no reading of the engine: what was aimed at, or how far off that is. */
    private static final Set<String> NOT_READ = Set.of("target", "targets", "desired", "commanded", "command", "cmd",
            "setpoint", "error", "err", "correction", "corr", "trim", "limit", "soll", "sollwert", "objetivo",
            "consigna", "cible", "consigne", "obiettivo");
    private static final Set<String> SECOND = Set.of("2", "right", "rh", "b2", "bank2", "derecha", "rechts", "droite");
    private static final int SHORTEST_WORD = 3;
    private static final double CLEAR_SHARE = 0.6;

    private HeaderMatch() {
    }

    /** A header split into its word, with the parts that was written in, and its unit. */
    private record Title(String word, List<String> parts, String unit) {
        Title(String text, String unit) {
            this(squeeze(text), List.of(text.split("[^a-z0-9]+", -1)), unit(unit));
        }

        static Title of(String title, String unitBelow) {
            String plain = Normalizer.normalize(title.trim().toLowerCase(Locale.ROOT).replace("λ", "lambda")
                    .replace("ß", "ss").replace("º", "°").replace("ø", "o"), Normalizer.Form.NFD).replaceAll("\\p{M}",
                    "")
                    .replace("]", ")").replace("[", "(");
            int open = plain.indexOf('(');
            int bar = plain.lastIndexOf('_');
            int slash = plain.indexOf(" in ");
            if (open >= 0) {
                Title split = new Title(plain.substring(0, open), plain.substring(open + 1).replace(")", "").trim());
                // "AFR (right)": what stands in brackets need not be a unit.
                boolean unit = Arrays.stream(Channel.values()).anyMatch(c -> c.unit(split.unit()).isPresent());
                return unit || (!names(squeeze(plain)) && channel(split.word()).isPresent()) ? split
                        : new Title(plain, "");
            }
            if (!unitBelow.isBlank()) {
                return new Title(plain, unitBelow.trim().toLowerCase(Locale.ROOT).replace("[", "").replace("]", "")
                        .replace("(", "").replace(")", ""));
            }
            if (slash > 0 && !names(squeeze(plain))) {
                return new Title(plain.substring(0, slash), plain.substring(slash + 4).trim());
            }
            if (bar > 0 && !names(squeeze(plain))) {
                return new Title(plain.substring(0, bar), plain.substring(bar + 1));
            }
            Title last = lastWord(plain);
            return last == null ? new Title(plain, "") : last;
        }

        /** "map kPa": the last word is a unit of what the words before it name; null when it is none. */
        private static @Nullable Title lastWord(String plain) {
            for (int space = plain.indexOf(' '); space > 0; space = plain.indexOf(' ', space + 1)) {
                Title split = new Title(plain.substring(0, space), plain.substring(space + 1).trim());
                Optional<Channel> c = channel(split.word()).or(() -> Optional.ofNullable(STAND_INS.get(
                        split.word())));
                if (c.isPresent() && !split.unit().isEmpty() && c.get().unit(split.unit()).isPresent()) {
                    return split;
                }
            }
            return null;
        }

        /** Units as gauges spell them. */
        private static String unit(String written) {
            return written.replaceAll("^(inches|inch|in\\.?|\") ?(of )?hg\\.?$", "inhg")
                    .replaceAll("^°? ?(deg|degrees|grad|grados)?\\.? ?(c|f)$", "$2")
                    .replaceAll("^(mm|cm) ?hg$", "$1hg");
        }

        private static String squeeze(String s) {
            return s.replaceAll("[^a-z0-9]", "");
        }
    }

    private static boolean names(String word) {
        return channel(word).isPresent() || STAND_INS.containsKey(word) || EVENTS.contains(word)
                || RATIOS.contains(word);
    }

    private static Optional<Channel> channel(String word) {
        return Arrays.stream(Channel.values()).filter(c -> c.words().contains(word)).findFirst();
    }

    /** How many fields of a row name something known. */
    static int known(List<String> titles) {
        int n = 0;
        for (String t : titles) {
            n += names(Title.of(t, "").word()) ? 1 : 0;
        }
        return n;
    }

    /** Whether the row under the header names units: no number in it, and a unit of its channel under some header. */
    static boolean unitsRow(List<String> titles, List<String> row) {
        int units = 0;
        for (int i = 0; i < row.size(); i++) {
            String u = row.get(i).trim();
            if (!Double.isNaN(Cells.number(u)) || Cells.clock(u)) {
                return false;
            }
            if (i < titles.size() && !u.isEmpty()) {
                Title t = Title.of(titles.get(i), u);
                units += channel(t.word()).flatMap(c -> c.unit(t.unit())).isPresent() ? 1 : 0;
            }
        }
        return units > 0;
    }

    /** The field with event marks, -1 for none. */
    static int events(List<String> titles) {
        for (int i = 0; i < titles.size(); i++) {
            if (EVENTS.contains(Title.of(titles.get(i), "").word())) {
                return i;
            }
        }
        return -1;
    }

    /** The plan of a column whose header names time, empty for every other. */
    static Optional<ColumnPlan> time(Table t, int i) {
        Title name = Title.of(t.titles().get(i).trim(), i < t.units().size() ? t.units().get(i) : "");
        // Exported side by side, the clocks are often told apart by a number: "Time 2".
        return channel(name.word().replaceFirst("[0-9]+$", "")).filter(c -> c == Channel.TIME)
                .filter(c -> name.unit().isEmpty() || c.unit(name.unit()).isPresent())
                .map(c -> name.unit().isEmpty() ? time(t, i, t.titles().get(i).trim())
                        : sure(i, t.titles().get(i).trim(), c, c.unit(name.unit()).orElseThrow()));
    }

    /** Columns that header and units name; what is unclear is refused with its place. */
    static List<ColumnPlan> strict(Table t) {
        List<ColumnPlan> columns = new ArrayList<>();
        for (int i = 0; i < t.titles().size(); i++) {
            Optional<ColumnPlan> c = named(t, i);
            if (c.isPresent()) {
                rejectTwice(t, columns, c.get());
                columns.add(c.get());
            }
        }
        for (int i = 0; i < t.titles().size(); i++) {
            standIn(t, i).filter(c -> free(columns, c)).ifPresent(columns::add);
        }
        return columns;
    }

    /** A column that stands in for a channel, where its unit leaves no doubt; nothing is refused for its sake. */
    private static Optional<ColumnPlan> standIn(Table t, int i) {
        String title = t.titles().get(i).trim();
        Title name = Title.of(title, i < t.units().size() ? t.units().get(i) : "");
        Channel c = STAND_INS.get(name.word());
        if (c == null) {
            return Optional.empty();
        }
        Optional<Channel.Unit> unit = c.unit(name.unit()).or(() -> plain(c, name.unit())
                ? Optional.of(c.units().getFirst()) : Optional.empty());
        return unit.map(u -> sure(i, title, c, u));
    }

    private static void rejectTwice(Table t, List<ColumnPlan> columns, ColumnPlan c) {
        for (ColumnPlan other : columns) {
            if (other.channel() == c.channel()) {
                throw new InputProblem(t.source(), t.headerLine(), c.index() + 1, c.title(),
                        message("problem.a-second-column-for-the-first", c.channel().label(), other.title()),
                        message("problem.keep-one-or-name-the-other"));
            }
        }
    }

    private static Optional<ColumnPlan> named(Table t, int i) {
        String title = t.titles().get(i).trim();
        Title name = Title.of(title, i < t.units().size() ? t.units().get(i) : "");
        if (RATIOS.contains(name.word())) {
            return Optional.of(new ColumnPlan(i, title, Channel.LAMBDA, "1/lambda", new Scale.Reciprocal(1.0),
                    ColumnPlan.Certainty.SURE, message("because.the-header-says-so")));
        }
        Optional<Channel> c = channel(name.word());
        return c.map(x -> sure(i, title, x, unit(t, i, title, x, name.unit())));
    }

    private static ColumnPlan sure(int i, String title, Channel c, Channel.Unit u) {
        return new ColumnPlan(i, title, c, u.name(), new Scale.Linear(u.factor(), u.shift()),
                ColumnPlan.Certainty.SURE, message("because.the-header-says-so"));
    }

    /** Channels that are taken without a unit: plain numbers, and those everybody logs alike. */
    private static boolean plain(Channel c, String unit) {
        return switch (c) {
            case AFR, AFR_2, LAMBDA, LAMBDA_2, RPM -> true;
            case TIME, THROTTLE -> unit.isEmpty();
            default -> false;
        };
    }

    private static Channel.Unit unit(Table t, int index, String title, Channel c, String unit) {
        Optional<Channel.Unit> named = c.unit(unit);
        if (named.isPresent()) {
            return named.get();
        }
        if (plain(c, unit)) {
            return c.units().getFirst();
        }
        List<String> names = c.units().stream().map(Channel.Unit::name).toList();
        throw new InputProblem(t.source(), t.headerLine(), index + 1, title,
                unit.isEmpty() ? message("problem.no-unit-for", c.label()) : message("problem.the-unit-for", unit,
                c.label()),
                message("problem.put-the-unit-in-the-header", c.header(), String.join(", ", names)));
    }

    /** Columns as well as can be told, each with how sure that is; a channel is given to one column only. */
    static List<ColumnPlan> propose(Table t) {
        List<ColumnPlan> out = new ArrayList<>();
        for (int i = 0; i < t.titles().size(); i++) {
            likely(t, i).filter(c -> free(out, c)).ifPresent(out::add);
        }
        for (int i = 0; i < t.titles().size(); i++) {
            int field = i;
            if (unused(out, i)) {
                standIn(t, i).or(() -> byPart(t, field)).filter(c -> free(out, c)).ifPresent(out::add);
            }
        }
        for (int i = 0; i < t.width(); i++) {
            if (unused(out, i) && i != events(t.titles()) && !aimedAt(t, i)) {
                guess(t, i).filter(c -> free(out, c) && fits(t, c) && !told(out, c)).ifPresent(out::add);
            }
        }
        return out;
    }

    private static boolean aimedAt(Table t, int i) {
        return i < t.titles().size() && Title.of(t.titles().get(i).trim(), "").parts().stream().anyMatch(
                NOT_READ::contains);
    }

    private static boolean unused(List<ColumnPlan> out, int i) {
        return out.stream().noneMatch(c -> c.index() == i);
    }

    /**
     * By one word of several, "Man Vac", "WB AFR": the one channel that has it and the unit, if there is one. Without
     * a word, by a unit that only one channel has.
     */
    private static Optional<ColumnPlan> byPart(Table t, int i) {
        String title = t.titles().get(i).trim();
        Title name = Title.of(title, i < t.units().size() ? t.units().get(i) : "");
        if (aimedAt(t, i)) {
            return Optional.empty();
        }
        List<Channel> by = Arrays.stream(Channel.values()).filter(c -> name.parts().stream().anyMatch(p -> p.length()
                >= SHORTEST_WORD && (c.words().contains(p) || STAND_INS.get(p) == c))).filter(c -> name.unit().isEmpty()
                || c.unit(name.unit()).isPresent()).toList();
        if (by.isEmpty() && (Channel.RPM.unit(name.unit()).isPresent() || Channel.SPEED.unit(name.unit())
                .isPresent())) {
            by = List.of(Channel.RPM.unit(name.unit()).isPresent() ? Channel.RPM : Channel.SPEED);
        }
        if (by.size() != 1) {
            return Optional.empty();
        }
        boolean second = name.parts().stream().anyMatch(SECOND::contains);
        Channel c = switch (by.getFirst()) {
            case AFR -> second ? Channel.AFR_2 : Channel.AFR;
            case LAMBDA -> second ? Channel.LAMBDA_2 : Channel.LAMBDA;
            default -> by.getFirst();
        };
        if (name.unit().isEmpty() && !plain(c, "")) {
            return byRange(t, i, title, c);
        }
        Channel.Unit u = c.unit(name.unit()).orElse(c.units().getFirst());
        return Optional.of(new ColumnPlan(i, title, c, u.name(), new Scale.Linear(u.factor(), u.shift()),
                ColumnPlan.Certainty.LIKELY, message("because.a-word-of-the-header")));
    }

    /** Whether the unit of a column, if it has one, is a unit of what its numbers look like. */
    private static boolean fits(Table t, ColumnPlan c) {
        String unit = c.index() >= t.titles().size() ? "" : Title.of(t.titles().get(c.index()).trim(), c.index()
                < t.units().size() ? t.units().get(c.index()) : "").unit();
        return unit.isEmpty() || c.channel().unit(unit).isPresent();
    }

    /** Whether another column tells the same already, in other terms. */
    private static boolean told(List<ColumnPlan> out, ColumnPlan c) {
        List<Channel> same = switch (c.channel()) {
            case MAP, VACUUM -> List.of(Channel.MAP, Channel.VACUUM);
            case AFR, LAMBDA -> List.of(Channel.AFR, Channel.LAMBDA);
            default -> List.of();
        };
        return out.stream().anyMatch(o -> same.contains(o.channel()));
    }

    private static boolean free(List<ColumnPlan> out, ColumnPlan c) {
        return out.stream().noneMatch(o -> o.channel() == c.channel());
    }

    private static Optional<ColumnPlan> likely(Table t, int i) {
        String title = t.titles().get(i).trim();
        Title name = Title.of(title, i < t.units().size() ? t.units().get(i) : "");
        if (RATIOS.contains(name.word())) {
            return named(t, i);
        }
        Optional<Channel> c = channel(name.word());
        if (c.isEmpty() || (c.get().unit(name.unit()).isEmpty() && !plain(c.get(), name.unit()))) {
            return c.flatMap(x -> byRange(t, i, title, x));
        }
        if (c.get() == Channel.TIME && name.unit().isEmpty()) {
            return Optional.of(time(t, i, title));
        }
        return named(t, i);
    }

    /** A time without a unit: steps of tens and hundreds are milliseconds. */
    private static ColumnPlan time(Table t, int i, String title) {
        double[] v = t.numbers(i);
        double[] steps = new double[Math.max(0, v.length - 1)];
        for (int k = 0; k < steps.length; k++) {
            steps[k] = v[k + 1] - v[k];
        }
        double step = middle(steps);
        ColumnPlan s = sure(i, title, Channel.TIME, Channel.TIME.units().getFirst());
        return step >= 5 && step == Math.rint(step) ? new ColumnPlan(i, title, Channel.TIME, "ms",
                new Scale.Linear(1e-3, 0), ColumnPlan.Certainty.LIKELY,
                message("because.its-steps-are-milliseconds")) : s;
    }

    /** The unit in which the numbers make sense. */
    private static Optional<ColumnPlan> byRange(Table t, int i, String title, Channel c) {
        double[] v = t.numbers(i);
        double top = high(v);
        double low = low(v);
        if (Double.isNaN(top)) {
            return Optional.empty();
        }
        String unit = switch (c) {
            case VACUUM -> low < -3 ? (low < -150 ? "mbar gauge" : "kpa gauge") : top <= 31 ? "inhg"
                    : top <= 105 ? "kpa" : "mbar";
            case MAP -> top <= 1.3 ? "bar" : top <= 18 ? "psi" : top <= 34 ? "inhg" : top <= 120 ? "kpa" : "mbar";
            case SPEED -> "km/h";
            case COOLANT -> top > 130 ? "f" : "c";
            case FUEL_PRESSURE -> top < 1.5 ? "bar" : top < 15 ? "psi" : "kpa";
            case AIRFLOW -> "g/s";
            default -> c.units().getFirst().name();
        };
        Channel.Unit u = c.unit(unit).orElseThrow();
        return Optional.of(new ColumnPlan(i, title, c, u.name(), new Scale.Linear(u.factor(), u.shift()),
                ColumnPlan.Certainty.LIKELY, message("because.unit-its-numbers-fit")));
    }

    /** By the numbers alone. */
    private static Optional<ColumnPlan> guess(Table t, int i) {
        // A channel that is logged more seldom than the rest is judged by the cells it fills.
        List<String> filled = t.texts(i).stream().filter(s -> !Cells.blank(s)).toList();
        double[] v = filled.stream().mapToDouble(Cells::number).toArray();
        String title = i < t.titles().size() ? t.titles().get(i).trim() : message("plan.column", i + 1).toString();
        if (Arrays.stream(v).filter(x -> !Double.isNaN(x)).count() < CLEAR_SHARE * v.length || v.length < 3) {
            boolean clock = !filled.isEmpty() && filled.stream().filter(Cells::clock).count() > CLEAR_SHARE * v.length;
            return clock ? Optional.of(guessed(i, title, Channel.TIME, "s", message("because.clock-times")))
                    : Optional.empty();
        }
        double middle = middle(v);
        double top = high(v);
        double low = low(v);
        if (rises(v)) {
            return Optional.of(guessed(i, title, Channel.TIME, v.length > 1 && v[1] - v[0] >= 5 ? "ms" : "s",
                    message("because.numbers-that-rise")));
        }
        if (middle > 9.5 && middle < 18 && low > 7 && top < 26) {
            return Optional.of(guessed(i, title, Channel.AFR, "", message("because.numbers-around-14")));
        }
        if (middle > 0.65 && middle < 1.3 && low > 0.4 && top < 2.6) {
            return Optional.of(guessed(i, title, Channel.LAMBDA, "", message("because.numbers-around-1")));
        }
        if (middle > 500 && top < 12000 && top > 1.2 * low) {
            return Optional.of(guessed(i, title, Channel.RPM, "rpm", message("because.hundreds-and-thousands")));
        }
        if (low >= -1 && top > 8 && top <= 30) {
            return Optional.of(guessed(i, title, Channel.VACUUM, "inhg", message("because.numbers-up-to-30")));
        }
        return low >= 8 && top > 60 && top < 115 ? Optional.of(guessed(i, title, Channel.MAP, "kpa",
                message("because.numbers-up-to-a-barometer"))) : Optional.empty();
    }

    private static ColumnPlan guessed(int i, String title, Channel c, String unit, Message because) {
        Channel.Unit u = c.unit(unit).orElseThrow();
        return new ColumnPlan(i, title, c, u.name(), new Scale.Linear(u.factor(), u.shift()),
                ColumnPlan.Certainty.GUESS, because);
    }

    private static boolean rises(double[] v) {
        for (int k = 1; k < v.length; k++) {
            if (!(v[k] > v[k - 1])) {
                return false;
            }
        }
        return true;
    }

    private static double middle(double[] v) {
        return Quantile.of(v, 0.5);
    }

    private static double high(double[] v) {
        return Quantile.of(v, 0.995);
    }

    private static double low(double[] v) {
        return Quantile.of(v, 0.005);
    }
}
