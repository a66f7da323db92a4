package nariz.exam;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.ToDoubleFunction;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Circuit;
import nariz.diagnosis.Advice;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Change;
import nariz.diagnosis.CircuitFinding;
import nariz.diagnosis.Hypothesis;
import nariz.diagnosis.Previous;
import nariz.diagnosis.Regime;
import nariz.diagnosis.Request;
import nariz.diagnosis.RegimePrediction;
import nariz.diagnosis.Status;
import nariz.diagnosis.Strategy;
import nariz.diagnosis.Verdict;
import nariz.estimation.Calibrated;
import nariz.estimation.Cell;
import nariz.log.DriveLog;
import nariz.sim.Fault;
import nariz.sim.SimulatedDrive;

/**
 * One case put through rounds of advise, apply and drive again, as a tuner would: a check that is asked for is made and
 * reported; a pull that an answer waits for is driven; what is proposed for now is fitted; nothing else is.
 */
final class Examination {
    /** Rounds after which a tuner gives up. */
    static final int MOST_ROUNDS = 5;
    /** A hidden error whose repair gains this share of the worst one's is as good an answer. */
    private static final double AS_BAD = 0.6;
    private static final double LEAST_PHI = 0.02;
    /** Seed of the noise of a drive that was asked for, from that of the first. */
    private static final long ASKED = 500L;
    private static final List<String> CHECKED = Hypothesis.FAULTS;

    private final PracticeCase paper;
    private final Outcome outcome;
    private Truth truth;

    /** What came out of a case. */
    static final class Outcome {
        final PracticeCase paper;
        final List<String> answers = new ArrayList<>();
        boolean rightCircuit;
        boolean rightPart;
        boolean checkFirst;
        boolean namedFault;
        boolean needless;
        boolean wrongWay;
        boolean tuned;
        /** Whether a pull was asked for before anything was changed. */
        boolean asked;
        int rounds;
        int circuitsIn;
        int circuits;
        int regimesIn;
        int regimes;
        int effectsIn;
        int effects;
        int promisesIn;
        int promises;
        /** Rounds whose predictions were held against the next drive. */
        int kept;
        final Map<Circuit, int[]> byCircuit = new HashMap<>();

        Outcome(PracticeCase paper) {
            this.paper = paper;
        }

        boolean right() {
            if (!paper.errors().isEmpty()) {
                return rightCircuit && !wrongWay;
            }
            return paper.faults().isEmpty() ? !needless || !paper.sound() : checkFirst && !needless;
        }
    }

    private Examination(PracticeCase paper) {
        this.paper = paper;
        outcome = new Outcome(paper);
    }

    static Outcome sit(PracticeCase paper) {
        Examination e = new Examination(paper);
        e.rounds();
        return e.outcome;
    }

    private void rounds() {
        BuildSheet sheet = paper.fitted();
        List<String> checked = List.of();
        SimulatedDrive drive = paper.drive();
        DriveLog log = drive.log();
        Optional<Previous> previous = Optional.empty();
        while (outcome.rounds < MOST_ROUNDS) {
            Analysis a = analysed(sheet, log, checked, previous);
            if (truth == null) {
                truth = Truth.of(a.observation(), drive, paper.seed(), paper.faults(), paper.stranger());
                coverage(a, sheet);
            }
            outcome.answers.add(answer(a.advice()));
            promises(a.advice());
            if (a.advice().verdict() == Verdict.CHECK_FIRST && checked.isEmpty()) {
                outcome.checkFirst = true;
                outcome.namedFault = named(a.advice());
                if (!paper.faults().isEmpty()) {
                    return;
                }
                checked = CHECKED;
                continue;
            }
            if (a.advice().verdict() == Verdict.MORE_DATA && a.advice().awaited().isPresent() && !outcome.asked) {
                outcome.asked = true;
                previous = Previous.of(a.advice());
                drive = paper.driveWithPulls(sheet, paper.seed() + ASKED);
                log = drive.log();
                continue;
            }
            if (a.advice().verdict() != Verdict.CHANGE) {
                break;
            }
            judge(a.advice());
            if (paper.errors().isEmpty()) {
                outcome.needless = true;
                return;
            }
            sheet = a.sheetAfter();
            previous = Previous.of(a.advice());
            outcome.rounds++;
            effects(a, Truth.of(a.observation(), drive, paper.seed(), paper.faults(), paper.stranger()).phi(sheet));
            drive = paper.drive(sheet, paper.seed() + 1000L * outcome.rounds);
            log = drive.log();
            if (truth.tuned(sheet, paper.healthy())) {
                promises(analysed(sheet, log, checked, previous).advice());
                break;
            }
        }
        outcome.tuned = truth.tuned(sheet, paper.healthy());
        // On the day of the drive the car may be within tolerance after all: then leaving it is the right answer.
        outcome.rightCircuit |= outcome.rounds == 0 && outcome.tuned;
    }

    private static Analysis analysed(BuildSheet sheet, DriveLog log, List<String> checked,
            Optional<Previous> previous) {
        return Analysis.of(Request.of(sheet, log, Strategy.BALANCED).withRuledOut(checked).withPrevious(previous), () ->
                false);
    }

    static String answer(Advice a) {
        if (a.verdict() == Verdict.CHANGE) {
            return String.join("; ", a.changes().stream().filter(Change::now).map(c -> c.title().toString()).toList());
        }
        return a.verdict().key() + (a.verdict() == Verdict.CHECK_FIRST ? " (" + a.hypotheses().stream()
                .filter(Hypothesis::fault).findFirst().map(h -> h.label().toString()).orElse("?") + ")" : "");
    }

    private boolean named(Advice a) {
        return paper.faults().keySet().stream().limit(1).anyMatch(f -> named(a, cause(f)));
    }

