package nariz.workbook;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import nariz.carburetor.InputProblem;
import nariz.carburetor.PartChange;
import nariz.carburetor.Stage;
import nariz.family.metered.MeteredParts;
import nariz.log.Channel;
import nariz.log.LogReader;
import nariz.log.Recording;
import nariz.testing.Samples;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

public class WorkbookTest {
    private static final List<PartChange> LARGER = List.of(new PartChange(MeteredParts.MAIN_JET, Stage.PRIMARY, 61, 63),
            new PartChange(MeteredParts.MAIN_JET, Stage.SECONDARY, 74, 76));

    private Path folder;
    private Path file;
    private Path log;

    @BeforeMethod
    void start() throws IOException {
        folder = Files.createTempDirectory("nariz");
        file = folder.resolve("garage.nariz");
        log = folder.resolve("drive.csv");
        Files.writeString(log, "# a comment\n" + Samples.log().replaceFirst(",afr\n", ",afr,event\n")
                .replaceFirst("\n30\\.0,(.*)\n", "\n30.0,$1,hill\n"));
    }

    @AfterMethod
    void clean() throws IOException {
        try (var all = Files.walk(folder)) {
            for (Path p : all.sorted(java.util.Comparator.reverseOrder()).toList()) {
                Files.delete(p);
            }
        }
    }

    private Recording recording() {
        return LogReader.record(log, null, () -> false, n -> { });
    }

    private Workbook.Run add(Workbook w) {
        Workbook.Vehicle v = w.vehicle("hill-climb estate");
        return w.addRun(w.addSheet(v.id(), Samples.sheet()), recording(), log, () -> false);
    }

    private static void assertEqual(Recording a, Recording b) {
        assertThat(b.channels()).isEqualTo(a.channels());
        for (Channel c : a.channels()) {
            assertThat(b.written(c)).containsExactly(a.written(c));
            assertThat(b.si(c)).containsExactly(a.si(c));
        }
        assertThat(b.marks()).isEqualTo(a.marks());
        assertThat(b.problems()).isEqualTo(a.problems());
        assertThat(b.preamble()).isEqualTo(a.preamble());
        assertThat(b.name()).isEqualTo(a.name());
        assertThat(b.headerLine()).isEqualTo(a.headerLine());
        assertThat((Object) b.startClockS()).isEqualTo(a.startClockS());
    }

    @Test
    public void whatWentInIsThereAfterOpeningAgain() throws IOException {
        try (Workbook w = Workbook.open(file)) {
            Workbook.Run r = add(w);
            w.exclusions().add(r.id(), 3.0, 5.5, "traffic");
            w.notes().add(r.vehicle(), Optional.of(r.id()), Optional.of(42.5), "first drive");
            w.lookedFor(r.id(), "vacuum-leak", true);
            w.addAdvice(r.id(), "balanced", "{}");
            w.remember(recording().plan());
        }
        try (Workbook w = Workbook.open(file)) {
            assertThat(w.readOnly()).isFalse();
            Workbook.Run r = w.runs().getFirst();
            assertThat(r.samples()).isEqualTo(1000);
            assertEqual(recording(), w.recording(r.id()));
            ByteArrayOutputStream raw = new ByteArrayOutputStream();
            assertThat(w.raw(r.id(), raw)).contains("drive.csv");
            assertThat(raw.toByteArray()).isEqualTo(Files.readAllBytes(log));
            assertThat(w.exclusions().of(r.id())).extracting(Exclusions.Excluded::reason).containsExactly("traffic");
            assertThat(w.notes().of(r.vehicle())).extracting(VehicleNotes.Note::text).containsExactly("first drive");
            assertThat(w.lookedFor(r.id())).containsExactly("vacuum-leak");
            assertThat(w.advice(r.id())).contains("{}");
            assertThat(w.profile(recording().plan().signature())).isPresent();
            assertThat(w.sheetJson(r.sheet())).isEqualTo(Samples.sheet());
        }
    }

