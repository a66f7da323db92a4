package nariz.workbook;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import nariz.carburetor.BuildSheetReader;
import nariz.carburetor.PartChange;

/** Parts one means to fit to a vehicle, and those that were fitted; every change can be undone. */
public final class PartPlans {
    private final Workbook book;

    PartPlans(Workbook book) {
        this.book = book;
    }

    /**
     * Parts one means to fit.
     *
     * @param id key in this file
     * @param sheet build sheet it starts from
     * @param name as the user calls it
     * @param changes parts against that sheet
     * @param created when
     */
    public record PartPlan(long id, long sheet, String name, List<PartChange> changes, Instant created) {
        /** Copies the list. */
        public PartPlan {
            changes = List.copyOf(changes);
        }
    }

    /**
     * What one version of a build sheet changed against the version before.
     *
     * @param sheet the version
     * @param changes parts changed; empty where only other things were
     */
    public record Made(Workbook.Sheet sheet, List<PartChange> changes) {
        /** Copies the list. */
        public Made {
            changes = List.copyOf(changes);
        }
    }

    /**
     * Plans for a vehicle.
     *
     * @param vehicle key
     * @return in the order they were kept
     */
    public List<PartPlan> of(long vehicle) {
        return book.database().read(h ->
                h.createQuery("SELECT id, build_sheet, name, created FROM plan WHERE vehicle = ? ORDER BY id")
                .bind(0, vehicle).map((r, c) -> new PartPlan(r.getLong(1), r.getLong(2), r.getString(3),
                        PlannedParts.read(h, r.getLong(1), r.getLong(2)), Instant.parse(r.getString(4)))).list());
    }

    /**
     * Keeps parts one means to fit.
     *
     * @param sheet build sheet they are changes of
     * @param name as the user calls the plan
     * @param changes parts, at least one
     */
    public void add(Workbook.Sheet sheet, String name, List<PartChange> changes) {
        if (changes.isEmpty()) {
            throw new IllegalArgumentException("a plan without parts");
        }
        Instant created = Instant.parse(Workbook.now());
        PartPlan p = book.database().write(h -> {
            long id = h.createUpdate("INSERT INTO plan (vehicle, build_sheet, name, created) VALUES (?, ?, ?, ?)")
                    .bind(0, sheet.vehicle()).bind(1, sheet.id()).bind(2, name).bind(3, created.toString())
                    .executeAndReturnGeneratedKeys("id").mapTo(Long.class).one();
            PartPlan made = new PartPlan(id, sheet.id(), name, changes, created);
            PlannedParts.write(h, made);
            return made;
        });
        book.history().add("plan " + name, put(sheet.vehicle(), p),
                book.sql("DELETE FROM plan WHERE id = ?", p.id()));
    }

    /**
     * Takes a plan away; undo brings it back.
     *
     * @param vehicle key
     * @param p the plan
     */
    public void remove(long vehicle, PartPlan p) {
        book.history().run("removal of plan " + p.name(), book.sql("DELETE FROM plan WHERE id = ?", p.id()),
                put(vehicle, p));
    }

    private Runnable put(long vehicle, PartPlan p) {
        return () -> book.database().write(h -> {
            h.createUpdate("INSERT INTO plan (id, vehicle, build_sheet, name, created) VALUES (?, ?, ?, ?, ?)")
                    .bind(0, p.id()).bind(1, vehicle).bind(2, p.sheet()).bind(3, p.name())
                    .bind(4, p.created().toString()).execute();
            PlannedParts.write(h, p);
            return p.id();
        });
    }

    /**
     * What was changed on a vehicle, version by version of its build sheet.
     *
     * @param vehicle key
     * @return from the second version on
     */
    public List<Made> made(long vehicle) {
        List<Workbook.Sheet> all = book.sheets(vehicle);
        List<Made> out = new ArrayList<>();
        for (int i = 1; i < all.size(); i++) {
            out.add(new Made(all.get(i), PartChange.between(
                    BuildSheetReader.parse("build sheet", all.get(i - 1).json()),
                    BuildSheetReader.parse("build sheet", all.get(i).json()))));
        }
        return out;
    }
}