    /** Key of the cause that a fault is known by. */
    static String cause(Fault fault) {
        return switch (fault) {
            case VACUUM_LEAK -> Hypothesis.VACUUM_LEAK;
            case EXHAUST_LEAK -> Hypothesis.EXHAUST_LEAK;
            case SENSOR_OFFSET -> "sensor-offset";
            case FALLING_FUEL_LEVEL -> "fuel-starvation";
            case AIR_CLEANER -> "air-cleaner";
            case MISFIRE -> "misfire";
        };
    }

    /** Whether a cause is named: two leaks cannot be told apart for certain, so among the first two faults counts. */
    static boolean named(Advice a, String cause) {
        return a.hypotheses().stream().filter(Hypothesis::fault).limit(2).anyMatch(h -> h.cause().equals(cause));
    }

    private void judge(Advice a) {
        if (outcome.rounds > 0 || paper.errors().isEmpty()) {
            wrongWay(a);
            return;
        }
        Change first = a.changes().getFirst();
        List<PracticeCase.Misfit> worst = worst(paper.errors(), paper.fitted(), truth::loss);
        outcome.rightCircuit = worst.stream().anyMatch(e -> trimmed(e).sharesFeed(first.circuit()));
        outcome.rightPart = worst.stream().anyMatch(e -> e.part().equals(first.part()) && e.side() == first.side());
        wrongWay(a);
    }

    private Circuit trimmed(PracticeCase.Misfit e) {
        return paper.fitted().carburetor().family().trims(e.part(), e.side());
    }

    /**
     * The error whose repair gains most, and those that gain nearly as much.
     *
     * @param errors what is hidden
     * @param fitted sheet with it
     * @param loss of a sheet, by the truth
     * @return those whose blame is right
     */
    static List<PracticeCase.Misfit> worst(List<PracticeCase.Misfit> errors, BuildSheet fitted,
            ToDoubleFunction<BuildSheet> loss) {
        double now = loss.applyAsDouble(fitted);
        Map<PracticeCase.Misfit, Double> gain = new HashMap<>();
        for (PracticeCase.Misfit e : errors) {
            gain.put(e, now - loss.applyAsDouble(e.part().fit(fitted, e.side(), e.healthy())));
        }
        double most = gain.values().stream().max(Comparator.naturalOrder()).orElse(0.0);
        return errors.stream().filter(e -> gain.getOrDefault(e, 0.0) >= AS_BAD * most).toList();
    }

    /** Whether what is to be done now moves a part away from where a hidden error has it. */
    static boolean wrongWay(Advice a, List<PracticeCase.Misfit> errors) {
        return a.changes().stream().filter(Change::now)
                .anyMatch(x -> errors.stream().anyMatch(e -> e.part().equals(x.part()) && e.side() == x.side()
                        && Math.signum(x.to() - x.from()) != Math.signum(e.healthy() - e.fitted())));
    }

    /** Away from where a hidden error's part should be, in the first round, when nothing else has been moved yet. */
    private void wrongWay(Advice a) {
        outcome.wrongWay |= outcome.rounds == 0 && wrongWay(a, paper.errors());
    }

    private void coverage(Analysis a, BuildSheet sheet) {
        if (!a.estimated()) {
            return;
        }
        List<Cell> cells = a.observation().cells();
        double[][] phi = truth.phi(sheet);
        double[][] said = Calibrated.standard(sheet).phi(sheet, cells);
        for (CircuitFinding c : a.advice().circuits()) {
            double mean = 0;
            for (double[] p : said) {
                mean += p[c.circuit().index()] / said.length;
            }
            if (c.status() != Status.NOT_READ && c.circuit().role() != Circuit.Role.PUMP && mean > LEAST_PHI) {
                double k = truth.correction(phi, said, c.circuit(), sheet.carburetor().family()
                        .bands().isPresent());
                boolean in = k >= c.low() && k <= c.high();
                outcome.circuits++;
                outcome.circuitsIn += in ? 1 : 0;
                int[] n = outcome.byCircuit.computeIfAbsent(c.circuit(), x -> new int[2]);
                n[0] += in ? 1 : 0;
                n[1]++;
            }
        }
        for (RegimePrediction p : a.advice().predicted()) {
            double is = lambda(a, phi, p.before().regime());
            double half = nariz.estimation.Estimate.Z90 * p.before().sd() * p.before().lambda();
            outcome.regimes++;
            outcome.regimesIn += Math.abs(is - p.before().lambda()) <= half ? 1 : 0;
        }
    }

    /** Predicted against true mean lambda by regime once the parts are fitted, in the same running. */
    private void effects(Analysis a, double[][] phi) {
        for (RegimePrediction p : a.advice().predicted()) {
            double is = lambda(a, phi, p.before().regime());
            outcome.effects++;
            outcome.effectsIn += is >= p.low() && is <= p.high() ? 1 : 0;
        }
    }

    /** What was predicted before a change against what the next drive reads, the first time that is read. */
    private void promises(Advice a) {
        if (outcome.kept == outcome.rounds) {
            return;
        }
        outcome.kept = outcome.rounds;
        outcome.promises += a.scored().size();
        outcome.promisesIn += (int) a.scored().stream().filter(Previous.Scored::within).count();
    }

    private static double lambda(Analysis a, double[][] phi, Regime g) {
        double sum = 0;
        double weight = 0;
        for (int i = 0; i < phi.length; i++) {
            if (a.regime(i) == g) {
                double total = 0;
                for (double p : phi[i]) {
                    total += p;
                }
                sum += a.weight(i) / total;
                weight += a.weight(i);
            }
        }
        return sum / weight;
    }
}
