package nariz.app.view;

import static nariz.app.words.WindowWords.say;

import java.nio.file.Path;
import java.util.List;
import javafx.geometry.VPos;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import nariz.app.chart.WeakListeners;
import nariz.app.print.WorkCardPdf;
import nariz.app.state.Drive;
import nariz.app.state.DriveDecisions;
import nariz.app.state.Session;
import nariz.app.state.Stop;
import nariz.app.state.StopWords;
import nariz.carburetor.Assumption;
import nariz.carburetor.Part;
import nariz.carburetor.PartChange;
import nariz.diagnosis.Advice;
import nariz.diagnosis.Change;
import nariz.diagnosis.Hypothesis;
import nariz.diagnosis.RegimeError;
import nariz.diagnosis.RuleOfThumb;
import nariz.diagnosis.Verdict;
import nariz.diagnosis.WorkCard;
import nariz.text.Message;

/** What to do at the shown stop: the change with tools, steps, cautions, recheck list and proof; or the checks. */
final class WorkCardPanel extends VBox {
    private static final String WRITTEN = "card-written";

    private final Session session;
    private final FilePicker picker;
    private final VBox content = new VBox(2);
    private final ScrollPane scroll = new ScrollPane(content);
    /** What is pressed when the work is done: below the card, where no scrolling hides it. */
    private final FlowPane done = new FlowPane(8, 6);

    WorkCardPanel(Session session, FilePicker picker) {
        this.session = session;
        this.picker = picker;
        setId("work-card");
        scroll.setId("work-card-scroll");
        scroll.getStyleClass().add("work-card");
        scroll.setFitToWidth(true);
        scroll.setHbarPolicy(ScrollPane.ScrollBarPolicy.NEVER);
        content.getStyleClass().add("work-card-content");
        scroll.setAccessibleText(say("work-card-panel.work-card"));
        VBox.setVgrow(scroll, Priority.ALWAYS);
        done.getStyleClass().add("work-card-done");
        // Because a low window would rather cut what is pressed than shrink what is read.
        done.setMinHeight(USE_PREF_SIZE);
        getChildren().addAll(scroll, done);
        WeakListeners.attach(session.driveProperty(), this, (o, was, is) -> refresh());
        WeakListeners.attach(session.garage().carsProperty(), this, (o, was, is) -> refresh());
        WeakListeners.attach(session.stopProperty(), this, (o, was, is) -> refresh());
        WeakListeners.attach(session.decisions().valueProperty(), this, (o, was, is) -> refresh());
        WeakListeners.attach(session.comparisons().comparisonProperty(), this, (o, was, is) -> refresh());
        refresh();
    }

    private void refresh() {
        content.getChildren().clear();
        done.getChildren().clear();
        scroll.setVvalue(0);
        Drive d = session.driveProperty().get();
        if (d == null) {
            Label empty = label(say("work-card-panel.what-will-stand-here"), "small");
            empty.setWrapText(true);
            content.getChildren().add(empty);
            return;
        }
        Advice a = d.analysis().advice();
        Stop stop = session.stopProperty().get();
        StopWords w = stop.words(d, session.comparisons().comparisonProperty().get());
        if (!w.changes().isEmpty()) {
            w.changes().forEach(this::change);
            fitting(d, w.changes());
        } else if (a.looksAtPump()) {
            checks(a);
            stop.guide(w).ifPresent(this::guide);
        } else if (stop.guide(w).isPresent()) {
            guide(stop.guide(w).get());
        } else if (a.verdict() == Verdict.CHECK_FIRST) {
            checks(a);
            readHere(d, stop);
        } else {
            readHere(d, stop);
            nothing(a, w);
        }
        stop.seen(d).forEach(x -> lines(x.heading(), x.lines()));
        schools(a, stop);
        if (!a.notes().isEmpty()) {
            heading(say("work-card-panel.note"));
            a.notes().forEach(n -> line("!", say(n), "card-line"));
        }
        ruledOut(session.decisions().valueProperty().get().checked());
        if (!a.assumed().isEmpty()) {
            heading(say("work-card-panel.assumed-from-the-family"));
            a.assumed().forEach(s -> line("·", say(Assumption.words(s)), "small"));
        }
        if (d.log().problemCount() > 0) {
            heading(say("work-card-panel.left-out-of-the"));
            line("·", say("work-card-panel.readings-or-rows-first", d.log().problemCount(), d.log().problems()
                    .getFirst().text()),
                    "small");
        }
    }

