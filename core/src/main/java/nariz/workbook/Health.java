package nariz.workbook;

import static nariz.text.Message.message;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import nariz.text.Message;
import org.jdbi.v3.core.Handle;
import org.jdbi.v3.core.JdbiException;
import org.jspecify.annotations.Nullable;

/**
 * What of a workbook is whole, by the sums of its rows. Damaged rows are hidden behind temporary views of the same
 * name, and with them the rows that cannot stand without them, so that nobody reads from them by mistake; the rest is
 * read as ever. A workbook with damage is not written to: {@link Rescue} makes a whole one of what is left.
 */
final class Health {
    /** What a row belongs to and cannot stand without. */
    private static final Map<SealedTable, List<String[]>> NEEDS = needs();
    private static final int MOST_TOLD = 100;

    private final List<Damage> damage;

    private Health(List<Damage> damage) {
        this.damage = List.copyOf(damage);
    }

    private static Map<SealedTable, List<String[]>> needs() {
        Map<SealedTable, List<String[]>> m = new EnumMap<>(SealedTable.class);
        String[] vehicle = {"vehicle", "vehicle"};
        String[] sheet = {"build_sheet", "build_sheet"};
        String[] run = {"run", "run"};
        m.put(SealedTable.BUILD_SHEET, List.<String[]>of(vehicle));
        m.put(SealedTable.RUN, List.of(vehicle, sheet));
        m.put(SealedTable.MARK, List.<String[]>of(run));
        m.put(SealedTable.EXCLUDED, List.<String[]>of(run));
        m.put(SealedTable.LOOKED_FOR, List.<String[]>of(run));
        m.put(SealedTable.ADVICE, List.<String[]>of(run));
        m.put(SealedTable.NOTE, List.<String[]>of(vehicle));
        m.put(SealedTable.PLAN, List.of(vehicle, sheet));
        m.put(SealedTable.PLANNED, List.<String[]>of(new String[] {"plan", "plan"}));
        return m;
    }

    /** {@return a workbook in which nothing was found} */
    static Health sound() {
        return new Health(List.of());
    }

    /** {@return what is damaged} */
    List<Damage> damage() {
        return damage;
    }

    /**
     * Looks at the sums of all rows but readings and files, which are looked at when they are read, and hides what is
     * damaged from this connection.
     */
    static Health look(Handle h) {
        List<Damage> out = new ArrayList<>();
        Map<SealedTable, Set<String>> spoiled = new EnumMap<>(SealedTable.class);
        for (SealedTable t : SealedTable.values()) {
            try {
                Set<String> keys = new LinkedHashSet<>();
                if (!t.large()) {
                    keys.addAll(h.createQuery(t.spoiled("")).mapTo(String.class).list());
                    keys.forEach(k -> tell(out, row(t, k, "damage.row-changed")));
                }
                h.createQuery(t.gone()).mapTo(String.class).list().forEach(k -> tell(out, row(t, k,
                        "damage.row-gone")));
                if (!keys.isEmpty()) {
                    spoiled.put(t, keys);
                }
            } catch (JdbiException e) {
                tell(out, new Damage(t.table(), "", Optional.empty(), message("damage.table", t.table(),
                        reason(e))));
                spoiled.put(t, Set.of());
            }
        }
        if (!out.isEmpty()) {
            hide(h, spoiled);
        }
        return new Health(out);
    }

    private static void tell(List<Damage> out, Damage d) {
        if (out.size() < MOST_TOLD) {
            out.add(d);
        }
    }

    static String reason(Exception e) {
        Throwable root = e;
        while (root.getCause() != null) {
            root = root.getCause();
        }
        return String.valueOf(root.getMessage());
    }

    /** A damaged row; of runs and their readings with the run. */
    static Damage row(SealedTable t, String key, String code) {
        @Nullable Long run = t == SealedTable.RUN || t == SealedTable.CHUNK ? number(key.replaceFirst("/.*", ""))
                : null;
        Message what = run == null ? message("damage.in-table", t.table(), key) : message("damage.in-run", run);
        return new Damage(t.table(), key, Optional.ofNullable(run), message(code, what));
    }

    private static @Nullable Long number(String s) {
        try {
            return Long.valueOf(s);
        } catch (NumberFormatException e) {
            return null;
        }
    }

    private static void hide(Handle h, Map<SealedTable, Set<String>> spoiled) {
        Set<String> hidden = new HashSet<>();
        for (SealedTable t : SealedTable.values()) {
            List<String> where = new ArrayList<>();
            Set<String> keys = spoiled.get(t);
            if (keys != null) {
                where.add(keys.isEmpty() ? "0" : t.key() + " NOT IN (SELECT k FROM temp.spoiled_rows WHERE tab = '"
                        + t.table() + "')");
            }
            NEEDS.getOrDefault(t, List.of()).stream().filter(n -> hidden.contains(n[1])).forEach(n -> where.add(n[0]
                    + " IN (SELECT id FROM temp." + n[1] + ")"));
            if (!where.isEmpty()) {
                if (hidden.isEmpty()) {
                    h.execute("CREATE TEMP TABLE spoiled_rows (tab TEXT, k TEXT)");
                }
                for (String k : keys == null ? Set.<String>of() : keys) {
                    h.execute("INSERT INTO temp.spoiled_rows VALUES (?, ?)", t.table(), k);
                }
                h.execute("CREATE TEMP VIEW " + t.table() + " AS SELECT * FROM main." + t.table() + " WHERE "
                        + String.join(" AND ", where));
                hidden.add(t.table());
            }
        }
    }

    /** Refuses readings of a run that are not what was written. */
    static void verifyReadings(Handle h, long run) {
        List<String> bad = h.createQuery(SealedTable.CHUNK.spoiled(" WHERE run = " + run)).mapTo(String.class).list();
        long gone = h.createQuery("SELECT COUNT(*) FROM main.seal WHERE tab = 'chunk' AND key >= ? AND key < ? AND key "
                + "NOT IN (SELECT " + SealedTable.CHUNK.key() + " FROM main.chunk WHERE run = ?)").bind(0, run + "/")
                .bind(1, run + "0").bind(2, run).mapTo(Long.class).one();
        if (!bad.isEmpty() || gone > 0) {
            throw new DamagedPart("readings of run " + run);
        }
    }

    /** Refuses the bytes of a file that are not what was written. */
    static void verifyFile(Handle h, long rawFile) {
        List<String> bad = h.createQuery(SealedTable.RAW_PART.spoiled(" WHERE raw_file = " + rawFile)).mapTo(
                String.class).list();
        if (!bad.isEmpty()) {
            throw new DamagedPart("the file " + rawFile + " that a run came from");
        }
    }
}
