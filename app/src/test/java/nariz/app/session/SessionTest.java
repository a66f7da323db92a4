package nariz.app.session;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import nariz.advice.Candidate;
import nariz.advice.Verdict;
import nariz.build.Kit;
import nariz.build.Part;
import nariz.log.LogWriter;
import nariz.log.Span;
import nariz.sim.DemoDrive;
import nariz.testing.Malformed;
import nariz.testing.Samples;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

/** The view model without a window: the test plays the interface thread. */
public class SessionTest {
    private final LinkedBlockingQueue<Runnable> toInterface = new LinkedBlockingQueue<>();
    private Session session;

    @BeforeMethod
    void start() {
        toInterface.clear();
        session = new Session(toInterface::add);
    }

    @AfterMethod
    void end() {
        session.close();
    }

    private void work() {
        try {
            Runnable r = toInterface.poll(60, TimeUnit.SECONDS);
            assertThat(r).as("work that came back").isNotNull();
            r.run();
        } catch (InterruptedException e) {
            throw new AssertionError(e);
        }
    }

    @Test
    public void demoOpensAtTheBlamedStop() {
        session.openDemo();
        assertThat(session.busyProperty().get()).isNotEmpty();
        assertThat(session.driveProperty().get()).isNull();
        work();
        assertThat(session.busyProperty().get()).isEmpty();
        assertThat(session.driveProperty().get().analysis().advice().verdict()).isEqualTo(Verdict.CHANGE);
        assertThat(session.stopProperty().get()).isEqualTo(Stop.TRANSFER);
        assertThat(session.cursorProperty().get()).isPositive();
    }

    @Test
    public void cancelledWorkNeverArrives() throws InterruptedException {
        session.openDemo();
        session.cancel();
        assertThat(session.busyProperty().get()).isEmpty();
        Runnable late = toInterface.poll(5, TimeUnit.SECONDS);
        if (late != null) {
            late.run();
        }
        assertThat(session.driveProperty().get()).isNull();
    }

    @Test
    public void badFilesLeaveTheOpenDriveAlone() throws IOException {
        session.openDemo();
        work();
        Session.Drive open = session.driveProperty().get();
        Path sheet = Files.createTempFile("nariz", ".json");
        Path log = Files.createTempFile("nariz", ".csv");
        for (Malformed.Case c : Malformed.all()) {
            Files.write(sheet, c.sheet() ? c.content() : Samples.sheet().getBytes(StandardCharsets.UTF_8));
            Files.write(log, c.sheet() ? Samples.log().getBytes(StandardCharsets.UTF_8) : c.content());
            session.open(sheet, log);
            assertThat(session.problemProperty().get()).isEmpty();
            for (int i = 0; i < 3 && session.problemProperty().get().isEmpty(); i++) {
                work();
            }
            assertThat(session.problemProperty().get()).as(c.toString()).contains(": found ");
            assertThat(session.busyProperty().get()).isEmpty();
            assertThat(session.driveProperty().get()).isSameAs(open);
        }
        Files.delete(sheet);
        Files.delete(log);
    }

    @Test
    public void ownFilesOpen() throws IOException {
        Path sheet = Files.createTempFile("nariz", ".json");
        Path log = Files.createTempFile("nariz", ".csv");
        Files.writeString(sheet, Samples.sheet());
        Files.writeString(log, Samples.log());
        session.open(sheet, log);
        work();
        assertThat(session.problemProperty().get()).isEmpty();
        assertThat(session.driveProperty().get().sheet().name()).isEqualTo("test six");
        Files.delete(sheet);
        Files.delete(log);
    }

    private void until(Session s, java.util.function.BooleanSupplier reached) {
        for (int i = 0; i < 20 && !reached.getAsBoolean(); i++) {
            work();
        }
        assertThat(reached.getAsBoolean()).as(s.problemProperty().get()).isTrue();
    }

    @Test
    public void logWhoseColumnsAreNotClearIsAskedAboutOnceAndKept() throws IOException {
        Path folder = Files.createTempDirectory("nariz");
        Path sheet = folder.resolve("six.json");
        Path log = folder.resolve("logger.csv");
        Files.writeString(sheet, Samples.sheet());
        Files.writeString(log, Samples.log("Time,RPM,Vacuum,Wideband\n", ','));
        try (Session s = new Session(toInterface::add, folder.resolve("garage.nariz"))) {
            s.open(sheet, log);
            until(s, () -> s.questionProperty().get() != null);
            assertThat(s.problemProperty().get()).contains("no unit for manifold vacuum");
            assertThat(s.driveProperty().get()).isNull();
            s.answer(s.questionProperty().get().proposal().plan());
            until(s, () -> s.driveProperty().get() != null);
            assertThat(s.driveProperty().get().run()).isPresent();
            until(s, () -> !s.keptProperty().get().isEmpty());
            Session.Drive first = s.driveProperty().get();
            s.open(sheet, log);
            until(s, () -> !first.equals(s.driveProperty().get()));
            assertThat(s.questionProperty().get()).as("asked again").isNull();
        }
    }

