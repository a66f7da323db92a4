package nariz.app.view;

import static nariz.app.words.WindowWords.say;

import java.util.ArrayList;
import java.util.List;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.scene.text.Text;
import javafx.scene.text.TextFlow;
import nariz.app.words.WindowWords;

/** The guide inside the program: sections, a field that finds words in them, and what the program is made of. */
final class GuidePanel extends VBox {
    /** The section that is no part of the guide: version and licences. */
    static final String ABOUT = "about";
    private static final double HEIGHT = 560;

    private final List<Guide.Section> all = new ArrayList<>();
    private final ListView<Guide.Section> list = new ListView<>();
    private final VBox page = new VBox(9);
    private final ScrollPane scroll = new ScrollPane(page);
    private final TextField search = new TextField();
    private final Runnable left;

    /**
     * Sets up the panel, hidden.
     *
     * @param left runs once it is closed
     */
    GuidePanel(Runnable left) {
        super(8);
        this.left = left;
        setId("guide");
        getStyleClass().add("open-panel");
        all.addAll(Guide.of(WindowWords.wording().language()).sections());
        all.add(about());
        search.setId("guide-search");
        search.setPromptText(say("guide.search"));
        search.setAccessibleText(say("guide.search"));
        search.textProperty().addListener((o, was, is) -> filter());
        Button close = MainWindow.button(say("open-panel.close"), "guide-close", say("open-panel.close"),
                () -> show(false));
        Region space = new Region();
        HBox.setHgrow(space, Priority.ALWAYS);
        Label title = new Label(say("guide.title"));
        title.getStyleClass().add("card-heading");
        list.setId("guide-sections");
        list.setAccessibleText(say("guide.sections"));
        list.setPrefWidth(230);
        list.setMinWidth(230);
        list.setFixedCellSize(36);
        list.setCellFactory(v -> new ListCell<>() {
            @Override
            protected void updateItem(Guide.Section s, boolean empty) {
                super.updateItem(s, empty);
                setText(empty || s == null ? null : s.title());
            }
        });
        list.getSelectionModel().selectedItemProperty().addListener((o, was, is) -> lay(is));
        scroll.setFitToWidth(true);
        scroll.setId("guide-page");
        scroll.getStyleClass().add("work-card");
        page.getStyleClass().add("work-card-content");
        HBox.setHgrow(scroll, Priority.ALWAYS);
        HBox both = new HBox(10, list, scroll);
        both.setPrefHeight(HEIGHT);
        VBox.setVgrow(both, Priority.ALWAYS);
        getChildren().addAll(new HBox(10, title, space, search, close), both);
        setOnKeyPressed(e -> {
            if (e.getCode() == KeyCode.ESCAPE) {
                show(false);
                e.consume();
            }
        });
        filter();
        show(false);
    }

    private static Guide.Section about() {
        List<String> lines = new ArrayList<>();
        lines.add(say("guide.about", System.getProperty("java.version"), System.getProperty("javafx.version", "")));
        lines.add(say("guide.about-cautions"));
        for (String row : Guide.read("/nariz/app/guide/THIRD-PARTY.md").split("\n")) {
            if (row.startsWith("| ") && !row.startsWith("| what") && !row.startsWith("| library")) {
                String[] cells = row.substring(1).replace("`", "").split("\\|");
                lines.add("* **" + cells[0].strip() + "**: " + cells[1].strip() + (cells.length > 2 ? "; "
                        + cells[2].strip() : ""));
            }
        }
        return new Guide.Section(ABOUT, say("guide.about-title"), lines);
    }

    private void filter() {
        String words = search.getText() == null ? "" : search.getText();
        Guide.Section chosen = list.getSelectionModel().getSelectedItem();
        list.getItems().setAll(words.isBlank() ? all : all.stream().filter(s -> s.holds(words)).toList());
        if (chosen != null && list.getItems().contains(chosen)) {
            list.getSelectionModel().select(chosen);
        } else {
            list.getSelectionModel().selectFirst();
        }
        lay(list.getSelectionModel().getSelectedItem());
    }

    private void lay(Guide.Section s) {
        page.getChildren().clear();
        scroll.setVvalue(0);
        if (s == null) {
            Label none = new Label(say("guide.none"));
            none.setWrapText(true);
            page.getChildren().add(none);
            return;
        }
        Label title = new Label(s.title());
        title.getStyleClass().add("verdict-sentence");
        title.setWrapText(true);
        page.getChildren().add(title);
        for (String p : s.paragraphs()) {
            TextFlow flow = new TextFlow();
            for (Guide.Run r : Guide.runs(p)) {
                Text t = new Text(r.text());
                t.getStyleClass().add(r.strong() ? "guide-strong" : "guide-text");
                flow.getChildren().add(t);
            }
            page.getChildren().add(flow);
        }
    }

    /**
     * Opens at a section.
     *
     * @param section name in the program
     */
    void open(String section) {
        search.clear();
        all.stream().filter(s -> s.id().equals(section)).findFirst().ifPresent(s -> {
            list.getSelectionModel().select(s);
            list.scrollTo(Math.max(0, all.indexOf(s) - 3));
        });
        show(true);
        list.requestFocus();
    }

    private void show(boolean on) {
        boolean was = isVisible();
        setVisible(on);
        setManaged(on);
        if (was && !on) {
            left.run();
        }
    }
}
