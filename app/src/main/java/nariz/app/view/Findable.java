package nariz.app.view;

import static nariz.app.words.WindowWords.say;

import java.util.ArrayList;
import java.util.List;
import nariz.app.state.Drive;
import nariz.app.state.DriveRepository;
import nariz.app.state.Glossary;
import nariz.app.state.Session;
import nariz.app.state.Stops;
import nariz.carburetor.Kit;
import nariz.diagnosis.Candidate;
import nariz.workbook.PartPlans;
import nariz.workbook.VehicleNotes;

/** Everything the one field finds: actions, parts, steps to undo, notes, plans, kept drives and words of the trade. */
final class Findable {
    private final MainWindow window;
    private final Session session;
    private final Actions actions;
    private final Choice side;

    Findable(MainWindow window, Session session, Actions actions, Choice side) {
        this.window = window;
        this.session = session;
        this.actions = actions;
        this.side = side;
    }

    /** Everything, in the order of work. */
    List<Find.Entry> all() {
        List<Find.Entry> out = new ArrayList<>();
        Drive d = session.driveProperty().get();
        actions.all().stream().filter(a -> a.usable().getAsBoolean()).forEach(a -> out.add(new Find.Entry(a.title(),
                a.key(), a.run())));
        List<String> done = session.historyProperty().get();
        for (int i = 0; i < done.size(); i++) {
            int steps = i + 1;
            out.add(new Find.Entry((i == 0 ? say("main-window.undo") : say("main-window.undo-back-to-before"))
                    + done.get(i), i == 0 ? "Ctrl+Z" : "",
                    () -> session.undo(steps)));
        }
        if (d != null && d.analysis().estimated()) {
            for (Candidate c : Candidate.of(d.sheet(), Kit.NONE)) {
                out.add(new Find.Entry(say("main-window.try-now", c.part().named(c.side()), c.part().text(
                        c.fitted())), "", () -> {
                            session.goTo(Stops.of(c.circuit(d.sheet().carburetor().family())));
                            side.show(WorkColumn.TRY);
                            window.lookup("#try-" + c.side().key() + "-" + c.part().key()).requestFocus();
                        }));
            }
        }
        for (VehicleNotes.Note n : session.notes().notesProperty().get()) {
            out.add(new Find.Entry(say("main-window.note", n.text()), "", () -> n.atS().ifPresent(t
                    -> session.moveCursor(
                    session.driveProperty().get().log().indexAt(t)))));
        }
        for (PartPlans.PartPlan p : session.notes().plansProperty().get()) {
            out.add(new Find.Entry(say("main-window.plan", p.name()), "", () -> {
                side.show(WorkColumn.TRY);
                session.trials().tryParts(p.changes());
            }));
        }
        // The line is the answer: choosing it only closes the list.
        Glossary.words().forEach(w -> out.add(new Find.Entry(w, say("main-window.word"), () -> { })));
        for (DriveRepository.Entry e : session.garage().keptProperty().get()) {
            out.add(new Find.Entry(say("main-window.open", e.vehicle(), e.name()), "", () -> session.open().kept(
                    e.run())));
        }
        return out;
    }
}
