package nariz.advice;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import nariz.build.Barrels;
import nariz.build.BuildSheet;
import nariz.build.Part;
import nariz.build.PartChange;
import nariz.build.SideName;
import nariz.fit.Cell;
import nariz.fit.Estimate;
import nariz.units.Units;

/** Works out, on one log, what the schools that tuners follow would each do. */
final class Schools {
    /** Margin that the second school keeps below the lowest cruise vacuum, inHg. */
    private static final double MARGIN_INHG = 1.5;
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
                "half of idle vacuum", inHg(0.5 * c.vacuumPa()) + (sheet.engine().automatic()
                        ? ", if the idle was read in gear" : ""))));
        lowestCruise().ifPresent(v -> answers.add(new School.Answer(String.format(Locale.ROOT,
                "%.1f inHg below the lowest steady cruise", MARGIN_INHG), inHg(v - MARGIN_INHG * Units.INHG))));
        String shows = decision.best(part, SideName.PRIMARY).map(s -> part.text(s.to()))
                .orElse(part.text(part.of(sheet.carburetor(), SideName.PRIMARY)) + " as fitted");
        double really = p.enrichmentPa() + estimate.shiftPa();
        answers.add(new School.Answer("what the log shows", String.format(Locale.ROOT,
                "%s; the one fitted, rated %s, opens at %s (plus or minus %.1f)", shows, part.text(part.of(
                        sheet.carburetor(), SideName.PRIMARY)),
                inHg(really), Estimate.Z90 * estimate.shiftSdPa() / Units.INHG)));
        return Optional.of(new School("when the enrichment opens", answers, "what the log shows",
                "rules of thumb fail on engines with very high or very low idle vacuum"));
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
        answers.add(new School.Answer("change the jets", step(Part.MAIN_JET)));
        answers.add(new School.Answer(p.hasRods() ? "change the rod's power step" : "change the channel restriction",
                step(amount)));
        return Optional.of(new School("rich or lean under load", answers, answers.get(1).name(),
                "jets move cruise too"));
    }

    private String step(Part part) {
        return decision.best(part, SideName.PRIMARY).map(s -> part.text(s.from()) + " to " + part.text(s.to()) + ": "
                + effect(Decision.apply(sheet, List.of(s)))).orElse("no size on the ladder helps");
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
        String question = "rear power valve";
        if (s.enrichmentPa() <= 0) {
            return new School(question, List.of(new School.Answer("keep what is fitted",
                    "none is fitted: " + effect(sheet))), "keep what is fitted", "what works is left alone");
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
                new School.Answer("keep what is fitted", effect(sheet)),
                new School.Answer("plug it and enlarge the rear jets", Part.MAIN_JET.text(jet) + " to "
                        + Part.MAIN_JET.text(best) + ": " + effect(Part.MAIN_JET.fit(plugged, SideName.SECONDARY,
                        best)))), "keep what is fitted", "what works is left alone");
    }

    private static String inHg(double pa) {
        return String.format(Locale.ROOT, "%.1f inHg", Math.max(0.0, pa) / Units.INHG);
    }
}
