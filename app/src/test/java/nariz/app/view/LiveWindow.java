package nariz.app.view;

import javafx.scene.control.Label;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;

/** A fresh window whose practice engines run many times as fast as real ones. */
abstract class LiveWindow extends FreshWindow {
    private static final String PACE = "nariz.practice.pace";

    /** How many seconds of an engine pass in one. */
    abstract int pace();

    @BeforeClass
    void hurry() {
        System.setProperty(PACE, String.valueOf(pace()));
    }

    @AfterClass
    void calm() {
        System.clearProperty(PACE);
    }

    @Override
    String settings() {
        return "toured = true\n";
    }

    /** What a label says, from any thread. */
    final String text(String id) {
        return Hands.onInterface(() -> said(id));
    }

    /** The same on the interface thread. */
    final String said(String id) {
        return ((Label) window.lookup("#" + id)).getText();
    }

    /** Goes beside the running engine. */
    final void beside() {
        Hands.run(() -> window.showOpen(true));
        Hands.settle();
        hands.click("open-live");
        Hands.settle();
    }
}
