package nariz.dynamics;

import static nariz.text.Message.message;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import java.util.function.BooleanSupplier;
import java.util.function.IntToDoubleFunction;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Ladder;
import nariz.carburetor.Part;
import nariz.carburetor.PumpSetting;
import nariz.estimation.Observation;
import nariz.text.Message;

/**
 * Why the openings of a drive hesitate, and which change to the pump would cure it.
 *
 * <p>For every explanation of {@link PumpFit} the same openings are driven again with every size of every part of the
 * pump. The loss of an opening is the area of lambda over its settled value by more than {@value #FREE}, in units of
 * {@value #FELT} lambda seconds, and what goes rich by more than {@value #FREE_RICH} at a quarter of that: sound
 * carburetors go a little lean too. An act costs its work. The part taken is the one of least expected loss and cost;
 * how probable a cause is, is the weight of the explanations under which its own act is the best.
 */
public final class PumpStudy {
    /** Excess of lambda that no one feels. */
    static final double FREE = 0.05;
    static final double FREE_RICH = 0.15;
    /** Area that is felt as a hesitation, lambda s; judgement. */
    static final double FELT = 0.06;
    private static final double RICH_WEIGHT = 0.25;
    private static final double JUDGED_S = 1.3;
    /** Fewer openings than this say nothing about a pump. */
    public static final int FEWEST = 3;
    /** What any change to a pump costs before its own work: sound pumps are left alone. */
    private static final double WORTH = 0.25;
    /** A size this far from the usual one, in ln, is worth a quarter of a felt hesitation less. */
    private static final double USUAL_SPREAD = 0.25;
    private static final double UNUSUAL = 0.15;
    /** A cause this likely needs no further openings. */
    private static final double CLEAR = 0.75;
    private static final double NULL = 0.5;
    private static final double PER_SIZE = 0.02;

    private PumpStudy() {
    }

    /** Where a hesitation comes from. */
    public enum Cause {
        /** Nothing that a pump part would better. */
        SOUND,
        /** Slack at the arm: it starts late. */
        SLACK,
        /** The nozzles pass too little. */
        RATE,
        /** The stroke gives too little over the travel, or for too short a time. */
        VOLUME,
        /** Too much shot. */
        TOO_MUCH;

        /** {@return its key in files} */
        public String key() {
            return name().toLowerCase(Locale.ROOT).replace('_', '-');
        }

        /** {@return it in words} */
        public Message label() {
            return message("pump." + key());
        }
    }

    /**
     * What was found.
     *
     * @param openings how many were weighed
     * @param causes probability of each
     * @param change the best change, or empty
     * @param lean mean area of lean excess today as the model has it, lambda s, with its 90 % interval
     * @param leanAfter the same with the change
     * @param curve mean excess of lambda over settled after an opening as the likeliest explanation has it, share,
     *     every {@link #CURVE_S} s from the beginning; and the same with the change; shared, not copied
     * @param hidden share of a spike of 0.2 s that this sensor's lag hides, 0 to 1
     * @param tells the opening whose like would tell the two likeliest causes apart best; empty where one is clear
     */
    public record Finding(int openings, Map<Cause, Double> causes, Optional<Act> change, double[] lean,
            double[] leanAfter, float[][] curve, double hidden, Optional<TipIn> tells) {
        /** Steps of the curves, s. */
        public static final double CURVE_S = 0.05;

        /**
         * How likely a cause is, as a person is told: a model of a second is never surer than 99 in 100.
         *
         * @param c cause
         * @return percent, 0 to 99
         */
        public long percent(Cause c) {
            return Math.min(99, Math.round(100 * causes.getOrDefault(c, 0.0)));
        }

        /** {@return what the change cures, or the likeliest cause where none is worth making} */
        public Cause answered() {
            return change.map(Act::cause).orElseGet(this::likeliest);
        }

        /** {@return the likeliest cause} */
        public Cause likeliest() {
            return causes.entrySet().stream().max(Map.Entry.comparingByValue()).map(Map.Entry::getKey).orElse(
                    Cause.SOUND);
        }
    }

