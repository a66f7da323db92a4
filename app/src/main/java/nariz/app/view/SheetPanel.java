package nariz.app.view;

import static nariz.app.words.WindowWords.say;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import javafx.collections.FXCollections;
import javafx.css.PseudoClass;
import javafx.geometry.HPos;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Control;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.ColumnConstraints;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import javafx.util.StringConverter;
import nariz.app.chart.WeakListeners;
import nariz.app.state.Session;
import nariz.app.state.SheetText;
import nariz.app.words.WindowWords;
import nariz.carburetor.Assumption;
import nariz.carburetor.BuildSheetReader;
import nariz.carburetor.InputProblem;
import nariz.carburetor.SheetDraft;
import nariz.carburetor.Stage;
import nariz.carburetor.Targets;
import nariz.carburetor.TubeChart;
import nariz.diagnosis.Strategy;
import nariz.sim.DemoDrive;
import nariz.units.Quantity;
import org.jspecify.annotations.Nullable;

/**
 * A build sheet as a form: what is fitted, one field each, the two sides of the carburetor beside each other. What is
 * left blank shows in grey what this family would be assumed to have.
 */
final class SheetPanel extends VBox {
    private static final String FAMILY = "carburetor.family";
    private static final String NEW = "my-car.json";
    private static final double FIELD_W = 214;
    private static final double UNIT_W = 46;
    private static final double STAMP_W = 100;
    /** A long table must not take the form's room. */
    private static final int MOST_NAMED = 24;
    private static final PseudoClass USUAL = PseudoClass.getPseudoClass("usual");

    private final Session session;
    private final FilePicker picker;
    private final Consumer<Path> kept;
    private final Consumer<String> ofCar;
    /** What no family can stand in for. */
    private static final Set<String> NEEDED = Set.of("engine.displacement", "engine.cylinders");

    private final VBox form = new VBox(10);
    private final Label where = new Label();
    private final Map<String, Control> inputs = new LinkedHashMap<>();
    /** Made when it is first asked for: a window without a form does without the schema. */
    private @Nullable SheetDraft draft;
    private String file = NEW;
    /** Whether something was begun that is not kept yet: it is still there when the form is opened again. */
    private boolean begun;

    /**
     * Sets up the form.
     *
     * @param session the window's state
     * @param picker asks for files
     * @param kept told which file a sheet was written to
     * @param ofCar told the name of the car a sheet was kept with
     */
    SheetPanel(Session session, FilePicker picker, Consumer<Path> kept, Consumer<String> ofCar) {
        super(10);
        this.session = session;
        this.picker = picker;
        this.kept = kept;
        this.ofCar = ofCar;
        setId("sheet-panel");
        getStyleClass().add("open-panel");
        Label title = new Label(say("sheet-panel.what-is-fitted"));
        title.getStyleClass().add("card-heading");
        Label hint = new Label(say("sheet-panel.leave-blank"));
        hint.setWrapText(true);
        hint.getStyleClass().add("small");
        // Because a form that is higher than the window would take the room from the words first.
        hint.setMinHeight(USE_PREF_SIZE);
        where.setMinHeight(USE_PREF_SIZE);
        ScrollPane scroll = new ScrollPane(form);
        scroll.setFitToWidth(true);
        scroll.setId("sheet-form");
        where.setId("sheet-problem");
        where.setWrapText(true);
        where.managedProperty().bind(where.textProperty().isNotEmpty());
        Button keep = MainWindow.button(say("sheet-panel.keep"), "sheet-keep", say("sheet-panel.keep-help"),
                this::keep);
        keep.getStyleClass().add("primary");
        Button write = MainWindow.button(say("sheet-panel.write"), "sheet-write", say("sheet-panel.write-help"),
                this::write);
        Button example = MainWindow.button(say("sheet-panel.example"), "sheet-example", say("sheet-panel.example-help"),
                () -> load(SheetDraft.of("example", DemoDrive.sheetJson()), file));
        Button close = new Button(say("sheet-panel.close"));
        close.setId("sheet-close");
        close.setOnAction(e -> show(false));
        HBox buttons = new HBox(8, keep, write, example, close);
        buttons.setAlignment(Pos.CENTER_LEFT);
        getChildren().addAll(title, hint, scroll, where, buttons);
        setOnKeyPressed(e -> {
            if (e.getCode() == KeyCode.ESCAPE) {
                show(false);
                e.consume();
            }
        });
        WeakListeners.attach(session.tubesProperty(), this, (o, was, is) -> is.ifPresent(this::tubesRead));
        show(false);
    }

