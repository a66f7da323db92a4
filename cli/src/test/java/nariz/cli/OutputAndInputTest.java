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
import java.util.List;
import java.util.stream.Collectors;
import nariz.testing.Samples;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** What the command line tells unasked, and what it never writes over. */
public class OutputAndInputTest {
    private final StringWriter out = new StringWriter();
    private final StringWriter err = new StringWriter();
    private static Path demo;
    private Path folder;

    @BeforeClass
    static void demo() throws IOException {
        demo = Files.createTempDirectory("nariz");
        NarizCommand.run(new PrintWriter(new StringWriter()), new PrintWriter(new StringWriter()), "demo-log", "--out",
                demo.toString());
    }

    @BeforeMethod
    void start() throws IOException {
        folder = Files.createTempDirectory("nariz");
        Files.writeString(folder.resolve("six.json"), Samples.sheet());
        Files.writeString(folder.resolve("drive.csv"), Samples.log());
        clear();
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

    private Path workbook() {
        assertThat(run("import", at("drive.csv"), "--build", at("six.json"), "--workbook", at("w.nariz"))).as(
                err.toString()).isZero();
        clear();
        return folder.resolve("w.nariz");
    }

    @Test
    public void noResultTakesThePlaceOfWhatItIsMadeFrom() throws IOException {
        byte[] before = Files.readAllBytes(workbook());
        assertThat(run("export", "--workbook", at("w.nariz"), "--run", "1", "--out", at("w.nariz"))).isEqualTo(3);
        assertThat(run("export", "--workbook", at("w.nariz"), "--run", "1", "--out", at("w.nariz"), "--overwrite"))
                .isEqualTo(3);
        Files.createSymbolicLink(folder.resolve("link"), folder.resolve("w.nariz"));
        assertThat(run("export", "--workbook", at("w.nariz"), "--run", "1", "--out", at("link"), "--overwrite"))
                .isEqualTo(3);
        assertThat(Files.readAllBytes(folder.resolve("w.nariz"))).isEqualTo(before);
        assertThat(run("analyze", "--build", at("six.json"), "--log", at("drive.csv"), "--json", at("drive.csv"),
                "--overwrite")).isEqualTo(3);
        assertThat(err.toString()).contains("a file that the result is made from");
        assertThat(folder.resolve("drive.csv")).hasContent(Samples.log());
    }

    @Test
    public void nothingThatIsThereIsOverwrittenUnasked() throws IOException {
        workbook();
        Path kept = Files.writeString(folder.resolve("kept.csv"), "a year of work");
        assertThat(run("export", "--workbook", at("w.nariz"), "--run", "1", "--out", at("kept.csv"))).isEqualTo(3);
        assertThat(run("export", "--workbook", at("w.nariz"), "--run", "1", "--raw", "--out",
                at("kept.csv"))).isEqualTo(
                3);
        assertThat(err.toString()).contains("--overwrite");
        assertThat(run("info", at("drive.csv"), "--write-profile", at("kept.csv"))).isEqualTo(3);
        assertThat(run("analyze", "--build", at("six.json"), "--log", at("drive.csv"), "--json", at("kept.csv")))
                .isEqualTo(3);
        assertThat(kept).hasContent("a year of work");
        assertThat(run("export", "--workbook", at("w.nariz"), "--run", "1", "--raw", "--out", at("kept.csv"),
                "--overwrite")).isZero();
        assertThat(kept).hasContent(Samples.log());
        Path empty = Files.createDirectory(folder.resolve("empty"));
        assertThat(run("export", "--workbook", at("w.nariz"), "--run", "1", "--out", at("empty"), "--overwrite"))
                .isEqualTo(3);
        assertThat(empty).isDirectory();
    }

    @Test
    public void theAdviceOfARoundBeforeIsKeptUnderAnotherName() throws IOException {
        Path json = folder.resolve("advice.json");
        String[] analyze = {"analyze", "--build", at("six.json"), "--log", at("drive.csv"), "--json", json.toString()};
        assertThat(run(analyze)).isZero();
        String first = Files.readString(json);
        // The same answer again is the same file: nothing is lost and nothing kept twice.
        assertThat(run(analyze)).isZero();
        assertThat(folder.resolve("advice-1.json")).doesNotExist();
        Files.writeString(json, first.replace("\"verdict\"", " \"verdict\""));
        assertThat(run(analyze)).isZero();
        assertThat(err.toString()).contains("is kept as advice-1.json");
        assertThat(Files.readString(json)).isEqualTo(first);
        assertThat(folder.resolve("advice-1.json")).content().contains("  \"verdict\"");
    }

    /** The demo with a pressure that falls in pulls, under a name that says less than it might. */
    private Path demoWith(String title, String cell) throws IOException {
        List<String> lines = Files.readAllLines(demo.resolve("hillclimb-estate.csv"));
        return Files.writeString(folder.resolve("with.csv"), lines.getFirst() + "," + title + "\n"
                + lines.stream().skip(1)
                .map(l -> l + "," + cell).collect(Collectors.joining("\n", "", "\n")));
    }

    private JsonNode analyzed(Path log) throws IOException {
        Path json = folder.resolve("a" + System.nanoTime() + ".json");
        assertThat(run("analyze", "--build", demo.resolve("hillclimb-estate.json").toString(), "--log", log.toString(),
                "--json", json.toString())).as(err.toString()).isZero();
        Schema schema = SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12)
                .getSchema(Files.readString(
                Path.of("../docs/formats/advice.schema.json")), InputFormat.JSON);
        assertThat(schema.validate(Files.readString(json), InputFormat.JSON)).isEmpty();
        return JsonMapper.builder().build().readTree(Files.readString(json));
    }

