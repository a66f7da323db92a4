package nariz.log;

import static nariz.text.Message.message;

import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import nariz.text.Message;

/**
 * How the numbers of a column become SI: by the unit that is named, and where none is by what the numbers look like,
 * which is never sure. Without a header, what a column is at all.
 */
final class ColumnScale {
    private static final double CLEAR_SHARE = 0.6;
    private static final Set<String> VOLTS = Set.of("v", "volt", "volts", "mv", "vdc");
    /** A throttle that never reads higher than this has no percent. */
    private static final double HIGHEST_VOLTS = 5.5;
    /** A share reads no higher than this, and at idle no higher than that. */
    private static final double HIGHEST_SHARE = 1.05;
    private static final double HIGHEST_IDLE_SHARE = 0.3;
    private static final double USUAL_SHUT_VOLTS = 0.5;
    private static final double USUAL_OPEN_VOLTS = 4.5;
    private static final double HIGHEST_SHUT_VOLTS = 1.2;
    /** Steps of time: shorter ones are minutes or days, longer ones parts of a second, s. */
    private static final double SHORTEST_STEP_S = 0.0009;
    private static final double LONGEST_STEP_S = 5.0;
    private static final double SHORTEST_STEP_US = 5000.0;

    private ColumnScale() {
    }

    /** How a column is read, as far as its header and its numbers tell; empty when its unit is not understood. */
    static Optional<ColumnPlan> plan(Table t, int i, HeaderMatch.Match m) {
        String title = t.titles().get(i).trim();
        Channel c = java.util.Objects.requireNonNull(m.channel());
        ColumnPlan.Certainty words = m.unknown() > 0 ? ColumnPlan.Certainty.LIKELY : ColumnPlan.Certainty.SURE;
        if (m.ratio()) {
            return Optional.of(new ColumnPlan(i, title, c,
                    "1/lambda", new Scale.Reciprocal(1.0), words, message("because.the-header-says-so")));
        }
        boolean sensorOnly = m.standIn() && HeaderMatch.MIXTURE.contains(c) && m.words() == 0 && !m.unitNamed();
        if (m.unitNamed()) {
            return c.unit(m.header().unit()).map(u -> linear(i, title, c, u, words, words == ColumnPlan.Certainty.SURE
                    ? message("because.the-header-says-so") : message("because.a-word-of-the-header")))
                    .or(() -> c == Channel.THROTTLE && VOLTS.contains(m.header().unit()) ? volts(t, i, title)
                            : Optional.empty());
        }
        if (sensorOnly) {
            return mixture(t, i, title, c);
        }
        Optional<Channel.Unit> cells = t.style(i).unit().flatMap(c::unit);
        if (cells.isPresent()) {
            return Optional.of(linear(i, title, c, cells.get(), words, message("because.the-cells-say-so")));
        }
        return switch (c) {
            case AFR, AFR_2, LAMBDA, LAMBDA_2, RPM -> Optional.of(linear(i, title, c, c.units().getFirst(), words,
                    words == ColumnPlan.Certainty.SURE ? message("because.the-header-says-so")
                    : message("because.a-word-of-the-header")));
            case TIME -> Optional.of(time(t, i, title, words));
            case THROTTLE -> throttle(t, i, title, words);
            default -> byRange(t, i, title, c);
        };
    }

    private static ColumnPlan linear(int i, String title, Channel c, Channel.Unit u, ColumnPlan.Certainty sure,
            Message because) {
        return new ColumnPlan(i, title, c, u.name(), new Scale.Linear(u.factor(), u.shift()), sure, because);
    }

    static ColumnPlan as(ColumnPlan c, ColumnPlan.Certainty sure, Message because) {
        return new ColumnPlan(c.index(), c.title(), c.channel(), c.unit(), c.scale(), sure, because);
    }

    /**
     * A time without a unit is in seconds where its steps can be: steps of tens and hundreds are milliseconds, steps
     * of less than a thousandth are minutes or days.
     */
    private static ColumnPlan time(Table t, int i, String title, ColumnPlan.Certainty words) {
        if (t.texts(i).stream().filter(Cells::clock).count() > CLEAR_SHARE * t.sample().size()) {
            return linear(i, title, Channel.TIME, Channel.TIME.units().getFirst(), words,
                    message("because.the-header-says-so"));
        }
        double[] v = t.numbers(i);
        double[] steps = new double[Math.max(0, v.length - 1)];
        for (int k = 0; k < steps.length; k++) {
            steps[k] = v[k + 1] - v[k];
        }
        double step = middle(Arrays.stream(steps).filter(x -> x > 0).toArray());
        String unit = step >= SHORTEST_STEP_US ? "us" : step >= LONGEST_STEP_S ? "ms" : step < 2e-5 ? "days"
                : step < SHORTEST_STEP_S ? "min" : "s";
        boolean plain = unit.equals("s");
        return linear(i, title, Channel.TIME, Channel.TIME.unit(unit).orElseThrow(), plain ? words
                : ColumnPlan.Certainty.LIKELY, plain ? message("because.the-header-says-so")
                : message("because.its-steps-are-those-of", unit));
    }

