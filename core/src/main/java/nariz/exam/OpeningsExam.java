package nariz.exam;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.function.Consumer;
import java.util.function.DoubleConsumer;
import java.util.stream.Stream;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Ladder;
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
import nariz.log.Channel;
import nariz.sim.DriveScript;
import nariz.sim.EngineSimulator;
import nariz.sim.Fault;
import nariz.sim.Seeds;
import nariz.sim.SimulatedDrive;
import nariz.units.Units;

/**
 * Openings of the throttle with known answers: pumps of other laws than the estimator's ({@code sim.StrangePump}) that
 * are sound, have small nozzles, slack that no sheet knows, or work on a lean or leaking engine, in every family that
 * has one. Each goes through rounds of advice, work and another drive.
 */
public final class OpeningsExam {
    private static final int MOST_ROUNDS = 3;
    /** Openings of the road, about. */
    private static final double OPENINGS = 15.0;
    /** A main jet that leaves a car lean everywhere. */
    private static final double LEAN_JET = 0.925;
    /** Further lean area that a driver feels, lambda s; judgement. */
    private static final double FELT = 0.03;
    /** Nozzles this close to the healthy one are as good, m. */
    private static final double NEAR_M = 4.0 * Units.THOU;
    /** Cars that differ by no more than this in throttle and speed for so long do the same. */
    private static final double SAME_THROTTLE = 0.02;
    private static final double SAME_SPEED = 0.02;
    private static final double SAME_S = 2.0;
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
        private final String family;
        private final List<String> answers = new ArrayList<>();
        private Optional<OpeningStudy.Cause> first = Optional.empty();
        private boolean needless;
        private boolean looked;
        private double offM = Double.NaN;
        private double lean = Double.NaN;
        private double felt = Double.NaN;
        private Optional<Line> line = Optional.empty();

        Outcome(long seed, Hidden hidden, String family) {
            this.seed = seed;
            this.hidden = hidden;
            this.family = family;
        }

        /** A pump that is off and hurts nothing is as well left alone. */
        boolean counts() {
            return hidden.pump() && felt >= FELT;
        }

        String row() {
            return String.format(Locale.ROOT, "| %d | %s | %s | %s | %s | %.2f | %.2f | %s |", seed, family,
                    hidden.name().toLowerCase(Locale.ROOT).replace('_', ' '), String.join(" -> ", answers),
                    right() ? "right" : "NOT RIGHT", felt, lean, line.map(Line::text).orElse(""));
        }

        boolean right() {
            return switch (hidden) {
                case NOZZLE_SMALL -> isFirst(OpeningStudy.Cause.RATE);
                case SLACK -> isFirst(OpeningStudy.Cause.SLACK);
                case NOZZLE_SMALL_AND_SLACK -> isFirst(OpeningStudy.Cause.RATE) || isFirst(OpeningStudy.Cause.SLACK);
                default -> !needless;
            };
        }

