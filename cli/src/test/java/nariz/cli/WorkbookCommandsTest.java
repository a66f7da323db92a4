package nariz.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.networknt.schema.InputFormat;
import com.networknt.schema.Schema;
import com.networknt.schema.SchemaRegistry;
import com.networknt.schema.SpecificationVersion;
import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import nariz.testing.Samples;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;
import tools.jackson.databind.json.JsonMapper;

/** info, check, import and export, as a person would chain them. */
public class WorkbookCommandsTest {
    private final StringWriter out = new StringWriter();
    private final StringWriter err = new StringWriter();
    private Path folder;

    @BeforeMethod
    void start() throws IOException {
        folder = Files.createTempDirectory("nariz");
        Files.writeString(folder.resolve("six.json"), Samples.sheet());
        Files.writeString(folder.resolve("drive.csv"), Samples.log());
        Files.writeString(folder.resolve("odd.csv"), Samples.log("Time,RPM,Vacuum,Wideband\n", ','));
        clear();
    }

    @AfterMethod
    void clean() throws IOException {
        try (Stream<Path> all = Files.walk(folder)) {
            for (Path p : all.sorted(Comparator.reverseOrder()).toList()) {
                Files.delete(p);
            }
        }
    }

    private void clear() {
        out.getBuffer().setLength(0);
        err.getBuffer().setLength(0);
    }

    private String at(String name) {
        return folder.resolve(name).toString();
    }

    private int run(String... args) {
        return NarizCommand.run(new PrintWriter(out, true), new PrintWriter(err, true), args);
    }

    @Test
    public void infoShowsWhatEveryColumnSeemsToBeAndWritesAProfileThatReadsIt() throws IOException {
        assertThat(run("info", at("odd.csv"), "--write-profile", at("logger.json"))).isZero();
        assertThat(out.toString()).contains("Vacuum").containsPattern("vacuum\\s+inhg\\s+likely")
                .containsPattern("afr\\s+likely").contains("--guess");
        assertThat(run("analyze", "--build", at("six.json"), "--log", at("odd.csv"))).isEqualTo(3);
        assertThat(err.toString()).contains("no unit for manifold vacuum");
        clear();
        assertThat(run("check", at("odd.csv"), "--profile", at("logger.json"))).as(err.toString()).isZero();
        assertThat(out.toString()).startsWith("odd.csv: 1000 rows over 99.9 s, 4 channels");
        assertThat(run("check", at("odd.csv"), "--columns", "3=vacuum:inhg,4=afr")).isZero();
        assertThat(run("check", at("odd.csv"), "--columns", "3=vacuum:inhg")).isEqualTo(3);
        assertThat(err.toString()).contains("no column for lambda or AFR");
        assertThat(run("check", at("odd.csv"), "--columns", "3=pressure")).isEqualTo(2);
        assertThat(err.toString()).contains("is not like 3=vacuum:inhg");
    }

