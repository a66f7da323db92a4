package nariz.app.view;

import static nariz.app.words.WindowWords.say;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.Slider;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import nariz.app.chart.WeakListeners;
import nariz.app.state.Drive;
import nariz.app.state.Session;
import nariz.app.state.Stop;
import nariz.carburetor.Circuit;
import nariz.carburetor.Family;
import nariz.carburetor.Kit;
import nariz.carburetor.PartChange;
import nariz.diagnosis.Candidate;
import nariz.diagnosis.Orifice;
import nariz.text.Message;
import nariz.workbook.PartPlans;

/**
 * Trying parts: one ladder a part, those of the shown stop first. Plane, trace and effect follow while a size is
 * dragged; what is tried can be kept as a plan.
 */
final class TryPanel extends ScrollPane {
    /** Widths of a part's name and of its size, px: one line a part, so that many are in sight at once. */
    private static final double NAME = 140;
    private static final double SIZE = 104;

    private final Session session;
    private final VBox content = new VBox(5);
    private final VBox rows = new VBox(3);
    private final VBox plans = new VBox(4);
    private final List<Rung> rungs = new ArrayList<>();
    private final Label verdict = new Label();
    private boolean loading;

    /** One part with its ladder. */
    private record Rung(Candidate part, Slider slider, Label size, Label area) {
        double chosen() {
            return part.sizes().get(Math.clamp(Math.round(slider.getValue()), 0, part.sizes().size() - 1));
        }
    }

    TryPanel(Session session) {
        this.session = session;
        getStyleClass().add("work-card");
        setId("try-panel");
        setFitToWidth(true);
        setHbarPolicy(ScrollBarPolicy.NEVER);
        setAccessibleText(say("try-panel.parts-to-try"));
        content.getStyleClass().add("work-card-content");
        Label title = styled(say("try-panel.try-parts"), "card-heading");
        Label hint = styled(say("try-panel.drag-a-size-along"), "small");
        verdict.setId("try-verdict");
        verdict.setWrapText(true);
        verdict.getStyleClass().add("card-line");
        TextField name = new TextField();
        name.setId("plan-name");
        name.setPromptText(say("try-panel.name-of-the-plan"));
        name.setAccessibleText(say("try-panel.name-of-the-plan"));
        HBox.setHgrow(name, Priority.ALWAYS);
        Button keep = MainWindow.button(say("try-panel.keep-as-plan"), "plan-keep",
                say("try-panel.keep-the-parts-tried"),
                () -> keep(name));
        keep.setMinWidth(Region.USE_PREF_SIZE);
        name.setOnAction(e -> keep(name));
        Button none = MainWindow.button(say("try-panel.back-to-today-s"), "try-none",
                say("try-panel.put-every-size-back"),
                () -> set(List.of()));
        none.disableProperty().bind(javafx.beans.binding.Bindings.createBooleanBinding(() ->
                session.trials().triedProperty()
                .get().isEmpty(), session.trials().triedProperty()));
        HBox line = new HBox(6, name, keep);
        line.setAlignment(Pos.CENTER_LEFT);
        content.getChildren().addAll(title, hint, verdict, rows, none, line, plans, new AirBox(session));
        setContent(content);
        WeakListeners.attach(session.driveProperty(), this, (o, was, is) -> load());
        WeakListeners.attach(session.stopProperty(), this, (o, was, is) -> load());
        WeakListeners.attach(session.trials().triedProperty(), this, (o, was, is) -> show(is));
        WeakListeners.attach(session.trials().effectProperty(), this, (o, was, is) -> tell());
        WeakListeners.attach(session.notes().plansProperty(), this, (o, was, is) -> list(is));
        load();
    }

    private void keep(TextField name) {
        String n = name.getText() == null || name.getText().isBlank() ? say("try-panel.plan",
                (session.notes().plansProperty()
                .get().size() + 1)) : name.getText().strip();
        session.notes().keepPlan(n);
        name.clear();
    }

    private void set(List<PartChange> changes) {
        List<PartChange> before = session.trials().triedProperty().get();
        session.trials().tryParts(changes);
        session.trials().triedFrom(before);
    }

