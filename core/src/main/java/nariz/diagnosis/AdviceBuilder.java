package nariz.diagnosis;

import static nariz.text.Message.message;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Circuit;
import nariz.carburetor.Family;
import nariz.carburetor.Kit;
import nariz.carburetor.Ladder;
import nariz.carburetor.Needle;
import nariz.carburetor.Part;
import nariz.carburetor.Stage;
import nariz.dynamics.OpeningStudy;
import nariz.dynamics.SecondStageStudy;
import nariz.estimation.Banks;
import nariz.estimation.Cell;
import nariz.estimation.Estimate;
import nariz.estimation.Estimator;
import nariz.estimation.Flag;
import nariz.estimation.Observation;
import nariz.text.Message;

/** Puts the numbers into an answer with words. */
final class AdviceBuilder {
    /** What a change gains in further events is told from this on, lambda s. */
    private static final double LEAST_AREA = 0.01;
    private static final double MOSTLY = 0.5;
    /** A change is predicted to this share of its size. */
    private static final double EFFECT_SD = 0.2;
    /** How far two drives read apart with nothing changed, share of lambda: roads, and a sensor that wanders. */
    private static final double NEXT_DRIVE_SD = 0.005;
    private static final long SLACK_PERCENT = 15;
    private static final double BANKS_DIFFER = 0.03;

    private final Observation observation;
    private final Estimate estimate;
    private final Scorer scorer;
    private final Decision decision;
    private final CausePosterior posterior;
    private final List<Hypothesis> causes;
    private final List<String> checks;
    private final Kit kit;
    private final Optional<Previous> previous;
    private Optional<SharedFullLoad.Tie> untold = Optional.empty();
    private Optional<OpeningStudy.Finding> pump = Optional.empty();
    private int openings;
    private List<UnderFault> faults = List.of();
    private DriveDynamics dynamics = DriveDynamics.NONE;

    AdviceBuilder(Observation observation, Estimate estimate, Scorer scorer, Decision decision,
            CausePosterior posterior, List<String> checks, Kit kit, Optional<Previous> previous) {
        this.observation = observation;
        this.estimate = estimate;
        this.scorer = scorer;
        this.decision = decision;
        this.posterior = posterior;
        causes = posterior.causes();
        this.checks = checks;
        this.kit = kit;
        this.previous = previous;
    }

    static Advice notEnough(Observation o, Strategy strategy) {
        Message sentence = o.steadyS() < Analysis.LEAST_STEADY_S ? message("advice-builder.not-enough-steady-running",
                o.steadyS(), Analysis.LEAST_STEADY_S).then(mostly(o)) : message("advice-builder.too-few-places",
                o.cells().size(), Analysis.FEWEST_CELLS);
        List<CircuitFinding> circuits = new ArrayList<>();
        for (Circuit c : o.sheet().carburetor().family().circuits()) {
            circuits.add(new CircuitFinding(c, 1, 0.5, 1.5, 0, Double.NaN, Status.NOT_READ, List.of(),
                    Optional.empty(), message("doubt.hardly-used"),
                    CircuitFindings.drive(c, o)));
        }
        List<Message> missing = circuits.stream().filter(c -> c.circuit().role() != Circuit.Role.PUMP)
                .map(c -> CircuitFindings.named(c.circuit(), c.settledBy())).toList();
        return new Advice(Verdict.MORE_DATA, sentence, circuits, List.of(), List.of(), List.of(), FlagStretch.of(o),
                missing, o.sheet().assumed(), strategy.name(), List.of(), Remarks.of(o), List.of(),
                List.of(), sensor(o), List.of(), Optional.empty(), Optional.empty(), DriveDynamics.NONE,
                o.log().unread(), Optional.empty(), Optional.empty());
    }

    /** Which parts another would read like, and the pull that tells. */
    AdviceBuilder untold(Optional<SharedFullLoad.Tie> tie) {
        untold = tie;
        return this;
    }

    /** What the circuits give under faults that may be there. */
    AdviceBuilder under(List<UnderFault> some) {
        faults = List.copyOf(some);
        return this;
    }

