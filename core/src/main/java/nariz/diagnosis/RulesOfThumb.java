package nariz.diagnosis;

import static nariz.text.Message.message;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Circuit;
import nariz.carburetor.Ladder;
import nariz.carburetor.Part;
import nariz.carburetor.Stage;
import nariz.dynamics.EnrichmentStudy;
import nariz.estimation.Cell;
import nariz.estimation.Estimate;
import nariz.flow.ThrottlePlate;
import nariz.text.Measure;
import nariz.text.Message;
import nariz.units.Units;

/** Works out, on one log, what the schools that tuners follow would each do. */
final class RulesOfThumb {
    /** Margin that the second school keeps below the lowest cruise vacuum, Pa. */
    private static final double MARGIN_PA = 1.5 * Units.INHG;
    private static final double STEADY_S = 3.0;
    /** Jets without a valve are 6 to 8 sizes larger as a rule; looked at to well beyond that, in the unit of jets. */
    private static final double MOST_LARGER = 20;
    /** Slot below the plates that a tuner wants to see at idle, and from where on it is too much, m; judgement. */
    private static final double SLIVER_M = 1.0e-3;
    private static final double MUCH_SLOT_M = 1.6e-3;

    /** Share of ambient pressure that is left over venturis at the top from where on they choke, and what to try. */
    private static final double CHOKES = 0.04;
    private static final double FOOT_DOWN = 0.8 * ThrottlePlate.WIDE_OPEN;
    private static final double LARGER = 1.08;
    private static final double NEAR_REDLINE = 0.8;
    /** Largest filling of the cylinders, as sizes are chosen for. */
    private static final double FILLING = 0.85;

    private final BuildSheet sheet;
    private final Estimate estimate;
    private final Scorer scorer;
    private final Decision decision;
    private final Optional<EnrichmentFinding> enrichment;

    RulesOfThumb(BuildSheet sheet, Estimate estimate, Scorer scorer, Decision decision,
            Optional<EnrichmentFinding> enrichment) {
        this.sheet = sheet;
        this.estimate = estimate;
        this.scorer = scorer;
        this.decision = decision;
        this.enrichment = enrichment;
    }

    List<RuleOfThumb> all() {
        List<RuleOfThumb> out = new ArrayList<>();
        opening().ifPresent(out::add);
        underLoad().ifPresent(out::add);
        rearValve().ifPresent(out::add);
        idleAir().ifPresent(out::add);
        venturis().ifPresent(out::add);
        return out;
    }

    private Optional<RuleOfThumb> opening() {
        double rated = enrichmentPa(Stage.PRIMARY);
        Optional<Part> fitted = fitted(Stage.PRIMARY, Part.Role.ENRICHMENT_OPENING);
        if (rated <= 0 || fitted.isEmpty()) {
            return Optional.empty();
        }
        Part part = fitted.get();
        List<RuleOfThumb.Answer> answers = new ArrayList<>();
        estimate.cells().stream().filter(Cell::idle).findFirst().ifPresent(c -> answers.add(new RuleOfThumb.Answer(
                message("schools.half-of-idle-vacuum"), Message.of(Measure.vacuum(0.5 * c.vacuumPa()))
                        .then(sheet.engine().automatic() ? message("schools.if-the-idle-was") : Message.NONE))));
        lowestCruise().ifPresent(v -> answers.add(new RuleOfThumb.Answer(message("schools.inhg-below-the-lowest",
                Measure.vacuum(MARGIN_PA)),
                Message.of(Measure.vacuum(Math.max(0.0, v - MARGIN_PA))))));
        Message shows = decision.best(part, Stage.PRIMARY).map(s -> part.text(s.to()))
                .orElse(message("schools.as-fitted", part.text(part.of(sheet.carburetor(), Stage.PRIMARY))));
        Message fittedNow = part.text(part.of(sheet.carburetor(), Stage.PRIMARY));
        answers.add(new RuleOfThumb.Answer(message("schools.what-the-log-shows"), enrichment.map(
                EnrichmentFinding::seen).filter(EnrichmentStudy.Seen::close).map(s -> message(
                "schools.the-one-fitted-rated", shows, fittedNow, Measure.vacuum(s.opensPa()[0]),
                Measure.bareVacuum(s.opensPa()[1]), Measure.bareVacuum(s.opensPa()[2])))
                .orElse(message("schools.the-one-fitted-loose", shows, fittedNow))));
        return Optional.of(new RuleOfThumb(message("schools.when-the-enrichment-opens"), answers,
                message("schools.what-the-log-shows"),
                message("schools.rules-of-thumb-fail"), of(part, Stage.PRIMARY)));
    }

