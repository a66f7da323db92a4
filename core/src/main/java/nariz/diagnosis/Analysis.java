package nariz.diagnosis;

import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import java.util.function.BooleanSupplier;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Circuit;
import nariz.carburetor.Ladder;
import nariz.carburetor.Part;
import nariz.carburetor.Stage;
import nariz.dynamics.OpeningStudy;
import nariz.dynamics.TipIn;
import nariz.dynamics.TipIns;
import nariz.estimation.Estimate;
import nariz.estimation.Estimator;
import nariz.estimation.Observation;
import nariz.log.DriveLog;
import org.jspecify.annotations.Nullable;

/**
 * From a build sheet and a log to an answer: the whole way in one call.
 *
 * <p>Immutable once made; {@link #phiAfter()} and the observation are what the pictures draw.
 */
public final class Analysis {
    /** Least steady running for any judgement, s. */
    static final double LEAST_STEADY_S = 30.0;
    static final int FEWEST_CELLS = 4;
    private static final double LEAST_IDLE_S = 10.0;
    /** Idle speeds within this of the sheet's are left: more than a lope moves the mean. */
    private static final double IDLE_SPEED_OFF = 0.12;
    private static final double MOST_TURNS = 1.0;
    /** Share of a way of running's fuel from which a circuit is judged by it. */
    private static final double FED = 0.25;

    private final Observation observation;
    private final @Nullable Estimate estimate;
    private final @Nullable Scorer scorer;
    private final Advice advice;
    private final double[] phiAfter;
    private final BuildSheet sheetAfter;
    private final @Nullable WhatIf whatIf;

    /** What was found, before it is put into words; null when there was not enough. */
    private final @Nullable Found found;
    private final Request request;

    private record Found(Estimate estimate, Scorer scorer, CausePosterior posterior, Decision decision,
            List<Decision.Step> decided, List<TipIn> tipIns, int openings,
            Optional<OpeningStudy.Finding> pump, DriveDynamics dynamics, List<UnderFault> faults) {
    }

    private Analysis(Request request, Observation observation, @Nullable Found found, Advice advice, double[] phiAfter,
            BuildSheet sheetAfter, @Nullable WhatIf whatIf) {
        this.request = request;
        this.observation = observation;
        this.found = found;
        this.estimate = found == null ? null : found.estimate();
        this.scorer = found == null ? null : found.scorer();
        this.advice = advice;
        this.phiAfter = phiAfter;
        this.sheetAfter = sheetAfter;
        this.whatIf = whatIf;
    }

    /**
     * Analyses a drive.
     *
     * @param sheet build sheet
     * @param log drive
     * @param strategy targets
     * @return the answer and what it rests on
     */
    public static Analysis of(BuildSheet sheet, DriveLog log, Strategy strategy) {
        return of(sheet, log, strategy, List.of(), () -> false);
    }

    /**
     * Analyses a drive.
     *
     * @param sheet build sheet
     * @param log drive
     * @param strategy targets
     * @param ruledOut causes the user has checked and found sound, keys as in {@link Hypothesis#cause()}
     * @param cancelled asked now and then
     * @return the answer and what it rests on
     * @throws CancellationException when cancelled
     */
    public static Analysis of(BuildSheet sheet, DriveLog log, Strategy strategy, List<String> ruledOut,
            BooleanSupplier cancelled) {
        return of(Request.of(sheet, log, strategy).withRuledOut(ruledOut), cancelled);
    }

