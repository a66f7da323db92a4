package nariz.workbook;

import static nariz.text.Message.message;

import java.io.OutputStream;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.BooleanSupplier;
import nariz.carburetor.InputProblem;
import nariz.log.Recording;
import nariz.log.RecordingCheck;
import nariz.text.Message;
import org.jdbi.v3.core.Handle;
import org.jdbi.v3.core.JdbiException;

/** Looks at all of a workbook: the database's own order, the sum of every row, every reading, every kept file. */
public final class WorkbookCheck {
    private WorkbookCheck() {
    }

    /**
     * Looks for damage.
     *
     * @param file workbook
     * @param cancelled asked between runs; true ends the check early
     * @return all that is damaged; empty when the workbook is what was written
     * @throws InputProblem when it is no workbook or so damaged that it cannot be opened at all
     */
    public static List<Damage> of(Path file, BooleanSupplier cancelled) {
        try (Workbook w = Workbook.openToRead(file)) {
            List<Damage> out = new ArrayList<>(w.damage());
            synchronized (w.handle()) {
                Handle h = w.handle();
                order(h, out);
                for (Long run : keys(h, "SELECT id FROM run WHERE deleted < 2 ORDER BY id", out)) {
                    if (cancelled.getAsBoolean()) {
                        return out;
                    }
                    told(out, run, message("damage.readings", run), () -> sound(h, run));
                }
                for (Long raw : keys(h, "SELECT id FROM raw_file ORDER BY id", out)) {
                    if (cancelled.getAsBoolean()) {
                        return out;
                    }
                    long run = keys(h, "SELECT id FROM run WHERE raw_file = " + raw + " ORDER BY id", out).stream()
                            .findFirst().orElse(0L);
                    told(out, run, message("damage.file", run), () -> copy(h, raw,
                            OutputStream.nullOutputStream()));
                }
            }
            return out;
        }
    }

    private static List<Long> keys(Handle h, String sql, List<Damage> out) {
        try {
            return h.createQuery(sql).mapTo(Long.class).list();
        } catch (JdbiException e) {
            out.add(new Damage("", "", Optional.empty(), message("damage.database", Health.reason(e))));
            return List.of();
        }
    }

    private static void order(Handle h, List<Damage> out) {
        try {
            h.createQuery("PRAGMA integrity_check(20)").mapTo(String.class).list().stream().filter(s -> !s.equals("ok"))
                    .forEach(s -> out.add(new Damage("", "", Optional.empty(), message("damage.database", s))));
        } catch (JdbiException e) {
            out.add(new Damage("", "", Optional.empty(), message("damage.database", Health.reason(e))));
        }
    }

    private static void told(List<Damage> out, long run, Message what, Runnable work) {
        try {
            work.run();
        } catch (RuntimeException e) {
            // Whatever stops a reading is damage here: all of it is looked at only to find that out.
            out.add(new Damage("", "", Optional.of(run), message("damage.row-changed", what)));
        }
    }

    private static void sound(Handle h, long run) {
        readings(h, run);
    }

    /** Readings of a run, once they are known to be what was written and to make sense. */
    static Recording readings(Handle h, long run) {
        Recording r = RunStore.recording(h, run);
        RecordingCheck.check("run " + run, r);
        return r;
    }

    static void copy(Handle h, long raw, OutputStream out) {
        try {
            RunStore.copyRaw(h, raw, out);
        } catch (java.io.IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
    }
}