    private Optional<Double> lowestCruise() {
        double lowest = Double.POSITIVE_INFINITY;
        for (int i = 0; i < estimate.cells().size(); i++) {
            Cell c = estimate.cells().get(i);
            boolean cruise = scorer.regime(i) == Regime.CRUISE || scorer.regime(i) == Regime.TRANSFER;
            if (cruise && c.dwellS() >= STEADY_S) {
                lowest = Math.min(lowest, c.vacuumPa());
            }
        }
        return Double.isInfinite(lowest) ? Optional.empty() : Optional.of(lowest);
    }

    private Optional<RuleOfThumb> underLoad() {
        Optional<Part> amount = fitted(Stage.PRIMARY, Part.Role.ENRICHMENT_AMOUNT);
        Optional<Part> jets = fitted(Stage.PRIMARY, Part.Role.METERING_FUEL);
        if (enrichmentPa(Stage.PRIMARY) <= 0 || amount.isEmpty() || jets.isEmpty() || !scorer.read(Regime.FULL)) {
            return Optional.empty();
        }
        List<RuleOfThumb.Answer> answers = new ArrayList<>();
        if (decision.best(jets.get(), Stage.PRIMARY).isEmpty()
                && decision.best(amount.get(), Stage.PRIMARY).isEmpty()) {
            // Neither school would do anything.
            return Optional.empty();
        }
        answers.add(new RuleOfThumb.Answer(message("schools.change-the-jets"), step(jets.get())));
        answers.add(new RuleOfThumb.Answer(message(amount.get().drillable() ? "schools.change-the-channel-restriction"
                : "schools.change-the-rod-s"), step(amount.get())));
        return Optional.of(new RuleOfThumb(message("schools.rich-or-lean-under"), answers, answers.get(1).name(),
                message("schools.jets-move-cruise-too"), of(amount.get(), Stage.PRIMARY)));
    }

    private Message step(Part part) {
        return decision.best(part, Stage.PRIMARY).map(s -> message("schools.to", part.text(s.from()), part.text(
                s.to()), effect(Decision.apply(sheet, List.of(s))))).orElse(message("schools.no-size-on-the"));
    }

    /** Full load and cruise with some parts. */
    private Message effect(BuildSheet parts) {
        List<Message> out = new ArrayList<>();
        for (RegimeError e : scorer.errors(scorer.with(parts))) {
            if (e.regime() == Regime.FULL || e.regime() == Regime.CRUISE) {
                out.add(Message.join(" ", List.of(e.regime().label(), e.words())));
            }
        }
        return Message.join(", ", out);
    }

    private double enrichmentPa(Stage stage) {
        return sheet.carburetor().family().enrichmentPa(sheet.carburetor(), stage);
    }

    private Optional<Part> fitted(Stage stage, Part.Role role) {
        return sheet.carburetor().family().part(sheet.carburetor(), stage, role);
    }

    private Optional<RuleOfThumb> rearValve() {
        Optional<Part> valve = fitted(Stage.SECONDARY, Part.Role.ENRICHMENT_OPENING).filter(Part::pluggable);
        Optional<Part> jets = fitted(Stage.SECONDARY, Part.Role.METERING_FUEL);
        if (valve.isEmpty() || jets.isEmpty() || enrichmentPa(Stage.SECONDARY) <= 0) {
            // Where none is fitted there is nothing to differ on.
            return Optional.empty();
        }
        Message question = message("schools.rear-power-valve");
        BuildSheet plugged = valve.get().fit(sheet, Stage.SECONDARY, 0);
        double jet = jets.get().of(sheet.carburetor(), Stage.SECONDARY);
        double best = jet;
        double least = Double.POSITIVE_INFINITY;
        for (double v = jet; v <= jet + MOST_LARGER; v++) {
            double loss = scorer.loss(scorer.with(jets.get().fit(plugged, Stage.SECONDARY, v)));
            if (loss < least) {
                least = loss;
                best = v;
            }
        }
        return Optional.of(new RuleOfThumb(question, List.of(
                new RuleOfThumb.Answer(message("schools.keep-what-is-fitted"), effect(sheet)),
                new RuleOfThumb.Answer(message("schools.plug-it-and-enlarge"), message("schools.to",
                jets.get().text(jet),
                        jets.get().text(best), effect(jets.get().fit(plugged, Stage.SECONDARY,
                        best))))), message("schools.keep-what-is-fitted"), message("schools.what-works-is-left"),
                                of(jets.get(), Stage.SECONDARY)));
    }

