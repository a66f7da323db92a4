package nariz.app.view;

import javafx.scene.Node;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.ComboBoxBase;
import javafx.scene.control.ListView;
import javafx.scene.control.Spinner;
import javafx.scene.control.TextInputControl;
import javafx.scene.input.Clipboard;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import nariz.app.state.Session;

/** What keys do wherever the focus is, except where a letter belongs to the control that has it. */
final class Shortcuts {
    private final MainWindow window;
    private final Session session;
    private final Choice picture;
    private final Choice side;
    private final Node find;
    /** Set while the letter that led into a text field would be typed into it. */
    private boolean swallow;

    /**
     * Listens to a window.
     *
     * @param window the window
     * @param session its state
     * @param picture which picture is shown
     * @param side which side panel is shown
     * @param find the field that finds things
     */
    Shortcuts(MainWindow window, Session session, Choice picture, Choice side, Node find) {
        this.window = window;
        this.session = session;
        this.picture = picture;
        this.side = side;
        this.find = find;
        window.addEventFilter(KeyEvent.KEY_PRESSED, this::pressed);
        window.addEventFilter(KeyEvent.KEY_TYPED, e -> {
            if (swallow) {
                e.consume();
            }
        });
        window.addEventFilter(KeyEvent.KEY_RELEASED, e -> swallow = false);
    }

    /** What every platform does with these keys. */
    private void withShortcut(KeyEvent e) {
        if (e.getCode() == KeyCode.Y || (e.getCode() == KeyCode.Z && e.isShiftDown())) {
            session.redo();
        } else if (e.getCode() == KeyCode.Z) {
            session.undo();
        } else if (e.getCode() == KeyCode.O) {
            window.showOpen(true);
        } else if (e.getCode() == KeyCode.PLUS || e.getCode() == KeyCode.EQUALS || e.getCode() == KeyCode.ADD) {
            window.largerText(1);
        } else if (e.getCode() == KeyCode.MINUS || e.getCode() == KeyCode.SUBTRACT) {
            window.largerText(-1);
        } else if (e.getCode() == KeyCode.P) {
            ((WorkCardPanel) window.lookup("#work-card")).print();
        } else if (e.getCode() == KeyCode.V) {
            window.paste(Clipboard.getSystemClipboard().getString());
        } else {
            return;
        }
        e.consume();
    }

    /** Single letters, but not while typing a file name. */
    private void pressed(KeyEvent e) {
        boolean typing = takesLetters(e.getTarget());
        if (!typing && e.isShortcutDown()) {
            withShortcut(e);
            return;
        }
        if (typing && e.getCode() == KeyCode.ESCAPE) {
            window.lookup("#scrubber").requestFocus();
            return;
        }
        if (typing || e.isAltDown()) {
            return;
        }
        if (e.getCode() == KeyCode.O) {
            window.showOpen(true);
        } else if (e.getCode() == KeyCode.D) {
            session.openDemo();
        } else if (e.getCode() == KeyCode.U) {
            window.otherUnit();
        } else if (e.getCode() == KeyCode.F) {
            enter(find);
        } else if (e.getCode() == KeyCode.V) {
            picture.next();
        } else if (e.getCode() == KeyCode.K) {
            side.next();
        } else if (e.getCode() == KeyCode.M) {
            enter(window.lookup("#note"));
        } else if (e.getCode() == KeyCode.T) {
            window.otherColours();
        } else if (e.getCode().isDigitKey() && e.getCode() != KeyCode.DIGIT0) {
            int i = e.getCode().getCode() - KeyCode.DIGIT1.getCode();
            if (i >= 0 && i < window.stops().size() && session.driveProperty().get() != null) {
                session.goTo(window.stops().get(i));
            }
        } else {
            return;
        }
        e.consume();
    }

    /** Whether a letter belongs to the control that has the focus: one that is typed into, or any of a form. */
    private boolean takesLetters(Object target) {
        for (Node n = target instanceof Node at ? at : null; n != null; n = n.getParent()) {
            if (n instanceof TextInputControl || n instanceof ComboBoxBase<?> || n instanceof ChoiceBox<?>
                    || n instanceof Spinner<?> || n instanceof ListView<?> || n instanceof SheetPanel
                    || n instanceof ColumnsPanel) {
                return true;
            }
        }
        return false;
    }

    private void enter(Node field) {
        swallow = true;
        field.requestFocus();
    }
}
