package nariz.diagnosis;

import static nariz.text.Message.message;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.BooleanSupplier;
import java.util.function.DoubleUnaryOperator;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Ladder;
import nariz.dynamics.EnrichmentStudy;
import nariz.dynamics.PullStudy;
import nariz.dynamics.SecondStageStudy;
import nariz.estimation.Observation;
import nariz.text.Measure;
import nariz.text.Message;
import nariz.units.Units;

/**
 * What moving moments of a drive show beside the openings of the throttle: the enrichment's line, the second stage
 * coming in, pulls.
 *
 * @param enrichment the enrichment; empty where there is none or too little was read around its line
 * @param second the second stage; empty where there is none or it never came in
 * @param pulls pulls at full load; empty where there was none
 */
public record DriveDynamics(Optional<EnrichmentFinding> enrichment, Optional<SecondStageStudy.Finding> second,
        Optional<PullStudy.Finding> pulls) {
    /** Nothing read. */
    public static final DriveDynamics NONE = new DriveDynamics(Optional.empty(), Optional.empty(), Optional.empty());
    /** So many comings-in by themselves are wanted before a part is changed for them. */
    private static final int FEWEST = 3;
    /** A line this near to steady running flutters, Pa; judgement. */
    private static final double NEAR_PA = 1.0 * Units.INHG;
    private static final double OFF_STAMP_PA = 0.75 * Units.INHG;
    private static final double WORTH_S = 3.0;
    private static final double WORTH_SHARE = 0.03;
    /** Ratings come in steps of one inHg: a better line within half of one is the same part. */
    private static final double SAME_PART_PA = 0.5 * Units.INHG;
    private static final double STEP_SHOWN = 0.03;
    private static final int MOST_PULLS = 5;

    static DriveDynamics of(Observation o, WhatIf whatIf, Scorer scorer, BooleanSupplier cancelled) {
        double ambient = o.sheet().ambient().pressurePa();
        DoubleUnaryOperator target = pa -> scorer.strategy().atLoad(1.0 - pa / ambient,
                o.sheet().engine().vacuumAdvance());
        return new DriveDynamics(EnrichmentFinding.of(o, whatIf, scorer, cancelled), SecondStageStudy.of(o,
                whatIf::phi, target), PullStudy.of(o, whatIf::phi, target));
    }

    /**
     * A second stage that sags as it comes in opens too early: the next step later.
     *
     * @param sheet build
     * @return the step, or empty where it is as it should be
     */
    Optional<Decision.Step> later(BuildSheet sheet) {
        boolean sags = second.filter(f -> f.felt().size() >= FEWEST && 2L * f.felt().size() >= f.rolling()).isPresent();
        Optional<Ladder> part = sheet.carburetor().family().openingPart(sheet);
        return part.filter(l -> sags && l.fitted(sheet) + l.step() <= l.high()).map(l -> new Decision.Step(l,
                l.fitted(sheet), l.fitted(sheet) + l.step()));
    }

    /** {@return what was seen of the enrichment; none where nothing was read} */
    public List<Message> ofEnrichment() {
        List<Message> out = new ArrayList<>();
        enrichment.ifPresent(f -> {
            EnrichmentStudy.Seen s = f.seen();
            out.add(message(s.close() ? "dynamics.opens" : "dynamics.opens-somewhere",
                    Measure.vacuum(s.opensPa()[0]), Measure.bareVacuum(s.opensPa()[1]),
                    Measure.bareVacuum(s.opensPa()[2]), Measure.bareVacuum(s.shutsPa()[0]),
                    Measure.rating(f.ratedPa())));
            if (f.ratedPa() < s.opensPa()[1] - OFF_STAMP_PA || f.ratedPa() > s.shutsPa()[2] + OFF_STAMP_PA) {
                out.add(message("dynamics.not-as-stamped"));
            }
            if (s.close()) {
                // A line that is read loosely has no countable openings.
                out.add(message(s.flutters() > 0 ? "dynamics.openings-flutter" : "dynamics.openings", s.openings(),
                        s.openS(), s.flutters()));
                near(f).ifPresent(out::add);
            }
            f.amount().ifPresent(a -> out.add(message("dynamics.amount", PullStudy.inWords(a[0]),
                    PullStudy.inWords(a[1]), PullStudy.inWords(a[2]))));
            f.asOneJet().ifPresent(j -> out.add(message(j.rod() ? "dynamics.jet-less-rod" : "dynamics.as-one-jet",
                    Measure.size(j.diameterM()))));
            if (sticks(s.stuckShut(), s)) {
                out.add(message("dynamics.stays-shut", s.stuckShut(), s.judged()));
            }
            if (sticks(s.stuckOpen(), s)) {
                out.add(message("dynamics.stays-open", s.stuckOpen(), s.judged()));
            }
        });
        return out;
    }

    /** One odd stretch is no pattern. */
    private static boolean sticks(int times, EnrichmentStudy.Seen s) {
        return times >= 2 && 5 * times >= s.judged();
    }

    private static Optional<Message> near(EnrichmentFinding f) {
        return f.cruise().map(w -> {
            double clear = w.lowPa() - f.seen().shutsPa()[0];
            return message(clear < NEAR_PA ? "dynamics.cruise-near" : "dynamics.cruise-clear",
                    Measure.vacuum(w.lowPa()), Measure.vacuum(Math.abs(clear)));
        });
    }

    /**
     * What the line at the wrong place costs on this drive.
     *
     * @param earlier whether what is to be done makes it open earlier
     * @return it in words; empty where it costs little, and where the better line lies on the other side
     */
    Optional<Message> lineCosts(boolean earlier) {
        return enrichment.filter(f -> earlier == f.bestPa() > 0.5 * (f.seen().opensPa()[0] + f.seen().shutsPa()[0]))
                .flatMap(DriveDynamics::cost);
    }

    private static Optional<Message> cost(EnrichmentFinding f) {
        boolean same = f.bestPa() > f.seen().opensPa()[1] - SAME_PART_PA && f.bestPa() < f.seen().shutsPa()[2]
                + SAME_PART_PA;
        boolean early = f.early().fuelM3() >= f.late().fuelM3();
        EnrichmentFinding.Cost c = early ? f.early() : f.late();
        if (same || c.seconds() < WORTH_S || c.share() < WORTH_SHARE) {
            return Optional.empty();
        }
        return Optional.of(message(early ? "dynamics.early" : "dynamics.late", Measure.vacuum(f.bestPa()),
                c.seconds(), 100.0 * c.share(), 1e6 * c.fuelM3()));
    }

    /** {@return what was seen of the second stage; none where nothing was read} */
    public List<Message> ofSecondStage() {
        List<Message> out = new ArrayList<>();
        second.ifPresent(f -> {
            List<SecondStageStudy.Event> own = f.events().stream().filter(e -> !e.stab() && !Double.isNaN(e.sag()))
                    .toList();
            double most = own.stream().mapToDouble(SecondStageStudy.Event::sag).max().orElse(Double.NaN);
            if (own.isEmpty()) {
                out.add(message("dynamics.second-with-stabs", f.events().size()));
            } else {
                double slowest = own.stream().mapToDouble(SecondStageStudy.Event::rpm).min().orElse(0.0);
                out.add(message(f.felt().isEmpty() ? "dynamics.second-clean"
                        : f.felt().size() == 1 ? "dynamics.second-once" : "dynamics.second-sags", own.size(),
                        slowest, 100.0 * Math.max(0.0, most), f.felt().size()));
            }
            f.step().ifPresent(s -> out.add(s[1] > 0.0 || s[2] < 0.0 ? message(s[0] > 0.0
                    ? "dynamics.second-steps-lean" : "dynamics.second-steps-rich", 100.0 * Math.abs(s[0]), 100.0
                    * Math.min(Math.abs(s[1]), Math.abs(s[2])), 100.0 * Math.max(Math.abs(s[1]), Math.abs(s[2])))
                    : message("dynamics.second-no-step", 100.0 * Math.max(STEP_SHOWN, 0.5 * (s[2] - s[1])))));
        });
        return out;
    }

    /** {@return what was seen in pulls; none where there was none} */
    public List<Message> ofPulls() {
        List<Message> out = new ArrayList<>();
        pulls.ifPresent(f -> {
            f.tooLean().ifPresent(p -> out.add(message("dynamics.stop-the-pull", (int) p.atS() / 60, p.atS() % 60,
                    p.stopAfterS(), 100.0 * p.leanest())));
            trend(out, "dynamics.pull-rpm", f.perThousand());
            trend(out, "dynamics.pull-time", f.perSecond());
            if (f.pulls().size() > 1) {
                trend(out, "dynamics.pull-repeat", f.perPull());
            }
            f.pulls().stream().filter(p -> !Double.isNaN(p.error())).sorted((p, q) -> Double.compare(q.seconds(),
                    p.seconds())).limit(MOST_PULLS).sorted((p, q) -> Double.compare(p.atS(), q.atS())).forEach(p ->
                    out.add(message(Double.isNaN(p.acceleration()) ? "dynamics.pull" : "dynamics.pull-with-speed",
                            (int) p.atS() / 60, p.atS() % 60, p.seconds(), p.fromRpm(), p.toRpm(), p.words(),
                            p.acceleration())));
        });
        return out;
    }

    /** A trend that is told goes one way: its interval is in that way's per cent, the smaller first. */
    private static void trend(List<Message> out, String code, PullStudy.Trend t) {
        boolean richer = t.told() && t.mean() < 0.0;
        out.add(message(code + (t.told() ? richer ? "-richer" : "-leaner" : "-none"), 100.0 * Math.abs(t.mean()),
                100.0 * Math.abs(richer ? t.high() : t.low()), 100.0 * Math.abs(richer ? t.low() : t.high())));
    }
}
