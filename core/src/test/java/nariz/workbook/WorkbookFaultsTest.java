package nariz.workbook;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import nariz.carburetor.InputProblem;
import nariz.log.LogProblem;
import nariz.log.LogReader;
import nariz.log.Recording;
import nariz.testing.Samples;
import nariz.text.Language;
import nariz.text.Message;
import nariz.text.Wording;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

/** What went wrong once: threads, long imports, damage, bombs, readers that wrote. */
public class WorkbookFaultsTest {
    private Path folder;
    private Path file;
    private Path log;

    @BeforeMethod
    void fresh() throws IOException {
        folder = Files.createTempDirectory("nariz");
        file = folder.resolve("garage.nariz");
        log = Files.writeString(folder.resolve("drive.csv"), Samples.log());
    }

    private Recording recording() {
        return LogReader.record(log, null, () -> false, n -> { });
    }

    private static Workbook.Sheet sheet(Workbook w) {
        return w.addSheet(w.vehicle("six").id(), Samples.sheet());
    }

    @Test
    public void notesFromManyThreadsAreAllKept() throws Exception {
        try (Workbook w = Workbook.open(file); ExecutorService threads = Executors.newFixedThreadPool(4)) {
            long run = w.addRun(sheet(w), recording(), log, () -> false).id();
            List<Future<?>> all = new ArrayList<>();
            for (int i = 0; i < 400; i++) {
                int n = i;
                all.add(threads.submit(() -> w.notes().add(1, Optional.of(run), Optional.of(1.0), "note " + n)));
            }
            for (Future<?> f : all) {
                f.get(60, TimeUnit.SECONDS);
            }
            assertThat(w.notes().of(1)).extracting(VehicleNotes.Note::text).hasSize(400).doesNotHaveDuplicates();
            assertThat(w.notes().of(1)).extracting(VehicleNotes.Note::id).doesNotHaveDuplicates();
        }
    }

    /** Asked in the middle of an import, from another thread: neither a question nor a note waits for its end. */
    @Test
    public void nothingWaitsForALongImport() {
        try (Workbook w = Workbook.open(file); ExecutorService other = Executors.newSingleThreadExecutor()) {
            Workbook.Sheet s = sheet(w);
            AtomicBoolean asked = new AtomicBoolean();
            w.addRun(s, recording(), log, () -> {
                if (asked.compareAndSet(false, true)) {
                    try {
                        assertThat(other.submit(w::runs).get(20, TimeUnit.SECONDS)).as("not yet whole").isEmpty();
                        other.submit(() -> w.notes().add(s.vehicle(), Optional.empty(), Optional.empty(), "meanwhile"))
                                .get(20, TimeUnit.SECONDS);
                    } catch (Exception e) {
                        throw new AssertionError(e);
                    }
                }
                return false;
            });
            assertThat(asked).isTrue();
            assertThat(w.runs()).hasSize(1);
            assertThat(w.notes().of(s.vehicle())).hasSize(1);
            assertThat(w.recording(1).size()).isEqualTo(recording().size());
        }
    }

    @Test
    public void importThatIsCancelledHalfwayLeavesNoTrace() {
        try (Workbook w = Workbook.open(file)) {
            Workbook.Sheet s = sheet(w);
            int[] asked = new int[1];
            assertThatThrownBy(() -> w.addRun(s, recording(), log, () -> ++asked[0] > 3)).isInstanceOf(
                    CancellationException.class);
            for (String table : List.of("run", "chunk", "raw_file", "raw_part", "mark")) {
                assertThat(w.handle().createQuery("SELECT COUNT(*) FROM " + table).mapTo(Integer.class).one())
                        .as(table).isZero();
            }
        }
    }

    @Test
    public void importThatACrashCutShortIsForgottenWhenTheWorkbookIsOpened() {
        try (Workbook w = Workbook.open(file)) {
            w.addRun(sheet(w), recording(), log, () -> false);
            w.handle().execute("UPDATE run SET deleted = 2");
        }
        try (Workbook w = Workbook.open(file)) {
            assertThat(w.runs()).isEmpty();
            assertThat(w.handle().createQuery("SELECT COUNT(*) FROM raw_part").mapTo(Integer.class).one()).isZero();
            assertThat(w.addRun(sheet(w), recording(), log, () -> false).samples()).isPositive();
        }
    }

    @Test
    public void noteOnAWholeRunStaysOnTheWholeWhenItIsReworded() {
        try (Workbook w = Workbook.open(file)) {
            long run = w.addRun(sheet(w), recording(), log, () -> false).id();
            VehicleNotes.Note n = w.notes().add(1, Optional.of(run), Optional.empty(), "windy");
            w.notes().reword(n, "windy and cold");
            assertThat(w.notes().of(1)).containsExactly(new VehicleNotes.Note(n.id(), n.run(), Optional.empty(),
                    "windy and cold", n.created()));
            w.undo();
            assertThat(w.notes().of(1)).containsExactly(n);
        }
    }

