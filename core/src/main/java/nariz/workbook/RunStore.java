package nariz.workbook;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.DigestOutputStream;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.BooleanSupplier;
import nariz.log.Channel;
import nariz.log.Plan;
import nariz.log.PlanJson;
import nariz.log.Recording;
import org.jdbi.v3.core.Handle;
import org.jspecify.annotations.Nullable;

/** Runs in the database: their samples in packed parts, and the files they came from, byte for byte. */
final class RunStore {
    private static final int PART = 1 << 20;

    private RunStore() {
    }

    /**
     * Takes a recording in, with the file it came from.
     *
     * @return its key
     */
    static long add(WorkbookFile f, Workbook.Sheet sheet, Recording recording, @Nullable Path source, String at,
            BooleanSupplier cancelled) {
        long id = f.write(h -> begun(h, sheet, recording, at));
        try {
            if (source != null) {
                addRaw(f, id, source, cancelled);
            }
            addChunks(recording, cancelled, (channel, part, packed) -> f.write(h -> chunk(h, id, channel, part,
                    packed)));
            f.write(h -> {
                addMarks(h, id, recording);
                return h.createUpdate("UPDATE run SET deleted = 0 WHERE id = ?").bind(0, id).execute();
            });
            return id;
        } catch (RuntimeException | Error e) {
            f.write(h -> {
                forget(h, id);
                return id;
            });
            throw e;
        }
    }

    /** Puts other readings of the same file in the place of a run's. */
    static int replace(Handle h, long run, Recording r) {
        h.createUpdate("DELETE FROM chunk WHERE run = ?").bind(0, run).execute();
        h.createUpdate("DELETE FROM mark WHERE run = ?").bind(0, run).execute();
        addChunks(r, () -> false, (channel, part, packed) -> chunk(h, run, channel, part, packed));
        addMarks(h, run, r);
        return h.createUpdate("UPDATE run SET plan = ?, samples = ?, duration = ?, problems = ?, problem_count = ? "
                + "WHERE id = ?").bind(0, PlanJson.write(r.plan())).bind(1, r.size()).bind(2, r.durationS()).bind(3,
                        Problems.write(r.problems())).bind(4, r.problemCount()).bind(5, run).execute();
    }

    static void forget(Handle h, long run) {
        Optional<Long> raw = h.createQuery("SELECT raw_file FROM run WHERE id = ? AND raw_file IS NOT NULL").bind(0,
                run)
                .mapTo(Long.class).findOne();
        h.createUpdate("DELETE FROM chunk WHERE run = ?").bind(0, run).execute();
        h.createUpdate("DELETE FROM mark WHERE run = ?").bind(0, run).execute();
        h.createUpdate("DELETE FROM run WHERE id = ?").bind(0, run).execute();
        raw.filter(f -> h.createQuery("SELECT COUNT(*) FROM run WHERE raw_file = ?").bind(0, f).mapTo(Integer.class)
                .one() == 0).ifPresent(f -> forgetFile(h, f));
    }

    static void forgetFile(Handle h, long raw) {
        h.createUpdate("DELETE FROM raw_part WHERE raw_file = ?").bind(0, raw).execute();
        h.createUpdate("DELETE FROM raw_file WHERE id = ?").bind(0, raw).execute();
    }

    /**
     * A run that is being taken in: on no list until everything of it is there. It is written in many short steps, so
     * that a note or a decision never waits for an import.
     */
    private static long begun(Handle h, Workbook.Sheet sheet, Recording recording, String at) {
        return h.createUpdate("INSERT INTO run (vehicle, build_sheet, name, imported, samples, duration, start_clock, "
                + "header_line, plan, preamble, problems, problem_count, deleted) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, "
                + "?, ?, ?, 2)").bind(0, sheet.vehicle()).bind(1, sheet.id()).bind(2, recording.name()).bind(3, at)
                .bind(4, recording.size()).bind(5, recording.durationS())
                .bind(6, Double.isNaN(recording.startClockS()) ? null : (Double) recording.startClockS())
                .bind(7, recording.headerLine()).bind(8, PlanJson.write(recording.plan()))
                .bind(9, String.join("\n", recording.preamble())).bind(10, Problems.write(recording.problems()))
                .bind(11, recording.problemCount()).executeAndReturnGeneratedKeys("id").mapTo(Long.class).one();
    }

