package nariz.workbook;

import static nariz.text.Message.message;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.security.DigestInputStream;
import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import java.util.zip.ZipOutputStream;
import nariz.carburetor.InputProblem;
import nariz.log.Channel;
import nariz.log.ExactTable;
import nariz.log.Plan;
import nariz.log.PlanJson;
import nariz.log.Recording;
import nariz.log.RecordingCheck;
import org.jspecify.annotations.NullUnmarked;
import tools.jackson.databind.json.JsonMapper;

/**
 * Runs and workbooks in open formats: CSV with a row of units; data packages (zip of CSV and {@code datapackage.json}
 * after the Data Package standard, version 1, specs.frictionlessdata.io); a whole workbook as a folder of CSV and JSON.
 */
// A package is loose JSON: what is missing from it ends as a damaged package in whoever reads it.
@NullUnmarked
public final class Exchange {
    private static final String INDEX = "workbook.json";
    private static final String FORMAT = "nariz-workbook/1";
    private static final String DESCRIPTION = "datapackage.json";
    private static final String PROFILE = "profile.json";
    private static final String READINGS = "readings.csv";
    private static final String SHEET = "build-sheet.json";
    /** Longest description, profile or sheet, bytes: thousands of times what this program writes. */
    private static final long LONGEST_TEXT = 8_000_000;
    /** Numbers of a log pack to a third or a tenth; what packs to less than a hundredth is no log. */
    private static final long MOST_PACKED = 100;
    private static final long LEAST_READINGS = 16_000_000;
    private static final JsonMapper MAPPER = JsonMapper.builder().build();
    /** A recording that has not ended is no run yet: it stays behind. */
    private static final List<SealedTable> TABLES = Arrays.stream(SealedTable.values()).filter(t ->
            !t.large() && t != SealedTable.RECORDING).toList();
    /** Came with version 2 of the workbook; a folder written before has none. */
    private static final List<SealedTable> LATER = List.of(SealedTable.PLAN, SealedTable.PLANNED);
    /** Longest list of a folder, bytes: some thousands of runs with their advice. */
    private static final long LONGEST_INDEX = 256_000_000;

    private Exchange() {
    }

    /**
     * Writes a run, or a stretch of it, as CSV.
     *
     * @param r recording
     * @param fromS first time to write, s; negative infinity for all
     * @param toS last time to write, s
     * @param file where to; an existing file is replaced only once the new one is whole
     * @throws IOException when writing fails
     */
    public static void csv(Recording r, double fromS, double toS, Path file) throws IOException {
        AtomicFile.write(file, out -> csv(r, fromS, toS, out));
    }

    /**
     * Writes a run, or a stretch of it, as CSV.
     *
     * @param r recording
     * @param fromS first time to write, s; negative infinity for all
     * @param toS last time to write, s
     * @param out receives UTF-8; not closed
     * @throws IOException when writing fails
     */
    public static void csv(Recording r, double fromS, double toS, OutputStream out) throws IOException {
        Writer w = new OutputStreamWriter(out, StandardCharsets.UTF_8);
        RunCsv.write(r, fromS, toS, w);
        w.flush();
    }

    /**
     * Writes a run as a data package that comes back whole.
     *
     * @param r recording
     * @param sheetJson build sheet it was driven on
     * @param file where to, a zip
     * @throws IOException when writing fails
     */
    public static void dataPackage(Recording r, String sheetJson, Path file) throws IOException {
        AtomicFile.write(file, out -> dataPackage(r, sheetJson, out));
    }

    /**
     * Writes a run as a data package that comes back whole.
     *
     * @param r recording
     * @param sheetJson build sheet it was driven on
     * @param out receives the zip; not closed
     * @throws IOException when writing fails
     */
    public static void dataPackage(Recording r, String sheetJson, OutputStream out) throws IOException {
        ZipOutputStream zip = new ZipOutputStream(out);
        entry(zip, DESCRIPTION, MAPPER.writerWithDefaultPrettyPrinter()
                .writeValueAsString(describe(r)).getBytes(StandardCharsets.UTF_8));
        entry(zip, SHEET, sheetJson.getBytes(StandardCharsets.UTF_8));
        entry(zip, PROFILE, PlanJson.write(r.plan()).getBytes(StandardCharsets.UTF_8));
        zip.putNextEntry(new ZipEntry(READINGS));
        Writer w = new OutputStreamWriter(zip, StandardCharsets.UTF_8);
        exact(r, w);
        w.flush();
        zip.closeEntry();
        zip.finish();
    }

    private static void entry(ZipOutputStream zip, String name, byte[] bytes) throws IOException {
        zip.putNextEntry(new ZipEntry(name));
        zip.write(bytes);
        zip.closeEntry();
    }