    private void show(boolean now) {
        setVisible(now);
        setManaged(now);
    }

    /**
     * Opens the form.
     *
     * @param sheet sheet to change, or null to begin one
     */
    void open(Path sheet) {
        if (sheet == null && !begun) {
            load(SheetDraft.blank(), NEW);
        } else if (sheet != null) {
            try {
                String name = String.valueOf(sheet.getFileName());
                load(SheetDraft.of(name, Files.readString(sheet)), name);
            } catch (InputProblem e) {
                session.complain(e.text(WindowWords.wording()));
                return;
            } catch (java.io.IOException e) {
                session.complain(InputProblem.unreadable(sheet.toString(), e).text(WindowWords.wording()));
                return;
            }
        }
        show(true);
        inputs.values().iterator().next().requestFocus();
    }

    /** Opens the form with a sheet of the workbook. */
    void open(SheetText text) {
        load(SheetDraft.of(text.name(), text.json()), NEW);
        show(true);
        inputs.values().iterator().next().requestFocus();
    }

    /** Goes on where the form of another language was left. */
    void goOn(SheetPanel before) {
        if (before.draft != null) {
            load(before.draft, before.file);
        }
        begun = before.begun;
        show(before.isVisible());
    }

    private SheetDraft draft() {
        if (draft == null) {
            draft = SheetDraft.blank();
        }
        return draft;
    }

    private void load(SheetDraft d, String name) {
        draft = d;
        file = name;
        begun = false;
        where.setText("");
        lay();
    }

    /** Builds the form anew: another family has other parts. */
    private void lay() {
        inputs.clear();
        form.getChildren().clear();
        List<SheetDraft.Field> fields = draft().fields();
        section(say("sheet-panel.car"), fields.stream().filter(f -> f.path().startsWith("engine.") || f.path()
                .startsWith("ambient.") || "name".equals(f.path())).toList());
        section(say("sheet-panel.carburetor"), fields.stream().filter(f -> f.path().matches("carburetor\\.[a-zA-Z]+")
                || f.path().startsWith("carburetor.secondaryOpening.") || f.path().startsWith("carburetor.pump.")
                || f.path().startsWith("carburetor.choke."))
                .toList());
        sides(fields);
        section(say("sheet-panel.targets"), fields.stream().filter(f -> f.path().startsWith("targets.")).toList());
        remind();
    }

    private static GridPane grid(double... widths) {
        GridPane g = new GridPane(10, 6);
        for (double w : widths) {
            ColumnConstraints c = new ColumnConstraints();
            c.setPrefWidth(w);
            c.setHalignment(HPos.LEFT);
            g.getColumnConstraints().add(c);
        }
        return g;
    }

    private void section(String name, List<SheetDraft.Field> fields) {
        GridPane g = grid(186, FIELD_W + UNIT_W, 186, FIELD_W + UNIT_W);
        for (int i = 0; i < fields.size(); i++) {
            SheetDraft.Field f = fields.get(i);
            Node input = input(f);
            g.add(named(say(f.label()), f), 2 * (i % 2), i / 2);
            g.add(input, 2 * (i % 2) + 1, i / 2);
        }
        form.getChildren().addAll(heading(name), g);
    }

