package nariz.workbook;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import nariz.carburetor.InputProblem;
import nariz.log.Plan;
import nariz.log.Recording;
import org.jspecify.annotations.Nullable;

/** What is being recorded beside an engine, or was when the program ended: lines as they came, until they are a run. */
public final class Recordings {
    private final Workbook book;

    Recordings(Workbook book) {
        this.book = book;
    }

    /**
     * A recording that has not ended: it is being made, or a crash cut it short.
     *
     * @param id key in this file
     * @param vehicle whose it is
     * @param sheet build sheet it is driven on
     * @param name its title
     * @param started when
     */
    public record Unfinished(long id, long vehicle, long sheet, String name, Instant started) {
    }

    /**
     * Begins a recording.
     *
     * @param sheet build sheet it is driven on
     * @param name its title
     * @param plan what the columns mean; null to go by header and units alone
     * @return its key
     */
    public long begin(Workbook.Sheet sheet, String name, @Nullable Plan plan) {
        return book.database().write(h -> RecordingStore.begin(h, sheet.id(), name, plan, Workbook.now()));
    }

    /**
     * Keeps lines of a recording; when it returns they survive a crash.
     *
     * @param recording key
     * @param lines header and rows in order, at least one
     */
    public void append(long recording, List<String> lines) {
        book.database().write(h -> RecordingStore.append(h, recording, lines));
    }

    /** {@return recordings that have not ended} */
    public List<Unfinished> unfinished() {
        return book.database().read(RecordingStore::unfinished);
    }

    /**
     * Ends a recording: it becomes a run like any other.
     *
     * @param u the recording
     * @return the run
     * @throws InputProblem when its lines cannot be read as a log; they stay where they are
     */
    public Workbook.Run finish(Unfinished u) {
        Path file = book.database().read(h -> RecordingStore.spooled(h, u.id(), u.name()));
        try {
            Recording r = book.database().read(h -> RecordingStore.read(h, u.id(), file));
            Workbook.Sheet sheet = new Workbook.Sheet(u.sheet(), u.vehicle(), book.sheetJson(u.sheet()), u.started());
            Workbook.Run run = book.addRun(sheet, r, file, () -> false);
            book.database().write(h -> RecordingStore.forget(h, u.id()));
            return run;
        } finally {
            RecordingStore.discard(file);
        }
    }

    /**
     * Writes the lines of a recording into a file of their own.
     *
     * @param u the recording
     * @param file where to; nothing that is there is overwritten
     * @throws IOException when it cannot be written
     */
    public void write(Unfinished u, Path file) throws IOException {
        Path spooled = book.database().read(h -> RecordingStore.spooled(h, u.id(), u.name()));
        try {
            Files.copy(spooled, file);
        } finally {
            RecordingStore.discard(spooled);
        }
    }

    /**
     * Lets go of a recording without a run: nothing of use was in it, or it was written out.
     *
     * @param u the recording
     */
    public void drop(Unfinished u) {
        book.database().write(h -> RecordingStore.forget(h, u.id()));
    }
}
