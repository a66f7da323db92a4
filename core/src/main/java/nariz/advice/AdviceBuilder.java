package nariz.advice;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import nariz.build.Kit;
import nariz.build.Part;
import nariz.build.SideName;
import nariz.fit.Banks;
import nariz.fit.Cell;
import nariz.fit.Estimate;
import nariz.fit.Estimator;
import nariz.fit.Flag;
import nariz.fit.Observation;
import nariz.log.DriveLog;
import nariz.model.Circuit;

/** Puts the numbers into an answer with words. */
final class AdviceBuilder {
    /** Fault probability above which parts wait: a check costs minutes, parts for a fault cost hours and mislead. */
    private static final double CHECK_ABOVE = 0.25;
    /** Loss under which a car drives well whatever the cause, in regimes at their tolerance. */
    private static final double WORTH_CHECKING = 0.8;
    private static final double LEAST_SHARE = 0.25;
    private static final double LEAST_READ_S = 2.0;
    private static final double POWER_LOAD = 0.78;
    private static final double DOUBT = 0.16;
    private static final double BANKS_DIFFER = 0.03;

    private final Observation observation;
    private final Estimate estimate;
    private final Scorer scorer;
    private final Decision decision;
    private final List<Hypothesis> causes;
    private final Kit kit;
    private final Optional<Previous> previous;

    AdviceBuilder(Observation observation, Estimate estimate, Scorer scorer, Decision decision,
            List<Hypothesis> causes, Kit kit, Optional<Previous> previous) {
        this.observation = observation;
        this.estimate = estimate;
        this.scorer = scorer;
        this.decision = decision;
        this.causes = causes;
        this.kit = kit;
        this.previous = previous;
    }

    static Advice notEnough(Observation o, Strategy strategy) {
        String sentence = String.format(Locale.ROOT, "Not enough steady running was read: %.0f s, and %.0f s are "
                + "needed. Record the short drive below.", o.steadyS(), Analysis.LEAST_STEADY_S);
        List<CircuitFinding> circuits = new ArrayList<>();
        for (Circuit c : Circuit.values()) {
            circuits.add(new CircuitFinding(c, 1, 0.5, 1.5, 0, Double.NaN, Status.NOT_READ, List.of(), Optional.empty(),
                    drive(c, o)));
        }
        List<String> missing = circuits.stream().filter(c -> c.circuit() != Circuit.PUMP)
                .map(c -> c.circuit().label() + ": " + c.settledBy()).toList();
        return new Advice(Verdict.MORE_DATA, sentence, circuits, List.of(), List.of(), List.of(), stretches(o),
                missing, o.sheet().assumed(), strategy.name(), List.of(), List.of(), List.of(),
                List.of(), sensor(o), Optional.empty());
    }

    Advice build(List<Decision.Step> chosen) {
        List<RegimeError> today = scorer.errors(scorer.today());
        // The two leaks are looked for together; other checks are separate work, and each must be worth it alone.
        double leaks = causes.stream().filter(Hypothesis::leak).mapToDouble(Hypothesis::probability).sum();
        double faults = causes.stream().filter(Hypothesis::fault).mapToDouble(Hypothesis::probability)
                .reduce(leaks, Math::max);
        double none = causes.stream().filter(h -> h.cause().equals(Hypothesis.NONE))
                .mapToDouble(Hypothesis::probability).sum();
        boolean matters = decision.loss(List.of()) > WORTH_CHECKING;
        boolean check = matters && faults > CHECK_ABOVE;
        boolean change = !check && !chosen.isEmpty();
        List<Change> changes = change ? changes(chosen, today) : List.of();
        List<Decision.Step> now = change ? chosen.stream().filter(s -> isNow(changes, s)).toList() : List.of();
        double[] after = now.isEmpty() ? scorer.today()
                : scorer.with(Decision.apply(observation.sheet(), now));
        List<CircuitFinding> circuits = findings(changes, check);
        Verdict verdict = check ? Verdict.CHECK_FIRST : (change ? Verdict.CHANGE : leaveOrRead(today));
        List<String> missing = missing();
        String sentence = sentence(verdict, changes, today, none);
        return new Advice(verdict, sentence, circuits, causes, changes,
                predictions(today, after), stretches(observation), missing, observation.sheet().assumed(),
                scorer.strategy().name(), previous.map(p -> p.score(observation.sheet(), today)).orElse(List.of()),
                notes(),
                new Schools(observation.sheet(), estimate, scorer, decision).all(), banks(), sensor(observation),
                        Optional.of(estimate.carried()));
    }

