package nariz.workbook;

import java.time.Instant;
import java.util.List;
import java.util.Optional;

/** What a user wrote down of vehicles, their runs and moments in them; every change can be undone. */
public final class VehicleNotes {
    private final Workbook book;

    VehicleNotes(Workbook book) {
        this.book = book;
    }

    /**
     * A note.
     *
     * @param id key in this file
     * @param run run it belongs to, if any
     * @param atS moment in the run it names, s; empty for a note on the whole
     * @param text what was written
     * @param created when
     */
    public record Note(long id, Optional<Long> run, Optional<Double> atS, String text, Instant created) {
    }

    /**
     * Notes on a vehicle and its runs.
     *
     * @param vehicle key
     * @return in the order they were written
     */
    public List<Note> of(long vehicle) {
        return book.database().read(h ->
                h.createQuery("SELECT id, run, at_s, text, created FROM note WHERE vehicle = ? ORDER BY id")
                .bind(0, vehicle).map((r, c) -> new Note(r.getLong(1), Optional.ofNullable((Number) r.getObject(2))
                        .map(Number::longValue), Optional.ofNullable((Number) r.getObject(3)).map(Number::doubleValue),
                        r.getString(4), Instant.parse(r.getString(5)))).list());
    }

    /**
     * Writes a note.
     *
     * @param vehicle key
     * @param run run it belongs to, if any
     * @param atS moment in that run, s; empty for the whole
     * @param text what to keep, not blank
     * @return the note as it is kept
     */
    public Note add(long vehicle, Optional<Long> run, Optional<Double> atS, String text) {
        if (text.isBlank() || (atS.isPresent() && run.isEmpty())) {
            throw new IllegalArgumentException("a note needs words, and a moment needs a run: \"" + text + "\"");
        }
        Instant created = Instant.parse(Workbook.now());
        Note n = book.database().write(h -> {
            long id = h.createUpdate("INSERT INTO note (vehicle, run, at_s, text, created) VALUES (?, ?, ?, ?, ?)")
                    .bind(0, vehicle).bind(1, run.orElse(null)).bind(2, atS.orElse(null)).bind(3, text)
                    .bind(4, created.toString()).executeAndReturnGeneratedKeys("id").mapTo(Long.class).one();
            return new Note(id, run, atS, text, created);
        });
        book.history().add("note \"" + shortened(text) + "\"", put(vehicle, n),
                book.sql("DELETE FROM note WHERE id = ?", n.id()));
        return n;
    }

    /**
     * Puts a note in other words; it stays on its moment, or on the whole.
     *
     * @param n the note
     * @param text what to keep instead, not blank
     */
    public void reword(Note n, String text) {
        if (text.isBlank()) {
            throw new IllegalArgumentException("a note needs words");
        }
        book.history().run("note \"" + shortened(text) + "\"",
                book.sql("UPDATE note SET text = ? WHERE id = ?", text, n.id()),
                book.sql("UPDATE note SET text = ? WHERE id = ?", n.text(), n.id()));
    }

    /**
     * Takes a note away; undo brings it back.
     *
     * @param vehicle key
     * @param n the note
     */
    public void remove(long vehicle, Note n) {
        book.history().run("removal of note \"" + shortened(n.text()) + "\"",
                book.sql("DELETE FROM note WHERE id = ?", n.id()),
                put(vehicle, n));
    }

    private Runnable put(long vehicle, Note n) {
        return book.sql("INSERT INTO note (id, vehicle, run, at_s, text, created) VALUES (?, ?, ?, ?, ?, ?)", n.id(),
                vehicle, n.run().orElse(null), n.atS().orElse(null), n.text(), n.created().toString());
    }

    private static String shortened(String text) {
        return text.length() > 30 ? text.substring(0, 29) + "…" : text;
    }
}
