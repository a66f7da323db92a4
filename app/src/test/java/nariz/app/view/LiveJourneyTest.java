package nariz.app.view;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.stream.Stream;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import nariz.app.state.IdleWork;
import nariz.carburetor.PartChange;
import nariz.idle.IdleGuide;
import nariz.live.DeviceAddress;
import nariz.sim.Demo;
import nariz.sim.PracticeUpset;
import nariz.sim.RunningEngine;
import nariz.sim.StandInDevice;
import nariz.sim.WhenSettled;
import nariz.testing.PseudoTerminal;
import nariz.units.Shown;
import nariz.workbook.Workbook;
import org.testng.SkipException;
import org.testng.annotations.Test;

/** Beside the running engine, in a fresh window each: practice, a device over TCP and over a serial pair, mishaps. */
public class LiveJourneyTest extends LiveWindow {
    @Override
    int pace() {
        return 25;
    }

    private void car() throws IOException {
        Hands.run(() -> session.garage().keepSheet(Demo.ESTATE.sheetJson()));
        Hands.waitFor("the car", () -> session.garage().carsProperty().get().size() == 1);
    }

    @Test
    public void newcomerSetsTheIdleOfThePracticeEngine() {
        beside();
        hands.click("live-practice-1");
        Hands.waitFor("readings", () -> session.live().nowProperty().get() != null);
        Hands.settle();
        assertThat(Hands.onInterface(() -> ((ComboBox<?>) window.lookup("#idle-which")).getItems())).hasSize(3);
        hands.click("idle-begin");
        for (int i = 0; i < 30; i++) {
            Hands.waitFor("an instruction", () -> session.live().idle().stepProperty().get() != null
                    && !session.live().idle().stepProperty().get().waiting());
            if (Hands.onInterface(() -> session.live().idle().stepProperty().get().move().kind()
                    == IdleGuide.Kind.DONE)) {
                break;
            }
            Hands.settle();
            hands.click("idle-turned");
        }
        Hands.settle();
        assertThat(text("idle-move")).startsWith("Finished");
        Hands.waitFor("the debrief", () -> said("idle-debrief").contains("the best was at"));
        assertThat(text("idle-debrief")).contains("Hidden");
        Hands.waitFor("the points", () -> said("idle-debrief").contains("points of 100"));
        assertThat(text("idle-turns")).contains("1: ", "moves");
        // What it ended on is near what was best.
        var e = session.live().engineProperty().get();
        double left = new WhenSettled(e).now().vacuumPa();
        for (double by : new double[] {-0.25, 0.25}) {
            double[] other = Arrays.stream(e.allTurns()).map(t -> t + by).toArray();
            assertThat(left).isGreaterThan(0.985 * new WhenSettled(e).at(other).vacuumPa());
        }
        hands.click("live-end");
        Hands.waitFor("the end", () -> session.live().sheetProperty().get() == null);
        assertThat(session.garage().keptProperty().get()).isEmpty();
    }

    /** Turned and not read, since it died there or it was the wrong screw: it goes back and is read where it stood. */
    @Test
    public void aMoveIsTakenBackBeforeItWasRead() {
        beside();
        hands.click("live-practice-1");
        Hands.waitFor("readings", () -> session.live().nowProperty().get() != null);
        Hands.settle();
        RunningEngine e = session.live().engineProperty().get();
        hands.click("idle-begin");
        Hands.waitFor("a move", () -> session.live().idle().stepProperty().get().move().kind()
                == IdleGuide.Kind.SCREWS);
        Hands.settle();
        double before = e.turns(0);
        double asked = Hands.onInterface(() -> session.live().idle().stepProperty().get().move().by());
        hands.click("idle-turned");
        assertThat(e.turns(0)).isEqualTo(before + asked);
        // One key, wherever the pointer is.
        Hands.run(() -> window.lookup("#idle-picture").requestFocus());
        hands.press(KeyCode.Z);
        Hands.settle();
        assertThat(e.turns(0)).isEqualTo(before);
        assertThat(text("idle-move")).startsWith("Put it back");
        assertThat(text("idle-why")).startsWith("Where it ran");
        Hands.waitFor("the next move", () -> session.live().idle().stepProperty().get().move().kind()
                == IdleGuide.Kind.SCREWS);
        assertThat(Hands.onInterface(() -> session.live().idle().stepProperty().get().guide().turns())).isEqualTo(
                before);
        hands.click("live-end");
        Hands.waitFor("the end", () -> session.live().sheetProperty().get() == null);
    }