    @Test
    public void sheetsAreAChainAndAreNeverChanged() {
        try (Workbook w = Workbook.open(file)) {
            Workbook.Vehicle v = w.vehicle("six");
            Workbook.Sheet a = w.addSheet(v.id(), Samples.sheet());
            assertThat(w.addSheet(v.id(), Samples.sheet())).isEqualTo(a);
            Workbook.Sheet b = w.addSheet(v.id(), Samples.sheet().replace("61 thou", "62 thou"));
            assertThat(w.sheets(v.id())).containsExactly(a, b);
            assertThatThrownBy(() -> w.handle().execute("UPDATE build_sheet SET json = ''"))
                    .hasMessageContaining("add a version");
            assertThatThrownBy(() -> w.handle().execute("INSERT INTO build_sheet (vehicle, previous, json, created) "
                    + "VALUES (?, ?, '', '')", v.id(), a.id())).hasMessageContaining("UNIQUE");
            assertThatThrownBy(() -> w.handle().execute("INSERT INTO mark (run, time, text) VALUES (99, 0, '')"))
                    .hasMessageContaining("FOREIGN KEY");
        }
    }

    @Test
    public void everythingDoneInASittingCanBeTakenBackAndBroughtBack() {
        try (Workbook w = Workbook.open(file)) {
            Workbook.Run r = add(w);
            w.exclusions().add(r.id(), 1, 2, "a");
            w.exclusions().remove(r.id(), w.exclusions().of(r.id()).getFirst());
            w.lookedFor(r.id(), "misfire", true);
            w.runRemoved(r.id(), true);
            assertThat(w.runs()).isEmpty();
            assertThat(w.undoTitle()).contains("removal of drive.csv");
            w.undo();
            assertThat(w.runs()).hasSize(1);
            w.undo();
            assertThat(w.lookedFor(r.id())).isEmpty();
            w.undo();
            assertThat(w.exclusions().of(r.id())).hasSize(1);
            w.undo();
            assertThat(w.exclusions().of(r.id())).isEmpty();
            w.undo();
            assertThat(w.runs()).isEmpty();
            assertThat(w.undoTitle()).isEmpty();
            w.undo();
            for (int i = 0; i < 4; i++) {
                w.redo();
            }
            assertThat(w.runs()).hasSize(1);
            assertThat(w.exclusions().of(r.id())).isEmpty();
            assertThat(w.lookedFor(r.id())).containsExactly("misfire");
            assertThat(w.redoTitle()).contains("removal of drive.csv");
        }
    }

    @Test
    public void secondWindowReadsOnlyAndSaysSo() {
        try (Workbook first = Workbook.open(file)) {
            Workbook.Run r = add(first);
            try (Workbook second = Workbook.open(file)) {
                assertThat(second.readOnly()).isTrue();
                assertEqual(recording(), second.recording(r.id()));
                assertThatThrownBy(() -> second.exclusions().add(r.id(), 0, 1, "x")).isInstanceOf(InputProblem.class)
                        .hasMessageContaining("open for reading only").hasMessageContaining("Close the other window");
                assertThat(second.undoTitle()).isEmpty();
            }
        }
        try (Workbook again = Workbook.open(file)) {
            assertThat(again.readOnly()).isFalse();
        }
    }

    @Test
    public void newerAndForeignAndDamagedFilesAreRefusedWithTheReason() throws IOException, SQLException {
        try (Workbook w = Workbook.open(file)) {
            w.vehicle("six");
        }
        Path newer = folder.resolve("newer.nariz");
        Files.copy(file, newer);
        try (Connection c = WorkbookFile.connect(newer, false); var s = c.createStatement()) {
            s.execute("PRAGMA user_version = 7");
        }
        assertThatThrownBy(() -> Workbook.open(newer)).isInstanceOf(InputProblem.class)
                .hasMessage("newer.nariz: found a workbook of version 7 where this program knows 4. It was written by "
                        + "a newer Nariz; open it with that one.");
        assertThatThrownBy(() -> Workbook.open(log)).isInstanceOf(InputProblem.class)
                .hasMessageContaining("a file that is no workbook");
        Path other = folder.resolve("other.nariz");
        try (Connection c = WorkbookFile.connect(other, false); var s = c.createStatement()) {
            s.execute("CREATE TABLE theirs (x)");
        }
        assertThatThrownBy(() -> Workbook.open(other)).isInstanceOf(InputProblem.class);
        Path cut = folder.resolve("cut.nariz");
        byte[] all = Files.readAllBytes(file);
        Files.write(cut, java.util.Arrays.copyOf(all, all.length / 3));
        assertThatThrownBy(() -> {
            try (Workbook w = Workbook.open(cut)) {
                w.runs();
                w.vehicles();
            }
        }).isInstanceOf(Exception.class);
    }

