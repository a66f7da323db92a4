package nariz.app.view;

import static nariz.app.words.WindowWords.say;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import javafx.collections.FXCollections;
import javafx.geometry.Pos;
import javafx.scene.canvas.Canvas;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import javafx.scene.paint.Color;
import javafx.util.StringConverter;
import nariz.app.chart.WeakListeners;
import nariz.app.state.ColumnsQuestion;
import nariz.app.state.Session;
import nariz.log.Channel;
import nariz.log.ColumnPlan;
import nariz.log.Plan;
import nariz.log.Proposal;
import nariz.log.Scale;
import nariz.text.Message;
import nariz.units.Quantity;

/**
 * Asks what the columns of a log are, where its header does not say; shows what they seem to be, with their readings.
 */
final class ColumnsPanel extends VBox {
    private static final String VOLTS = "volts";
    private static final String USUAL_LINE = "0 = 0.68, 5 = 1.36";
    private static final String THROTTLE_LINE = "0.5 = 0, 4.5 = 1";
    private static final int PREVIEW_W = 130;
    private static final int PREVIEW_H = 26;
    private static final double BECAUSE_W = 190;
    /** More rows than this are slow to lay out and longer than anyone reads. */
    private static final int MOST_ROWS = 120;

    private final Session session;
    private final GridPane grid = new GridPane(10, 6);
    private final Label why = new Label();
    private final List<Row> rows = new ArrayList<>();
    private final Label more = new Label();
    private final TextField rate = new TextField();
    private final HBox rateRow;
    private Proposal proposal;

    /** One column on the screen. */
    private record Row(int field, ComboBox<String> channel, ComboBox<String> unit, TextField line) {
    }

    ColumnsPanel(Session session) {
        super(10);
        this.session = session;
        setId("columns-panel");
        getStyleClass().add("open-panel");
        Label title = new Label(say("columns-panel.what-are-these-columns"));
        title.getStyleClass().add("card-heading");
        why.setWrapText(true);
        why.getStyleClass().add("small");
        ScrollPane scroll = new ScrollPane(grid);
        scroll.setFitToWidth(true);
        more.setWrapText(true);
        more.getStyleClass().add("small");
        Label perSecond = new Label(say("columns-panel.no-column-is-time"));
        perSecond.setLabelFor(rate);
        rate.setId("columns-rate");
        rate.setPrefColumnCount(6);
        rate.setAccessibleText(perSecond.getText());
        rateRow = new HBox(8, perSecond, rate);
        rateRow.setAlignment(Pos.CENTER_LEFT);
        rateRow.managedProperty().bind(rateRow.visibleProperty());
        more.managedProperty().bind(more.textProperty().isNotEmpty());
        Button read = new Button(say("columns-panel.read-it-so"));
        read.setId("columns-read");
        read.getStyleClass().add("primary");
        read.setDefaultButton(true);
        read.setOnAction(e -> accept());
        Button close = new Button(say("columns-panel.close"));
        close.setId("columns-close");
        close.setCancelButton(true);
        close.setOnAction(e -> session.open().dismissQuestion());
        Label kept = new Label(say("columns-panel.the-next-file-with"));
        kept.getStyleClass().add("small");
        HBox buttons = new HBox(8, read, close, kept);
        buttons.setAlignment(Pos.CENTER_LEFT);
        getChildren().addAll(title, why, scroll, more, rateRow, buttons);
        // A question that was open in another language stays open.
        show(session.open().questionProperty().get());
        WeakListeners.attach(session.open().questionProperty(), this, (o, was, is) -> show(is));
    }

    private void show(ColumnsQuestion q) {
        setVisible(q != null);
        setManaged(q != null);
        if (q == null) {
            return;
        }
        proposal = q.proposal();
        why.setText(say("columns-panel.the-header-does-not", q.logFile().getFileName()));
        grid.getChildren().clear();
        rows.clear();
        grid.addRow(0, heading(say("columns-panel.column")), heading(say("columns-panel.first-readings")), heading(
                say("columns-panel.run-of-them")), heading(say("columns-panel.it-is")),
                heading(say("columns-panel.in")), heading(say("columns-panel.because")));
        // What was recognised stands first: in a wide file it would be lost among the rest.
        List<Integer> fields = IntStream.range(0, proposal.width()).filter(i -> !proposal.empty(i)).boxed()
                .sorted(Comparator.comparing(i -> plan(i).isEmpty())).toList();
        fields.stream().limit(MOST_ROWS).forEach(this::row);
        int left = fields.size() - rows.size();
        more.setText(left <= 0 ? "" : say("columns-panel.more-not-shown", left));
        rate.setText(proposal.plan().rateHz() > 0 ? Quantity.trim(proposal.plan().rateHz(), 3) : "");
        offerRate();
        rows.getFirst().channel().requestFocus();
    }

