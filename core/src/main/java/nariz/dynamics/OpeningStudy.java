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
import java.util.OptionalDouble;
import java.util.OptionalInt;
import java.util.concurrent.CancellationException;
import java.util.function.BooleanSupplier;
import java.util.function.DoubleUnaryOperator;
import java.util.function.IntToDoubleFunction;
import java.util.stream.IntStream;
import nariz.carburetor.Family;
import nariz.carburetor.Ladder;
import nariz.estimation.Estimate;
import nariz.estimation.Observation;
import nariz.text.Message;

/**
 * Why the openings of a drive hesitate, and which change to the pump, or to the damper of a piston, would cure it.
 *
 * <p>For every explanation of {@link Enricher} the same openings are driven again with every size of every part of it.
 * The loss of an opening is the area of lambda over its settled value by more than {@value #FREE} and over
 * {@link TipIns#WEAK}, in units of {@value #FELT} lambda seconds, and what goes rich by more than {@value #FREE_RICH}
 * at a quarter of that: sound carburetors go a little lean too, and what is settled rich for power loses nothing on its
 * way there. Beside the quick openings as much is made of what suffers from the same thing
 * elsewhere: gentle openings from closed throttle, of which slack at a pump's arm takes the whole shot, and closings,
 * after which a piston is still up; no act gains by making gentle openings better than a taut arm does. An act costs
 * its work. The part taken is the one of least expected loss and cost;
 * how probable a cause is, is the weight of the explanations under which its own act is the best. Slack is taken up
 * unseen only where it is probable; where it is less so and would pay for the minutes in the mean, it is looked for.
 */
public final class OpeningStudy {
    /** Excess of lambda that no one feels. */
    static final double FREE = 0.05;
    static final double FREE_RICH = 0.15;
    /** Area that is felt as a hesitation, lambda s; judgement. */
    public static final double FELT = 0.06;
    /** How far what the model has of an area is off besides, as a share: from drives whose inside is known. */
    private static final double MODEL_SD = 0.35;
    private static final double RICH_WEIGHT = 0.25;
    private static final double JUDGED_S = 1.3;
    /** Fewer openings than this say nothing about a pump. */
    public static final int FEWEST = 3;
    /** A cause this likely needs no further openings. */
    private static final double CLEAR = 0.75;
    private static final double NULL = 0.5;
    /** A piston that falls slowly is said to only when it is this likely. */
    private static final double SURE = 0.85;
    /** From this probability on a cause is looked for though no part is changed for it: looking costs minutes. */
    private static final double LEANS = 0.6;
    private static final int[] AS_IT_IS = {0};

    private OpeningStudy() {
    }

