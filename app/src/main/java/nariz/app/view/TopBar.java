package nariz.app.view;

import static nariz.app.words.WindowWords.say;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.Menu;
import javafx.scene.control.MenuBar;
import javafx.scene.control.MenuItem;
import javafx.scene.control.ProgressIndicator;
import javafx.scene.control.SeparatorMenuItem;
import javafx.scene.control.ToggleButton;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import nariz.app.chart.WeakListeners;
import nariz.app.state.DriveRepository;
import nariz.app.state.Session;

/** Menus, the open car, what is being worked on, the field that finds things, units and colours. */
final class TopBar extends HBox {
    private static final int MOST_RECENT = 9;

    private final Session session;
    private final Actions actions;

    TopBar(MainWindow window, Session session, Actions actions, Find find) {
        super(10);
        this.session = session;
        this.actions = actions;
        Label name = new Label("Nariz");
        name.getStyleClass().add("product");
        MenuBar menus = new MenuBar();
        menus.setId("menus");
        menus.setUseSystemMenuBar(true);
        for (Actions.Menu m : Actions.Menu.values()) {
            menus.getMenus().add(menu(m));
        }
        Label car = new Label();
        car.getStyleClass().add("car");
        car.setId("car-name");
        DragOut.by(car, session);
        WeakListeners.attach(session.driveProperty(), this, (o, was, is) -> car.setText(is == null ? ""
                : is.sheet().name() + "  ·  " + is.log().name()));
        Region space = new Region();
        HBox.setHgrow(space, Priority.ALWAYS);
        Button cars = MainWindow.button(say("main-window.open-2"), "open", say("main-window.open-a-build-sheet"),
                () -> window.showOpen(true));
        UnitsMenu unit = new UnitsMenu(session);
        ToggleButton theme = new ToggleButton(say("main-window.night"));
        theme.setId("theme");
        theme.setAccessibleText(say("main-window.dark-colours"));
        theme.setTooltip(new Tooltip(say("main-window.dark-colours-t")));
        theme.setOnAction(e -> window.setNight(theme.isSelected()));
        getChildren().addAll(name, menus, car, space, busy(session.busyProperty()), find.field(), cars, unit, theme);
        // Because a narrow window takes from the name of the car and the field first.
        for (Region r : List.of(name, menus, cars, unit, theme)) {
            r.setMinWidth(Region.USE_PREF_SIZE);
        }
        find.field().setMinWidth(90);
        car.setMinWidth(0);
        setAlignment(Pos.CENTER_LEFT);
        getStyleClass().add("top-bar");
    }

    private Menu menu(Actions.Menu m) {
        String id = m.name().toLowerCase(Locale.ROOT);
        Menu menu = new Menu(say("menu." + id));
        menu.setId("menu-" + id);
        List<Runnable> refresh = new ArrayList<>();
        for (String what : m.ids()) {
            if (what.equals("-")) {
                menu.getItems().add(new SeparatorMenuItem());
            } else {
                actions.of(what).ifPresent(a -> menu.getItems().add(item(a, refresh)));
            }
        }
        if (m == Actions.Menu.FILE) {
            Menu recent = new Menu(say("menu.recent"));
            recent.setId("menu-recent");
            menu.getItems().add(1, recent);
            refresh.add(() -> recent(recent));
        }
        menu.setOnShowing(e -> refresh.forEach(Runnable::run));
        return menu;
    }

    /** The key stands beside the words but is not the menu's own: the window knows better where a letter is text. */
    private static MenuItem item(Action a, List<Runnable> refresh) {
        MenuItem item = new MenuItem(a.keys().isEmpty() ? a.title() : a.title() + "   " + a.key());
        item.setId("menu-" + a.id());
        item.setMnemonicParsing(false);
        item.setOnAction(e -> {
            if (a.usable().getAsBoolean()) {
                a.run().run();
            }
        });
        refresh.add(() -> item.setDisable(!a.usable().getAsBoolean()));
        return item;
    }

    private void recent(Menu menu) {
        List<DriveRepository.Entry> kept = session.garage().keptProperty().get();
        menu.setDisable(kept.isEmpty());
        menu.getItems().setAll(kept.reversed().stream().limit(MOST_RECENT).map(e -> {
            MenuItem item = new MenuItem(e.vehicle() + "  ·  " + e.name());
            item.setMnemonicParsing(false);
            item.setOnAction(x -> session.open().kept(e.run()));
            return item;
        }).toList());
    }

    private HBox busy(ReadOnlyStringProperty what) {
        ProgressIndicator turning = new ProgressIndicator();
        turning.setPrefSize(20, 20);
        turning.setMaxSize(20, 20);
        Label text = new Label();
        text.textProperty().bind(what);
        Button cancel = MainWindow.button(say("main-window.cancel"), "cancel", say("main-window.stop-reading"),
                session::cancel);
        HBox box = new HBox(8, turning, text, cancel);
        box.setAlignment(Pos.CENTER_LEFT);
        box.visibleProperty().bind(what.isNotEmpty());
        box.managedProperty().bind(box.visibleProperty());
        return box;
    }
}
