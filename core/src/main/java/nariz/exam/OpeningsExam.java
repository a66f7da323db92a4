package nariz.exam;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.function.Consumer;
import java.util.function.DoubleConsumer;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Part;
import nariz.carburetor.PumpSetting;
import nariz.carburetor.Stage;
import nariz.diagnosis.Advice;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Change;
import nariz.diagnosis.Hypothesis;
import nariz.diagnosis.Previous;
import nariz.diagnosis.Request;
import nariz.diagnosis.Verdict;
import nariz.dynamics.OpeningStudy;
import nariz.family.metered.MeteredParts;
import nariz.sim.DriveScript;
import nariz.sim.EngineSimulator;
import nariz.sim.Fault;
import nariz.sim.SimulatedDrive;
import nariz.units.Units;

/**
 * Openings of the throttle with known answers: pumps of other laws than the estimator's ({@code sim.StrangePump}) that
 * are sound, have small or large nozzles, slack that no sheet knows, or work on a lean or leaking engine. Each goes
 * through rounds of advice, work and another drive.
 */
public final class OpeningsExam {
    private static final int MOST_ROUNDS = 3;
    /** Openings of the road, about. */
    private static final double OPENINGS = 15.0;
    /** Further lean area that a driver feels, lambda s; judgement. */
    private static final double FELT = 0.03;
    private static final List<String> CHECKED = Hypothesis.FAULTS;

    /** What is hidden, by turns of the seed. */
    private enum Hidden {
        SOUND, NOZZLE_SMALL, SLACK, NOZZLE_SMALL_AND_SLACK, SOUND_BUT_LEAN, LEAK, SOUND_TOO, SUPPLY;

        boolean pump() {
            return this == NOZZLE_SMALL || this == SLACK || this == NOZZLE_SMALL_AND_SLACK;
        }
    }

    private static final class Outcome {
        private final long seed;
        private final Hidden hidden;
        private final List<String> answers = new ArrayList<>();
        private String first = "";
        private boolean needless;
        private double steps = Double.NaN;
        private double lean = Double.NaN;
        private double felt = Double.NaN;
        private Optional<Line> line = Optional.empty();

        Outcome(long seed, Hidden hidden) {
            this.seed = seed;
            this.hidden = hidden;
        }

        /** A pump that is off and hurts nothing is as well left alone. */
        boolean counts() {
            return hidden.pump() && felt >= FELT;
        }

        boolean right() {
            return switch (hidden) {
                case NOZZLE_SMALL -> first.equals(OpeningStudy.Cause.RATE.key());
                case SLACK -> first.equals(OpeningStudy.Cause.SLACK.key());
                case NOZZLE_SMALL_AND_SLACK -> first.equals(OpeningStudy.Cause.RATE.key())
                        || first.equals(OpeningStudy.Cause.SLACK.key());
                default -> !needless;
            };
        }
    }

    /**
     * Where the enrichment opens, and where it was seen to.
     *
     * @param stamped what is stamped on it, inHg
     * @param is where it really is half open, without the friction of its parts, inHg
     * @param seen the middle of where it was seen to open and to shut, inHg
     * @param low low end of the interval of where it opens, inHg
     * @param high high end of that of where it shuts, inHg
     * @param close whether the reading calls itself close
     */
    private record Line(double stamped, double is, double seen, double low, double high, boolean close) {
        boolean near() {
            return Math.abs(seen - is) <= 0.5;
        }

        boolean holds() {
            return is >= low && is <= high;
        }
    }

    private OpeningsExam() {
    }