    /**
     * Analyses a drive.
     *
     * @param q what is asked
     * @param cancelled asked now and then
     * @return the answer and what it rests on
     * @throws CancellationException when cancelled
     */
    public static Analysis of(Request q, BooleanSupplier cancelled) {
        BuildSheet sheet = q.sheet();
        Observation o = Observation.of(q.log(), sheet, cancelled);
        if (o.steadyS() < LEAST_STEADY_S || o.cells().size() < FEWEST_CELLS) {
            return answered(q, o, null, null);
        }
        Estimate e = Estimator.of(o, q.previous().map(Previous::carried));
        Scorer scorer = new Scorer(sheet, q.strategy(), e);
        CausePosterior posterior = new CausePosterior(scorer, e, o, q.ruledOut(), q.previous().map(Previous::since)
                .orElse(List.of()), cancelled);
        Decision decision = new Decision(sheet, scorer, q.kit(), posterior, q.previous().filter(p -> p.followed(
                sheet)));
        List<Decision.Step> decided = List.copyOf(decision.decide(cancelled));
        WhatIf whatIf = new WhatIf(o, e);
        // The pump is judged once the steady mixtures are right: a lean cruise makes every opening look like its fault.
        List<TipIn> tipIns = TipIns.of(o, whatIf::phi);
        Optional<OpeningStudy.Finding> pump = decided.isEmpty() && decision.checks(decided).isEmpty()
                ? OpeningStudy.of(o, whatIf::phi, tipIns, q.previous().map(Previous::madeGood).orElse(false)
                || q.ruledOut().contains(Hypothesis.PUMP_SLACK), cancelled)
                : Optional.empty();
        int openings = pump.map(OpeningStudy.Finding::openings).orElseGet(() -> OpeningStudy.usable(o, whatIf::phi,
                tipIns));
        DriveDynamics dynamics = DriveDynamics.of(o, whatIf, scorer, cancelled);
        List<UnderFault> faults = UnderFault.of(o, posterior, q.previous().map(Previous::carried), cancelled);
        return answered(q, o, new Found(e, scorer, posterior, decision, decided, tipIns, openings, pump, dynamics,
                faults), whatIf);
    }

    private static <T> T known(@Nullable T found) {
        if (found == null) {
            throw new IllegalStateException("nothing was estimated from this drive");
        }
        return found;
    }

    /** Weighs the causes of what was found and puts it all into words. */
    private static Analysis answered(Request q, Observation o, @Nullable Found f, @Nullable WhatIf whatIf) {
        BuildSheet sheet = q.sheet();
        if (f == null) {
            return new Analysis(q, o, null, AdviceBuilder.notEnough(o, q.strategy()), new double[0], sheet, null);
        }
        Estimate e = f.estimate();
        Scorer scorer = f.scorer();
        List<Decision.Step> chosen = new ArrayList<>(f.decided());
        List<String> checks = f.decision().checks(chosen);
        Optional<SharedFullLoad.Tie> tie = checks.isEmpty() ? new SharedFullLoad(o, f.posterior()).tie(chosen)
                : Optional.empty();
        boolean waits = tie.isPresent() && !q.previous().map(Previous::asked).orElse(false);
        if (waits) {
            chosen.removeAll(tie.get().steps());
        }
        f.pump().flatMap(OpeningStudy.Finding::change).ifPresent(a -> chosen.add(new Decision.Step(a.ladder(), a.from(),
                a.to())));
        boolean looks = f.pump().flatMap(OpeningStudy.Finding::look).isPresent();
        if (chosen.isEmpty() && checks.isEmpty() && !waits && !looks) {
            // The second stage is the last to be touched, and by itself.
            f.dynamics().later(sheet).ifPresent(chosen::add);
        }
        idleStop(e, sheet).ifPresent(s -> chosen.add(0, s));
        AdviceBuilder builder = new AdviceBuilder(o, e, scorer, f.decision(), f.posterior(), checks, q.kit(),
                q.previous());
        Advice advice = builder.untold(tie).under(f.faults()).moments(f.openings(), f.pump(), f.dynamics())
                .build(chosen);
        List<Decision.Step> doNow = new ArrayList<>();
        for (Decision.Step s : chosen) {
            boolean now = advice.changes().stream().anyMatch(c -> c.now() && c.part().equals(s.ladder().part())
                    && c.side() == s.ladder().stage());
            if (now) {
                doNow.add(s);
            }
        }
        BuildSheet next = Decision.apply(sheet, doNow);
        return new Analysis(q, o, f, advice, doNow.isEmpty() ? scorer.today() : scorer.with(next), next, whatIf);
    }

    /**
     * Openings of the throttle with what the mixture did after each.
     *
     * @return in the order of time; empty when nothing was estimated
     */
    public List<TipIn> tipIns() {
        return found == null ? List.of() : found.tipIns();
    }

    /**
     * How much leaner a reading is than the settled mixture of its state.
     *
     * @param reading sample of the reading
     * @return share, positive is lean; NaN where either is missing or the throttle is shut
     */
    public double excess(int reading) {
        return TipIns.excess(observation, whatIf()::phi, reading);
    }

    /**
     * The same answer in the language and the units that are in use now. Nothing is estimated anew, so the time it
     * takes does not grow with the drive's steady running; cancelling what this analysis came from does not end it.
     *
     * @return an analysis that differs in its words alone
     */
    public Analysis retold() {
        return answered(request, observation, found, whatIf);
    }