    /** What the openings of the throttle and other moving moments showed. */
    AdviceBuilder moments(int usable, Optional<OpeningStudy.Finding> ofOpenings, DriveDynamics others) {
        openings = usable;
        pump = ofOpenings;
        dynamics = others;
        return this;
    }

    /** What most of the log is, where that is nothing that counts. */
    private static Message mostly(Observation o) {
        Map<Flag, Double> shares = new EnumMap<>(Flag.class);
        FlagStretch.of(o).forEach(s -> shares.merge(s.kind(), s.share(), Double::sum));
        return shares.entrySet().stream().max(Map.Entry.comparingByValue()).filter(e -> e.getValue() > MOSTLY)
                .map(e -> Message.literal(" ").then(message("advice-builder.mostly", e.getKey().label(),
                100 * e.getValue())))
                .orElse(Message.NONE);
    }

    Advice build(List<Decision.Step> chosen) {
        List<RegimeError> today = scorer.errors(scorer.today());
        boolean check = !checks.isEmpty();
        boolean change = !check && !chosen.isEmpty();
        List<Change> changes = change ? changes(chosen, today) : List.of();
        List<Decision.Step> now = change ? chosen.stream().filter(s -> isNow(changes, s)).toList() : List.of();
        double[] after = now.isEmpty() ? scorer.today()
                : scorer.with(Decision.apply(observation.sheet(), now));
        Optional<AwaitedPull> awaited = untold.map(SharedFullLoad.Tie::pull);
        CircuitFindings found = circuitFindings().leaving(check || change || awaited.isPresent() ? List.of()
                : OffTarget.inTheMean(today));
        List<CircuitFinding> circuits = found.of(changes, check ? Optional.of(posterior.ofFaults(checks))
                : Optional.empty(), probability(checks) > 0.5, pump, openings);
        Verdict otherwise = check ? Verdict.CHECK_FIRST : change ? Verdict.CHANGE : awaited.isPresent()
                ? Verdict.MORE_DATA : leaveOrRead(today);
        Optional<Hypothesis> look = otherwise == Verdict.LEAVE ? lookAtThePump() : Optional.empty();
        Verdict verdict = look.isPresent() ? Verdict.CHECK_FIRST : otherwise;
        List<Hypothesis> hypotheses = new ArrayList<>(causes);
        look.ifPresent(hypotheses::addFirst);
        List<Message> missing = new ArrayList<>(found.missing());
        awaited.ifPresent(p -> missing.add(0, message("advice-builder.to-tell-apart", p.text())));
        Message sentence = look.map(h -> lookSentence(h, today)).orElseGet(() -> sentence(verdict, changes,
                today));
        return new Advice(verdict, sentence, circuits, hypotheses, changes,
                predictions(today, after), FlagStretch.of(observation), missing, observation.sheet().assumed(),
                scorer.strategy().name(), previous.map(p -> p.score(observation.sheet(), today)).orElse(List.of()),
                notes(),
                new RulesOfThumb(observation.sheet(), estimate, scorer, decision, dynamics.enrichment()).all(),
                banks(), sensor(observation), previous.map(Previous::since).orElse(List.of()),
                Optional.of(estimate.carried()), pump, dynamics,
                observation.log().unread(), NeedleProfile.of(observation.sheet(), estimate, scorer), awaited);
    }

    private List<Message> notes() {
        List<Message> out = new ArrayList<>(previous.map(p -> p.notFitted(observation.sheet())).orElse(List.of()));
        Banks.of(observation).ifPresent(b -> {
            bank(out, message("advice-builder.at-idle"), b.idle(), message("advice-builder.a-one-sided-leak"));
            bank(out, message("advice-builder.at-light-load"), b.light(),
                    message("advice-builder.distribution-a-one-sided"));
            bank(out, message("advice-builder.under-load"), b.load(), message(
                    "advice-builder.distribution-or-one-side"));
        });
        screwsAtTheirEnd().ifPresent(out::add);
        out.addAll(Remarks.of(observation));
        return out;
    }