    private Circuit of(Part part, Stage stage) {
        return sheet.carburetor().family().trims(part, stage);
    }

    /** Where an engine that needs much air at idle lets it in: under the front plates it uncovers their slots. */
    private Optional<RuleOfThumb> idleAir() {
        Optional<Cell> idle = estimate.cells().stream().filter(Cell::idle).findFirst();
        List<Ladder> bypasses = sheet.carburetor().family().bypasses(sheet);
        if (idle.isEmpty() || bypasses.isEmpty()) {
            return Optional.empty();
        }
        double below = slotBelowM(sheet, idle.get());
        if (!(below > MUCH_SLOT_M)) {
            return Optional.empty();
        }
        List<RuleOfThumb.Answer> answers = new ArrayList<>();
        answers.add(new RuleOfThumb.Answer(message("schools.as-it-stands"), message("schools.slot-below",
                Measure.size(below))));
        for (Ladder l : bypasses) {
            double size = l.sizes(sheet).stream().filter(v -> v > l.fitted(sheet)).filter(v -> slotBelowM(
                    l.part().fit(sheet, l.stage(), v), idle.get()) <= SLIVER_M).findFirst().orElse(l.high());
            BuildSheet then = l.part().fit(sheet, l.stage(), size);
            Message reads = scorer.errors(scorer.with(then)).stream().filter(e -> e.regime() == Regime.IDLE)
                    .map(RegimeError::words).findFirst().orElse(Message.NONE);
            answers.add(new RuleOfThumb.Answer(message(l.part().access() == Part.Access.OPEN
                    ? "schools.open-the-secondary-plates" : "schools.drill-the-front-plates"),
                    message("schools.with-idle", l.part().text(size), Measure.size(slotBelowM(then, idle.get())),
                            reads)));
        }
        return Optional.of(new RuleOfThumb(message("schools.idle-air"), answers, answers.get(1).name(),
                message("schools.timing-first"), of(bypasses.getFirst().part(), Stage.PRIMARY)));
    }

    private double slotBelowM(BuildSheet parts, Cell idle) {
        return estimate.carburetor().slotBelowM(parts, idle);
    }

    /** Venturis are the last step: everything else was chosen for them. A question only where they choke the top. */
    private Optional<RuleOfThumb> venturis() {
        Optional<Cell> top = fullLoadNearRedline().filter(c -> c.vacuumPa() > CHOKES * sheet.ambient().pressurePa());
        Optional<Part> venturi = fitted(Stage.PRIMARY, Part.Role.AIR_WAY);
        Optional<Part> jets = fitted(Stage.PRIMARY, Part.Role.METERING_FUEL);
        if (top.isEmpty() || venturi.isEmpty() || jets.isEmpty()) {
            return Optional.empty();
        }
        Part part = venturi.get();
        double now = part.of(sheet.carburetor(), Stage.PRIMARY);
        double then = Math.ceil(now * LARGER);
        // A jet goes with its venturi.
        Message jet = jets.get().text(jets.get().of(sheet.carburetor(), Stage.PRIMARY) * then / now);
        return Optional.of(new RuleOfThumb(message("schools.venturis"), List.of(
                new RuleOfThumb.Answer(message("schools.keep-what-is-fitted"), message("schools.venturi-passes",
                        part.text(now), speed(now), top.get().rpm(), Measure.vacuum(top.get().vacuumPa()))),
                new RuleOfThumb.Answer(message("schools.venturi-larger"), message("schools.venturi-with", part.text(
                        then), speed(then), jet))),
                message("schools.keep-what-is-fitted"), message("schools.venturi-last"), of(part, Stage.PRIMARY)));
    }

    /** Mean speed of the air at the redline, m/s. */
    private double speed(double venturiMm) {
        double perBarrel = FILLING * sheet.engine().displacementM3() * sheet.engine().redlineRpm() / 120.0
                / (sheet.carburetor().count() * sheet.carburetor().number("primary.bores"));
        return perBarrel / Units.holeArea(1e-3 * venturiMm);
    }

    private Optional<Cell> fullLoadNearRedline() {
        return estimate.cells().stream().filter(c -> c.thetaRad() > FOOT_DOWN && c.rpm() > NEAR_REDLINE
                * sheet.engine().redlineRpm()).max(Comparator.comparingDouble(Cell::rpm));
    }
}