    /** An engine that dies as it was found has nothing to be put back: the stop screw keeps it alive. */
    @Test
    public void anEngineThatDiesAsFoundIsKeptAliveByItsStopScrew() {
        beside();
        hands.click("live-practice-1");
        Hands.waitFor("readings", () -> session.live().nowProperty().get() != null);
        Hands.settle();
        RunningEngine e = session.live().engineProperty().get();
        Hands.run(() -> e.stopBy(-1.0));
        hands.click("idle-begin");
        Hands.waitFor("it dies", () -> said("idle-note").contains("It died as it was found"));
        assertThat(text("idle-note")).contains("stop screw in by quarters");
        Hands.run(() -> {
            e.stopBy(1.0);
            e.start();
        });
        hands.click("idle-begin");
        Hands.waitFor("a move", () -> session.live().idle().stepProperty().get().move().kind()
                == IdleGuide.Kind.SCREWS);
        Hands.settle();
        assertThat(text("idle-note")).doesNotContain("died");
        hands.click("live-end");
        Hands.waitFor("the end", () -> session.live().sheetProperty().get() == null);
    }

    /** Without the guide: the user's own hand, judged at the end. */
    @Test
    public void ownHandIsJudgedAndTheHiddenPartFound() {
        beside();
        hands.click("live-practice-4");
        Hands.waitFor("readings", () -> session.live().nowProperty().get() != null);
        Hands.settle();
        RunningEngine e = session.live().engineProperty().get();
        double before = e.turns(0);
        hands.click("idle-own-leaner");
        hands.click("idle-own-leaner");
        assertThat(e.turns(0)).isEqualTo(before - 0.25);
        int moves = session.live().idle().hand().moves();
        assertThat(moves).isBetween(1, 2);
        hands.click("idle-own-look");
        Hands.settle();
        assertThat(said("idle-debrief")).contains("No leak");
        assertThat(session.live().idle().hand().moves()).isEqualTo(moves + 1);
        hands.click("idle-own-done");
        Hands.waitFor("the debrief", () -> said("idle-debrief").contains("points of 100"));
        assertThat(said("idle-debrief")).contains("Hidden: idle feed", "the guide makes", "To learn: screws far");
        PartChange hidden = PracticeUpset.of(new RunningEngine(Demo.ESTATE.sheet(), 7, 7), 7, 4).part().orElseThrow();
        for (int k = 0; k < 2; k++) {
            hands.click(hidden.to() > hidden.from() ? "idle-own-smaller" : "idle-own-larger");
        }
        assertThat(e.fitted().carburetor().number("primary.idleFeedRestriction")).isCloseTo(Demo.ESTATE.sheet()
                .carburetor().number("primary.idleFeedRestriction"), within(1e-9));
        hands.click("idle-own-done");
        Hands.waitFor("the other debrief", () -> said("idle-debrief").contains("points of 100"));
        assertThat(said("idle-debrief")).doesNotContain("To learn: screws far");
        hands.click("live-end");
        Hands.waitFor("the end", () -> session.live().sheetProperty().get() == null);
    }

