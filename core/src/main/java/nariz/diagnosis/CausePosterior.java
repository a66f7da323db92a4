package nariz.diagnosis;

import static nariz.text.Message.message;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.BooleanSupplier;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Part;
import nariz.carburetor.PartChange;
import nariz.carburetor.Stage;
import nariz.estimation.Cell;
import nariz.estimation.Estimate;
import nariz.estimation.Observation;
import nariz.estimation.Symmetric;
import org.hipparchus.linear.ArrayRealVector;
import org.hipparchus.linear.CholeskyDecomposition;
import org.hipparchus.special.Erf;

/**
 * What may have moved the mixture off its target, and how probable each is: nothing, up to three parts with their
 * sizes, or a fault.
 *
 * <p>r_i = ln(phi_i/target_i) over cells i is what has to be explained, on the premise that whoever built the car aimed
 * at about these targets. Under every explanation r = d + n. n is what sound hardware and a sound sensor leave: normal
 * with covariance C ({@link SoundScatter}). d is what moved: for a part whose right size is s, minus the effect of
 * going from the fitted size to s, times a factor of mean 1 and standard deviation {@value #EFFECT_SD}, since a
 * stranger's carburetor follows the equations only so far; for a fault gamma times its shape, gamma normal around 0
 * with its usual size. The evidence of each follows in closed form (Rasmussen and Williams 2006, section 2.7): with
 * effects E, u = E'C^-1(r + E1) and G = E'C^-1E,
 *
 * <p>ln p = -(r + E1)'C^-1(r + E1)/2 + u'(I/s² + G)^-1 u/2 - ln det(I + s² G)/2 + ln prior.
 *
 * <p>Priors of parts are those of {@link WrongParts}, of faults those of {@link FaultSignatures}; with a fault every
 * part that is wrong besides counts {@value #BESIDES}.
 *
 * <p>Sets of one and two parts are gone through completely; three are tried where two of them explain most.
 */
final class CausePosterior {
    private static final double SHEET = 0.01;
    /** A part that is wrong besides a fault. */
    private static final double BESIDES = 0.25;
    /** An effect is predicted to about this share of its size. */
    private static final double EFFECT_SD = 0.25;
    /** Errors beyond this are as bad as this. */
    private static final double MOST = 0.50;
    private static final double STRONGEST = 14.0;
    private static final int MOST_THIRDS = 60;
    private static final int MOST_KEPT = 120;

    private final BuildSheet sheet;
    private final Estimate estimate;
    private final List<Cell> cells;
    private final List<FaultSignature> faults;
    private final WrongParts wrongParts;
    private final List<WrongParts.Move> moves;
    private final int m;
    private final double[] r;
    /** C^-1 r. */
    private final double[] solvedR;
    /** What is subtracted from r: effects of moves, and shapes of faults with their sign turned. */
    private final double[][] vector;
    private final double[][] gram;
    private final double[] withR;
    private final double rr;
    private final CholeskyDecomposition chol;
    private List<Explanation> explanations = List.of();
    private double sheetProbability;
    private double partsProbability;
    private final double[] faultProbability;

    /**
     * One explanation.
     *
     * @param moves parts and their right sizes; empty for nothing and for faults
     * @param factors how much of each predicted effect the readings show, posterior mean
     * @param fault the fault, or empty
     * @param probability posterior
     * @param moved ln phi that the parts moved, by cell; posterior mean
     * @param byFault ln phi that the fault moved, by cell; posterior mean
     */
    record Explanation(List<WrongParts.Move> moves, double[] factors, Optional<FaultSignature> fault,
            double probability, double[] moved, double[] byFault) {
    }

    /** A set of vectors, moves first by index, then faults by index after them. */
    private record Weighed(int[] set, double logEvidence) {
    }