    @Test
    public void whatIsNotReadIsToldWithTheWayToReadIt() throws IOException {
        JsonNode a = analyzed(demoWith("Fuel pressure", "5.8"));
        assertThat(out.toString()).contains("Not read: column 8, Fuel pressure: looks like fuel pressure in psi; "
                + "read it? --columns 8=fuel-pressure:psi");
        assertThat(a.get("columnsNotRead").get(0).get("channel").asString()).isEqualTo("fuel-pressure");
        clear();
        JsonNode b = analyzed(demoWith("Gear", "3"));
        assertThat(out.toString()).contains("Not read either: Gear looks like the gear, which no computation "
                + "here uses.");
        assertThat(b.get("columnsNotRead").get(0).get("channel").isNull()).isTrue();
        clear();
        assertThat(analyzed(demoWith("fuel_psi", "5.8")).get("columnsNotRead")).isEmpty();
        assertThat(out.toString()).doesNotContain("Not read");
    }

    @Test
    public void aColdEngineIsColdWhateverItsColumnIsCalled() throws IOException {
        List<String> lines = Files.readAllLines(demo.resolve("hillclimb-estate.csv"));
        Path log = Files.writeString(folder.resolve("cold.csv"), lines.getFirst().replace("coolant_C",
                "Engine Coolant Temp (°C)") + "\n" + lines.stream().skip(1).map(l -> l.replaceFirst("[^,]*$", "18"))
                .collect(Collectors.joining("\n", "", "\n")));
        assertThat(analyzed(log).get("verdict").asString()).isEqualTo("more-data");
        assertThat(out.toString()).contains("cold engine");
    }

    /** Names and notes that would colour the terminal, clear it or write over a line come out as text. */
    @Test
    public void controlCharactersDoNotReachTheTerminal() {
        workbook();
        assertThat(run("note", "\u001b[2J\u001b[31mred\u0007\rover\u202eright to left", "--workbook", at("w.nariz"),
                "--run",
                "1")).isZero();
        assertThat(run("info", at("w.nariz"))).isZero();
        assertThat(out.toString()).contains("red").doesNotContain("\u001b", "\u0007", "\u202e", "\rover");
    }

