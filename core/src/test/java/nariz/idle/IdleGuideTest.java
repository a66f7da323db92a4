package nariz.idle;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import java.util.function.DoubleFunction;
import nariz.carburetor.BuildSheet;
import nariz.exam.CornersExam;
import nariz.exam.IdleExam;
import nariz.practice.FollowedGuide;
import nariz.practice.Hand;
import nariz.practice.WatchedIdle;
import nariz.sim.Demo;
import nariz.sim.RunningEngine;
import nariz.sim.WhenSettled;
import nariz.text.Wording;
import org.testng.annotations.Test;

public class IdleGuideTest {
    private static final BuildSheet SHEET = Demo.ESTATE.sheet();
    /** What a turn does on the made-up engine, phi. */
    private static final double PER_TURN = 0.25;
    private final double start = new RunningEngine(SHEET, 3, 4).turns(0);

    private IdleGuide guide(School s, double aimPhi) {
        return new IdleGuide(new IdleGuide.Settings(s, aimPhi, 1.0, start, Reach.SCREWS, SHEET.engine().idleRpm(),
                false));
    }

    private static void turnAll(RunningEngine e, double turns) {
        for (int i = 0; i < e.trims(); i++) {
            e.turn(i, turns);
        }
    }

    private static IdleReading settled(RunningEngine e, boolean mixed) {
        return WatchedIdle.read(e, mixed).orElseThrow();
    }

    /** By a hand that does as it is told; {@return where the screws stand then} */
    private static double followed(IdleGuide g, RunningEngine e, boolean mixed) {
        new FollowedGuide(e, g, -1, Hand.STEADY, mixed).follow(30, () -> false);
        return e.turns(0);
    }

    @Test
    public void mixtureAimedAtIsReachedInAFewMoves() {
        RunningEngine e = new RunningEngine(SHEET, 3, 4);
        IdleGuide g = guide(School.MIXTURE, 1 / 0.95);
        followed(g, e, true);
        assertThat(g.next().kind()).isEqualTo(IdleGuide.Kind.DONE);
        assertThat(new WhenSettled(e).now().lambda()).isCloseTo(0.95, within(0.03));
        assertThat(g.moves().size()).isLessThan(9);
    }

    @Test
    public void highestVacuumIsFoundByVacuumAndSpeedAlone() {
        RunningEngine e = new RunningEngine(SHEET, 3, 4);
        IdleGuide g = guide(School.HIGHEST_VACUUM, 1);
        double at = followed(g, e, false);
        double best = 0;
        double most = 0;
        for (double t = 1; t < 4.5; t += 1.0 / 16) {
            double[] all = new double[e.trims()];
            Arrays.fill(all, t);
            double v = new WhenSettled(e).at(all).vacuumPa();
            best = v > most ? t : best;
            most = Math.max(most, v);
        }
        double[] here = new double[e.trims()];
        Arrays.fill(here, at);
        assertThat(new WhenSettled(e).at(here).vacuumPa()).isGreaterThan(0.99 * most);
        assertThat(at).isCloseTo(best, within(0.5));
    }

    @Test
    public void aScrewTurnedTheWrongWayStopsAtItsSeat() {
        IdleGuide g = new IdleGuide(new IdleGuide.Settings(School.MIXTURE, 1.35, 1.0, 0.125, Reach.SCREWS, 800, false));
        g.read(reading(1.05));
        double first = g.next().by();
        g.read(reading(1.05 + PER_TURN * first));
        double second = g.next().by();
        assertThat(second).isGreaterThan(0.125 + first);
        // In where out was asked for, by more than there is.
        g.read(reading(1.05 - PER_TURN * 0.125));
        assertThat(g.slip()).contains(IdleGuide.Slip.WRONG_WAY);
        assertThat(g.turns()).isEqualTo(0.0);
    }

    /** Made-up engine: best at 1.12. */
    private static IdleReading reading(double phi) {
        double t = (phi - 1.12) / (phi > 1.12 ? 0.18 : 0.10);
        double rpm = 800 * (1 - 0.02 * t * t);
        return new IdleReading(0, 0, rpm, 0.4, 75 * rpm, 40, phi, 0.001, 0.008, Double.NaN);
    }