    /** The stop screw, where the engine idles at another speed than the sheet wants; it comes before the screws. */
    private static Optional<Decision.Step> idleStop(Estimate e, BuildSheet sheet) {
        double wanted = sheet.engine().idleRpm();
        return e.cells().stream().filter(c -> c.idle() && c.dwellS() > LEAST_IDLE_S
                        && Math.abs(c.rpm() / wanted - 1.0) > IDLE_SPEED_OFF).findFirst()
                .map(c -> Math.rint(8.0 * e.carburetor().stopTurns(sheet, c, wanted)) / 8.0)
                .filter(turns -> turns != 0.0).flatMap(turns -> stopScrew(sheet).map(l -> new Decision.Step(l, 0.0,
                        Math.clamp(turns, -MOST_TURNS, MOST_TURNS))));
    }

    /** The stop screw: an adjustment that the idle speed asks for, not the mixture. */
    private static Optional<Ladder> stopScrew(BuildSheet sheet) {
        return sheet.carburetor().family().part(sheet.carburetor(), Stage.PRIMARY, Part.Role.IDLE_STOP).map(p ->
                new Ladder(p, Stage.PRIMARY, 0.125, 8, -1, 1, 0.05));
    }

    /** {@return the drive made ready} */
    public Observation observation() {
        return observation;
    }

    /** {@return whether there was enough for an estimate} */
    public boolean estimated() {
        return estimate != null;
    }

    /** {@return the estimate; only when {@link #estimated()}} */
    public Estimate estimate() {
        return known(estimate);
    }

    /**
     * Tries other parts on the same drive.
     *
     * @return the mixture by sample for any parts
     * @throws IllegalStateException when nothing was estimated
     */
    public WhatIf whatIf() {
        if (whatIf == null) {
            throw new IllegalStateException("nothing was estimated: there is no carburetor to try parts on");
        }
        return known(whatIf);
    }

    /** {@return the answer} */
    public Advice advice() {
        return advice;
    }

    /** {@return phi in every cell with the changes to make now; a copy} */
    public double[] phiAfter() {
        return phiAfter.clone();
    }

    /** {@return the sheet with the changes to make now} */
    public BuildSheet sheetAfter() {
        return sheetAfter;
    }

    /**
     * Mean lambda by way of running with other parts.
     *
     * @param parts sheet with the parts
     * @return today and then, with 90 % intervals; only when {@link #estimated()}
     */
    public List<RegimePrediction> predict(BuildSheet parts) {
        Scorer s = known(scorer);
        return AdviceBuilder.predictions(s.errors(s.today()), s.errors(s.with(parts)));
    }

    /**
     * Target of a cell.
     *
     * @param cell index
     * @return phi
     */
    public double targetPhi(int cell) {
        return known(scorer).targetPhi(cell);
    }

    /**
     * Weight of a cell within its regime.
     *
     * @param cell index
     * @return dwell, no more than a quarter of its regime's, s
     */
    public double weight(int cell) {
        return known(scorer).weight(cell);
    }

    /**
     * Regime of a cell.
     *
     * @param cell index
     * @return regime
     */
    public Regime regime(int cell) {
        return known(scorer).regime(cell);
    }

    /**
     * The ways of running that were read in which some circuits deliver a good part of the fuel.
     *
     * @param circuits which
     * @return errors against target, in the order of {@link Regime}; empty when nothing was estimated
     */
    public List<RegimeError> fedBy(Collection<Circuit> circuits) {
        if (estimate == null || circuits.isEmpty()) {
            return List.of();
        }
        Scorer s = known(scorer);
        List<RegimeError> out = new ArrayList<>();
        for (RegimeError e : s.errors(s.today())) {
            double fed = 0.0;
            double all = 0.0;
            for (int i = 0; i < s.size(); i++) {
                if (s.regime(i) == e.regime()) {
                    fed += s.weight(i) * estimate.share(i, circuits);
                    all += s.weight(i);
                }
            }
            if (fed > FED * all) {
                out.add(e);
            }
        }
        return out;
    }

    /**
     * What the sensor should read at a sample: what the carburetor found delivers in the state it belongs to, with the
     * wall film's lag and what overlap does to the sensor at idle in it.
     *
     * @param sample sample of the reading
     * @return phi, NaN where speed or vacuum is missing or nothing was estimated
     */
    public double predictedPhi(int sample) {
        if (estimate == null) {
            return Double.NaN;
        }
        int s = observation.stateOf(sample);
        return known(whatIf).phi(s) / observation.film().settles(s) / observation.sensorBias(sample);
    }
}