    @Test
    public void damageOfAWorkbookIsToldAndTheRestRescued() throws Exception {
        workbook();
        assertThat(run("check", at("w.nariz"))).isZero();
        assertThat(out.toString()).contains("every row, reading and file is what was written");
        clear();
        byte[] all = Files.readAllBytes(folder.resolve("w.nariz"));
        String name = "drive.csv";
        int at = new String(all, java.nio.charset.StandardCharsets.ISO_8859_1).lastIndexOf(name);
        all[at] ^= 1;
        Files.write(folder.resolve("w.nariz"), all);
        assertThat(run("check", at("w.nariz"))).isEqualTo(3);
        assertThat(out.toString()).contains("is not what was written").contains("nariz rescue");
        clear();
        assertThat(run("info", at("w.nariz"))).isZero();
        assertThat(out.toString()).contains("damaged: ");
        assertThat(run("rescue", at("w.nariz"), "--out", at("saved.nariz"))).as(err.toString()).isZero();
        assertThat(run("check", at("saved.nariz"))).isZero();
        assertThat(run("rescue", at("w.nariz"), "--out", at("saved.nariz"))).isEqualTo(3);
    }

    @Test
    public void sheetsWithAByteOrderMarkAndProfilesThatLackAChannel() throws IOException {
        Files.writeString(folder.resolve("bom.json"), "\uFEFF" + Samples.sheet());
        assertThat(run("import", at("drive.csv"), "--build", at("bom.json"), "--workbook", at("w.nariz"))).as(
                err.toString()).isZero();
        assertThat(run("info", at("w.nariz"))).isZero();
        clear();
        Files.writeString(folder.resolve("p.json"), "{\"format\": \"nariz-profile/1\", \"columns\": [{\"column\": 1, "
                + "\"channel\": \"time\", \"unit\": \"s\"}]}");
        assertThat(run("analyze", "--build", at("six.json"), "--log", at("drive.csv"), "--profile", at("p.json")))
                .isEqualTo(3);
        assertThat(err.toString()).startsWith("p.json (columns): found no column for engine speed");
    }

    @Test
    public void anAdviceThatNobodyWroteIsNotCarriedOn() throws IOException {
        Path json = folder.resolve("advice.json");
        assertThat(run("analyze", "--build", demo.resolve("hillclimb-estate.json").toString(), "--log", demo.resolve(
                "hillclimb-estate.csv").toString(), "--json", json.toString())).isZero();
        JsonMapper m = JsonMapper.builder().build();
        JsonNode root = m.readTree(Files.readString(json));
        ((tools.jackson.databind.node.ArrayNode) root.get("carried").get("covariance").get(1)).set(0, 5.0);
        Files.writeString(folder.resolve("bad.json"), m.writeValueAsString(root));
        assertThat(run("analyze", "--build", demo.resolve("hillclimb-estate.json").toString(), "--log", demo.resolve(
                "hillclimb-estate.csv").toString(), "--previous", at("bad.json"))).isEqualTo(3);
        assertThat(err.toString()).contains("bad.json").contains("(covariance)");
        assertThat(run("analyze", "--build", demo.resolve("hillclimb-estate.json").toString(), "--log", demo.resolve(
                "hillclimb-estate.csv").toString(), "--previous", json.toString())).isZero();
    }

    @Test
    public void sheetsThatCanHardlyBeTrueAreRemarkedOn() throws IOException {
        Path sheet = Files.writeString(folder.resolve("odd.json"), Files.readString(
                demo.resolve("hillclimb-estate.json"))
                .replaceFirst("\"idleFeedRestriction\"\\s*:\\s*\"37 thou\"", "\"idleFeedRestriction\": \"80 thou\"")
                .replaceFirst("\"idleSpeed\"\\s*:\\s*\"820 rpm\"", "\"idleSpeed\": \"1400 rpm\""));
        assertThat(run("analyze", "--build", sheet.toString(), "--log", demo.resolve("hillclimb-estate.csv")
                .toString()))
                .as(err.toString()).isZero();
        String said = out.toString().replaceAll("\\s+", " ");
        assertThat(said).contains("the idle feed restriction of the sheet (80 thou) is larger than its main jet");
        assertThat(said).contains("the sheet says 1400");
    }
}
