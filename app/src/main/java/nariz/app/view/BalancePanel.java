package nariz.app.view;

import static nariz.app.words.WindowWords.say;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import nariz.app.chart.WeakListeners;
import nariz.app.state.BalanceWork;
import nariz.app.state.Session;
import nariz.carburetor.BuildSheet;
import nariz.idle.ThrottleBalance;
import nariz.text.Message;

/** Several carburetors in balance: one turn at a time in large words, figures typed or measured. */
final class BalancePanel extends VBox {
    private static final double EIGHTH = 0.125;

    private final Session session;
    private final BalanceWork work;
    private final ComboBox<String> stage = new ComboBox<>();
    private final List<TextField> fields = new ArrayList<>();
    private final FlowPane flows = new FlowPane(8, 8);
    private final TextField before = new TextField();
    private final TextField with = new TextField();
    private final Label next = LivePage.label("", "change");
    private final Label why = LivePage.label("", "card-line");
    private final Label note = LivePage.label("", "idle-note");
    private final Label turns = LivePage.label("", "small");
    private final Label debrief = LivePage.label("", "card-line");
    private final Button read;
    private final Button measure;
    private final Button turned;
    private final Button back;
    private final Button onward;
    private final VBox own = new VBox(6);
    private final FlowPane typed;
    /** Whether the stage is chosen here, and not shown. */
    private boolean showing;

    BalancePanel(Session session) {
        super(8);
        this.session = session;
        work = session.live().balance();
        setId("balance-panel");
        setPadding(new Insets(10, 12, 12, 12));
        stage.setId("balance-stage");
        stage.setAccessibleText(say("balance-panel.stage"));
        for (ThrottleBalance.Stage s : ThrottleBalance.Stage.values()) {
            stage.getItems().add(say(Message.message("balance." + s.key())));
        }
        stage.setOnAction(e -> {
            if (!showing && stage.getSelectionModel().getSelectedIndex() >= 0) {
                work.begin(ThrottleBalance.Stage.values()[stage.getSelectionModel().getSelectedIndex()]);
            }
        });
        read = MainWindow.button(say("balance-panel.read"), "balance-read", say("balance-panel.read-help"), this::read);
        measure = MainWindow.button(say("balance-panel.measure"), "balance-measure", say(
                "balance-panel.measure-help"), work::measure);
        measure.getStyleClass().addAll("primary", "large");
        turned = MainWindow.button(say("idle-panel.turned"), "balance-turned", say("balance-panel.turned-help"),
                work::turned);
        turned.getStyleClass().addAll("primary", "large");
        back = MainWindow.button(say("idle-panel.back"), "balance-back", say("balance-panel.back-help"), work::back);
        back.getStyleClass().add("large");
        onward = MainWindow.button("", "balance-onward", say("balance-panel.onward-help"), () -> work.after()
                .ifPresent(work::begin));
        onward.getStyleClass().addAll("primary", "large");
        next.setId("balance-next");
        why.setId("balance-why");
        note.setId("balance-note");
        turns.setId("balance-turns");
        debrief.setId("balance-debrief");
        debrief.textProperty().bind(work.saysProperty());
        own.setId("balance-own");
        for (TextField f : List.of(before, with)) {
            f.setPrefWidth(104);
        }
        before.setId("balance-before");
        before.setAccessibleText(say("balance-panel.before"));
        with.setId("balance-with");
        with.setAccessibleText(say("balance-panel.with"));
        typed = new FlowPane(8, 8, named(before), named(with), read);
        for (Label l : List.of(note, turns, debrief)) {
            l.visibleProperty().bind(l.textProperty().isNotEmpty());
            l.managedProperty().bind(l.visibleProperty());
        }
        getChildren().addAll(stage, next, why, note, new FlowPane(8, 8, turned, onward, measure, back), flows, typed,
                turns, debrief, own, LivePage.label(say("balance-panel.line"), "card-line"), LivePage.label(say(
                        "balance-panel.caution"), "caution"));
        WeakListeners.attach(session.live().sheetProperty(), this, (o, was, is) -> offer());
        WeakListeners.attach(work.stepProperty(), this, (o, was, is) -> show(is));
        offer();
        show(work.stepProperty().get());
    }

