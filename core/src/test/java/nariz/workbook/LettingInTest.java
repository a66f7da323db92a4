package nariz.workbook;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.function.UnaryOperator;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import java.util.zip.ZipOutputStream;
import nariz.carburetor.InputProblem;
import nariz.log.LogReader;
import nariz.log.Recording;
import nariz.testing.Samples;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** What comes from outside goes in whole and checked, or not at all; nothing leads out of the folder it came in. */
public class LettingInTest {
    private Path folder;
    private Path exported;

    @BeforeMethod
    public void exportedFolder() throws IOException {
        folder = Files.createTempDirectory("nariz");
        exported = folder.resolve("out");
        Path log = Files.writeString(folder.resolve("drive.csv"), Samples.log());
        try (Workbook w = Workbook.open(folder.resolve("garage.nariz"))) {
            Workbook.Vehicle v = w.vehicle("six");
            w.addRun(w.addSheet(v.id(), Samples.sheet()), recording(log), log, () -> false);
            Exchange.folder(w, exported);
        }
    }

    private static Recording recording(Path log) {
        return LogReader.record(log, null, () -> false, n -> { });
    }

    private void change(UnaryOperator<String> f) throws IOException {
        Path index = exported.resolve("workbook.json");
        String was = Files.readString(index);
        String is = f.apply(was);
        assertThat(is).isNotEqualTo(was);
        Files.writeString(index, is);
    }

    private void refused(String... says) {
        Path into = folder.resolve("into.nariz");
        try (Workbook w = Workbook.open(into)) {
            var thrown = assertThatThrownBy(() -> Exchange.read(exported, w)).isInstanceOf(InputProblem.class);
            for (String s : says) {
                thrown.hasMessageContaining(s);
            }
            assertThat(w.vehicles()).isEmpty();
            assertThat(w.runs()).isEmpty();
        }
    }

    private String sha() throws IOException {
        try (var files = Files.list(exported.resolve("files"))) {
            return String.valueOf(files.findFirst().orElseThrow().getFileName());
        }
    }

    @DataProvider
    Object[][] waysOut() {
        return new Object[][] {{"../../.bashrc"}, {"/etc/passwd"}, {"..\\\\..\\\\x"}, {"a/../../b"}, {"."}, {""},
            {"secret.txt"}};
    }

    @Test(dataProvider = "waysOut")
    public void aNameThatLeadsOutOfTheFolderIsNotFollowed(String name) throws IOException {
        Files.writeString(folder.resolve(".bashrc"), "secret");
        String sha = sha();
        change(s -> s.replace("\"sha256\" : \"" + sha, "\"sha256\" : \"" + name));
        refused("raw_file[0].sha256");
    }

    @Test
    public void linksAndOtherBytesAreNotTakenForAFile() throws IOException {
        String sha = sha();
        Path inside = exported.resolve("files").resolve(sha);
        byte[] bytes = Files.readAllBytes(inside);
        Path secret = Files.write(folder.resolve("secret"), bytes);
        Files.delete(inside);
        Files.createSymbolicLink(inside, secret);
        refused("files/" + sha, "other than a plain file");
        Files.delete(inside);
        bytes[9] ^= 1;
        Files.write(inside, bytes);
        refused("files/" + sha, "not those its name stands for");
        bytes[9] ^= 1;
        Files.write(inside, bytes);
        Path runs = exported.resolve("runs");
        Path elsewhere = folder.resolve("elsewhere");
        Files.move(runs, elsewhere);
        Files.createSymbolicLink(runs, elsewhere);
        refused("other than a plain file");
    }

    @DataProvider
    Object[][] values() {
        return new Object[][] {{"\"imported\" : \"20", "\"imported\" : \"garbage 20", "run[0].imported"},
            {"\"duration\" : ", "\"duration\" : -", "run[0].duration"}, {"\"samples\" : ", "\"samples\" : 1",
                "samples"}, {"\"id\" : 1,", "\"id\" : \"one\",", "[0].id"}, {"\"deleted\" : 0", "\"deleted\" : 2",
                    "run[0].deleted"}, {"nariz-build/1", "nariz-build/9", "build_sheet[0].json"},
            {"nariz-profile/1", "nariz-profile/9", "run[0].plan"}, {"\"vehicle\" : 1", "\"vehicle\" : 99", ""},
            {"\"header_line\" : 1", "\"header_line\" : {}", "run[0].header_line"},
            {"\"name\" : \"six\"", "\"name\" : [1]", "vehicle[0].name"}, {"\"created\" :", "\"x\\\" :", ""}};
    }

    @Test(dataProvider = "values")
    public void valuesThatCannotBeWhatTheirColumnSaysKeepAllOut(String was, String is,
            String place) throws IOException {
        change(s -> s.replace(was, is));
        refused(place);
    }

    @DataProvider
    Object[][] tables() {
        return new Object[][] {{"no speed", (UnaryOperator<String>) t -> t.replaceAll("(?m)^([^,]*),[^,]*,", "$1,"),
            "rpm"}, {"no rows", (UnaryOperator<String>) t -> t.substring(0, t.indexOf('\n') + 1), "0"},
            {"time that stands", (UnaryOperator<String>) t -> t.replaceAll("(?m)^0\\.5,", "0.4,"), "time"},
            {"a speed nobody drives", (UnaryOperator<String>) t -> t.replaceFirst("\n([^,]*),[^,]*,", "\n$1,99999,"),
                "rpm"}, {"a row too short", (UnaryOperator<String>) t -> t.replaceFirst(",[^,]*\n(?=[0-9])", "\n"),
                ""}};
    }