    /** A car of one's own on a serial port: the hand at the screws is the test's. */
    @Test
    public void idleOfTheOwnCarIsSetOverASerialPairAndWrittenDown() throws IOException, InterruptedException {
        if (!PseudoTerminal.there()) {
            throw new SkipException("no pseudo-terminals here");
        }
        car();
        beside();
        RunningEngine e = new RunningEngine(Demo.ESTATE.sheet(), 3, 4);
        try (PseudoTerminal pair = new PseudoTerminal(); StandInDevice d = StandInDevice.on(e,
                new StandInDevice.Manners(
                20, 25, 0, 0, true, true, 3))) {
            type("live-address", "serial:" + pair.name(false));
            hands.click("live-connect");
            Hands.waitFor("the port", () -> said("live-status").contains("says nothing"));
            d.print(DeviceAddress.parse("serial:" + pair.name(true)));
            Hands.waitFor("readings", () -> session.live().nowProperty().get() != null);
            hands.click("show-live-idle");
            hands.click("idle-begin");
            for (int i = 0; i < 30; i++) {
                Hands.waitFor("an instruction", () -> session.live().idle().stepProperty().get() != null
                        && !session.live().idle().stepProperty().get().waiting());
                IdleGuide.Move m = Hands.onInterface(() -> session.live().idle().stepProperty().get().move());
                if (m.kind() == IdleGuide.Kind.DONE) {
                    break;
                }
                for (int k = 0; m.kind() == IdleGuide.Kind.SCREWS && k < e.trims(); k++) {
                    e.turn(k, e.turns(k) + m.by());
                }
                if (m.kind() == IdleGuide.Kind.STOP) {
                    e.stop(0, e.stop(0) + m.by());
                }
                Hands.settle();
                hands.click("idle-turned");
            }
            Hands.settle();
            assertThat(text("idle-move")).startsWith("Finished");
            hands.click("live-end");
            Hands.waitFor("the drive", () -> session.driveProperty().get() != null && session.busyProperty().get()
                    .isEmpty());
        }
        Hands.waitFor("the record", () -> session.notes().notesProperty().get().stream().anyMatch(n -> n.text()
                .startsWith("idle set (highest vacuum)")));
    }

    @Test
    public void typedReadingsLeadAsWell() {
        byHandOnThePracticeEngine();
        hands.click("idle-take");
        Hands.waitFor("the complaint", () -> session.problemProperty().get().contains("between 200 and 4000"));
        Hands.run(session::dismissProblem);
        type("idle-rpm", "820");
        type("idle-vacuum", "17,5");
        takeTyped();
        assertThat(text("idle-move")).contains("richer: out");
        assertThat(lastVacuumPa()).isCloseTo(17.5 * 3386.389, within(1.0));
    }

    @Test
    public void vacuumIsTypedInTheUnitThatTheWindowShows() {
        beside();
        hands.click("live-practice-1");
        Hands.waitFor("readings", () -> session.live().nowProperty().get() != null);
        Shown before = session.shownProperty().get();
        Hands.run(() -> session.use(new Shown(Shown.Pressure.KPA, before.size(), before.road())));
        try {
            hands.click("idle-hand");
            Hands.settle();
            assertThat(((TextField) window.lookup("#idle-vacuum")).getPromptText()).isEqualTo("vacuum, kPa");
            type("idle-rpm", "820");
            type("idle-vacuum", "590");
            hands.click("idle-take");
            Hands.waitFor("the complaint", () -> session.problemProperty().get().contains(
                    "vacuum in kPa, between 0 and 100"));
            Hands.run(session::dismissProblem);
            type("idle-vacuum", "59");
            takeTyped();
            assertThat(lastVacuumPa()).isCloseTo(59e3, within(1.0));
        } finally {
            Hands.run(() -> session.use(before));
        }
    }