    @Test
    public void damagedPartIsToldWithTheNameOfTheFile() {
        try (Workbook w = Workbook.open(file)) {
            long run = w.addRun(sheet(w), recording(), log, () -> false).id();
            w.handle().execute("UPDATE chunk SET packed = x'0000ffff0102' WHERE channel = 'rpm'");
            assertThatThrownBy(() -> w.recording(run)).isInstanceOf(InputProblem.class).hasMessageContaining(
                    "garage.nariz").hasMessageContaining("damaged");
            assertThat(w.runs()).hasSize(1);
        }
    }

    @Test
    public void lookingIntoAWorkbookWritesNothing() throws IOException {
        try (Workbook w = Workbook.open(file)) {
            w.addRun(sheet(w), recording(), log, () -> false);
        }
        Files.deleteIfExists(folder.resolve("garage.nariz.lock"));
        byte[] before = Files.readAllBytes(file);
        try (Workbook w = Workbook.openToRead(file); Workbook writer = Workbook.open(file)) {
            assertThat(w.runs()).hasSize(1);
            assertThat(w.readOnly()).isTrue();
            assertThat(writer.readOnly()).as("a reader takes no lock").isFalse();
            assertThatThrownBy(() -> w.vehicle("new")).isInstanceOf(InputProblem.class);
        }
        assertThat(Files.readAllBytes(file)).isEqualTo(before);
    }

    @Test
    public void problemsOfAnImportAreKeptAsCodesAndToldInAnyLanguage() throws IOException {
        Files.writeString(log, Samples.log().replaceFirst("\n[^\n]*\n", "\n0.00,x,17,13.5\n"));
        try (Workbook w = Workbook.open(file)) {
            Recording r = recording();
            long run = w.addRun(sheet(w), r, log, () -> false).id();
            List<LogProblem> kept = w.recording(run).problems();
            assertThat(kept).isEqualTo(r.problems()).isNotEmpty();
            assertThat(Wording.ENGLISH.in(Language.SPANISH).text(kept.getFirst().text())).startsWith("línea");
        }
        String old = "[{\"line\":3,\"column\":2,\"channel\":\"rpm\",\"found\":\"as it was\",\"done\":\"left out\"}]";
        assertThat(Problems.parse(old)).containsExactly(new LogProblem(3, 2, "rpm", Message.literal("as it was"),
                Message.literal("left out")));
    }

    private Path zip(String... entries) throws IOException {
        Path zip = folder.resolve("some.zip");
        try (ZipOutputStream out = new ZipOutputStream(Files.newOutputStream(zip))) {
            for (String e : entries) {
                out.putNextEntry(new ZipEntry(e));
                noughts(out);
            }
        }
        return zip;
    }

    private static void noughts(OutputStream out) throws IOException {
        byte[] block = new byte[1 << 20];
        Arrays.fill(block, (byte) '0');
        for (int i = 0; i < 64; i++) {
            out.write(block);
        }
    }

    /** 64 MB of noughts an entry, packed to 64 kB: of another zip nothing is unpacked, of a package only so much. */
    @Test
    public void zipThatUnpacksToFarTooMuchIsRefused() throws IOException {
        assertThatThrownBy(() -> Exchange.dataPackage(zip("a.bin", "b.bin"))).isInstanceOf(InputProblem.class)
                .hasMessageContaining("without datapackage.json");
        assertThatThrownBy(() -> Exchange.dataPackage(zip("datapackage.json", "profile.json", "readings.csv",
                "build-sheet.json"))).isInstanceOf(InputProblem.class).hasMessageContaining(
                "unpacks to far more than readings do");
        Path whole = folder.resolve("whole.zip");
        Exchange.dataPackage(recording(), Samples.sheet(), whole);
        Path bomb = folder.resolve("bomb.zip");
        try (ZipOutputStream out = new ZipOutputStream(Files.newOutputStream(bomb));
                java.util.zip.ZipFile in = new java.util.zip.ZipFile(whole.toFile())) {
            for (String e : List.of("datapackage.json", "profile.json", "build-sheet.json")) {
                out.putNextEntry(new ZipEntry(e));
                in.getInputStream(in.getEntry(e)).transferTo(out);
            }
            out.putNextEntry(new ZipEntry("readings.csv"));
            new ByteArrayInputStream("time,rpm\n".getBytes(StandardCharsets.UTF_8)).transferTo(out);
            noughts(out);
        }
        assertThatThrownBy(() -> Exchange.dataPackage(bomb)).isInstanceOf(InputProblem.class);
        assertThat(Exchange.dataPackage(whole).recording().size()).isEqualTo(recording().size());
    }

    @Test
    public void fileThatCannotBeWrittenWholeLeavesWhatWasThere() throws IOException {
        Path kept = Files.writeString(folder.resolve("kept.txt"), "old");
        assertThatThrownBy(() -> AtomicFile.write(kept, out -> {
            out.write(1);
            throw new IOException("disk full");
        })).isInstanceOf(IOException.class);
        assertThat(kept).hasContent("old");
        try (var left = Files.list(folder)) {
            assertThat(left.filter(p -> p.toString().endsWith(".part"))).isEmpty();
        }
    }
}