    /**
     * Examines and reports.
     *
     * @param firstSeed seed of the first case
     * @param count how many
     * @param line receives the report, a line at a time, Markdown
     * @param progress receives the share done, 0 to 1, from any thread
     */
    public static void report(long firstSeed, int count, Consumer<String> line, DoubleConsumer progress) {
        List<Outcome> all = Cases.all(firstSeed, count, OpeningsExam::sit, progress);
        line.accept("| measure | aim | result |");
        line.accept("|---|---|---|");
        List<Outcome> pumps = all.stream().filter(Outcome::counts).toList();
        List<Outcome> sound = all.stream().filter(o -> o.hidden == Hidden.SOUND || o.hidden == Hidden.SOUND_TOO)
                .toList();
        List<Outcome> other = all.stream().filter(o -> !o.hidden.pump() && !sound.contains(o)).toList();
        line.accept(share("cause right in the first answer about the pump, where it is felt", "90 %", pumps,
                Outcome::right));
        line.accept(share("nozzle proposed within a step of 4 thou of the healthy one", "90 %",
                pumps.stream().filter(o ->
                !Double.isNaN(o.steps)).toList(), o -> o.steps <= 4.0));
        line.accept(share("sound pumps left alone", "95 %", sound, o -> !o.needless));
        line.accept(share("no pump part where the steady mixture, a leak or the supply is the cause", "all", other,
                o -> !o.needless));
        List<Line> lines = all.stream().flatMap(o -> o.line.stream()).toList();
        line.accept(share("vacuum at which the enrichment opens within 0.5 inHg", "95 %", lines, Line::near));
        line.accept(share("... where the answer calls its reading close", "95 %", lines.stream().filter(Line::close)
                .toList(), Line::near));
        line.accept(share("... held by the interval from opening to shutting", "90 %", lines, Line::holds));
        line.accept("");
        line.accept("| seed | hidden | answers, round by round | | more lean area an opening than sound, lambda s "
                + "| modelled | enrichment stamped, really, seen, inHg |");
        line.accept("|---|---|---|---|---|---|---|");
        all.forEach(o -> line.accept("| " + o.seed + " | " + o.hidden.name().toLowerCase(Locale.ROOT).replace('_', ' ')
                + " | " + String.join(" -> ", o.answers) + " | " + (o.right() ? "right" : "NOT RIGHT")
                + " | " + String.format(Locale.ROOT, "%.2f | %.2f", o.felt, o.lean) + " | " + o.line.map(l ->
                String.format(Locale.ROOT, "%.1f, %.1f, %.1f (%.1f to %.1f)", l.stamped(), l.is(), l.seen(), l.low(),
                        l.high())).orElse("") + " |"));
    }

    /** How likely every cause is, where the pump was studied. */
    private static String shares(Advice a) {
        return a.pump().map(f -> " (" + String.join(", ", f.causes().keySet().stream().filter(c -> f.percent(c) > 4)
                .map(c -> c.key() + " " + f.percent(c)).toList()) + ")").orElse("");
    }

    private static <T> String share(String what, String aim, List<T> of, java.util.function.Predicate<T> good) {
        long n = of.stream().filter(good).count();
        return String.format(Locale.ROOT, "| %s | %s | %d of %d (%.0f %%) |", what, aim, n, of.size(), 100.0 * n
                / Math.max(1, of.size()));
    }

    private static Outcome sit(long seed) {
        Hidden hidden = Hidden.values()[Math.floorMod(seed, Hidden.values().length)];
        Random r = new Random(seed * 104729 + 5);
        // Four-barrels twice, then two-barrels.
        BuildSheet healthy = (Math.floorMod(seed, 3) == 2 ? PracticeCase.twoBarrel(seed) : PracticeCase.of(seed))
                .healthy();
        double usual = MeteredParts.PUMP_NOZZLE.of(healthy.carburetor(), Stage.PRIMARY);
        BuildSheet sheet = healthy;
        double slack = 0.0;
        if (hidden == Hidden.NOZZLE_SMALL || hidden == Hidden.NOZZLE_SMALL_AND_SLACK) {
            sheet = MeteredParts.PUMP_NOZZLE.fit(sheet, Stage.PRIMARY, Math.max(20, Math.rint(usual * (0.58 + 0.1
                    * r.nextDouble()))));
        }
        if (hidden == Hidden.SLACK || hidden == Hidden.NOZZLE_SMALL_AND_SLACK) {
            slack = (7.0 + 5.0 * r.nextDouble()) * Units.DEG;
        }
        if (hidden == Hidden.SOUND_BUT_LEAN) {
            Part jet = MeteredParts.MAIN_JET;
            sheet = jet.fit(sheet, Stage.PRIMARY, jet.of(sheet.carburetor(), Stage.PRIMARY) - 5);
        }
        Map<Fault, Double> faults = hidden == Hidden.LEAK ? Map.of(Fault.VACUUM_LEAK, 1.2) : hidden == Hidden.SUPPLY
                ? Map.of(Fault.FALLING_FUEL_LEVEL, 1.3) : Map.of();
        Outcome o = new Outcome(seed, hidden);
        o.line = line(healthy, seed);
        List<String> checked = List.of();
        Optional<Previous> previous = Optional.empty();
        DriveScript road = DriveScript.twelveMinutes().then(DriveScript.openings()).varied(r);
        if (hidden.pump()) {
            o.felt = felt(car(healthy, seed, 0.0, faults, 0).drive(road, 20, "sound"), car(sheet, seed, slack, faults,
                    0)
                    .drive(road, 20, "fitted"));
        }
        for (int round = 0; round < MOST_ROUNDS; round++) {
            Request q = Request.of(sheet, car(sheet, seed, slack, faults, round).drive(road, 20,
                    "openings-" + seed + ".csv").log())
                    .withRuledOut(checked).withPrevious(previous);
            Analysis a = Analysis.of(q, () -> false);
            Advice advice = a.advice();
            previous = Previous.of(advice);
            if (advice.verdict() == Verdict.CHECK_FIRST && checked.isEmpty()) {
                o.answers.add("check");
                if (!faults.isEmpty()) {
                    return o;
                }
                checked = CHECKED;
                continue;
            }
            o.answers.add(advice.verdict() == Verdict.CHANGE ? String.join("; ", advice.changes().stream()
                    .filter(Change::now).map(c -> c.title() + (c.part().role().pump() ? shares(advice) : "")).toList())
                    : advice.verdict().key() + shares(advice));
            advice.pump().ifPresent(f -> o.lean = Double.isNaN(o.lean) ? f.lean()[0] : o.lean);
            if (advice.verdict() != Verdict.CHANGE) {
                return o;
            }
            List<Change> pump = advice.changes().stream().filter(c -> c.part().role().pump()).toList();
            if (!pump.isEmpty()) {
                Change c = pump.getFirst();
                o.needless |= !hidden.pump();
                o.first = o.first.isEmpty() ? advice.pump().orElseThrow().answered().key() : o.first;
                if (c.part().equals(MeteredParts.PUMP_NOZZLE)) {
                    o.steps = Math.abs(c.to() - usual);
                }
                slack = c.part().equals(MeteredParts.PUMP_CLEARANCE) ? 0.0 : slack;
                if (!hidden.pump()) {
                    return o;
                }
            }
            sheet = a.sheetAfter();
        }
        return o;
    }