    @Test
    public void onlyAnAutomaticIsPutInGear() {
        beside();
        hands.click("live-practice-1");
        Hands.waitFor("readings", () -> session.live().nowProperty().get() != null);
        Hands.settle();
        assertThat(window.lookup("#idle-own-gear").isVisible()).as("manual").isFalse();
        Hands.run(() -> session.live().practice(Demo.SMALL_FOUR, 5, 1));
        Hands.waitFor("the automatic", () -> window.lookup("#idle-own-gear").isVisible());
    }

    /** Somebody who types what gauges show, makes the second move the other way and does not notice. */
    @Test
    public void aMoveMadeTheOtherWayIsToldByLaterReadingsAndTheCountIsPutRight() {
        byHandOnThePracticeEngine();
        double at = step().turns().getFirst();
        double best = at + 0.4;
        int made = 0;
        boolean told = false;
        boolean putRight = false;
        for (int k = 0; k < 25 && step().move().kind() != IdleGuide.Kind.DONE; k++) {
            IdleGuide.Move m = step().move();
            if (m.kind() == IdleGuide.Kind.SCREWS) {
                at += made == 1 ? -m.by() : m.by();
                made++;
            }
            double share = share(at - best);
            type("idle-rpm", String.format(Locale.ROOT, "%.1f", 820 * share));
            type("idle-vacuum", String.format(Locale.ROOT, "%.2f", 17.5 * share));
            takeTyped();
            told |= text("idle-note").contains("turned the other way");
            putRight |= made > 1 && Math.abs(step().turns().getFirst() - at) < 0.01;
        }
        assertThat(told).as("told").isTrue();
        assertThat(putRight).as("put right").isTrue();
        assertThat(step().turns().getFirst()).isCloseTo(at, within(0.01));
        assertThat(at).isCloseTo(best, within(0.125));
        assertThat(text("idle-turns")).contains(String.format(Locale.ROOT, "%.2f", at));
    }

    /** Something else holds the plates: the stop screw is asked for first, once, and the finish says where to look. */
    @Test
    public void anEngineThatRunsFarTooFastIsAskedForItsStopScrewFirst() {
        byHandOnThePracticeEngine();
        double at = step().turns().getFirst();
        double best = at + 0.2;
        int stops = 0;
        for (int k = 0; k < 25 && step().move().kind() != IdleGuide.Kind.DONE; k++) {
            if (step().move().kind() == IdleGuide.Kind.STOP) {
                stops++;
                assertThat(text("idle-move")).startsWith("Stop screw out, ");
                assertThat(text("idle-why")).contains("far faster than its idle");
                assertThat(k).as("before any screw").isEqualTo(1);
            }
            at += step().move().kind() == IdleGuide.Kind.SCREWS ? step().move().by() : 0.0;
            double share = share(at - best);
            type("idle-rpm", String.format(Locale.ROOT, "%.1f", 1400 * share));
            type("idle-vacuum", String.format(Locale.ROOT, "%.2f", 18.5 * share));
            takeTyped();
        }
        assertThat(stops).isEqualTo(1);
        assertThat(step().move().kind()).isEqualTo(IdleGuide.Kind.DONE);
        assertThat(text("idle-note")).contains("the stop screw changes nothing").contains("fast-idle cam");
    }

    /** A guide goes on for the screws it was begun for, whatever is chosen for the next one. */
    @Test
    public void anotherScrewChosenMeanwhileIsForTheNextBeginning() {
        byHandOnThePracticeEngine();
        type("idle-rpm", "820");
        type("idle-vacuum", "17.5");
        takeTyped();
        List<Double> before = step().turns();
        assertThat(before).hasSizeGreaterThan(1);
        double by = step().move().by();
        Hands.run(() -> session.live().idle().onlyProperty().set(0));
        type("idle-rpm", "812");
        takeTyped();
        assertThat(step().turns()).containsExactlyElementsOf(before.stream().map(t -> t + by).toList());
        assertThat(text("idle-move")).startsWith("All screws");
        hands.click("idle-hand");
        Hands.settle();
        type("idle-rpm", "812");
        takeTyped();
        assertThat(text("idle-move")).startsWith("Screw 1");
    }

