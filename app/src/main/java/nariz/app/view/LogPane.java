package nariz.app.view;

import static nariz.app.words.WindowWords.say;

import javafx.beans.property.BooleanProperty;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import nariz.app.chart.Scrubber;
import nariz.app.state.Session;

/**
 * The log, always there: a ribbon, or high where one works on it; over it what is odd, and what to do with a stretch.
 */
final class LogPane extends VBox {
    private static final double LOW = 84;
    private static final double HIGH = 190;

    private final Scrubber scrubber;
    private final BooleanProperty high = new SimpleBooleanProperty();

    LogPane(Session session) {
        super(4);
        scrubber = new Scrubber(session);
        scrubber.setId("scrubber");
        LogBar bar = new LogBar(session, high);
        getChildren().addAll(bar, scrubber);
        setMinHeight(Region.USE_PREF_SIZE);
        high.addListener((o, was, is) -> arrange());
        setAccessibleText(say("log-pane.log"));
        arrange();
    }

    private void arrange() {
        double h = high.get() ? HIGH : LOW;
        scrubber.setMinHeight(h);
        scrubber.setPrefHeight(h);
        scrubber.setMaxHeight(h);
    }

    /** {@return whether the log is drawn high} */
    BooleanProperty highProperty() {
        return high;
    }

    Scrubber scrubber() {
        return scrubber;
    }
}