    @Test
    public void turnedTheOtherWayIsNoticedAndLedBack() {
        RunningEngine e = new RunningEngine(SHEET, 3, 4);
        IdleGuide g = guide(School.HIGHEST_VACUUM, 1);
        g.read(settled(e, true));
        double was = e.turns(0);
        IdleGuide.Move m = g.next();
        turnAll(e, was + m.by());
        g.read(settled(e, true));
        IdleGuide.Move next = g.next();
        double before = e.turns(0);
        turnAll(e, before - next.by());
        g = again(g, next, e);
        assertThat(g.slip()).contains(IdleGuide.Slip.WRONG_WAY);
        assertThat(g.back().by()).isCloseTo(before - e.turns(0), within(0.1));
    }

    @Test
    public void aSensorAtTheEndOfItsRangeIsLedBackToWhereItReadsAndIsNoSlip() {
        IdleGuide g = guide(School.HIGHEST_SPEED, 1);
        g.read(shown(750, 1.47, 2e-5));
        IdleGuide.Move m = g.next();
        assertThat(m.by()).isEqualTo(-0.5);
        assertThat(m.why().code()).isEqualTo("idle.why-at-limit");
        // Still rich beyond what it shows: the speed says that the screws were turned, the sensor cannot.
        g.read(shown(780, 1.47, 3e-5));
        assertThat(g.slip()).isEmpty();
        assertThat(g.next().by()).isEqualTo(-0.5);
        g.read(shown(800, 1.18, 8e-4));
        assertThat(g.slip()).isEmpty();
        assertThat(g.next().why().code()).isNotEqualTo("idle.why-at-limit");
    }

    private static IdleReading shown(double rpm, double phi, double phiSd) {
        return new IdleReading(Double.NaN, Double.NaN, rpm, 0.5, 60e3 + 100 * (rpm - 750), 20, phi, phiSd, 0.008,
                Double.NaN);
    }

    private static IdleGuide again(IdleGuide g, IdleGuide.Move m, RunningEngine e) {
        assertThat(m.kind()).isEqualTo(IdleGuide.Kind.SCREWS);
        g.read(settled(e, true));
        return g;
    }

    @Test
    public void stopScrewInsteadOfTheMixtureIsNoticed() {
        RunningEngine e = new RunningEngine(SHEET, 3, 4);
        IdleGuide g = guide(School.HIGHEST_VACUUM, 1);
        g.read(settled(e, true));
        turnAll(e, g.next().to());
        g.read(settled(e, true));
        g.next();
        e.stop(0, 0.25);
        g.read(settled(e, true));
        assertThat(g.slip()).contains(IdleGuide.Slip.STOP_SCREW);
    }

    /**
     * By gauge and rev counter alone, at the first move: the speed rose and the vacuum did not. Where the mixture makes
     * the speed, the vacuum goes with it.
     */
    @Test
    public void stopScrewInsteadOfTheMixtureIsNoticedWithoutASensor() {
        for (double vacuum : new double[] {55e3, 45e3}) {
            double follows = 0.85 * (1e5 - vacuum) / vacuum;
            IdleGuide stop = unread(vacuum);
            stop.read(unread(880, vacuum));
            assertThat(stop.slip()).contains(IdleGuide.Slip.STOP_SCREW);
            IdleGuide mixture = unread(vacuum);
            mixture.read(unread(880, vacuum * Math.pow(1.1, follows)));
            assertThat(mixture.slip()).isEmpty();
        }
    }

    private IdleGuide unread(double vacuum) {
        IdleGuide g = guide(School.HIGHEST_VACUUM, 1);
        g.read(unread(800, vacuum));
        assertThat(g.next().kind()).isEqualTo(IdleGuide.Kind.SCREWS);
        return g;
    }

    private static IdleReading unread(double rpm, double vacuumPa) {
        return new IdleReading(Double.NaN, Double.NaN, rpm, 0.5, vacuumPa, 30, Double.NaN, Double.NaN, 0.008,
                Double.NaN);
    }

    /** Made-up engine without a sensor: best at two turns, a quarter off costs three in a hundred of speed. */
    private static IdleReading atTurns(double turns) {
        double t = (turns - 2.0) / (turns > 2.0 ? 0.30 : 0.20);
        double rpm = 800 * Math.exp(-0.02 * (Math.abs(t) < 1.5 ? t * t : 3.0 * Math.abs(t) - 2.25));
        return unread(rpm, 55e3 * Math.pow(rpm / 800, 0.7));
    }

    /** Whether the last guide that was followed had a move put back. */
    private boolean putBack;