    /** Of the speed and the vacuum at the best, so many turns from it. */
    private static double share(double turnsOff) {
        double off = Math.abs(turnsOff / 0.45);
        return 1.0 - 0.03 * (off < 1.5 ? off * off : 3.0 * off - 2.25);
    }

    private void byHandOnThePracticeEngine() {
        beside();
        hands.click("live-practice-1");
        Hands.waitFor("readings", () -> session.live().nowProperty().get() != null);
        Hands.settle();
        hands.click("idle-hand");
        Hands.settle();
    }

    /** What was typed is taken and weighed. */
    private void takeTyped() {
        int before = step().guide().readings().size();
        hands.click("idle-take");
        Hands.waitFor("the reading", () -> step().guide().readings().size() > before);
        Hands.settle();
    }

    private IdleWork.Step step() {
        return session.live().idle().stepProperty().get();
    }

    private double lastVacuumPa() {
        return step().guide().readings().getLast().vacuumPa();
    }

    private void type(String id, String what) {
        Hands.run(() -> ((TextField) window.lookup("#" + id)).setText(what));
    }

    @Test
    public void deviceOverTcpIsRecordedUnpluggedAndOpenedAsADrive() throws IOException {
        car();
        beside();
        try (StandInDevice d = StandInDevice.on(Demo.ESTATE.drive().log(), new StandInDevice.Manners(20, 60, 0.01, 0.01,
                true, true, 3))) {
            type("live-address", "nonsense");
            hands.click("live-connect");
            Hands.waitFor("the complaint", () -> session.problemProperty().get().contains("tcp:HOST:PORT"));
            Hands.run(session::dismissProblem);
            type("live-address", d.listen(0).text());
            hands.click("live-connect");
            Hands.waitFor("readings", () -> session.live().nowProperty().get() != null && session.live().nowProperty()
                    .get().rows() > 500);
            hands.click("live-mark");
            d.unplug();
            Hands.waitFor("more after it came back", () -> session.live().nowProperty().get().rows() > 9000);
            assertThat(text("live-status")).contains("lines lost");
            hands.click("live-end");
            Hands.waitFor("the drive", () -> session.driveProperty().get() != null && session.busyProperty().get()
                    .isEmpty());
        }
        assertThat(session.driveProperty().get().log().size()).isGreaterThan(9000);
        assertThat(session.driveProperty().get().run()).isPresent();
        Hands.waitFor("the logbook", () -> session.garage().carsProperty().get().getFirst().drives().size() == 1);
        Hands.waitFor("the mark", () -> session.notes().notesProperty().get().stream().anyMatch(n -> n.text().contains(
                "marked while recording")));
    }

    @Test
    public void serialPairIsReadLikeAnythingElse() throws IOException, InterruptedException {
        if (!PseudoTerminal.there()) {
            throw new SkipException("no pseudo-terminals here");
        }
        car();
        beside();
        try (PseudoTerminal pair = new PseudoTerminal(); StandInDevice d = StandInDevice.on(Demo.ESTATE.drive().log(),
                new StandInDevice.Manners(20, 40, 0, 0, true, true, 3))) {
            type("live-address", "serial:" + pair.name(false));
            hands.click("live-connect");
            Hands.waitFor("the port", () -> said("live-status").contains("says nothing"));
            d.print(DeviceAddress.parse("serial:" + pair.name(true)));
            Hands.waitFor("readings", () -> session.live().nowProperty().get() != null && session.live().nowProperty()
                    .get().rows() > 400);
            hands.click("live-end");
            Hands.waitFor("the drive", () -> session.garage().keptProperty().get().size() == 1);
        }
    }