    /** Numbers as they came, one column a channel, header without units: the profile says what they mean. */
    private static void exact(Recording r, Writer w) throws IOException {
        List<double[]> values = r.channels().stream().map(r::written).toList();
        w.write(String.join(",", r.channels().stream().map(Channel::key).toList()) + "\n");
        StringBuilder line = new StringBuilder();
        for (int i = 0; i < r.size(); i++) {
            line.setLength(0);
            for (double[] v : values) {
                line.append(RunCsv.text(v[i])).append(',');
            }
            line.setCharAt(line.length() - 1, '\n');
            w.append(line);
        }
    }

    private static Map<String, Object> describe(Recording r) {
        List<Map<String, Object>> fields = new ArrayList<>();
        List<String> units = RunCsv.units(r);
        for (int i = 0; i < r.channels().size(); i++) {
            Channel c = r.channels().get(i);
            Map<String, Object> f = new LinkedHashMap<>();
            f.put("name", c.key());
            f.put("title", c.label().toString());
            f.put("type", "number");
            f.put("unit", r.plan().column(c).map(p -> p.unit()).orElse(units.get(i)));
            fields.add(f);
        }
        Map<String, Object> resource = new LinkedHashMap<>();
        resource.put("name", "readings");
        resource.put("path", READINGS);
        resource.put("profile", "tabular-data-resource");
        resource.put("encoding", "utf-8");
        Map<String, Object> schema = new LinkedHashMap<>();
        schema.put("fields", fields);
        schema.put("missingValues", List.of(""));
        resource.put("schema", schema);
        Map<String, Object> root = new LinkedHashMap<>();
        root.put("profile", "tabular-data-package");
        root.put("name", "nariz-run");
        root.put("title", r.name());
        root.put("resources", List.of(resource));
        root.put("nariz", about(r));
        return root;
    }

    private static Map<String, Object> about(Recording r) {
        Map<String, Object> m = new LinkedHashMap<>();
        m.put("preamble", r.preamble());
        m.put("headerLine", r.headerLine());
        m.put("marks", r.marks().stream().map(Exchange::mark).toList());
        m.put("problems", Problems.write(r.problems()));
        m.put("problemCount", r.problemCount());
        m.put("startClock", Double.isNaN(r.startClockS()) ? null : r.startClockS());
        return m;
    }

    private static Map<String, Object> mark(Recording.Mark k) {
        Map<String, Object> m = new LinkedHashMap<>();
        m.put("time", k.timeS());
        m.put("text", k.text());
        return m;
    }

    /**
     * What a data package held.
     *
     * @param recording the run
     * @param sheetJson build sheet it was driven on
     */
    public record Packed(Recording recording, String sheetJson) {
    }

    /**
     * Reads a data package back.
     *
     * @param file zip from {@link #dataPackage}
     * @return what it held
     * @throws InputProblem when it is none
     */
    public static Packed dataPackage(Path file) {
        String name = String.valueOf(file.getFileName());
        try (ZipFile zip = new ZipFile(file.toFile(), StandardCharsets.UTF_8)) {
            // Names first: nothing is unpacked of a zip that is something else.
            for (String needed : List.of(DESCRIPTION, PROFILE, READINGS, SHEET)) {
                if (zip.getEntry(needed) == null) {
                    throw new InputProblem(name, 0, 0, "", message("problem.a-zip-without", needed),
                            message("problem.export-the-run-again-as-a"));
                }
            }
            Packed p = new Packed(recording(name, zip), text(name, zip, SHEET));
            RecordingCheck.check(name, p.recording());
            return p;
        } catch (IOException | UncheckedIOException e) {
            throw new InputProblem(name, 0, 0, "", message("problem.a-file-that-cannot-be-read",
                    e.getClass().getSimpleName()), message("problem.check-that-it-exists-and-is"));
        } catch (tools.jackson.core.JacksonException | ClassCastException | NullPointerException
                | IllegalArgumentException e) {
            throw new InputProblem(name, 1, 1, DESCRIPTION, message("problem.a-description-that-is-not-one",
                    e.getClass().getSimpleName()), message("problem.export-the-run-again-as-a"));
        }
    }

    private static String text(String name, ZipFile zip, String entry) throws IOException {
        try (InputStream in = new LimitedStream(zip.getInputStream(zip.getEntry(entry)), LONGEST_TEXT, () ->
                tooLarge(name, entry))) {
            return new String(in.readAllBytes(), StandardCharsets.UTF_8);
        }
    }

    private static InputProblem tooLarge(String name, String entry) {
        return new InputProblem(name, 0, 0, entry, message("problem.a-zip-that-unpacks-too-large"),
                message("problem.export-the-run-again-as-a"));
    }