    /** A hand that makes one move the other way; where the screws really end up. */
    private double followedWrongAt(IdleGuide g, int wrong) {
        double actual = start;
        double before = start;
        putBack = false;
        int turned = 0;
        for (int k = 0; k < 25 && g.next().kind() != IdleGuide.Kind.DONE; k++) {
            IdleGuide.Move m = g.next();
            if (g.takesBack()) {
                actual = before;
                putBack = true;
            } else if (m.kind() == IdleGuide.Kind.SCREWS) {
                before = actual;
                actual += turned == wrong ? -m.by() : m.by();
                turned++;
            }
            g.read(atTurns(actual));
        }
        return actual;
    }

    /** One answer does not tell a turn the other way from a best that lies elsewhere; those after it do. */
    @Test
    public void aMoveMadeTheOtherWayIsToldWithoutASensorAndTheCountIsPutRight() {
        for (int wrong = 0; wrong < 4; wrong++) {
            IdleGuide g = guide(School.HIGHEST_SPEED, 1);
            double actual = followedWrongAt(g, wrong);
            assertThat(g.next().kind()).isEqualTo(IdleGuide.Kind.DONE);
            assertThat(actual).as("wrong at move %d", wrong).isCloseTo(2.0, within(0.08));
            assertThat(g.turns()).as("wrong at move %d", wrong).isCloseTo(actual, within(0.01));
            // What was put back at once need not be said: it counts nowhere. Nothing else is ever said.
            assertThat(g.otherWay()).isIn(putBack ? List.of() : List.of(wrong + 1), List.of(wrong + 1));
        }
        IdleGuide g = guide(School.HIGHEST_SPEED, 1);
        assertThat(followedWrongAt(g, -1)).isCloseTo(2.0, within(0.08));
        assertThat(g.otherWay()).isEmpty();
    }

    @Test
    public void aMoveThatTheEngineDiedOfIsReadWhereItStoodBeforeAndTheNextAreSmaller() {
        IdleGuide g = guide(School.HIGHEST_SPEED, 1);
        g.read(atTurns(start));
        double first = Math.abs(g.next().by());
        g.undone();
        assertThat(g.next().kind()).isEqualTo(IdleGuide.Kind.READ);
        assertThat(g.turns()).isEqualTo(start);
        assertThat(g.moves()).hasSize(1);
        g.read(atTurns(start));
        g.undone();
        g.read(atTurns(start));
        assertThat(g.next().kind()).isEqualTo(IdleGuide.Kind.SCREWS);
        assertThat(Math.abs(g.next().by())).isLessThan(Math.max(first, 0.2));
        assertThat(g.otherWay()).isEmpty();
    }

    /** Where an engine runs best next to where it dies, nobody is sent to die there again and again. */
    @Test
    public void aSideOnWhichTheEngineDiesCountsAsSeen() {
        for (boolean mixed : new boolean[] {true, false}) {
            RunningEngine e = new RunningEngine(SHEET, 3, 4);
            IdleGuide g = guide(School.HIGHEST_SPEED, 1);
            double best = start;
            int deaths = 0;
            for (int k = 0; k < 30 && g.next().kind() != IdleGuide.Kind.DONE; k++) {
                IdleGuide.Move m = g.next();
                if (m.kind() == IdleGuide.Kind.SCREWS && m.to() < best - 0.06) {
                    deaths++;
                    g.undone();
                } else {
                    turnAll(e, 2.0 + m.to() - best);
                    g.read(settled(e, mixed));
                }
            }
            assertThat(g.next().kind()).isEqualTo(IdleGuide.Kind.DONE);
            assertThat(deaths).as("died with a mixture %s", mixed).isBetween(2, 4);
        }
    }

    /** Cylinders that miss make a speed no curve foresees: that is the lean limit and no stop screw. */
    @Test
    public void missingCylindersAreNotTakenForTheStopScrew() {
        IdleGuide g = guide(School.LEAN_BEST, 1);
        double leanest = start;
        while (g.next().to() >= leanest - 0.05) {
            g.read(atTurns(g.next().to()));
            leanest = Math.min(leanest, g.turns());
        }
        g.read(new IdleReading(Double.NaN, Double.NaN, 640, 3.5, 54e3, 200, Double.NaN, Double.NaN, 0.03, Double.NaN));
        assertThat(g.slip()).isEmpty();
        assertThat(g.misses()).isTrue();
        assertThat(g.next().by()).isPositive();
    }

