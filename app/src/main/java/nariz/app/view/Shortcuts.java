package nariz.app.view;

import javafx.scene.Node;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.ComboBoxBase;
import javafx.scene.control.ListView;
import javafx.scene.control.Spinner;
import javafx.scene.control.TextInputControl;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;

/** Sends keys to actions wherever the focus is, except where a letter belongs to the control that has it. */
final class Shortcuts {
    private final MainWindow window;
    private final Actions actions;
    /** Set while the letter that led into a text field would be typed into it. */
    private boolean swallow;

    Shortcuts(MainWindow window, Actions actions) {
        this.window = window;
        this.actions = actions;
        window.addEventFilter(KeyEvent.KEY_PRESSED, this::pressed);
        window.addEventFilter(KeyEvent.KEY_TYPED, e -> {
            if (swallow) {
                e.consume();
            }
        });
        window.addEventFilter(KeyEvent.KEY_RELEASED, e -> swallow = false);
    }

    private void pressed(KeyEvent e) {
        boolean typing = takesLetters(e.getTarget());
        if (typing && e.getCode() == KeyCode.ESCAPE) {
            window.lookup("#scrubber").requestFocus();
        } else if (!typing && !e.isAltDown()) {
            // Before it runs: what it does may lead into a text field, where the letter would be typed.
            swallow = true;
            if (actions.run(e)) {
                e.consume();
            } else {
                swallow = false;
            }
        }
    }

    /** Whether a letter belongs to the control that has the focus: one that is typed into, or any of a form. */
    private static boolean takesLetters(Object target) {
        for (Node n = target instanceof Node at ? at : null; n != null; n = n.getParent()) {
            if (n instanceof TextInputControl || n instanceof ComboBoxBase<?> || n instanceof ChoiceBox<?>
                    || n instanceof Spinner<?> || n instanceof ListView<?> || n instanceof SheetPanel
                    || n instanceof ColumnsPanel) {
                return true;
            }
        }
        return false;
    }

    /** Into a text field by a letter that is not to be typed there. */
    void enter(Node field) {
        swallow = true;
        field.requestFocus();
    }
}
