package nariz.diagnosis;

import static nariz.text.Message.message;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.IntToDoubleFunction;
import nariz.carburetor.Assumption;
import nariz.carburetor.Circuit;
import nariz.carburetor.Family;
import nariz.carburetor.Part;
import nariz.carburetor.Stage;
import nariz.dynamics.OpeningStudy;
import nariz.estimation.Cell;
import nariz.estimation.Estimate;
import nariz.estimation.Estimator;
import nariz.estimation.Observation;
import nariz.text.Measure;
import nariz.text.Message;
import nariz.units.Units;

/** What a drive says about each circuit, what keeps it from being judged, and which drive would settle it. */
final class CircuitFindings {
    private static final double LEAST_SHARE = 0.25;
    private static final double LEAST_READ_S = 2.0;
    private static final double DOUBT = 0.16;
    /** Lower end of a 90 % interval. */
    private static final double LOW = 0.05;
    /** Error from which a circuit is not called settled, and the same while a fault is looked for. */
    private static final double MUCH_OFF = 0.05;
    private static final double CHECK_OFF = 0.03;
    private static final double ON_TARGET = 0.03;
    /** With this much of it read more of the same would not tell more, s. */
    private static final double ENOUGH_S = 30.0;
    /** Vacuum of a light cruise, and of a climb on the main circuit, Pa. */
    private static final double LIGHT_PA = 16 * Units.INHG;
    private static final double CLIMB_LOW_PA = 8 * Units.INHG;
    private static final double CLIMB_HIGH_PA = 13 * Units.INHG;
    /** How far to either side of an enrichment's rating a climb must go, Pa. */
    private static final double AROUND_PA = 2.5 * Units.INHG;

    /** A fault reads like a circuit's error where it makes at least this share of it. */
    private static final double ALIKE = 0.25;
    /** It acts on the circuits where it makes this share of the most it makes of any. */
    private static final double ACTS = 0.5;

    private final Observation observation;
    private final Estimate estimate;
    private final Scorer scorer;
    private final List<UnderFault> faults;
    private List<RegimeError> left = List.of();

    /**
     * Sets up.
     *
     * @param observation drive
     * @param estimate what was found
     * @param scorer targets
     * @param faults what the circuits give under faults that may be there: they widen what is known of them
     */
    CircuitFindings(Observation observation, Estimate estimate, Scorer scorer,
            List<UnderFault> faults) {
        this.faults = List.copyOf(faults);
        this.observation = observation;
        this.estimate = estimate;
        this.scorer = scorer;
    }

    /** Ways of running that are off and are left so: what gives most of the fuel there is not called settled. */
    CircuitFindings leaving(List<RegimeError> off) {
        left = List.copyOf(off);
        return this;
    }

    private Family family() {
        return observation.sheet().carburetor().family();
    }

