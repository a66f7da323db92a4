package nariz.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import nariz.sim.Demo;
import nariz.sim.StandInDevice;
import nariz.testing.Await;
import nariz.workbook.Workbook;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

/** {@code nariz device} and {@code nariz record}. */
public class LiveCommandsTest {
    private static final Pattern ADDRESS = Pattern.compile("tcp:127\\.0\\.0\\.1:\\d+");
    private Path folder;
    private Path sheet;

    @BeforeMethod
    void folder() throws IOException {
        folder = Files.createTempDirectory("nariz");
        sheet = folder.resolve("estate.json");
        Files.writeString(sheet, Demo.ESTATE.sheetJson());
    }

    private static int run(StringWriter out, String... args) {
        PrintWriter w = new PrintWriter(out, true);
        return NarizCommand.run(w, w, args);
    }

    @Test
    public void deviceIsRecordedIntoAWorkbookAndAFile() throws InterruptedException, IOException {
        StringWriter printed = new StringWriter();
        Thread device = Thread.ofPlatform().start(() -> run(printed, "device", "--tcp", "0", "--idle", "--hz", "50",
                "--speed", "4", "--sums", "--garbage", "0.02", "--dropouts", "0.02", "--for", "12"));
        Await.until("the address", () -> ADDRESS.matcher(printed.toString()).find());
        Matcher found = ADDRESS.matcher(printed.toString());
        assertThat(found.find()).isTrue();
        String address = found.group();
        StringWriter out = new StringWriter();
        Path csv = folder.resolve("out.csv");
        Path book = folder.resolve("g.nariz");
        assertThat(run(out, "record", "--from", address, "--workbook", book.toString(), "--build", sheet.toString(),
                "--for", "3", "--csv", csv.toString())).isZero();
        assertThat(out.toString()).contains("malformed", "run 1:");
        assertThat(Files.readAllLines(csv).getFirst()).startsWith("time (s),rpm");
        assertThat(Files.readAllLines(csv).size()).isGreaterThan(200);
        StringWriter again = new StringWriter();
        // The car is known now.
        assertThat(run(again, "record", "--from", address, "--workbook", book.toString(), "--for", "1.5")).isZero();
        try (Workbook w = Workbook.open(book)) {
            assertThat(w.runs()).hasSize(2);
            assertThat(w.recordings().unfinished()).isEmpty();
        }
        device.join(15_000);
        assertThat(printed.toString()).contains(" lines");
    }

    @Test
    public void whatCannotBeIsSaidWithItsRemedy() {
        for (List<String> bad : List.of(List.of("device"), List.of("device", "--tcp", "0", "--hz", "0"), List.of(
                "device", "--tcp", "0", "--car", "bus"), List.of("device", "--tcp", "99999"), List.of("device",
                        "--tcp", "0", "--build", sheet.toString()))) {
            StringWriter out = new StringWriter();
            assertThat(run(out, bad.toArray(String[]::new))).isEqualTo(2);
            assertThat(out.toString()).isNotBlank();
        }
        StringWriter out = new StringWriter();
        assertThat(run(out, "record", "--from", "nowhere", "--workbook", folder.resolve("x.nariz").toString(),
                "--build", sheet.toString())).isEqualTo(NarizCommand.UNUSABLE_INPUT);
        assertThat(out.toString()).contains("tcp:HOST:PORT");
        StringWriter which = new StringWriter();
        assertThat(run(which, "record", "--from", "tcp:127.0.0.1:1", "--workbook", folder.resolve("y.nariz")
                .toString())).isEqualTo(2);
        assertThat(which.toString()).contains("--vehicle");
        StringWriter serial = new StringWriter();
        assertThat(run(serial, "device", "--serial", "no-such-port")).isEqualTo(NarizCommand.UNUSABLE_INPUT);
        assertThat(serial.toString()).contains("no-such-port");
    }

    private static String said(Path file) {
        try {
            return Files.readString(file);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** Killed in the middle, twice: what had been written by then is a run the next time. */
    @Test
    public void killedWhileRecordingItLosesLessThanASecond() throws IOException, InterruptedException {
        Path book = folder.resolve("killed.nariz");
        try (StandInDevice d = StandInDevice.on(Demo.ESTATE.drive().log(), new StandInDevice.Manners(20, 5, 0, 0, false,
                true, 1))) {
            String address = d.listen(0).text();
            for (int round = 1; round <= 2; round++) {
                List<String> command = new ArrayList<>(List.of(Path.of(System.getProperty("java.home"), "bin", "java")
                        .toString(), "--enable-native-access=ALL-UNNAMED", "-cp", System.getProperty(
                                "surefire.test.class.path", System.getProperty("java.class.path")),
                        "nariz.cli.NarizCommand", "record", "--from", address, "--workbook", book.toString(),
                        "--build", sheet.toString()));
                Process p = new ProcessBuilder(command).redirectErrorStream(true).redirectOutput(folder.resolve(
                        "out" + round).toFile()).start();
                Path out = folder.resolve("out" + round);
                Await.until("the recording", () -> said(out).contains("recording tcp"));
                long before = d.printed();
                // Two and a half seconds of a hundred lines each.
                Await.until("lines", () -> d.printed() > before + 250);
                p.destroyForcibly();
                assertThat(p.waitFor(20, TimeUnit.SECONDS)).isTrue();
            }
        }
        assertThat(Files.readString(folder.resolve("out2"))).contains("run 1:");
        try (Workbook w = Workbook.open(book)) {
            assertThat(w.damage()).isEmpty();
            assertThat(w.runs()).hasSize(1);
            Workbook.Run second = w.recordings().finish(w.recordings().unfinished().getFirst());
            // A hundred lines a second for two and a half: no more than one second of them is missing.
            assertThat(second.samples()).isGreaterThan(150);
            assertThat(w.runs().getFirst().samples()).isGreaterThan(150);
        }
    }
}