    private Optional<ColumnPlan> plan(int field) {
        return proposal.plan().columns().stream().filter(c -> c.index() == field).findFirst();
    }

    /** Without a column of time the rate must be known. */
    private void offerRate() {
        rateRow.setVisible(rows.stream().noneMatch(r -> say(Channel.TIME.label()).equals(r.channel().getValue())));
    }

    /** A label that is not cut short. */
    private static Label whole(String s) {
        Label l = new Label(s.length() > 40 ? s.substring(0, 39) + "…" : s);
        l.setMinWidth(USE_PREF_SIZE);
        return l;
    }

    private static Label heading(String s) {
        Label l = new Label(s);
        l.getStyleClass().add("card-subheading");
        return l;
    }

    private void row(int field) {
        Optional<ColumnPlan> plan = plan(field);
        ComboBox<String> channel = new ComboBox<>(FXCollections.observableArrayList(notUsed()));
        Arrays.stream(Channel.values()).forEach(c -> channel.getItems().add(say(c.label())));
        channel.setId("channel-" + field);
        channel.setAccessibleText(say("columns-panel.what-is", proposal.title(field)));
        ComboBox<String> unit = new ComboBox<>();
        unit.setId("unit-" + field);
        unit.setMinWidth(120);
        unit.setConverter(new UnitWords());
        unit.setAccessibleText(say("columns-panel.unit-of", proposal.title(field)));
        channel.valueProperty().addListener((o, was, is) -> {
            unit.getItems().setAll(channel(is).map(ColumnsPanel::units).orElse(List.of()));
            unit.setValue(unit.getItems().isEmpty() ? null : unit.getItems().getFirst());
            unit.setDisable(unit.getItems().size() < 2);
        });
        channel.setValue(plan.map(p -> say(p.channel().label())).orElse(notUsed()));
        plan.ifPresent(p -> unit.setValue(p.unit()));
        String readings = String.join("  ", proposal.readings(field).stream().limit(3).toList());
        Label because = new Label(plan.map(p -> switch (p.certainty()) {
            case SURE -> say(p.because());
            case LIKELY, GUESS -> "? " + say(p.because());
        }).orElse(""));
        because.setWrapText(true);
        because.setMaxWidth(BECAUSE_W);
        because.getStyleClass().add("small");
        TextField line = new TextField(plan.map(ColumnPlan::scale).map(ColumnsPanel::text).orElse(USUAL_LINE));
        unit.valueProperty().addListener((o, was, is) -> {
            boolean throttle = say(Channel.THROTTLE.label()).equals(channel.getValue());
            if (VOLTS.equals(is) && line.getText().equals(throttle ? USUAL_LINE : THROTTLE_LINE)) {
                line.setText(throttle ? THROTTLE_LINE : USUAL_LINE);
            }
        });
        line.setId("line-" + field);
        line.setAccessibleText(say("columns-panel.volts-and-what-they", USUAL_LINE));
        line.visibleProperty().bind(unit.valueProperty().isEqualTo(VOLTS));
        line.managedProperty().bind(line.visibleProperty());
        channel.setMinWidth(190);
        grid.addRow(rows.size() + 1, whole(say(proposal.title(field))), whole(readings), preview(field), channel, unit,
                new VBox(2, line, because));
        rows.add(new Row(field, channel, unit, line));
        channel.valueProperty().addListener((o, was, is) -> offerRate());
    }

    /** Units as they are written on gauges; a plain number has an empty unit, which needs a word on the screen. */
    private static final class UnitWords extends StringConverter<String> {

        private static String plain() {
            return say("columns-panel.as-it-is");
        }

        @Override
        public String toString(String unit) {
            return unit == null ? "" : unit.isEmpty() ? plain() : unit.replaceAll("\\b(in|mm|cm)hg\\b", "$1Hg")
                    .replaceAll("\\b([kh]?)pa\\b", "$1Pa").replaceAll("^°?c$", "°C").replaceAll("^°?f$", "°F")
                    .replaceAll("^k$", "K");
        }

        @Override
        public String fromString(String text) {
            return plain().equals(text) ? "" : text;
        }
    }

    /** Mixture sensors and throttles may be logged as the volts they give. */
    private static List<String> units(Channel c) {
        List<String> out = new ArrayList<>();
        // Of several spellings of one unit the first is enough to choose from.
        c.units().stream().filter(u -> c.units().stream().filter(o -> o.factor() == u.factor() && o.shift()
                == u.shift()).findFirst().orElse(u).equals(u)).forEach(u -> out.add(u.name()));
        if (c == Channel.THROTTLE || c == Channel.LAMBDA || c == Channel.LAMBDA_2 || c == Channel.AFR
                || c == Channel.AFR_2) {
            out.add(VOLTS);
        }
        return out;
    }