    /** Where a hesitation comes from. */
    public enum Cause {
        /** Nothing that a change there would better. */
        SOUND,
        /** Slack at the arm: it starts late. */
        SLACK,
        /** The nozzles pass too little. */
        RATE,
        /** The stroke gives too little over the travel, or for too short a time. */
        VOLUME,
        /** Too much shot. */
        TOO_MUCH,
        /** The dampers hold too little oil: the piston hardly meets any. */
        DRY,
        /** The oil is too thin: the piston rises too fast. */
        THIN,
        /** The oil is too thick: the piston rises too slowly. */
        THICK,
        /** The piston falls back too slowly: it is still up when the throttle opens again. */
        STICKS;

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
     * @param openings how many were read and weighed
     * @param felt how many there were, those included that nothing is read of: areas are means over these
     * @param causes probability of each
     * @param change the best change, or empty
     * @param lean mean area of lean excess today as the model has it, lambda s, with its 90 % interval
     * @param leanAfter the same with the change, or once what is looked for was found and made good
     * @param hesitates mean loss of an opening today, lean and rich, and its standard deviation: 1 is just felt
     * @param others further events in which the change shows: gentle openings for a pump, closings for a damper
     * @param curve mean excess of lambda over settled after an opening that was read, as the likeliest explanation has
     *     it, share, every {@link #CURVE_S} s from the beginning; and the same as in {@code leanAfter}; shared, not
     *     copied
     * @param hidden share of a spike of 0.2 s that this sensor's lag hides, 0 to 1
     * @param tells the opening whose like would tell the two likeliest causes apart best; empty where one is clear
     * @param look what is to be looked for before the pump is called sound: not likely enough for a change, and likely
     *     enough for the minutes that a look takes
     */
    public record Finding(int openings, int felt, Map<Cause, Double> causes, Optional<Act> change, double[] lean,
            double[] leanAfter, double[] hesitates, Others others, float[][] curve, double hidden,
            Optional<TipIn> tells, Optional<Cause> look) {
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

        /** {@return whether a piston surely falls too slowly: no part has sizes for that, and it comes first} */
        public boolean sticks() {
            return OpeningStudy.sticks(causes);
        }

        /**
         * What is to be looked at though no part is changed for it: too likely to be called settled.
         *
         * @return a cause other than none; empty where a part is changed, or nothing is likely
         */
        public Optional<Cause> inDoubt() {
            if (change.isPresent()) {
                return Optional.empty();
            }
            Cause c = likeliest();
            return sticks() ? Optional.of(Cause.STICKS) : look.or(() -> Optional.of(c).filter(x -> x
                    != Cause.SOUND && causes.getOrDefault(x, 0.0) > LEANS));
        }

        /** {@return what the change cures or the look is for, or the likeliest cause where neither is worth it} */
        public Cause answered() {
            return change.map(Act::cause).or(this::look).orElseGet(this::likeliest);
        }

        /** {@return the likeliest cause} */
        public Cause likeliest() {
            return causes.entrySet().stream().max(Map.Entry.comparingByValue()).map(Map.Entry::getKey).orElse(
                    Cause.SOUND);
        }
    }

    /**
     * Events beside the quick openings.
     *
     * @param count how many were weighed
     * @param lean mean area of lean excess today as the model has it, lambda s each
     * @param leanAfter the same with the change
     */
    public record Others(int count, double lean, double leanAfter) {
    }

    /**
     * A part at a size.
     *
     * @param ladder part
     * @param from size now
     * @param to size then
     * @param cause what it cures
     */
    public record Act(Ladder ladder, double from, double to, Cause cause) {
    }

    /**
     * Studies a drive.
     *
     * @param o drive
     * @param settled settled phi at a sample's state
     * @param tipIns its openings
     * @param madeGood whether slack at a pump's arm was looked for or has just been taken up, or dampers filled: not
     *     advised again
     * @param cancelled asked now and then
     * @return what was found; empty where the family has neither pump nor damper or too few openings were read
     */
    public static Optional<Finding> of(Observation o, IntToDoubleFunction settled, List<TipIn> tipIns,
            boolean madeGood, BooleanSupplier cancelled) {
        List<Stab> felt = whole(o, settled, tipIns);
        List<Stab> stabs = felt.stream().filter(Stab::usable).toList();
        if (stabs.size() < FEWEST) {
            return Optional.empty();
        }
        return enricher(o, settled, tipIns, stabs, madeGood, cancelled).map(e -> weigh(o, stabs, felt, e, cancelled));
    }

    private static Optional<Enricher> enricher(Observation o, IntToDoubleFunction settled, List<TipIn> tipIns,
            List<Stab> stabs, boolean madeGood, BooleanSupplier cancelled) {
        Family family = o.sheet().carburetor().family();
        return family.pumpSetting(o.sheet()).map(p -> (Enricher) new PumpEnricher(stabs, stabs(o, settled,
                GentleOpenings.of(o, tipIns)), p, o, madeGood, cancelled))
                .or(() -> family.damper(o.sheet()).map(d -> new DamperEnricher(stabs, stabs(o, settled,
                        Falls.of(o)), d, o, madeGood, cancelled)));
    }

    /**
     * Weighs what may be done.
     *
     * @param stabs openings that were read: which explanation holds
     * @param felt those and the ones out of an overrun, where nothing is read: the driver feels them all the same, and
     *     they are the hardest
     */
    private static Finding weigh(Observation o, List<Stab> stabs, List<Stab> felt, Enricher e,
            BooleanSupplier cancelled) {
        List<Enricher.Choice> choices = e.choices();
        int[] every = IntStream.range(0, choices.size()).toArray();
        double[] expected = new double[choices.size()];
        Map<Cause, Double> causes = new EnumMap<>(Cause.class);
        double[][] lean = new double[choices.size()][e.explanations()];
        double square = 0.0;
        List<Stab> others = e.others();
        OptionalInt sound = e.soundOthers();
        double[] ofOthers = new double[choices.size()];
        Map<Cause, Integer> leading = new EnumMap<>(Cause.class);
        for (int p = 0; p < e.explanations(); p++) {
            if (cancelled.getAsBoolean()) {
                throw new CancellationException("analysis was cancelled");
            }
            double least = Double.POSITIVE_INFINITY;
            Cause best = Cause.SOUND;
            List<double[]> areas = areas(felt, e, p, every);
            List<double[]> further = areas(others, e, p, every);
            double usual = sound.isPresent() ? further.get(sound.getAsInt())[0] : 0.0;
            for (int c = 0; c < expected.length; c++) {
                double[] a = areas.get(c);
                double loss = (a[0] + Math.max(0.0, further.get(c)[0] - usual) + RICH_WEIGHT * a[1]) / FELT;
                lean[c][p] = a[0];
                ofOthers[c] += e.weight(p) * further.get(c)[0];
                expected[c] += e.weight(p) * loss;
                square += c == 0 ? e.weight(p) * loss * loss : 0.0;
                if (loss + choices.get(c).cost() < least) {
                    least = loss + choices.get(c).cost();
                    best = choices.get(c).cause();
                }
            }
            Cause cause = e.plainly(p).orElse(best);
            causes.merge(cause, e.weight(p), Double::sum);
            leading.merge(cause, p, (a, b) -> e.weight(a) >= e.weight(b) ? a : b);
        }
        int best = 0;
        for (int c = 1; c < expected.length; c++) {
            if (causes.getOrDefault(choices.get(c).cause(), 0.0) < choices.get(c).sure()) {
                continue;
            }
            best = expected[c] + choices.get(c).cost() < expected[best] + choices.get(best).cost() ? c : best;
        }
        // Sound is the null: nothing is done for a cause that is less likely than none.
        best = causes.getOrDefault(Cause.SOUND, 0.0) > NULL || sticks(causes) ? 0 : best;
        double variance = Math.max(0.0, square - expected[0] * expected[0]);
        double[] hesitates = {expected[0], Math.hypot(Math.sqrt(variance), MODEL_SD * expected[0])};
        int looked = best > 0 || sticks(causes) ? 0 : look(choices, causes, expected);
        int then = Math.max(best, looked);
        return new Finding(stabs.size(), felt.size(), causes, choices.get(best).act(), interval(lean[0], e),
                interval(lean[then], e), hesitates, new Others(others.size(), ofOthers[0], ofOthers[then]),
                curves(stabs, e, then), Math.exp(-0.2 / Math.max(0.01, o.sensorLagS())), tells(stabs, e, causes,
                leading), choices.get(looked).act().map(Act::cause));
    }

    /**
     * What has to be more probable than it is to be done unseen, and pays for its own work in the mean: whoever looks
     * sees whether it is there, and does nothing where it is not.
     *
     * @return the choice; 0 where there is nothing to look for
     */
    private static int look(List<Enricher.Choice> choices, Map<Cause, Double> causes, double[] expected) {
        return IntStream.range(1, choices.size()).filter(c -> choices.get(c).sure() > causes.getOrDefault(choices.get(c)
                .cause(), 0.0) && expected[c] + choices.get(c).cost() < expected[0]).boxed().min(Comparator
                .comparingDouble(c -> expected[c] + choices.get(c).cost())).orElse(0);
    }

    private static boolean sticks(Map<Cause, Double> causes) {
        return causes.getOrDefault(Cause.STICKS, 0.0) > SURE;
    }

    private static List<Stab> whole(Observation o, IntToDoubleFunction settled, List<TipIn> tipIns) {
        return tipIns.stream().map(t -> new Stab(o, settled, t)).filter(Stab::whole).toList();
    }

    private static List<Stab> stabs(Observation o, IntToDoubleFunction settled, List<TipIn> tipIns) {
        return whole(o, settled, tipIns).stream().filter(Stab::usable).toList();
    }

    /**
     * How many openings say something of a pump or damper.
     *
     * @param o drive
     * @param settled settled phi at a sample's state
     * @param tipIns its openings
     * @return how many can be weighed; 0 where the family has neither
     */
    public static int usable(Observation o, IntToDoubleFunction settled, List<TipIn> tipIns) {
        Family family = o.sheet().carburetor().family();
        return family.pumpSetting(o.sheet()).isEmpty() && family.damper(o.sheet()).isEmpty() ? 0
                : stabs(o, settled, tipIns).size();
    }

    /**
     * Mean lean area of a drive's openings where what burns is known: {@link Finding#lean} for the model's own.
     *
     * @param o drive
     * @param settled settled phi at a sample's state
     * @param tipIns its openings
     * @param lambda lambda in the cylinders by time, s
     * @return lambda s an opening; empty where fewer than {@link #FEWEST} were read
     */
    public static OptionalDouble lean(Observation o, IntToDoubleFunction settled, List<TipIn> tipIns,
            DoubleUnaryOperator lambda) {
        List<Stab> felt = whole(o, settled, tipIns);
        double[] area = new double[2];
        for (Stab stab : felt) {
            float[] burnt = new float[Stab.STEPS];
            for (int k = 0; k < burnt.length; k++) {
                burnt[k] = (float) (stab.air()[k] / lambda.applyAsDouble(stab.event().atS() - Stab.BEFORE_S
                        + k * Stab.STEP_S));
            }
            add(stab, burnt, area);
        }
        return felt.stream().filter(Stab::usable).count() < FEWEST ? OptionalDouble.empty()
                : OptionalDouble.of(area[0] / felt.size());
    }

    /** The opening in which the two likeliest causes differ most. */
    private static Optional<TipIn> tells(List<Stab> stabs, Enricher e, Map<Cause, Double> causes,
            Map<Cause, Integer> leading) {
        List<Cause> order = causes.entrySet().stream().sorted(Map.Entry.<Cause, Double>comparingByValue().reversed())
                .map(Map.Entry::getKey).toList();
        if (order.size() < 2 || causes.getOrDefault(order.getFirst(), 0.0) > CLEAR) {
            return Optional.empty();
        }
        int one = Objects.requireNonNull(leading.get(order.get(0)));
        int other = Objects.requireNonNull(leading.get(order.get(1)));
        return stabs.stream().max(Comparator.comparingDouble(s -> apart(s, e, one, other))).map(Stab::event);
    }

    private static double apart(Stab stab, Enricher e, int one, int other) {
        float[] a = e.burnt(stab, one, AS_IT_IS)[0];
        float[] b = e.burnt(stab, other, AS_IT_IS)[0];
        double sum = 0.0;
        for (int k = Stab.START; k < Stab.STEPS; k++) {
            double d = excess(stab, a, k) - excess(stab, b, k);
            sum += d * d;
        }
        return sum;
    }

    /** Mean lean and rich areas of the openings under one explanation, by choice. */
    private static List<double[]> areas(List<Stab> stabs, Enricher e, int explanation, int[] choices) {
        List<double[]> out = new ArrayList<>();
        for (int c = 0; c < choices.length; c++) {
            out.add(new double[2]);
        }
        for (Stab stab : stabs) {
            float[][] burnt = e.burnt(stab, explanation, choices);
            for (int c = 0; c < choices.length; c++) {
                add(stab, burnt[c], out.get(c));
            }
        }
        out.forEach(a -> {
            a[0] /= Math.max(1, stabs.size());
            a[1] /= Math.max(1, stabs.size());
        });
        return out;
    }

    private static float[][] curves(List<Stab> stabs, Enricher e, int best) {
        int each = (int) Math.round(Finding.CURVE_S / Stab.STEP_S);
        int steps = (Stab.STEPS - Stab.START) / each;
        float[][] out = new float[2][steps];
        for (Stab stab : stabs) {
            float[][] burnt = e.burnt(stab, 0, new int[] {0, best});
            for (int which = 0; which < 2; which++) {
                for (int k = 0; k < steps; k++) {
                    out[which][k] += (float) (excess(stab, burnt[which], Stab.START + k * each) / stabs.size());
                }
            }
        }
        return out;
    }

    private static double excess(Stab stab, float[] burnt, int k) {
        return stab.air()[k] / Math.max(1e-9, burnt[k]) * stab.phi()[k] - 1.0;
    }

    private static void add(Stab stab, float[] burnt, double[] area) {
        int end = Math.min(Stab.STEPS, Stab.START + (int) Math.round(Math.min(JUDGED_S, stab.event().readToS())
                / Stab.STEP_S));
        for (int k = Stab.START; k < end; k++) {
            double x = excess(stab, burnt, k);
            area[0] += Math.max(0.0, x - Math.max(FREE, TipIns.WEAK * stab.phi()[k] - 1.0)) * Stab.STEP_S;
            area[1] += Math.max(0.0, -x - FREE_RICH) * Stab.STEP_S;
        }
    }

    /** Mean of an area over the explanations, and its 90 % interval, the model's own error in it. */
    private static double[] interval(double[] v, Enricher e) {
        List<Integer> order = new ArrayList<>();
        double mean = 0.0;
        for (int p = 0; p < v.length; p++) {
            order.add(p);
            mean += e.weight(p) * v[p];
        }
        order.sort(Comparator.comparingDouble(p -> v[p]));
        double low = v[order.getFirst()];
        double high = v[order.getLast()];
        double sum = 0.0;
        for (int p : order) {
            double before = sum;
            sum += e.weight(p);
            low = before < 0.05 && sum >= 0.05 ? v[p] : low;
            high = before < 0.95 && sum >= 0.95 ? v[p] : high;
        }
        double model = Estimate.Z90 * MODEL_SD * mean;
        return new double[] {mean, Math.max(0.0, mean - Math.hypot(mean - low, model)), mean + Math.hypot(high - mean,
                model)};
    }
}
