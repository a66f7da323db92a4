package nariz.app.view;

import java.util.List;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import nariz.advice.Advice;
import nariz.advice.Change;
import nariz.advice.Hypothesis;
import nariz.advice.School;
import nariz.advice.Verdict;
import nariz.advice.WorkCard;
import nariz.app.print.WorkCardPdf;
import nariz.app.session.Session;
import nariz.app.session.Stop;
import nariz.app.session.StopWords;

/** What to do at the shown stop: the change with tools, steps, cautions, recheck list and proof; or the checks. */
final class WorkCardPanel extends ScrollPane {
    private final Session session;
    private final FilePicker picker;
    private final VBox content = new VBox(7);

    WorkCardPanel(Session session, FilePicker picker) {
        this.session = session;
        this.picker = picker;
        getStyleClass().add("work-card");
        setId("work-card");
        setFitToWidth(true);
        setHbarPolicy(ScrollBarPolicy.NEVER);
        content.getStyleClass().add("work-card-content");
        setContent(content);
        setAccessibleText("Work card");
        session.driveProperty().addListener((o, was, is) -> refresh());
        session.stopProperty().addListener((o, was, is) -> refresh());
        refresh();
    }

    private void refresh() {
        content.getChildren().clear();
        setVvalue(0);
        Session.Drive d = session.driveProperty().get();
        if (d == null) {
            return;
        }
        Advice a = d.analysis().advice();
        StopWords w = StopWords.of(a, session.stopProperty().get());
        if (!w.changes().isEmpty()) {
            w.changes().forEach(this::change);
            content.getChildren().add(MainWindow.button("Card on paper…", "card-print",
                    "Write this card as a PDF to print (Ctrl+P)", this::print));
        } else if (a.verdict() == Verdict.CHECK_FIRST) {
            checks(a);
        } else {
            nothing(a, w);
        }
        if (session.stopProperty().get() == Stop.POWER || session.stopProperty().get() == Stop.SECONDARY) {
            schools(a, session.stopProperty().get());
        }
        if (!a.notes().isEmpty()) {
            heading("Note");
            a.notes().forEach(n -> line("!", n, "card-line"));
        }
        ruledOut(d.checked());
        if (!a.assumed().isEmpty()) {
            heading("Assumed from the family");
            a.assumed().forEach(s -> line("·", s, "small"));
        }
        if (d.log().problemCount() > 0) {
            heading("Left out of the log");
            line("·", d.log().problemCount() + " readings or rows; first: " + d.log().problems().getFirst().text(),
                    "small");
        }
    }

    /** Writes the card of the shown stop as a PDF where the user says. */
    void print() {
        Session.Drive d = session.driveProperty().get();
        List<Change> changes = d == null ? List.of()
                : StopWords.of(d.analysis().advice(), session.stopProperty().get()).changes();
        if (changes.isEmpty()) {
            session.complain("This stop has no change to put on a card. Go to a stop that is off.");
            return;
        }
        picker.place(getScene().getWindow(), "Work card", "work-card.pdf").ifPresent(file -> session.write(
                file, out -> WorkCardPdf.write(d.sheet().name(), d.log().name(),
                        d.analysis().advice(), changes, out)));
    }

    private void change(Change c) {
        Label title = label(c.part().text(c.from()) + "  →  " + c.part().text(c.to()), "change");
        title.setAccessibleText(c.title());
        content.getChildren().addAll(label(c.side().key() + " " + c.part().label() + (c.now() ? "" : ", later"),
                "card-heading"), title);
        WorkCard card = WorkCard.of(c);
        heading("Because");
        c.reasons().forEach(r -> line("·", r, "card-line"));
        heading("Mind");
        c.cautions().forEach(x -> line("!", x, "caution"));
        heading("Lay ready");
        line("·", String.join(", ", card.tools()), "card-line");
        heading("Do");
        numbered(card.steps());
        heading("Then look again at");
        numbered(c.recheck());
        heading("Proved by");
        line("·", card.proof(), "card-line");
    }

    private void checks(Advice a) {
        content.getChildren().add(label("Check first", "card-heading"));
        for (Hypothesis h : a.hypotheses()) {
            if (h.fault() && h.probability() >= 0.02) {
                heading(h.label() + ", " + h.percent() + " %");
                line("·", h.evidence(), "card-line");
                line("!", h.check(), "caution");
                CheckBox none = new CheckBox("Looked for it: there is none");
                none.setId("checked-" + h.cause());
                none.setAccessibleText("Looked for " + h.label() + ": there is none");
                none.setOnAction(e -> session.checked(h.cause(), true));
                content.getChildren().add(none);
            }
        }
    }

    /** What the tuner has ruled out, to be taken back here. */
    private void ruledOut(List<String> causes) {
        if (!causes.isEmpty()) {
            heading("Looked for, not found");
            for (String cause : causes) {
                CheckBox none = new CheckBox(cause.replace('-', ' '));
                none.setId("ruled-out-" + cause);
                none.setSelected(true);
                none.setAccessibleText("Ruled out: " + cause.replace('-', ' ') + ". Clear to weigh it again");
                none.setOnAction(e -> session.checked(cause, false));
                content.getChildren().add(none);
            }
        }
    }

    private void nothing(Advice a, StopWords w) {
        a.first().ifPresent(c -> {
            content.getChildren().add(label("First", "card-heading"));
            line("·", c.title(), "card-line");
        });
        if (!w.toRead().isEmpty()) {
            heading("To read this circuit");
            line("·", w.toRead(), "card-line");
            line("!", "Nobody reads the screen while driving: record, or take a passenger.", "caution");
        }
        if (!a.missing().isEmpty()) {
            heading("Still to read on this drive");
            a.missing().forEach(m -> line("·", m, "card-line"));
        }
        if (content.getChildren().isEmpty()) {
            content.getChildren().add(label("Nothing to do here", "card-heading"));
        }
    }

    /** What schools of tuning say on this log; the rear valve belongs to the secondary side. */
    private void schools(Advice a, Stop stop) {
        for (School s : a.schools()) {
            if (s.question().startsWith("rear") == (stop == Stop.SECONDARY)) {
                heading("Schools differ: " + s.question());
                s.answers().forEach(x -> line(x.name().equals(s.followed()) ? "•" : "·", x.name() + ": " + x.says(),
                        "card-line"));
                line(" ", "Followed here: " + s.followed() + ", because " + s.why() + ".", "small");
            }
        }
    }

    private void numbered(List<String> steps) {
        for (int i = 0; i < steps.size(); i++) {
            line(Integer.toString(i + 1), steps.get(i), "card-line");
        }
    }

    private void heading(String text) {
        content.getChildren().add(label(text, "card-subheading"));
    }

    private void line(String bullet, String text, String style) {
        Label b = label(bullet, style);
        b.setMinWidth(14);
        Label t = label(text, style);
        t.setWrapText(true);
        HBox.setHgrow(t, Priority.ALWAYS);
        content.getChildren().add(new HBox(4, b, t));
    }

    private static Label label(String text, String style) {
        Label l = new Label(text);
        l.getStyleClass().add(style);
        l.setWrapText(true);
        return l;
    }
}
