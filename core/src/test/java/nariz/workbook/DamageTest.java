package nariz.workbook;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.TreeMap;
import nariz.carburetor.InputProblem;
import nariz.log.Channel;
import nariz.log.LogReader;
import nariz.log.Recording;
import nariz.testing.Samples;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

/** Bits that flip on a disk: noticed, named, and the rest is still there. */
public class DamageTest {
    private Path folder;
    private Path file;

    @BeforeMethod
    public void workbook() throws IOException {
        folder = Files.createTempDirectory("nariz");
        file = folder.resolve("garage.nariz");
        Path log = Files.writeString(folder.resolve("drive.csv"), Samples.log());
        Path second = Files.writeString(folder.resolve("second.csv"), Samples.log().replace(",13.", ",14."));
        try (Workbook w = Workbook.open(file)) {
            Workbook.Vehicle v = w.vehicle("six");
            Workbook.Sheet s = w.addSheet(v.id(), Samples.sheet());
            w.addRun(s, record(log), log, () -> false);
            Workbook.Run r = w.addRun(s, record(second), second, () -> false);
            w.notes().add(v.id(), Optional.of(r.id()), Optional.of(12.0), "stumbles here");
            w.exclusions().add(r.id(), 3, 4, "a lorry");
            w.lookedFor(r.id(), "misfire", true);
            w.remember(record(log).plan());
        }
    }

    private static Recording record(Path log) {
        return LogReader.record(log, null, () -> false, n -> { });
    }

    /** Everything a workbook tells, as text by what it is. */
    private static Map<String, String> told(Workbook w) throws IOException {
        Map<String, String> out = new TreeMap<>();
        for (Workbook.Vehicle v : w.vehicles()) {
            out.put("vehicle " + v.id(), v.name());
            w.sheets(v.id()).forEach(s -> out.put("sheet " + s.id(), s.json()));
            w.notes().of(v.id()).forEach(n -> out.put("note " + n.id(), n.run() + " " + n.atS() + " " + n.text()));
        }
        for (Workbook.Run r : w.runs()) {
            out.put("run " + r.id(), r.name() + " " + r.samples() + " " + r.durationS() + " " + r.imported());
            w.exclusions().of(r.id()).forEach(e -> out.put("excluded " + e.id(), e.fromS() + " " + e.toS() + " "
                    + e.reason()));
            out.put("looked " + r.id(), String.valueOf(w.lookedFor(r.id())));
            Recording rec = w.recording(r.id());
            for (Channel c : rec.channels()) {
                out.put("readings " + r.id() + " " + c.key(), java.util.Arrays.hashCode(rec.written(c)) + " "
                        + rec.plan().column(c).map(p -> p.unit()).orElse(""));
            }
            ByteArrayOutputStream bytes = new ByteArrayOutputStream();
            w.raw(r.id(), bytes);
            out.put("file " + r.id(), bytes.toString(StandardCharsets.UTF_8));
        }
        return out;
    }

    /**
     * One bit of the file at random, two hundred times: either all that is told is as it was, or the damage is told,
     * as a list or as one error with the file's name; what is told besides is as it was.
     */
    @Test
    public void aFlippedBitIsNoticedOrWithoutEffect() throws IOException {
        Map<String, String> whole;
        try (Workbook w = Workbook.openToRead(file)) {
            whole = told(w);
        }
        byte[] all = Files.readAllBytes(file);
        Random r = new Random(11);
        int noticed = 0;
        for (int i = 0; i < 200; i++) {
            byte[] spoiled = all.clone();
            int at = r.nextInt(all.length);
            for (int k = 0; k < (i % 4 == 3 ? 16 : 1); k++) {
                spoiled[Math.min(all.length - 1, at + k)] ^= (byte) (1 << r.nextInt(8));
            }
            Path copy = Files.write(folder.resolve("spoiled" + i + ".nariz"), spoiled);
            try (Workbook w = Workbook.openToRead(copy)) {
                Map<String, String> now = told(w);
                if (w.damage().isEmpty()) {
                    assertThat(now).as("byte " + at).isEqualTo(whole);
                } else {
                    noticed++;
                    assertThat(whole.entrySet()).as("byte " + at).containsAll(now.entrySet());
                }
            } catch (InputProblem e) {
                noticed++;
                assertThat(e.getMessage()).contains("spoiled" + i + ".nariz");
            }
            Files.delete(copy);
        }
        assertThat(noticed).isGreaterThan(30);
    }

    private void sql(String statement) throws SQLException {
        try (Connection c = WorkbookFile.connect(file, false); var s = c.createStatement()) {
            // As a disk would do it: behind the back of whoever keeps the sums.
            try (var r =
                    s.executeQuery("SELECT name FROM sqlite_master WHERE type = 'trigger' AND name LIKE 'seal%'")) {
                List<String> names = new ArrayList<>();
                while (r.next()) {
                    names.add(r.getString(1));
                }
                for (String n : names) {
                    s.execute("DROP TRIGGER " + n);
                }
            }
            s.execute("PRAGMA foreign_keys = OFF");
            s.execute(statement);
        }
    }