        private boolean isFirst(OpeningStudy.Cause c) {
            return first.equals(Optional.of(c));
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
        String text() {
            return String.format(Locale.ROOT, "%.1f, %.1f, %.1f (%.1f to %.1f)", stamped, is, seen, low, high);
        }

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
        line.accept(share("... where it is felt by what the answer takes for felt", "", pumps.stream().filter(o ->
                o.felt >= OpeningStudy.FELT).toList(), Outcome::right));
        line.accept(share("nozzle proposed within a step of 4 thou of the healthy one", "90 %",
                pumps.stream().filter(o -> !Double.isNaN(o.offM)).toList(), o -> o.offM <= NEAR_M * 1.001));
        line.accept(share("sound pumps left alone", "95 %", sound, o -> !o.needless));
        line.accept(share("... told to look at the arm", "", sound, o -> o.looked));
        line.accept(share("no pump part where the steady mixture, a leak or the supply is the cause", "all", other,
                o -> !o.needless));
        line.accept(share("... told to look at the arm", "", other, o -> o.looked));
        for (String f : all.stream().map(o -> o.family).distinct().sorted().toList()) {
            line.accept(share("... all of these, " + f, "", all.stream().filter(o -> o.family.equals(f) && (o.counts()
                    || !o.hidden.pump())).toList(), Outcome::right));
        }
        List<Line> lines = all.stream().flatMap(o -> o.line.stream()).toList();
        line.accept(share("vacuum at which the enrichment opens within 0.5 inHg", "95 %", lines, Line::near));
        line.accept(share("... where the answer calls its reading close", "95 %", lines.stream().filter(Line::close)
                .toList(), Line::near));
        line.accept(share("... held by the interval from opening to shutting", "90 %", lines, Line::holds));
        line.accept("");
        line.accept("| seed | family | hidden | answers, round by round | | more lean area an opening than sound, "
                + "lambda s | modelled | enrichment stamped, really, seen, inHg |");
        line.accept("|---|---|---|---|---|---|---|---|");
        all.forEach(o -> line.accept(o.row()));
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
        Random r = Seeds.random(seed, 5);
        BuildSheet healthy = healthy(seed);
        Ladder nozzle = nozzle(healthy);
        double usual = nozzle.fitted(healthy);
        BuildSheet sheet = healthy;
        double slack = 0.0;
        if (hidden == Hidden.NOZZLE_SMALL || hidden == Hidden.NOZZLE_SMALL_AND_SLACK) {
            sheet = fitted(healthy, nozzle, 0.58 + 0.1 * r.nextDouble());
        }
        if (hidden == Hidden.SLACK || hidden == Hidden.NOZZLE_SMALL_AND_SLACK) {
            slack = (7.0 + 5.0 * r.nextDouble()) * Units.DEG;
        }
        if (hidden == Hidden.SOUND_BUT_LEAN) {
            sheet = fitted(healthy, Ladder.of(healthy).stream().filter(l -> l.stage() == Stage.PRIMARY
                    && l.part().role() == Part.Role.METERING_FUEL).findFirst().orElseThrow(), LEAN_JET);
        }
        Map<Fault, Double> faults = hidden == Hidden.LEAK ? Map.of(Fault.VACUUM_LEAK, 1.2) : hidden == Hidden.SUPPLY
                ? Map.of(Fault.FALLING_FUEL_LEVEL, 1.3) : Map.of();
        Outcome o = new Outcome(seed, hidden, healthy.carburetor().family().key());
        o.line = line(healthy, seed);
        List<String> checked = List.of();
        Optional<Previous> previous = Optional.empty();
        DriveScript road = DriveScript.twelveMinutes().then(DriveScript.openings()).varied(r);
        if (hidden.pump()) {
            o.felt = felt(car(healthy, seed, 0.0, faults, 0).drive(road, 20, "sound"),
                    car(sheet, seed, slack, faults, 0).drive(road, 20, "fitted"));
        }
        for (int round = 0; round < MOST_ROUNDS; round++) {
            Request q = Request.of(sheet, car(sheet, seed, slack, faults, round).drive(road, 20,
                    "openings-" + seed + ".csv").log())
                    .withRuledOut(checked).withPrevious(previous);
            Analysis a = Analysis.of(q, () -> false);
            Advice advice = a.advice();
            previous = Previous.of(advice);
            if (advice.looksAtPump()) {
                // Whoever looks takes up what there is, and goes on where there is nothing.
                o.answers.add("look at the arm" + shares(advice));
                o.looked = true;
                o.lean = Double.isNaN(o.lean) ? advice.pump().orElseThrow().lean()[0] : o.lean;
                o.first = o.first.or(() -> Optional.of(OpeningStudy.Cause.SLACK));
                slack = 0.0;
                checked = Stream.concat(checked.stream(), Stream.of(Hypothesis.PUMP_SLACK)).toList();
                continue;
            }
            if (advice.verdict() == Verdict.CHECK_FIRST && !checked.containsAll(CHECKED)) {
                o.answers.add("check");
                if (!faults.isEmpty()) {
                    return o;
                }
                checked = Stream.concat(checked.stream(), CHECKED.stream()).toList();
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
                OpeningStudy.Cause answered = advice.pump().orElseThrow().answered();
                o.first = o.first.or(() -> Optional.of(answered));
                if (c.part().role() == Part.Role.PUMP_RATE) {
                    o.offM = Math.abs(c.to() - usual) * c.part().si();
                }
                slack = answered == OpeningStudy.Cause.SLACK ? 0.0 : slack;
                if (!hidden.pump()) {
                    return o;
                }
            }
            sheet = a.sheetAfter();
        }
        return o;
    }

