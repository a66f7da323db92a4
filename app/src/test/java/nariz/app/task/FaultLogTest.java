package nariz.app.task;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.testng.annotations.Test;

public class FaultLogTest {
    @Test
    public void faultIsWrittenDownWithWhereItCameFromAndOldFilesGo() throws IOException {
        Path folder = Files.createTempDirectory("nariz 100 %").resolve("logs");
        FaultLog log = FaultLog.in(folder);
        try {
            log.report("a test", new IllegalStateException("made up"));
            assertThat(log.file().orElseThrow()).content().contains("a test").contains("made up").contains(
                    "FaultLogTest");
            for (int i = 0; i < 2000; i++) {
                log.report("again", new IllegalStateException("number " + i));
            }
        } finally {
            log.close();
        }
        try (var files = Files.list(folder)) {
            assertThat(files.filter(f -> f.toString().endsWith(".log"))).hasSizeBetween(2, 3).allMatch(f -> f.toFile()
                    .length() < 600_000);
        }
    }

    @Test
    public void placeThatCannotBeWrittenIsNoReasonToStop() throws IOException {
        Path file = Files.createTempFile("nariz", ".txt");
        FaultLog log = FaultLog.in(file.resolve("logs"));
        log.report("a test", new IllegalStateException());
        assertThat(log.file()).isEmpty();
    }
}
