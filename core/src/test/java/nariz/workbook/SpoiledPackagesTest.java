package nariz.workbook;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Random;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import java.util.zip.ZipOutputStream;
import nariz.carburetor.InputProblem;
import nariz.log.LogReader;
import nariz.log.PlanJson;
import nariz.log.Recording;
import nariz.testing.Samples;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/** Packages that somebody spoiled: each comes in as it was, or is refused with a message, never otherwise. */
public class SpoiledPackagesTest {
    private Path folder;
    private byte[] good;

    @BeforeClass
    void write() throws IOException {
        folder = Files.createTempDirectory("nariz");
        Path log = Files.writeString(folder.resolve("drive.csv"), Samples.log());
        Recording r = LogReader.record(log, null, () -> false, n -> { });
        Path zip = folder.resolve("good.zip");
        Exchange.dataPackage(r, Samples.sheet(), zip);
        good = Files.readAllBytes(zip);
    }

    private void readOrRefused(String what, byte[] bytes) throws IOException {
        Path zip = Files.write(folder.resolve("spoiled.zip"), bytes);
        try {
            Exchange.Packed p = Exchange.dataPackage(zip);
            assertThat(p.recording().size()).as(what).isPositive();
        } catch (InputProblem e) {
            assertThat(e.getMessage()).as(what).isNotBlank();
            assertThat(e.wanted().toString()).as(what).hasSizeGreaterThan(5);
        }
    }

    @Test
    public void anyBytesChangedOrMissing() throws IOException {
        Random r = new Random(21);
        for (int k = 0; k < 300; k++) {
            byte[] bad = k % 3 == 0 ? java.util.Arrays.copyOf(good, r.nextInt(good.length)) : good.clone();
            for (int i = 0; i < 1 + k % 5 && bad.length > 0; i++) {
                bad[r.nextInt(bad.length)] = (byte) r.nextInt(256);
            }
            readOrRefused("spoiled " + k, bad);
        }
    }

    private Map<String, String> entries() throws IOException {
        Map<String, String> out = new LinkedHashMap<>();
        try (ZipInputStream in = new ZipInputStream(new ByteArrayInputStream(good))) {
            for (ZipEntry e = in.getNextEntry(); e != null; e = in.getNextEntry()) {
                out.put(e.getName(), new String(in.readAllBytes(), StandardCharsets.UTF_8));
            }
        }
        return out;
    }

    private static byte[] zip(Map<String, String> entries) throws IOException {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try (ZipOutputStream out = new ZipOutputStream(bytes)) {
            for (Map.Entry<String, String> e : entries.entrySet()) {
                out.putNextEntry(new ZipEntry(e.getKey()));
                out.write(e.getValue().getBytes(StandardCharsets.UTF_8));
                out.closeEntry();
            }
        }
        return bytes.toByteArray();
    }

    /** Whole zips whose texts are spoiled, which no checksum of the zip would notice. */
    @Test
    public void textsSpoiledInsideAWholeZip() throws IOException {
        Random r = new Random(22);
        for (String name : entries().keySet()) {
            for (int k = 0; k < 60; k++) {
                Map<String, String> all = entries();
                StringBuilder s = new StringBuilder(all.get(name));
                switch (k % 4) {
                    case 0 -> s.setLength(r.nextInt(s.length()));
                    case 1 -> s.setCharAt(r.nextInt(s.length()), (char) (32 + r.nextInt(90)));
                    case 2 -> s.deleteCharAt(r.nextInt(s.length()));
                    default -> s.insert(r.nextInt(s.length()), k % 8 < 4 ? "\"" : "-9e999,");
                }
                all.put(name, s.toString());
                readOrRefused(name + " " + k, zip(all));
            }
        }
    }

    @Test
    public void eachTextMissing() throws IOException {
        for (String name : entries().keySet()) {
            Map<String, String> all = entries();
            all.remove(name);
            readOrRefused("without " + name, zip(all));
        }
        readOrRefused("nothing at all", zip(Map.of()));
        readOrRefused("empty file", new byte[0]);
    }

    @Test
    public void entryThatPointsOutOfTheZipIsNotFollowed() throws IOException {
        Map<String, String> all = entries();
        all.put("../../escaped.txt", "out");
        readOrRefused("with a way out", zip(all));
        assertThat(folder.resolve("../../escaped.txt").normalize()).doesNotExist();
    }

    @Test
    public void profilesSpoiledAnywhere() {
        Random r = new Random(23);
        String good = "{\"format\": \"nariz-profile/1\", \"signature\": \"t|n|p|v\", \"rateHz\": 0, \"events\": 0, "
                + "\"columns\": [{\"column\": 1, \"channel\": \"time\", \"unit\": \"s\"}, {\"column\": 2, \"channel\": "
                + "\"rpm\", \"pulsesPerTurn\": 3}, {\"column\": 4, \"channel\": \"lambda\", \"from\": [0, 5], \"to\": "
                + "[0.68, 1.36]}]}";
        assertThat(PlanJson.parse("p", good).columns()).hasSize(3);
        for (int k = 0; k < 2000; k++) {
            StringBuilder s = new StringBuilder(good);
            for (int i = 0; i < 1 + k % 3; i++) {
                int at = r.nextInt(s.length());
                switch (r.nextInt(3)) {
                    case 0 -> s.setCharAt(at, "{}[]\",:0159-.enx".charAt(r.nextInt(16)));
                    case 1 -> s.deleteCharAt(at);
                    default -> s.insert(at, "{}[]\",:019-".charAt(r.nextInt(11)));
                }
            }
            try {
                PlanJson.write(PlanJson.parse("p", s.toString()));
            } catch (InputProblem e) {
                assertThat(e.getMessage()).startsWith("p");
            }
        }
    }
}