    /** Springs stray a little from their stamp; every third valve or spring is another than it is stamped. */
    private static Optional<Line> line(BuildSheet healthy, long seed) {
        Optional<Part> part = healthy.carburetor().family().part(healthy.carburetor(), Stage.PRIMARY,
                Part.Role.ENRICHMENT_OPENING);
        double stamped = part.map(p -> p.of(healthy.carburetor(), Stage.PRIMARY)).orElse(0.0);
        if (stamped <= 0.0) {
            return Optional.empty();
        }
        Random r = new Random(seed * 48271 + 3);
        double off = 0.3 * r.nextGaussian();
        if (Math.floorMod(seed / 3, 3) == 1) {
            off = (stamped > 4.0 && r.nextBoolean() ? -1.0 : 1.0) * (1.5 + r.nextDouble());
        }
        BuildSheet fitted = part.orElseThrow().fit(healthy, Stage.PRIMARY, stamped + off);
        DriveScript road = DriveScript.twelveMinutes().varied(r);
        Analysis a = Analysis.of(Request.of(healthy, EngineSimulator.stranger(fitted, seed, Map.of(), seed + 5000)
                .drive(road, 20, "line-" + seed + ".csv").log()), () -> false);
        double is = stamped + off;
        return a.advice().dynamics().enrichment().map(f -> new Line(stamped, is, 0.5 * (f.seen().opensPa()[0]
                + f.seen().shutsPa()[0]) / Units.INHG, f.seen().opensPa()[1] / Units.INHG, f.seen().shutsPa()[2]
                / Units.INHG, f.seen().close()));
    }

    /** How much more lean area an opening leaves in the cylinders than with the sound pump, lambda s. */
    private static double felt(SimulatedDrive sound, SimulatedDrive fitted) {
        double[] a = sound.trueLambda();
        double[] b = fitted.trueLambda();
        double[] t = fitted.log().timeS();
        double area = 0.0;
        for (int i = 1; i < Math.min(a.length, b.length); i++) {
            area += Math.max(0.0, b[i] - Math.max(a[i], 1.0) - 0.03) * Math.min(0.2, t[i] - t[i - 1]);
        }
        return area / OPENINGS;
    }

    private static EngineSimulator car(BuildSheet sheet, long seed, double slack, Map<Fault, Double> faults,
            int round) {
        PumpSetting p = sheet.carburetor().family().pumpSetting(sheet).orElseThrow();
        return new EngineSimulator(sheet, seed, faults, seed + 1000L * round).withPump(p.scaled(1.0, 1.0, slack, 0.3));
    }
}