    /** One row a part, a column a side; a part that only one side has leaves its place empty. */
    private void sides(List<SheetDraft.Field> fields) {
        GridPane g = grid(300, FIELD_W + UNIT_W, FIELD_W + UNIT_W);
        List<Stage> stages = draft().stages();
        for (Stage stage : stages.size() > 1 ? stages : List.<Stage>of()) {
            g.add(heading(say(stage.label())), 1 + stage.ordinal(), 0);
        }
        Map<String, Integer> rows = new LinkedHashMap<>();
        for (SheetDraft.Field f : fields) {
            String[] steps = f.path().split("\\.", -1);
            Stage side = steps.length > 2 ? Stage.ofKey(steps[1]).orElse(null) : null;
            if (side == null) {
                continue;
            }
            String part = f.path().substring(steps[0].length() + steps[1].length() + 2);
            Integer known = rows.get(part);
            int row = known == null ? rows.size() + 1 : known;
            Node input = input(f);
            if (known == null) {
                rows.put(part, row);
                g.add(named(say(Assumption.part(f.path())), f), 0, row);
            }
            g.add(input, 1 + side.ordinal(), row, f.several() && stages.size() == 1 ? 2 : 1, 1);
        }
        form.getChildren().addAll(heading(say("sheet-panel.parts")), g);
    }

    private static Label heading(String s) {
        Label l = new Label(s);
        l.getStyleClass().add("card-subheading");
        return l;
    }

    private Label named(String s, SheetDraft.Field f) {
        Label l = new Label(s);
        l.setWrapText(true);
        l.setLabelFor(inputs.get(f.path()));
        return l;
    }

    private Node input(SheetDraft.Field f) {
        Control c = f.choices().isEmpty() ? text(f) : choice(f);
        c.setId(idOf(f));
        c.setAccessibleText(say(f.label()) + (f.unit().isEmpty() ? "" : ", " + f.unit()));
        c.setPrefWidth(f.several() && draft().stages().size() == 1 ? 2 * FIELD_W + UNIT_W
                : !f.standsFor().isEmpty() ? STAMP_W : f.choices().isEmpty() ? FIELD_W : FIELD_W + UNIT_W);
        inputs.put(f.path(), c);
        Label unit = new Label(f.unit());
        unit.getStyleClass().add("small");
        HBox box = new HBox(6, c, f.standsFor().isEmpty() ? unit : table(f));
        box.setAlignment(Pos.CENTER_LEFT);
        return box;
    }

    /** Where the user's own table of what is stamped is read. */
    private Button table(SheetDraft.Field f) {
        Button b = MainWindow.button(say("sheet-panel.tubes"), idOf(f) + "-table", say("sheet-panel.tubes-help"),
                () -> picker.pick(getScene().getWindow(), say("sheet-panel.tubes"), "*.csv").ifPresent(
                session::readTubes));
        b.setMinWidth(USE_PREF_SIZE);
        return b;
    }

    private static String idOf(SheetDraft.Field f) {
        return "sheet-" + f.path().replace("[]", "").replace('.', '-');
    }

    /** Fills in what stands in the form already, and says what there is to choose from. */
    private void tubesRead(TubeChart chart) {
        draft().fields().forEach(f -> fill(f, chart));
        String first = chart.tubes().stream().limit(MOST_NAMED).map(TubeChart.Tube::letter).collect(Collectors.joining(
                ", "));
        tell("small", say("sheet-panel.tubes-read", chart.tubes().size(), chart.tubes().size() > MOST_NAMED ? first
                + ", …" : first));
    }

    private void tell(String style, String text) {
        where.getStyleClass().setAll("label", style);
        where.setText(text);
    }

    /** The rows of holes that what is stamped stands for, where the user's table has it. */
    private void fill(SheetDraft.Field f, TubeChart chart) {
        if (!f.standsFor().isEmpty() && draft().fill(f, chart)) {
            inputs.forEach((path, c) -> {
                if (path.startsWith(f.standsFor() + "[].") && c instanceof TextField t) {
                    t.setText(draft().get(path));
                }
            });
            remind();
        }
    }

    private TextField text(SheetDraft.Field f) {
        TextField t = new TextField(draft().get(f.path()));
        t.textProperty().addListener((o, was, is) -> {
            where.setText("");
            draft().set(f.path(), is);
            begun = true;
            session.tubesProperty().get().ifPresent(chart -> fill(f, chart));
        });
        // The sheet says the unit, and so does the field: once written it is shown as it will be kept.
        t.focusedProperty().addListener((o, was, is) -> {
            if (!is) {
                t.setText(draft().get(f.path()));
                remind();
            }
        });
        t.setOnAction(e -> keep());
        return t;
    }

