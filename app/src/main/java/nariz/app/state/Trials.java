package nariz.app.state;

import static nariz.app.words.WindowWords.say;

import java.util.List;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import nariz.carburetor.PartChange;

/** Parts tried on the open drive, and what they or the advised ones would do. Called on the interface thread. */
public final class Trials {
    private final SessionContext context;
    private final ReadOnlyObjectWrapper<Effect> effect = new ReadOnlyObjectWrapper<>();
    private final ReadOnlyObjectWrapper<List<PartChange>> tried = new ReadOnlyObjectWrapper<>(List.of());

    Trials(SessionContext context) {
        this.context = context;
    }

    /** Shows what is advised for a drive; null without one. */
    void reset(Drive d) {
        context.trial.cancel();
        tried.set(List.of());
        effect.set(d == null ? null : d.advised());
    }

    /**
     * Tries parts on this drive: pictures follow as soon as their effect is known, a later trial overtakes an earlier
     * one.
     *
     * @param changes parts in other sizes; none shows the advised ones again
     */
    public void tryParts(List<PartChange> changes) {
        Drive d = context.drive.get();
        if (d == null || !d.analysis().estimated()) {
            return;
        }
        tried.set(List.copyOf(changes));
        if (changes.isEmpty()) {
            context.trial.cancel();
            effect.set(d.advised());
            return;
        }
        context.trial.start(cancelled -> Effect.tried(d.analysis(), changes), e -> {
            // The same drive told in other words is still the same drive.
            if (context.drive.get() != null && d.analysis() == context.drive.get().analysis()) {
                effect.set(e);
            }
        }, context::fail);
    }

    /**
     * Makes a step that undo takes back of a trial, once the hand has let go.
     *
     * @param before parts tried before it
     */
    public void triedFrom(List<PartChange> before) {
        List<PartChange> now = tried.get();
        if (!now.equals(before)) {
            context.history.record(say("session.parts-tried"), true, () -> tryParts(before), () -> tryParts(now));
        }
    }

    /** {@return parts being tried, empty when the advised ones are shown} */
    public ReadOnlyObjectProperty<List<PartChange>> triedProperty() {
        return tried.getReadOnlyProperty();
    }

    /** {@return what the pictures draw over today: the parts tried, or those advised; null without a drive} */
    public ReadOnlyObjectProperty<Effect> effectProperty() {
        return effect.getReadOnlyProperty();
    }
}