    private void load() {
        rows.getChildren().clear();
        rungs.clear();
        Drive d = session.driveProperty().get();
        if (d == null || !d.analysis().estimated()) {
            rows.getChildren().add(styled(d == null ? say("try-panel.open-a-drive-first")
                    : say("try-panel.too-little-steady-running"), "card-line"));
            tell();
            return;
        }
        Stop stop = session.stopProperty().get();
        List<Candidate> all = Candidate.of(d.sheet(), Kit.NONE);
        Family family = d.sheet().carburetor().family();
        List<Candidate> mine = all.stream().filter(c -> stop.holds(c.circuit(family))).toList();
        List<Candidate> rest = all.stream().filter(c -> !stop.holds(c.circuit(family))).toList();
        if (!mine.isEmpty()) {
            rows.getChildren().add(styled(stop.label(), "card-subheading"));
        } else if (family.circuits().stream().anyMatch(c -> c.role() == Circuit.Role.PUMP && stop.holds(c))) {
            rows.getChildren().add(styled(say("try-panel.not-the-openings"), "card-line"));
        }
        mine.forEach(c -> rows.getChildren().add(row(c)));
        rows.getChildren().add(styled(mine.isEmpty() ? say("try-panel.parts") : say("try-panel.others"),
                "card-subheading"));
        rest.forEach(c -> rows.getChildren().add(row(c)));
        show(session.trials().triedProperty().get());
        tell();
    }

    private Node row(Candidate c) {
        Slider slider = new Slider(0, c.sizes().size() - 1.0, c.fittedAt());
        slider.setId("try-" + c.side().key() + "-" + c.part().key());
        slider.setMajorTickUnit(1);
        slider.setMinorTickCount(0);
        slider.setSnapToTicks(true);
        slider.setBlockIncrement(1);
        slider.setAccessibleText(say(c.part().named(c.side())));
        Label size = styled("", "try-size");
        size.setMinWidth(Region.USE_PREF_SIZE);
        Label area = styled("", "small");
        Rung r = new Rung(c, slider, size, area);
        rungs.add(r);
        List<List<PartChange>> before = new ArrayList<>();
        slider.valueProperty().addListener((o, was, is) -> {
            if (!loading && Math.round(was.doubleValue()) != Math.round(is.doubleValue())) {
                List<PartChange> earlier = session.trials().triedProperty().get();
                session.trials().tryParts(chosen());
                // A drag is one step, taken when the hand lets go; a key or a click is a step of its own.
                if (!slider.isValueChanging()) {
                    session.trials().triedFrom(earlier);
                }
            }
        });
        slider.valueChangingProperty().addListener((o, was, is) -> {
            if (Boolean.TRUE.equals(is)) {
                before.add(session.trials().triedProperty().get());
            } else if (!before.isEmpty()) {
                session.trials().triedFrom(before.removeFirst());
                before.clear();
            }
        });
        Label name = styled(say(c.part().named(c.side())), "card-line");
        name.setMinWidth(NAME);
        name.setMaxWidth(NAME);
        slider.setMinWidth(80);
        HBox.setHgrow(slider, Priority.ALWAYS);
        size.setMinWidth(SIZE);
        size.setAlignment(Pos.CENTER_RIGHT);
        HBox line = new HBox(6, name, slider, size);
        line.setAlignment(Pos.CENTER_LEFT);
        return new VBox(0, line, area);
    }

    private List<PartChange> chosen() {
        return rungs.stream().filter(r -> r.chosen() != r.part().fitted()).map(r -> r.part().to(r.chosen())).toList();
    }