    /** Screws that are out as far as they do anything, on an idle that still reads lean. */
    private Optional<Message> screwsAtTheirEnd() {
        return Ladder.of(observation.sheet()).stream().filter(l -> l.part().role() == Part.Role.IDLE_MIXTURE
                && l.stage() == Stage.PRIMARY && l.fitted(observation.sheet()) >= l.high() - 1e-9).findFirst()
                .map(l -> message("advice-builder.screws-at-their-end", l.part().text(l.fitted(observation.sheet()))));
    }

    private static SensorFinding sensor(Observation o) {
        return new SensorFinding(o.sensorLagS(), 1e3 * o.exhaustVolumeM3());
    }

    private CircuitFindings circuitFindings() {
        return new CircuitFindings(observation, estimate, scorer, faults);
    }

    private List<BankFinding> banks() {
        CircuitFindings found = circuitFindings();
        List<BankFinding> out = new ArrayList<>();
        for (int bank = 1; bank <= 2; bank++) {
            int number = bank;
            Estimator.ofBank(observation, bank).ifPresent(e -> {
                Map<Circuit, BankFinding.Interval> circuits = new LinkedHashMap<>();
                for (Circuit c : family().circuits()) {
                    if (c.role() != Circuit.Role.PUMP && found.used(c)) {
                        circuits.put(c, new BankFinding.Interval(e.correction(c), e.low(c), e.high(c)));
                    }
                }
                out.add(new BankFinding(number, circuits));
            });
        }
        return out;
    }

    private static void bank(List<Message> out, Message where, double d, Message why) {
        if (Math.abs(d) > BANKS_DIFFER) {
            out.add(message("advice-builder.the-bank-reads-leaner",
                    d > 0 ? message("advice-builder.second") : message("advice-builder.first"), 100 * Math.abs(d),
                    where, why));
        }
    }

    private boolean enrichesIdle(Decision.Step s) {
        Part p = s.ladder().part();
        boolean lowSpeed = family().trims(p, s.ladder().stage()).lowSpeed() && !stop(s);
        return lowSpeed && p.enriches(s.from(), s.to());
    }

    private Family family() {
        return observation.sheet().carburetor().family();
    }

    private static boolean isNow(List<Change> changes, Decision.Step s) {
        return changes.stream().anyMatch(c -> c.now() && c.part().equals(s.ladder().part())
                && c.side() == s.ladder().stage());
    }

    /** With nothing to change: the drive was wide enough to say so, or it was not. */
    private Verdict leaveOrRead(List<RegimeError> today) {
        return today.size() >= 3 ? Verdict.LEAVE : Verdict.MORE_DATA;
    }

    /** Slack at the pump's arm that is not likely enough to be taken up unseen: a feeler gauge tells in minutes. */
    private Optional<Hypothesis> lookAtThePump() {
        return pump.filter(f -> f.look().isPresent()).map(f -> new Hypothesis(Hypothesis.PUMP_SLACK, message(
                "hypotheses.pump-slack"), f.causes().getOrDefault(OpeningStudy.Cause.SLACK, 0.0), Message.join("; ",
                openingsSay(f)), message("hypotheses.look-at-the-arm")));
    }

    private Message lookSentence(Hypothesis look, List<RegimeError> today) {
        Message first = message("advice-builder.look-at-the-pump", look.percent());
        return scorer.fine() ? first : first.then(Message.literal(" ")).then(message("advice-builder.mixture-for-now",
                OffTarget.words(today)));
    }

    private List<Change> changes(List<Decision.Step> chosen, List<RegimeError> today) {
        double all = decision.loss(chosen);
        List<Change> out = new ArrayList<>();
        Decision.Step first = chosen.stream().filter(s -> !stop(s)).findFirst().orElse(chosen.getFirst());
        for (Decision.Step s : chosen) {
            List<Decision.Step> others = new ArrayList<>(chosen);
            others.remove(s);
            double gain = decision.loss(others) - all;
            out.add(new Change(s.ladder().part(), s.ladder().stage(), circuit(s), s.from(), s.to(), together(first, s),
                    s.ladder().alone(), gain, reasons(s, today), recheck(s), cautions(s, today),
                    s.ladder().part().profile().isEmpty() ? s.ladder().part().each(observation.sheet().carburetor(),
                    s.ladder().stage()) : List.of(), profile(chosen, s)));
        }
        return out;
    }

