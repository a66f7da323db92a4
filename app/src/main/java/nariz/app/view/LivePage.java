package nariz.app.view;

import static nariz.app.words.WindowWords.say;

import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import javafx.beans.binding.Bindings;
import javafx.beans.binding.BooleanBinding;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import nariz.app.chart.BalancePicture;
import nariz.app.chart.IdlePicture;
import nariz.app.chart.LivePicture;
import nariz.app.chart.Picture;
import nariz.app.chart.WeakListeners;
import nariz.app.state.Car;
import nariz.app.state.LiveDrive;
import nariz.app.state.Session;
import nariz.coverage.DrivePlan;
import nariz.live.LiveReadings;
import nariz.sim.Demo;

/** Beside the running engine: what it reads now, its idle, several carburetors in balance. Covers the whole window. */
final class LivePage extends VBox {
    static final String READINGS = "live-readings";
    static final String IDLE = "live-idle";
    static final String BALANCE = "live-balance";
    private static final double SIDE = 400;
    private static final String LOOPBACK = "tcp:127.0.0.1:4000";

    private final Session session;
    private final LiveDrive live;
    private final Choice choice = new Choice(say("live-page.title"));
    private final LivePicture readings;
    private final IdlePicture curve;
    private final BalancePicture balance;
    private final VBox list = new VBox(6);
    private final ComboBox<String> cars = new ComboBox<>();
    /** What the list says has been read. */
    private double[] told = new double[0];

    LivePage(Session session, Runnable close) {
        super(8);
        this.session = session;
        live = session.live();
        setId("live-page");
        getStyleClass().add("live");
        readings = new LivePicture(session);
        readings.setId("live-picture");
        curve = new IdlePicture(session);
        curve.setId("idle-picture");
        balance = new BalancePicture(session);
        balance.setId("balance-picture");
        BooleanBinding runs = live.sheetProperty().isNotNull();
        Button away = MainWindow.button(say("live-page.away"), "live-away", say("live-page.away-help"), close);
        Button end = MainWindow.button(say("live-page.end"), "live-end", say("live-page.end-help"), () -> {
            live.end();
            close.run();
        });
        end.visibleProperty().bind(runs);
        end.managedProperty().bind(runs);
        Button mark = MainWindow.button(say("live-page.mark"), "live-mark", say("live-page.mark-help"), live::mark);
        mark.textProperty().bind(Bindings.createStringBinding(() -> live.marksProperty().get() == 0 ? say(
                "live-page.mark") : say("live-page.marked", live.marksProperty().get()), live.marksProperty()));
        mark.visibleProperty().bind(runs);
        mark.managedProperty().bind(runs);
        Label status = new Label();
        status.setId("live-status");
        status.setWrapText(true);
        status.textProperty().bind(live.statusProperty());
        status.getStyleClass().add("card-line");
        HBox.setHgrow(status, Priority.ALWAYS);
        status.setMaxWidth(Double.MAX_VALUE);
        Label title = new Label(say("live-page.title"));
        title.getStyleClass().add("card-heading");
        title.setMinWidth(Region.USE_PREF_SIZE);
        HBox top = new HBox(12, title, status, mark, end, away);
        top.setAlignment(Pos.CENTER_LEFT);
        choice.add(say("live-page.readings"), READINGS, say("live-page.readings-help"), beside(readings, list));
        choice.add(say("live-page.idle"), IDLE, say("live-page.idle-help"), beside(curve, new IdlePanel(session)));
        choice.add(say("live-page.balance"), BALANCE, say("live-page.balance-help"), beside(balance, new BalancePanel(
                session)));
        Node start = start();
        start.visibleProperty().bind(runs.not());
        start.managedProperty().bind(runs.not());
        for (Node n : List.of(choice, choice.bar())) {
            n.visibleProperty().bind(runs);
            n.managedProperty().bind(runs);
        }
        VBox.setVgrow(choice, Priority.ALWAYS);
        getChildren().addAll(MessageBars.problem(session, "live-problem"), top, start, choice.bar(), choice);
        WeakListeners.attach(live.sheetProperty(), this, (o, was, is) -> choice.offer(BALANCE, is != null
                && is.carburetor().count() > 1));
        WeakListeners.attach(live.nowProperty(), this, (o, was, is) -> tick(is));
        WeakListeners.attach(session.garage().carsProperty(), this, (o, was, is) -> offer(is));
        offer(session.garage().carsProperty().get());
        if (live.sheetProperty().get() != null) {
            choice.offer(BALANCE, live.sheetProperty().get().carburetor().count() > 1);
        }
    }

    List<Picture> pictures() {
        return List.of(readings, curve, balance);
    }

    private void offer(List<Car> there) {
        String was = cars.getValue();
        cars.getItems().setAll(there.stream().map(Car::name).toList());
        cars.setValue(was != null && cars.getItems().contains(was) ? was : there.isEmpty() ? null : there.getFirst()
                .name());
    }

    private static Node beside(Node picture, Node panel) {
        ScrollPane side = new ScrollPane(panel);
        side.setFitToWidth(true);
        side.setHbarPolicy(ScrollPane.ScrollBarPolicy.NEVER);
        side.getStyleClass().add("work-card");
        side.setMinWidth(SIDE);
        side.setPrefWidth(SIDE);
        HBox.setHgrow(picture, Priority.ALWAYS);
        return new HBox(10, picture, side);
    }