    @Test
    public void olderFileIsBroughtUpToDateAfterACopyIsSetAside() throws IOException, SQLException {
        try (Workbook w = Workbook.open(file)) {
            add(w);
        }
        Migrations.bringUpToDate(file, 5, "classpath:nariz/workbook/migrations", "classpath:nariz/workbook/next");
        Path copy = folder.resolve("garage.nariz.before-5-was-4");
        try (Workbook old = Workbook.open(copy)) {
            assertThat(old.runs()).hasSize(1);
        }
        try (Connection c = WorkbookFile.connect(file, false); var s = c.createStatement();
                var r = s.executeQuery("SELECT colour FROM vehicle")) {
            assertThat(r.next()).isTrue();
            assertThat(r.getString(1)).isEqualTo("unknown");
            assertThat(Migrations.pragma(c, "user_version")).isEqualTo(5);
        }
    }

    /** A workbook that was begun at once and one that was brought up step by step are the same inside. */
    @Test
    public void aNewWorkbookIsWhatTheScriptsMakeOfAnOldOne() throws IOException, SQLException {
        Workbook.open(file).close();
        Path stepped = folder.resolve("stepped.nariz");
        Migrations.bringUpToDate(stepped, Migrations.VERSION, "classpath:nariz/workbook/migrations");
        assertThat(schema(file)).isEqualTo(schema(stepped));
        try (var scripts = Files.list(Path.of("src/main/resources/nariz/workbook/migrations"))) {
            assertThat(scripts.count()).isEqualTo(Migrations.VERSION);
        }
    }

    private static List<String> schema(Path file) throws SQLException {
        List<String> out = new java.util.ArrayList<>();
        try (Connection c = WorkbookFile.connect(file, true); var s = c.createStatement();
                var r = s.executeQuery("SELECT sql FROM sqlite_master WHERE name NOT LIKE '%flyway%' ORDER BY name")) {
            while (r.next()) {
                out.add(String.valueOf(r.getString(1)).replaceAll("\\s+", " "));
            }
            out.add(Migrations.pragma(c, "user_version") + " " + Migrations.pragma(c, "application_id"));
        }
        return out;
    }

    @Test
    public void fileOfTheFirstVersionKeepsItsNotes() throws IOException, SQLException {
        Path scripts = Files.createDirectories(folder.resolve("scripts"));
        try (var in = Workbook.class.getResourceAsStream("migrations/V1__workbook.sql")) {
            Files.copy(in, scripts.resolve("V1__workbook.sql"));
        }
        Migrations.bringUpToDate(file, 1, "filesystem:" + scripts);
        try (Connection c = WorkbookFile.connect(file, false); var s = c.createStatement()) {
            s.executeUpdate("INSERT INTO vehicle VALUES (1, 'six', '2026-01-01T00:00:00Z')");
            s.executeUpdate("INSERT INTO note VALUES (1, 1, NULL, 'from before', '2026-01-01T00:00:00Z')");
        }
        try (Workbook w = Workbook.open(file)) {
            assertThat(w.notes().of(1)).extracting(VehicleNotes.Note::text, VehicleNotes.Note::atS)
                    .containsExactly(org.assertj.core.groups.Tuple.tuple("from before", Optional.empty()));
            assertThat(w.plans().of(1)).isEmpty();
        }
        assertThat(folder.resolve("garage.nariz.before-4-was-1")).exists();
    }

