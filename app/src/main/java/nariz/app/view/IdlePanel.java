package nariz.app.view;

import static nariz.app.words.WindowWords.say;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import javafx.geometry.Insets;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import nariz.app.chart.WeakListeners;
import nariz.app.state.IdleWork;
import nariz.app.state.PracticeHand;
import nariz.app.state.Session;
import nariz.carburetor.BuildSheet;
import nariz.idle.IdleGuide;
import nariz.idle.School;
import nariz.units.Shown;

/** Setting the idle: one move at a time, in large words, with its reason and what the engine answered. */
final class IdlePanel extends VBox {
    private static final double EIGHTH = 0.125;
    /** No engine idles with more vacuum than there is air. */
    private static final double MOST_VACUUM_PA = 100e3;

    private final Session session;
    private final IdleWork idle;
    private final ComboBox<String> school = new ComboBox<>();
    private final ComboBox<String> which = new ComboBox<>();
    private final Label move = LivePage.label("", "change");
    private final Label why = LivePage.label("", "card-line");
    private final Label note = LivePage.label("", "idle-note");
    private final Label turns = LivePage.label("", "small");
    private final Label debrief = LivePage.label("", "card-line");
    private final Button turned;
    private final Button back;
    private final FlowPane hand;
    private final TextField vacuum = new TextField();
    private final Button gear;
    private final Button smaller;
    private final Button larger;
    private final FlowPane own;

    IdlePanel(Session session) {
        super(8);
        this.session = session;
        idle = session.live().idle();
        setId("idle-panel");
        setPadding(new Insets(10, 12, 12, 12));
        school.setId("idle-school");
        school.setAccessibleText(say("idle-panel.school"));
        for (School s : School.values()) {
            school.getItems().add(say("school." + s.key()));
        }
        school.getSelectionModel().select(idle.schoolProperty().get().ordinal());
        school.setOnAction(e -> idle.schoolProperty().set(School.values()[school.getSelectionModel()
                .getSelectedIndex()]));
        which.setId("idle-which");
        which.setAccessibleText(say("idle-panel.which"));
        which.setOnAction(e -> idle.onlyProperty().set(which.getSelectionModel().getSelectedIndex() - 1));
        Button begin = MainWindow.button(say("idle-panel.begin"), "idle-begin", say("idle-panel.begin-help"), () ->
                idle.begin(false));
        begin.getStyleClass().add("primary");
        Button byHand = MainWindow.button(say("idle-panel.by-hand"), "idle-hand", say("idle-panel.by-hand-help"), () ->
                idle.begin(true));
        turned = MainWindow.button(say("idle-panel.turned"), "idle-turned", say("idle-panel.turned-help"), idle::moved);
        turned.getStyleClass().addAll("primary", "large");
        back = MainWindow.button(say("idle-panel.back"), "idle-back", say("idle-panel.back-help"), idle::back);
        back.getStyleClass().add("large");
        hand = byHand();
        smaller = own("idle-own-smaller", "idle-panel.smaller", () -> idle.hand().feed(-1));
        larger = own("idle-own-larger", "idle-panel.larger", () -> idle.hand().feed(1));
        gear = own("idle-own-gear", "idle-panel.gear", idle.hand()::gear);
        own = ownHand();
        move.setId("idle-move");
        why.setId("idle-why");
        note.setId("idle-note");
        turns.setId("idle-turns");
        debrief.setId("idle-debrief");
        debrief.textProperty().bind(idle.hand().saysProperty());
        getChildren().addAll(new FlowPane(8, 8, school, which, begin, byHand), move, why, note, new HBox(8, turned,
                back), hand, turns, debrief, own, LivePage.label(say("idle-panel.caution"), "caution"));
        WeakListeners.attach(idle.stepProperty(), this, (o, was, is) -> show(is));
        WeakListeners.attach(session.live().sheetProperty(), this, (o, was, is) -> offer());
        WeakListeners.attach(session.shownProperty(), this, (o, was, is) -> prompt());
        offer();
        prompt();
        show(idle.stepProperty().get());
    }

    /** What a gauge shows is typed in the unit that everything else is shown in. */
    private void prompt() {
        String words = say("idle-panel.vacuum", unit().label());
        vacuum.setPromptText(words);
        vacuum.setAccessibleText(words);
    }

    private Shown.Pressure unit() {
        return session.shownProperty().get().pressure();
    }