    /**
     * Findings.
     *
     * @param changes what is advised
     * @param fault ln phi by cell that the faults to be looked for would make, NaN for one that may do anything; empty
     *     where none is looked for
     * @param likely whether those faults are likelier than all else together: what they act on is then in doubt,
     *     whatever it reads
     * @param pump what the openings of the throttle showed
     * @param openings openings of the throttle from which a pump can be judged
     * @return one for every circuit of the family
     */
    List<CircuitFinding> of(List<Change> changes, Optional<double[]> fault, boolean likely,
            Optional<OpeningStudy.Finding> pump, int openings) {
        List<CircuitFinding> out = new ArrayList<>();
        double most = family().circuits().stream().filter(this::used).mapToDouble(c -> fault.map(f -> size(c, f))
                .orElse(0.0)).max().orElse(0.0);
        boolean changing = !changes.isEmpty();
        for (Circuit c : family().circuits()) {
            double[] read = read(c);
            boolean blamed = changes.stream().anyMatch(x -> x.circuit().equals(c) && x.now());
            boolean later = changes.stream().anyMatch(x -> x.circuit().equals(c) && !x.now());
            double half = 0.5 * (estimate.high(c) - estimate.low(c));
            boolean acted = likely && fault.filter(f -> size(c, f) >= ACTS * most).isPresent();
            boolean check = acted || fault.filter(f -> alike(c, f, read[0])).isPresent();
            boolean leaves = false;
            Status status;
            if (c.role() == Circuit.Role.PUMP) {
                status = blamed ? Status.OFF : pumpStatus(pump, openings);
            } else if (read[1] < LEAST_READ_S) {
                status = Status.NOT_READ;
            } else if (blamed) {
                status = Status.OFF;
            } else if (later || (changing && Math.abs(read[0]) > muchOff(c))) {
                status = Status.WAITING;
            } else if (acted || Math.abs(read[0]) > (check ? CHECK_OFF : muchOff(c))
                    || (half > DOUBT && Math.abs(read[0]) > onTarget(c))) {
                status = Status.IN_DOUBT;
            } else {
                // What reads on target is right whichever circuit the fuel comes from.
                leaves = left.stream().anyMatch(e -> c.equals(feeding(e.regime())));
                status = leaves ? Status.IN_DOUBT : Status.SETTLED;
            }
            double error = changes.stream().filter(x -> x.circuit().equals(c) && x.now()
                    && x.part().role() != Part.Role.IDLE_STOP).findFirst().map(this::whereItWorks).orElse(read[0]);
            boolean asks = status == Status.NOT_READ || (status == Status.IN_DOUBT && !leaves && !check
                    && read[1] < enoughS(c));
            CorrectionMixture k = correction(c);
            out.add(new CircuitFinding(c, k.value(), k.quantile(LOW), k.quantile(1.0 - LOW),
                    read[1] / observation.steadyS(), c.role() != Circuit.Role.PUMP && (read[1] > 0 || blamed) ? error
                    : Double.NaN, status,
                    confounded(c, read[0]),
                    c.is(Stage.PRIMARY, Circuit.Role.METERING) && sloped() && status != Status.NOT_READ
                    ? estimate.mainSlope()
                    : Optional.empty(), c.role() == Circuit.Role.PUMP ? pumpWhy(status, pump, openings)
                    : leaves ? message("doubt.hardware") : why(c, status, read, half, check),
                    asks ? drive(c, observation) : Message.NONE));
        }
        return out;
    }

    /** The circuit that gives most of the fuel in a way of running. */
    private Circuit feeding(Regime g) {
        return family().circuits().stream().max(Comparator.comparingDouble(c -> {
            double sum = 0.0;
            for (int i = 0; i < estimate.cells().size(); i++) {
                sum += scorer.regime(i) == g ? scorer.weight(i) * estimate.share(i, List.of(c)) : 0.0;
            }
            return sum;
        })).orElseThrow();
    }

    private CorrectionMixture correction(Circuit c) {
        return new CorrectionMixture(estimate.correction(c), estimate.sd(c), faults.stream().map(f -> {
            // What the cylinders burn of a real one is in what the circuit gives of all their air.
            double part = f.real() ? Math.exp(-made(c, f.made())) : 1.0;
            return new CorrectionMixture.Fault(f.probability(), part * f.estimate().correction(c), part * f.estimate()
                    .sd(c));
        }).toList());
    }

    /** Error from which a circuit is not called settled: the idle's tolerance is narrower than the others'. */
    private static double muchOff(Circuit c) {
        return curbIdle(c) ? Regime.IDLE.tolerance() : MUCH_OFF;
    }

    /** Error within which it is, however little is known of what the circuit delivers. */
    private static double onTarget(Circuit c) {
        return curbIdle(c) ? Regime.IDLE.tolerance() : ON_TARGET;
    }

    private static boolean curbIdle(Circuit c) {
        return c.is(Stage.PRIMARY, Circuit.Role.IDLE);
    }

    /**
     * Mean error where a change moves the mixture, in proportion to how much it does: an enrichment that opens too
     * early is rich before its line, whatever it reads under full load.
     */
    private double whereItWorks(Change x) {
        double[] now = scorer.today();
        double[] then = scorer.with(x.part().fit(observation.sheet(), x.side(), x.to()));
        double error = 0;
        double weight = 1e-12;
        for (int i = 0; i < now.length; i++) {
            double w = scorer.weight(i) * Math.abs(then[i] / now[i] - 1.0);
            error += w * (scorer.targetPhi(i) / now[i] - 1.0);
            weight += w;
        }
        return error / weight;
    }

    /**
     * Whether the drive used a circuit at all.
     *
     * @param c circuit
     * @return true with {@value #LEAST_READ_S} s of it
     */
    boolean used(Circuit c) {
        return read(c)[1] >= LEAST_READ_S;
    }

