package nariz.app.view;

import static nariz.app.words.WindowWords.say;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.BooleanSupplier;
import java.util.function.Supplier;
import java.util.stream.Stream;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.input.Clipboard;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyCodeCombination;
import javafx.scene.input.KeyCombination;
import javafx.scene.input.KeyEvent;
import nariz.app.chart.Picture;
import nariz.app.chart.PictureKey;
import nariz.app.chart.Plane;
import nariz.app.chart.Scrubber;
import nariz.app.print.KeyCardPdf;
import nariz.app.state.Drive;
import nariz.app.state.Session;
import nariz.app.state.Stop;
import nariz.sim.Demo;
import nariz.text.Language;

/**
 * Everything that can be done, once: menus, keys, the field that finds things, tooltips and the key card all take it
 * from here.
 */
final class Actions {
    /** The menus, in the order platforms have them. */
    enum Menu {
        /** Drives, files and paper. */
        FILE("open", "paste", "export", "print-card", "print-keys", "quit"),
        /** What is decided about the open drive. */
        EDIT("undo", "redo", "-", "note", "stretch-begin", "stretch-end", "stretch"),
        /** What is shown. */
        VIEW("next-picture", "picture-stream", "picture-trace", "picture-stabs", "picture-enrichment",
                "picture-pulls", "picture-trials", "-", "plane-error", "plane-dwell", "plane-share",
                "plane-difference", "-",
                "next-side", "side-card", "side-try", "side-plan",
                "fold-effect",
                "log-high", "-", "unit", "night", "contrast", "larger", "smaller", "language"),
        /** The car and its drives. */
        CAR("fitted", "sheet", "-", "live", "live-mark", "live-mute", "live-turned", "live-back", "-", "side-compare",
                "together", "again"),
        /** Learning it. */
        HELP("guide", "find", "tour", "-", "demo", "demo-roadster", "demo-small-four", "-", "about");

        private final List<String> ids;

        Menu(String... ids) {
            this.ids = List.of(ids);
        }

        /** {@return ids of actions in order; a dash parts them} */
        List<String> ids() {
            return ids;
        }
    }

    private final MainWindow window;
    private final Session session;
    private final List<Action> fixed = new ArrayList<>();
    private final List<Action> ofPictures = new ArrayList<>();

    Actions(MainWindow window, Session session, Pictures pictures, WorkColumn work, LogPane log) {
        this.window = window;
        this.session = session;
        files();
        edits(log.scrubber());
        views(pictures, work, log);
        car();
        help();
        for (Picture p : pictures.all()) {
            keys(p);
        }
        keys(log.scrubber());
    }

    private void files() {
        add("open", say("main-window.open-a-drive"), () -> window.showOpen(true), plain(KeyCode.O), held(KeyCode.O));
        add("paste", say("main-window.paste-rows-as-a"), () -> window.paste(Clipboard.getSystemClipboard()
                .getString()), held(KeyCode.V));
        add("export", say("actions.export"), this::kept, window::export);
        add("print-card", say("main-window.work-card-on-paper"), this::open, window::printCard, held(KeyCode.P));
        add("print-keys", say("actions.print-keys"), window::printKeys);
        add("quit", say("actions.quit"), window::quit, held(KeyCode.Q));
    }

    private void edits(Scrubber scrubber) {
        BooleanSupplier selected = () -> session.selectionProperty().get() != null || cursorTakenOut();
        add("undo", say("actions.undo"), () -> !session.historyProperty().get().isEmpty(), session::undo,
                held(KeyCode.Z));
        add("redo", say("actions.redo"), session::redo, held(KeyCode.Y), new KeyCodeCombination(KeyCode.Z,
                KeyCombination.SHORTCUT_DOWN, KeyCombination.SHIFT_DOWN));
        add("note", say("main-window.note-on-this-moment"), this::open, () -> window.enter("note"), plain(KeyCode.M));
        add("stretch-begin", say("actions.stretch-begin"), this::open, scrubber::beginStretch, plain(KeyCode.B));
        add("stretch-end", say("actions.stretch-end"), this::open, scrubber::endStretch, plain(KeyCode.E));
        add("stretch", say("main-window.take-the-selected-stretch"), selected, this::excludeOrRestore,
                plain(KeyCode.X));
    }