    /**
     * Weighs all explanations.
     *
     * @param scorer targets and weights
     * @param estimate what was found
     * @param observation the drive
     * @param ruledOut faults that were looked for and not found
     * @param since changes made since the car was found
     * @param cancelled asked now and then
     */
    CausePosterior(Scorer scorer, Estimate estimate, Observation observation, List<String> ruledOut,
            List<PartChange> since, BooleanSupplier cancelled) {
        sheet = observation.sheet();
        this.estimate = estimate;
        cells = estimate.cells();
        m = cells.size();
        wrongParts = WrongParts.of(sheet, scorer, since, MOST, cancelled);
        moves = wrongParts.moves();
        faults = FaultSignatures.of(scorer, estimate, observation).stream().filter(f -> !ruledOut.contains(f.cause()))
                .toList();
        r = new double[m];
        for (int i = 0; i < m; i++) {
            r[i] = Math.clamp(Math.log(cells.get(i).phi() / scorer.targetPhi(i)), -MOST, MOST);
        }
        faultProbability = new double[faults.size()];
        chol = Symmetric.factored(SoundScatter.of(sheet, scorer, cells, r, IncurableShape.of(sheet, scorer, estimate,
                moves)), 1e-14);
        solvedR = chol.getSolver().solve(new ArrayRealVector(r, false)).toArray();
        int n = moves.size() + faults.size();
        vector = new double[n][];
        withR = new double[n];
        double[][] solved = new double[n][];
        for (int a = 0; a < n; a++) {
            vector[a] = a < moves.size() ? moves.get(a).effect() : negative(faults.get(a - moves.size()).shape());
            solved[a] = chol.getSolver().solve(new ArrayRealVector(vector[a], false)).toArray();
            withR[a] = dot(vector[a], solvedR);
        }
        gram = new double[n][n];
        for (int a = 0; a < n; a++) {
            for (int b = 0; b <= a; b++) {
                gram[a][b] = dot(vector[a], solved[b]);
                gram[b][a] = gram[a][b];
            }
        }
        rr = dot(r, solvedR);
        weigh(ruledOut);
    }

    private static double[] negative(double[] v) {
        double[] out = new double[v.length];
        for (int i = 0; i < v.length; i++) {
            out[i] = -v[i];
        }
        return out;
    }

    private void weigh(List<String> ruledOut) {
        List<Weighed> sets = new ArrayList<>();
        List<Weighed> pairs = new ArrayList<>();
        for (int a = 0; a < moves.size(); a++) {
            sets.add(weighed(a));
            for (int b = a + 1; b < moves.size(); b++) {
                if (moves.get(a).part() != moves.get(b).part()) {
                    pairs.add(weighed(a, b));
                }
            }
        }
        pairs.sort(Comparator.comparingDouble(Weighed::logEvidence).reversed());
        sets.addAll(pairs);
        sets.addAll(triples(pairs));
        for (int f = 0; f < faults.size(); f++) {
            sets.add(weighed(moves.size() + f));
            for (int a = 0; a < moves.size(); a++) {
                sets.add(weighed(a, moves.size() + f));
            }
        }
        normalise(sets, ruledOut);
    }

    private Collection<Weighed> triples(List<Weighed> pairs) {
        Map<List<Integer>, Weighed> triples = new LinkedHashMap<>();
        for (Weighed pair : pairs.subList(0, Math.min(MOST_THIRDS, pairs.size()))) {
            for (int c = 0; c < moves.size(); c++) {
                int at = c;
                if (Arrays.stream(pair.set()).noneMatch(x -> moves.get(x).part() == moves.get(at).part())) {
                    int[] set = Arrays.copyOf(pair.set(), 3);
                    set[2] = c;
                    Arrays.sort(set);
                    triples.computeIfAbsent(Arrays.stream(set).boxed().toList(), k -> weighed(set));
                }
            }
        }
        return triples.values();
    }

    /** Log prior of a set: a fault takes the place of how often so many parts are wrong. */
    private double logPrior(int... set) {
        int last = set.length == 0 ? -1 : set[set.length - 1];
        return last < moves.size() ? wrongParts.logPrior(set) : wrongParts.logPriorBeside(set, faults.get(last
                - moves.size()).prior(), BESIDES);
    }

    private double mean(int v) {
        return v < moves.size() ? 1.0 : 0.0;
    }

    private double sd(int v) {
        return v < moves.size() ? EFFECT_SD : faults.get(v - moves.size()).usual();
    }

