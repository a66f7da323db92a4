package nariz.app.state;

import static nariz.app.words.WindowWords.say;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalInt;
import nariz.carburetor.Circuit;
import nariz.carburetor.Family;
import nariz.carburetor.Part;
import nariz.carburetor.Stage;
import nariz.diagnosis.Advice;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.BankFinding;
import nariz.diagnosis.Change;
import nariz.diagnosis.CircuitFinding;
import nariz.diagnosis.Hypothesis;
import nariz.diagnosis.RegimeError;
import nariz.diagnosis.Status;
import nariz.diagnosis.Verdict;
import nariz.text.Message;
import org.jspecify.annotations.Nullable;

/** A stop whose state is the finding of one circuit. */
class CircuitStop implements Stop {
    /** What a circuit delivers to two banks that agree differs by less than this share of what the sheet says. */
    private static final double BANKS_DIFFER = 0.03;
    /** A way of running this far from its circuit's mean is named beside it. */
    private static final double APART = 0.03;
    /** ... where its mean is known to lie apart, by so many of its standard deviations. */
    private static final double APART_SDS = 2.0;
    /** ... and was read for so long: what was only passed is no way the car is run, s. */
    private static final double NAMED_S = 5.0;

    private final String id;
    private final Stage stage;
    private final Circuit.Role role;
    /** The one circuit this stop is for, where there are several of that role; empty where any will do. */
    private final Optional<Circuit> only;

    /**
     * A stop of a circuit.
     *
     * @param id name in the program
     * @param stage stage of the circuit
     * @param role what the circuit does
     */
    CircuitStop(String id, Stage stage, Circuit.Role role) {
        this.id = id;
        this.stage = stage;
        this.role = role;
        only = Optional.empty();
    }

    /**
     * A stop of one circuit among several of its role, in its own family or in others.
     *
     * @param circuit the circuit
     */
    CircuitStop(Circuit circuit) {
        id = circuit.id();
        stage = circuit.stage();
        role = circuit.role();
        only = Optional.of(circuit);
    }

    @Override
    public final String id() {
        return id;
    }

    @Override
    public final boolean in(Family family) {
        return circuit(family).isPresent();
    }

    @Override
    public final Optional<Circuit> circuit(Family family) {
        return only.isPresent() ? family.circuits().stream().filter(only.get()::equals).findFirst() : alone(family)
                ? family.circuit(stage, role) : Optional.empty();
    }

    /** Several of a role have a stop each. */
    private boolean alone(Family family) {
        return family.circuits().stream().filter(c -> c.is(stage, role)).count() < 2;
    }

    @Override
    public boolean holds(Circuit c) {
        return only.map(c::equals).orElse(c.is(stage, role) && !Stops.BANDS.contains(c));
    }

    @Override
    public Evidence evidence(@Nullable Drive d, @Nullable Comparison against) {
        return Evidence.STREAM;
    }

    @Override
    public OptionalInt moment(Drive d, @Nullable Comparison against) {
        return OptionalInt.of(d.trace().bestMoment(d.analysis(), this, role == Circuit.Role.IDLE, false));
    }

    @Override
    public StopWords words(Drive d, @Nullable Comparison against) {
        Analysis found = d.analysis();
        Advice a = found.advice();
        CircuitFinding f = a.finding(circuit(found.observation().sheet().carburetor().family()).orElseThrow());
        List<Change> changes = a.changes().stream().filter(c -> holds(c.circuit())).toList();
        // What is to be done now is off, however little of it was read; what comes later waits.
        Status state = changes.isEmpty() ? f.status() : changes.stream().anyMatch(Change::now) ? Status.OFF
                : Status.WAITING;
        String brief = state == Status.OFF && !changes.isEmpty()
                && changes.getFirst().part().role() != Part.Role.IDLE_STOP ? say(goesWith(a, f, changes.getFirst())
                ? "stop-words.goes-with" : changes.getFirst().enriches() ? "stop-words.off-lean"
                : "stop-words.off-rich") : state == Status.WAITING ? say("stop-words.waits") : say(state.label());
        return new StopWords(state, brief, sentence(found, f, changes), confidence(a, f, changes), changes,
                say(f.settledBy()));
    }