    @Test(dataProvider = "tables")
    public void tablesNoLogCouldBecomeKeepAllOut(String name, UnaryOperator<String> spoil, String says)
            throws IOException {
        Path table = exported.resolve("runs/1.csv");
        String was = Files.readString(table);
        String is = spoil.apply(was);
        assertThat(is).as(name).isNotEqualTo(was);
        Files.writeString(table, is);
        refused(says);
    }

    @Test(dataProvider = "tables")
    public void packagesNoLogCouldBecomeAreRefused(String name, UnaryOperator<String> spoil, String says)
            throws IOException {
        Path zip = folder.resolve("run.zip");
        Exchange.dataPackage(recording(folder.resolve("drive.csv")), Samples.sheet(), zip);
        Path spoiled = folder.resolve("spoiled.zip");
        try (ZipFile in = new ZipFile(zip.toFile()); ZipOutputStream out = new ZipOutputStream(Files.newOutputStream(
                spoiled))) {
            for (ZipEntry e : java.util.Collections.list(in.entries())) {
                out.putNextEntry(new ZipEntry(e.getName()));
                String text = new String(in.getInputStream(e).readAllBytes(), StandardCharsets.UTF_8);
                out.write((e.getName().endsWith(".csv") ? spoil.apply(text) : text).getBytes(StandardCharsets.UTF_8));
            }
        }
        assertThatThrownBy(() -> Exchange.dataPackage(spoiled)).as(name).isInstanceOf(InputProblem.class)
                .hasMessageContaining(says);
        assertThat(Exchange.dataPackage(zip).recording().size()).isPositive();
    }

    @Test
    public void anExportOfAnUntouchedFolderComesBackTheSame() throws IOException {
        Path again = folder.resolve("again");
        try (Workbook w = Workbook.open(folder.resolve("into.nariz"))) {
            Exchange.read(exported, w);
            Exchange.folder(w, again);
        }
        assertThat(again.resolve("workbook.json")).hasSameTextualContentAs(exported.resolve("workbook.json"));
    }

    @Test
    public void foreignAndEmptyFilesAreLeftAsTheyAre() throws IOException, SQLException {
        Path other = folder.resolve("theirs.nariz");
        try (Connection c = DriverManager.getConnection("jdbc:sqlite:" + other); var s = c.createStatement()) {
            s.execute("CREATE TABLE theirs (x)");
        }
        byte[] before = Files.readAllBytes(other);
        assertThatThrownBy(() -> Workbook.openToRead(other)).isInstanceOf(InputProblem.class).hasMessageContaining(
                "another program");
        assertThatThrownBy(() -> Workbook.open(other)).isInstanceOf(InputProblem.class).hasMessageContaining(
                "another program");
        assertThat(Files.readAllBytes(other)).isEqualTo(before);
        Path empty = Files.createFile(folder.resolve("empty.nariz"));
        assertThatThrownBy(() -> Workbook.openToRead(empty)).isInstanceOf(InputProblem.class).hasMessageContaining(
                "an empty file");
        assertThat(empty).isEmptyFile();
    }

    /** Eight at once on a workbook that is not there yet: one writes, the others wait and read. */
    @Test(timeOut = 60_000)
    public void whoComesSecondWaitsForTheFirst() throws Exception {
        Path fresh = folder.resolve("fresh.nariz");
        List<Callable<Boolean>> all = new ArrayList<>();
        for (int i = 0; i < 8; i++) {
            all.add(() -> {
                try (Workbook w = Workbook.open(fresh)) {
                    w.runs();
                    return w.readOnly();
                }
            });
        }
        try (ExecutorService e = Executors.newFixedThreadPool(8)) {
            List<Boolean> readOnly = new ArrayList<>();
            for (Future<Boolean> f : e.invokeAll(all)) {
                readOnly.add(f.get());
            }
            assertThat(readOnly).hasSize(8).contains(false);
        }
        try (Workbook w = Workbook.open(fresh)) {
            assertThat(w.readOnly()).isFalse();
        }
    }

    @Test
    public void aLinkHasTheLockOfItsFile() throws IOException {
        Path link = folder.resolve("link.nariz");
        Files.createSymbolicLink(link, folder.resolve("garage.nariz"));
        try (Workbook one = Workbook.open(folder.resolve("garage.nariz")); Workbook two = Workbook.open(link)) {
            assertThat(one.readOnly()).isFalse();
            assertThat(two.readOnly()).isTrue();
        }
        assertThat(folder.resolve("link.nariz.lock")).doesNotExist();
    }

    @Test
    public void aFolderIsNotReplacedByAFileAndNothingBesideIsTouched() throws IOException {
        Path place = Files.createDirectory(folder.resolve("place"));
        assertThatThrownBy(() -> AtomicFile.write(place, out -> out.write(1))).isInstanceOf(IOException.class);
        assertThat(place).isDirectory();
        Path mine = Files.writeString(folder.resolve("result.csv.part"), "mine");
        AtomicFile.write(folder.resolve("result.csv"), out -> out.write('x'));
        assertThat(mine).hasContent("mine");
        assertThatThrownBy(() -> AtomicFile.write(folder.resolve("result.csv"), out -> {
            out.write('y');
            throw new IOException("the disk is full");
        })).hasMessage("the disk is full");
        assertThat(folder.resolve("result.csv")).hasContent("x");
        try (var files = Files.list(folder)) {
            assertThat(files.filter(p -> p.toString().endsWith(".part"))).containsExactly(mine);
        }
    }
}