    @Test
    public void notesAndPlansComeAndGoAndComeBack() {
        try (Workbook w = Workbook.open(file)) {
            Workbook.Run r = add(w);
            w.notes().add(r.vehicle(), Optional.of(r.id()), Optional.of(12.0), "stumbles here");
            w.plans().add(w.sheets(r.vehicle()).getFirst(), "larger jets", LARGER);
            w.notes().remove(r.vehicle(), w.notes().of(r.vehicle()).getFirst());
            w.plans().remove(r.vehicle(), w.plans().of(r.vehicle()).getFirst());
            assertThat(w.notes().of(r.vehicle())).isEmpty();
            assertThat(w.plans().of(r.vehicle())).isEmpty();
            w.undo();
            w.undo();
        }
        try (Workbook w = Workbook.open(file)) {
            VehicleNotes.Note n = w.notes().of(1).getFirst();
            assertThat(n.text()).isEqualTo("stumbles here");
            assertThat(n.atS()).contains(12.0);
            PartPlans.PartPlan p = w.plans().of(1).getFirst();
            assertThat(p.name()).isEqualTo("larger jets");
            assertThat(p.changes()).extracting(c -> c.text().toString()).containsExactly(
                    "primary main jets: 61 thou to 63 thou", "secondary main jets: 74 thou to 76 thou");
            assertThatThrownBy(() -> w.notes().add(1, Optional.empty(), Optional.of(3.0), "where?")).isInstanceOf(
                    IllegalArgumentException.class).hasMessage("a note needs words, and a moment needs a run: "
                    + "\"where?\"");
        }
    }

    @Test
    public void whatWasChangedIsReadFromTheChainOfSheets() {
        try (Workbook w = Workbook.open(file)) {
            long v = w.vehicle("six").id();
            w.addSheet(v, Samples.sheet());
            w.addSheet(v, Samples.sheet().replace("61 thou", "63 thou").replace("2.375 turns", "2.5 turns"));
            w.addSheet(v, Samples.sheet().replace("61 thou", "63 thou").replace("2.375 turns", "2.5 turns")
                    .replace("17 C", "25 C"));
            assertThat(w.plans().made(v)).extracting(m -> m.changes().stream().map(c -> c.text().toString()).toList())
                    .containsExactly(List.of("primary mixture screws: 2.375 turns to 2.5 turns",
                            "primary main jets: 61 thou to 63 thou"), List.of());
        }
    }

    @Test
    public void cancelledImportLeavesNoTrace() {
        try (Workbook w = Workbook.open(file)) {
            Workbook.Sheet s = w.addSheet(w.vehicle("six").id(), Samples.sheet());
            Recording r = recording();
            assertThatThrownBy(() -> w.addRun(s, r, log, () -> true)).isInstanceOf(CancellationException.class);
            assertThat(w.runs()).isEmpty();
            for (String table : List.of("run", "chunk", "raw_file", "raw_part")) {
                assertThat(w.handle().createQuery("SELECT COUNT(*) FROM " + table).mapTo(Integer.class).one())
                        .as(table).isZero();
            }
        }
    }

    @Test
    public void sameFileTwiceIsStoredOnce() {
        try (Workbook w = Workbook.open(file)) {
            add(w);
            add(w);
            assertThat(w.runs()).hasSize(2);
            assertThat(w.handle().createQuery("SELECT COUNT(*) FROM raw_file").mapTo(Integer.class).one()).isOne();
        }
    }

    @Test
    public void dataPackageComesBackWhole() throws IOException {
        Path zip = folder.resolve("run.zip");
        Recording r = recording();
        Exchange.dataPackage(r, Samples.sheet(), zip);
        Exchange.Packed back = Exchange.dataPackage(zip);
        assertEqual(r, back.recording());
        assertThat(back.sheetJson()).isEqualTo(Samples.sheet());
        Path other = folder.resolve("other.zip");
        Files.write(other, new byte[] {'P', 'K', 5, 6});
        assertThatThrownBy(() -> Exchange.dataPackage(other)).isInstanceOf(InputProblem.class)
                .hasMessageContaining("other.zip").hasMessageContaining("is a whole zip");
    }

