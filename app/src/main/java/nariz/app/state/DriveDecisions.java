package nariz.app.state;

import static nariz.app.words.WindowWords.say;

import java.util.function.Consumer;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import nariz.log.Span;

/**
 * What the user decided about the open drive: causes looked for and not found, stretches that do not count. A decision
 * is written first and shown at once; the analysis is a function of it and follows, and a later decision overtakes one
 * that is still being weighed. Called on the interface thread.
 */
public final class DriveDecisions {
    private final SessionContext context;
    /** Shows the open drive as it was weighed anew. */
    private final Consumer<Drive> show;
    /** Something else that was being weighed is overtaken. */
    private final Runnable overtakes;
    private final ReadOnlyObjectWrapper<Decisions> value = new ReadOnlyObjectWrapper<>(Decisions.NONE);
    /** Whether what is being worked on is the open drive weighed anew, which undo may overtake. */
    private boolean weighing;

    DriveDecisions(SessionContext context, Consumer<Drive> show, Runnable overtakes) {
        this.context = context;
        this.show = show;
        this.overtakes = overtakes;
    }

    /** Another drive is open, with what was decided about it; or none. */
    void reset(Decisions kept) {
        value.set(kept);
    }

    /** Something else is being worked on. */
    void left() {
        weighing = false;
    }

    /** Whether the open drive is being weighed anew. */
    boolean weighing() {
        return weighing;
    }

    /** Goes back to what the shown analysis was made for. */
    void cancel() {
        apply(context.drive.get().decisions());
    }

    /** {@return what the user decided about the open drive; the analysis may be a moment behind} */
    public ReadOnlyObjectProperty<Decisions> valueProperty() {
        return value.getReadOnlyProperty();
    }

    /**
     * Takes note that the tuner has looked for a cause and not found it, or takes that back, and weighs again.
     *
     * @param cause key as in an advice's hypotheses
     * @param soundNow whether it was looked for and not found
     */
    public void checked(String cause, boolean soundNow) {
        if (context.drive.get() != null && value.get().checked().contains(cause) != soundNow) {
            decide(say(soundNow ? "session.looked-for" : "session.weighed-again", causeLabel(cause)),
                    value.get().check(cause, soundNow));
        }
    }

    /** Takes a stretch out of the computation. */
    void exclude(Span stretch) {
        decide(say("session.stretch-taken-out"), value.get().without(stretch));
    }

    /** Lets the stretch that holds a moment count again; nothing where none was taken out. */
    void restore(double timeS) {
        Decisions left = value.get().with(timeS);
        if (!left.equals(value.get())) {
            decide(say("session.stretch-counts-again"), left);
        }
    }

    /**
     * A cause as a person would say it.
     *
     * @param cause key as in an advice's hypotheses
     * @return its name
     */
    public static String causeLabel(String cause) {
        return say("cause." + cause);
    }

    private void decide(String title, Decisions next) {
        Decisions was = value.get();
        context.history.record(title, true, () -> apply(was), () -> apply(next));
        apply(next);
    }

    /** Shown at once and written first; the analysis of the latest decisions follows. */
    private void apply(Decisions now) {
        Drive d = context.drive.get();
        value.set(now);
        d.run().ifPresent(run -> context.storage.queue(c -> {
            context.repository.decided(run, now);
            return now;
        }, x -> { }, e -> context.complain(context.words(e))));
        if (d.decisions().equals(now)) {
            // The answer for these is on the screen already.
            context.analysis.cancel();
            weighing = false;
            context.busy.set("");
            return;
        }
        weighing = true;
        overtakes.run();
        context.busy.set(say("session.weighing-again"));
        context.problem.set("");
        context.analysis.start(cancelled -> DriveOpener.analyse(d.opening(), d.sheet(), d.log(), now, d.odd(), d.run(),
                d.before(), cancelled), this::showWeighed, context::fail);
    }

    /** The same drive weighed again keeps cursor and stop. */
    private void showWeighed(Drive d) {
        weighing = false;
        context.busy.set("");
        show.accept(d);
        // The next drive goes on from what was advised in the end.
        d.run().ifPresent(run -> context.storage.queue(c -> {
            context.repository.advised(run, d.analysis().advice());
            return run;
        }, x -> { }, e -> context.complain(context.words(e))));
    }
}