    private Node start() {
        cars.setId("live-car");
        cars.managedProperty().bind(cars.visibleProperty());
        cars.visibleProperty().bind(cars.valueProperty().isNotNull());
        cars.setAccessibleText(say("live-page.car"));
        TextField address = new TextField(LOOPBACK);
        address.setId("live-address");
        address.setAccessibleText(say("live-page.address"));
        address.setPrefWidth(260);
        Button connect = MainWindow.button(say("live-page.connect"), "live-connect", say("live-page.connect-help"),
                () -> session.garage().carsProperty().get().stream().filter(c -> c.name().equals(cars.getValue()))
                        .findFirst().ifPresent(c -> live.connect(address.getText(), c)));
        connect.disableProperty().bind(Bindings.createBooleanBinding(() -> cars.getValue() == null, cars
                .valueProperty()));
        ComboBox<String> demo = new ComboBox<>();
        demo.setId("live-demo");
        demo.setAccessibleText(say("live-page.engine"));
        demo.getItems().setAll(Arrays.stream(Demo.values()).map(d -> say("demo." + d.id())).toList());
        demo.getSelectionModel().select(0);
        TextField seed = new TextField("7");
        seed.setId("live-seed");
        seed.setAccessibleText(say("live-page.seed"));
        seed.setPrefWidth(80);
        FlowPane practice = new FlowPane(8, 8, demo, label(say("live-page.seed"), "card-line"), seed);
        for (int level = 1; level <= 4; level++) {
            int l = level;
            Button b = MainWindow.button(say("live-page.level-" + level), "live-practice-" + level, say(
                    "live-page.level-help-" + level), () -> practise(demo, seed, l));
            if (level == 1) {
                b.getStyleClass().add("primary");
            }
            practice.getChildren().add(b);
        }
        Button unbalanced = MainWindow.button(say("live-page.unbalanced"), "live-practice-balance", say(
                "live-page.unbalanced-help"), () -> seed(seed).ifPresent(s -> {
                    live.practiceBalance(demo(demo), s);
                    choice.show(BALANCE);
                }));
        unbalanced.disableProperty().bind(Bindings.createBooleanBinding(() -> demo(demo).sheet().carburetor().count()
                < 2, demo.valueProperty()));
        practice.getChildren().add(unbalanced);
        practice.getChildren().add(MainWindow.button(say("live-page.road"), "live-road", say("live-page.road-help"),
                () -> practise(demo, seed, 0)));
        Label none = label(say("live-page.no-car"), "card-line");
        none.visibleProperty().bind(cars.valueProperty().isNull());
        none.managedProperty().bind(none.visibleProperty());
        VBox box = new VBox(10, label(say("live-page.practise"), "card-heading"), label(say("live-page.practise-line"),
                "card-line"), practice, label(say("live-page.device"), "card-heading"), label(say(
                        "live-page.device-line"), "card-line"), new FlowPane(8, 8, cars, address, connect), none,
                        label(say(
                                "live-page.caution"), "caution"));
        box.setPadding(new Insets(6, 0, 0, 0));
        return box;
    }

    private void practise(ComboBox<String> demo, TextField seed, int level) {
        seed(seed).ifPresent(s -> {
            live.practice(demo(demo), s, level);
            choice.show(level == 0 ? READINGS : IDLE);
        });
    }

    private static Demo demo(ComboBox<String> demo) {
        return Demo.values()[Math.max(0, demo.getSelectionModel().getSelectedIndex())];
    }

    private Optional<Long> seed(TextField seed) {
        try {
            return Optional.of(Long.parseLong(seed.getText().strip()));
        } catch (NumberFormatException e) {
            session.complain(say("live-page.seed-number"));
            return Optional.empty();
        }
    }

    /** {@return what is typed in, with a point or a comma; NaN where that is no number} */
    static double number(TextField f) {
        try {
            return Double.parseDouble(f.getText().strip().replace(',', '.'));
        } catch (NumberFormatException e) {
            return Double.NaN;
        }
    }

    static Label label(String s, String style) {
        Label l = new Label(s);
        l.setWrapText(true);
        l.getStyleClass().add(style);
        return l;
    }

    /** The list ticks itself off; its first line is what to drive next. */
    private void tick(LiveReadings.Now n) {
        if (n == null || !READINGS.equals(choice.shown()) || !isVisible()) {
            return;
        }
        List<DrivePlan.Item> items = live.wanted();
        // Whole seconds are counted: in between there is nothing new to say.
        double[] counted = Arrays.stream(n.read()).map(Math::floor).toArray();
        if (Arrays.equals(counted, told) && list.getChildren().size() == items.size() + 2) {
            return;
        }
        told = counted;
        while (list.getChildren().size() > items.size() + 2) {
            list.getChildren().removeLast();
        }
        while (list.getChildren().size() < items.size() + 2) {
            list.getChildren().add(label("", "card-line"));
        }
        list.setPadding(new Insets(10, 12, 12, 12));
        ((Label) list.getChildren().get(0)).setText(say("live-page.next"));
        int next = -1;
        for (int i = 0; i < items.size(); i++) {
            DrivePlan.Item item = items.get(i);
            boolean done = n.read()[i] >= item.wanted();
            if (!done && next < 0) {
                next = i;
            }
            Label l = (Label) list.getChildren().get(i + 2);
            l.setText((done ? "✓ " : "○ ") + say(item.circuit().label()) + ": " + say(item.text()) + "  (" + say(
                    "plan-panel.of", Math.min(n.read()[i], 9999), item.wanted(), item.unit()) + ")");
        }
        Label first = (Label) list.getChildren().get(1);
        first.getStyleClass().setAll("label", "change");
        first.setText(next < 0 ? say("live-page.all-there") : say(items.get(next).text()));
    }
}
