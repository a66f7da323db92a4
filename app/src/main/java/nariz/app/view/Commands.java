package nariz.app.view;

import static nariz.app.words.WindowWords.say;

import java.util.ArrayList;
import java.util.List;
import javafx.scene.input.Clipboard;
import nariz.app.state.Drive;
import nariz.app.state.DriveRepository;
import nariz.app.state.Glossary;
import nariz.app.state.Session;
import nariz.app.state.Stop;
import nariz.carburetor.Kit;
import nariz.diagnosis.Candidate;
import nariz.text.Language;
import nariz.workbook.Workbook;

/** Everything that can be done in the window, by name. */
final class Commands {
    private final MainWindow window;
    private final Session session;
    private final Choice picture;
    private final Choice side;

    Commands(MainWindow window, Session session, Choice picture, Choice side) {
        this.window = window;
        this.session = session;
        this.picture = picture;
        this.side = side;
    }

    /** Everything the one field finds, in the order of work. */
    List<Find.Entry> all() {
        List<Find.Entry> out = new ArrayList<>();
        Drive d = session.driveProperty().get();
        if (d != null) {
            for (Stop s : window.stops()) {
                out.add(new Find.Entry(say("main-window.go-to", s.label()), Integer.toString(window.stops()
                        .indexOf(s) + 1), ()
                        -> session.goTo(s)));
            }
        }
        out.add(new Find.Entry(say("main-window.open-a-drive"), "O", () -> window.showOpen(true)));
        out.add(new Find.Entry(say("main-window.demo-drive"), "D", session::openDemo));
        out.add(new Find.Entry(say("main-window.paste-rows-as-a"), "Ctrl+V", () ->
                window.paste(Clipboard.getSystemClipboard()
                .getString())));
        out.add(new Find.Entry(say("main-window.afr-or-lambda"), "U", window::otherUnit));
        out.add(new Find.Entry(say("main-window.night-or-day-colours"), "T", () -> window.otherColours()));
        Language next = MainWindow.other();
        out.add(new Find.Entry(next.own(), "", () -> window.speak(next)));
        out.add(new Find.Entry(say("main-window.larger-text"), "Ctrl+Plus", () -> window.largerText(1)));
        out.add(new Find.Entry(say("main-window.smaller-text"), "Ctrl+Minus", () -> window.largerText(-1)));
        out.add(new Find.Entry(say("main-window.next-picture-stream-and"), "V", picture::next));
        out.add(new Find.Entry(say("main-window.next-side-panel-work"), "K", side::next));
        out.add(new Find.Entry(say("main-window.tip-ins-the-mixture"), "", () -> picture.show(MainWindow.TIP_INS)));
        out.add(new Find.Entry(say("main-window.enrichment-help"), "", () -> picture.show(MainWindow.ENRICHMENT)));
        out.add(new Find.Entry(say("main-window.pulls-help"), "", () -> picture.show(MainWindow.PULLS)));
        out.add(new Find.Entry(say("compare-panel.lay-together-help"), "", session.comparisons()::layTogether));
        out.add(new Find.Entry(say("main-window.compare-with-another-drive"), "", () -> side.show(MainWindow.COMPARE)));
        out.add(new Find.Entry(say("main-window.to-record-readings-this"), "", () -> side.show(MainWindow.RECORD)));
        if (session.practice()) {
            out.add(new Find.Entry(say("main-window.drive-the-demo-again"), "", session::driveAgain));
        }
        out.add(new Find.Entry(say("main-window.work-card-on-paper"), "Ctrl+P", () -> ((
                WorkCardPanel) window.lookup("#work-card")).print()));
        out.add(new Find.Entry(say("main-window.note-on-this-moment"), "M", () ->
                window.lookup("#note").requestFocus()));
        out.add(new Find.Entry(say("main-window.begin-a-stretch-at"), "B, E", () -> window.lookup("#scrubber")
                .requestFocus()));
        out.add(new Find.Entry(say("main-window.take-the-selected-stretch"), "X", () -> window.lookup("#scrubber")
                .requestFocus()));
        out.add(new Find.Entry(say("main-window.next-and-previous-mark"), "N, P", () -> window.lookup("#plane")
                .requestFocus()));
        out.add(new Find.Entry(say("main-window.zoom-and-pan-the"), "+ − PgUp PgDn 0", () -> {
            picture.show(MainWindow.TRACE);
            window.lookup("#trace").requestFocus();
        }));
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
                            session.goTo(Stop.of(c.circuit(d.sheet().carburetor().family())));
                            side.show(MainWindow.TRY);
                            window.lookup("#try-" + c.side().key() + "-" + c.part().key()).requestFocus();
                        }));
            }
        }
        for (Workbook.Note n : session.notes().notesProperty().get()) {
            out.add(new Find.Entry(say("main-window.note", n.text()), "", () -> n.atS().ifPresent(t
                    -> session.moveCursor(
                    session.driveProperty().get().log().indexAt(t)))));
        }
        for (Workbook.PartPlan p : session.notes().plansProperty().get()) {
            out.add(new Find.Entry(say("main-window.plan", p.name()), "", () -> {
                side.show(MainWindow.TRY);
                session.trials().tryParts(p.changes());
            }));
        }
        // The line is the answer: choosing it only closes the list.
        Glossary.words().forEach(w -> out.add(new Find.Entry(w, say("main-window.word"), () -> { })));
        for (DriveRepository.Entry e : session.garage().keptProperty().get()) {
            out.add(new Find.Entry(say("main-window.open", e.vehicle(), e.name()), "", () -> session.openKept(
                    e.run())));
        }
        return out;
    }
}
