package nariz.workbook;

import java.util.List;

/** Stretches of runs that a user took out of the computation; their samples stay, every change can be undone. */
public final class Exclusions {
    private final Workbook book;

    Exclusions(Workbook book) {
        this.book = book;
    }

    /**
     * A stretch the user took out of the computation; its samples stay.
     *
     * @param id key in this file
     * @param fromS start, s in the run
     * @param toS end
     * @param reason in the user's words
     */
    public record Excluded(long id, double fromS, double toS, String reason) {
    }

    /**
     * Stretches of a run that do not count.
     *
     * @param run key
     * @return in the order of time
     */
    public List<Excluded> of(long run) {
        return book.database().read(h ->
                h.createQuery("SELECT id, from_s, to_s, reason FROM excluded WHERE run = ? ORDER BY from_s, id")
                .bind(0, run).map((r, c) -> new Excluded(r.getLong(1), r.getDouble(2), r.getDouble(3), r.getString(4)))
                .list());
    }

    /**
     * Takes a stretch out of the computation.
     *
     * @param run key
     * @param fromS start, s in the run
     * @param toS end, later than the start
     * @param reason in the user's words
     */
    public void add(long run, double fromS, double toS, String reason) {
        if (!(toS > fromS)) {
            throw new IllegalArgumentException("stretch from " + fromS + " to " + toS + " s");
        }
        long id = book.database().write(h ->
                h.createUpdate("INSERT INTO excluded (run, from_s, to_s, reason) VALUES (?, ?, ?, ?)")
                .bind(0, run).bind(1, fromS).bind(2, toS).bind(3, reason).executeAndReturnGeneratedKeys("id")
                .mapTo(Long.class).one());
        book.history().add("exclusion of a stretch",
                book.sql("INSERT INTO excluded (id, run, from_s, to_s, reason) VALUES (?, ?, ?, ?, ?)",
                id, run, fromS, toS, reason), book.sql("DELETE FROM excluded WHERE id = ?", id));
    }

    /**
     * Lets a stretch count again.
     *
     * @param run key
     * @param e the stretch
     */
    public void remove(long run, Excluded e) {
        book.history().run("return of a stretch", book.sql("DELETE FROM excluded WHERE id = ?", e.id()),
                book.sql("INSERT INTO excluded (id, run, from_s, to_s, reason) VALUES (?, ?, ?, ?, ?)", e.id(), run,
                        e.fromS(),
                        e.toS(), e.reason()));
    }
}
