package nariz.app;

import javafx.application.Application;

/** Frame times of the trace; see {@link FramesApplication}. Does not extend Application, so that it starts plainly. */
public final class Frames {
    private Frames() {
    }

    /**
     * Measures and prints.
     *
     * @param args number of samples
     */
    public static void main(String[] args) {
        Application.launch(FramesApplication.class, args);
    }
}