    /** {@return height that all of it would take, px} */
    double wanted() {
        return content.getHeight() + (done.getChildren().isEmpty() ? 0.0 : done.getHeight() + getSpacing());
    }

    /** {@return content whose height says when {@link #wanted()} has changed} */
    Region content() {
        return content;
    }

    /** Writes the card of the shown stop as a PDF where the user says. */
    void print() {
        Drive d = session.driveProperty().get();
        List<Change> changes = d == null ? List.of()
                : session.stopProperty().get().words(d, session.comparisons().comparisonProperty().get()).changes();
        if (changes.isEmpty()) {
            session.complain(say("work-card-panel.this-stop-has-no"));
            return;
        }
        picker.place(getScene().getWindow(), say("work-card-panel.work-card"), "work-card.pdf").ifPresent(file
                -> session.garage().write(
                file, out -> WorkCardPdf.write(d.sheet().name(), d.log().name(),
                        d.analysis().advice(), changes, out), () -> written(file)));
    }

    /** Says under the card where it lies on paper. */
    private void written(Path file) {
        done.getChildren().removeIf(n -> WRITTEN.equals(n.getId()));
        Label l = label(say("work-card-panel.written", String.valueOf(file.getFileName())), "card-line");
        l.setId(WRITTEN);
        l.maxWidthProperty().bind(done.widthProperty());
        done.getChildren().add(l);
    }

    private void change(Change c) {
        Label title = label(say(c.part().fromTo(c.from(), c.to())), "change");
        title.setAccessibleText(say(c.title()));
        String part = say(c.part().named(c.side()));
        FlowPane head = new FlowPane(12, 0, label(c.now() ? part : part + say("work-card-panel.later"),
                "card-heading"), title);
        head.setRowValignment(VPos.BASELINE);
        content.getChildren().add(head);
        WorkCard card = WorkCard.of(c);
        heading(say("work-card-panel.because"));
        c.reasons().forEach(r -> line("·", say(r), "card-line"));
        heading(say("work-card-panel.mind"));
        c.cautions().forEach(x -> line("!", say(x), "caution"));
        runIn(say("work-card-panel.lay-ready"), say(Message.join(", ", card.tools())));
        heading(say("work-card-panel.do"));
        numbered(card.steps().stream().map(m -> say(m)).toList());
        runIn(say("work-card-panel.then-look-again-at"), say(Message.join(say("work-card-panel.and-then"), c
                .recheck())));
        runIn(say("work-card-panel.proved-by"), say(card.proof()));
    }

    /** It is done: the sheet takes the parts on. */
    private void fitting(Drive d, List<Change> all) {
        List<PartChange> parts = all.stream().filter(Change::now).map(c -> new PartChange(c.part(), c.side(), c.from(),
                c.to())).filter(c -> c.part().role() != Part.Role.IDLE_STOP).toList();
        if (session.open().practice() && !parts.isEmpty()) {
            done.getChildren().add(primary(MainWindow.button(say("work-card-panel.fitted-demo"), "card-fitted",
                    say("main-window.drive-the-demo-again"), session.open()::again)));
        } else if (d.run().isPresent() && !parts.isEmpty()) {
            if (session.garage().carOf(d).filter(car -> parts.stream().allMatch(car::fitted)).isPresent()) {
                Label already = label(say("work-card-panel.fitted-already"), "card-line");
                already.maxWidthProperty().bind(done.widthProperty());
                done.getChildren().add(already);
            } else {
                done.getChildren().add(primary(MainWindow.button(say("work-card-panel.fitted", Message.join(", ",
                        parts.stream().map(p -> p.part().reached(p.from(), p.to())).toList())), "card-fitted",
                        say("work-card-panel.fitted-help"), () -> session.garage().fitted(parts))));
            }
        }
        done.getChildren().add(MainWindow.button(say("work-card-panel.card-on-paper"), "card-print",
                say("work-card-panel.write-this-card-as"), this::print));
    }

    private static Button primary(Button b) {
        b.getStyleClass().add("primary");
        return b;
    }

    private void guide(Stop.Guide g) {
        content.getChildren().add(label(g.heading(), "card-heading"));
        if (!g.mind().isEmpty()) {
            heading(say("work-card-panel.mind"));
            line("!", g.mind(), "caution");
        }
        heading(say("work-card-panel.do"));
        numbered(g.steps());
        if (!g.proof().isEmpty()) {
            heading(say("work-card-panel.proved-by"));
            line("·", g.proof(), "card-line");
        }
    }