    /** By turns of seven: four-barrels three times, then every other family with a pump. */
    private static BuildSheet healthy(long seed) {
        return (switch ((int) Math.floorMod(seed, 7L)) {
            case 3 -> PracticeCase.twoBarrel(seed);
            case 4 -> PracticeCase.ofFamily("stack-jet", seed);
            case 5 -> PracticeCase.ofFamily("progressive-twin", seed);
            case 6 -> PracticeCase.ofFamily("single-venturi", seed);
            default -> PracticeCase.of(seed);
        }).healthy();
    }

    private static Ladder nozzle(BuildSheet sheet) {
        return sheet.carburetor().family().pumpParts(sheet).stream().filter(l -> l.part().role()
                == Part.Role.PUMP_RATE).findFirst().orElseThrow();
    }

    /** A size that is about so many times the one that is fitted, and can be had. */
    private static BuildSheet fitted(BuildSheet sheet, Ladder l, double times) {
        double from = l.fitted(sheet);
        double sizes = Math.max(1.0, Math.rint((1.0 - times) * from / l.step()));
        return l.part().fit(sheet, l.stage(), Math.max(l.low(), from - sizes * l.step()));
    }

    /** Springs stray a little from their stamp; every third valve or spring is another than it is stamped. */
    private static Optional<Line> line(BuildSheet healthy, long seed) {
        Optional<Part> part = healthy.carburetor().family().part(healthy.carburetor(), Stage.PRIMARY,
                Part.Role.ENRICHMENT_OPENING);
        double stamped = part.map(p -> p.of(healthy.carburetor(), Stage.PRIMARY)).orElse(0.0);
        if (stamped <= 0.0) {
            return Optional.empty();
        }
        Random r = Seeds.random(seed, 3);
        double off = 0.3 * r.nextGaussian();
        if (Math.floorMod(seed / 3, 3) == 1) {
            off = (stamped > 4.0 && r.nextBoolean() ? -1.0 : 1.0) * (1.5 + r.nextDouble());
        }
        BuildSheet fitted = part.orElseThrow().fit(healthy, Stage.PRIMARY, stamped + off);
        DriveScript road = DriveScript.twelveMinutes().varied(r);
        Analysis a = Analysis.of(Request.of(healthy, PracticeCase.car(fitted, seed, Map.of(), seed + 5000, true)
                .drive(road, 20, "line-" + seed + ".csv").log()), () -> false);
        double is = stamped + off;
        return a.advice().dynamics().enrichment().map(f -> new Line(stamped, is, 0.5 * (f.seen().opensPa()[0]
                + f.seen().shutsPa()[0]) / Units.INHG, f.seen().opensPa()[1] / Units.INHG, f.seen().shutsPa()[2]
                / Units.INHG, f.seen().close()));
    }

    /**
     * How much more lean area an opening leaves in the cylinders than with the sound pump, lambda s: while both cars do
     * the same. After a hesitation the driver's foot is elsewhere, which is no more lambda s for lambda s.
     */
    private static double felt(SimulatedDrive sound, SimulatedDrive fitted) {
        double[] a = sound.trueLambda();
        double[] b = fitted.trueLambda();
        double[] t = fitted.log().timeS();
        double area = 0.0;
        double apartAt = Double.NEGATIVE_INFINITY;
        for (int i = 1; i < Math.min(a.length, b.length); i++) {
            apartAt = alike(sound, fitted, i) ? apartAt : t[i];
            if (t[i] - apartAt > SAME_S) {
                area += Math.max(0.0, b[i] - Math.max(a[i], 1.0) - 0.03) * Math.min(0.2, t[i] - t[i - 1]);
            }
        }
        return area / OPENINGS;
    }

    private static boolean alike(SimulatedDrive one, SimulatedDrive other, int i) {
        return Math.abs(one.log().values(Channel.THROTTLE)[i] - other.log().values(Channel.THROTTLE)[i]) < SAME_THROTTLE
                && Math.abs(one.log().rpm()[i] / other.log().rpm()[i] - 1.0) < SAME_SPEED;
    }

    private static EngineSimulator car(BuildSheet sheet, long seed, double slack, Map<Fault, Double> faults,
            int round) {
        PumpSetting p = sheet.carburetor().family().pumpSetting(sheet).orElseThrow();
        return PracticeCase.car(sheet, seed, faults, seed + 1000L * round, false).withPump(p.scaled(1.0, 1.0,
                slack, 0.3));
    }
}