    private List<String> notes() {
        List<String> out = new ArrayList<>(previous.map(p -> p.notFitted(observation.sheet())).orElse(List.of()));
        Banks.of(observation).ifPresent(b -> {
            bank(out, "at idle", b.idle(), "a one-sided leak or screw");
            bank(out, "at light load", b.light(), "distribution, a one-sided leak or feed");
            bank(out, "under load", b.load(), "distribution or one side's jets; tune to the leaner bank");
        });
        return out;
    }

    private static SensorFinding sensor(Observation o) {
        return new SensorFinding(o.sensorLagS(), 1e3 * o.exhaustVolumeM3());
    }

    private List<BankFinding> banks() {
        List<BankFinding> out = new ArrayList<>();
        for (int bank = 1; bank <= 2; bank++) {
            int number = bank;
            Estimator.ofBank(observation, bank).ifPresent(e -> {
                Map<Circuit, BankFinding.Interval> circuits = new EnumMap<>(Circuit.class);
                for (Circuit c : Circuit.values()) {
                    if (c != Circuit.PUMP && read(c)[1] >= LEAST_READ_S) {
                        circuits.put(c, new BankFinding.Interval(e.correction(c), e.low(c), e.high(c)));
                    }
                }
                out.add(new BankFinding(number, circuits));
            });
        }
        return out;
    }

    private static void bank(List<String> out, String where, double d, String why) {
        if (Math.abs(d) > BANKS_DIFFER) {
            out.add(String.format(Locale.ROOT, "the %s bank reads %.0f %% leaner than the other %s: look for %s",
                    d > 0 ? "second" : "first", 100 * Math.abs(d), where, why));
        }
    }

    private static boolean enrichesIdle(Decision.Step s) {
        boolean idle = s.ladder().part() == Part.MIXTURE_SCREW
                || s.ladder().part() == Part.IDLE_FEED_RESTRICTION;
        return (idle && s.to() > s.from()) || (s.ladder().part() == Part.IDLE_AIR_BLEED && s.to() < s.from());
    }

    private static boolean isNow(List<Change> changes, Decision.Step s) {
        return changes.stream().anyMatch(c -> c.now() && c.part() == s.ladder().part()
                && c.side() == s.ladder().side());
    }

    /** With nothing to change: the drive was wide enough to say so, or it was not. */
    private Verdict leaveOrRead(List<RegimeError> today) {
        return today.size() >= 3 ? Verdict.LEAVE : Verdict.MORE_DATA;
    }

    private List<Change> changes(List<Decision.Step> chosen, List<RegimeError> today) {
        double all = decision.loss(chosen);
        List<Change> out = new ArrayList<>();
        Decision.Step first = chosen.stream().filter(s -> !stop(s)).findFirst().orElse(chosen.getFirst());
        for (Decision.Step s : chosen) {
            List<Decision.Step> others = new ArrayList<>(chosen);
            others.remove(s);
            double gain = decision.loss(others) - all;
            out.add(new Change(s.ladder().part(), s.ladder().side(), s.from(), s.to(), together(first, s),
                    s.ladder().alone(), gain, reasons(s, today), recheck(s), cautions(s, today)));
        }
        return out;
    }

    private static boolean stop(Decision.Step s) {
        return s.ladder().part() == Part.IDLE_STOP;
    }

    /** One change at a time, except what sits behind the same bowl or trims the same circuit. */
    private static boolean together(Decision.Step first, Decision.Step s) {
        Circuit a = Blame.circuit(first.ladder().part(), first.ladder().side());
        Circuit b = Blame.circuit(s.ladder().part(), s.ladder().side());
        return stop(s) || s.equals(first) || s.ladder().together(first.ladder()) || a == b || (a == Circuit.IDLE
                && b == Circuit.TRANSFER)
                || (a == Circuit.MAIN && b == Circuit.POWER);
    }