    /** Who was told twice running that the stop was turned, and turned the screws as asked, is believed. */
    @Test
    public void aMoveIsNotDoubtedAgainAndAgain() {
        IdleGuide g = unread(55e3);
        int told = 0;
        double rpm = 800;
        for (int i = 0; i < 5 && g.next().kind() == IdleGuide.Kind.SCREWS; i++) {
            rpm *= 1.04;
            g.read(unread(rpm, 55e3));
            told += g.slip().isPresent() ? 1 : 0;
            if (g.slip().isEmpty()) {
                break;
            }
        }
        assertThat(told).isBetween(1, 2);
    }

    @Test
    public void screwsThatDoNothingAreSaidToDoNothing() {
        IdleGuide g = guide(School.HIGHEST_SPEED, 1);
        IdleReading same = new IdleReading(0, 0, 900, 0.8, 50e3, 30, 1.2, 0.001, 0.005, Double.NaN);
        for (int i = 0; i < 8 && g.next().kind() != IdleGuide.Kind.NO_AUTHORITY; i++) {
            g.read(same);
        }
        assertThat(g.next().kind()).isEqualTo(IdleGuide.Kind.NO_AUTHORITY);
        assertThat(g.readings()).hasSize(3);
    }

    @Test
    public void stallStartsTheWaitAnew() {
        SettledAverage a = new SettledAverage();
        for (int i = 0; i < 100; i++) {
            a.add(0.05 * i, 800, 50e3, 0.9, Double.NaN);
        }
        a.add(5.0, 0, 0, 1.4, Double.NaN);
        assertThat(a.stalled()).isTrue();
        assertThat(a.reading()).isEmpty();
        a.add(9.0, 780, 50e3, 0.9, Double.NaN);
        assertThat(a.stalled()).isFalse();
    }

    @Test
    public void threeOfFourFinishesAreWhereTheyShouldBe() {
        IdleExam exam = IdleExam.of(1, 3, true);
        assertThat(exam.rows()).isNotEmpty();
        long there = exam.rows().stream().filter(r -> Math.abs(r.turnsOff()) <= 0.25 && Math.abs(r.lambdaOff()) < 0.05)
                .count();
        assertThat((double) there / exam.rows().size()).isGreaterThanOrEqualTo(0.75);
        assertThat(exam.markdown()).contains("highest-vacuum");
    }

    @Test
    public void anAutomaticIsReadInGearOnceTheScrewsAreRight() {
        RunningEngine e = new RunningEngine(SHEET, 3, 4);
        IdleGuide g = new IdleGuide(new IdleGuide.Settings(School.MIXTURE, 1 / 0.95, 1.0, start, Reach.SCREWS,
                SHEET.engine().idleRpm(), true));
        assertThat(g.gearDrop()).isEmpty();
        while (g.next().kind() != IdleGuide.Kind.GEAR) {
            IdleGuide.Move m = g.next();
            assertThat(m.kind()).isNotEqualTo(IdleGuide.Kind.DONE);
            if (m.kind() == IdleGuide.Kind.SCREWS) {
                turnAll(e, m.to());
            } else if (m.kind() == IdleGuide.Kind.STOP) {
                e.stop(0, e.stop(0) + m.by());
            }
            g.read(settled(e, true));
        }
        int read = g.readings().size();
        int moves = g.moves().size();
        e.gear(true);
        e.run(3.0);
        g.read(settled(e, true));
        assertThat(g.next().kind()).isEqualTo(IdleGuide.Kind.DONE);
        assertThat(g.gearDrop().orElseThrow()).isBetween(20.0, 400.0);
        // What was read in gear is no point of the curve, and no move of the screws.
        assertThat(g.readings()).hasSize(read);
        assertThat(g.moves()).hasSize(moves);
    }

