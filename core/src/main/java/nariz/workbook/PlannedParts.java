package nariz.workbook;

import java.util.List;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.carburetor.Families;
import nariz.carburetor.Part;
import nariz.carburetor.PartChange;
import nariz.carburetor.Stage;
import org.jdbi.v3.core.Handle;

/** Parts of a plan in the database. */
final class PlannedParts {
    private PlannedParts() {
    }

    static List<PartChange> read(Handle handle, long plan, long sheet) {
        BuildSheet parts = BuildSheetReader.parse("build sheet", handle.createQuery(
                "SELECT json FROM build_sheet WHERE "
                + "id = ?").bind(0, sheet).mapTo(String.class).one());
        return handle.createQuery("SELECT part, side, size FROM planned WHERE plan = ? ORDER BY rowid").bind(0, plan)
                .map((r, c) -> {
                    Part part = Families.part(r.getString(1)).orElseThrow();
                    Stage side = Stage.ofKey(r.getString(2)).orElseThrow();
                    return new PartChange(part, side, part.of(parts.carburetor(), side), r.getDouble(3));
                }).list();
    }

    static void write(Handle h, PartPlans.PartPlan p) {
        for (PartChange c : p.changes()) {
            h.createUpdate("INSERT INTO planned (plan, part, side, size) VALUES (?, ?, ?, ?)").bind(0, p.id())
                    .bind(1, c.part().key()).bind(2, c.side().key()).bind(3, c.to()).execute();
        }
    }
}