    private static void stopIf(BooleanSupplier cancelled) {
        if (cancelled.getAsBoolean()) {
            throw new java.util.concurrent.CancellationException("import was cancelled");
        }
    }

    /** Takes packed parts of channels. */
    @FunctionalInterface
    interface ChunkSink {
        void put(String channel, int part, byte[] packed);
    }

    static void addChunks(Recording recording, BooleanSupplier cancelled, ChunkSink sink) {
        for (Channel c : recording.channels()) {
            int part = 0;
            for (byte[] chunk : recording.chunks(c)) {
                stopIf(cancelled);
                sink.put(c.key(), part++, Packing.pack(chunk, chunk.length));
            }
        }
    }

    static int chunk(Handle h, long run, String channel, int part, byte[] packed) {
        return h.createUpdate("INSERT INTO chunk (run, channel, part, packed) VALUES (?, ?, ?, ?)").bind(0, run)
                .bind(1, channel).bind(2, part).bind(3, packed).execute();
    }

    private static void addMarks(Handle h, long run, Recording recording) {
        for (Recording.Mark m : recording.marks()) {
            h.createUpdate("INSERT INTO mark (run, time, text) VALUES (?, ?, ?)").bind(0, run).bind(1, m.timeS())
                    .bind(2, m.text()).execute();
        }
    }

    /** Stores bytes in packed parts under a raw file's key; returns how many there were. */
    static long addParts(Handle h, long rawFile, InputStream in) throws IOException {
        byte[] part = new byte[PART];
        int n = 0;
        long size = 0;
        for (int got = in.readNBytes(part, 0, PART); got > 0; got = in.readNBytes(part, 0, PART)) {
            part(h, rawFile, n++, Packing.pack(part, got));
            size += got;
        }
        return size;
    }

    private static int part(Handle h, long rawFile, int number, byte[] packed) {
        return h.createUpdate("INSERT INTO raw_part (raw_file, part, packed) VALUES (?, ?, ?)").bind(0, rawFile)
                .bind(1, number).bind(2, packed).execute();
    }

    /** Gives the bytes under a raw file's key back; what is not what was taken in is refused. */
    static void copyRaw(Handle h, long rawFile, OutputStream out) throws IOException {
        Health.verifyFile(h, rawFile);
        MessageDigest d = digest();
        copyParts(h, rawFile, new DigestOutputStream(out, d));
        String sha = h.createQuery("SELECT sha256 FROM raw_file WHERE id = ?").bind(0, rawFile).mapTo(String.class)
                .findOne().orElseThrow(() -> new DamagedPart("the file " + rawFile + " that a run came from"));
        if (!sha.equals(HexFormat.of().formatHex(d.digest()))) {
            throw new DamagedPart("the file " + rawFile + " that a run came from");
        }
    }

    private static void copyParts(Handle h, long rawFile, OutputStream out) throws IOException {
        int parts = h.createQuery("SELECT COUNT(*) FROM raw_part WHERE raw_file = ?").bind(0, rawFile)
                .mapTo(Integer.class).one();
        for (int i = 0; i < parts; i++) {
            out.write(Packing.unpack(h.createQuery("SELECT packed FROM raw_part WHERE raw_file = ? AND part = ?")
                    .bind(0, rawFile).bind(1, i).mapTo(byte[].class).one()));
        }
    }