    @Test
    public void cylindersThatMissAreTheLeanLimit() {
        BuildSheet four = Demo.SMALL_FOUR.sheet();
        RunningEngine e = new RunningEngine(four, 4, 4);
        IdleGuide g = new IdleGuide(new IdleGuide.Settings(School.LEAN_BEST, 1, 1.0, e.turns(0), Reach.JETS,
                four.engine()
                .idleRpm(), false));
        g.read(settled(e, true));
        turnAll(e, g.next().to());
        g.read(settled(e, true));
        assertThat(g.misses()).isFalse();
        g.next();
        // Leaner by far than asked: near where it dies.
        double lean = e.turns(0);
        while (new WhenSettled(e).at(all(e, lean)).rpm() > 0.80 * four.engine().idleRpm()) {
            lean -= 0.0625;
        }
        turnAll(e, lean);
        IdleReading there = settled(e, true);
        assertThat(there.rough()).isGreaterThan(g.readings().getLast().rough());
        g.read(there);
        assertThat(g.misses()).isTrue();
        double limit = there.phi();
        for (int k = 0; k < 30 && g.next().kind() != IdleGuide.Kind.DONE; k++) {
            if (g.next().kind() == IdleGuide.Kind.SCREWS) {
                turnAll(e, e.turns(0) + g.next().by());
                IdleReading r = settled(e, true);
                g.read(r);
                assertThat(r.phi()).isGreaterThan(limit - 0.01);
            } else {
                g.read(settled(e, true));
            }
        }
    }

    /** By speed alone: what a move costs is seen at once, whichever way the hand turned. */
    @Test
    public void moveThatAnEngineIsAboutToDieOfIsPutBack() {
        IdleGuide g = guide(School.HIGHEST_SPEED, 1.0);
        g.read(IdleReading.byHand(850, Double.NaN));
        double found = g.turns();
        double asked = g.next().by();
        g.read(IdleReading.byHand(845, Double.NaN));
        assertThat(g.takesBack()).isFalse();
        double there = g.turns();
        double next = g.next().by();
        g.read(IdleReading.byHand(790, Double.NaN));
        IdleGuide.Move back = g.next();
        assertThat(g.takesBack()).isTrue();
        assertThat(Wording.ENGLISH.text(back.why())).startsWith("It fell off by more");
        assertThat(back.by()).isEqualTo(-next);
        g.read(IdleReading.byHand(846, Double.NaN));
        assertThat(g.turns()).isEqualTo(there);
        assertThat(g.takesBack()).isFalse();
        assertThat(Math.abs(g.next().by())).isLessThanOrEqualTo(0.375);
        assertThat(there - found).isEqualTo(asked);
    }

    /** Read again where it was put back to, it stands there on every path that the hand may have taken. */
    @Test
    public void whatWasPutBackStandsWhereItWas() {
        HandPaths p = new HandPaths(0.0);
        p.known(List.of(IdleReading.byHand(850, Double.NaN).at(2.0, 0.0)));
        p.moved(0.25, true);
        p.back();
        List<IdleReading> all = List.of(IdleReading.byHand(850, Double.NaN), IdleReading.byHand(800, Double.NaN),
                IdleReading.byHand(850, Double.NaN));
        p.weigh(all, Set.of());
        assertThat(p.placed(all).getLast().turns()).isEqualTo(2.0);
    }

    @Test
    public void cornersThatStandUnevenlyAreSetOneByOne() {
        CornersExam exam = CornersExam.of(2, 1, true);
        assertThat(exam.rows()).hasSize(2);
        for (CornersExam.Row r : exam.rows()) {
            assertThat(r.corners()).isLessThan(0.005);
            assertThat(r.close()).isGreaterThanOrEqualTo(r.turnsOff().size() - 1);
        }
        assertThat(exam.markdown()).contains("highest-vacuum", "slips recognised");
    }

    private static double[] all(RunningEngine e, double turns) {
        double[] v = new double[e.trims()];
        Arrays.fill(v, turns);
        return v;
    }

    private static IdleReading read(double rpm, double phi, boolean end) {
        return new IdleReading(Double.NaN, Double.NaN, rpm, 1.0, 50e3, 60.0, phi, end ? 1e-6 : 0.002, 0.004,
                Double.NaN);
    }

    /** Readings by where the screws stand, the stop screw doing nothing; {@return what was asked for} */
    private static List<IdleGuide.Move> answered(IdleGuide g, DoubleFunction<IdleReading> reads) {
        List<IdleGuide.Move> asked = new ArrayList<>();
        while (asked.size() < 30 && g.next().kind() != IdleGuide.Kind.DONE) {
            IdleGuide.Move m = g.next();
            asked.add(m);
            g.read(reads.apply(m.to()));
        }
        return asked;
    }

    /** A turn makes 1.1 of phi there, and the best lies between two of the finest moves: the nearer is the finish. */
    @Test
    public void aBestBetweenTwoOfTheFinestMovesIsNotChased() {
        assertThat(IdleExam.of(75, 1, true).rows()).filteredOn(r -> r.school() == School.LEAN_BEST).singleElement()
                .satisfies(r -> {
                    assertThat(r.turnsOff()).isCloseTo(0.0, within(0.05));
                    assertThat(r.moves()).isLessThanOrEqualTo(12);
                });
    }

