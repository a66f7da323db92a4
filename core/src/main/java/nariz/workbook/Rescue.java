package nariz.workbook;

import static nariz.text.Message.message;

import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import nariz.carburetor.BuildSheetReader;
import nariz.carburetor.InputProblem;
import nariz.log.LogReader;
import nariz.log.Plan;
import nariz.log.PlanJson;
import nariz.log.Recording;
import nariz.log.RecordingCheck;
import nariz.text.Message;
import org.jdbi.v3.core.Handle;
import org.jdbi.v3.core.JdbiException;
import org.jspecify.annotations.Nullable;

/**
 * Saves what is whole of a damaged workbook into a new one. A run whose readings are damaged is read again from the
 * file it came from, where that is whole; a run whose file is damaged keeps its readings; a vehicle whose name is
 * damaged is named after its build sheet.
 */
public final class Rescue {
    private static final List<SealedTable> BY_ROW = List.of(SealedTable.RECORDING, SealedTable.RECORDED,
            SealedTable.MARK, SealedTable.EXCLUDED, SealedTable.NOTE,
            SealedTable.LOOKED_FOR, SealedTable.ADVICE, SealedTable.PROFILE, SealedTable.PLAN, SealedTable.PLANNED);

    private final Handle from;
    private final Handle to;
    private final List<Message> lost = new ArrayList<>();
    private int runs;

    private Rescue(Handle from, Handle to) {
        this.from = from;
        this.to = to;
    }

    /**
     * What came of a rescue.
     *
     * @param runs runs saved
     * @param lost what could not be saved, or was saved in another way than it stood there
     */
    public record Outcome(int runs, List<Message> lost) {
        /** Copies the list. */
        public Outcome {
            lost = List.copyOf(lost);
        }
    }

    /**
     * Saves what is left.
     *
     * @param damaged workbook; not changed
     * @param rescued where to; must not be there yet
     * @return what was saved and lost
     * @throws InputProblem when nothing can be read of it, or the new one cannot be written
     */
    public static Outcome save(Path damaged, Path rescued) {
        try (Workbook old = Workbook.openToRead(damaged); Workbook made = Workbook.open(rescued)) {
            if (!made.vehicles().isEmpty()) {
                throw new InputProblem(String.valueOf(rescued.getFileName()), 0, 0, "",
                        message("problem.a-workbook-with-something-in-it"),
                        message("problem.import-a-folder-into-a-new"));
            }
            synchronized (old.handle()) {
                Rescue r = new Rescue(old.handle(), made.handle());
                old.damage().forEach(d -> r.lost.add(d.text()));
                r.all();
                return new Outcome(r.runs, r.lost);
            }
        }
    }

    private void all() {
        to.useTransaction(h -> {
            sheets();
            for (Map<String, Object> run : rows("SELECT * FROM run WHERE deleted < 2 ORDER BY id")) {
                run(run);
            }
            for (SealedTable t : BY_ROW) {
                for (Map<String, Object> row : rows("SELECT * FROM " + t.table())) {
                    tried(t, row);
                }
            }
        });
    }

    private List<Map<String, Object>> rows(String sql) {
        try {
            return from.createQuery(sql).mapToMap().list();
        } catch (JdbiException e) {
            lost.add(message("damage.database", Health.reason(e)));
            return List.of();
        }
    }

    /** The chain of a vehicle's sheets is closed over what is lost. */
    private void sheets() {
        List<Map<String, Object>> whole = rows("SELECT b.* FROM build_sheet b ORDER BY b.vehicle, b.id");
        List<Map<String, Object>> vehicles = rows("SELECT * FROM vehicle");
        for (Map<String, Object> s : damagedVehiclesSheets(whole, vehicles)) {
            insert(SealedTable.VEHICLE, vehicle(s));
        }
        vehicles.forEach(v -> insert(SealedTable.VEHICLE, v));
        @Nullable Object vehicle = null;
        @Nullable Object before = null;
        List<Map<String, Object>> all = new ArrayList<>(whole);
        all.addAll(orphans(vehicles));
        all.sort(java.util.Comparator.comparingLong((Map<String, Object> s) -> number(s.get("vehicle")))
                .thenComparingLong(
                s -> number(s.get("id"))));
        for (Map<String, Object> s : all) {
            before = Objects.equals(s.get("vehicle"), vehicle) ? before : null;
            vehicle = s.get("vehicle");
            s.put("previous", before);
            insert(SealedTable.BUILD_SHEET, s);
            before = s.get("id");
        }
    }

    /** Sheets whose own rows are whole while their vehicle's is not: hidden with it, and wanted all the same. */
    private List<Map<String, Object>> orphans(List<Map<String, Object>> vehicles) {
        List<Long> known = vehicles.stream().map(v -> number(v.get("id"))).toList();
        List<String> spoiled = spoiled(SealedTable.BUILD_SHEET);
        return rows("SELECT * FROM main.build_sheet ORDER BY id").stream().filter(s -> !known.contains(number(s.get(
                "vehicle"))) && !spoiled.contains(String.valueOf(s.get("id")))).toList();
    }

