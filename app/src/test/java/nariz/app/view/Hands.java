package nariz.app.view;

import java.lang.reflect.Method;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.BooleanSupplier;
import java.util.function.Supplier;
import javafx.application.Platform;
import javafx.geometry.Bounds;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.control.Label;
import javafx.scene.control.MenuBar;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import javafx.scene.robot.Robot;
import javafx.stage.Stage;

/**
 * Mouse and keys for window tests. On a real display the toolkit's robot moves them. The headless platform's robot
 * sends wrong modifier bits, so that drags do not drag; there mouse events go in where the platform would deliver them.
 */
final class Hands {
    private static final boolean HEADLESS = "Headless".equals(System.getProperty("glass.platform"));
    private static final int DOWN = 221;
    private static final int UP = 222;
    private static final int DRAG = 223;
    private static final int MOVE = 224;
    private static final int BUTTON_NONE = 211;
    private static final int BUTTON_LEFT = 212;
    private static final int MODIFIER_LEFT = 1 << 5;

    private final Stage stage;
    private Robot robot;

    Hands(Stage stage) {
        this.stage = stage;
    }

    static <T> T onInterface(Supplier<T> s) {
        AtomicReference<T> result = new AtomicReference<>();
        AtomicReference<Throwable> thrown = new AtomicReference<>();
        CountDownLatch done = new CountDownLatch(1);
        Platform.runLater(() -> {
            try {
                result.set(s.get());
            } catch (RuntimeException | Error t) {
                thrown.set(t);
            } finally {
                done.countDown();
            }
        });
        try {
            if (!done.await(30, TimeUnit.SECONDS)) {
                throw new AssertionError("the interface thread did not answer within 30 s");
            }
        } catch (InterruptedException e) {
            throw new AssertionError(e);
        }
        if (thrown.get() != null) {
            throw new AssertionError(thrown.get());
        }
        return result.get();
    }

    static void run(Runnable r) {
        onInterface(() -> {
            r.run();
            return null;
        });
    }

    static void waitFor(String what, BooleanSupplier condition) {
        long end = System.nanoTime() + TimeUnit.SECONDS.toNanos(60);
        while (!onInterface(condition::getAsBoolean)) {
            if (System.nanoTime() > end) {
                throw new AssertionError("waited a minute for " + what);
            }
            pause();
        }
    }

    private static void pause() {
        try {
            // On a display events come through the server; headless they are there at once.
            Thread.sleep(HEADLESS ? 30 : 90);
        } catch (InterruptedException e) {
            throw new AssertionError(e);
        }
    }

    Node node(String id) {
        return onInterface(() -> stage.getScene().lookup("#" + id));
    }

    void click(String id) {
        Node n = node(id);
        if (n == null) {
            throw new AssertionError("no node " + id);
        }
        click(id, 0.5, 0.5);
    }

    /** Begins a build sheet, or goes on with one, by the button that is there: another where no car is kept yet. */
    void openSheet() {
        settle();
        click(node("sheet-start").isVisible() ? "sheet-start" : "garage-first");
    }

    /** Chooses from the menus by the name of the action. */
    void choose(String action) {
        settle();
        run(() -> ((MenuBar) stage.getScene().lookup("#menus")).getMenus().stream().flatMap(m -> m.getItems().stream())
                .filter(i -> ("menu-" + action).equals(i.getId())).findFirst().orElseThrow(() -> new AssertionError(
                        "no menu item " + action)).fire());
        settle();
    }

    /** Clicks at a share of a node's width and height. */
    void click(String id, double x, double y) {
        settle();
        double[] p = place(id, x, y);
        mouse(MOVE, p);
        mouse(DOWN, p);
        mouse(UP, p);
        settle();
    }

    /** Moves the pointer to a share of a node's width and height. */
    void hover(String id, double x, double y) {
        mouse(MOVE, place(id, x, y));
        settle();
    }

    void drag(String id, double x0, double y0, double x1, double y1) {
        mouse(MOVE, place(id, x0, y0));
        mouse(DOWN, place(id, x0, y0));
        for (int i = 1; i <= 8; i++) {
            mouse(DRAG, place(id, x0 + (x1 - x0) * i / 8, y0 + (y1 - y0) * i / 8));
        }
        mouse(UP, place(id, x1, y1));
        settle();
    }

    /** In scene coordinates. */
    private double[] place(String id, double x, double y) {
        return onInterface(() -> {
            Node n = stage.getScene().lookup("#" + id);
            Bounds b = n.localToScene(n.getBoundsInLocal());
            return new double[] {b.getMinX() + x * b.getWidth(), b.getMinY() + y * b.getHeight()};
        });
    }

    private void mouse(int type, double[] p) {
        run(() -> {
            if (HEADLESS) {
                inject(type, (int) p[0], (int) p[1]);
            } else {
                move(type, p);
            }
        });
        pause();
    }

    private void move(int type, double[] p) {
        if (robot == null) {
            robot = new Robot();
        }
        robot.mouseMove(stage.getX() + stage.getScene().getX() + p[0], stage.getY() + stage.getScene().getY() + p[1]);
        if (type == DOWN) {
            robot.mousePress(MouseButton.PRIMARY);
        } else if (type == UP) {
            robot.mouseRelease(MouseButton.PRIMARY);
        }
    }

    /** com.sun.glass.ui.View.notifyMouse: where the platform hands a mouse event to the toolkit. */
    private void inject(int type, int x, int y) {
        try {
            Class<?> windows = Class.forName("com.sun.glass.ui.Window");
            Object window = ((java.util.List<?>) windows.getMethod("getWindows").invoke(null)).getFirst();
            Object view = windows.getMethod("getView").invoke(window);
            Method notify = Class.forName("com.sun.glass.ui.View").getDeclaredMethod("notifyMouse", int.class,
                    int.class, int.class, int.class, int.class, int.class, int.class, boolean.class, boolean.class);
            notify.setAccessible(true);
            boolean held = type == DOWN || type == DRAG;
            notify.invoke(view, type, type == MOVE ? BUTTON_NONE : BUTTON_LEFT, x, y, x, y,
                    held ? MODIFIER_LEFT : 0, false, false);
        } catch (ReflectiveOperationException e) {
            throw new LinkageError("the toolkit's inner door has moved", e);
        }
    }

    void press(KeyCode code) {
        run(() -> {
            if (robot == null) {
                robot = new Robot();
            }
            robot.keyPress(code);
            robot.keyRelease(code);
        });
        settle();
    }

    /** Lets two pulses and everything they post pass. */
    static void settle() {
        for (int i = 0; i < 3; i++) {
            pause();
            run(() -> { });
        }
    }

    /** {@return all labels of a part of the window, a line each} */
    static String text(Node n) {
        StringBuilder s = new StringBuilder();
        if (n instanceof Label l) {
            s.append(l.getText()).append('\n');
        }
        if (n instanceof Parent p) {
            p.getChildrenUnmodifiable().forEach(c -> s.append(text(c)));
        }
        return s.toString();
    }
}