    /** The whole profile of which a part is a band, with all that is chosen of it. */
    private Optional<Change.Profile> profile(List<Decision.Step> chosen, Decision.Step s) {
        Part part = s.ladder().part();
        if (part.profile().isEmpty()) {
            return Optional.empty();
        }
        BuildSheet then = Decision.apply(observation.sheet(), chosen.stream().filter(x -> x.ladder().part().profile()
                .equals(part.profile())).toList());
        double spacing = family().needle(observation.sheet()).map(Needle::spacingM).orElse(Double.NaN);
        return Optional.of(new Change.Profile(part.profile(), spacing, part.each(observation.sheet().carburetor(),
                s.ladder().stage()), part.each(then.carburetor(), s.ladder().stage())));
    }

    private static boolean stop(Decision.Step s) {
        return s.ladder().part().role() == Part.Role.IDLE_STOP;
    }

    /** One change at a time, except what sits behind the same bowl or trims the same circuit. */
    private boolean together(Decision.Step first, Decision.Step s) {
        Circuit a = circuit(first);
        Circuit b = circuit(s);
        boolean next = a.stage() == b.stage() && ((a.role() == Circuit.Role.IDLE
                && b.role() == Circuit.Role.PROGRESSION) || (a.role() == Circuit.Role.METERING
                && b.role() == Circuit.Role.ENRICHMENT));
        return stop(s) || s.equals(first) || s.ladder().together(first.ladder()) || a.equals(b) || next;
    }

    private Circuit circuit(Decision.Step s) {
        return family().trims(s.ladder().part(), s.ladder().stage());
    }

    private List<Message> reasons(Decision.Step s, List<RegimeError> today) {
        if (stop(s)) {
            return List.of(idleSpeed());
        }
        if (s.ladder().part().role().pump()) {
            return pump.map(AdviceBuilder::openingsSay).orElse(List.of());
        }
        if (s.ladder().part().role().second()) {
            return dynamics.ofSecondStage();
        }
        double[] without = scorer.today();
        double[] with = scorer.with(Decision.apply(observation.sheet(), List.of(s)));
        List<Message> out = new ArrayList<>();
        for (RegimeError e : today) {
            double moved = 0;
            int n = 0;
            for (int i = 0; i < with.length; i++) {
                if (scorer.regime(i) == e.regime()) {
                    moved += with[i] / without[i] - 1.0;
                    n++;
                }
            }
            if (n > 0 && Math.abs(moved / n) > 0.01 && Math.abs(e.mean()) > 0.015
                    && Math.signum(moved) == Math.signum(e.mean())) {
                out.add(e.sentence());
            }
        }
        if (s.ladder().part().role() == Part.Role.ENRICHMENT_OPENING && s.ladder().stage() == Stage.PRIMARY) {
            dynamics.lineCosts(s.to() > s.from()).ifPresent(out::add);
        }
        if (out.isEmpty()) {
            out.add(message("advice-builder.it-takes-back-what"));
        }
        untold.filter(t -> t.steps().contains(s)).ifPresent(t -> out.add(message("advice-builder.likelier-of-two",
                t.other().label())));
        return out;
    }

    private static List<Message> openingsSay(OpeningStudy.Finding f) {
        List<Message> out = new ArrayList<>();
        out.add(message("pump.lean-area", f.felt(), f.lean()[0], f.lean()[1], f.lean()[2], f.leanAfter()[0],
                f.leanAfter()[1], f.leanAfter()[2]));
        if (f.answered() == OpeningStudy.Cause.SLACK && f.others().lean() - f.others().leanAfter() > LEAST_AREA) {
            out.add(message("pump.gentle-area", f.others().count(), f.others().lean(), f.others().leanAfter()));
        }
        if (f.hidden() > 0.05) {
            out.add(message("pump.lag-hides", 100 * f.hidden()));
        }
        return out;
    }