    /** Percent where no volts and no fraction reads as high. */
    private static Optional<ColumnPlan> throttle(Table t, int i, String title, ColumnPlan.Certainty words) {
        double top = high(t.spreadNumbers(i));
        if (Double.isNaN(top)) {
            return Optional.empty();
        }
        if (top > HIGHEST_VOLTS) {
            return Optional.of(linear(i, title, Channel.THROTTLE, Channel.THROTTLE.units().getFirst(), words,
                    message("because.the-header-says-so")));
        }
        if (top > HIGHEST_SHARE) {
            return volts(t, i, title);
        }
        // Nothing but idle was logged yet: then it is what most people write.
        String unit = top > HIGHEST_IDLE_SHARE ? "0..1" : "%";
        return Optional.of(linear(i, title, Channel.THROTTLE, Channel.THROTTLE.unit(unit).orElseThrow(),
                ColumnPlan.Certainty.LIKELY, message("because.unit-its-numbers-fit")));
    }

    /** Volts of a throttle: shut at the lowest that was logged, open where such sensors usually are; likely at best. */
    private static Optional<ColumnPlan> volts(Table t, int i, String title) {
        double[] v = Arrays.stream(t.spreadNumbers(i)).filter(x -> !Double.isNaN(x)).toArray();
        if (v.length == 0) {
            return Optional.empty();
        }
        double shut = low(v) < HIGHEST_SHUT_VOLTS ? low(v) : USUAL_SHUT_VOLTS;
        double open = high(v) > USUAL_OPEN_VOLTS ? HIGHEST_VOLTS : USUAL_OPEN_VOLTS;
        return Optional.of(new ColumnPlan(i, title, Channel.THROTTLE, "volts", new Scale.Curve(new double[] {shut,
                open},
                new double[] {0, 1}), ColumnPlan.Certainty.LIKELY, message("because.volts-as-usual")));
    }

    private static Optional<ColumnPlan> mixture(Table t, int i, String title, Channel c) {
        double middle = middle(t.spreadNumbers(i));
        Channel lambda = c == Channel.AFR_2 ? Channel.LAMBDA_2 : Channel.LAMBDA;
        Channel told = middle > 5 && middle < 30 ? c : middle > 0.5 && middle < 2 ? lambda : null;
        return told == null ? Optional.empty() : Optional.of(linear(i, title, told, told.units().getFirst(),
                ColumnPlan.Certainty.LIKELY, message("because.unit-its-numbers-fit")));
    }

    /** The unit in which the numbers make sense, where none is named. */
    private static Optional<ColumnPlan> byRange(Table t, int i, String title, Channel c) {
        double[] v = t.spreadNumbers(i);
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
            case COOLANT, OIL_TEMPERATURE -> top > 130 ? "f" : "c";
            case HEAD_TEMPERATURE -> top > 250 ? "f" : "c";
            case FUEL_PRESSURE -> top < 1.5 ? "bar" : top < 15 ? "psi" : "kpa";
            case AIRFLOW -> "g/s";
            case ALTITUDE -> "m";
            case RUN_TIME -> "s";
            default -> c.units().getFirst().name();
        };
        return c.unit(unit).map(u -> linear(i, title, c, u, ColumnPlan.Certainty.LIKELY,
                message("because.unit-its-numbers-fit")));
    }

    /** By the numbers alone. */
    static Optional<ColumnPlan> guess(Table t, int i) {
        // A channel that is logged more seldom than the rest is judged by the cells it fills.
        List<String> filled = t.texts(i).stream().filter(s -> !Cells.blank(s)).toList();
        double[] v = filled.stream().mapToDouble(t.style(i)::number).toArray();
        String title = i < t.titles().size() ? t.titles().get(i).trim() : message("plan.column", i + 1).toString();
        if (Arrays.stream(v).filter(x -> !Double.isNaN(x)).count() < CLEAR_SHARE * v.length || v.length < 3) {
            boolean clock = !filled.isEmpty() && filled.stream().filter(Cells::clock).count() > CLEAR_SHARE * v.length;
            return clock ? Optional.of(guessed(i, title, Channel.TIME, "s", message("because.clock-times")))
                    : Optional.empty();
        }
        double[] all = t.spreadNumbers(i);
        double middle = middle(all);
        double top = high(all);
        double low = low(all);
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

    static boolean rises(double[] v) {
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
