package nariz.app.state;

import static nariz.app.words.WindowWords.say;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import nariz.carburetor.BuildSheet;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Strategy;
import nariz.log.LogReader;
import nariz.sim.DemoDrive;

/** The open drive against another of the same car. Called on the interface thread. */
public final class Comparisons {
    private final SessionContext context;
    private final Garage garage;
    private final ReadOnlyObjectWrapper<Comparison> comparison = new ReadOnlyObjectWrapper<>();

    Comparisons(SessionContext context, Garage garage) {
        this.context = context;
        this.garage = garage;
    }

    void clear() {
        comparison.set(null);
    }

    void show(Comparison c) {
        comparison.set(c);
    }

    /** What was weighed anew compares anew. */
    void refresh(Drive d) {
        Comparison c = comparison.get();
        comparison.set(c == null || !d.analysis().estimated() ? null : Comparison.of(c.with(), c.other(),
                d.analysis()));
    }

    /** {@return what the open drive can be compared with: kept drives of the same car, the demo's other day} */
    public List<Comparison.Other> others() {
        Drive d = context.drive.get();
        if (d == null) {
            return List.of();
        }
        List<Comparison.Other> out = new ArrayList<>();
        if (Session.practice(d)) {
            out.add(Comparison.Other.demoWithCleaner(say("session.the-demo-with-its")));
        }
        garage.keptProperty().get().stream().filter(e -> e.vehicle().equals(d.sheet().name()) && !d.run().equals(
                Optional.of(e.run()))).forEach(e -> out.add(Comparison.Other.kept(e.name() + ", " + e.imported()
                .toString().substring(0, 10), e.run())));
        return out;
    }

    /**
     * Compares the open drive with another of the same car.
     *
     * @param other one of {@link #others}
     */
    public void compareWith(Comparison.Other other) {
        if (context.drive.get() == null || context.occupied(say("session.something-else-is-being-2"))) {
            return;
        }
        Comparison before = comparison.get();
        load(other, () -> context.history.record(say("session.compared"), true, () -> again(before == null ? null
                : before.with()), () -> again(other)));
    }

    /** Undo and redo know with what was compared, and compare again: a step holds no drive. */
    private void again(Comparison.Other other) {
        if (other == null) {
            comparison.set(null);
        } else {
            load(other, () -> { });
        }
    }

    private void load(Comparison.Other other, Runnable then) {
        Drive d = context.drive.get();
        context.busy.set(say("session.comparing"));
        context.problem.set("");
        context.analysis.start(cancelled -> {
            Analysis a;
            if (other.run() == 0) {
                BuildSheet sheet = other.sheet().orElse(DemoDrive.sheet());
                a = Analysis.of(sheet, other.demo(), Strategy.of(sheet), List.of(), cancelled);
            } else {
                BuildSheet sheet = context.repository.sheet(other.run());
                Decisions decided = context.repository.decisions(other.run());
                a = Analysis.of(sheet, LogReader.drive(context.repository.recording(other.run()), sheet).without(
                        decided.excluded()), Strategy.of(sheet), decided.checked(), cancelled);
            }
            return Comparison.of(other, a, d.analysis());
        }, c -> {
            context.busy.set("");
            then.run();
            comparison.set(c);
        }, context::fail);
    }

    /** Ends the comparison; nothing when there is none. */
    public void endComparison() {
        Comparison c = comparison.get();
        if (c != null) {
            Comparison.Other with = c.with();
            context.history.record(say("session.comparison-put-away"), true, () -> again(with), () -> again(null));
            comparison.set(null);
        }
    }

    /** {@return the drive the open one is compared with, or null} */
    public ReadOnlyObjectProperty<Comparison> comparisonProperty() {
        return comparison.getReadOnlyProperty();
    }
}