    private Message idleSpeed() {
        return message("advice-builder.it-idles-at-rpm", idleRpm(), observation.sheet().engine().idleRpm());
    }

    private double idleRpm() {
        return estimate.cells().stream().filter(Cell::idle).mapToDouble(Cell::rpm).findFirst().orElse(Double.NaN);
    }

    private static List<Message> recheck(Decision.Step s) {
        return s.ladder().part().recheck(s.ladder().stage()).stream().map(k -> message(k)).toList();
    }

    private List<Message> cautions(Decision.Step s, List<RegimeError> today) {
        List<Message> out = new ArrayList<>();
        slackFirst(s).ifPresent(out::add);
        if (kit.drills(s.ladder().part(), s.from(), s.to())) {
            out.add(message("advice-builder.drilling-cannot-be-undone"));
        }
        double leak = probability(List.of(Hypothesis.VACUUM_LEAK));
        if (enrichesIdle(s) && leak > 0.01) {
            out.add(message("advice-builder.a-vacuum-leak-also", 100 * leak));
        }
        if (leansTheTop(s, today)) {
            out.add(message("advice-builder.rich-at-the-top"));
        }
        if (s.ladder().bowl()) {
            out.add(message("advice-builder.engine-cold-no-flame"));
        } else {
            out.add(message("advice-builder.open-air-or-extraction"));
        }
        boolean leanPull = today.stream().anyMatch(e -> e.regime().ordinal() >= Regime.POWER.ordinal()
                && e.mean() > 0.05);
        if (leanPull) {
            out.add(message("advice-builder.lean-under-load-melts"));
        }
        boolean fullLoad = s.ladder().part().role() == Part.Role.ENRICHMENT_AMOUNT || s.ladder().stage()
                == Stage.SECONDARY || s.ladder().part().role().second();
        if (fullLoad) {
            out.add(message("advice-builder.full-load-only-on"));
        }
        return out;
    }

    /** Slack costs a feeler gauge and no part: it is looked at before anything of the pump is undone. */
    private Optional<Message> slackFirst(Decision.Step s) {
        boolean undoes = s.ladder().part().role().pump() && s.ladder().part().role() != Part.Role.PUMP_START;
        return pump.map(f -> f.percent(OpeningStudy.Cause.SLACK)).filter(p -> undoes && p >= SLACK_PERCENT).map(p ->
                message("advice-builder.look-at-the-arm-first", p));
    }

    /** Whether a change takes fuel away where the engine draws most and reads rich. */
    private boolean leansTheTop(Decision.Step s, List<RegimeError> today) {
        Optional<RegimeError> full = today.stream().filter(e -> e.regime() == Regime.FULL).findFirst();
        if (full.isEmpty() || full.get().mean() > -0.03) {
            return false;
        }
        return scorer.errors(scorer.with(Decision.apply(observation.sheet(), List.of(s)))).stream()
                .filter(e -> e.regime() == Regime.FULL).anyMatch(e -> e.mean() > full.get().mean() + 0.015);
    }

    private List<RegimePrediction> predictions(List<RegimeError> today, double[] after) {
        return predictions(today, scorer.errors(after));
    }

    static List<RegimePrediction> predictions(List<RegimeError> today, List<RegimeError> then) {
        List<RegimePrediction> out = new ArrayList<>();
        for (RegimeError b : today) {
            for (RegimeError a : then) {
                if (a.regime() == b.regime()) {
                    // The next drive is read by the same sensor: what it is off by throughout stays as it is.
                    double read = Math.hypot(a.sdForSensor(), NEXT_DRIVE_SD) * a.lambda();
                    double half = Estimate.Z90 * Math.hypot(read, EFFECT_SD * (a.lambda() - b.lambda()));
                    out.add(new RegimePrediction(b, a, a.lambda() - half, a.lambda() + half));
                }
            }
        }
        return out;
    }