    private static Status pumpStatus(Optional<OpeningStudy.Finding> pump, int openings) {
        return pump.map(f -> f.inDoubt().isPresent() ? Status.IN_DOUBT : Status.SETTLED).orElse(openings
                >= OpeningStudy.FEWEST ? Status.WAITING : Status.NOT_READ);
    }

    /** What keeps the pump from being judged, or from being called settled. */
    private static Message pumpWhy(Status status, Optional<OpeningStudy.Finding> pump, int openings) {
        if (status == Status.IN_DOUBT) {
            return pump.flatMap(f -> f.inDoubt().map(c -> message("doubt.pump-leans", c.label(), f.percent(c))))
                    .orElse(Message.NONE);
        }
        return status == Status.WAITING ? message("doubt.pump-waits", openings)
                : status == Status.NOT_READ ? message("doubt.hardly-used") : Message.NONE;
    }

    /** What keeps a circuit from being judged. */
    private Message why(Circuit c, Status status, double[] read, double half, boolean check) {
        if (status == Status.NOT_READ) {
            return message("doubt.hardly-used");
        }
        if (status != Status.IN_DOUBT) {
            return Message.NONE;
        }
        if (check) {
            return message("doubt.a-fault-first");
        }
        if (half <= DOUBT) {
            return message("doubt.hardware");
        }
        List<String> assumed = observation.sheet().assumedSizes(c);
        if (!assumed.isEmpty()) {
            double known = half * c.levelSd() / Math.hypot(c.levelSd(), Estimator.ASSUMED_SD
                    * Math.sqrt(assumed.size()));
            return message("doubt.assumed", Message.join(", ", assumed.stream().map(Assumption::label).toList()),
                    estimate.correction(c) - known, estimate.correction(c) + known);
        }
        List<Message> others = confounded(c, read[0]);
        if (read[1] < enoughS(c)) {
            return message("doubt.too-little", read[1]);
        }
        Optional<Part> screws = curbIdle(c) ? family().part(observation.sheet().carburetor(), Stage.PRIMARY,
                Part.Role.IDLE_MIXTURE) : Optional.empty();
        if (screws.isPresent() && !others.isEmpty()) {
            return message("doubt.idle", screws.get().named(Stage.PRIMARY), Message.join(", ", others));
        }
        return others.isEmpty() ? message("doubt.wide", read[1]) : message("doubt.not-told-apart", read[1],
                Message.join(", ", others));
    }

    /** A second stage is read in pulls. */
    private static double enoughS(Circuit c) {
        return c.stage() == Stage.SECONDARY ? CircuitFinding.ENOUGH_PULL_S : ENOUGH_S;
    }

    /** Whether a fault would make what a circuit's error is, to a good part. */
    private boolean alike(Circuit c, double[] fault, double error) {
        double made = made(c, fault);
        return Double.isNaN(made) || (made * error > 0.0 && Math.abs(made) >= ALIKE * Math.abs(error));
    }

    /** What a fault makes of a circuit's reading, lean positive; NaN where it has no shape of its own. */
    private double made(Circuit c, double[] fault) {
        return mean(c, i -> -fault[i])[0];
    }

    /** How much that is, 0 where it has no shape of its own. */
    private double size(Circuit c, double[] fault) {
        double made = made(c, fault);
        return Double.isNaN(made) ? 0.0 : Math.abs(made);
    }

    /** Mean error where the circuit delivers at least a quarter of the fuel, and the steady seconds of that. */
    private double[] read(Circuit c) {
        return mean(c, i -> scorer.targetPhi(i) / estimate.phi(i) - 1.0);
    }

    private double[] mean(Circuit c, IntToDoubleFunction of) {
        double seconds = 0;
        double error = 0;
        double weight = 0;
        // Off idle the port still delivers, but what is felt of it is the curb idle.
        boolean idles = estimate.cells().stream().anyMatch(Cell::idle);
        for (int i = 0; i < estimate.cells().size(); i++) {
            Cell cell = estimate.cells().get(i);
            double share = estimate.share(i, List.of(c));
            // A valve that opens late delivers nothing just where it should: judge it where load asks for it.
            boolean power = c.role() == Circuit.Role.ENRICHMENT;
            boolean wanted = power && fitsPower() && Strategy.load(cell, observation.sheet()) > Strategy.ENRICHED_LOAD;
            boolean curb = curbIdle(c) && idles;
            boolean counts = power ? wanted : curb ? cell.idle() : share > LEAST_SHARE;
            if (counts) {
                seconds += cell.dwellS();
                double w = Math.min(cell.dwellS(), 10.0);
                error += w * of.applyAsDouble(i);
                weight += w;
            }
        }
        return new double[] {weight > 0 ? error / weight : 0.0, seconds};
    }