    private static Recording recording(String name, ZipFile zip) throws IOException {
        Map<?, ?> about = (Map<?, ?>) MAPPER.readValue(text(name, zip, DESCRIPTION), Map.class);
        Plan plan = PlanJson.parse(PROFILE, text(name, zip, PROFILE));
        ZipEntry readings = zip.getEntry(READINGS);
        long most = Math.max(LEAST_READINGS, MOST_PACKED * Math.max(1, readings.getCompressedSize()));
        try (InputStream in = new LimitedStream(zip.getInputStream(readings), most, () -> tooLarge(name, READINGS))) {
            return whole(String.valueOf(about.get("title")), plan, (Map<?, ?>) about.get("nariz"), name, in);
        }
    }

    private static Recording whole(String title, Plan plan, Map<?, ?> m, String source, InputStream csv)
            throws IOException {
        Recording plain = ExactTable.read(source, csv);
        List<Recording.Mark> marks = ((List<?>) m.get("marks")).stream().map(k -> (Map<?, ?>) k)
                .map(k -> new Recording.Mark(((Number) k.get("time")).doubleValue(), (String) k.get("text"))).toList();
        Map<Channel, List<byte[]>> chunks = new java.util.EnumMap<>(Channel.class);
        plain.channels().forEach(c -> chunks.put(c, plain.chunks(c)));
        Number clock = (Number) m.get("startClock");
        return new Recording(title, plan, ((List<?>) m.get("preamble")).stream().map(String.class::cast).toList(),
                plain.size(), ((Number) m.get("headerLine")).longValue(), chunks, marks,
                Problems.parse((String) m.get("problems")), ((Number) m.get("problemCount")).longValue(),
                clock == null ? Double.NaN : clock.doubleValue());
    }

    /**
     * Writes a whole workbook as a folder: {@code workbook.json}, {@code runs/N.csv}, {@code files/SHA-256}.
     *
     * @param w workbook
     * @param folder where to; created, must be empty
     * @throws IOException when writing fails
     */
    public static void folder(Workbook w, Path folder) throws IOException {
        Path beside = AtomicFile.beside(folder.toAbsolutePath());
        try {
            Files.createDirectories(beside);
            written(w, beside);
            // What is there can only be an empty folder: anything else stops the move.
            Files.move(beside, folder.toAbsolutePath(), StandardCopyOption.REPLACE_EXISTING);
        } finally {
            remove(beside);
        }
    }

    private static void remove(Path folder) throws IOException {
        if (Files.exists(folder)) {
            try (Stream<Path> all = Files.walk(folder)) {
                for (Path p : all.sorted(java.util.Comparator.reverseOrder()).toList()) {
                    Files.delete(p);
                }
            }
        }
    }

    private static void written(Workbook w, Path folder) throws IOException {
        Files.createDirectories(folder.resolve("runs"));
        Files.createDirectories(folder.resolve("files"));
        try {
            tables(w, folder);
        } catch (DamagedPart e) {
            throw new InputProblem(String.valueOf(w.file().getFileName()), 0, 0, "", message("problem.a-damaged-part",
                    String.valueOf(e.getMessage())), message("problem.rescue-the-rest"));
        }
    }

    private static void tables(Workbook w, Path folder) throws IOException {
        synchronized (w.handle()) {
            Map<String, Object> root = new LinkedHashMap<>();
            root.put("format", FORMAT);
            for (SealedTable table : TABLES) {
                root.put(table.table(), rows(w, table.table()));
            }
            for (Long run : w.handle().createQuery("SELECT id FROM run WHERE deleted < 2 ORDER BY id")
                    .mapTo(Long.class).list()) {
                AtomicFile.write(folder.resolve("runs").resolve(run + ".csv"), out -> {
                    Writer text = new OutputStreamWriter(out, StandardCharsets.UTF_8);
                    exact(RunStore.recording(w.handle(), run), text);
                    text.flush();
                });
            }
            for (Map<String, Object> raw : rows(w, "raw_file")) {
                AtomicFile.write(Inside.name(folder.resolve("files"), String.valueOf(raw.get("sha256"))), out ->
                        RunStore.copyRaw(w.handle(), ((Number) raw.get("id")).longValue(), out));
            }
            AtomicFile.write(folder.resolve(INDEX), out -> out.write(MAPPER.writerWithDefaultPrettyPrinter()
                    .writeValueAsString(root).getBytes(StandardCharsets.UTF_8)));
        }
    }