    private Message sentence(Verdict verdict, List<Change> changes, List<RegimeError> today) {
        return switch (verdict) {
            case CHANGE -> changeSentence(changes.stream().filter(c -> c.part().role() != Part.Role.IDLE_STOP)
                    .findFirst()
                    .orElse(changes.getFirst()), today);
            case CHECK_FIRST -> checkSentence();
            case LEAVE -> scorer.fine() ? message("advice-builder.leave-it-alone-no",
                    message("advice-builder.and-what-is-left")) : message("advice-builder.leave-for-now",
                    OffTarget.words(today));
            case MORE_DATA -> untold.map(t -> message("advice-builder.reads-alike", OffTarget.worst(today), t.pull()
                    .text()))
                    .orElse(message("advice-builder.too-few-ways-of"));
        };
    }

    private Message changeSentence(Change c, List<RegimeError> today) {
        if (c.part().role() == Part.Role.IDLE_STOP) {
            return message("advice-builder.turn-the-stop-screw", idleRpm(), observation.sheet().engine().idleRpm(),
                    c.part().text(c.to()));
        }
        if (c.part().role().pump()) {
            OpeningStudy.Cause cause = pump.map(OpeningStudy.Finding::answered).orElse(OpeningStudy.Cause.SOUND);
            return message("advice-builder.pump-change", cause.label(), pump.map(f -> f.percent(cause))
                    .orElse(0L), c.title());
        }
        if (c.part().role().second()) {
            return message("advice-builder.second-later", dynamics.second().map(f -> f.felt().size()).orElse(0),
                    dynamics.second().map(SecondStageStudy.Finding::rolling).orElse(0L), c.title());
        }
        Circuit circuit = c.circuit();
        Message how = repaired(scorer.errors(scorer.with(c.part().fit(observation.sheet(), c.side(), c.to()))), today);
        double p = probability(List.of(Hypothesis.CALIBRATION));
        Message sure = p > 0.9 ? Message.NONE : (p > 0.6 ? message("advice-builder.this-is-likely-not")
                : message("advice-builder.other-causes-are-possible"));
        return message("advice-builder.the-circuit-is-change", circuit.label(), how, c.part().named(c.side()), c.part()
                .text(c.from()), c.part().text(c.to()), sure);
    }

    /** The ways of running that a change brings nearer to target, those on the side of the one it helps most. */
    private static Message repaired(List<RegimeError> then, List<RegimeError> today) {
        double best = 0;
        double side = 0;
        for (int i = 0; i < today.size(); i++) {
            if (gain(then.get(i), today.get(i)) > best) {
                best = gain(then.get(i), today.get(i));
                side = Math.signum(today.get(i).mean());
            }
        }
        List<RegimeError> where = new ArrayList<>();
        for (int i = 0; i < today.size(); i++) {
            RegimeError e = today.get(i);
            double gain = gain(then.get(i), e);
            boolean told = Math.abs(e.mean()) >= OffTarget.LEAST_TOLD || gain == best;
            if (told && gain > Math.min(0.01, 0.99 * best) && Math.signum(e.mean()) == side) {
                where.add(e);
            }
        }
        return where.isEmpty() ? message("advice-builder.off") : OffTarget.side(where, side > 0);
    }

    private static double gain(RegimeError then, RegimeError today) {
        return Math.abs(today.mean()) - Math.abs(then.mean());
    }

    private Message checkSentence() {
        Hypothesis h = causes.stream().filter(c -> checks.contains(c.cause())).findFirst().orElseThrow();
        Hypothesis second = causes.stream().filter(Hypothesis::fault).filter(c -> !c.equals(h)).findFirst().orElse(h);
        Message also = !second.equals(h) && second.probability() > 0.3 * h.probability()
                ? message("advice-builder.or", second.label()) : Message.NONE;
        double parts = probability(List.of(Hypothesis.CALIBRATION));
        double looked = probability(checks);
        Message fault = message("a-cause." + h.cause()).then(also);
        return looked < parts ? message("advice-builder.check-though-parts", fault, Hypothesis.percent(looked),
                Hypothesis.percent(parts))
                : message("advice-builder.check-before-you-buy", fault);
    }

    /** Of some causes together. */
    private double probability(List<String> of) {
        return causes.stream().filter(h -> of.contains(h.cause())).mapToDouble(Hypothesis::probability).sum();
    }
}