    private List<Map<String, Object>> damagedVehiclesSheets(List<Map<String, Object>> whole,
            List<Map<String, Object>> vehicles) {
        List<Map<String, Object>> out = new ArrayList<>();
        for (Map<String, Object> s : orphans(vehicles)) {
            if (out.stream().noneMatch(o -> Objects.equals(o.get("vehicle"), s.get("vehicle"))) && whole.stream()
                    .noneMatch(o -> Objects.equals(o.get("vehicle"), s.get("vehicle")))) {
                out.add(s);
            }
        }
        return out;
    }

    private List<String> spoiled(SealedTable t) {
        try {
            return from.createQuery(t.spoiled("")).mapTo(String.class).list();
        } catch (JdbiException e) {
            lost.add(message("damage.database", Health.reason(e)));
            return List.of();
        }
    }

    private Map<String, Object> vehicle(Map<String, Object> sheet) {
        String name = BuildSheetReader.parse("build sheet", String.valueOf(sheet.get("json"))).name();
        lost.add(message("damage.vehicle-named-after-its-sheet", name));
        return new java.util.HashMap<>(Map.of("id", sheet.get("vehicle"), "name", name, "created",
                sheet.get("created")));
    }

    private static long number(@Nullable Object v) {
        return v instanceof Number n ? n.longValue() : 0;
    }

    private void run(Map<String, Object> row) {
        long run = number(row.get("id"));
        @Nullable Path file = file(row);
        try {
            Recording r = readings(run, row, file);
            if (r == null) {
                return;
            }
            row.put("raw_file", file == null ? null : rawFile(number(row.get("raw_file")), file));
            row.put("samples", r.size());
            row.put("plan", PlanJson.write(r.plan()));
            insert(SealedTable.RUN, row);
            RunStore.addChunks(r, () -> false, (channel, part, packed) -> RunStore.chunk(to, run, channel, part,
                    packed));
            runs++;
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        } finally {
            if (file != null) {
                file.toFile().delete();
            }
        }
    }

    /** The file a run came from, whole; null where there is none or it is not. */
    private @Nullable Path file(Map<String, Object> row) {
        if (row.get("raw_file") == null) {
            return null;
        }
        try {
            Path out = Files.createTempFile("nariz", ".raw");
            try (OutputStream o = Files.newOutputStream(out)) {
                WorkbookCheck.copy(from, number(row.get("raw_file")), o);
                return out;
            } catch (RuntimeException e) {
                Files.delete(out);
                lost.add(message("damage.file-lost", number(row.get("id"))));
                return null;
            }
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private @Nullable Recording readings(long run, Map<String, Object> row, @Nullable Path file) {
        try {
            return WorkbookCheck.readings(from, run);
        } catch (RuntimeException e) {
            return again(run, row, file);
        }
    }

    /** Reads a run again from its file, by the plan it was read by. */
    private @Nullable Recording again(long run, Map<String, Object> row, @Nullable Path file) {
        if (file != null) {
            try {
                Plan plan = PlanJson.parse("plan", String.valueOf(row.get("plan")));
                Recording r = LogReader.record(file, plan, () -> false, n -> { });
                RecordingCheck.check("run " + run, r);
                lost.add(message("damage.read-again-from-its-file", run));
                return r;
            } catch (InputProblem e) {
                // Neither of the two: told below.
            }
        }
        lost.add(message("damage.run-lost", run, String.valueOf(row.get("name"))));
        return null;
    }

    private @Nullable Long rawFile(long id, Path file) throws IOException {
        if (to.createQuery("SELECT COUNT(*) FROM raw_file WHERE id = ?").bind(0, id).mapTo(Integer.class).one() == 0) {
            for (Map<String, Object> row : rows("SELECT * FROM raw_file WHERE id = " + id)) {
                insert(SealedTable.RAW_FILE, row);
                try (var in = Files.newInputStream(file)) {
                    RunStore.addParts(to, id, in);
                }
                return id;
            }
            return null;
        }
        return id;
    }

    /** A row whose run or vehicle was lost goes with it. */
    private void tried(SealedTable t, Map<String, Object> row) {
        try {
            insert(t, row);
        } catch (JdbiException e) {
            lost.add(message("damage.row-lost", t.table(), String.valueOf(row.getOrDefault("id", ""))));
        }
    }

    private void insert(SealedTable t, Map<String, Object> row) {
        var u = to.createUpdate("INSERT INTO " + t.table() + " (" + String.join(", ", t.columns()) + ") VALUES ("
                + String.join(", ", java.util.Collections.nCopies(t.columns().size(), "?")) + ")");
        int i = 0;
        for (String c : t.columns()) {
            u.bind(i++, row.get(c));
        }
        u.execute();
    }
}