    /** What is chosen, or in grey what would be assumed: a box shows its prompt for no value, not for an empty one. */
    private static final class ChosenOrUsual extends ListCell<String> {
        private final ComboBox<String> box;

        ChosenOrUsual(ComboBox<String> box) {
            this.box = box;
            box.promptTextProperty().addListener((o, was, is) -> shown(getItem()));
        }

        @Override
        protected void updateItem(String item, boolean empty) {
            super.updateItem(item, empty);
            shown(item);
        }

        private void shown(@Nullable String item) {
            boolean chosen = item != null && !item.isEmpty();
            setText(chosen ? box.getConverter().toString(item) : box.getPromptText());
            pseudoClassStateChanged(USUAL, !chosen);
        }
    }

    private ComboBox<String> choice(SheetDraft.Field f) {
        ComboBox<String> box = new ComboBox<>(FXCollections.observableArrayList(f.choices()));
        if (!FAMILY.equals(f.path())) {
            box.getItems().addFirst("");
        }
        box.setConverter(new StringConverter<>() {
            @Override
            public String toString(String key) {
                return key == null || key.isEmpty() ? "" : f.choices().contains(key) ? say("choice." + key) : key;
            }

            @Override
            public String fromString(String text) {
                return text;
            }
        });
        box.setButtonCell(new ChosenOrUsual(box));
        box.setValue(draft().get(f.path()));
        box.valueProperty().addListener((o, was, is) -> {
            where.setText("");
            draft().set(f.path(), is);
            begun = true;
            if (FAMILY.equals(f.path())) {
                lay();
                inputs.get(FAMILY).requestFocus();
            } else {
                remind();
            }
        });
        return box;
    }

    /** Shows in grey what would be assumed where nothing stands. */
    private void remind() {
        Map<String, String> assumed = new HashMap<>(draft().assumed());
        assumed.put("targets.from", Targets.USUAL);
        Strategy.named(draft().get("targets.from")).orElse(Strategy.BALANCED).anchors(!"centrifugal".equals(draft().get(
                "engine.advance"))).forEach((k, v) -> assumed.put("targets." + k, Quantity.trim(v, 2) + " lambda"));
        inputs.forEach((path, c) -> {
            // A rear valve is the exception: nothing there means none.
            String usual = NEEDED.contains(path) ? say("sheet-panel.needed") : assumed.getOrDefault(path, path.equals(
                    "carburetor.secondary.powerValve") ? "plugged" : "");
            if (c instanceof TextField t) {
                t.setPromptText(usual);
            } else if (c instanceof ComboBox<?> b) {
                b.setPromptText(usual.isEmpty() ? "" : say("choice." + usual));
            }
        });
    }

    /** Keeps the sheet with its car in the workbook. */
    private void keep() {
        if (!session.garage().keeps()) {
            write();
        } else if (makesSense()) {
            session.garage().keepSheet(draft().json());
            begun = false;
            show(false);
            ofCar.accept(draft().get("name"));
        }
    }

    /** Whether it can be read; says where it cannot. */
    private boolean makesSense() {
        String json = draft().json();
        try {
            BuildSheetReader.parse(say("sheet-panel.the-sheet"), json);
        } catch (InputProblem e) {
            Control c = inputs.get(e.field());
            String name = c == null ? e.field() : say(Assumption.label(e.field()));
            tell("caution", say("sheet-panel.not-yet", name, e.found(), e.wanted()));
            if (c != null) {
                c.requestFocus();
            }
            return false;
        }
        return true;
    }

    /** Writes the sheet as a file. */
    private void write() {
        if (!makesSense()) {
            return;
        }
        String json = draft().json();
        picker.place(getScene().getWindow(), say("sheet-panel.build-sheet"), file).ifPresent(p -> {
            // The form stays until the sheet is written: where that fails, nothing that was typed is gone.
            session.garage().write(p, out -> out.write(json.getBytes(StandardCharsets.UTF_8)), () -> {
                begun = false;
                show(false);
                kept.accept(p);
            });
        });
    }
}
