package nariz.workbook;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import nariz.log.Channel;
import nariz.log.LogReader;
import nariz.log.Recording;
import nariz.testing.Samples;
import org.testng.annotations.Test;

/** Another process imports, edits and is killed without warning, again and again; the workbook must always be sound. */
public class CrashTest {
    private static final int KILLS = 14;
    private static final int NOTES = 1000;

    /** What the other process does until it is killed. */
    public static final class Victim {
        private Victim() {
        }

        /**
         * Imports and edits for ever.
         *
         * @param args workbook, log
         */
        public static void main(String[] args) {
            Path log = Path.of(args[1]);
            Recording r = LogReader.record(log, null, () -> false, n -> { });
            try (Workbook w = Workbook.open(Path.of(args[0]))) {
                Workbook.Sheet sheet = w.addSheet(w.vehicle("six").id(), Samples.sheet());
                for (int i = 0; ; i++) {
                    Workbook.Run run = w.addRun(sheet, r, log, () -> false);
                    w.exclusions().add(run.id(), 1, 2, "number " + i);
                    System.out.println(run.id());
                }
            }
        }
    }

    /** Opens a workbook of an older version, which brings it up to date, and waits. */
    public static final class Opener {
        private Opener() {
        }

        /**
         * Opens.
         *
         * @param args workbook
         * @throws InterruptedException never
         */
        public static void main(String[] args) throws InterruptedException {
            try (Workbook w = Workbook.open(Path.of(args[0]))) {
                System.out.println(w.notes().of(1).size());
                Thread.sleep(60_000);
            }
        }
    }

    private static Process start(Class<?> main, Path out, Path... args) throws IOException {
        List<String> command = new ArrayList<>(List.of(Path.of(System.getProperty("java.home"), "bin", "java")
                .toString(), "--enable-native-access=ALL-UNNAMED", "-cp", System.getProperty(
                "surefire.test.class.path", System.getProperty("java.class.path")), main.getName()));
        for (Path a : args) {
            command.add(a.toString());
        }
        return new ProcessBuilder(command).redirectOutput(out.toFile()).redirectErrorStream(true).start();
    }

    /** Whole lines only: the last one may have been cut by the kill. */
    private static List<String> said(Path out) throws IOException {
        String text = Files.readString(out);
        return text.substring(0, text.lastIndexOf('\n') + 1).lines().filter(l -> l.matches("[0-9]+")).toList();
    }

    @Test
    public void killedAtAnyMomentTheWorkbookIsWholeAndKeepsWhatWasSaid() throws IOException, InterruptedException {
        Path folder = Files.createTempDirectory("nariz");
        Path file = folder.resolve("garage.nariz");
        Path log = folder.resolve("drive.csv");
        Files.writeString(log, Samples.log());
        Recording good = LogReader.record(log, null, () -> false, n -> { });
        Random random = new Random(8);
        long said = 0;
        for (int k = 0; k < KILLS; k++) {
            Path out = folder.resolve("said-" + k);
            Process p = start(Victim.class, out, file, log);
            if (k % 2 == 0) {
                // Into the middle of its work; otherwise into its start and the making of the file.
                for (int i = 0; i < 200 && said(out).isEmpty(); i++) {
                    p.waitFor(50, TimeUnit.MILLISECONDS);
                }
            }
            p.waitFor(random.nextInt(k % 2 == 0 ? 400 : 1500), TimeUnit.MILLISECONDS);
            p.destroyForcibly().waitFor();
            List<String> lines = said(out);
            said = lines.isEmpty() ? said : Math.max(said, Long.parseLong(lines.getLast()));
            if (!Files.exists(file)) {
                continue;
            }
            try (Workbook w = Workbook.open(file)) {
                assertThat(w.readOnly()).isFalse();
                assertThat(w.handle().createQuery("PRAGMA integrity_check").mapTo(String.class).one()).isEqualTo("ok");
                assertThat(w.handle().createQuery("PRAGMA foreign_key_check").mapToMap().list()).isEmpty();
                List<Workbook.Run> runs = w.runs();
                assertThat(runs.stream().mapToLong(Workbook.Run::id).max().orElse(0)).isGreaterThanOrEqualTo(said);
                if (!runs.isEmpty()) {
                    assertThat(w.recording(runs.getFirst().id()).written(Channel.RPM))
                            .containsExactly(good.written(Channel.RPM));
                }
            }
        }
        assertThat(said).as("runs imported between kills").isGreaterThan(5);
    }

    /** A file of the first version with a thousand notes, opened again and again by processes that are killed. */
    @Test
    public void killedWhileItIsBroughtUpToDateAnOlderWorkbookLosesNothing() throws IOException, InterruptedException,
            SQLException {
        Path folder = Files.createTempDirectory("nariz");
        Path old = folder.resolve("old.nariz");
        Path scripts = Files.createDirectories(folder.resolve("scripts"));
        try (var in = Workbook.class.getResourceAsStream("migrations/V1__workbook.sql")) {
            Files.copy(in, scripts.resolve("V1__workbook.sql"));
        }
        Migrations.bringUpToDate(old, 1, "filesystem:" + scripts);
        try (Connection c = WorkbookFile.connect(old, false); var s = c.createStatement()) {
            s.executeUpdate("INSERT INTO vehicle VALUES (1, 'six', '2026-01-01T00:00:00Z')");
            for (int i = 1; i <= NOTES; i++) {
                s.executeUpdate("INSERT INTO note VALUES (" + i + ", 1, NULL, 'note " + i
                        + "', '2026-01-01T00:00:00Z')");
            }
        }
        long whole = untilOpen(folder, Files.copy(old, folder.resolve("first.nariz")));
        Random random = new Random(9);
        Path file = folder.resolve("garage.nariz");
        for (int k = 0; k < KILLS; k++) {
            if (k % 3 == 0) {
                // Otherwise the next process goes on with what the killed one left.
                Files.copy(old, file, StandardCopyOption.REPLACE_EXISTING);
                for (String end : List.of("-wal", "-shm")) {
                    Files.deleteIfExists(file.resolveSibling(file.getFileName() + end));
                }
            }
            Process p = start(Opener.class, folder.resolve("opened-" + k), file);
            p.waitFor((long) (whole * (0.3 + 0.8 * random.nextDouble())), TimeUnit.MILLISECONDS);
            p.destroyForcibly().waitFor();
            Path looked = folder.resolve("looked-" + k + ".nariz");
            Files.copy(file, looked);
            for (String end : List.of("-wal", "-shm")) {
                Path log = file.resolveSibling(file.getFileName() + end);
                if (Files.exists(log)) {
                    Files.copy(log, looked.resolveSibling(looked.getFileName() + end));
                }
            }
            try (Workbook w = Workbook.open(looked)) {
                assertThat(w.handle().createQuery("PRAGMA integrity_check").mapTo(String.class).one()).isEqualTo("ok");
                assertThat(w.notes().of(1)).as("notes after kill %d", k).hasSize(NOTES);
                assertThat(w.plans().of(1)).isEmpty();
            }
        }
    }

    /** How long a process takes until it has the workbook open, ms. */
    private static long untilOpen(Path folder, Path file) throws IOException, InterruptedException {
        long start = System.nanoTime();
        Path out = folder.resolve("first");
        Process p = start(Opener.class, out, file);
        for (int i = 0; i < 600 && said(out).isEmpty(); i++) {
            p.waitFor(25, TimeUnit.MILLISECONDS);
        }
        p.destroyForcibly().waitFor();
        assertThat(said(out)).containsExactly(String.valueOf(NOTES));
        return (System.nanoTime() - start) / 1_000_000;
    }
}