    @Test
    public void secondWindowShowsTheDriveKeepsNothingAndSaysSo() throws IOException {
        Path folder = Files.createTempDirectory("nariz");
        Path sheet = folder.resolve("six.json");
        Path log = folder.resolve("drive.csv");
        Files.writeString(sheet, Samples.sheet());
        Files.writeString(log, Samples.log());
        try (Session first = new Session(toInterface::add, folder.resolve("garage.nariz"))) {
            first.open(sheet, log);
            until(first, () -> !first.keptProperty().get().isEmpty());
            try (Session second = new Session(toInterface::add, folder.resolve("garage.nariz"))) {
                until(second, () -> !second.keptProperty().get().isEmpty());
                Files.writeString(log, Samples.log().replace(",14.", ",13."));
                second.open(sheet, log);
                until(second, () -> second.driveProperty().get() != null);
                assertThat(second.problemProperty().get()).startsWith("Another window has the workbook open");
                assertThat(second.driveProperty().get().run()).isEmpty();
            }
        }
    }

    @Test
    public void decisionsAboutAKeptDriveAreThereAfterClosingAndCanBeTakenBack() throws IOException {
        Path folder = Files.createTempDirectory("nariz");
        Path sheet = folder.resolve("estate.json");
        Path log = folder.resolve("drive.csv");
        Path workbook = folder.resolve("garage.nariz");
        Files.writeString(sheet, DemoDrive.sheetJson());
        LogWriter.write(DemoDrive.drive().log(), log);
        long run;
        try (Session s = new Session(toInterface::add, workbook)) {
            s.open(sheet, log);
            until(s, () -> s.driveProperty().get() != null);
            run = s.driveProperty().get().run().orElseThrow();
            double steady = s.driveProperty().get().analysis().observation().steadyS();
            s.select(new Span(100, 200));
            s.exclude();
            until(s, () -> s.driveProperty().get().log().excluded().size() == 1);
            assertThat(s.driveProperty().get().analysis().observation().steadyS()).isLessThan(steady - 20);
            s.checked("vacuum-leak", true);
            until(s, () -> s.driveProperty().get().checked().size() == 1);
            s.undo();
            until(s, () -> s.driveProperty().get().checked().isEmpty());
            s.redo();
            until(s, () -> s.driveProperty().get().checked().size() == 1);
        }
        try (Session s = new Session(toInterface::add, workbook)) {
            until(s, () -> !s.keptProperty().get().isEmpty());
            assertThat(s.keptProperty().get().getFirst().name()).isEqualTo("drive.csv");
            s.openKept(run);
            until(s, () -> s.driveProperty().get() != null);
            assertThat(s.driveProperty().get().log().excluded()).containsExactly(new Span(100, 200));
            assertThat(s.driveProperty().get().checked()).containsExactly("vacuum-leak");
            Session.Drive kept = s.driveProperty().get();
            s.open(sheet, log);
            until(s, () -> !kept.equals(s.driveProperty().get()));
            assertThat(s.driveProperty().get().run()).as("the same file is kept once").contains(run);
            assertThat(s.driveProperty().get().log().excluded()).containsExactly(new Span(100, 200));
            s.moveCursor(s.driveProperty().get().log().indexAt(150));
            s.restore();
            until(s, () -> s.driveProperty().get().log().excluded().isEmpty());
        }
    }

    @Test
    public void notesAndPlansOfAKeptDriveAreThereAfterClosing() throws IOException {
        Path folder = Files.createTempDirectory("nariz");
        Path sheet = folder.resolve("estate.json");
        Path log = folder.resolve("drive.csv");
        Files.writeString(sheet, DemoDrive.sheetJson());
        LogWriter.write(DemoDrive.drive().log(), log);
        long run;
        try (Session s = new Session(toInterface::add, folder.resolve("garage.nariz"))) {
            s.open(sheet, log);
            until(s, () -> s.driveProperty().get() != null);
            run = s.driveProperty().get().run().orElseThrow();
            s.moveCursor(s.driveProperty().get().log().indexAt(300));
            s.note("  pulls flat ");
            until(s, () -> !s.notesProperty().get().isEmpty());
            s.keepPlan("nothing");
            assertThat(s.problemProperty().get()).startsWith("Nothing is being tried.");
            Candidate jet = Candidate.of(s.driveProperty().get().sheet(), Kit.NONE).stream().filter(c -> c.part()
                    == Part.MAIN_JET).findFirst().orElseThrow();
            s.tryParts(List.of(jet.to(jet.fitted() + 2)));
            s.triedFrom(List.of());
            until(s, () -> s.effectProperty().get().tried());
            s.keepPlan("two up");
            until(s, () -> s.plansProperty().get().size() == 1);
            assertThat(s.historyProperty().get()).containsExactly("plan two up", "parts tried", "note");
            s.undo();
            until(s, () -> s.plansProperty().get().isEmpty());
            s.undo();
            assertThat(s.effectProperty().get().tried()).isFalse();
            s.redo();
            s.redo();
            until(s, () -> s.plansProperty().get().size() == 1);
        }
        try (Session s = new Session(toInterface::add, folder.resolve("garage.nariz"))) {
            s.openKept(run);
            until(s, () -> !s.notesProperty().get().isEmpty());
            assertThat(s.notesProperty().get().getFirst().text()).isEqualTo("pulls flat");
            assertThat(s.notesProperty().get().getFirst().atS().orElseThrow()).isEqualTo(300.0, within(0.06));
            assertThat(s.plansProperty().get().getFirst().changes().getFirst().text()).contains("main jets");
        }
    }