    private void views(Pictures pictures, WorkColumn work, LogPane log) {
        Choice picture = pictures.choice();
        Choice side = work.choice();
        add("next-picture", say("main-window.next-picture-stream-and"), picture::next, plain(KeyCode.V));
        picture.titles().forEach((name, title) -> add("picture-" + name, title, () -> picture.show(name)));
        for (Plane.Shows s : Plane.Shows.values()) {
            add("plane-" + s.id(), say("plane.shows") + ": " + say("plane.shows-" + s.id()), () -> {
                picture.show(Pictures.STREAM);
                pictures.plane().showsProperty().set(s);
            });
        }
        add("next-side", say("main-window.next-side-panel-work"), side::next, plain(KeyCode.K));
        side.titles().forEach((name, title) -> add("side-" + name, title, () -> side.show(name)));
        add("fold-effect", say("work-column.effect-help"), work::foldEffect, plain(KeyCode.G));
        add("log-high", say("log-bar.high-help"), () -> log.highProperty().set(!log.highProperty().get()),
                plain(KeyCode.L));
        add("unit", say("main-window.afr-or-lambda"), window::otherUnit, plain(KeyCode.U));
        add("night", say("main-window.night-or-day-colours"), window::otherColours, plain(KeyCode.T));
        add("contrast", say("actions.contrast"), window::otherContrast);
        add("larger", say("main-window.larger-text"), () -> window.largerText(1), anyShift(KeyCode.PLUS),
                anyShift(KeyCode.EQUALS), held(KeyCode.ADD));
        add("smaller", say("main-window.smaller-text"), () -> window.largerText(-1), held(KeyCode.MINUS),
                held(KeyCode.SUBTRACT));
        Language next = MainWindow.other();
        add("language", next.own(), () -> window.speak(next));
    }

    private void car() {
        add("live", say("live-page.open"), () -> window.showLive(true), plain(KeyCode.R));
        add("live-mark", say("live-page.mark-help"), () -> session.live().nowProperty().get() != null, session
                .live()::mark, plain(KeyCode.J));
        add("live-mute", say("live-page.mute"), () -> session.live().nowProperty().get() != null, session.live()::mute,
                plain(KeyCode.Q));
        add("live-turned", say("idle-panel.turned-help"), "idle-turned", "balance-turned", KeyCode.W);
        add("live-back", say("actions.live-back"), "idle-back", "balance-back", KeyCode.Z);
        add("sheet", say("garage.its-sheet-help"), this::kept, window::openSheet);
        add("fitted", say("work-card-panel.fitted-help"), () -> window.lookup("#card-fitted") != null,
                () -> ((Button) window.lookup("#card-fitted")).fire());
        add("together", say("compare-panel.lay-together-help"), this::open, session.comparisons()::layTogether);
        add("again", say("main-window.drive-the-demo-again"), session.open()::practice, session.open()::again);
    }

    /** Beside the engine a key presses the button of the page that is shown. */
    private void add(String id, String title, String idle, String balance, KeyCode key) {
        Supplier<Optional<Button>> button = () -> Stream.of(idle, balance).map(b -> (Button) window.lookup("#" + b))
                .filter(b -> b != null && !b.isDisabled() && inView(b)).findFirst();
        add(id, title, () -> button.get().isPresent(), () -> button.get().ifPresent(Button::fire), plain(key));
    }

    private static boolean inView(Node n) {
        for (Node at = n; at != null; at = at.getParent()) {
            if (!at.isVisible()) {
                return false;
            }
        }
        return true;
    }

    private void help() {
        add("find", say("find.find-a-stop-a"), () -> window.enter("find"), plain(KeyCode.F));
        add("guide", say("guide.title"), window::openGuide, plain(KeyCode.F1));
        add("tour", say("tour.title"), window::startTour);
        add("about", say("guide.about-title"), window::openAbout);
        add("demo", say("main-window.demo-drive"), session.open()::demo, plain(KeyCode.D));
        add("demo-roadster", say("demo.open-kit-roadster"), () -> session.open().demo(Demo.ROADSTER));
        add("demo-small-four", say("demo.open-small-four"), () -> session.open().demo(Demo.SMALL_FOUR));
    }