    private void offer() {
        List<String> names = new ArrayList<>(List.of(say("idle-panel.together")));
        for (int i = 1; i <= idle.screws() && idle.screws() > 1; i++) {
            names.add(say("idle-panel.only", i));
        }
        which.getItems().setAll(names);
        which.getSelectionModel().select(Math.min(names.size() - 1, idle.onlyProperty().get() + 1));
        own.setVisible(session.live().engineProperty().get() != null);
        own.setManaged(own.isVisible());
        for (Button b : List.of(smaller, larger)) {
            b.setVisible(idle.hand().feeds());
            b.setManaged(b.isVisible());
        }
        BuildSheet sheet = session.live().sheetProperty().get();
        gear.setVisible(sheet != null && sheet.engine().automatic());
        gear.setManaged(gear.isVisible());
    }

    private FlowPane byHand() {
        TextField rpm = new TextField();
        rpm.setId("idle-rpm");
        rpm.setPromptText(say("idle-panel.rpm"));
        rpm.setAccessibleText(say("idle-panel.rpm"));
        rpm.setPrefWidth(90);
        vacuum.setId("idle-vacuum");
        vacuum.setPrefWidth(110);
        Button take = MainWindow.button(say("idle-panel.take"), "idle-take", say("idle-panel.take-help"), () -> {
            double r = LivePage.number(rpm);
            if (!(r > 200 && r < 4000)) {
                session.complain(say("idle-panel.need-rpm"));
                return;
            }
            boolean given = !vacuum.getText().isBlank();
            double pa = given ? LivePage.number(vacuum) * unit().pa() : Double.NaN;
            if (given && !(pa > 0.0 && pa < MOST_VACUUM_PA)) {
                session.complain(say("idle-panel.need-vacuum", unit().label(), MOST_VACUUM_PA / unit().pa()));
                return;
            }
            idle.typed(r, pa);
            rpm.clear();
            vacuum.clear();
            rpm.requestFocus();
        });
        return new FlowPane(8, 8, rpm, vacuum, take);
    }

    /** On a practice engine: the user's own hand, besides what the guide asks for. */
    private FlowPane ownHand() {
        FlowPane p = new FlowPane(6, 6, LivePage.label(say("idle-panel.own-hand"), "card-subheading"));
        PracticeHand hand = idle.hand();
        p.getChildren().addAll(own("idle-own-leaner", "idle-panel.leaner", () -> turn(-EIGHTH)),
                own("idle-own-richer", "idle-panel.richer", () -> turn(EIGHTH)),
                own("idle-own-slower", "idle-panel.slower", () -> hand.stop(-EIGHTH)),
                own("idle-own-faster", "idle-panel.faster", () -> hand.stop(EIGHTH)),
                own("idle-own-start", "idle-panel.start", hand::start),
                gear,
                own("idle-own-look", "idle-panel.look", hand::look), smaller, larger,
                own("idle-own-done", "idle-panel.how-was-it", () -> hand.howWasIt(idle.schoolProperty().get())));
        return p;
    }

    private void turn(double by) {
        idle.hand().screws(idle.onlyProperty().get(), by);
    }

    private static Button own(String id, String words, Runnable what) {
        return MainWindow.button(say(words), id, say(words + "-help"), what);
    }

    private void show(IdleWork.Step s) {
        boolean there = s != null;
        move.setText(there ? s.words() : say("idle-panel.nothing"));
        why.setText(there ? s.why() : say("idle-panel.nothing-why"));
        note.setText(there ? s.note() : "");
        boolean done = there && (s.move().kind() == IdleGuide.Kind.DONE || s.move().kind()
                == IdleGuide.Kind.NO_AUTHORITY);
        turned.setDisable(!there || done || s.waiting() || s.move().kind() == IdleGuide.Kind.READ);
        turned.setText(say(there && s.move().kind() == IdleGuide.Kind.GEAR ? "idle-panel.in-gear"
                : "idle-panel.turned"));
        back.setDisable(!there || (s.guide().moves().isEmpty() && !s.made()));
        hand.setVisible(there && s.typed() && !done);
        hand.setManaged(hand.isVisible());
        if (!there) {
            turns.setText("");
            return;
        }
        StringBuilder b = new StringBuilder();
        for (int i = 0; i < s.turns().size(); i++) {
            b.append(i == 0 ? "" : "   ").append(say("idle-panel.screw-was", i + 1, String.format(Locale.ROOT, "%.2f", s
                    .found().get(i)), String.format(Locale.ROOT, "%.2f", s.turns().get(i))));
        }
        turns.setText(b + "\n" + say("idle-panel.moves", s.guide().moves().size()));
    }
}