    private boolean fitsPower() {
        return enrichmentPa(observation) > 0.0;
    }

    private static double enrichmentPa(Observation o) {
        return o.sheet().carburetor().family().enrichmentPa(o.sheet().carburetor(), Stage.PRIMARY);
    }

    /** Whether a part of its own bends the main circuit against airflow. */
    private boolean sloped() {
        return family().parts().stream().anyMatch(p -> p.role() == Part.Role.METERING_AIR);
    }

    private List<Message> confounded(Circuit c, double error) {
        List<Message> out = new ArrayList<>();
        for (Circuit other : family().circuits()) {
            if (!other.equals(c) && other.role() != Circuit.Role.PUMP && Math.abs(estimate.correlation(c,
                    other)) > 0.6) {
                out.add(other.label());
            }
        }
        if (c.stage() == Stage.SECONDARY) {
            return out;
        }
        switch (c.role()) {
            case IDLE, PROGRESSION -> {
                if (family().parts().stream().anyMatch(p -> p.role() == Part.Role.IDLE_AIR)) {
                    out.add(message("advice-builder.idle-air-bleed"));
                }
                if (error >= 0.0) {
                    out.add(message("hypotheses.vacuum-leak"));
                }
            }
            case METERING -> {
                out.add(message("advice-builder.fuel-level"));
                if (sloped()) {
                    out.add(message("advice-builder.high-speed-air-bleed"));
                }
            }
            case ENRICHMENT -> out.add(message("advice-builder.main-jet-at-full"));
            case PUMP -> { }
        }
        return out;
    }

    /** The short drive that reads a circuit. */
    static Message drive(Circuit c, Observation o) {
        double idle = o.sheet().engine().idleRpm();
        double red = o.sheet().engine().redlineRpm();
        double line = enrichmentPa(o);
        if (c.stage() == Stage.SECONDARY) {
            return c.lowSpeed() ? message("advice-builder.not-told-apart-from")
                    : message("advice-builder.two-full-throttle-pulls", 0.45 * red, 0.9 * red);
        }
        return switch (c.role()) {
            case IDLE -> message("advice-builder.s-of-warm-idle", 40.0, idle);
            case PROGRESSION -> message("advice-builder.three-steady-cruises-of", 1.7 * idle, 2.6 * idle,
                    Measure.atLeast(LIGHT_PA), Measure.VACUUM_UNIT);
            case METERING -> message("advice-builder.four-steady-climbs-of", 0.42 * red,
                    0.65 * red, Measure.atLeast(CLIMB_LOW_PA), Measure.atMost(CLIMB_HIGH_PA), Measure.VACUUM_UNIT);
            case ENRICHMENT -> message("advice-builder.a-climb-on-which", Measure.atLeast(line + AROUND_PA),
                    Measure.atMost(Math.max(Units.INHG, line - AROUND_PA)), 0.5 * red, Measure.VACUUM_UNIT);
            case PUMP -> message("advice-builder.six-stabs-from-closed");
        };
    }

    /** {@return circuits that the drive hardly used, with the drive that would read them} */
    List<Message> missing() {
        List<Message> out = new ArrayList<>();
        for (Circuit c : family().circuits()) {
            boolean asked = switch (c.role()) {
                case PUMP -> false;
                case ENRICHMENT -> fitsPower();
                // No drive tells a second stage's idle from the first one's.
                case IDLE, PROGRESSION -> c.stage() == Stage.PRIMARY;
                case METERING -> true;
            };
            if (asked && read(c)[1] < LEAST_READ_S) {
                out.add(named(c, drive(c, observation)));
            }
        }
        return out;
    }

    static Message named(Circuit c, Message drive) {
        return Message.join(": ", List.of(c.label(), drive));
    }
}