    @Test
    public void notesOfADriveThatIsNotKeptStayWithIt() throws IOException {
        session.openDemo();
        until(session, () -> session.driveProperty().get() != null);
        session.note("of the demo");
        until(session, () -> session.notesProperty().get().size() == 1);
        Path folder = Files.createTempDirectory("nariz");
        Path sheet = Files.writeString(folder.resolve("six.json"), Samples.sheet());
        Path log = Files.writeString(folder.resolve("drive.csv"), Samples.log());
        session.open(sheet, log);
        until(session, () -> session.driveProperty().get().sheet().name().equals("test six"));
        assertThat(session.historyProperty().get()).isEmpty();
        session.note("of the six");
        until(session, () -> !session.notesProperty().get().isEmpty());
        assertThat(session.notesProperty().get()).extracting(nariz.store.Workbook.Note::text)
                .containsExactly("of the six");
    }

    /** Four sizes up on the main jet must read richer in the trace, in the plane and in the forecast. */
    @Test
    public void triedPartsMoveEveryPictureTheSameWay() {
        session.openDemo();
        work();
        Session.Drive d = session.driveProperty().get();
        Candidate jet = Candidate.of(d.sheet(), Kit.NONE).stream().filter(c -> c.part() == Part.MAIN_JET).findFirst()
                .orElseThrow();
        session.tryParts(List.of(jet.to(jet.fitted() + 4)));
        until(session, () -> session.effectProperty().get().tried());
        Effect e = session.effectProperty().get();
        int cruise = d.trace().bestMoment(d.analysis(), Stop.MAIN);
        assertThat(e.lambda()[cruise]).isLessThan(0.99 * d.trace().measured(cruise));
        int cell = d.analysis().observation().cellOf(cruise);
        assertThat(e.phi()[cell]).isGreaterThan(1.01 * d.analysis().estimate().phi(cell));
        assertThat(e.regimes()).anyMatch(r -> r.after().mean() < r.before().mean() - 0.02);
        session.tryParts(List.of());
        assertThat(session.effectProperty().get()).isSameAs(d.advised());
    }

    @Test
    public void cursorStaysInsideTheLog() {
        session.moveCursor(5);
        assertThat(session.cursorProperty().get()).isZero();
        session.openDemo();
        work();
        session.moveCursor(-9);
        assertThat(session.cursorProperty().get()).isZero();
        session.moveCursor(Integer.MAX_VALUE);
        assertThat(session.cursorProperty().get()).isEqualTo(session.driveProperty().get().log().size() - 1);
    }

    @Test
    public void everyStopHasASentence() {
        session.openDemo();
        work();
        for (Stop s : Stop.values()) {
            StopWords w = StopWords.of(session.driveProperty().get().analysis().advice(), s);
            assertThat(w.sentence()).as(s.label()).endsWith(".").doesNotContain("!").doesNotContain("null");
        }
        StopWords power = StopWords.of(session.driveProperty().get().analysis().advice(), Stop.POWER);
        assertThat(power.changes()).hasSize(1);
    }

    @Test
    public void mixturesShowInEitherUnit() {
        assertThat(MixtureUnit.LAMBDA.text(0.952)).isEqualTo("0.95");
        assertThat(MixtureUnit.AFR.text(0.952)).isEqualTo("14.0");
        assertThat(MixtureUnit.AFR.text(Double.NaN)).isEqualTo("–");
    }

    @Test
    public void boundariesLieWhereTheSheetSays() {
        session.openDemo();
        work();
        Boundaries b = session.driveProperty().get().today();
        assertThat(b.enrichmentPa() / 3386.389).isBetween(2.5, 4.5);
        double last = 0;
        for (int i = 10; i < b.size(); i++) {
            // With more speed there is more air at the same vacuum: the slot hands over at higher vacuum.
            assertThat(b.slotToMainPa(i)).isGreaterThanOrEqualTo(last);
            last = b.slotToMainPa(i);
        }
    }
}