    /**
     * A pump part at a size.
     *
     * @param ladder part
     * @param from size now
     * @param to size then
     * @param cause what it cures
     */
    public record Act(Ladder ladder, double from, double to, Cause cause) {
    }

    private record Choice(Optional<Act> act, Cause cause, double cost, PumpSetting sheet,
            boolean slackGone) {
    }

    /**
     * Studies a drive.
     *
     * @param o drive
     * @param settled settled phi at a sample's state
     * @param tipIns its openings
     * @param slackGone whether slack at the arm has just been taken up: it is not advised again
     * @param cancelled asked now and then
     * @return what was found; empty where the family has no pump or too few openings were read
     */
    public static Optional<Finding> of(Observation o, IntToDoubleFunction settled, List<TipIn> tipIns,
            boolean slackGone, BooleanSupplier cancelled) {
        BuildSheet sheet = o.sheet();
        Optional<PumpSetting> fitted = sheet.carburetor().family().pumpSetting(sheet);
        List<Stab> stabs = stabs(o, settled, tipIns);
        if (fitted.isEmpty() || stabs.size() < FEWEST) {
            return Optional.empty();
        }
        List<PumpFit.Sample> posterior = new PumpFit(stabs, fitted.get(), o, cancelled).posterior();
        List<Choice> choices = choices(sheet, fitted.get()).stream().filter(c -> !slackGone || c.cause() != Cause.SLACK)
                .toList();
        double[] expected = new double[choices.size()];
        Map<Cause, Double> causes = new EnumMap<>(Cause.class);
        double[][] lean = new double[choices.size()][posterior.size()];
        double stoich = sheet.fuel().stoichAfr();
        Map<Cause, PumpFit.Sample> leading = new EnumMap<>(Cause.class);
        for (int p = 0; p < posterior.size(); p++) {
            if (cancelled.getAsBoolean()) {
                throw new CancellationException("analysis was cancelled");
            }
            PumpFit.Sample s = posterior.get(p);
            double least = Double.POSITIVE_INFINITY;
            Cause best = Cause.SOUND;
            List<double[]> areas = areas(stabs, s, choices, fitted.get(), stoich);
            for (int c = 0; c < expected.length; c++) {
                double[] a = areas.get(c);
                double loss = a[0] / FELT + RICH_WEIGHT * a[1] / FELT;
                lean[c][p] = a[0];
                expected[c] += s.weight() * loss;
                if (loss + choices.get(c).cost() < least) {
                    least = loss + choices.get(c).cost();
                    best = choices.get(c).cause();
                }
            }
            causes.merge(best, s.weight(), Double::sum);
            leading.merge(best, s, (a, b) -> a.weight() >= b.weight() ? a : b);
        }
        int best = 0;
        for (int c = 1; c < expected.length; c++) {
            best = expected[c] + choices.get(c).cost() < expected[best] + choices.get(best).cost() ? c : best;
        }
        // Sound is the null: nothing is done for a cause that is less likely than none.
        best = causes.getOrDefault(Cause.SOUND, 0.0) > NULL ? 0 : best;
        return Optional.of(new Finding(stabs.size(), causes, choices.get(best).act(), interval(lean[0], posterior),
                interval(lean[best], posterior), curves(stabs, posterior.getFirst(), choices.get(best),
                        fitted.get(), stoich), Math.exp(-0.2 / Math.max(0.01, o.sensorLagS())), tells(stabs, causes,
                        leading,
                        stoich)));
    }

    private static List<Stab> stabs(Observation o, IntToDoubleFunction settled, List<TipIn> tipIns) {
        return tipIns.stream().map(t -> new Stab(o, settled, t)).filter(Stab::usable).toList();
    }

    /**
     * How many openings say something of a pump.
     *
     * @param o drive
     * @param settled settled phi at a sample's state
     * @param tipIns its openings
     * @return how many can be weighed; 0 where the family has no pump
     */
    public static int usable(Observation o, IntToDoubleFunction settled, List<TipIn> tipIns) {
        return o.sheet().carburetor().family().pumpSetting(o.sheet()).isEmpty() ? 0 : stabs(o, settled, tipIns).size();
    }

