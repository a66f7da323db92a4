package nariz.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;
import nariz.carburetor.BuildSheetReader;
import nariz.log.LogWriter;
import nariz.sim.DemoDrive;
import nariz.testing.Malformed;
import nariz.testing.Samples;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

public class NarizCommandTest {
    private final StringWriter out = new StringWriter();
    private final StringWriter err = new StringWriter();
    private Path folder;

    @BeforeMethod
    void start() throws IOException {
        folder = Files.createTempDirectory("nariz");
        out.getBuffer().setLength(0);
        err.getBuffer().setLength(0);
    }

    @AfterMethod
    void clean() throws IOException {
        try (Stream<Path> all = Files.walk(folder)) {
            for (Path p : all.sorted(Comparator.reverseOrder()).toList()) {
                Files.delete(p);
            }
        }
    }

    private int run(String... args) {
        return NarizCommand.run(new PrintWriter(out, true), new PrintWriter(err, true), args);
    }

    private List<String> files() throws IOException {
        try (Stream<Path> all = Files.list(folder)) {
            return all.map(p -> p.getFileName().toString()).sorted().toList();
        }
    }

    @Test
    public void demoGoesRoundFromFileToVerdict() throws IOException {
        assertThat(run("demo-log", "--out", folder.toString())).isZero();
        Path json = folder.resolve("advice.json");
        int code = run("analyze", "--build", folder.resolve("hillclimb-estate.json").toString(), "--log",
                folder.resolve("hillclimb-estate.csv").toString(), "--json", json.toString());
        assertThat(code).as(err.toString()).isZero();
        assertThat(out.toString()).contains("The transfer circuit is").contains("idle feed restrictions");
        assertThat(Files.readString(json)).contains("\"format\" : \"nariz-advice/1\"")
                .contains("\"part\" : \"idle-feed-restriction\"").contains("\"part\" : \"power-valve-rating\"");
        assertThat(files()).containsExactly("advice.json", "hillclimb-estate.csv", "hillclimb-estate.json");
    }

    @Test
    public void wrongArgumentsEndWithTwo() {
        assertThat(run("analyze", "--build", "x.json")).isEqualTo(2);
        assertThat(err.toString()).contains("--log");
        assertThat(run("frobnicate")).isEqualTo(2);
        assertThat(run("analyze", "--build", "x", "--log", "y", "--strategy", "fast")).isEqualTo(2);
        assertThat(err.toString()).contains("balanced, economy, climb");
    }

    @Test
    public void missingFileEndsWithThree() {
        assertThat(run("analyze", "--build", folder.resolve("no.json").toString(), "--log", "no.csv")).isEqualTo(3);
        assertThat(err.toString()).contains("no.json").contains("Check that it exists");
    }

    @Test
    public void everyBadFileEndsWithThreeOneLineAndNothingWritten() throws IOException {
        Path sheet = folder.resolve("sheet.json");
        Path log = folder.resolve("log.csv");
        for (Malformed.Case c : Malformed.all()) {
            Files.write(sheet, c.sheet() ? c.content() : Samples.sheet().getBytes(
                    java.nio.charset.StandardCharsets.UTF_8));
            Files.write(log, c.sheet() ? Samples.log().getBytes(java.nio.charset.StandardCharsets.UTF_8)
                    : c.content());
            err.getBuffer().setLength(0);
            int code = run("analyze", "--build", sheet.toString(), "--log", log.toString(), "--json",
                    folder.resolve("out.json").toString());
            assertThat(code).as(c.toString()).isEqualTo(3);
            assertThat(err.toString().strip().lines()).as(c.toString()).hasSize(1);
            assertThat(files()).as(c.toString()).containsExactly("log.csv", "sheet.json");
        }
    }

