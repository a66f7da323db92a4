package nariz.app.state;

import static nariz.app.words.WindowWords.say;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.BooleanSupplier;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Family;
import nariz.carburetor.Part;
import nariz.carburetor.PartChange;
import nariz.carburetor.Stage;
import nariz.comparison.TrialSeries;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Strategy;
import nariz.log.LogReader;
import nariz.sim.Demo;

/** The open drive against another of the same car. Called on the interface thread. */
public final class Comparisons {
    private final SessionContext context;
    private final Garage garage;
    private final ReadOnlyObjectWrapper<Comparison> comparison = new ReadOnlyObjectWrapper<>();
    private final ReadOnlyObjectWrapper<TrialSeries> series = new ReadOnlyObjectWrapper<>();

    Comparisons(SessionContext context, Garage garage) {
        this.context = context;
        this.garage = garage;
    }

    void clear() {
        comparison.set(null);
        series.set(null);
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
        if (OpenRequests.practice(d)) {
            out.add(Comparison.Other.demoWithCleaner(say("session.the-demo-with-its"), Demo.of(d.sheet())
                    .orElseThrow()));
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
        context.analysis.start(cancelled -> Comparison.of(other, analysis(other, cancelled), d.analysis()), c -> {
            context.busy.set("");
            then.run();
            comparison.set(c);
        }, context::fail);
    }

    private Analysis analysis(Comparison.Other other, BooleanSupplier cancelled) {
        if (other.run() == 0) {
            BuildSheet sheet = other.sheet().orElseGet(() -> other.demo().orElseThrow().sheet());
            return Analysis.of(sheet, other.demoLog(), Strategy.of(sheet), List.of(), cancelled);
        }
        BuildSheet sheet = context.repository.sheet(other.run());
        Decisions decided = context.repository.decisions(other.run());
        return Analysis.of(sheet, LogReader.drive(context.repository.recording(other.run()), sheet).without(
                decided.excluded()), Strategy.of(sheet), decided.checked(), cancelled);
    }

    /** Drives that can stand in a series with the open one: kept ones of the car, for the demo other ratings. */
    private List<Comparison.Other> trials(Drive d, List<Comparison.Other> kept) {
        boolean differ = kept.stream().anyMatch(o -> !PartChange.between(context.repository.sheet(o.run()), d.sheet())
                .isEmpty());
        if (differ || !OpenRequests.practice(d)) {
            return kept;
        }
        Family family = d.sheet().carburetor().family();
        List<Comparison.Other> out = new ArrayList<>();
        family.part(d.sheet().carburetor(), Stage.PRIMARY, Part.Role.ENRICHMENT_OPENING).ifPresent(part -> {
            int day = 1;
            for (double inHg : new double[] {5.5, 7.5, 10.5}) {
                out.add(Comparison.Other.demo(say("session.the-demo-with", part.text(inHg)), Demo.of(d.sheet())
                        .orElseThrow(), part.fit(d.sheet(),
                        Stage.PRIMARY, inHg), day++));
            }
        });
        return out;
    }

    /** Lays the open drive and all others of the car beside each other: one part in several sizes. */
    public void layTogether() {
        Drive d = context.drive.get();
        if (d == null || context.occupied(say("session.something-else-is-being-2"))) {
            return;
        }
        List<Comparison.Other> kept = others().stream().filter(o -> o.run() != 0).toList();
        if (kept.isEmpty() && !OpenRequests.practice(d)) {
            context.problem.set(say("session.no-trials"));
            return;
        }
        context.busy.set(say("session.comparing"));
        context.problem.set("");
        context.analysis.start(cancelled -> {
            List<TrialSeries.Drive> drives = new ArrayList<>();
            drives.add(new TrialSeries.Drive(d.log().name(), d.analysis()));
            for (Comparison.Other o : trials(d, kept)) {
                drives.add(new TrialSeries.Drive(o.label(), analysis(o, cancelled)));
            }
            return TrialSeries.of(drives);
        }, s -> {
            context.busy.set("");
            series.set(s);
        }, context::fail);
    }

    /** {@return drives of this car laid beside each other, or null} */
    public ReadOnlyObjectProperty<TrialSeries> seriesProperty() {
        return series.getReadOnlyProperty();
    }

    /** Ends the comparison; nothing when there is none. */
    public void endComparison() {
        series.set(null);
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