    /** The opening in which the two likeliest causes differ most. */
    private static Optional<TipIn> tells(List<Stab> stabs, Map<Cause, Double> causes,
            Map<Cause, PumpFit.Sample> leading, double stoich) {
        List<Cause> order = causes.entrySet().stream().sorted(Map.Entry.<Cause, Double>comparingByValue().reversed())
                .map(Map.Entry::getKey).toList();
        if (order.size() < 2 || causes.getOrDefault(order.getFirst(), 0.0) > CLEAR) {
            return Optional.empty();
        }
        PumpFit.Sample one = Objects.requireNonNull(leading.get(order.get(0)));
        PumpFit.Sample other = Objects.requireNonNull(leading.get(order.get(1)));
        return stabs.stream().max(Comparator.comparingDouble(s -> apart(s, one, other, stoich))).map(Stab::event);
    }

    private static double apart(Stab stab, PumpFit.Sample one, PumpFit.Sample other, double stoich) {
        float[] a = burnt(stab, one);
        float[] b = burnt(stab, other);
        float[] shotA = shot(stab, one, one.pump(), stoich);
        float[] shotB = shot(stab, other, other.pump(), stoich);
        double sum = 0.0;
        for (int k = Stab.START; k < Stab.STEPS; k++) {
            double d = excess(stab, a, shotA, k) - excess(stab, b, shotB, k);
            sum += d * d;
        }
        return sum;
    }

    /** Nothing first, then every size of every pump part. */
    private static List<Choice> choices(BuildSheet sheet, PumpSetting today) {
        List<Choice> out = new ArrayList<>();
        out.add(new Choice(Optional.empty(), Cause.SOUND, 0.0, today, false));
        for (Ladder l : sheet.carburetor().family().pumpParts(sheet)) {
            double from = l.fitted(sheet);
            for (double to : l.sizes(sheet)) {
                if (l.part().role() == Part.Role.PUMP_START && l.low() <= 0.0) {
                    continue;
                }
                PumpSetting then = sheet.carburetor().family().pumpSetting(l.part().fit(sheet, l.stage(), to))
                        .orElseThrow();
                double cost = WORTH + l.alone() + PER_SIZE * Math.abs(to - from) / l.step()
                        + sheet.carburetor().family().usual(sheet, l.part()).map(u -> unusual(to, u) - unusual(from, u))
                        .orElse(0.0);
                out.add(new Choice(Optional.of(new Act(l, from, to, cause(l.part(), from, to))), cause(l.part(), from,
                        to), cost, then, false));
            }
            if (l.part().role() == Part.Role.PUMP_START && l.low() <= 0.0) {
                // Slack that no sheet has: taking it up is an act of its own, and nothing but a spanner's turn.
                out.add(new Choice(Optional.of(new Act(l, from, 0.0, Cause.SLACK)), Cause.SLACK, l.alone(),
                        sheet.carburetor().family().pumpSetting(l.part().fit(sheet, l.stage(), 0.0)).orElseThrow(),
                        true));
            }
        }
        out.sort(Comparator.comparing(c -> c.act().isPresent()));
        return out;
    }

    /** What a size costs that is not what such carburetors have: sound hardware is near it. */
    private static double unusual(double size, double usual) {
        double x = Math.log(size / usual) / USUAL_SPREAD;
        return UNUSUAL * x * x;
    }

    private static Cause cause(Part part, double from, double to) {
        return switch (part.role()) {
            case PUMP_START -> to < from ? Cause.SLACK : Cause.TOO_MUCH;
            case PUMP_RATE -> to > from ? Cause.RATE : Cause.TOO_MUCH;
            default -> to > from ? Cause.VOLUME : Cause.TOO_MUCH;
        };
    }

