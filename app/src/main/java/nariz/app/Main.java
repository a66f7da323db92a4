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
     * @param args {@code --demo}, or {@code --build FILE --log FILE}, or none
     */
    public static void main(String[] args) {
        boolean linux = System.getProperty("os.name", "").startsWith("Linux");
        boolean headless = "Headless".equals(System.getProperty("glass.platform"));
        if (linux && !headless && System.getenv("DISPLAY") == null && System.getenv("WAYLAND_DISPLAY") == null) {
            System.err.println("No display here: run \"xvfb-run -a mvn\" with a viewer, or \"mvn -Pshots\" for pictures "
                    + "in docs/screenshots, or \"./nariz analyze\" on the command line.");
            System.exit(1);
        }
        Application.launch(NarizApplication.class, Arrays.copyOf(args, args.length));
    }
}