    private static String text(Scale s) {
        return s instanceof Scale.Curve c ? Quantity.trim(c.from()[0], 2) + " = " + Quantity.trim(c.to()[0], 2) + ", "
                + Quantity.trim(c.from()[1], 2) + " = " + Quantity.trim(c.to()[1], 2) : USUAL_LINE;
    }

    /** Points of a sensor's line, written as {@code 0 = 0.68, 5 = 1.36}; empty when it is none. */
    private static Optional<Scale> line(String text) {
        try {
            double[][] points = Arrays.stream(text.split("[,;]\\s*(?=[0-9.]+\\s*=)")).map(p -> Arrays.stream(
                    p.split("="))
                    .mapToDouble(v -> Double.parseDouble(v.trim())).toArray()).toArray(double[][]::new);
            return Optional.of(new Scale.Curve(Arrays.stream(points).mapToDouble(p -> p[0]).toArray(),
                    Arrays.stream(points).mapToDouble(p -> p[1]).toArray()));
        } catch (IllegalArgumentException | ArrayIndexOutOfBoundsException e) {
            return Optional.empty();
        }
    }

    private static String notUsed() {
        return say("columns-panel.not-used");
    }

    private static Optional<Channel> channel(String label) {
        return Arrays.stream(Channel.values()).filter(c -> say(c.label()).equals(label)).findFirst();
    }

    /** The first readings as a line: a rising time, a loping idle and a stuck column look different at once. */
    private Canvas preview(int field) {
        Canvas canvas = new Canvas(PREVIEW_W, PREVIEW_H);
        double[] v = proposal.readings(field).stream().mapToDouble(proposal::number).toArray();
        double low = Arrays.stream(v).filter(x -> !Double.isNaN(x)).min().orElse(0);
        double high = Arrays.stream(v).filter(x -> !Double.isNaN(x)).max().orElse(1);
        GraphicsContext g = canvas.getGraphicsContext2D();
        g.setStroke(Color.GRAY);
        g.setLineWidth(1.2);
        g.beginPath();
        boolean down = false;
        for (int i = 0; i < v.length; i++) {
            if (Double.isNaN(v[i])) {
                down = false;
                continue;
            }
            double x = 1 + (PREVIEW_W - 2.0) * i / Math.max(1, v.length - 1);
            double y = PREVIEW_H - 3 - (PREVIEW_H - 6) * (v[i] - low) / Math.max(1e-9, high - low);
            if (down) {
                g.lineTo(x, y);
            } else {
                g.moveTo(x, y);
            }
            down = true;
        }
        g.stroke();
        return canvas;
    }

    private void accept() {
        Plan before = proposal.plan();
        Plan plan = new Plan(List.of(), 0.0, before.events(), before.signature());
        for (Row r : rows) {
            Optional<Channel> c = channel(r.channel().getValue());
            if (c.isEmpty()) {
                continue;
            }
            if (plan.column(c.get()).isPresent()) {
                session.complain(say("columns-panel.two-columns-are-said", c.get().label()));
                return;
            }
            if (VOLTS.equals(r.unit().getValue())) {
                Optional<Scale> scale = line(r.line().getText());
                if (scale.isEmpty()) {
                    session.complain(say("columns-panel.the-line-of-is", proposal.title(r.field()), USUAL_LINE));
                    return;
                }
                plan = plan.with(new ColumnPlan(r.field(), proposal.title(r.field()).toString(), c.get(), VOLTS,
                        scale.get(),
                        ColumnPlan.Certainty.SURE, Message.message("because.you-said-so")));
                continue;
            }
            Optional<ColumnPlan> was = plan(r.field());
            boolean same = was.isPresent() && was.get().channel() == c.get()
                    && was.get().unit().equals(String.valueOf(r.unit().getValue()));
            ColumnPlan column = same ? was.get() : new ColumnPlan(r.field(), proposal.title(r.field()).toString(),
                    c.get(), "",
                    null,
                    ColumnPlan.Certainty.SURE, Message.NONE).as(c.get(), c.get().unit(String.valueOf(r.unit()
                    .getValue()))
                            .orElse(c.get().units().getFirst()));
            plan = plan.with(column);
        }
        if (rateRow.isVisible() && !rate.getText().isBlank()) {
            double hz = proposal.number(rate.getText());
            if (!(hz > 0 && hz <= Plan.FASTEST_HZ)) {
                session.complain(say("columns-panel.the-rate-is-not", rate.getText().trim()));
                return;
            }
            plan = plan.atRate(hz);
        }
        if (!plan.missing().isEmpty()) {
            session.complain(say("columns-panel.not-said-yet-which", Message.join(", ", plan.missing())));
            return;
        }
        session.open().answer(plan);
    }
}