    /** Stores the file a run came from in packed parts; one that is there already is stored once. */
    private static void addRaw(WorkbookFile f, long run, Path source, BooleanSupplier cancelled) {
        try (InputStream in = Files.newInputStream(source)) {
            String sha = sha256(source);
            long size = Files.size(source);
            Optional<Long> same = f.write(h -> {
                Optional<Long> there = h.createQuery("SELECT id FROM raw_file WHERE sha256 = ?").bind(0, sha)
                        .mapTo(Long.class).findOne();
                there.ifPresent(x -> belongs(h, run, x));
                return there;
            });
            if (same.isPresent()) {
                return;
            }
            long id = f.write(h -> {
                long made = h.createUpdate("INSERT INTO raw_file (sha256, name, size) VALUES (?, ?, ?)").bind(0, sha)
                        .bind(1, String.valueOf(source.getFileName())).bind(2, size)
                        .executeAndReturnGeneratedKeys("id").mapTo(Long.class).one();
                belongs(h, run, made);
                return made;
            });
            byte[] part = new byte[PART];
            int n = 0;
            for (int got = in.readNBytes(part, 0, PART); got > 0; got = in.readNBytes(part, 0, PART)) {
                stopIf(cancelled);
                byte[] packed = Packing.pack(part, got);
                int number = n++;
                f.write(h -> part(h, id, number, packed));
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static void belongs(Handle h, long run, long rawFile) {
        h.createUpdate("UPDATE run SET raw_file = ? WHERE id = ?").bind(0, rawFile).bind(1, run).execute();
    }

    static String sha256(Path source) throws IOException {
        try (InputStream in = Files.newInputStream(source)) {
            MessageDigest d = digest();
            byte[] buffer = new byte[PART];
            for (int got = in.read(buffer); got > 0; got = in.read(buffer)) {
                d.update(buffer, 0, got);
            }
            return HexFormat.of().formatHex(d.digest());
        }
    }

    static MessageDigest digest() {
        try {
            return MessageDigest.getInstance("SHA-256");
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java has SHA-256", e);
        }
    }

    static Recording recording(Handle handle, long run) {
        Health.verifyReadings(handle, run);
        Map<Channel, List<byte[]>> chunks = new EnumMap<>(Channel.class);
        handle.createQuery("SELECT channel, packed FROM chunk WHERE run = ? ORDER BY channel, part").bind(0, run)
                .map((r, c) -> chunks.computeIfAbsent(Channel.ofKey(r.getString(1)).orElseThrow(() ->
                        new DamagedPart("a channel of no name")),
                        k -> new ArrayList<>()).add(Packing.unpack(r.getBytes(2)))).list();
        List<Recording.Mark> marks = handle.createQuery("SELECT time, text FROM mark WHERE run = ? ORDER BY id")
                .bind(0, run).map((r, c) -> new Recording.Mark(r.getDouble(1), r.getString(2))).list();
        return handle.createQuery("SELECT name, samples, start_clock, header_line, plan, preamble, problems, "
                + "problem_count FROM run WHERE id = ?").bind(0, run).map((r, c) -> {
                    double clock = r.getDouble(3);
                    double start = r.wasNull() ? Double.NaN : clock;
                    Plan plan = PlanJson.parse("workbook", r.getString(5));
                    return new Recording(r.getString(1), plan, r.getString(6).lines().toList(), r.getInt(2),
                            r.getLong(4), chunks, marks, Problems.parse(r.getString(7)), r.getLong(8), start);
                }).one();
    }

    static Optional<String> raw(Handle handle, long run, OutputStream out) {
        Optional<Long> raw = handle.createQuery("SELECT raw_file FROM run WHERE id = ? AND raw_file IS NOT NULL")
                .bind(0, run).mapTo(Long.class).findOne();
        if (raw.isEmpty()) {
            return Optional.empty();
        }
        try {
            copyRaw(handle, raw.get(), out);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        return handle.createQuery("SELECT name FROM raw_file WHERE id = ?").bind(0, raw.get()).mapTo(String.class)
                .findOne();
    }
}