    private List<String> reasons(Decision.Step s, List<RegimeError> today) {
        if (stop(s)) {
            return List.of(idleSpeed());
        }
        double[] without = scorer.today();
        double[] with = scorer.with(Decision.apply(observation.sheet(), List.of(s)));
        List<String> out = new ArrayList<>();
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
                out.add(String.format(Locale.ROOT, "%s reads lambda %.2f where %.2f is wanted (%s, %.0f s steady)",
                        e.regime().label(), e.lambda(), e.target(), e.words(), e.dwellS()));
            }
        }
        if (out.isEmpty()) {
            out.add("it takes back what the other change overdoes elsewhere");
        }
        return out;
    }

    private String idleSpeed() {
        return String.format(Locale.ROOT, "it idles at %.0f rpm where the sheet wants %.0f",
                estimate.cells().stream().filter(Cell::idle).mapToDouble(Cell::rpm).findFirst().orElse(Double.NaN),
                observation.sheet().engine().idleRpm());
    }

    private static List<String> recheck(Decision.Step s) {
        return switch (s.ladder().part()) {
            case MIXTURE_SCREW -> List.of("idle speed and stop screw", "pump clearance");
            case IDLE_FEED_RESTRICTION, IDLE_AIR_BLEED ->
                    List.of("mixture screws", "idle speed and stop screw", "light cruise");
            case MAIN_JET -> s.ladder().side() == SideName.PRIMARY
                    ? List.of("cruise", "power enrichment amount", "full load") : List.of("full load");
            case FLOAT_LEVEL -> List.of("idle", "main circuit where it starts", "everything else once");
            case IDLE_STOP -> List.of("mixture screws", "pump clearance", "light cruise just off idle");
            case HIGH_SPEED_AIR_BLEED -> List.of("main circuit from low to high airflow", "full load");
            case POWER_VALVE_RATING, STEP_UP_SPRING -> List.of("steady pull as vacuum falls past the new line",
                    "light cruise: it must stay shut there");
            case POWER_CHANNEL_RESTRICTION, METERING_ROD -> List.of("full load", "moderate load just past the line");
        };
    }

    private List<String> cautions(Decision.Step s, List<RegimeError> today) {
        List<String> out = new ArrayList<>();
        if (kit.drills(s.ladder().part(), s.from(), s.to())) {
            out.add("Drilling cannot be undone: go up a drill at a time, read after each, deburr, no chips left in.");
        }
        double leak = causes.stream().filter(h -> h.cause().equals(Hypothesis.VACUUM_LEAK))
                .mapToDouble(Hypothesis::probability).sum();
        if (enrichesIdle(s) && leak > 0.01) {
            out.add(String.format(Locale.ROOT, "A vacuum leak also leans the idle (%.0f %% likely here): look and "
                    + "listen for one before this change.", 100 * leak));
        }
        if (leansTheTop(s, today)) {
            out.add("Rich at the top can be the air cleaner: repeat one pull without it before this change. If it "
                    + "comes right, leave the parts alone.");
        }
        if (s.ladder().bowl()) {
            out.add("Engine cold, no flame, extinguisher at hand: petrol will spill. Catch it, wipe it, leak-check "
                    + "before starting.");
        } else {
            out.add("Open air or extraction while it runs; hands and sleeves off fan and belts.");
        }
        boolean leanPull = today.stream().anyMatch(e -> e.regime().ordinal() >= Regime.POWER.ordinal()
                && e.mean() > 0.05);
        if (leanPull) {
            out.add("Lean under load melts pistons: no full-load pulls until this is right.");
        }
        boolean fullLoad = s.ladder().part() == Part.POWER_CHANNEL_RESTRICTION || s.ladder().side()
                == SideName.SECONDARY || s.ladder().part() == Part.METERING_ROD;
        if (fullLoad) {
            out.add("Full load only on a closed course or rolling road; nobody reads the screen while driving.");
        }
        return out;
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
                    // A change is predicted to about a fifth of its size; what is measured today stays known.
                    double moved = 0.20 * (a.lambda() - b.lambda());
                    double half = Estimate.Z90 * Math.hypot(a.sd() * a.lambda(), moved);
                    out.add(new RegimePrediction(b, a, a.lambda() - half, a.lambda() + half));
                }
            }
        }
        return out;
    }

    private List<CircuitFinding> findings(List<Change> changes, boolean check) {
        List<CircuitFinding> out = new ArrayList<>();
        Circuit first = changes.isEmpty() ? null : Blame.circuit(changes.getFirst());
        for (Circuit c : Circuit.values()) {
            double[] read = read(c);
            boolean blamed = changes.stream().anyMatch(x -> Blame.circuit(x) == c && x.now());
            boolean later = changes.stream().anyMatch(x -> Blame.circuit(x) == c && !x.now());
            double half = 0.5 * (estimate.high(c) - estimate.low(c));
            Status status;
            if (read[1] < LEAST_READ_S || c == Circuit.PUMP) {
                status = Status.NOT_READ;
            } else if (blamed) {
                status = Status.OFF;
            } else if (later) {
                status = Status.WAITING;
            } else if (half > DOUBT || (check && Math.abs(read[0]) > 0.03)) {
                status = Status.IN_DOUBT;
            } else {
                status = Math.abs(read[0]) > 0.05 && first != null ? Status.WAITING : Status.SETTLED;
            }
            String settle = status == Status.NOT_READ || status == Status.IN_DOUBT ? drive(c, observation) : "";
            out.add(new CircuitFinding(c, estimate.correction(c), estimate.low(c), estimate.high(c),
                    read[1] / observation.steadyS(), read[1] > 0 ? read[0] : Double.NaN, status, confounded(c),
                    c == Circuit.MAIN && status != Status.NOT_READ ? estimate.mainSlope() : Optional.empty(), settle));
        }
        return out;
    }

    /** Mean error where the circuit delivers at least a quarter of the fuel, and the steady seconds of that. */
    private double[] read(Circuit c) {
        double seconds = 0;
        double error = 0;
        double weight = 0;
        for (int i = 0; i < estimate.cells().size(); i++) {
            Cell cell = estimate.cells().get(i);
            double share = estimate.share(i, List.of(c));
            // A valve that opens late delivers nothing just where it should: judge it where load asks for it.
            boolean wanted = c == Circuit.POWER && fitsPower() && Strategy.load(cell, observation.sheet()) > POWER_LOAD;
            boolean counts = c == Circuit.POWER ? wanted : share > LEAST_SHARE;
            if (counts) {
                seconds += cell.dwellS();
                double w = Math.min(cell.dwellS(), 10.0);
                error += w * (scorer.targetPhi(i) / estimate.phi(i) - 1.0);
                weight += w;
            }
        }
        return new double[] {weight > 0 ? error / weight : 0.0, seconds};
    }

    private boolean fitsPower() {
        return observation.sheet().carburetor().primary().enrichmentPa() > 0.0;
    }

    private List<String> confounded(Circuit c) {
        List<String> out = new ArrayList<>();
        for (Circuit other : Circuit.values()) {
            if (other != c && other != Circuit.PUMP && Math.abs(estimate.correlation(c, other)) > 0.6) {
                out.add(other.label());
            }
        }
        switch (c) {
            case IDLE, TRANSFER -> out.addAll(List.of("idle air bleed", "vacuum leak when lean"));
            case MAIN -> out.addAll(List.of("fuel level", "high-speed air bleed over a narrow range of airflow"));
            case POWER -> out.add("main jet at full load");
            default -> { }
        }
        return out;
    }

    /** The short drive that reads a circuit. */
    private static String drive(Circuit c, Observation o) {
        double idle = o.sheet().engine().idleRpm();
        double red = o.sheet().engine().redlineRpm();
        double line = o.sheet().carburetor().primary().enrichmentPa() / nariz.units.Units.INHG;
        return switch (c) {
            case IDLE -> String.format(Locale.ROOT, "%.0f s of warm idle at about %.0f rpm", 40.0, idle);
            case TRANSFER -> String.format(Locale.ROOT,
                    "three steady cruises of 20 s each at %.0f to %.0f rpm, vacuum above 16 inHg", 1.7 * idle,
                    2.6 * idle);
            case MAIN -> String.format(Locale.ROOT,
                    "four steady climbs of 10 s each at %.0f to %.0f rpm, vacuum 8 to 13 inHg", 0.42 * red,
                    0.65 * red);
            case POWER -> String.format(Locale.ROOT,
                    "a climb on which vacuum falls slowly from %.0f to %.0f inHg at %.0f rpm, 20 s", line + 2.5,
                    Math.max(1.0, line - 2.5), 0.5 * red);
            case SECONDARY_IDLE -> "not told apart from the primary idle circuit by any drive; block it to see";
            case SECONDARY_MAIN -> String.format(Locale.ROOT,
                    "two full-throttle pulls from %.0f to %.0f rpm, on a closed course or rolling road", 0.45 * red,
                    0.9 * red);
            case PUMP -> "six stabs from closed throttle with the throttle logged";
        };
    }

    private List<String> missing() {
        List<String> out = new ArrayList<>();
        for (Circuit c : List.of(Circuit.IDLE, Circuit.TRANSFER, Circuit.MAIN, Circuit.POWER,
                Circuit.SECONDARY_MAIN)) {
            if ((c != Circuit.POWER || fitsPower()) && read(c)[1] < LEAST_READ_S) {
                out.add(c.label() + ": " + drive(c, observation));
            }
        }
        return out;
    }

    private String sentence(Verdict verdict, List<Change> changes, List<RegimeError> today, double none) {
        return switch (verdict) {
            case CHANGE -> changeSentence(changes.stream().filter(c -> c.part() != Part.IDLE_STOP).findFirst()
                    .orElse(changes.getFirst()), today);
            case CHECK_FIRST -> checkSentence();
            case LEAVE -> "Leave it alone: no change on the ladder would improve this carburetor by more than it "
                    + "costs" + (none > 0.5 ? ", and what is left is what healthy carburetors show." : ".");
            case MORE_DATA -> "Too few ways of running were read for a verdict. Record the short drive below.";
        };
    }

    private String changeSentence(Change c, List<RegimeError> today) {
        if (c.part() == Part.IDLE_STOP) {
            String speed = idleSpeed();
            return Character.toUpperCase(speed.charAt(0)) + speed.substring(1) + ": turn the stop screw "
                    + c.part().text(c.to()) + ".";
        }
        Circuit circuit = Blame.circuit(c);
        RegimeError worst = null;
        double[] with = scorer.with(c.part().fit(observation.sheet(), c.side(), c.to()));
        double best = 0;
        List<RegimeError> then = scorer.errors(with);
        for (int i = 0; i < today.size(); i++) {
            double gain = Math.abs(today.get(i).mean()) - Math.abs(then.get(i).mean());
            if (gain > best) {
                best = gain;
                worst = today.get(i);
            }
        }
        String how = worst == null ? "off" : worst.words() + " at " + worst.regime().label();
        double p = causes.stream().filter(h -> h.cause().equals(Hypothesis.CALIBRATION))
                .mapToDouble(Hypothesis::probability).sum();
        String sure = p > 0.9 ? "" : (p > 0.6 ? " This is likely, not certain." : " Other causes are possible.");
        return "The " + circuit.label() + " circuit is " + how + ": change the "
                + (c.part().whole() ? "" : c.side().key() + " ") + c.part().label() + " from "
                + c.part().text(c.from()) + " to " + c.part().text(c.to()) + "." + sure;
    }

    private String checkSentence() {
        Hypothesis h = causes.stream().filter(Hypothesis::fault).findFirst().orElseThrow();
        Hypothesis second = causes.stream().filter(Hypothesis::fault).skip(1).findFirst().orElse(h);
        String also = !second.equals(h) && second.probability() > 0.5 * h.probability()
                ? " or " + second.label() : "";
        String a = "aeiou".indexOf(h.label().charAt(0)) >= 0 ? "an " : "a ";
        return "Check before you buy parts: " + a + h.label() + also + " would read like this, and no fuel part "
                + "cures it.";
    }

    static List<FlagStretch> stretches(Observation o) {
        DriveLog log = o.log();
        List<FlagStretch> out = new ArrayList<>();
        double[] t = log.timeS();
        double all = Math.max(log.durationS(), 1e-9);
        int from = 0;
        for (int i = 1; i <= log.size(); i++) {
            if (i == log.size() || o.flag(i) != o.flag(from)) {
                double to = t[Math.min(i, log.size() - 1)];
                if (o.flag(from) != Flag.STEADY && to > t[from]) {
                    out.add(new FlagStretch(o.flag(from), t[from], to, (to - t[from]) / all));
                }
                from = i;
            }
        }
        return out;
    }
}