    /** Log evidence of a set of vectors. */
    private Weighed weighed(int... set) {
        int k = set.length;
        double quad = rr;
        double evidence = logPrior(set);
        for (int a : set) {
            quad += 2.0 * mean(a) * withR[a];
            for (int b : set) {
                quad += mean(a) * mean(b) * gram[a][b];
            }
        }
        double[] u = slope(set);
        double[][] l = SmallSystem.lower(precision(set));
        double[] x = SmallSystem.solve(l, u);
        for (int a = 0; a < k; a++) {
            evidence -= Math.log(l[a][a] * sd(set[a]));
        }
        evidence += -0.5 * quad + 0.5 * dot(u, x);
        int last = set[k - 1];
        if (last >= moves.size()) {
            FaultSignature f = faults.get(last - moves.size());
            evidence += Math.clamp(f.mark(), -STRONGEST, STRONGEST);
            if (!f.bothSigns()) {
                // Half a normal distribution: twice the density above nought. The last row's own entry of the factor
                // is the fault's precision with everything else left free.
                evidence += Math.log(2.0 * below(-x[k - 1] * l[k - 1][k - 1]));
            }
        }
        return new Weighed(set, evidence);
    }

    /** E'C^-1(r + E mu), for a fault less what its own mark says of gamma. */
    private double[] slope(int... set) {
        double[] u = new double[set.length];
        for (int a = 0; a < set.length; a++) {
            u[a] = withR[set[a]];
            for (int b : set) {
                u[a] += mean(b) * gram[set[a]][b];
            }
            if (set[a] >= moves.size()) {
                FaultSignature f = faults.get(set[a] - moves.size());
                u[a] -= f.gammaRead() / (f.gammaSd() * f.gammaSd());
            }
        }
        return u;
    }

    /** S^-2 + G, for a fault with the precision of its own mark. */
    private double[][] precision(int... set) {
        double[][] h = new double[set.length][set.length];
        for (int a = 0; a < set.length; a++) {
            for (int b = 0; b < set.length; b++) {
                h[a][b] = gram[set[a]][set[b]];
            }
            h[a][a] += 1.0 / (sd(set[a]) * sd(set[a]));
            if (set[a] >= moves.size()) {
                FaultSignature f = faults.get(set[a] - moves.size());
                h[a][a] += 1.0 / (f.gammaSd() * f.gammaSd());
            }
        }
        return h;
    }

    private void normalise(List<Weighed> sets, List<String> ruledOut) {
        double nothing = logPrior() - 0.5 * rr;
        sets.sort(Comparator.comparingDouble(Weighed::logEvidence).reversed());
        double top = Math.max(nothing, sets.isEmpty() ? nothing : sets.getFirst().logEvidence());
        double[] sums = new double[faults.size() + 1];
        double[] kept = new double[sums.length];
        int count = 0;
        for (Weighed w : sets) {
            double p = Math.exp(w.logEvidence() - top);
            sums[causeOf(w)] += p;
            if (count++ < MOST_KEPT) {
                kept[causeOf(w)] += p;
            }
        }
        double sound = Math.exp(nothing - top);
        double wrongSheet = ruledOut.contains(Hypothesis.WRONG_SHEET) ? 0.0
                : SHEET * (sound + sums[faults.size()]) * Math.exp(Math.min(STRONGEST, estimate.strain()));
        double sum = sound + wrongSheet + Arrays.stream(sums).sum();
        List<Explanation> out = new ArrayList<>();
        out.add(new Explanation(List.of(), new double[0], Optional.empty(), sound / sum, new double[m], new double[m]));
        for (Weighed w : sets.subList(0, Math.min(MOST_KEPT, sets.size()))) {
            // What is cut off speaks for the same cause.
            double scale = sums[causeOf(w)] / kept[causeOf(w)];
            out.add(explanation(w.set(), scale * Math.exp(w.logEvidence() - top) / sum));
        }
        explanations = List.copyOf(out);
        sheetProbability = wrongSheet / sum;
        for (int f = 0; f < faults.size(); f++) {
            faultProbability[f] = sums[f] / sum;
        }
        partsProbability = sums[faults.size()] / sum;
    }

    /** Index of the fault in a set, one past the last for parts alone. */
    private int causeOf(Weighed w) {
        int last = w.set()[w.set().length - 1];
        return last < moves.size() ? faults.size() : last - moves.size();
    }