    /** Brings the sliders to what is tried, also when undo or a plan set it. */
    private void show(List<PartChange> tried) {
        loading = true;
        for (Rung r : rungs) {
            double to = tried.stream().filter(c -> c.part().equals(r.part().part()) && c.side() == r.part().side())
                    .mapToDouble(PartChange::to).findFirst().orElse(r.part().fitted());
            int at = r.part().sizes().indexOf(to);
            if (at >= 0 && Math.round(r.slider().getValue()) != at) {
                r.slider().setValue(at);
            }
            boolean moved = to != r.part().fitted();
            String size = say(r.part().part().text(to));
            r.size().setText(moved ? withoutUnit(say(r.part().part().text(r.part().fitted())), size) + " → " + size
                    : size);
            Optional<Orifice> hole = moved ? Orifice.of(session.driveProperty().get().sheet(), r.part().to(to))
                    : Optional.empty();
            r.area().setText(hole.map(h -> say(h.text()) + (h.drills().isEmpty() ? "" : "; "
                    + say(h.drills()))).orElse(""));
            r.area().setManaged(!r.area().getText().isEmpty());
        }
        loading = false;
    }

    /** A size before another in the same unit: the unit stands once, and the slider keeps its room. */
    private static String withoutUnit(String size, String next) {
        int at = size.indexOf(' ');
        return at > 0 && next.endsWith(size.substring(at)) ? size.substring(0, at) : size;
    }

    /** The verdict on what is tried: what gets better and what worse, in the tolerances' terms. */
    private void tell() {
        Drive d = session.driveProperty().get();
        var e = session.trials().effectProperty().get();
        if (d == null || e == null || !e.tried()) {
            verdict.setText(d != null && e != null && e.changed()
                    ? say("try-panel.the-pictures-show-what")
                    : say("try-panel.the-pictures-show-today"));
            return;
        }
        List<String> better = new ArrayList<>();
        List<String> worse = new ArrayList<>();
        int off = 0;
        for (var r : e.regimes()) {
            double was = r.before().rms();
            double is = r.after().rms();
            if (is > r.before().regime().tolerance()) {
                off++;
            }
            if (Math.round(100 * is) != Math.round(100 * was)) {
                (is < was ? better : worse).add(String.format(Locale.ROOT, "%s %.0f → %.0f %%",
                        r.before().regime().label(), 100 * was, 100 * is));
            }
        }
        StringBuilder s = new StringBuilder();
        if (!better.isEmpty()) {
            s.append(say("try-panel.nearer-to-target")).append(String.join(", ", better)).append(". ");
        }
        if (!worse.isEmpty()) {
            s.append(say("try-panel.further-off")).append(String.join(", ", worse)).append(". ");
        }
        if (better.isEmpty() && worse.isEmpty()) {
            s.append(say("try-panel.changes-nothing-this-drive"));
        }
        s.append(off == 0 ? say("try-panel.everything-read-would-be") : say("try-panel.of-ways-of-running", off,
                e.regimes().size()));
        verdict.setText(s.toString());
    }

    private void list(List<PartPlans.PartPlan> all) {
        plans.getChildren().clear();
        if (!all.isEmpty()) {
            plans.getChildren().add(styled(say("try-panel.plans"), "card-subheading"));
        }
        for (PartPlans.PartPlan p : all) {
            Label what = styled(p.name() + ": " + say(Message.join("; ", p.changes().stream().map(PartChange::text)
                    .toList())),
                    "card-line");
            HBox.setHgrow(what, Priority.ALWAYS);
            what.setMaxWidth(Double.MAX_VALUE);
            Button show = MainWindow.button(say("try-panel.try"), "plan-try", say("try-panel.try-the-parts-of"), ()
                    -> set(p.changes()));
            Button away = MainWindow.button(say("try-panel.drop"), "plan-drop", say("try-panel.take-the-plan-off"),
                    () -> session.notes().removePlan(p));
            show.setAccessibleText(say("try-panel.try-2", p.name()));
            away.setAccessibleText(say("try-panel.drop-2", p.name()));
            show.setMinWidth(Region.USE_PREF_SIZE);
            away.setMinWidth(Region.USE_PREF_SIZE);
            plans.getChildren().add(new HBox(6, what, show, away));
        }
    }

    private static Label styled(String text, String style) {
        Label l = new Label(text);
        l.getStyleClass().add(style);
        l.setWrapText(true);
        return l;
    }
}
