package nariz.workbook;

import java.io.BufferedWriter;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import nariz.carburetor.InputProblem;
import nariz.log.LogReader;
import nariz.log.Plan;
import nariz.log.PlanJson;
import nariz.log.Recording;
import org.jdbi.v3.core.Handle;
import org.jspecify.annotations.Nullable;

/** Drives that are being recorded: their lines, until they end and become runs. */
final class RecordingStore {
    private RecordingStore() {
    }

    static long begin(Handle h, long sheet, String name, @Nullable Plan plan, String at) {
        return h.createUpdate("INSERT INTO recording (build_sheet, name, plan, started) VALUES (?, ?, ?, ?)")
                .bind(0, sheet).bind(1, name).bind(2, plan == null ? null : PlanJson.write(plan)).bind(3, at)
                .executeAndReturnGeneratedKeys("id").mapTo(Long.class).one();
    }

    static int append(Handle h, long recording, List<String> lines) {
        int part = h.createQuery("SELECT COALESCE(MAX(part), 0) + 1 FROM recorded WHERE recording = ?")
                .bind(0, recording).mapTo(Integer.class).one();
        return h.createUpdate("INSERT INTO recorded (recording, part, lines) VALUES (?, ?, ?)").bind(0, recording)
                .bind(1, part).bind(2, String.join("\n", lines) + "\n").execute();
    }

    static List<Recordings.Unfinished> unfinished(Handle h) {
        return h.createQuery("SELECT recording.id, build_sheet.vehicle, build_sheet.id, recording.name, "
                + "recording.started FROM recording JOIN build_sheet ON build_sheet.id = recording.build_sheet ORDER "
                + "BY recording.id").map((r, c) -> new Recordings.Unfinished(r.getLong(1), r.getLong(2), r.getLong(3),
                        r.getString(4), Instant.parse(r.getString(5)))).list();
    }

    /** Writes the lines into a file of their own, which the run keeps byte for byte. */
    static Path spooled(Handle h, long recording, String name) {
        try {
            Path file = Files.createTempDirectory("nariz").resolve(name.replaceAll("[^\\p{L}\\p{N} ._-]", "-")
                    + ".csv");
            try (BufferedWriter out = Files.newBufferedWriter(file, StandardCharsets.UTF_8)) {
                h.createQuery("SELECT lines FROM recorded WHERE recording = ? ORDER BY part").bind(0, recording)
                        .mapTo(String.class).forEach(s -> write(out, s));
            }
            return file;
        } catch (IOException e) {
            throw InputProblem.unreadable(name, e);
        }
    }

    private static void write(BufferedWriter out, String s) {
        try {
            out.write(s);
        } catch (IOException e) {
            throw InputProblem.unreadable("recording", e);
        }
    }

    static void discard(Path file) {
        try {
            Files.deleteIfExists(file);
        } catch (IOException e) {
            // It lies in the folder for what is temporary.
        }
    }

    static Recording read(Handle h, long recording, Path file) {
        Optional<Plan> plan = h.createQuery("SELECT plan FROM recording WHERE id = ? AND plan IS NOT NULL").bind(0,
                recording).mapTo(String.class).findOne().map(j -> PlanJson.parse("recording", j));
        return LogReader.record(file, plan.orElse(null), () -> false, rows -> { });
    }

    static int forget(Handle h, long recording) {
        h.createUpdate("DELETE FROM recorded WHERE recording = ?").bind(0, recording).execute();
        return h.createUpdate("DELETE FROM recording WHERE id = ?").bind(0, recording).execute();
    }
}
