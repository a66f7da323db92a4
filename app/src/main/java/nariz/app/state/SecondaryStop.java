package nariz.app.state;

import static nariz.app.words.WindowWords.say;

import java.util.List;
import nariz.carburetor.Circuit;
import nariz.carburetor.Stage;

/** The second stage, all its circuits. */
final class SecondaryStop extends CircuitStop {
    SecondaryStop() {
        super("secondary", Stage.SECONDARY, Circuit.Role.METERING);
    }

    @Override
    public boolean holds(Circuit c) {
        return c.stage() == Stage.SECONDARY;
    }

    @Override
    public List<Seen> seen(Drive d) {
        return List.of(new Seen(say("work-card-panel.second-seen"), d.analysis().advice().dynamics().ofSecondStage()),
                pulls(d));
    }

    /** Trends in the pulls: shown at the last stage there is. */
    static Seen pulls(Drive d) {
        return new Seen(say("work-card-panel.pulls-seen"), d.analysis().advice().dynamics().ofPulls());
    }
}
