package nariz.diagnosis;

import java.util.List;
import java.util.Optional;
import nariz.carburetor.Circuit;
import nariz.carburetor.PartChange;
import nariz.dynamics.OpeningStudy;
import nariz.estimation.EarlierEstimate;
import nariz.log.UnreadColumn;
import nariz.text.Message;

/**
 * The answer.
 *
 * @param verdict one of the four
 * @param sentence the verdict in one plain sentence
 * @param circuits what each circuit showed
 * @param hypotheses causes weighed, most probable first
 * @param changes parts to change, in the order to do them
 * @param predicted effect by regime
 * @param flags what of the log did not count
 * @param missing regimes and circuits not read, with the drive that would
 * @param assumed build fields that were family defaults
 * @param strategy name of the targets used
 * @param scored what the previous advice had predicted, against what is measured now; empty without one
 * @param notes what else the reader has to know, for example that an advised change is not on the sheet
 * @param schools what schools of tuning would each do on this log
 * @param banks with two sensors, what each bank's would say by itself
 * @param sensor how late the readings are
 * @param since changes that were made since the car was found, before this drive
 * @param carried what the next analysis of this car can start from; empty when nothing was estimated
 * @param pump why openings of the throttle hesitate; empty where the steady mixtures come first or too few were read
 * @param dynamics what moving moments show of enrichment, second stage and pulls
 * @param unread columns of the log that are not read, with what they look like
 * @param needle the needle the drive asks for, station by station; empty where there is none
 * @param awaited the pull that would tell two parts apart which read alike on this drive; empty where none do
 */
public record Advice(Verdict verdict, Message sentence, List<CircuitFinding> circuits, List<Hypothesis> hypotheses,
        List<Change> changes, List<RegimePrediction> predicted, List<FlagStretch> flags, List<Message> missing,
        List<String> assumed, String strategy, List<Previous.Scored> scored, List<Message> notes,
        List<RuleOfThumb> schools, List<BankFinding> banks, SensorFinding sensor, List<PartChange> since,
        Optional<EarlierEstimate> carried, Optional<OpeningStudy.Finding> pump, DriveDynamics dynamics,
        List<UnreadColumn> unread, Optional<NeedleProfile> needle, Optional<AwaitedPull> awaited) {
    /** Copies the lists. */
    public Advice {
        circuits = List.copyOf(circuits);
        hypotheses = List.copyOf(hypotheses);
        changes = List.copyOf(changes);
        predicted = List.copyOf(predicted);
        flags = List.copyOf(flags);
        missing = List.copyOf(missing);
        assumed = List.copyOf(assumed);
        scored = List.copyOf(scored);
        notes = List.copyOf(notes);
        schools = List.copyOf(schools);
        banks = List.copyOf(banks);
        since = List.copyOf(since);
        unread = List.copyOf(unread);
    }

    /**
     * Finding of a circuit.
     *
     * @param c circuit
     * @return its finding
     */
    public CircuitFinding finding(Circuit c) {
        return circuits.stream().filter(f -> f.circuit().equals(c)).findFirst().orElseThrow();
    }

    /**
     * The change that answers for what a way of running reads.
     *
     * @param e the way of running
     * @return the first change that gives it as a reason, or empty
     */
    public Optional<Change> answering(RegimeError e) {
        return changes.stream().filter(c -> c.reasons().contains(e.sentence())).findFirst();
    }

    /** {@return the change to make first} */
    public Optional<Change> first() {
        return changes.stream().findFirst();
    }

    /** {@return the circuit that is blamed: the one the first change trims} */
    public Optional<Circuit> blamed() {
        return first().map(Change::circuit);
    }

    /**
     * Whether it asks for a look at the accelerator pump: the steady mixtures are left alone then.
     *
     * @return true where {@link Hypothesis#PUMP_SLACK} is among the causes
     */
    public boolean looksAtPump() {
        return hypotheses.stream().anyMatch(h -> h.cause().equals(Hypothesis.PUMP_SLACK));
    }

    /**
     * The circuit to look at first: the one that is blamed, or else the first in the order of work that is in doubt,
     * where a check stands or what keeps it from being judged.
     *
     * @return empty where all is settled or nothing was read
     */
    public Optional<Circuit> lookedAtFirst() {
        return blamed().or(() -> circuits.stream().filter(c -> c.status() == Status.IN_DOUBT).map(
                CircuitFinding::circuit).filter(c -> !looksAtPump() || c.role() == Circuit.Role.PUMP).findFirst());
    }
}