    @Test
    public void csvWithAUnitsRowIsReadAgain() throws IOException {
        Path csv = folder.resolve("out.csv");
        Recording r = recording();
        Exchange.csv(r, 20, 60, csv);
        assertThat(Files.readAllLines(csv).subList(0, 3)).containsExactly("time,rpm,vacuum,afr", "s,rpm,inhg,",
                "20," + (int) r.written(Channel.RPM)[200] + "," + r.written(Channel.VACUUM)[200] + ","
                        + r.written(Channel.AFR)[200]);
        Recording back = LogReader.record(csv, null, () -> false, n -> { });
        assertThat(back.size()).isEqualTo(401);
        assertThat(back.si(Channel.VACUUM)[0]).isEqualTo(r.si(Channel.VACUUM)[200]);
    }

    @Test
    public void wholeWorkbookGoesOutAsAFolderAndComesBackEqual() throws IOException {
        Path out = folder.resolve("out");
        Path again = folder.resolve("again");
        try (Workbook w = Workbook.open(file); Workbook copy = Workbook.open(folder.resolve("copy.nariz"))) {
            Workbook.Run r = add(w);
            w.addSheet(r.vehicle(), Samples.sheet().replace("61 thou", "63 thou"));
            w.exclusions().add(r.id(), 3, 4, "a lorry");
            w.notes().add(r.vehicle(), Optional.of(r.id()), Optional.of(12.25), "lambda λ and \"quotes\"");
            w.lookedFor(r.id(), "misfire", true);
            w.plans().add(w.sheets(r.vehicle()).getFirst(), "try larger jets", LARGER);
            w.remember(recording().plan());
            Exchange.folder(w, out);
            Exchange.read(out, copy);
            Exchange.folder(copy, again);
            assertEqual(w.recording(r.id()), copy.recording(r.id()));
            assertThatThrownBy(() -> Exchange.read(out, copy)).isInstanceOf(InputProblem.class)
                    .hasMessageContaining("new workbook");
        }
        try (var files = Files.walk(out)) {
            for (Path p : files.filter(Files::isRegularFile).toList()) {
                assertThat(again.resolve(out.relativize(p))).hasSameBinaryContentAs(p);
            }
        }
    }

    /** SQLite's own page limit answers just as a full disk does. */
    @Test
    public void fullDiskLeavesTheWorkbookAsItWas() {
        try (Workbook w = Workbook.open(file)) {
            Workbook.Run first = add(w);
            int pages = w.handle().createQuery("PRAGMA page_count").mapTo(Integer.class).one();
            w.handle().createQuery("PRAGMA max_page_count = " + pages).mapTo(Integer.class).one();
            assertThatThrownBy(() -> java.util.stream.IntStream.range(0, 9).forEach(i -> add(w))).isInstanceOf(
                    InputProblem.class).hasMessageContaining("FULL")
                    .hasMessageContaining("Make room on the disk");
            assertThat(w.runs()).extracting(Workbook.Run::id).contains(first.id());
            int before = w.runs().size();
            w.handle().createQuery("PRAGMA max_page_count = 1000000").mapTo(Integer.class).one();
            add(w);
            assertThat(w.runs()).hasSize(before + 1);
            assertThat(w.handle().createQuery("PRAGMA integrity_check").mapTo(String.class).one()).isEqualTo("ok");
        }
    }

    @Test
    public void folderThatCannotBeWrittenIsSaid() throws IOException {
        Path nowhere = folder.resolve("drive.csv").resolve("garage.nariz");
        assertThatThrownBy(() -> Workbook.open(nowhere)).isInstanceOf(InputProblem.class)
                .hasMessageStartingWith("garage.nariz: found");
        if (Files.isDirectory(Path.of("/proc"))) {
            // Not even the superuser may start a file there.
            assertThatThrownBy(() -> Workbook.open(Path.of("/proc/garage.nariz"))).isInstanceOf(InputProblem.class)
                    .hasMessageContaining("no workbook can be started").hasMessageContaining("disk is not full");
        }
    }
}