    @Test
    public void resultForAFolderThatIsNotThereEndsWithThree() throws IOException {
        assertThat(run("demo-log", "--out", folder.toString())).isZero();
        int code = run("analyze", "--build", folder.resolve("hillclimb-estate.json").toString(), "--log",
                folder.resolve("hillclimb-estate.csv").toString(), "--json",
                folder.resolve("none/advice.json").toString());
        assertThat(code).isEqualTo(3);
        assertThat(err.toString()).contains("folder that does not exist");
    }

    @Test
    public void helpSpeaksOfEveryCommand() {
        assertThat(run()).isZero();
        assertThat(out.toString()).contains("analyze").contains("predict").contains("demo-log").contains("accuracy");
    }

    @Test
    public void alteredEnginesWantTheFolderTheyComeFrom() {
        assertThat(run("accuracy", "--altered", "3")).isEqualTo(2);
        assertThat(err.toString()).contains("found --altered 3").contains("--reference");
        assertThat(run("accuracy", "--altered", "-1")).isEqualTo(2);
        assertThat(run("accuracy", "--faults", "3")).isEqualTo(2);
        assertThat(err.toString()).contains("found --faults 3");
        assertThat(run("accuracy", "--reference", ".", "--altered", "1", "--faults", "1")).isEqualTo(2);
        assertThat(err.toString()).contains("give one of them");
    }

    @Test
    public void accuracyPrintsOneRowACase() {
        assertThat(run("accuracy", "--family", "strangers", "--usual-sizes")).isEqualTo(2);
        assertThat(err.toString()).contains("--usual-sizes", "stack-jet");
        assertThat(run("accuracy", "--first", "2", "--count", "1")).isZero();
        assertThat(out.toString().lines().filter(l -> l.startsWith("| 2 "))).hasSize(1);
        assertThat(out.toString()).contains("worst error blamed on the right circuit");
    }

    @Test
    public void adviceCanBeAppliedReadAgainAndScored() throws IOException {
        assertThat(run("demo-log", "--out", folder.toString())).isZero();
        Path sheet = folder.resolve("hillclimb-estate.json");
        Path log = folder.resolve("hillclimb-estate.csv");
        Path first = folder.resolve("first.json");
        assertThat(run("analyze", "--build", sheet.toString(), "--log", log.toString(), "--json", first.toString()))
                .isZero();
        Path after = folder.resolve("after.json");
        Files.writeString(after, Files.readString(sheet).replace("\"37 thou\"", "\"34 thou\"")
                .replace("\"3.5 inHg\"", "\"6.5 inHg\""));
        assertThat(run("analyze", "--build", after.toString(), "--log", log.toString(), "--previous",
                first.toString())).as(err.toString()).isZero();
        assertThat(out.toString()).contains("last round").contains("not as predicted");
        assertThat(run("analyze", "--build", after.toString(), "--log", log.toString(), "--previous",
                sheet.toString())).isEqualTo(3);
        assertThat(err.toString()).contains("hillclimb-estate.json").contains("nariz-build/1");
    }

    @Test
    public void onlySizesOnTheTunersLadderAreProposed() throws IOException {
        assertThat(run("demo-log", "--out", folder.toString())).isZero();
        Path kit = folder.resolve("kit.json");
        Files.writeString(kit, "{\"format\": \"nariz-kit/1\", \"have\": {\"main-jet\": [\"60 thou\"]}, "
                + "\"ladder\": {\"power-valve-rating\": [\"2.5 inHg\", \"5.5 inHg\"]}}");
        String[] args = {"analyze", "--build", folder.resolve("hillclimb-estate.json").toString(), "--log",
            folder.resolve("hillclimb-estate.csv").toString(), "--kit", kit.toString()};
        assertThat(run(args)).as(err.toString()).isZero();
        assertThat(out.toString()).contains("3.5 inHg to 5.5 inHg").doesNotContain("to 6.5 inHg\n");
        Files.writeString(kit, "{\"format\": \"nariz-kit/1\", \"have\": {\"main-jet\": [60]}}");
        assertThat(run(args)).isEqualTo(3);
        assertThat(err.toString()).contains("kit.json").contains("60 thou");
    }

