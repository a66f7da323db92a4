package nariz.app.state;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import java.util.stream.IntStream;
import nariz.app.task.FaultLog;
import nariz.app.words.WindowWords;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.carburetor.Kit;
import nariz.carburetor.PartChange;
import nariz.diagnosis.Candidate;
import nariz.diagnosis.Change;
import nariz.diagnosis.Status;
import nariz.diagnosis.Verdict;
import nariz.family.metered.MeteredParts;
import nariz.log.Channel;
import nariz.log.DriveLog;
import nariz.log.LogWriter;
import nariz.log.Span;
import nariz.sim.Demo;
import nariz.sim.DemoDrive;
import nariz.testing.Malformed;
import nariz.testing.Samples;
import nariz.text.Wording;
import nariz.units.Shown;
import nariz.units.Units;
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
        session.open().demo();
        assertThat(session.busyProperty().get()).isNotEmpty();
        assertThat(session.driveProperty().get()).isNull();
        work();
        assertThat(session.busyProperty().get()).isEmpty();
        assertThat(session.driveProperty().get().analysis().advice().verdict()).isEqualTo(Verdict.CHANGE);
        assertThat(session.stopProperty().get()).isEqualTo(Stops.TRANSFER);
        assertThat(session.cursorProperty().get()).isPositive();
    }

    @Test
    public void cancelledWorkNeverArrives() throws InterruptedException {
        session.open().demo();
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
        session.open().demo();
        work();
        Drive open = session.driveProperty().get();
        Path sheet = Files.createTempFile("nariz", ".json");
        Path log = Files.createTempFile("nariz", ".csv");
        for (Malformed.Case c : Malformed.all()) {
            Files.write(sheet, c.sheet() ? c.content() : Samples.sheet().getBytes(StandardCharsets.UTF_8));
            Files.write(log, c.sheet() ? Samples.log().getBytes(StandardCharsets.UTF_8) : c.content());
            session.open().files(sheet, log);
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
        session.open().files(sheet, log);
        work();
        assertThat(session.problemProperty().get()).isEmpty();
        assertThat(session.driveProperty().get().sheet().name()).isEqualTo("test six");
        Files.delete(sheet);
        Files.delete(log);
    }

    private static Path withPressure(Path folder) throws IOException {
        List<String> lines = Samples.log().lines().toList();
        return Files.writeString(folder.resolve("pressure.csv"), lines.getFirst() + ",Fuel pressure\n" + lines.stream()
                .skip(1).map(l -> l + ",5.8").collect(java.util.stream.Collectors.joining("\n", "", "\n")));
    }

    /** Without a workbook the log is read again from where it lies. */
    @Test
    public void columnOfADriveThatIsNotKeptIsReadAsWell() throws IOException {
        Path folder = Files.createTempDirectory("nariz");
        Path sheet = Files.writeString(folder.resolve("six.json"), Samples.sheet());
        session.open().files(sheet, withPressure(folder));
        until(session, () -> session.driveProperty().get() != null);
        Drive first = session.driveProperty().get();
        assertThat(first.run()).isEmpty();
        session.open().withColumn(first.log().unread().getFirst().as().orElseThrow());
        until(session, () -> !first.equals(session.driveProperty().get()));
        assertThat(session.driveProperty().get().log().has(nariz.log.Channel.FUEL_PRESSURE)).isTrue();
        assertThat(session.driveProperty().get().log().unread()).isEmpty();
    }

    /** A workbook with a flipped bit: told, read, and nothing is written into it. */
    @Test
    public void damagedWorkbookIsToldAndRead() throws IOException {
        session.close();
        Path folder = Files.createTempDirectory("nariz");
        Path sheet = Files.writeString(folder.resolve("six.json"), Samples.sheet());
        Path book = folder.resolve("book.nariz");
        session = new Session(toInterface::add, book);
        session.open().files(sheet, withPressure(folder));
        until(session, () -> session.driveProperty().get() != null && session.driveProperty().get().run().isPresent());
        session.close();
        toInterface.clear();
        byte[] all = Files.readAllBytes(book);
        int at = new String(all, StandardCharsets.ISO_8859_1).lastIndexOf("pressure.csv");
        all[at] ^= 1;
        Files.write(book, all);
        session = new Session(toInterface::add, book);
        session.open().demo();
        until(session, () -> session.driveProperty().get() != null && session.problemProperty().get().contains(
                "The workbook is damaged"));
        assertThat(session.problemProperty().get()).contains("is not what was written").contains("nariz rescue");
        assertThat(session.driveProperty().get()).isNotNull();
        assertThat(Files.readAllBytes(book)).isEqualTo(all);
    }

    private void until(Session s, java.util.function.BooleanSupplier reached) {
        for (int i = 0; i < 20 && !reached.getAsBoolean(); i++) {
            work();
        }
        assertThat(reached.getAsBoolean()).as(s.problemProperty().get()).isTrue();
    }

    /** A drive that is still being written is shown as it grows; what is decided on the way stays when it is kept. */
    @Test
    public void driveThatIsStillBeingWrittenIsShownAndThenKept() throws IOException {
        session.close();
        Path folder = Files.createTempDirectory("nariz");
        session = new Session(toInterface::add, folder.resolve("book.nariz"));
        Path sheet = folder.resolve("six.json");
        Path log = folder.resolve("six.csv");
        Files.writeString(sheet, DemoDrive.sheetJson());
        java.io.StringWriter w = new java.io.StringWriter();
        LogWriter.write(DemoDrive.drive().log(), w);
        String text = w.toString();
        int cut = text.length() / 2;
        Files.writeString(log, text.substring(0, cut));
        session.follow(sheet, log);
        until(session, () -> session.driveProperty().get() != null);
        assertThat(session.following().progressProperty().get()).contains("six.csv");
        Drive half = session.driveProperty().get();
        int rows = half.log().size();
        session.select(new Span(5, 9));
        session.exclude();
        session.note("smoke at the kerb");
        Files.writeString(log, text.substring(cut), java.nio.file.StandardOpenOption.APPEND);
        until(session, () -> session.driveProperty().get().log().size() > rows);
        session.finishFollowing();
        until(session, () -> session.driveProperty().get().run().isPresent());
        Drive whole = session.driveProperty().get();
        assertThat(session.following().progressProperty().get()).isEmpty();
        assertThat(whole.decisions().excluded()).containsExactly(new Span(5, 9));
        until(session, () -> !session.notes().notesProperty().get().isEmpty());
        assertThat(session.notes().notesProperty().get().getFirst().text()).isEqualTo("smoke at the kerb");
        nariz.log.DriveLog read = nariz.log.LogReader.read(log, DemoDrive.sheet()).without(List.of(new Span(5, 9)));
        assertThat(whole.log().size()).isEqualTo(read.size());
        assertThat(nariz.diagnosis.AdviceJson.write(whole.analysis().advice())).isEqualTo(
                nariz.diagnosis.AdviceJson.write(nariz.diagnosis.Analysis.of(DemoDrive.sheet(), read,
                        nariz.diagnosis.Strategy.BALANCED).advice()));
    }

    @Test
    public void followingWhatIsNoLogSaysSo() throws IOException {
        Path folder = Files.createTempDirectory("nariz");
        Path sheet = folder.resolve("six.json");
        Files.writeString(sheet, DemoDrive.sheetJson());
        Path log = folder.resolve("x.csv");
        Files.writeString(log, "a,b,c\n".repeat(20));
        session.follow(sheet, log);
        until(session, () -> !session.problemProperty().get().isEmpty());
        assertThat(session.problemProperty().get()).contains("x.csv");
        assertThat(session.following().progressProperty().get()).isEmpty();
        session.dismissProblem();
        session.follow(sheet, folder.resolve("not-there.csv"));
        until(session, () -> !session.problemProperty().get().isEmpty());
        assertThat(session.problemProperty().get()).contains("not-there.csv");
    }

    @Test
    public void logWhoseColumnsAreNotClearIsAskedAboutOnceAndKept() throws IOException {
        Path folder = Files.createTempDirectory("nariz");
        Path sheet = folder.resolve("six.json");
        Path log = folder.resolve("logger.csv");
        Files.writeString(sheet, Samples.sheet());
        Files.writeString(log, Samples.log("Time,RPM,Vacuum,Wideband\n", ','));
        try (Session s = new Session(toInterface::add, folder.resolve("garage.nariz"))) {
            s.open().files(sheet, log);
            until(s, () -> s.open().questionProperty().get() != null);
            assertThat(s.problemProperty().get()).contains("no unit for manifold vacuum");
            assertThat(s.driveProperty().get()).isNull();
            s.open().answer(s.open().questionProperty().get().proposal().plan());
            until(s, () -> s.driveProperty().get() != null);
            assertThat(s.driveProperty().get().run()).isPresent();
            until(s, () -> !s.garage().keptProperty().get().isEmpty());
            Drive first = s.driveProperty().get();
            s.open().files(sheet, log);
            until(s, () -> !first.equals(s.driveProperty().get()));
            assertThat(s.open().questionProperty().get()).as("asked again").isNull();
        }
    }

    /** Three clocks side by side, decimal commas, two units missing: asked about, then the answer of the whole log. */
    @Test
    public void logWithSeveralClocksIsAskedAboutAndReadsLikeTheWholeOne() throws IOException {
        var whole = DemoDrive.drive().log();
        StringBuilder s = new StringBuilder("Time;Engine speed;Vac;Time 2;Wideband;Time 3;Coolant\n");
        for (int i = 0; i < whole.size(); i++) {
            s.append(cells(whole.timeS()[i], whole.rpm()[i], whole.vacuumPa()[i] / nariz.units.Units.INHG)).append(';');
            s.append(2 * i < whole.size() ? cells(whole.timeS()[2 * i], 14.7 * whole.lambda()[2 * i]) : ";");
            s.append(';');
            s.append(20 * i < whole.size() ? cells(whole.timeS()[20 * i], 88) : ";").append('\n');
        }
        Path folder = Files.createTempDirectory("nariz");
        Path sheet = Files.writeString(folder.resolve("estate.json"), DemoDrive.sheetJson());
        Path log = Files.writeString(folder.resolve("clocks.csv"), s);
        session.open().files(sheet, log);
        until(session, () -> session.open().questionProperty().get() != null);
        var proposal = session.open().questionProperty().get().proposal();
        assertThat(proposal.empty(3)).isTrue();
        assertThat(proposal.empty(4)).isFalse();
        assertThat(proposal.readings(4)).hasSizeGreaterThan(100);
        session.open().answer(proposal.plan());
        until(session, () -> session.driveProperty().get() != null);
        assertThat(session.driveProperty().get().analysis().advice().sentence().toString())
                .contains("37 thou to 34 thou");
        assertThat(session.driveProperty().get().odd()).noneMatch(f -> f.kind() == nariz.log.Quality.Kind.THIN);
    }

    /** Units changed and a part tried in the same breath: both come out, in either order. */
    @Test
    public void wordsAndTrialsDoNotTakeEachOthersPlace() {
        session.open().demo();
        until(session, () -> session.driveProperty().get() != null);
        Candidate jet = Candidate.of(session.driveProperty().get().sheet(), Kit.NONE).stream().filter(c ->
                c.part().equals(MeteredParts.MAIN_JET)).findFirst().orElseThrow();
        Shown metric = new Shown(Shown.Pressure.KPA, Shown.Size.MM, Shown.Road.METRIC);
        try {
            session.use(metric);
            session.trials().tryParts(List.of(jet.to(jet.fitted() + 2)));
            until(session, () -> session.trials().effectProperty().get().tried()
                    && WindowWords.say(session.driveProperty().get().analysis().advice()
                    .sentence()).contains("0.94 mm to 0.86 mm"));
            session.trials().tryParts(List.of(jet.to(jet.fitted() + 3)));
            session.use(Shown.USUAL);
            until(session, () -> WindowWords.say(session.driveProperty().get().analysis().advice().sentence()).contains(
                    "37 thou to 34 thou") && session.trials().effectProperty().get().changes().equals(session.trials()
                    .triedProperty()
                    .get()));
            assertThat(session.trials().triedProperty().get().getFirst().to()).isEqualTo(jet.fitted() + 3);
            // A unit chosen while a drive is being read holds for that drive.
            session.open().demo();
            session.use(metric);
            until(session, () -> session.busyProperty().get().isEmpty() && WindowWords.say(session.driveProperty()
                    .get().analysis().advice().sentence()).contains("0.94 mm to 0.86 mm"));
        } finally {
            WindowWords.use(Wording.ENGLISH);
        }
    }

    /** A moment means what the engine did then: reading, cell, shares and plate belong together. */
    @Test
    public void everythingAtTheCursorBelongsToTheSameMoment() {
        session.open().demo();
        until(session, () -> session.driveProperty().get() != null);
        Drive d = session.driveProperty().get();
        var o = d.analysis().observation();
        int steady = 0;
        int pumping = 0;
        for (int s = 0; s < d.log().size(); s += 7) {
            Shares at = Shares.at(d, s);
            assertThat(d.trace().measured(s)).isEqualTo(Double.valueOf((float) (1 / o.measuredPhi(o.readingOf(s)))));
            assertThat(at.angleRad()).isEqualTo(Double.valueOf(o.thetaRad(s)));
            assertThat(at.why().isEmpty()).isEqualTo(d.trace().cell(s) >= 0);
            if (d.trace().flag(s) == nariz.estimation.Flag.STEADY) {
                steady++;
                // A quarter of a second on either side: within what single readings of it scatter.
                assertThat(at.measured() / d.trace().measured(s)).isBetween(0.9, 1.1);
                pumping += at.phi()[nariz.family.metered.MeteredCircuits.PUMP.index()] > 0.03 ? 1 : 0;
            } else {
                assertThat(at.measured()).isEqualTo(Double.valueOf(d.trace().measured(s)));
            }
        }
        assertThat(steady).isGreaterThan(500);
        // The foot may still creep by less than counts as moving.
        assertThat(pumping).as("moments with fuel from the pump").isLessThan(steady / 25);
    }

    /** A unit chosen after the last words were found and before they are on the screen. */
    @Test
    public void unitsChosenOneAfterTheOtherBothHold() throws InterruptedException {
        session.open().demo();
        until(session, () -> session.driveProperty().get() != null);
        try {
            session.use(new Shown(Shown.Pressure.KPA, Shown.Size.THOU, Shown.Road.METRIC));
            for (long end = System.nanoTime() + TimeUnit.SECONDS.toNanos(60); toInterface.isEmpty()
                    && System.nanoTime() < end;) {
                Thread.sleep(5);
            }
            session.use(new Shown(Shown.Pressure.KPA, Shown.Size.MM, Shown.Road.METRIC));
            until(session, () -> WindowWords.say(session.driveProperty().get().analysis().advice().sentence()).contains(
                    "0.94 mm to 0.86 mm"));
            // And one chosen while something was tried that came to nothing.
            session.open().files(Path.of("no-sheet.json"), Path.of("no-log.csv"));
            session.use(Shown.USUAL);
            until(session, () -> WindowWords.say(session.driveProperty().get().analysis().advice().sentence()).contains(
                    "37 thou to 34 thou"));
            session.open().files(Path.of("no-sheet.json"), Path.of("no-log.csv"));
            session.use(new Shown(Shown.Pressure.KPA, Shown.Size.MM, Shown.Road.METRIC));
            session.cancel();
            until(session, () -> WindowWords.say(session.driveProperty().get().analysis().advice().sentence()).contains(
                    "0.94 mm to 0.86 mm"));
        } finally {
            WindowWords.use(Wording.ENGLISH);
        }
    }

    private static String cells(double... v) {
        return java.util.Arrays.stream(v).mapToObj(x -> String.format(java.util.Locale.ROOT, "%.2f", x).replace('.',
                ',')).collect(java.util.stream.Collectors.joining(";"));
    }

    @Test
    public void secondWindowShowsTheDriveKeepsNothingAndSaysSo() throws IOException {
        Path folder = Files.createTempDirectory("nariz");
        Path sheet = folder.resolve("six.json");
        Path log = folder.resolve("drive.csv");
        Files.writeString(sheet, Samples.sheet());
        Files.writeString(log, Samples.log());
        try (Session first = new Session(toInterface::add, folder.resolve("garage.nariz"))) {
            first.open().files(sheet, log);
            until(first, () -> !first.garage().keptProperty().get().isEmpty());
            try (Session second = new Session(toInterface::add, folder.resolve("garage.nariz"))) {
                until(second, () -> !second.garage().keptProperty().get().isEmpty());
                Files.writeString(log, Samples.log().replace(",14.", ",13."));
                second.open().files(sheet, log);
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
            s.open().files(sheet, log);
            until(s, () -> s.driveProperty().get() != null);
            run = s.driveProperty().get().run().orElseThrow();
            double steady = s.driveProperty().get().analysis().observation().steadyS();
            s.select(new Span(100, 200));
            s.exclude();
            until(s, () -> s.driveProperty().get().log().excluded().size() == 1);
            assertThat(s.driveProperty().get().analysis().observation().steadyS()).isLessThan(steady - 20);
            s.decisions().checked("vacuum-leak", true);
            until(s, () -> s.driveProperty().get().decisions().checked().size() == 1);
            s.undo();
            until(s, () -> s.driveProperty().get().decisions().checked().isEmpty());
            s.redo();
            until(s, () -> s.driveProperty().get().decisions().checked().size() == 1);
        }
        try (Session s = new Session(toInterface::add, workbook)) {
            until(s, () -> !s.garage().keptProperty().get().isEmpty());
            assertThat(s.garage().keptProperty().get().getFirst().name()).isEqualTo("drive.csv");
            s.open().kept(run);
            until(s, () -> s.driveProperty().get() != null);
            assertThat(s.driveProperty().get().log().excluded()).containsExactly(new Span(100, 200));
            assertThat(s.driveProperty().get().decisions().checked()).containsExactly("vacuum-leak");
            Drive kept = s.driveProperty().get();
            s.open().files(sheet, log);
            until(s, () -> !kept.equals(s.driveProperty().get()));
            assertThat(s.driveProperty().get().run()).as("the same file is kept once").contains(run);
            assertThat(s.driveProperty().get().log().excluded()).containsExactly(new Span(100, 200));
            s.moveCursor(s.driveProperty().get().log().indexAt(150));
            s.restore();
            until(s, () -> s.driveProperty().get().log().excluded().isEmpty());
        }
    }

    /** A build sheet and the demo's log in a folder of their own. */
    private record DemoFiles(Path folder, Path sheet, Path log, Path workbook) {
        static DemoFiles made() throws IOException {
            Path folder = Files.createTempDirectory("nariz");
            Path log = folder.resolve("drive.csv");
            LogWriter.write(DemoDrive.drive().log(), log);
            return new DemoFiles(folder, Files.writeString(folder.resolve("estate.json"), DemoDrive.sheetJson()), log,
                    folder.resolve("garage.nariz"));
        }
    }

    /** A sheet alone begins a car; what is fitted goes on its sheet and, with undo, off again. */
    @Test
    public void carIsBegunWithASheetAndTakesOnWhatIsFitted() throws IOException {
        DemoFiles f = DemoFiles.made();
        try (Session s = new Session(toInterface::add, f.workbook())) {
            s.garage().keepSheet(DemoDrive.sheetJson());
            until(s, () -> s.garage().carsProperty().get().size() == 1);
            Car car = s.garage().carsProperty().get().getFirst();
            assertThat(car.name()).isEqualTo(DemoDrive.sheet().name());
            assertThat(car.lastDrive()).isEmpty();
            assertThat(car.state()).isEqualTo("not driven yet");
            s.open().files(car, f.log());
            until(s, () -> s.driveProperty().get() != null);
            until(s, () -> s.garage().carOf(s.driveProperty().get()).isPresent());
            assertThat(s.garage().carOf(s.driveProperty().get()).orElseThrow().state()).isEqualTo("a part to change");
            PartChange c = new PartChange(MeteredParts.MAIN_JET, nariz.carburetor.Stage.PRIMARY, 61, 63);
            s.garage().fitted(List.of(c));
            until(s, () -> s.garage().carsProperty().get().getFirst().fittedSince().equals(List.of(c)));
            assertThat(s.historyProperty().get().getFirst()).contains("61 thou to 63 thou");
            s.undo();
            until(s, () -> s.garage().carsProperty().get().getFirst().sheet().json().equals(DemoDrive.sheetJson()));
            assertThat(s.garage().carsProperty().get().getFirst().fittedSince()).as("taken off again").isEmpty();
            assertThat(s.garage().carsProperty().get().getFirst().state()).isEqualTo("a part to change");
            s.redo();
            until(s, () -> s.garage().carsProperty().get().getFirst().sheet().json().contains("63 thou"));
        }
    }

    /** What one drive taught is the start of the next where its advice was followed, and nowhere else. */
    @Test
    public void theDriveAfterAFollowedAdviceGoesOnFromIt() throws IOException {
        DemoFiles f = DemoFiles.made();
        Path again = f.folder().resolve("again.csv");
        long first;
        long second;
        try (Session s = new Session(toInterface::add, f.workbook())) {
            s.open().files(f.sheet(), f.log());
            until(s, () -> s.driveProperty().get() != null);
            Drive d = s.driveProperty().get();
            first = d.run().orElseThrow();
            assertThat(d.before()).isEmpty();
            List<PartChange> advised = d.analysis().advice().changes().stream().filter(Change::now).map(c ->
                    new PartChange(c.part(), c.side(), c.from(), c.to())).toList();
            assertThat(advised).isNotEmpty();
            BuildSheet next = PartChange.fit(d.sheet(), advised);
            LogWriter.write(Demo.ESTATE.again(next, 1).log(), again);
            until(s, () -> s.garage().carOf(s.driveProperty().get()).isPresent());
            Car car = s.garage().carOf(s.driveProperty().get()).orElseThrow();
            s.open().files(car, again);
            until(s, () -> s.driveProperty().get().opening() != d.opening() && s.busyProperty().get().isEmpty());
            assertThat(s.driveProperty().get().before()).as("nothing was fitted yet").isEmpty();
            s.garage().fitted(advised);
            until(s, () -> !s.garage().carsProperty().get().getFirst().fittedSince().isEmpty());
            LogWriter.write(Demo.ESTATE.again(next, 2).log(), again);
            s.open().files(s.garage().carsProperty().get().getFirst(), again);
            until(s, () -> s.busyProperty().get().isEmpty() && s.driveProperty().get().before().isPresent());
            Drive after = s.driveProperty().get();
            second = after.run().orElseThrow();
            assertThat(after.before().orElseThrow().fitted()).isEqualTo(advised);
            assertThat(after.analysis().advice().scored()).as("the promise beside what came of it").isNotEmpty();
            // Weighed again it still follows the same.
            s.select(new Span(100, 150));
            s.exclude();
            until(s, () -> s.driveProperty().get().decisions().excluded().size() == 1);
            assertThat(s.driveProperty().get().before()).isEqualTo(after.before());
        }
        try (Session s = new Session(toInterface::add, f.workbook())) {
            s.open().kept(second);
            until(s, () -> s.driveProperty().get() != null);
            assertThat(s.driveProperty().get().before()).isPresent();
            s.open().kept(first);
            until(s, () -> s.busyProperty().get().isEmpty() && s.driveProperty().get().run().equals(Optional.of(
                    first)));
            assertThat(s.driveProperty().get().before()).isEmpty();
        }
    }

    /** The car's next drive knows that a pull was asked for and is answered without it; another carburetor's is not. */
    @Test
    public void pullIsAskedForOnceOfACar() throws IOException {
        DemoFiles f = DemoFiles.made();
        String lean = DemoDrive.sheetJson().replace("37 thou", "34 thou").replace("3.5 inHg", "6.5 inHg")
                .replace("74 thou", "66 thou");
        BuildSheet sheet = BuildSheetReader.parse("lean.json", lean);
        Path sheetFile = Files.writeString(f.folder().resolve("lean.json"), lean);
        Path other = Files.writeString(f.folder().resolve("other.json"), lean.replace("61 thou", "62 thou"));
        try (Session s = new Session(toInterface::add, f.workbook())) {
            Drive first = opened(s, sheetFile, withoutGentlePulls(sheet, 4, f.log()));
            assertThat(first.before()).isEmpty();
            assertThat(first.analysis().advice().verdict()).isEqualTo(Verdict.MORE_DATA);
            Drive second = opened(s, other, withoutGentlePulls(sheet, 5, f.log()));
            assertThat(second.before()).as("of another carburetor").isEmpty();
            Drive third = opened(s, sheetFile, withoutGentlePulls(sheet, 6, f.log()));
            assertThat(third.before()).isPresent();
            assertThat(third.analysis().advice().verdict()).isEqualTo(Verdict.CHANGE);
            assertThat(third.analysis().advice().scored()).as("nothing was changed, nothing is proved").isEmpty();
        }
    }

    private Drive opened(Session s, Path sheet, Path log) {
        s.open().files(sheet, log);
        until(s, () -> s.driveProperty().get() != null && s.driveProperty().get().log().name().equals(String.valueOf(
                log.getFileName())) && s.busyProperty().get().isEmpty()
                && s.garage().carOf(s.driveProperty().get()).isPresent());
        return s.driveProperty().get();
    }

    /** Without what was logged enriched while the second stage was shut, or only just coming in. */
    private static Path withoutGentlePulls(BuildSheet sheet, long seed, Path file) throws IOException {
        DriveLog log = DemoDrive.drive(sheet, seed).log();
        double[] throttle = log.values(Channel.THROTTLE);
        int[] rows = IntStream.range(0, log.size()).filter(i -> log.vacuumPa()[i] > 8 * Units.INHG
                || throttle[i] > 0.7).toArray();
        Map<Channel, double[]> kept = new EnumMap<>(Channel.class);
        log.recorded().forEach(c -> kept.put(c, IntStream.of(rows).mapToDouble(i -> log.values(c)[i]).toArray()));
        Path out = file.resolveSibling("short-" + seed + ".csv");
        LogWriter.write(new DriveLog("short", kept, List.of(), 0), out);
        return out;
    }

    /** Neither waits for the answer to the one before: both are kept, and each is a step of its own. */
    @Test
    public void twoQuickDecisionsBothHold() throws IOException {
        DemoFiles f = DemoFiles.made();
        long run;
        try (Session s = new Session(toInterface::add, f.workbook())) {
            s.open().files(f.sheet(), f.log());
            until(s, () -> s.driveProperty().get() != null);
            run = s.driveProperty().get().run().orElseThrow();
            s.decisions().checked("vacuum-leak", true);
            s.decisions().checked("exhaust-leak", true);
            s.select(new Span(100, 150));
            s.exclude();
            s.select(new Span(300, 350));
            s.exclude();
            assertThat(s.decisions().valueProperty().get()).isEqualTo(
                    new Decisions(List.of("vacuum-leak", "exhaust-leak"),
                    List.of(new Span(100, 150), new Span(300, 350))));
            assertThat(s.historyProperty().get()).hasSize(4);
            until(s, () -> s.driveProperty().get().decisions().equals(s.decisions().valueProperty().get()));
            assertThat(s.driveProperty().get().log().excluded()).hasSize(2);
            assertThat(s.driveProperty().get().analysis().advice().hypotheses()).noneMatch(h -> h.cause().endsWith(
                    "leak"));
            // Taken back just as quickly, while the answer is still being weighed.
            s.undo();
            s.undo();
            assertThat(s.decisions().valueProperty().get().excluded()).isEmpty();
            until(s, () -> s.driveProperty().get().decisions().equals(s.decisions().valueProperty().get()));
        }
        try (Session s = new Session(toInterface::add, f.workbook())) {
            s.open().kept(run);
            until(s, () -> s.driveProperty().get() != null);
            assertThat(s.decisions().valueProperty().get()).isEqualTo(
                    new Decisions(List.of("vacuum-leak", "exhaust-leak"),
                    List.of()));
        }
    }

    /** Closed before any answer: what was decided and noted is there next time. */
    @Test
    public void whatWasDecidedAndNotedJustBeforeClosingIsKept() throws IOException {
        DemoFiles f = DemoFiles.made();
        long run;
        try (Session s = new Session(toInterface::add, f.workbook())) {
            s.open().files(f.sheet(), f.log());
            until(s, () -> s.driveProperty().get() != null);
            run = s.driveProperty().get().run().orElseThrow();
            s.decisions().checked("vacuum-leak", true);
            s.note("last word");
        }
        try (Session s = new Session(toInterface::add, f.workbook())) {
            s.open().kept(run);
            until(s, () -> s.driveProperty().get() != null && !s.notes().notesProperty().get().isEmpty());
            assertThat(s.decisions().valueProperty().get().checked()).containsExactly("vacuum-leak");
            assertThat(s.notes().notesProperty().get().getFirst().text()).isEqualTo("last word");
        }
    }

    @Test
    public void cancelledWeighingShowsWhatWasDecidedBefore() {
        session.open().demo();
        until(session, () -> session.driveProperty().get() != null);
        Drive before = session.driveProperty().get();
        session.decisions().checked("vacuum-leak", true);
        session.cancel();
        assertThat(session.busyProperty().get()).isEmpty();
        assertThat(session.decisions().valueProperty().get()).isEqualTo(before.decisions());
        assertThat(session.driveProperty().get()).isSameAs(before);
    }

    /** The same log with another sheet is another drive: its notes, its cursor and its comparison are its own. */
    @Test
    public void sameLogWithAnotherSheetIsAnotherDriveAndEachIsKeptOnce() throws IOException {
        DemoFiles f = DemoFiles.made();
        Path other = Files.writeString(f.folder().resolve("other.json"), DemoDrive.sheetJson().replace("\"37 thou\"",
                "\"35 thou\""));
        try (Session s = new Session(toInterface::add, f.workbook())) {
            s.open().files(f.sheet(), f.log());
            until(s, () -> s.driveProperty().get() != null);
            long first = s.driveProperty().get().run().orElseThrow();
            s.note("of the first");
            until(s, () -> !s.notes().notesProperty().get().isEmpty());
            s.decisions().checked("vacuum-leak", true);
            until(s, () -> s.driveProperty().get().decisions().checked().size() == 1);
            s.open().files(other, f.log());
            until(s, () -> s.busyProperty().get().isEmpty() && !s.driveProperty().get().run().equals(Optional.of(
                    first)));
            assertThat(s.notes().notesProperty().get()).isEmpty();
            assertThat(s.decisions().valueProperty().get()).isEqualTo(Decisions.NONE);
            assertThat(s.historyProperty().get()).isEmpty();
            // A further log on the first sheet puts that sheet into the chain again.
            Path more = f.folder().resolve("more.csv");
            LogWriter.write(DemoDrive.drive(DemoDrive.sheet(), 77).log(), more);
            s.open().files(f.sheet(), more);
            until(s, () -> s.busyProperty().get().isEmpty() && s.garage().keptProperty().get().size() == 3);
            s.open().files(f.sheet(), f.log());
            until(s, () -> s.busyProperty().get().isEmpty() && s.driveProperty().get().run().equals(Optional.of(
                    first)));
            assertThat(s.decisions().valueProperty().get().checked()).containsExactly("vacuum-leak");
            until(s, () -> !s.notes().notesProperty().get().isEmpty());
            assertThat(s.garage().keptProperty().get()).hasSize(3);
        }
    }

    @Test
    public void unexpectedFaultIsToldInPlainWordsAndWrittenDown() throws IOException {
        Path folder = Files.createTempDirectory("nariz");
        FaultLog faults = FaultLog.in(folder);
        try (Session s = new Session(toInterface::add, null, faults)) {
            s.unexpected(new IllegalStateException("made up"));
            assertThat(s.problemProperty().get()).contains("nariz-0.log").contains("nothing you opened is lost");
            s.unexpected(new OutOfMemoryError());
            assertThat(s.problemProperty().get()).startsWith("There was not enough memory");
        } finally {
            faults.close();
        }
        assertThat(folder.resolve("nariz-0.log")).content().contains("made up").contains("SessionTest");
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
            s.open().files(sheet, log);
            until(s, () -> s.driveProperty().get() != null);
            run = s.driveProperty().get().run().orElseThrow();
            s.moveCursor(s.driveProperty().get().log().indexAt(300));
            s.note("  pulls flat ");
            until(s, () -> !s.notes().notesProperty().get().isEmpty());
            s.notes().keepPlan("nothing");
            assertThat(s.problemProperty().get()).startsWith("Nothing is being tried.");
            Candidate jet = Candidate.of(s.driveProperty().get().sheet(), Kit.NONE).stream().filter(c ->
                    c.part().equals(MeteredParts.MAIN_JET)).findFirst().orElseThrow();
            s.trials().tryParts(List.of(jet.to(jet.fitted() + 2)));
            s.trials().triedFrom(List.of());
            until(s, () -> s.trials().effectProperty().get().tried());
            s.notes().keepPlan("two up");
            until(s, () -> s.notes().plansProperty().get().size() == 1);
            assertThat(s.historyProperty().get()).containsExactly("plan two up", "parts tried", "note");
            s.undo();
            until(s, () -> s.notes().plansProperty().get().isEmpty());
            s.undo();
            assertThat(s.trials().effectProperty().get().tried()).isFalse();
            s.redo();
            s.redo();
            until(s, () -> s.notes().plansProperty().get().size() == 1);
        }
        try (Session s = new Session(toInterface::add, folder.resolve("garage.nariz"))) {
            s.open().kept(run);
            until(s, () -> !s.notes().notesProperty().get().isEmpty());
            assertThat(s.notes().notesProperty().get().getFirst().text()).isEqualTo("pulls flat");
            assertThat(s.notes().notesProperty().get().getFirst().atS().orElseThrow()).isEqualTo(300.0, within(0.06));
            assertThat(s.notes().plansProperty().get().getFirst().changes().getFirst()
                    .text().toString()).contains("main jets");
        }
    }

    @Test
    public void notesOfADriveThatIsNotKeptStayWithIt() throws IOException {
        session.open().demo();
        until(session, () -> session.driveProperty().get() != null);
        session.note("of the demo");
        until(session, () -> session.notes().notesProperty().get().size() == 1);
        Path folder = Files.createTempDirectory("nariz");
        Path sheet = Files.writeString(folder.resolve("six.json"), Samples.sheet());
        Path log = Files.writeString(folder.resolve("drive.csv"), Samples.log());
        session.open().files(sheet, log);
        until(session, () -> session.driveProperty().get().sheet().name().equals("test six"));
        assertThat(session.historyProperty().get()).isEmpty();
        session.note("of the six");
        until(session, () -> !session.notes().notesProperty().get().isEmpty());
        assertThat(session.notes().notesProperty().get()).extracting(nariz.workbook.VehicleNotes.Note::text)
                .containsExactly("of the six");
    }

    /** Four sizes up on the main jet must read richer in the trace, in the plane and in the forecast. */
    @Test
    public void triedPartsMoveEveryPictureTheSameWay() {
        session.open().demo();
        work();
        Drive d = session.driveProperty().get();
        Candidate jet = Candidate.of(d.sheet(), Kit.NONE).stream().filter(c -> c.part().equals(MeteredParts.MAIN_JET))
                .findFirst()
                .orElseThrow();
        session.trials().tryParts(List.of(jet.to(jet.fitted() + 4)));
        until(session, () -> session.trials().effectProperty().get().tried());
        Effect e = session.trials().effectProperty().get();
        int cruise = d.trace().bestMoment(d.analysis(), Stops.MAIN, false, false);
        assertThat((double) e.trace().at(cruise)).isLessThan(0.99 * d.trace().measured(cruise));
        int cell = d.trace().cell(cruise);
        assertThat(e.phi()[cell]).isGreaterThan(1.01 * d.analysis().estimate().phi(cell));
        assertThat(e.regimes()).anyMatch(r -> r.after().mean() < r.before().mean() - 0.02);
        session.trials().tryParts(List.of());
        assertThat(session.trials().effectProperty().get()).isSameAs(d.advised());
    }

    @Test
    public void cursorStaysInsideTheLog() {
        session.moveCursor(5);
        assertThat(session.cursorProperty().get()).isZero();
        session.open().demo();
        work();
        session.moveCursor(-9);
        assertThat(session.cursorProperty().get()).isZero();
        session.moveCursor(Integer.MAX_VALUE);
        assertThat(session.cursorProperty().get()).isEqualTo(session.driveProperty().get().log().size() - 1);
    }

    @Test
    public void everyStopHasASentence() {
        session.open().demo();
        work();
        for (Stop s : Stops.of(session.driveProperty().get().sheet().carburetor().family())) {
            StopWords w = s.words(session.driveProperty().get(), null);
            assertThat(w.sentence().toString()).as(s.label()).endsWith(".").doesNotContain("!").doesNotContain("null");
        }
        StopWords power = Stops.POWER.words(session.driveProperty().get(), null);
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
        session.open().demo();
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

    @Test
    public void dataPackageBringsItsSheetAndIsKeptOnce() throws IOException {
        Path folder = Files.createTempDirectory("nariz");
        Path sheet = Files.writeString(folder.resolve("sheet.json"), Samples.sheet());
        Path log = Files.writeString(folder.resolve("log.csv"), Samples.log());
        Path zip = folder.resolve("run.zip");
        try (Session s = new Session(toInterface::add, folder.resolve("one.nariz"))) {
            s.open().files(sheet, log);
            until(s, () -> s.driveProperty().get() != null && !s.garage().keptProperty().get().isEmpty());
            s.export(zip);
            until(s, () -> Files.exists(zip) && s.busyProperty().get().isEmpty());
        }
        try (Session s = new Session(toInterface::add, folder.resolve("two.nariz"))) {
            for (int again = 0; again < 2; again++) {
                s.open().dataPackage(zip);
                until(s, () -> s.busyProperty().get().isEmpty());
            }
            until(s, () -> !s.garage().keptProperty().get().isEmpty());
            assertThat(s.driveProperty().get().sheet().name()).isEqualTo("test six");
            assertThat(s.garage().keptProperty().get()).hasSize(1);
        }
    }

    @Test
    public void zipThatIsNoPackageIsComplainedAbout() throws IOException {
        Path zip = Files.writeString(Files.createTempDirectory("nariz").resolve("x.zip"), "no zip at all");
        session.open().dataPackage(zip);
        until(session, () -> !session.problemProperty().get().isEmpty());
        assertThat(session.problemProperty().get()).startsWith("x.zip").contains("is a whole zip");
        assertThat(session.driveProperty().get()).isNull();
    }

    @Test
    public void wholeWorkbookGoesOutAndComesBackAsAnother() throws IOException {
        Path folder = Files.createTempDirectory("nariz");
        Path sheet = Files.writeString(folder.resolve("sheet.json"), Samples.sheet());
        Path log = Files.writeString(folder.resolve("log.csv"), Samples.log());
        Path out = folder.resolve("out");
        try (Session s = new Session(toInterface::add, folder.resolve("one.nariz"))) {
            s.open().files(sheet, log);
            until(s, () -> s.driveProperty().get() != null && !s.garage().keptProperty().get().isEmpty());
            s.garage().exportAll(out);
            until(s, () -> s.busyProperty().get().isEmpty());
            s.garage().exportAll(out);
            until(s, () -> !s.problemProperty().get().isEmpty());
            assertThat(s.problemProperty().get()).contains("a folder with something in it");
            s.openWorkbook(folder.resolve("two.nariz"), out);
            until(s, () -> s.garage().workbookProperty().get().equals("two.nariz"));
            assertThat(s.driveProperty().get()).isNull();
            assertThat(s.historyProperty().get()).isEmpty();
            assertThat(s.garage().keptProperty().get()).singleElement().extracting(DriveRepository.Entry::vehicle)
                    .isEqualTo("test six");
            s.open().kept(s.garage().keptProperty().get().getFirst().run());
            until(s, () -> s.driveProperty().get() != null);
        }
    }

    @Test
    public void folderThatIsNoWorkbookLeavesTheOneAtHandOpenAndNothingBehind() throws IOException {
        Path folder = Files.createTempDirectory("nariz");
        Path empty = Files.createDirectory(folder.resolve("empty"));
        try (Session s = new Session(toInterface::add, folder.resolve("one.nariz"))) {
            s.openWorkbook(folder.resolve("two.nariz"), empty);
            until(s, () -> !s.problemProperty().get().isEmpty());
            assertThat(s.problemProperty().get()).contains("Pick a folder that a workbook was exported to");
            assertThat(s.garage().workbookProperty().get()).isEqualTo("one.nariz");
            assertThat(folder.resolve("two.nariz")).doesNotExist();
        }
    }

    /** The round a tuner goes: change, drive again, compare; the demo's advice has to prove itself. */
    @Test
    public void drivingTheDemoAgainWithTheAdvisedPartsProvesThem() {
        session.open().demo();
        until(session, () -> session.driveProperty().get() != null);
        assertThat(session.open().practice()).isTrue();
        StopWords before = Stops.PROOF.words(session.driveProperty().get(), null);
        assertThat(before.state()).isEqualTo(Status.NOT_READ);
        assertThat(before.sentence().toString()).contains("drive the same road again");
        session.open().again();
        until(session, () -> session.comparisons().comparisonProperty().get() != null);
        Comparison c = session.comparisons().comparisonProperty().get();
        assertThat(session.stopProperty().get()).isEqualTo(Stops.PROOF);
        assertThat(c.result().changed()).hasSize(2);
        assertThat(c.sentence().toString()).contains("leaner at idle").contains("richer at power");
        assertThat(c.remarks()).anyMatch(r -> r.startsWith("It came out as predicted in"));
        assertThat(c.trend()).isEmpty();
        StopWords proof = Stops.PROOF.words(session.driveProperty().get(), c);
        assertThat(proof.state()).isEqualTo(Status.SETTLED);
        assertThat(proof.sentence().toString()).contains("Proved: every way of running");
        assertThat(proof.confidence()).contains("→");
        StopWords pump = Stops.PUMP.words(session.driveProperty().get(), c);
        assertThat(pump.state()).isNotEqualTo(Status.WAITING);
    }

    @Test
    public void airCleanerIsComparedTakenBackAndWeighedAnewWithTheDrive() {
        session.open().demo();
        until(session, () -> session.driveProperty().get() != null);
        session.comparisons().compareWith(session.comparisons().others().getFirst());
        session.comparisons().compareWith(session.comparisons().others().getFirst());
        assertThat(session.problemProperty().get()).startsWith("Something else is being worked on");
        until(session, () -> session.comparisons().comparisonProperty().get() != null);
        Comparison c = session.comparisons().comparisonProperty().get();
        assertThat(c.sentence().toString()).contains("leaner at full load; elsewhere nothing that matters");
        assertThat(c.trend()).isPresent();
        assertThat(c.remarks()).anyMatch(r -> r.startsWith("It grows with airflow"));
        session.select(new Span(5, 20));
        session.exclude();
        until(session, () -> session.busyProperty().get().isEmpty());
        assertThat(session.comparisons().comparisonProperty().get()).isNotNull().isNotEqualTo(c);
        assertThat(session.historyProperty().get()).containsExactly("stretch taken out", "compared");
        session.undo(2);
        until(session, () -> session.busyProperty().get().isEmpty());
        assertThat(session.comparisons().comparisonProperty().get()).isNull();
        assertThat(session.driveProperty().get().log().excluded()).isEmpty();
        assertThat(session.historyProperty().get()).isEmpty();
    }

    @Test
    public void sharesOverAStretchAreMeansOfItsMoments() {
        session.open().demo();
        until(session, () -> session.driveProperty().get() != null);
        Drive d = session.driveProperty().get();
        Shares at = Shares.at(d, d.log().indexAt(20));
        Shares over = Shares.over(d, new Span(15, 25));
        int idle = nariz.family.metered.MeteredCircuits.IDLE.index();
        assertThat(over.phi()[idle]).isCloseTo(at.phi()[idle], within(0.05));
        assertThat(over.measured()).isCloseTo(0.89, within(0.03));
        assertThat(over.wanted()).isCloseTo(0.95, within(0.01));
        assertThat(Shares.over(d, new Span(-10, -5)).why()).isNotEmpty();
    }

    @Test
    public void stabsStandAtTheirMoments() {
        session.open().demo();
        until(session, () -> session.driveProperty().get() != null);
        TipInSeries s = session.driveProperty().get().tipIns();
        assertThat(s.events()).isNotEmpty();
        assertThat(s.near(s.events().getFirst().atS() + 0.5)).isZero();
        assertThat(s.near(20)).isEqualTo(-1);
        session.goTo(Stops.PUMP);
        double at = session.driveProperty().get().log().timeS()[session.cursorProperty().get()];
        assertThat(s.events()).anyMatch(e -> Math.abs(e.atS() - at) < 0.1);
    }
}