    /** Screws at their seat under a sensor at its end: nobody is sent to turn them by nothing, and it is said so. */
    @Test
    public void seatedScrewsAndASensorAtItsEndAreTheEndOfTheGuide() {
        IdleGuide g = new IdleGuide(new IdleGuide.Settings(School.HIGHEST_VACUUM, 1.0, 1.0, 0.25, Reach.SCREWS, 900.0,
                false));
        g.next();
        g.read(read(880.0, 1.47, true));
        assertThat(g.next().kind()).isEqualTo(IdleGuide.Kind.SCREWS);
        assertThat(g.next().to()).isZero();
        g.read(read(890.0, 1.47, true));
        assertThat(g.next().kind()).isEqualTo(IdleGuide.Kind.DONE);
        assertThat(g.atLimit()).isTrue();
    }

    /** Screws found beyond the usual range are moved by something, and may come back to where they were found. */
    @Test
    public void screwsFoundFarOutAreNeverTurnedByNothingAndMayComeBack() {
        IdleGuide g = new IdleGuide(new IdleGuide.Settings(School.HIGHEST_VACUUM, 1.0, 1.0, 6.625, Reach.SCREWS, 900.0,
                false));
        // Leaner than the best throughout: the best is further out still.
        List<IdleGuide.Move> asked = answered(g, turns -> read(900.0 * (1.0 - 0.01 * (7.5 - turns) * (7.5 - turns)),
                1.05 + 0.06 * (turns - 6.625), false));
        assertThat(asked).noneMatch(m -> m.kind() == IdleGuide.Kind.SCREWS && m.by() == 0.0);
        assertThat(g.next().kind()).isEqualTo(IdleGuide.Kind.DONE);
        assertThat(g.turns()).isCloseTo(6.625, within(0.13));
    }

    /** A stop screw a turn too far in is the commonest wrong idle: its speed comes first, and is there at the end. */
    @Test
    public void anEngineThatRunsFarTooFastIsSlowedDownBeforeItsMixtureIsSet() {
        RunningEngine e = new RunningEngine(SHEET, 3, 4);
        e.stopBy(1.0);
        e.begin();
        IdleGuide g = guide(School.HIGHEST_VACUUM, 1);
        g.next();
        g.read(settled(e, true));
        assertThat(g.speedOff()).isGreaterThan(0.25);
        assertThat(g.next().kind()).isEqualTo(IdleGuide.Kind.STOP);
        assertThat(Wording.ENGLISH.text(g.next().why())).contains("far faster than its idle");
        assertThat(g.next().by()).isBetween(-0.5, -0.25);
        followed(g, e, true);
        assertThat(g.next().kind()).isEqualTo(IdleGuide.Kind.DONE);
        assertThat(g.speedOff()).isZero();
        assertThat(new WhenSettled(e).now().rpm()).isCloseTo(SHEET.engine().idleRpm(), within(0.07 * SHEET.engine()
                .idleRpm()));
        assertThat(g.readings().stream().filter(r -> r.rpm() > 1.25 * SHEET.engine().idleRpm()).mapToDouble(
                IdleReading::turns).distinct().count()).as("mixture left alone while it ran fast").isEqualTo(1);
    }

    /** A choke or a fast-idle cam holds the plates: the stop screw is tried once, and the finish says so. */
    @Test
    public void aStopScrewThatChangesNothingIsNotTurnedAgain() {
        IdleGuide g = new IdleGuide(new IdleGuide.Settings(School.HIGHEST_VACUUM, 1.0, 1.0, 1.5, Reach.SCREWS, 700.0,
                false));
        List<IdleGuide.Move> asked = answered(g, turns -> read(1300.0 * (1.0 - 0.1 * (turns - 1.6) * (turns - 1.6)),
                1.11 + 0.3 * (turns - 1.6), false));
        assertThat(asked).filteredOn(m -> m.kind() == IdleGuide.Kind.STOP).hasSize(1);
        assertThat(g.next().kind()).isEqualTo(IdleGuide.Kind.DONE);
        assertThat(g.stopIsDead()).isTrue();
        assertThat(g.speedOff()).isGreaterThan(0.8);
        assertThat(g.turns()).isCloseTo(1.6, within(0.2));
    }
}