    @Test
    public void damagedReadingsAreNamedAndTheOtherRunIsRead() throws SQLException, IOException {
        sql("UPDATE chunk SET packed = zeroblob(length(packed)) WHERE run = 1 AND channel = 'rpm'");
        try (Workbook w = Workbook.openToRead(file)) {
            assertThat(w.runs()).hasSize(2);
            assertThatThrownBy(() -> w.recording(1)).isInstanceOf(InputProblem.class).hasMessageContaining(
                    "readings of run 1").hasMessageContaining("nariz rescue");
            assertThat(w.recording(2).size()).isPositive();
        }
        assertThat(WorkbookCheck.of(file, () -> false)).extracting(d -> d.text().toString()).containsExactly(
                "readings of run 1 is not what was written");
        Path made = folder.resolve("rescued.nariz");
        Rescue.Outcome o = Rescue.save(file, made);
        assertThat(o.runs()).isEqualTo(2);
        assertThat(o.lost()).extracting(Object::toString).containsExactly(
                "run 1 was read again from the file it came from");
        try (Workbook w = Workbook.open(made)) {
            assertThat(w.recording(1).written(Channel.RPM)).isEqualTo(record(folder.resolve("drive.csv")).written(
                    Channel.RPM));
            assertThat(w.notes().of(1)).hasSize(1);
            assertThat(w.readOnly()).isFalse();
        }
        assertThat(WorkbookCheck.of(made, () -> false)).isEmpty();
    }

    @Test
    public void aDamagedRunIsHiddenWithWhatBelongsToIt() throws SQLException, IOException {
        sql("UPDATE run SET duration = 3 WHERE id = 2");
        try (Workbook w = Workbook.open(file)) {
            assertThat(w.readOnly()).isTrue();
            assertThat(w.whyReadOnly()).isEqualTo("it is damaged");
            assertThat(w.runs()).extracting(Workbook.Run::id).containsExactly(1L);
            assertThat(w.damage()).extracting(d -> d.text().toString()).containsExactly(
                    "run 2 is not what was written");
            assertThat(w.damage().getFirst().run()).contains(2L);
            assertThatThrownBy(() -> w.vehicle("another")).isInstanceOf(InputProblem.class).hasMessageContaining(
                    "run 2 is not what was written").hasMessageContaining("nariz rescue");
        }
        Path made = folder.resolve("rescued.nariz");
        assertThat(Rescue.save(file, made).runs()).isEqualTo(1);
    }

    @Test
    public void rowsThatAreGoneAreMissed() throws SQLException, IOException {
        sql("DELETE FROM note");
        try (Workbook w = Workbook.openToRead(file)) {
            assertThat(w.damage()).extracting(d -> d.text().toString()).containsExactly("row 1 of note is gone");
        }
        sql("DELETE FROM chunk WHERE run = 1 AND channel = 'afr'");
        try (Workbook w = Workbook.openToRead(file)) {
            assertThatThrownBy(() -> w.recording(1)).isInstanceOf(InputProblem.class);
        }
    }

    @Test
    public void aVehicleWithoutItsNameIsNamedAfterItsSheet() throws SQLException, IOException {
        sql("UPDATE vehicle SET name = 'sax'");
        Path made = folder.resolve("rescued.nariz");
        Rescue.Outcome o = Rescue.save(file, made);
        assertThat(o.lost().toString()).contains("is called");
        try (Workbook w = Workbook.open(made)) {
            assertThat(w.vehicles()).hasSize(1);
            assertThat(w.sheets(1)).hasSize(1);
        }
    }

    @Test
    public void aFileThatIsNotWhatWasTakenInIsNotGivenOut() throws SQLException, IOException {
        sql("UPDATE raw_part SET packed = (SELECT packed FROM raw_part WHERE raw_file = 2) WHERE raw_file = 1");
        try (Workbook w = Workbook.openToRead(file)) {
            ByteArrayOutputStream out = new ByteArrayOutputStream();
            assertThatThrownBy(() -> w.raw(1, out)).isInstanceOf(InputProblem.class).hasMessageContaining("the file 1");
            assertThat(out.size()).isZero();
            assertThat(w.raw(2, out)).contains("second.csv");
        }
        Rescue.Outcome o = Rescue.save(file, folder.resolve("rescued.nariz"));
        assertThat(o.runs()).isEqualTo(2);
        assertThat(o.lost().toString()).contains("its readings are kept");
    }

    @Test
    public void aSoundWorkbookHasNothingToTell() {
        assertThat(WorkbookCheck.of(file, () -> false)).isEmpty();
        Rescue.Outcome o = Rescue.save(file, folder.resolve("copy.nariz"));
        assertThat(o.runs()).isEqualTo(2);
        assertThat(o.lost()).isEmpty();
    }
}