    private String sentence(Analysis found, CircuitFinding f, List<Change> changes) {
        Advice a = found.advice();
        if (a.verdict() == Verdict.MORE_DATA) {
            return say(a.sentence());
        }
        if (!changes.isEmpty()) {
            Change c = changes.getFirst();
            String lead = !c.now() ? say("stop-words.later", c.part().named(c.side()), c.part().text(c.from()),
                    c.part().text(c.to())) : a.changes().getFirst().equals(c) ? say(a.sentence())
                    : say(goesWith(a, f, c) ? c.enriches() ? "stop-words.else-lean" : "stop-words.else-rich"
                    : c.enriches() ? "stop-words.is-lean-too-change" : "stop-words.is-rich-too-change", label(),
                    c.part().named(c.side()), c.part().text(c.from()), c.part().text(c.to()));
            return changes.size() == 1 ? lead : say("stop-words.and", lead, changes.get(1).title());
        }
        return switch (f.status()) {
            case NOT_READ -> say("stop-words.this-drive-hardly-used", label().toLowerCase(Locale.ROOT));
            case WAITING -> say("stop-words.waits-for-another", error(f.error()), a.first().map(Change::title)
                    .orElse(Message.NONE));
            case IN_DOUBT -> a.verdict() == Verdict.CHECK_FIRST && !a.looksAtPump() ? say(a.sentence())
                    : say("stop-words.reads-but", error(f.error()), say(f.why()));
            case SETTLED -> settled(found, f);
            case OFF -> say(a.sentence());
        };
    }

    /** What is left alone may read right in the mean only: the way of running that is furthest from it is named. */
    private String settled(Analysis found, CircuitFinding f) {
        // Where a change answers it, that is said at the change's own stop.
        Optional<RegimeError> furthest = found.fedBy(List.of(f.circuit())).stream().filter(e -> e.dwellS() >= NAMED_S
                && Math.abs(e.mean() - f.error()) > Math.max(APART, APART_SDS * e.sd()) && Math.abs(e.mean()) > APART
                && found.advice().answering(e).isEmpty())
                .max(Comparator.comparingDouble(e -> Math.abs(e.mean() - f.error())));
        return furthest.map(e -> say(e.rms() <= e.regime().tolerance() ? "stop-words.leave-one-tolerated"
                : "stop-words.leave-one-kept", error(f.error()), say(e.regime().label()), say(e.words())))
                .orElseGet(() -> say("stop-words.leave-it-alone-it", error(f.error())));
    }

    private static String error(double e) {
        long percent = Double.isNaN(e) ? 0 : Math.round(Math.abs(e) * 100);
        if (percent == 0) {
            return say("stop-words.within");
        }
        return say(e > 0 ? "stop-words.lean" : "stop-words.rich", percent);
    }

    private static String confidence(Advice a, CircuitFinding f, List<Change> changes) {
        if (f.status() == Status.NOT_READ) {
            return "";
        }
        List<String> parts = new ArrayList<>();
        parts.add(say("stop-words.delivers-of-what-the",
                f.correction(), f.low(), f.high()));
        f.slope().ifPresent(s -> parts.add(say("stop-words.for-twice-the-air",
                100 * s.perDoubling(), 100 * s.low(), 100 * s.high())));
        List<BankFinding> banks = a.banks().stream().filter(b -> b.circuits().containsKey(f.circuit())).toList();
        double[] alone = banks.stream().mapToDouble(b -> b.of(f.circuit()).value()).toArray();
        // Two that agree say no more than the one before them.
        if (alone.length < 2 || Math.abs(alone[1] - alone[0]) >= BANKS_DIFFER) {
            for (int i = 0; i < alone.length; i++) {
                parts.add(say("stop-words.bank-alone", banks.get(i).bank(), alone[i]));
            }
        }
        Optional<Hypothesis> fault = a.hypotheses().stream().filter(h -> Hypothesis.FAULTS.contains(h.cause())
                && h.probability() >= 0.05).findFirst();
        fault.ifPresent(h -> parts.add(say(h.label()) + ": " + h.percent() + " %"));
        // The fault that has just been named need not be named again.
        List<Message> others = f.confoundedWith().stream().filter(m -> fault.filter(h -> say(h.label()).equals(say(m)))
                .isEmpty()).toList();
        if (!others.isEmpty() && (!changes.isEmpty() || f.status() == Status.IN_DOUBT)) {
            parts.add(say("stop-words.not-told-apart-from", Message.join(", ", others)));
        }
        return String.join(" · ", parts);
    }

    /** Whether a change makes up for the one before it rather than for what this drive read here. */
    private static boolean goesWith(Advice a, CircuitFinding f, Change c) {
        return !a.changes().getFirst().equals(c) && Math.abs(f.error()) >= 0.01 && c.enriches() != f.error() > 0;
    }
}