    /** Mean lean and rich areas of the openings under one explanation, by choice. */
    private static List<double[]> areas(List<Stab> stabs, PumpFit.Sample s, List<Choice> choices, PumpSetting today,
            double stoich) {
        List<double[]> out = new ArrayList<>();
        choices.forEach(c -> out.add(new double[2]));
        for (Stab stab : stabs) {
            float[] base = burnt(stab, s);
            for (int c = 0; c < choices.size(); c++) {
                add(stab, base, shot(stab, s, then(s, choices.get(c), today), stoich), out.get(c));
            }
        }
        out.forEach(a -> {
            a[0] /= stabs.size();
            a[1] /= stabs.size();
        });
        return out;
    }

    /** What burns of the metered fuel. */
    private static float[] burnt(Stab stab, PumpFit.Sample s) {
        float[] metered = new float[Stab.STEPS];
        float[] out = new float[Stab.STEPS];
        StabModel.metered(stab, PumpFit.WELL_S, metered);
        StabModel.burnt(stab, metered, s.share(), s.tauS(), true, out);
        return out;
    }

    /** What burns of the pump's fuel. */
    private static float[] shot(Stab stab, PumpFit.Sample s, PumpSetting pump, double stoich) {
        float[] let = new float[Stab.STEPS];
        float[] out = new float[Stab.STEPS];
        StabModel.pump(stab, pump, stoich, let);
        StabModel.stream(stab, let, s.stream(), s.tauS(), out);
        return out;
    }

    /** What the pump of an explanation would do with other parts: it strays from the new sheet as from the old. */
    private static PumpSetting then(PumpFit.Sample s, Choice choice, PumpSetting today) {
        PumpSetting is = s.pump();
        PumpSetting sheet = choice.sheet();
        double slack = choice.slackGone() ? sheet.slackRad() : is.slackRad() + sheet.slackRad() - today.slackRad();
        return new PumpSetting(is.rateKgPerS() * sheet.rateKgPerS() / today.rateKgPerS(), is.strokeKg()
                * sheet.strokeKg() / today.strokeKg(), sheet.fullRad(), Math.max(0.0, slack), is.refillS());
    }

    private static float[][] curves(List<Stab> stabs, PumpFit.Sample s, Choice best, PumpSetting today,
            double stoich) {
        int each = (int) Math.round(Finding.CURVE_S / Stab.STEP_S);
        int steps = (Stab.STEPS - Stab.START) / each;
        float[][] out = new float[2][steps];
        for (Stab stab : stabs) {
            float[] base = burnt(stab, s);
            for (int which = 0; which < 2; which++) {
                float[] shot = shot(stab, s, which == 0 ? s.pump() : then(s, best, today), stoich);
                for (int k = 0; k < steps; k++) {
                    out[which][k] += (float) (excess(stab, base, shot, Stab.START + k * each) / stabs.size());
                }
            }
        }
        return out;
    }

    private static double excess(Stab stab, float[] base, float[] shot, int k) {
        return stab.air()[k] / Math.max(1e-9, base[k] + shot[k]) * stab.phi()[k] - 1.0;
    }

    private static void add(Stab stab, float[] base, float[] shot, double[] area) {
        int end = Math.min(Stab.STEPS, Stab.START + (int) Math.round(Math.min(JUDGED_S, stab.event().readToS())
                / Stab.STEP_S));
        for (int k = Stab.START; k < end; k++) {
            double e = excess(stab, base, shot, k);
            area[0] += Math.max(0.0, e - FREE) * Stab.STEP_S;
            area[1] += Math.max(0.0, -e - FREE_RICH) * Stab.STEP_S;
        }
    }

    private static double[] interval(double[] v, List<PumpFit.Sample> posterior) {
        List<Integer> order = new ArrayList<>();
        double mean = 0.0;
        for (int p = 0; p < v.length; p++) {
            order.add(p);
            mean += posterior.get(p).weight() * v[p];
        }
        order.sort(Comparator.comparingDouble(p -> v[p]));
        double low = v[order.getFirst()];
        double high = v[order.getLast()];
        double sum = 0.0;
        for (int p : order) {
            double before = sum;
            sum += posterior.get(p).weight();
            low = before < 0.05 && sum >= 0.05 ? v[p] : low;
            high = before < 0.95 && sum >= 0.95 ? v[p] : high;
        }
        return new double[] {mean, low, high};
    }
}