    private void checks(Advice a) {
        content.getChildren().add(label(say("work-card-panel.check-first"), "card-heading"));
        List<Hypothesis> asked = a.looksAtPump() ? a.hypotheses().stream().filter(h -> h.cause().equals(
                Hypothesis.PUMP_SLACK)).toList() : a.hypotheses();
        for (Hypothesis h : asked) {
            if (h.fault() && h.probability() >= 0.02 && !session.decisions().valueProperty().get().checked().contains(
                    h.cause())) {
                heading(say(h.label()) + ", " + h.percent() + " %");
                line("·", say(h.evidence()), "card-line");
                line("!", say(h.check()), "caution");
                CheckBox none = new CheckBox(say("work-card-panel.looked-for-it-there"));
                none.setId("checked-" + h.cause());
                none.setAccessibleText(say("work-card-panel.looked-for-there-is", h.label()));
                none.setOnAction(e -> session.decisions().checked(h.cause(), true));
                content.getChildren().add(none);
            }
        }
    }

    /** What the tuner has ruled out, to be taken back here. */
    private void ruledOut(List<String> causes) {
        if (!causes.isEmpty()) {
            heading(say("work-card-panel.looked-for-not-found"));
            for (String cause : causes) {
                CheckBox none = new CheckBox(DriveDecisions.causeLabel(cause));
                none.setId("ruled-out-" + cause);
                none.setSelected(true);
                none.setAccessibleText(say("work-card-panel.ruled-out-clear-to", DriveDecisions.causeLabel(cause)));
                none.setOnAction(e -> session.decisions().checked(cause, false));
                content.getChildren().add(none);
            }
        }
    }

    /** What a circuit that is left as it is was judged by. */
    private void readHere(Drive d, Stop stop) {
        List<RegimeError> fed = d.analysis().fedBy(stop.circuits(d.sheet().carburetor().family()));
        if (!fed.isEmpty()) {
            heading(say("work-card-panel.read-here"));
        }
        for (RegimeError e : fed) {
            String answers = d.analysis().advice().answering(e).map(c -> " " + say("work-card-panel.answered-by",
                    c.part().named(c.side()))).orElse("");
            line("·", say(e.sentence()) + answers, "card-line");
            d.analysis().advice().scored().stream().filter(p -> p.regime() == e.regime()).forEach(p -> line(" ",
                    say(p.within() ? "work-card-panel.as-promised" : "work-card-panel.not-as-promised", p.predicted(),
                    p.low(), p.high()), "small"));
        }
    }

    private void nothing(Advice a, StopWords w) {
        a.first().ifPresent(c -> {
            content.getChildren().add(label(say("work-card-panel.first"), "card-heading"));
            line("·", say(c.title()), "card-line");
        });
        if (!w.toRead().isEmpty()) {
            heading(say("work-card-panel.to-read-this-circuit"));
            line("·", w.toRead(), "card-line");
            line("!", say("work-card-panel.nobody-reads-the-screen"), "caution");
        }
        if (!a.missing().isEmpty()) {
            heading(say("work-card-panel.still-to-read-on"));
            a.missing().forEach(m -> line("·", say(m), "card-line"));
        }
        if (content.getChildren().isEmpty()) {
            content.getChildren().add(label(say("work-card-panel.nothing-to-do-here"), "card-heading"));
        }
    }

    private void lines(String title, List<Message> what) {
        if (!what.isEmpty()) {
            heading(title);
            what.forEach(m -> line("·", say(m), "card-line"));
        }
    }

    /** What schools of tuning say on this log about the shown stop. */
    private void schools(Advice a, Stop stop) {
        for (RuleOfThumb s : a.schools()) {
            if (stop.holds(s.circuit())) {
                heading(say("work-card-panel.schools-differ", s.question()));
                s.answers().forEach(x -> line(x.name().equals(s.followed()) ? "•" : "·", say(x.name()) + ": "
                        + say(x.says()),
                        "card-line"));
                line(" ", say("work-card-panel.followed-here-because", s.followed(), s.why()), "small");
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

    /** A heading with the one thing that stands under it on the same line. */
    private void runIn(String title, String text) {
        Label h = label(title, "card-subheading");
        h.setMinWidth(Region.USE_PREF_SIZE);
        Label t = label(text, "card-line");
        HBox.setHgrow(t, Priority.ALWAYS);
        HBox row = new HBox(8, h, t);
        row.setAlignment(Pos.BASELINE_LEFT);
        content.getChildren().add(row);
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
