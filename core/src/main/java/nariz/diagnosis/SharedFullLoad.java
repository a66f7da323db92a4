package nariz.diagnosis;

import static nariz.text.Message.message;

import java.util.List;
import java.util.Optional;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Circuit;
import nariz.carburetor.Delivery;
import nariz.carburetor.DeliveryModel;
import nariz.carburetor.Family;
import nariz.carburetor.Stage;
import nariz.estimation.Cell;
import nariz.estimation.Observation;
import nariz.text.Measure;
import nariz.text.Message;
import nariz.units.Units;

/**
 * Whether the enrichment and the second stage's jets can be told apart at full load. Both act there; the enrichment
 * also acts where the second stage is still shut. A drive without such running cannot tell, and an answer about either
 * waits for the pull that can: once, for who was asked for it and comes back without it may have no road for it.
 */
final class SharedFullLoad {
    /**
     * The other explanation's share of the favoured one's probability from where on the answer waits, and its least.
     */
    private static final double RIVAL = 0.5;
    private static final double LEAST = 0.08;
    /** Clear of the opening line, Pa. */
    private static final double CLEAR_PA = Units.INHG;
    private static final double MOVES = 0.005;

    private final BuildSheet sheet;
    private final Observation observation;
    private final CausePosterior posterior;

    /**
     * Parts that are not told apart.
     *
     * @param steps what would be changed of the favoured circuit
     * @param other the circuit whose error would read alike
     * @param pull what would tell
     */
    record Tie(List<Decision.Step> steps, Circuit other, AwaitedPull pull) {
    }

    SharedFullLoad(Observation observation, CausePosterior posterior) {
        this.observation = observation;
        this.sheet = observation.sheet();
        this.posterior = posterior;
    }

    /**
     * Which of the chosen steps the drive does not tell from another.
     *
     * @param chosen what would be changed
     * @return steps on the enrichment or on the second stage's jets; empty where the drive tells them apart
     */
    Optional<Tie> tie(List<Decision.Step> chosen) {
        Family family = sheet.carburetor().family();
        Optional<Circuit> power = family.circuit(Stage.PRIMARY, Circuit.Role.ENRICHMENT);
        Optional<Circuit> rear = family.circuit(Stage.SECONDARY, Circuit.Role.METERING);
        double line = family.enrichmentPa(sheet.carburetor(), Stage.PRIMARY);
        if (power.isEmpty() || rear.isEmpty() || line <= 0.0 || aloneS(line) >= CircuitFinding.ENOUGH_PULL_S) {
            return Optional.empty();
        }
        List<Decision.Step> shared = chosen.stream().filter(s -> on(s, power.get()) || on(s, rear.get())).toList();
        boolean front = shared.stream().anyMatch(s -> on(s, power.get()));
        boolean back = shared.stream().anyMatch(s -> on(s, rear.get()));
        if (front == back) {
            return Optional.empty();
        }
        Circuit favoured = front ? power.get() : rear.get();
        Circuit other = front ? rear.get() : power.get();
        double rival = weight(other, favoured, shared);
        return rival >= LEAST && rival >= RIVAL * weight(favoured, other, shared) ? Optional.of(new Tie(shared, other,
                pull())) : Optional.empty();
    }

    private boolean on(Decision.Step s, Circuit c) {
        return sheet.carburetor().family().trims(s.ladder().part(), s.ladder().stage()).equals(c);
    }

    /** Probability that a part of one circuit is wrong and none of the other, unless in the wrong direction. */
    private double weight(Circuit c, Circuit not, List<Decision.Step> shared) {
        double wanted = shared.stream().mapToDouble(s -> atFullLoad(posterior.moves().stream().filter(m -> m.ladder()
                .part().equals(s.ladder().part()) && m.ladder().stage() == s.ladder().stage()
                && Math.abs(m.to() - s.to()) < 1e-6).map(WrongParts.Move::effect)
                .findFirst().orElse(new double[0])))
                .sum();
        return posterior.explanations().stream().filter(x -> x.moves().stream().anyMatch(m -> trims(m, c)
                && atFullLoad(m.effect()) * Math.signum(wanted) > -MOVES) && x.moves().stream().noneMatch(m -> trims(m,
                not))).mapToDouble(CausePosterior.Explanation::probability).sum();
    }

    private boolean trims(WrongParts.Move m, Circuit c) {
        return sheet.carburetor().family().trims(m.ladder().part(), m.ladder().stage()).equals(c);
    }

    private double atFullLoad(double[] effect) {
        double sum = 0.0;
        double weight = 0.0;
        List<Cell> cells = observation.cells();
        for (int i = 0; i < effect.length; i++) {
            if (Strategy.load(cells.get(i), sheet) >= Strategy.FULL_LOAD) {
                sum += cells.get(i).dwellS() * effect[i];
                weight += cells.get(i).dwellS();
            }
        }
        return weight > 0.0 ? sum / weight : 0.0;
    }

    /** Seconds that the drive spent enriched on the first stage alone. */
    private double aloneS(double linePa) {
        DeliveryModel model = sheet.carburetor().family().model(sheet);
        Delivery d = model.newDelivery();
        double sum = 0.0;
        for (Cell c : observation.cells()) {
            if (c.vacuumPa() < linePa - CLEAR_PA) {
                model.evaluate(c.rpm(), c.vacuumPa(), c.thetaRad(), d);
                sum += model.secondaryOpen(d) ? 0.0 : c.dwellS();
            }
        }
        return sum;
    }

    /** {@return the pull that would tell them apart, for this way of opening the second stage} */
    private AwaitedPull pull() {
        double line = sheet.carburetor().family().enrichmentPa(sheet.carburetor(), Stage.PRIMARY);
        boolean linked = sheet.carburetor().family().linked(sheet.carburetor());
        Message text = linked ? message("advice-builder.pull-before-the-linkage", CircuitFinding.ENOUGH_PULL_S,
                Measure.atMost(line - CLEAR_PA),
                Measure.VACUUM_UNIT) : message("advice-builder.pull-from-low-speed", CircuitFinding.ENOUGH_PULL_S);
        return new AwaitedPull(text, CircuitFinding.ENOUGH_PULL_S, aloneS(line));
    }
}
