package nariz.fuzz;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.stream.Stream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import java.util.zip.ZipOutputStream;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.carburetor.Delivery;
import nariz.carburetor.DeliveryModel;
import nariz.carburetor.InputProblem;
import nariz.carburetor.KitReader;
import nariz.cli.NarizCommand;
import nariz.diagnosis.AdviceJson;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.PreviousReader;
import nariz.diagnosis.Strategy;
import nariz.log.Channel;
import nariz.log.LogReader;
import nariz.log.PlanJson;
import nariz.log.Proposal;
import nariz.log.Recording;
import nariz.log.RecordingCheck;
import nariz.sim.DemoDrive;
import nariz.testing.Samples;
import nariz.workbook.Exchange;
import nariz.workbook.Workbook;
import org.dhatim.fastexcel.Worksheet;

/**
 * Hostile and damaged input, seeded. An input passes when it ends in time and memory, in a result that agrees with the
 * undamaged one but for what was damaged, or in an {@link InputProblem} that names its file. A trace, a changed number
 * that nobody was told of, a half-taken import: each fails, with the seed to see it again.
 */
final class Fuzz {
    /** What is damaged. */
    enum Target {
        /** Drive logs as text. */
        LOG(30),
        /** Logs as bytes, in several encodings. */
        LOG_BYTES(10),
        /** Spreadsheets. */
        SPREADSHEET(6),
        /** Build sheets. */
        SHEET(14),
        /** Kits. */
        KIT(8),
        /** Profiles of columns. */
        PROFILE(10),
        /** Advice of a round before. */
        ADVICE(6),
        /** Data packages. */
        PACKAGE(6),
        /** Exported folders. */
        FOLDER(3),
        /** Workbooks. */
        WORKBOOK(6),
        /** The whole command on a damaged log. */
        COMMAND(1);

        private final int share;

        Target(int share) {
            this.share = share;
        }
    }

    private static final String NAME = "fuzzed.csv";
    private static final String KIT =
            "{\"format\": \"nariz-kit/1\", \"have\": {\"main-jet\": [\"60 thou\"]}, \"ladder\": "
            + "{\"power-valve-rating\": [\"2.5 inHg\", \"5.5 inHg\"]}}";
    private static final long SLOWEST_NS = 20_000_000_000L;
    private static final int TOLD = 20;

    private final long seed;
    private final String log = Samples.log();
    private final Recording whole;
    private final byte[] xlsx;
    private final byte[] zip;
    private final byte[] workbook;
    private final Map<String, String> told;
    private final Map<String, String> exported = new TreeMap<>();
    private final String advice;
    private final String profile;
    private final BuildSheet sheet = BuildSheetReader.parse("six.json", Samples.sheet());
    private final Path folder;
    private final Map<Target, int[]> counts = new EnumMap<>(Target.class);
    private final List<String> failures = new ArrayList<>();

    Fuzz(long seed) throws IOException {
        this.seed = seed;
        folder = Files.createTempDirectory("nariz-fuzz");
        Path csv = Files.writeString(folder.resolve("drive.csv"), log);
        whole = LogReader.record(csv, null, () -> false, n -> { });
        profile = PlanJson.write(whole.plan());
        xlsx = spreadsheet(log);
        Path package_ = folder.resolve("run.zip");
        Exchange.dataPackage(whole, Samples.sheet(), package_);
        zip = Files.readAllBytes(package_);
        Path book = folder.resolve("whole.nariz");
        Path out = folder.resolve("out");
        try (Workbook w = Workbook.open(book)) {
            Workbook.Vehicle v = w.vehicle("six");
            Workbook.Run r = w.addRun(w.addSheet(v.id(), Samples.sheet()), whole, csv, () -> false);
            w.notes().add(v.id(), java.util.Optional.of(r.id()), java.util.Optional.of(12.0), "stumbles here");
            Exchange.folder(w, out);
        }
        workbook = Files.readAllBytes(book);
        try (Workbook w = Workbook.openToRead(book)) {
            told = told(w);
        }
        try (Stream<Path> files = Files.walk(out)) {
            for (Path p : files.filter(Files::isRegularFile).toList()) {
                exported.put(out.relativize(p).toString(), Files.readString(p, StandardCharsets.ISO_8859_1));
            }
        }
        advice = AdviceJson.write(Analysis.of(DemoDrive.sheet(), DemoDrive.drive().log(), Strategy.BALANCED).advice());
        for (Target t : Target.values()) {
            counts.put(t, new int[2]);
        }
    }

