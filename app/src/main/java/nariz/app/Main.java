package nariz.app;

import java.util.Arrays;
import javafx.application.Application;

/** Starts the window. Does not extend Application, so that it starts from a plain class path. */
public final class Main {
    private Main() {
    }

    /**
     * Starts the window.
     *
     * @param args {@code --demo [NAME]}, or {@code --build FILE --log FILE}, or none
     */
    public static void main(String[] args) {
        boolean linux = System.getProperty("os.name", "").startsWith("Linux");
        boolean headless = "Headless".equals(System.getProperty("glass.platform"));
        if (linux && !headless && System.getenv("DISPLAY") == null && System.getenv("WAYLAND_DISPLAY") == null) {
            System.err.println("No display here: \"mvn -Pshots\" draws every view into docs/screenshots, \"./nariz "
                    + "analyze\" answers on the command line; on another machine the same command opens the window.");
            return;
        }
        Application.launch(NarizApplication.class, Arrays.copyOf(args, args.length));
    }
}
