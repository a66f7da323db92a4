package nariz.store;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
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
                    w.exclude(run.id(), 1, 2, "number " + i);
                    System.out.println(run.id());
                }
            }
        }
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
            Process p = new ProcessBuilder(Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                    "--enable-native-access=ALL-UNNAMED", "-cp", System.getProperty("surefire.test.class.path",
                    System.getProperty("java.class.path")), Victim.class.getName(), file.toString(), log.toString())
                    .redirectOutput(out.toFile()).redirectErrorStream(true).start();
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
}
