package nariz.exam;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.DoubleConsumer;
import java.util.function.Predicate;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Circuit;
import nariz.carburetor.DamperSetting;
import nariz.carburetor.Family;
import nariz.carburetor.Ladder;
import nariz.carburetor.Stage;
import nariz.diagnosis.Advice;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Change;
import nariz.diagnosis.Hypothesis;
import nariz.diagnosis.Previous;
import nariz.diagnosis.Request;
import nariz.diagnosis.Verdict;
import nariz.dynamics.OpeningStudy;
import nariz.sim.DriveScript;
import nariz.sim.Seeds;
import nariz.sim.SimulatedDrive;

/**
 * Openings of the throttle with known answers where a damper holds a piston back: {@code sim.DampedPiston} with the
 * standard oil, with oil that the sheet says is thin, with hardly any oil, with a piston that sticks on its way down,
 * on a needle that is lean. Each goes through rounds of advice, work and another drive.
 */
public final class DampersExam {
    private static final String FAMILY = "constant-depression";
    private static final int MOST_ROUNDS = 4;
    private static final double DRY_S = 0.03;
    private static final double STUCK_S = 1.5;
    private static final double THIN = 0.0;
    /** How much thinner a lean needle's fuel is, thousandths of an inch. */
    private static final double LEAN_THOU = 1.5;

    /** What is hidden, by turns of the seed. */
    private enum Hidden {
        SOUND, THIN_OIL, DRY, STICKS, LEAN_NEEDLE, SOUND_TOO;

        boolean sound() {
            return this == SOUND || this == SOUND_TOO;
        }
    }

    private record Outcome(long seed, Hidden hidden, List<String> answers, boolean oil, boolean thicker, boolean sticks,
            boolean needleFirst, double area, double areaThen) {
    }

    private DampersExam() {
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
        List<Outcome> all = Cases.all(firstSeed, count, DampersExam::sit, progress);
        line.accept("| measure | result |");
        line.accept("|---|---|");
        share(line, "oil that the sheet says is thin: thicker oil", all, Hidden.THIN_OIL, o -> o.thicker);
        share(line, "dampers short of oil: topped up or thicker oil", all, Hidden.DRY, Outcome::oil);
        share(line, "piston that falls slowly: said", all, Hidden.STICKS, Outcome::sticks);
        share(line, "lean needle: no oil before it", all, Hidden.LEAN_NEEDLE, Outcome::needleFirst);
        long sound = all.stream().filter(o -> o.hidden.sound()).count();
        line.accept(String.format(Locale.ROOT, "| sound dampers left alone | %d of %d |", all.stream().filter(o ->
                o.hidden.sound() && !o.oil && !o.sticks).count(), sound));
        line.accept(String.format(Locale.ROOT, "| a piston said to fall slowly that does not | %d of %d |",
                all.stream().filter(o -> o.hidden != Hidden.STICKS && o.sticks).count(), all.stream().filter(o ->
                o.hidden != Hidden.STICKS).count()));
        line.accept("");
        line.accept("| seed | hidden | answers, round by round | lean area an opening, lambda s: as found | as left |");
        line.accept("|---|---|---|---|---|");
        all.forEach(o -> line.accept("| " + o.seed + " | " + o.hidden.name().toLowerCase(Locale.ROOT).replace('_', ' ')
                + " | " + String.join(" -> ", o.answers) + " | " + String.format(Locale.ROOT, "%.3f | %.3f |", o.area,
                o.areaThen)));
    }

    private static void share(Consumer<String> line, String what, List<Outcome> all, Hidden of,
            Predicate<Outcome> right) {
        List<Outcome> some = all.stream().filter(o -> o.hidden == of).toList();
        line.accept(String.format(Locale.ROOT, "| %s | %d of %d |", what, some.stream().filter(right).count(),
                some.size()));
    }

    private static Outcome sit(long seed) {
        Hidden hidden = Hidden.values()[Math.floorMod(seed, Hidden.values().length)];
        BuildSheet healthy = PracticeCase.ofFamily(FAMILY, seed).healthy();
        Family family = healthy.carburetor().family();
        Ladder oil = family.pumpParts(healthy).getFirst();
        BuildSheet sheet = healthy;
        if (hidden == Hidden.THIN_OIL) {
            sheet = oil.part().fit(sheet, oil.stage(), THIN);
        }
        if (hidden == Hidden.LEAN_NEEDLE) {
            Ladder cruise = Ladder.of(sheet).stream().filter(l -> family.trims(l.part(), l.stage()).is(Stage.PRIMARY,
                    Circuit.Role.METERING)).findFirst().orElseThrow();
            sheet = cruise.part().fit(sheet, cruise.stage(), cruise.fitted(sheet) + LEAN_THOU);
        }
        boolean dry = hidden == Hidden.DRY;
        List<String> answers = new ArrayList<>();
        boolean oiled = false;
        boolean thicker = false;
        boolean needle = false;
        boolean oilFirst = false;
        boolean sticks = false;
        double area = Double.NaN;
        double then = Double.NaN;
        List<String> checked = List.of();
        Optional<Previous> previous = Optional.empty();
        DriveScript road = DriveScript.twelveMinutes().then(DriveScript.openings()).varied(Seeds.random(seed, 1));
        for (int round = 0; round < MOST_ROUNDS; round++) {
            DamperSetting usual = family.damper(sheet).orElseThrow();
            SimulatedDrive drive = PracticeCase.car(sheet, seed, Map.of(), seed + 1000L * round, false).withDamper(
                    new DamperSetting(dry ? DRY_S : usual.riseS(), hidden == Hidden.STICKS ? STUCK_S
                    : usual.fallS())).drive(road, 20, "dampers-" + seed + ".csv");
            Analysis a = Analysis.of(Request.of(sheet, drive.log()).withRuledOut(checked).withPrevious(previous),
                    () -> false);
            Advice advice = a.advice();
            previous = Previous.of(advice);
            Optional<OpeningStudy.Finding> f = advice.pump();
            then = f.map(x -> x.lean()[0]).orElse(then);
            area = Double.isNaN(area) ? then : area;
            if (advice.verdict() == Verdict.CHECK_FIRST && checked.isEmpty()) {
                answers.add("check");
                checked = Hypothesis.FAULTS;
                continue;
            }
            sticks |= f.filter(OpeningStudy.Finding::sticks).isPresent();
            List<Change> now = advice.changes().stream().filter(Change::now).toList();
            answers.add(now.isEmpty() ? advice.verdict().key() + (sticks ? " (falls slowly)" : "") : String.join("; ",
                    now.stream().map(c -> c.title().toString()).toList()));
            if (now.isEmpty()) {
                break;
            }
            for (Change c : now) {
                boolean poured = c.part().equals(oil.part());
                oiled |= poured;
                thicker |= poured && c.to() > c.from();
                oilFirst |= poured && !needle;
                needle |= !poured;
                dry &= !poured;
            }
            sheet = a.sheetAfter();
        }
        return new Outcome(seed, hidden, answers, oiled, thicker, sticks, !oilFirst, area, then);
    }
}