    /** Fields and buttons for as many carburetors as there are. */
    private void offer() {
        BuildSheet s = session.live().sheetProperty().get();
        flows.getChildren().clear();
        own.getChildren().clear();
        fields.clear();
        int n = s == null ? 0 : s.carburetor().count();
        boolean practice = session.live().engineProperty().get() != null;
        for (int i = 1; i <= n; i++) {
            TextField f = new TextField();
            f.setId("balance-" + i);
            f.setAccessibleText(say("balance-panel.carburetor", i));
            f.setPrefWidth(84);
            fields.add(f);
            flows.getChildren().add(named(f));
        }
        if (practice) {
            own.getChildren().add(LivePage.label(say("balance-panel.own-hand"), "card-subheading"));
            for (int i = 1; i <= n; i++) {
                int j = i - 1;
                Label name = LivePage.label(say("balance-panel.carburetor", i), "card-line");
                Button shut = button("balance-own-shut-" + i, "balance-panel.shut", () -> work.own(j, -EIGHTH));
                Button open = button("balance-own-open-" + i, "balance-panel.open", () -> work.own(j, EIGHTH));
                HBox row = new HBox(6, shut, open, name);
                row.setAlignment(Pos.CENTER_LEFT);
                own.getChildren().add(row);
            }
            FlowPane last = new FlowPane(6, 6, button("balance-own-start", "idle-panel.start", work::start));
            if (work.practised()) {
                last.getChildren().add(button("balance-own-done", "balance-panel.how-was-it", work::howWasIt));
            }
            own.getChildren().add(last);
        }
        measure.setVisible(practice);
        measure.setManaged(practice);
        own.setVisible(practice);
        own.setManaged(practice);
    }

    /** A field with its name above it: a prompt is gone once something stands there. */
    private static VBox named(TextField f) {
        return new VBox(2, LivePage.label(f.getAccessibleText(), "small"), f);
    }

    private static Button button(String id, String words, Runnable what) {
        return MainWindow.button(say(words), id, say(words + "-help"), what);
    }

    private void read() {
        double[] flow = new double[fields.size()];
        for (int i = 0; i < flow.length; i++) {
            flow[i] = LivePage.number(fields.get(i));
            if (!(flow[i] > 0.0 && flow[i] <= ThrottleBalance.MOST_FLOW)) {
                session.complain(say("balance-panel.need", i + 1));
                return;
            }
        }
        for (TextField f : List.of(before, with)) {
            if (!f.getText().isBlank() && !(LivePage.number(f) > 200 && LivePage.number(f) < 8000)) {
                session.complain(say("balance-panel.need-rpm", f.getAccessibleText()));
                return;
            }
        }
        work.typed(flow, LivePage.number(before), LivePage.number(with));
        fields.forEach(TextField::clear);
        before.clear();
        with.clear();
        fields.getFirst().requestFocus();
    }

    private void show(BalanceWork.Step s) {
        if (s == null) {
            next.setText(say("balance-panel.nothing"));
            why.setText("");
            note.setText("");
            turns.setText("");
            for (Button b : List.of(read, measure, turned, back)) {
                b.setDisable(true);
            }
            onward.setVisible(false);
            onward.setManaged(false);
            return;
        }
        showing = true;
        stage.getSelectionModel().select(s.stage().ordinal());
        showing = false;
        ThrottleBalance.Kind kind = s.move().kind();
        boolean turn = kind == ThrottleBalance.Kind.TURN || kind == ThrottleBalance.Kind.SPEED;
        boolean over = kind == ThrottleBalance.Kind.DONE || kind == ThrottleBalance.Kind.LEFT;
        next.setText(s.words());
        why.setText(s.why());
        note.setText(s.note());
        read.setDisable(s.measuring());
        measure.setDisable(s.measuring());
        // What there is to do is the one that stands out.
        measure.getStyleClass().removeAll("primary");
        if (kind == ThrottleBalance.Kind.READ) {
            measure.getStyleClass().add("primary");
        }
        turned.setDisable(!turn || s.measuring());
        back.setDisable(s.moves() == 0 || s.measuring());
        boolean more = over && work.after().isPresent();
        onward.setVisible(more);
        onward.setManaged(more);
        turned.setVisible(turn);
        turned.setManaged(turn);
        back.setVisible(s.moves() > 0);
        back.setManaged(s.moves() > 0);
        work.after().ifPresent(a -> onward.setText(say("balance-panel.onward", say(Message.message("balance." + a
                .key())))));
        if (!s.measured().isEmpty()) {
            for (int j = 0; j < fields.size(); j++) {
                fields.get(j).setText(String.format(Locale.ROOT, "%.2f", s.measured().get(j)));
            }
            before.setText(rounded(s.rpm().get(0)));
            with.setText(rounded(s.rpm().get(1)));
        }
        StringBuilder b = new StringBuilder();
        for (int j = 0; j < s.turns().size(); j++) {
            b.append(j == 0 ? "" : "   ").append(say("balance-panel.turned-so-far", j + 1, String.format(Locale.ROOT,
                    "%+.2f", s.turns().get(j))));
        }
        turns.setText(s.moves() == 0 ? "" : b + "\n" + say("balance-panel.turns", s.moves()));
    }

    private static String rounded(double rpm) {
        return Double.isNaN(rpm) ? "" : String.format(Locale.ROOT, "%.0f", rpm);
    }
}