    @Test
    public void checkAsJsonNamesLineAndColumn() throws IOException {
        Files.writeString(folder.resolve("bad.csv"), Samples.log().replaceFirst(",[0-9.]+\n", ",oops\n")
                .replaceFirst("afr\n", "afr\n"));
        assertThat(run("check", "--json", at("bad.csv"))).as(err.toString()).isZero();
        Map<?, ?> root = JsonMapper.builder().build().readValue(out.toString(), Map.class);
        assertThat(root.get("format")).isEqualTo("nariz-check/1");
        assertThat(((Map<?, ?>) ((List<?>) root.get("problems")).getFirst()).get("line")).isEqualTo(2);
        assertThat(((Map<?, ?>) ((List<?>) root.get("problems")).getFirst()).get("column")).isEqualTo(4);
        Schema schema = SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12)
                .getSchema(Files.readString(Path.of("../docs/formats/check.schema.json")), InputFormat.JSON);
        assertThat(schema.validate(out.toString(), InputFormat.JSON)).isEmpty();
        assertThat(schema.validate(out.toString().replace("\"line\"", "\"row\""), InputFormat.JSON)).isNotEmpty();
    }

    @Test
    public void driveGoesIntoTheWorkbookAndOutAgainEveryWay() throws IOException {
        assertThat(run("import", at("drive.csv"), "--build", at("six.json"), "--workbook", at("g.nariz")))
                .as(err.toString()).isZero();
        assertThat(out.toString()).isEqualTo("run 1 of test six: 1000 rows over 100 s, 0 cells or rows kept out\n");
        clear();
        assertThat(run("info", at("g.nariz"))).isZero();
        assertThat(out.toString()).contains("1 vehicles, 1 runs").contains("run 1").contains("drive.csv")
                .doesNotContain("reading only");
        assertThat(run("export", "--workbook", at("g.nariz"), "--run", "1", "--out", at("raw"), "--raw")).isZero();
        assertThat(folder.resolve("raw")).hasSameBinaryContentAs(folder.resolve("drive.csv"));
        assertThat(run("export", "--workbook", at("g.nariz"), "--run", "1", "--out", at("r.zip"))).isZero();
        assertThat(run("import", at("r.zip"), "--workbook", at("g.nariz"))).as(err.toString()).isZero();
        assertThat(run("export", "--workbook", at("g.nariz"), "--run", "2", "--out", at("cut.csv"), "--from", "10",
                "--to", "95")).isZero();
        assertThat(Files.readAllLines(folder.resolve("cut.csv"))).hasSize(853).startsWith("time,rpm,vacuum,afr");
        assertThat(run("analyze", "--build", at("six.json"), "--log", at("cut.csv"))).as(err.toString()).isZero();
        assertThat(run("export", "--workbook", at("g.nariz"), "--out", at("all"))).isZero();
        assertThat(run("export", "--workbook", at("g.nariz"), "--out", at("all"))).isEqualTo(2);
        assertThat(run("import", at("all"), "--workbook", at("h.nariz"))).as(err.toString()).isZero();
        clear();
        assertThat(run("info", at("h.nariz"))).isZero();
        assertThat(out.toString()).contains("1 vehicles, 2 runs");
    }

    @Test
    public void placeThatCannotBeWrittenIsSaidInOneLine() {
        assertThat(run("import", at("drive.csv"), "--build", at("six.json"), "--workbook", at("g.nariz"))).isZero();
        clear();
        assertThat(run("export", "--workbook", at("g.nariz"), "--run", "1", "--out", at("drive.csv") + "/x.csv"))
                .isEqualTo(3);
        assertThat(err.toString()).contains("a folder that does not exist").hasLineCount(1);
    }

    @Test
    public void notesArePinnedToMomentsAndShown() {
        assertThat(run("import", at("drive.csv"), "--build", at("six.json"), "--workbook", at("g.nariz"))).isZero();
        assertThat(run("note", "stumbles", "--workbook", at("g.nariz"), "--run", "1", "--at", "42.5"))
                .as(err.toString()).isZero();
        assertThat(run("note", "new plugs", "--workbook", at("g.nariz"), "--run", "1")).isZero();
        clear();
        assertThat(run("info", at("g.nariz"))).isZero();
        assertThat(out.toString()).contains("    at 42.5 s: stumbles\n    new plugs\n");
        assertThat(run("note", "later", "--workbook", at("g.nariz"), "--run", "1", "--at", "142.5")).isEqualTo(2);
        assertThat(err.toString()).contains("--at: run 1 goes from 0 to 100 s.");
        assertThat(run("note", " ", "--workbook", at("g.nariz"), "--run", "1")).isEqualTo(2);
        assertThat(run("note", "x", "--workbook", at("g.nariz"), "--run", "7")).isEqualTo(2);
    }

    @Test
    public void changedPartsAreShownBetweenVersionsOfTheSheet() throws IOException {
        assertThat(run("import", at("drive.csv"), "--build", at("six.json"), "--workbook", at("g.nariz"))).isZero();
        Files.writeString(folder.resolve("six.json"), Samples.sheet().replace("61 thou", "63 thou"));
        assertThat(run("import", at("drive.csv"), "--build", at("six.json"), "--workbook", at("g.nariz"))).isZero();
        clear();
        assertThat(run("info", at("g.nariz"))).isZero();
        assertThat(out.toString()).contains("2 versions of its build sheet").contains(
                "primary main jets: 61 thou to 63 thou");
    }

    @DataProvider
    Object[][] refused() {
        return new Object[][] {
            {3, "no file", new String[] {"info", "missing.nariz"}},
            {3, "no file", new String[] {"export", "--workbook", "missing.nariz", "--out", "x"}},
            {2, "--build is needed", new String[] {"import", "drive.csv", "--workbook", "g.nariz"}},
            {3, "no workbook", new String[] {"import", "drive.csv", "--build", "six.json", "--workbook", "odd.csv"}},
            {3, "no unit", new String[] {"import", "odd.csv", "--build", "six.json", "--workbook", "g.nariz"}},
            {3, "not JSON", new String[] {"check", "drive.csv", "--profile", "drive.csv"}},
            {3, "without clock times", new String[] {"check", "drive.csv", "--track", "t.gpx"}},
            {2, "Missing required", new String[] {"export", "--run", "1"}},
        };
    }

    @Test(dataProvider = "refused")
    public void whatCannotBeDoneEndsWithItsCodeAndReason(int code, String says, String[] args) throws IOException {
        Files.writeString(folder.resolve("t.gpx"),
                "<gpx><trkpt lat='47' lon='11'><time>2026-05-01T10:00:00Z</time></trkpt>"
                + "<trkpt lat='47.01' lon='11'><time>2026-05-01T10:01:00Z</time></trkpt></gpx>");
        String[] placed = Stream.of(args).map(a -> a.contains(".") ? at(a) : a).toArray(String[]::new);
        assertThat(run(placed)).as(err.toString()).isEqualTo(code);
        assertThat(err.toString()).contains(says);
        assertThat(folder.resolve("g.nariz")).doesNotExist();
    }

    @Test
    public void notedPointsCountAsALog() throws IOException {
        Files.writeString(folder.resolve("notes.txt"), """
                820 18 14.0
                1700 18.5 15
                2300 16 14.9
                2900 12 14.6
                3400 1.2 12.9
                """);
        assertThat(run("analyze", "--build", at("six.json"), "--log", at("notes.txt"))).as(err.toString()).isZero();
        assertThat(out.toString()).contains("idle").contains("steady");
    }
}