    private Explanation explanation(int[] set, double p) {
        double[] x = SmallSystem.solve(SmallSystem.lower(precision(set)), slope(set));
        double[] moved = new double[m];
        int parts = (int) Arrays.stream(set).filter(v -> v < moves.size()).count();
        double[] factors = new double[parts];
        double[] byFault = new double[m];
        for (int a = 0; a < set.length; a++) {
            double c = mean(set[a]) - x[a];
            for (int i = 0; i < m; i++) {
                moved[i] -= a < parts ? c * vector[set[a]][i] : 0.0;
                byFault[i] -= a < parts ? 0.0 : c * vector[set[a]][i];
            }
            if (a < parts) {
                factors[a] = c;
            }
        }
        int last = set[set.length - 1];
        Optional<FaultSignature> fault = last < moves.size() ? Optional.empty()
                : Optional.of(faults.get(last - moves.size()));
        return new Explanation(Arrays.stream(set).limit(parts).mapToObj(moves::get).toList(), factors, fault, p, moved,
                byFault);
    }

    /** Probability that a standard normal lies below x, never quite none. */
    static double below(double x) {
        return Math.max(1e-9, 0.5 * Erf.erfc(-x / Math.sqrt(2.0)));
    }

    private static double dot(double[] a, double[] b) {
        double s = 0.0;
        for (int i = 0; i < a.length; i++) {
            s += a[i] * b[i];
        }
        return s;
    }

    /** {@return explanations that count, nothing wrong first} */
    List<Explanation> explanations() {
        return explanations;
    }

    /** {@return ln of phi over target, by cell; not a copy} */
    double[] residual() {
        return r;
    }

    /** {@return every part and size that was considered} */
    List<WrongParts.Move> moves() {
        return moves;
    }

    /**
     * A part as {@link #moves()} knows it.
     *
     * @param part part
     * @param stage stage
     * @param to size
     * @return the move, or empty where the size was not among the usual ones
     */
    Optional<WrongParts.Move> move(Part part, Stage stage, double to) {
        return moves.stream().filter(x -> x.ladder().part().equals(part) && x.ladder().stage() == stage
                && Math.abs(x.to() - to) < 1e-9).findFirst();
    }

    /** {@return probability that nothing is wrong} */
    double nothing() {
        return explanations.getFirst().probability();
    }

    /** {@return probability that the sheet does not describe this carburetor} */
    double wrongSheet() {
        return sheetProbability;
    }

    /**
     * What faults would do to the readings if they are there.
     *
     * @param causes keys of the faults
     * @return ln phi by cell, mean over how large they may be; NaN where one of them has no shape of its own
     */
    double[] ofFaults(List<String> causes) {
        double[] sum = new double[m];
        if (causes.contains(Hypothesis.WRONG_SHEET)) {
            Arrays.fill(sum, Double.NaN);
            return sum;
        }
        double all = 0.0;
        for (Explanation e : explanations) {
            if (e.fault().filter(f -> causes.contains(f.cause())).isPresent()) {
                all += e.probability();
                for (int i = 0; i < sum.length; i++) {
                    sum[i] += e.probability() * e.byFault()[i];
                }
            }
        }
        for (int i = 0; i < sum.length; i++) {
            sum[i] /= all;
        }
        return sum;
    }

    /** {@return all causes with their probabilities, the most probable first} */
    List<Hypothesis> causes() {
        List<Hypothesis> out = new ArrayList<>();
        out.add(new Hypothesis(Hypothesis.NONE, message("hypotheses.nothing-wrong"), nothing(),
                message("hypotheses.the-readings-lie-within"), message("hypotheses.no-check-needed")));
        out.add(new Hypothesis(Hypothesis.CALIBRATION, message("hypotheses.fuel-parts"), partsProbability,
                message("hypotheses.the-error-follows-the"), message("hypotheses.change-the-part-drive")));
        Map<String, Double> together = new LinkedHashMap<>();
        for (int i = 0; i < faults.size(); i++) {
            together.merge(faults.get(i).cause(), faultProbability[i], Double::sum);
        }
        together.forEach((cause, p) -> {
            FaultSignature f = faults.stream().filter(x -> x.cause().equals(cause)).findFirst().orElseThrow();
            out.add(new Hypothesis(cause, f.label(), p, f.evidence(), f.check()));
        });
        if (sheetProbability > 0.0) {
            out.add(new Hypothesis(Hypothesis.WRONG_SHEET, message("hypotheses.build-sheet-that-cannot"),
                    sheetProbability, message("hypotheses.a-circuit-delivers-what"),
                    message("hypotheses.take-out-the-jets")));
        }
        out.sort(Comparator.comparingDouble(Hypothesis::probability).reversed());
        return out;
    }
}