    private static List<Map<String, Object>> rows(Workbook w, String table) {
        return w.handle().createQuery("SELECT * FROM " + table + (table.equals("run") ? " WHERE deleted < 2" : "")
                + " ORDER BY 1").map((r, c) -> {
            Map<String, Object> m = new LinkedHashMap<>();
            for (int i = 1; i <= r.getMetaData().getColumnCount(); i++) {
                m.put(r.getMetaData().getColumnName(i), r.getObject(i));
            }
            return m;
        }).list();
    }

    /**
     * Reads a folder back into an empty workbook.
     *
     * @param folder from {@link #folder(Workbook, Path)}
     * @param w workbook with nothing in it
     * @throws InputProblem when the folder is none of this kind or the workbook is not empty
     */
    public static void read(Path folder, Workbook w) {
        if (!w.vehicles().isEmpty()) {
            throw new InputProblem(String.valueOf(w.file().getFileName()), 0, 0, "",
                    message("problem.a-workbook-with-something-in-it"),
                    message("problem.import-a-folder-into-a-new"));
        }
        if (w.readOnly()) {
            throw new InputProblem(String.valueOf(w.file().getFileName()), 0, 0, "",
                    message("problem.a-workbook-open-for-reading-only"), message("problem.close-the-other-window"));
        }
        try {
            Map<?, ?> root = index(folder);
            w.handle().useTransaction(h -> {
                for (SealedTable table : TABLES) {
                    Object none = LATER.contains(table) ? List.of() : null;
                    int i = 0;
                    for (Object row : (List<?>) (root.containsKey(table.table()) ? root.get(table.table()) : none)) {
                        FolderRows.insert(h, table, i++, (Map<?, ?>) row);
                    }
                }
                for (Object row : (List<?>) root.get("raw_file")) {
                    rawParts(h, folder, (Map<?, ?>) row);
                }
                for (Object row : (List<?>) root.get("run")) {
                    readings(h, folder, (Map<?, ?>) row);
                }
            });
        } catch (IOException | UncheckedIOException e) {
            throw new InputProblem(String.valueOf(folder), 0, 0, "", message("problem.a-folder-that-cannot-be-read",
                    String.valueOf(e.getMessage())), message("problem.pick-a-folder-that-a-workbook"));
        } catch (tools.jackson.core.JacksonException | ClassCastException | NullPointerException
                | org.jdbi.v3.core.JdbiException e) {
            throw new InputProblem(INDEX, 1, 1, "", message("problem.a-description-that-is-damaged",
                    e.getClass().getSimpleName()), message("problem.export-the-workbook-again"));
        }
    }

    private static Map<?, ?> index(Path folder) throws IOException {
        Path index = Inside.file(folder, ".", INDEX);
        if (Files.size(index) > LONGEST_INDEX) {
            throw tooLarge(String.valueOf(folder.getFileName()), INDEX);
        }
        Map<?, ?> root = MAPPER.readValue(Files.readString(index), Map.class);
        if (!FORMAT.equals(root.get("format"))) {
            throw new InputProblem(INDEX, 1, 1, "format", String.valueOf(root.get("format")),
                    message("problem.this-program-reads", FORMAT));
        }
        return root;
    }

    private static void rawParts(org.jdbi.v3.core.Handle h, Path folder, Map<?, ?> row) throws IOException {
        String sha = (String) row.get("sha256");
        Path file = Inside.file(folder, "files", sha);
        // What is stored is what was hashed: one stream for both.
        MessageDigest d = RunStore.digest();
        long size;
        try (var in = new DigestInputStream(Files.newInputStream(file, LinkOption.NOFOLLOW_LINKS), d)) {
            size = RunStore.addParts(h, ((Number) row.get("id")).longValue(), in);
        }
        if (!sha.equals(HexFormat.of().formatHex(d.digest())) || size != ((Number) row.get("size")).longValue()) {
            throw new InputProblem("files/" + sha, 0, 0, "", message("problem.a-file-that-is-not-what-its-name-says"),
                    message("problem.export-the-workbook-again"));
        }
    }

    private static void readings(org.jdbi.v3.core.Handle h, Path folder, Map<?, ?> row) throws IOException {
        long run = ((Number) row.get("id")).longValue();
        Recording r;
        try (var in = Files.newInputStream(Inside.file(folder, "runs", run + ".csv"), LinkOption.NOFOLLOW_LINKS)) {
            r = ExactTable.read("runs/" + run + ".csv", in);
        }
        if (r.size() != ((Number) row.get("samples")).longValue()) {
            throw new InputProblem(INDEX, 0, 0, "run.samples", message("problem.a-number-of-samples",
                    row.get("samples"), r.size()), message("problem.export-the-workbook-again"));
        }
        RunStore.addChunks(r, () -> false, (channel, part, packed) -> RunStore.chunk(h, run, channel, part, packed));
        RecordingCheck.check("runs/" + run + ".csv", RunStore.recording(h, run));
    }
}