    private boolean cursorTakenOut() {
        Drive d = session.driveProperty().get();
        return d != null && session.decisions().valueProperty().get().excluded().stream().anyMatch(x -> x.holds(
                d.log().timeS()[session.cursorProperty().get()]));
    }

    private void excludeOrRestore() {
        if (session.selectionProperty().get() == null) {
            session.restore();
        } else {
            session.exclude();
        }
    }

    private boolean open() {
        return session.driveProperty().get() != null;
    }

    private boolean kept() {
        Drive d = session.driveProperty().get();
        return d != null && d.run().isPresent();
    }

    private void keys(Picture p) {
        for (PictureKey k : p.keys()) {
            ofPictures.add(new Action(p.getId() + "-" + ofPictures.size(), say("actions.in-picture",
                    p.getAccessibleText(), k.title()), k.keys(), p.getId(), p.getAccessibleText(), () -> true, () -> {
                        p.requestFocus();
                        k.run().run();
                    }));
        }
    }

    private void add(String id, String title, Runnable run, KeyCombination... keys) {
        add(id, title, () -> true, run, keys);
    }

    private void add(String id, String title, BooleanSupplier usable, Runnable run, KeyCombination... keys) {
        fixed.add(new Action(id, title, Arrays.asList(keys), "", "", usable, run));
    }

    private static KeyCombination plain(KeyCode code) {
        return new KeyCodeCombination(code);
    }

    private static KeyCombination held(KeyCode code) {
        return new KeyCodeCombination(code, KeyCombination.SHORTCUT_DOWN);
    }

    /** On some keyboards the sign needs Shift. */
    private static KeyCombination anyShift(KeyCode code) {
        return new KeyCodeCombination(code, KeyCombination.SHORTCUT_DOWN, KeyCombination.SHIFT_ANY);
    }

    /** {@return going to each stop of the open drive's carburetor; the digits count along them} */
    List<Action> stops() {
        List<Action> out = new ArrayList<>();
        for (Stop s : window.stops()) {
            int place = out.size();
            List<KeyCombination> keys = place > 8 ? List.of() : List.of(plain(KeyCode.values()[KeyCode.DIGIT1.ordinal()
                    + place]), plain(KeyCode.values()[KeyCode.NUMPAD1.ordinal() + place]));
            out.add(new Action("stop-" + s.id(), say("main-window.go-to", s.label()), keys, "", "", this::open,
                    () -> session.goTo(s)));
        }
        return out;
    }

    /** {@return everything with a name, stops first} */
    List<Action> all() {
        List<Action> out = new ArrayList<>(stops());
        out.addAll(fixed);
        out.addAll(ofPictures);
        return out;
    }

    /**
     * The action of a name.
     *
     * @param id its name
     * @return the action; empty where there is none yet
     */
    Optional<Action> of(String id) {
        return fixed.stream().filter(a -> a.id().equals(id)).findFirst();
    }

    /** Does what a key asks for, unless a picture has that key for itself. */
    boolean run(KeyEvent e) {
        List<Action> anywhere = new ArrayList<>(stops());
        anywhere.addAll(fixed);
        Optional<Action> asked = anywhere.stream().filter(a -> a.asked(e)).findFirst();
        asked.filter(a -> a.usable().getAsBoolean()).ifPresent(a -> a.run().run());
        return asked.isPresent();
    }

    /** {@return keys by the place where they work, for paper} */
    List<KeyCardPdf.Group> keyCard() {
        Map<String, List<String>> by = new LinkedHashMap<>();
        for (Action a : all()) {
            if (!a.keys().isEmpty()) {
                String place = a.where().isEmpty() ? say("key-card.anywhere") : say("key-card.with-focus", a.place());
                by.computeIfAbsent(place, k -> new ArrayList<>()).add(a.title() + ": " + String.join(", ", a.keys()
                        .stream().map(Action::shown).distinct().toList()));
            }
        }
        return by.entrySet().stream().map(e -> new KeyCardPdf.Group(e.getKey(), e.getValue())).toList();
    }
}