    /** A logger whose header says nothing: its lines are kept for the question about columns. */
    @Test
    public void columnsThatAreNotUnderstoodAreRecordedAllTheSame() throws IOException {
        car();
        beside();
        try (ServerSocket door = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
            Thread.ofPlatform().daemon().start(() -> {
                try (Socket c = door.accept()) {
                    StringBuilder b = new StringBuilder("a,b,c,d\n");
                    for (int i = 0; i < 600; i++) {
                        b.append(String.format(Locale.ROOT, "%.2f,%d,%.1f,%.2f%n", 0.05 * i, 810 + i % 9, 17.5, 0.93));
                    }
                    c.getOutputStream().write(b.toString().getBytes(StandardCharsets.UTF_8));
                    c.getOutputStream().flush();
                    // Until the listener lets go.
                    c.getInputStream().read();
                } catch (IOException e) {
                    // It let go.
                }
            });
            type("live-address", "tcp:127.0.0.1:" + door.getLocalPort());
            hands.click("live-connect");
            Hands.waitFor("the reason", () -> said("live-status").contains("found no column"));
            hands.click("live-end");
            Hands.waitFor("the file", () -> session.problemProperty().get().contains(".csv"));
        }
        try (Stream<Path> all = Files.list(folder)) {
            Path csv = all.filter(f -> f.toString().endsWith(".csv")).findFirst().orElseThrow();
            assertThat(Files.readAllLines(csv)).hasSizeGreaterThan(590).first().isEqualTo("time (s),a,b,c,d");
        }
        assertThat(session.garage().keptProperty().get()).isEmpty();
    }

    @Test
    public void wrongRateIsSaidAndNothingIsKeptOfIt() throws IOException {
        car();
        beside();
        try (StandInDevice d = StandInDevice.on(Demo.ESTATE.drive().log(), new StandInDevice.Manners(20, 20, 0, 1,
                false,
                true, 3))) {
            type("live-address", d.listen(0).text());
            hands.click("live-connect");
            Hands.waitFor("the reason", () -> said("live-status").contains("Check the rate"));
            hands.click("live-end");
            Hands.waitFor("the end", () -> session.live().sheetProperty().get() == null);
        }
        assertThat(session.garage().keptProperty().get()).isEmpty();
    }

    @Test
    public void recordingCutShortByACrashIsADriveAtTheNextStart() {
        Path file = folder.resolve("cut.nariz");
        try (Workbook w = Workbook.open(file)) {
            long id = w.recordings().begin(w.addSheet(w.vehicle("estate").id(), Demo.ESTATE.sheetJson()), "cut", null);
            List<String> lines = new ArrayList<>(List.of("time (s),rpm (1/min),vacuum (inHg),lambda"));
            for (int i = 0; i < 2000; i++) {
                lines.add(String.format(Locale.ROOT, "%.2f,820,17.5,0.93", 0.05 * i));
            }
            w.recordings().append(id, lines);
        }
        Hands.run(() -> session.openWorkbook(file, null));
        Hands.waitFor("the drive", () -> session.garage().keptProperty().get().size() == 1);
        assertThat(session.problemProperty().get()).contains("cut short");
    }

    @Test
    public void figuresStayLegibleAtAQuarterOfTheSize() {
        beside();
        hands.click("live-road");
        Hands.waitFor("readings", () -> session.live().nowProperty().get() != null && session.live().nowProperty().get()
                .rows() > 300);
        Hands.settle();
        var picture = window.lookup("#live-picture");
        assertThat(picture.getAccessibleText()).contains("rpm", "vacuum");
        // Two metres away 800 px look like 200: figures of a sixth of the height stay over 30 px there.
        assertThat(Hands.onInterface(() -> ((javafx.scene.layout.Region) picture).getHeight())).isGreaterThan(560.0);
        for (String id : List.of("live-end", "live-mark", "live-away")) {
            assertThat(Hands.onInterface(() -> ((Button) window.lookup("#" + id)).getHeight())).isGreaterThanOrEqualTo(
                    48.0);
        }
    }
}