    private static byte[] spreadsheet(String log) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (org.dhatim.fastexcel.Workbook book = new org.dhatim.fastexcel.Workbook(out, "fuzz", "1.0")) {
            Worksheet s = book.newWorksheet("log");
            String[] lines = log.split("\n");
            for (int r = 0; r < 200; r++) {
                String[] cells = lines[r].split(",");
                for (int c = 0; c < cells.length; c++) {
                    if (r == 0) {
                        s.value(r, c, cells[c]);
                    } else {
                        s.value(r, c, Double.parseDouble(cells[c]));
                    }
                }
            }
        }
        return out.toByteArray();
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
            Recording rec = w.recording(r.id());
            rec.channels().forEach(c -> out.put("readings " + r.id() + c, "" + Arrays.hashCode(rec.written(c))));
            ByteArrayOutputStream bytes = new ByteArrayOutputStream();
            w.raw(r.id(), bytes);
            out.put("file " + r.id(), bytes.toString(StandardCharsets.UTF_8));
        }
        return out;
    }

    /** Goes through so many inputs; the first of them has the number {@code from}. */
    void run(long from, int count) throws IOException {
        int all = Arrays.stream(Target.values()).mapToInt(t -> t.share).sum();
        for (long i = from; i < from + count; i++) {
            Random r = new Random(seed * 1_000_003 + i);
            int pick = r.nextInt(all);
            Target t = Target.LOG;
            for (Target x : Target.values()) {
                if (pick >= 0) {
                    t = x;
                }
                pick -= x.share;
            }
            one(t, i, r);
        }
        try (Stream<Path> files = Files.walk(folder)) {
            for (Path p : files.sorted(Comparator.reverseOrder()).toList()) {
                Files.deleteIfExists(p);
            }
        }
    }

    private void one(Target t, long i, Random r) {
        long started = System.nanoTime();
        counts.get(t)[0]++;
        try {
            String wrong = tried(t, new Damager(r), r);
            if (!wrong.isEmpty()) {
                failures.add(t + " input " + i + ": " + wrong);
            }
        } catch (InputProblem e) {
            counts.get(t)[1]++;
            if (e.source().isEmpty() || e.wanted().toString().isEmpty()) {
                failures.add(t + " input " + i + ": a message without file or remedy: " + e.getMessage());
            }
        } catch (Exception | OutOfMemoryError | StackOverflowError e) {
            StringWriter s = new StringWriter();
            e.printStackTrace(new PrintWriter(s));
            failures.add(t + " input " + i + ": " + String.join(" < ", s.toString().lines().limit(7).map(String::trim)
                    .toList()));
        }
        if (System.nanoTime() - started > SLOWEST_NS) {
            failures.add(t + " input " + i + ": took " + (System.nanoTime() - started) / 1_000_000_000L + " s");
        }
    }

    private String tried(Target t, Damager d, Random r) throws IOException {
        return switch (t) {
            case LOG -> log(d.log(log));
            case LOG_BYTES -> bytes(d.bytes(log.getBytes(List.of(StandardCharsets.UTF_8, StandardCharsets.UTF_16,
                    StandardCharsets.UTF_16LE, StandardCharsets.ISO_8859_1).get(r.nextInt(4)))));
            case SPREADSHEET -> bytes(r.nextBoolean() ? d.bytes(xlsx) : repacked(xlsx, d, r));
            case SHEET -> sheet(d.json(Samples.sheet()));
            case KIT -> {
                KitReader.parse("kit.json", d.json(KIT));
                yield "";
            }
            case PROFILE -> {
                record(log.getBytes(StandardCharsets.UTF_8), d.json(profile));
                yield "";
            }
            case ADVICE -> {
                PreviousReader.parse("advice.json", d.json(advice));
                yield "";
            }
            case PACKAGE -> packed(r.nextBoolean() ? d.bytes(zip) : repacked(zip, d, r));
            case FOLDER -> folder(d, r);
            case WORKBOOK -> workbook(d.bytes(workbook));
            case COMMAND -> command(d.log(log).text());
        };
    }

    private static Recording record(byte[] bytes, String plan) throws IOException {
        return LogReader.record(NAME, new ByteArrayInputStream(bytes), plan == null ? null
                : PlanJson.parse("profile.json",
                plan), () -> false, n -> { });
    }

    private String bytes(byte[] b) throws IOException {
        Proposal p = LogReader.propose(NAME, new ByteArrayInputStream(b));
        Recording r = record(b, p.plan().missing().isEmpty() ? PlanJson.write(p.plan().confirmed()) : null);
        RecordingCheck.check(NAME, r);
        return "";
    }

    /** Lines that were not touched read as they did; what was left out of the others is listed. */
    private String log(Damager.Log damaged) throws IOException {
        byte[] b = damaged.text().getBytes(StandardCharsets.UTF_8);
        Recording r = record(b, null);
        RecordingCheck.check(NAME, r);
        LogReader.drive(r, sheet);
        if (damaged.structure()) {
            return "";
        }
        Map<Double, Integer> at = new java.util.HashMap<>();
        double[] t = r.written(Channel.TIME);
        for (int i = 0; i < t.length; i++) {
            at.put(t[i], i);
        }
        double[] was = whole.written(Channel.TIME);
        for (Channel c : whole.channels()) {
            if (!r.channels().contains(c)) {
                return "channel " + c + " is gone";
            }
            double[] before = whole.written(c);
            double[] now = r.written(c);
            for (int i = 0; i < before.length; i++) {
                Integer k = at.get(was[i]);
                boolean touched = damaged.lines().contains(i + 1);
                if (k == null && r.problemCount() == 0 && !touched) {
                    return "line " + (i + 2) + " is gone and not listed";
                }
                if (k != null && !touched && Double.compare(now[k], before[i]) != 0 && !timeTouched(damaged, i)) {
                    String[] lines = damaged.text().split("\n", -1);
                    return c + " of line " + (i + 2) + " is " + now[k] + ", was " + before[i] + "; damaged: "
                            + damaged.lines().stream().map(l -> (l + 1) + " " + shortened(lines[l])).toList()
                            + "; listed: "
                            + r.problems().stream().map(p -> p.text().toString()).limit(4).toList();
                }
            }
        }
        return "";
    }

    private static String shortened(String s) {
        return s.length() > 80 ? s.substring(0, 80) + "..." : s;
    }

    /** A damaged line may have taken the time of another one. */
    private boolean timeTouched(Damager.Log damaged, int row) {
        String time = log.split("\n", -1)[row + 1].split(",")[0];
        String[] lines = damaged.text().split("\n", -1);
        return damaged.lines().stream().anyMatch(l -> {
            String first = lines[l].split(",", -1)[0].trim();
            try {
                return Double.parseDouble(first.replaceAll("[^-0-9.eE].*", "")) == Double.parseDouble(time);
            } catch (NumberFormatException e) {
                return false;
            }
        });
    }

    /** A sheet that is accepted can be computed with. */
    private static String sheet(String json) {
        BuildSheet s = BuildSheetReader.parse("sheet.json", json);
        DeliveryModel m = s.carburetor().family().model(s);
        Delivery out = m.newDelivery();
        for (double vacuum : new double[] {5e3, 30e3, 60e3}) {
            m.evaluate(2500, Math.min(vacuum, s.ambient().pressurePa() - 9e3), out);
            if (!Double.isFinite(out.total())) {
                return "a mixture of " + out.total() + " from " + json.replaceAll("\\s+", " ");
            }
        }
        return "";
    }

    private static byte[] repacked(byte[] zip, Damager d, Random r) throws IOException {
        Path tmp = Files.createTempFile("nariz", ".zip");
        try {
            Files.write(tmp, zip);
            ByteArrayOutputStream out = new ByteArrayOutputStream();
            try (ZipFile in = new ZipFile(tmp.toFile()); ZipOutputStream z = new ZipOutputStream(out)) {
                List<? extends ZipEntry> entries = java.util.Collections.list(in.entries());
                int spoiled = r.nextInt(entries.size());
                for (int k = 0; k < entries.size(); k++) {
                    byte[] b = in.getInputStream(entries.get(k)).readAllBytes();
                    z.putNextEntry(new ZipEntry(entries.get(k).getName()));
                    z.write(k == spoiled ? d.bytes(b) : b);
                    z.closeEntry();
                }
            }
            return out.toByteArray();
        } finally {
            Files.delete(tmp);
        }
    }

    private String packed(byte[] b) throws IOException {
        Path file = Files.write(folder.resolve("fuzzed.zip"), b);
        Exchange.Packed p = Exchange.dataPackage(file);
        RecordingCheck.check("fuzzed.zip", p.recording());
        BuildSheetReader.parse("build-sheet.json", p.sheetJson());
        return "";
    }

    /** Taken in whole, and then as any other workbook; or nothing of it. */
    private String folder(Damager d, Random r) throws IOException {
        Path in = Files.createTempDirectory(folder, "in");
        Path into = in.resolve("into.nariz");
        List<String> names = new ArrayList<>(exported.keySet());
        String spoiled = names.get(r.nextInt(names.size()));
        for (String n : names) {
            Path p = in.resolve(n);
            Files.createDirectories(p.getParent());
            String s = exported.get(n);
            Files.write(p, (n.equals(spoiled) ? d.json(s) : s).getBytes(StandardCharsets.ISO_8859_1));
        }
        try (Workbook w = Workbook.open(into)) {
            try {
                Exchange.read(in, w);
            } catch (InputProblem e) {
                if (!w.vehicles().isEmpty() || !w.runs().isEmpty()) {
                    return "half of a folder was taken in";
                }
                throw e;
            }
            told(w);
            Exchange.folder(w, in.resolve("again"));
        } finally {
            try (Stream<Path> files = Files.walk(in)) {
                for (Path p : files.sorted(Comparator.reverseOrder()).toList()) {
                    Files.delete(p);
                }
            }
        }
        return "";
    }

    /** What is told is what was written, and what is missing is told as well. */
    private String workbook(byte[] b) throws IOException {
        Path file = Files.write(folder.resolve("fuzzed.nariz"), b);
        try (Workbook w = Workbook.openToRead(file)) {
            Map<String, String> now = told(w);
            if (w.damage().isEmpty() && !now.equals(told)) {
                return "changed without a word";
            }
            return told.entrySet().containsAll(now.entrySet()) ? "" : "wrong beside the damage that is told";
        }
    }

    /** The command as a person gives it: 0 or 3, and nothing that looks like a trace. */
    private String command(String text) throws IOException {
        Path file = Files.writeString(folder.resolve(NAME), text);
        Path json = folder.resolve("six.json");
        Files.writeString(json, Samples.sheet());
        StringWriter out = new StringWriter();
        StringWriter err = new StringWriter();
        int code = NarizCommand.run(new PrintWriter(out), new PrintWriter(err), "analyze", "--build", json.toString(),
                "--log", file.toString());
        boolean trace = (out.toString() + err).contains("\tat ") || err.toString().contains(
                "does not know how to handle");
        return trace || (code != 0 && code != NarizCommand.UNUSABLE_INPUT) ? "exit code " + code + ": " + err : "";
    }

    List<String> failures() {
        return failures;
    }

    /** Inputs and refusals by what was damaged, a line each, and the first failures. */
    String report() {
        StringBuilder s = new StringBuilder();
        counts.forEach((t, c) -> s.append(String.format(java.util.Locale.ROOT, "%-12s %7d inputs, %7d refused%n", t,
                c[0],
                c[1])));
        s.append(failures.size()).append(" failures\n");
        failures.stream().limit(TOLD).forEach(f -> s.append(f).append('\n'));
        return s.toString();
    }
}
