package nariz.advice;

import static nariz.words.CoreWords.say;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import nariz.build.Barrels;
import nariz.build.BuildSheet;
import nariz.build.Part;
import nariz.build.PartChange;
import nariz.build.SideName;
import nariz.fit.Cell;
import nariz.fit.Estimate;
import nariz.units.Shown;
import nariz.units.Units;

/** Works out, on one log, what the schools that tuners follow would each do. */
final class Schools {
    /** Margin that the second school keeps below the lowest cruise vacuum, Pa. */
    private static final double MARGIN_PA = 1.5 * Units.INHG;
    private static final double STEADY_S = 3.0;

    private final BuildSheet sheet;
    private final Estimate estimate;
    private final Scorer scorer;
    private final Decision decision;

    Schools(BuildSheet sheet, Estimate estimate, Scorer scorer, Decision decision) {
        this.sheet = sheet;
        this.estimate = estimate;
        this.scorer = scorer;
        this.decision = decision;
    }

    List<School> all() {
        List<School> out = new ArrayList<>();
        opening().ifPresent(out::add);
        underLoad().ifPresent(out::add);
        out.add(rearValve());
        return out;
    }

    private Optional<School> opening() {
        Barrels p = sheet.carburetor().primary();
        if (p.enrichmentPa() <= 0) {
            return Optional.empty();
        }
        Part part = p.hasRods() ? Part.STEP_UP_SPRING : Part.POWER_VALVE_RATING;
        List<School.Answer> answers = new ArrayList<>();
        estimate.cells().stream().filter(Cell::idle).findFirst().ifPresent(c -> answers.add(new School.Answer(
                say("schools.half-of-idle-vacuum"), Shown.vacuum(0.5 * c.vacuumPa()) + (sheet.engine().automatic()
                        ? say("schools.if-the-idle-was") : ""))));
        lowestCruise().ifPresent(v -> answers.add(new School.Answer(say("schools.inhg-below-the-lowest",
                Shown.vacuum(MARGIN_PA)),
                Shown.vacuum(Math.max(0.0, v - MARGIN_PA)))));
        String shows = decision.best(part, SideName.PRIMARY).map(s -> part.text(s.to()))
                .orElse(say("schools.as-fitted", part.text(part.of(sheet.carburetor(), SideName.PRIMARY))));
        double really = p.enrichmentPa() + estimate.shiftPa();
        answers.add(new School.Answer(say("schools.what-the-log-shows"), say("schools.the-one-fitted-rated", shows,
                part.text(part.of(
                        sheet.carburetor(), SideName.PRIMARY)),
                Shown.vacuum(Math.max(0.0, really)), Shown.bare(Estimate.Z90 * estimate.shiftSdPa()))));
        return Optional.of(new School(say("schools.when-the-enrichment-opens"), answers,
                say("schools.what-the-log-shows"),
                say("schools.rules-of-thumb-fail"), SideName.PRIMARY));
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

    private Optional<School> underLoad() {
        Barrels p = sheet.carburetor().primary();
        Part amount = p.hasRods() ? Part.METERING_ROD : Part.POWER_CHANNEL_RESTRICTION;
        if (p.enrichmentPa() <= 0 || !scorer.read(Regime.FULL)) {
            return Optional.empty();
        }
        List<School.Answer> answers = new ArrayList<>();
        answers.add(new School.Answer(say("schools.change-the-jets"), step(Part.MAIN_JET)));
        answers.add(new School.Answer(p.hasRods() ? say("schools.change-the-rod-s")
                : say("schools.change-the-channel-restriction"),
                step(amount)));
        return Optional.of(new School(say("schools.rich-or-lean-under"), answers, answers.get(1).name(),
                say("schools.jets-move-cruise-too"), SideName.PRIMARY));
    }

    private String step(Part part) {
        return decision.best(part, SideName.PRIMARY).map(s -> say("schools.to", part.text(s.from()), part.text(
                s.to()), effect(Decision.apply(sheet, List.of(s))))).orElse(say("schools.no-size-on-the"));
    }

    /** Full load and cruise with some parts. */
    private String effect(BuildSheet parts) {
        List<String> out = new ArrayList<>();
        for (RegimeError e : scorer.errors(scorer.with(parts))) {
            if (e.regime() == Regime.FULL || e.regime() == Regime.CRUISE) {
                out.add(e.regime().label() + " " + e.words());
            }
        }
        return String.join(", ", out);
    }

    private School rearValve() {
        Barrels s = sheet.carburetor().secondary();
        String question = say("schools.rear-power-valve");
        if (s.enrichmentPa() <= 0) {
            return new School(question, List.of(new School.Answer(say("schools.keep-what-is-fitted"),
                    say("schools.none-is-fitted", effect(sheet)))), say("schools.keep-what-is-fitted"),
                            say("schools.what-works-is-left"), SideName.SECONDARY);
        }
        PartChange plug = new PartChange(Part.POWER_VALVE_RATING, SideName.SECONDARY,
                Part.POWER_VALVE_RATING.of(sheet.carburetor(), SideName.SECONDARY), 0);
        BuildSheet plugged = plug.fit(sheet);
        double jet = Part.MAIN_JET.of(sheet.carburetor(), SideName.SECONDARY);
        double best = jet;
        double least = Double.POSITIVE_INFINITY;
        for (double v = jet; v <= jet + 20; v++) {
            double loss = scorer.loss(scorer.with(Part.MAIN_JET.fit(plugged, SideName.SECONDARY, v)));
            if (loss < least) {
                least = loss;
                best = v;
            }
        }
        return new School(question, List.of(
                new School.Answer(say("schools.keep-what-is-fitted"), effect(sheet)),
                new School.Answer(say("schools.plug-it-and-enlarge"), say("schools.to", Part.MAIN_JET.text(jet),
                        Part.MAIN_JET.text(best), effect(Part.MAIN_JET.fit(plugged, SideName.SECONDARY,
                        best))))), say("schools.keep-what-is-fitted"), say("schools.what-works-is-left"),
                                SideName.SECONDARY);
    }
}
