package nariz.app.view;

import static nariz.app.words.WindowWords.say;

import java.util.List;
import javafx.geometry.Bounds;
import javafx.geometry.Point2D;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Pane;
import javafx.scene.layout.VBox;
import javafx.scene.shape.Rectangle;

/** Five things to look at first, each framed where it stands. Shown once by itself, afterwards only when asked for. */
final class Tour extends Pane {
    private static final double WIDE = 330;
    private static final double GAP = 10;

    private final List<Step> steps = List.of(new Step("path", "circuit-path"), new Step("verdict", "verdict-panel"),
            new Step("pictures", "pictures"), new Step("card", "work-column"), new Step("log", "scrubber"));
    private final Parent page;
    private final Runnable left;
    private final Rectangle frame = new Rectangle();
    private final Label text = new Label();
    private final Label count = new Label();
    private final Button next;
    private final VBox box;
    private int at;

    /** A step: its words and the node it is about. */
    private record Step(String words, String node) {
    }

    /**
     * Sets up the tour, hidden.
     *
     * @param page where the nodes are
     * @param left runs once it is over
     */
    Tour(Parent page, Runnable left) {
        this.page = page;
        this.left = left;
        setId("tour");
        setPickOnBounds(false);
        frame.getStyleClass().add("tour-frame");
        frame.setMouseTransparent(true);
        text.setWrapText(true);
        text.setId("tour-text");
        count.getStyleClass().add("small");
        next = MainWindow.button(say("tour.next"), "tour-next", say("tour.next"), this::next);
        next.getStyleClass().add("primary");
        Button skip = MainWindow.button(say("tour.skip"), "tour-skip", say("tour.skip-help"), this::end);
        HBox buttons = new HBox(8, next, skip, count);
        buttons.setAlignment(javafx.geometry.Pos.CENTER_LEFT);
        box = new VBox(8, text, buttons);
        box.getStyleClass().add("open-panel");
        box.setPrefWidth(WIDE);
        box.setMaxWidth(WIDE);
        getChildren().addAll(frame, box);
        setOnKeyPressed(e -> {
            if (e.getCode() == KeyCode.ESCAPE) {
                end();
                e.consume();
            }
        });
        setVisible(false);
    }

    /** Begins at the first step. */
    void start() {
        at = 0;
        setVisible(true);
        show();
        next.requestFocus();
    }

    private void next() {
        if (++at < steps.size()) {
            show();
        } else {
            end();
        }
    }

    private void end() {
        setVisible(false);
        left.run();
    }

    private void show() {
        text.setText(say("tour." + steps.get(at).words()));
        count.setText(say("tour.count", at + 1, steps.size()));
        next.setText(say(at + 1 < steps.size() ? "tour.next" : "tour.done"));
        next.setAccessibleText(next.getText());
        requestLayout();
    }

    @Override
    protected void layoutChildren() {
        Node n = page.lookup("#" + steps.get(Math.min(at, steps.size() - 1)).node());
        if (!isVisible() || n == null) {
            return;
        }
        Bounds scene = n.localToScene(n.getLayoutBounds());
        Point2D a = sceneToLocal(scene.getMinX(), scene.getMinY());
        Point2D b = sceneToLocal(scene.getMaxX(), scene.getMaxY());
        frame.setX(a.getX() - 3);
        frame.setY(a.getY() - 3);
        frame.setWidth(b.getX() - a.getX() + 6);
        frame.setHeight(b.getY() - a.getY() + 6);
        double high = box.prefHeight(WIDE);
        // Where there is room: below, above, to the left, or over its lower end.
        double y = b.getY() + GAP + high < getHeight() ? b.getY() + GAP : a.getY() - GAP - high > 0 ? a.getY() - GAP
                - high : b.getY() - high - 2 * GAP;
        double x = y > b.getY() - high - 3 * GAP && y < b.getY() && a.getX() > WIDE ? a.getX() - GAP - WIDE
                : Math.clamp(a.getX(), GAP, Math.max(GAP, getWidth() - WIDE - GAP));
        box.resizeRelocate(x, Math.max(GAP, y), WIDE, high);
    }
}
