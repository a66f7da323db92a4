package nariz.app;

import javafx.application.Application;

/**
 * Frame times of the trace ({@link FramesApplication}), or how soon a part that is dragged is seen
 * ({@link PartsApplication}) or a reading of a device ({@link LiveFramesApplication}). Does not extend Application, so
 * that it starts plainly.
 */
public final class Frames {
    private Frames() {
    }

    /**
     * Measures and prints.
     *
     * @param args number of samples, {@code parts}, or {@code live} with or without a number of hours
     */
    public static void main(String[] args) {
        Application.launch(args[0].equals("parts") ? PartsApplication.class : args[0].equals("live")
                ? LiveFramesApplication.class : FramesApplication.class, args);
    }
}