    @Test
    public void predictSaysWhatTheSameDriveWouldShow() throws IOException {
        assertThat(run("demo-log", "--out", folder.toString())).isZero();
        String sheet = folder.resolve("hillclimb-estate.json").toString();
        String log = folder.resolve("hillclimb-estate.csv").toString();
        Path json = folder.resolve("p.json");
        assertThat(run("predict", "--build", sheet, "--log", log, "--change",
                "idle-feed-restriction=34,power-valve-rating=6.5", "--json", json.toString())).as(err.toString())
                .isZero();
        assertThat(out.toString()).contains("37 thou to 34 thou").contains("3.5 inHg to 6.5 inHg").contains("idle");
        assertThat(Files.readString(json)).startsWith("{\"format\":\"nariz-prediction/1\"");
        assertThat(run("predict", "--build", sheet, "--log", log, "--change", "choke=3")).isEqualTo(2);
        assertThat(err.toString()).contains("choke=3").contains("main-jet");
        assertThat(run("predict", "--build", sheet, "--log", log)).isEqualTo(2);
    }

    @Test
    public void seriesLaysDrivesOfOneCarTogether() throws IOException {
        assertThat(run("demo-log", "--out", folder.toString())).isZero();
        Path sheet = folder.resolve("hillclimb-estate.json");
        Path log = folder.resolve("hillclimb-estate.csv");
        Path other = folder.resolve("other.json");
        Files.writeString(other, Files.readString(sheet).replace("3.5 inHg", "6.5 inHg"));
        Path second = folder.resolve("second.csv");
        LogWriter.write(DemoDrive.again(BuildSheetReader.read(other), 1).log(), second);
        Path json = folder.resolve("series.json");
        assertThat(run("series", "--trial", sheet.toString(), log.toString(), "--trial", other.toString(),
                second.toString(), "--json", json.toString())).as(err.toString()).isZero();
        assertThat(out.toString()).contains("primary power valve").contains("6.5 inHg").contains("* second.csv");
        assertThat(Files.readString(json)).contains("nariz-series/1");
        assertThat(run("series", "--trial", sheet.toString(), log.toString())).isNotZero();
        assertThat(err.toString()).contains("two drives or more");
        assertThat(run("series", "--trial", sheet.toString(), log.toString(), "--trial", sheet.toString(),
                second.toString())).isNotZero();
        assertThat(err.toString()).contains("no part that differs");
    }

    @Test
    public void sweepReadsNotedPointsWithAndWithoutTheBox() throws IOException {
        assertThat(run("demo-log", "--out", folder.toString())).isZero();
        String sheet = folder.resolve("hillclimb-estate.json").toString();
        Path with = folder.resolve("with.txt");
        Path without = folder.resolve("without.txt");
        Files.writeString(with, "2000 19 14.2\n3000 19.5 13.9\n4000 20 13.5\n5000 20 12.9\n");
        Files.writeString(without, "2000 19 14.2\n3000 19.5 14.1\n4000 20 14.1\n5000 20 14.1\n");
        assertThat(run("sweep", "--build", sheet, "--log", with.toString(), "--without", without.toString()))
                .as(err.toString()).isZero();
        assertThat(out.toString()).contains("5000 rpm").contains("the box throttles").contains("say nothing here");
        assertThat(run("sweep", "--build", sheet, "--log", folder.resolve("hillclimb-estate.csv").toString()))
                .isNotZero();
        assertThat(err.toString()).contains("car standing");
    }

    @Test
    public void misspeltCheckIsRefused() {
        assertThat(run("analyze", "--build", "x", "--log", "y", "--checked", "leak")).isEqualTo(2);
        assertThat(err.toString()).contains("vacuum-leak").contains("pump-slack");
    }
}
