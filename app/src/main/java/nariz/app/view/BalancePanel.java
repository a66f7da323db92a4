package nariz.app.view;

import static nariz.app.words.WindowWords.say;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ProgressBar;
import javafx.scene.control.TextField;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import nariz.app.chart.WeakListeners;
import nariz.app.state.Session;
import nariz.carburetor.BuildSheet;
import nariz.idle.ThrottleBalance;
import nariz.sim.RunningEngine;
import nariz.text.Message;

/** Several carburetors in balance: draft readings typed or measured, and which link or stop to turn how far. */
final class BalancePanel extends VBox {
    private final Session session;
    private final ComboBox<String> stage = new ComboBox<>();
    private final List<TextField> fields = new ArrayList<>();
    private final VBox rows = new VBox(8);
    private final TextField before = new TextField();
    private final TextField with = new TextField();
    private final Label next = LivePage.label("", "change");
    private final Button turned;
    private ThrottleBalance balance;

    BalancePanel(Session session) {
        super(10);
        this.session = session;
        setId("balance-panel");
        getStyleClass().add("work-card-content");
        setPadding(new Insets(12));
        stage.setId("balance-stage");
        stage.setAccessibleText(say("balance-panel.stage"));
        for (ThrottleBalance.Stage s : ThrottleBalance.Stage.values()) {
            stage.getItems().add(say(Message.message("balance." + s.key())));
        }
        stage.getSelectionModel().select(0);
        stage.setOnAction(e -> begin());
        Button read = MainWindow.button(say("balance-panel.read"), "balance-read", say("balance-panel.read-help"),
                this::read);
        read.getStyleClass().addAll("primary", "large");
        Button measure = MainWindow.button(say("balance-panel.measure"), "balance-measure", say(
                "balance-panel.measure-help"), this::measure);
        measure.visibleProperty().bind(session.live().engineProperty().isNotNull());
        measure.managedProperty().bind(measure.visibleProperty());
        turned = MainWindow.button(say("idle-panel.turned"), "balance-turned", say("balance-panel.turned-help"),
                this::turned);
        turned.getStyleClass().add("large");
        next.setId("balance-next");
        for (TextField f : List.of(before, with)) {
            f.setPrefWidth(170);
        }
        before.setId("balance-before");
        before.setPromptText(say("balance-panel.before"));
        before.setAccessibleText(say("balance-panel.before"));
        with.setId("balance-with");
        with.setPromptText(say("balance-panel.with"));
        with.setAccessibleText(say("balance-panel.with"));
        getChildren().addAll(stage, LivePage.label(say("balance-panel.line"), "card-line"), rows, new FlowPane(8, 8,
                before, with, measure, read), next, turned, LivePage.label(say("balance-panel.caution"), "caution"));
        WeakListeners.attach(session.live().sheetProperty(), this, (o, was, is) -> begin());
        begin();
    }

    private void begin() {
        BuildSheet s = session.live().sheetProperty().get();
        rows.getChildren().clear();
        fields.clear();
        balance = null;
        turned.setDisable(true);
        next.setText(say("balance-panel.begin"));
        int n = s == null ? 0 : s.carburetor().count();
        if (n < 2) {
            return;
        }
        balance = new ThrottleBalance(n, ThrottleBalance.Stage.values()[stage.getSelectionModel().getSelectedIndex()]);
        for (int i = 1; i <= n; i++) {
            TextField f = new TextField();
            f.setId("balance-" + i);
            f.setAccessibleText(say("balance-panel.carburetor", i));
            f.setPrefWidth(110);
            fields.add(f);
            ProgressBar bar = new ProgressBar(0);
            bar.setPrefWidth(320);
            HBox row = new HBox(10, LivePage.label(say("balance-panel.carburetor", i), "card-line"), f, bar,
                    new Label());
            row.setAlignment(Pos.CENTER_LEFT);
            rows.getChildren().add(row);
        }
    }

    /** On a practice engine the meter is held on by this program. */
    private void measure() {
        Optional.ofNullable(session.live().engineProperty().get()).ifPresent(e -> {
            for (int i = 0; i < fields.size(); i++) {
                double sum = 0;
                for (int k = 0; k < 20; k++) {
                    sum += e.draft(i) / 20;
                }
                fields.get(i).setText(String.format(Locale.ROOT, "%.2f", sum));
            }
            read();
        });
    }

    private void read() {
        if (balance == null) {
            return;
        }
        double[] flow = new double[fields.size()];
        for (int i = 0; i < flow.length; i++) {
            flow[i] = number(fields.get(i));
            if (!(flow[i] > 0)) {
                session.complain(say("balance-panel.need", i + 1));
                return;
            }
            flow[i] = ThrottleBalance.withoutMeter(flow[i], number(before), number(before) > 0 ? number(with)
                    : Double.NaN);
        }
        balance.read(flow);
        double[] off = balance.off();
        double most = java.util.Arrays.stream(flow).max().orElse(1);
        for (int i = 0; i < flow.length; i++) {
            HBox row = (HBox) rows.getChildren().get(i);
            ((ProgressBar) row.getChildren().get(2)).setProgress(flow[i] / most);
            ((Label) row.getChildren().get(3)).setText(String.format(Locale.ROOT, "%+.1f %%", 100 * off[i]));
        }
        Optional<ThrottleBalance.Turn> t = balance.next();
        next.setText(t.map(x -> say(x.text(balance.stage()))).orElse(say("balance-panel.done")));
        turned.setDisable(t.isEmpty());
    }

    private void turned() {
        balance.next().ifPresent(t -> {
            RunningEngine e = session.live().engineProperty().get();
            if (e != null && balance.stage() == ThrottleBalance.Stage.LINKS_OFF) {
                e.stop(t.carburetor(), e.stop(t.carburetor()) + 0.25 * t.turns());
            } else if (e != null) {
                e.link(t.carburetor(), e.link(t.carburetor()) + t.turns());
            }
            balance.turned(t);
            turned.setDisable(true);
            next.setText(say("balance-panel.again"));
        });
    }

    private static double number(TextField f) {
        try {
            return Double.parseDouble(f.getText().strip().replace(',', '.'));
        } catch (NumberFormatException e) {
            return Double.NaN;
        }
    }
}
