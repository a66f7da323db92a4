package nariz.app.view;

import static nariz.app.words.WindowWords.say;

import java.util.ArrayList;
import java.util.List;
import java.util.function.BooleanSupplier;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.RadioMenuItem;
import javafx.scene.control.SeparatorMenuItem;
import javafx.scene.control.ToggleGroup;
import javafx.scene.control.Tooltip;
import nariz.app.chart.WeakListeners;
import nariz.app.state.MixtureUnit;
import nariz.app.state.Session;
import nariz.units.Shown;

/** Every unit the window shows numbers in, one choice a kind of number; what is chosen holds everywhere at once. */
final class UnitsMenu extends MenuButton {
    private final Session session;
    private final List<Runnable> refresh = new ArrayList<>();
    /** Choices of the kind being listed. */
    private ToggleGroup group;

    UnitsMenu(Session session) {
        super(say("units-menu.units"));
        this.session = session;
        setId("units");
        setAccessibleText(say("units-menu.units-of-every-number"));
        setTooltip(new Tooltip(say("units-menu.units-of-every-number")));
        kind(say("units-menu.mixture"));
        for (MixtureUnit u : MixtureUnit.values()) {
            add(u.label(), "mixture-" + u.name(), () -> session.unitProperty().get() == u,
                    () -> session.unitProperty().set(u));
        }
        kind(say("units-menu.vacuum"));
        for (Shown.Pressure p : Shown.Pressure.values()) {
            add(p.label(), p.name(), () -> now().pressure() == p, () -> session.use(new Shown(p, now().size(),
                    now().road())));
        }
        kind(say("units-menu.holes"));
        for (Shown.Size z : Shown.Size.values()) {
            add(z.label(), z.name(), () -> now().size() == z, () -> session.use(new Shown(now().pressure(), z,
                    now().road())));
        }
        kind(say("units-menu.road"));
        for (Shown.Road r : Shown.Road.values()) {
            add(r.speed() + ", " + r.height() + ", " + r.heat(), r.name(), () -> now().road() == r,
                    () -> session.use(new Shown(now().pressure(), now().size(), r)));
        }
        WeakListeners.attach(session.unitProperty(), this, (o, was, is) -> refresh.forEach(Runnable::run));
        WeakListeners.attach(session.shownProperty(), this, (o, was, is) -> refresh.forEach(Runnable::run));
    }

    private Shown now() {
        return session.shownProperty().get();
    }

    /** A heading, and a choice of its own below it. */
    private void kind(String title) {
        if (!getItems().isEmpty()) {
            getItems().add(new SeparatorMenuItem());
        }
        MenuItem heading = new MenuItem(title);
        heading.setDisable(true);
        getItems().add(heading);
        group = new ToggleGroup();
    }

    private void add(String label, String id, BooleanSupplier chosen, Runnable choose) {
        RadioMenuItem item = new RadioMenuItem(label);
        item.setId("units-" + id.toLowerCase(java.util.Locale.ROOT));
        item.setToggleGroup(group);
        item.setSelected(chosen.getAsBoolean());
        item.setOnAction(e -> choose.run());
        refresh.add(() -> item.setSelected(chosen.getAsBoolean()));
        getItems().add(item);
    }
}
