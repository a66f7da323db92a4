package nariz.app;

import javafx.application.Application;

/** Renders every main view from the demo drive at 1280x800 into a folder; the same bytes every time. */
public final class Shots {
    private Shots() {
    }

    /**
     * Renders.
     *
     * @param args folder to write to
     */
    public static void main(String[] args) {
        Application.launch(ShotsApplication.class, args);
    }
}
