package nariz.comparison;

import static nariz.text.Message.message;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Family;
import nariz.carburetor.InputProblem;
import nariz.carburetor.Ladder;
import nariz.carburetor.Part;
import nariz.carburetor.PartChange;
import nariz.carburetor.Stage;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Regime;
import nariz.diagnosis.RegimePrediction;
import nariz.diagnosis.Verdict;
import nariz.dynamics.OpeningStudy;
import nariz.dynamics.TipIn;
import nariz.dynamics.TipIns;
import nariz.estimation.Cell;
import nariz.text.Message;
import org.jspecify.annotations.Nullable;

/**
 * Several drives of one vehicle on one road with one part in several sizes: all of them like with like, which size is
 * best and how sure, and which would be worth trying next.
 *
 * <p>Every drive is compared with the first ({@link RunComparison}). Counted are the places of the first drive that
 * found their like in all others, with its targets: the error of drive k there is (1 + e_1) exp(d_k) - 1. The score is
 * the mean over ways of running of (rms/tolerance)²; its standard deviation follows from those of the differences.
 * Parts of the pump do nothing to steady running: their score is what an opening hesitates in the cylinders
 * ({@link OpeningStudy.Finding#hesitates}), which readings behind a sensor's lag hardly show; where the pump of one of
 * the drives is not judged yet, what those from closed throttle read ({@link TipIn#hesitates}), squared.
 *
 * @param part part that was tried
 * @param stage its stage
 * @param trials the drives, in the order given
 * @param regimes ways of running that all of them share, in the order of work
 * @param best place of the best in {@code trials}
 * @param told whether it is told apart from the next best, at 90 %
 * @param next size that promises to be better than all tried; empty where none does
 * @param warnings what else moved, and what makes the trials doubtful
 */
public record TrialSeries(Part part, Stage stage, List<Trial> trials, List<Regime> regimes, int best, boolean told,
        Optional<Double> next, List<Message> warnings) {
    private static final double Z90 = 1.645;
    private static final double LEAST_S = 2.0;
    /** What a drive of the same parts repeats to, share of lambda; judgement. */
    private static final double DAY = 0.007;
    /** What a part does less than is nothing, share of lambda. */
    private static final double NOTHING = 0.01;
    private static final double LEAST_SHARED = 0.4;
    private static final double DENSITY = 0.02;
    /** A size that promises less than this of the best score is not worth another drive. */
    private static final double WORTH = 0.10;
    private static final int FEWEST_TIP_INS = 4;

    /** Copies the lists. */
    public TrialSeries {
        trials = List.copyOf(trials);
        regimes = List.copyOf(regimes);
        warnings = List.copyOf(warnings);
    }

    /**
     * One drive.
     *
     * @param name what it is called
     * @param size size of the part, in its unit
     * @param errors error by way of running: mean of lambda/target - 1, its low and high end at 90 %, and the rms
     * @param score what it is judged by; 1 is just tuned, less is better
     * @param scoreSd its standard deviation
     */
    public record Trial(String name, double size, Map<Regime, double[]> errors, double score, double scoreSd) {
    }

    /**
     * A drive to lay beside others.
     *
     * @param name what it is called
     * @param analysis its analysis
     */
    public record Drive(String name, Analysis analysis) {
    }

    /**
     * Lays drives beside each other.
     *
     * @param drives two or more, in any order
     * @return what they show together
     * @throws InputProblem when there are under two, no part differs, or drives cannot be compared
     */
    public static TrialSeries of(List<Drive> drives) {
        if (drives.size() < 2) {
            throw problem("problem.a-series-of-one", "problem.give-two-drives-or-more");
        }
        Analysis first = drives.getFirst().analysis();
        List<RunComparison> against = drives.stream().skip(1).map(d -> RunComparison.of(first, d.analysis())).toList();
        PartChange tried = tried(against).orElseThrow(() -> problem("problem.no-part-differs",
                "problem.put-on-every-sheet-what-was-fitted"));
        Series s = new Series(drives, against, tried.part(), tried.side());
        return s.result();
    }

    private static InputProblem problem(String found, String remedy) {
        return new InputProblem("", 0, 0, "", message(found), message(remedy));
    }

    /** The part that differs in most of the drives. */
    private static Optional<PartChange> tried(List<RunComparison> against) {
        Map<List<Object>, Integer> count = new LinkedHashMap<>();
        Map<List<Object>, PartChange> which = new LinkedHashMap<>();
        against.stream().flatMap(c -> c.changed().stream()).forEach(c -> {
            count.merge(List.of(c.part(), c.side()), 1, Integer::sum);
            which.putIfAbsent(List.of(c.part(), c.side()), c);
        });
        return count.entrySet().stream().max(Map.Entry.comparingByValue()).map(e -> which.get(e.getKey()));
    }

    /** All ladders of a sheet, of whatever kind. */
    private static Optional<Ladder> ladder(BuildSheet sheet, Part part, Stage stage) {
        Family f = sheet.carburetor().family();
        return Stream.of(f.ladders(sheet), f.pumpParts(sheet), f.bypasses(sheet), f.openingPart(sheet).stream()
                .toList()).flatMap(Collection::stream).filter(l -> l.part().equals(part) && l.stage() == stage)
                .findFirst();
    }

    /** A size as it is named: conversions of units leave something in the last place. */
    private static double rounded(double size) {
        return Math.rint(1e6 * size) / 1e6;
    }

    /** What the drives have in common, while it is worked out. */
    private static final class Series {
        private final List<Drive> drives;
        private final List<RunComparison> against;
        private final Part part;
        private final Stage stage;
        private final List<Map<Cell, Double>> differences = new ArrayList<>();
        private final Map<Regime, List<Integer>> cells = new EnumMap<>(Regime.class);

        Series(List<Drive> drives, List<RunComparison> against, Part part, Stage stage) {
            this.drives = drives;
            this.against = against;
            this.part = part;
            this.stage = stage;
            Analysis first = drives.getFirst().analysis();
            for (RunComparison c : against) {
                Map<Cell, Double> by = new LinkedHashMap<>();
                c.pairs().forEach(p -> by.put(p.before(), p.difference()));
                differences.add(by);
            }
            List<Cell> all = first.estimate().cells();
            for (int i = 0; i < all.size(); i++) {
                Cell cell = all.get(i);
                if (differences.stream().allMatch(d -> d.containsKey(cell))) {
                    cells.computeIfAbsent(first.regime(i), r -> new ArrayList<>()).add(i);
                }
            }
            cells.values().removeIf(l -> l.stream().mapToDouble(i -> all.get(i).dwellS()).sum() < LEAST_S);
            if (cells.isEmpty()) {
                throw problem("problem.nothing-in-common", "problem.drive-the-same-road");
            }
        }

        TrialSeries result() {
            List<Trial> trials = new ArrayList<>();
            for (int k = 0; k < drives.size(); k++) {
                trials.add(trial(k));
            }
            List<Trial> order = trials.stream().sorted(Comparator.comparingDouble(Trial::score)).toList();
            Trial best = order.getFirst();
            Trial other = order.stream().filter(t -> t.size() != best.size()).findFirst().orElse(best);
            boolean told = other.score() - best.score() > Z90 * Math.hypot(best.scoreSd(), other.scoreSd());
            return new TrialSeries(part, stage, trials, List.copyOf(cells.keySet()), trials.indexOf(best), told,
                    next(trials, best), warnings());
        }

        private Trial trial(int k) {
            Analysis first = drives.getFirst().analysis();
            Map<Regime, double[]> errors = new EnumMap<>(Regime.class);
            double score = 0.0;
            double variance = 0.0;
            for (Map.Entry<Regime, List<Integer>> e : cells.entrySet()) {
                double[] sum = new double[3];
                for (int i : e.getValue()) {
                    double error = error(first, i, k == 0 ? null : differences.get(k - 1));
                    double w = first.weight(i);
                    sum[0] += w;
                    sum[1] += w * error;
                    sum[2] += w * error * error;
                }
                double mean = sum[1] / sum[0];
                double rms = Math.sqrt(sum[2] / sum[0]);
                double sd = sd(e.getKey(), k);
                errors.put(e.getKey(), new double[] {mean, mean - Z90 * sd, mean + Z90 * sd, rms});
                double scale = e.getKey().tolerance() * e.getKey().tolerance() * cells.size();
                score += rms * rms / scale;
                variance += Math.pow(2.0 * Math.abs(mean) * sd / scale, 2) + Math.pow(sd * sd / scale, 2);
            }
            double size = rounded(part.of(drives.get(k).analysis().observation().sheet().carburetor(), stage));
            if (part.role().pump()) {
                double[] tipIns = openings(drives.get(k).analysis());
                return new Trial(drives.get(k).name(), size, errors, tipIns[0], tipIns[1]);
            }
            return new Trial(drives.get(k).name(), size, errors, score, Math.sqrt(variance));
        }

        private static double error(Analysis first, int cell, @Nullable Map<Cell, Double> difference) {
            double own = first.targetPhi(cell) / first.estimate().phi(cell);
            Double moved = difference == null ? null : difference.get(first.estimate().cells().get(cell));
            return own * Math.exp(moved == null ? 0.0 : moved) - 1.0;
        }

        /** What a drive repeats to, and of the others that of their difference: what all have in common parts none. */
        private double sd(Regime r, int k) {
            if (k == 0) {
                return DAY;
            }
            return against.get(k - 1).differences().stream().filter(d -> d.regime() == r).mapToDouble(d -> (d.high()
                    - d.low()) / (2.0 * Z90)).findFirst().orElse(TipIns.FELT);
        }

        private double[] openings(Analysis a) {
            if (drives.stream().allMatch(d -> d.analysis().advice().pump().isPresent())) {
                return a.advice().pump().orElseThrow().hesitates();
            }
            double[] each = a.tipIns().stream().filter(TipIn::fromClosed).mapToDouble(TipIn::hesitates).toArray();
            if (each.length == 0) {
                throw problem("problem.no-openings", "problem.open-the-throttle");
            }
            double mean = Arrays.stream(each).average().orElse(Double.NaN);
            double squares = 0.0;
            for (double h : each) {
                squares += (h - mean) * (h - mean);
            }
            double sd = each.length < 2 ? 1.0 : Math.sqrt(squares / (each.length - 1) / each.length);
            return new double[] {mean * mean, 2.0 * mean * sd};
        }

        /** Among the sizes on the ladder the one that the best drive's carburetor promises most for. */
        private Optional<Double> next(List<Trial> trials, Trial best) {
            Analysis a = drives.get(trials.indexOf(best)).analysis();
            BuildSheet sheet = a.observation().sheet();
            Optional<Ladder> ladder = ladder(sheet, part, stage);
            if (part.role().pump()) {
                return a.advice().pump().flatMap(OpeningStudy.Finding::change)
                        .filter(c -> c.ladder().part().equals(part) && c.ladder().stage() == stage)
                        .map(c -> rounded(c.to())).filter(to -> trials.stream().noneMatch(t -> t.size() == to));
            }
            if (ladder.isEmpty() || part.role().second()
                    || part.role() == Part.Role.IDLE_BYPASS) {
                return Optional.empty();
            }
            Set<Double> tried = new HashSet<>(trials.stream().map(Trial::size).toList());
            double today = promised(a, best.size());
            double least = (1.0 - WORTH) * today;
            Optional<Double> out = Optional.empty();
            for (double exact : ladder.get().sizes(sheet)) {
                double size = rounded(exact);
                boolean beyond = trials.stream().anyMatch(t -> worse(t, best) && between(t.size(), size, best.size()));
                double promise = beyond || tried.contains(size) ? Double.POSITIVE_INFINITY : promised(a, size);
                if (promise < least) {
                    least = promise;
                    out = Optional.of(size);
                }
            }
            return out;
        }

        private static boolean worse(Trial t, Trial best) {
            return t.score() - best.score() > Z90 * Math.hypot(t.scoreSd(), best.scoreSd());
        }

        /** Whether a size lies no nearer to the best than one that is known to be worse, on the same side. */
        private static boolean between(double worse, double size, double best) {
            return (size - worse) * (worse - best) >= 0.0 && worse != best;
        }

        private double promised(Analysis a, double size) {
            double sum = 0.0;
            int n = 0;
            for (RegimePrediction p : a.predict(part.fit(a.observation().sheet(), stage, size))) {
                if (cells.containsKey(p.after().regime())) {
                    double x = p.after().rms() / p.after().regime().tolerance();
                    sum += x * x;
                    n++;
                }
            }
            return sum / Math.max(1, n);
        }

        private List<Message> warnings() {
            List<Message> out = new ArrayList<>();
            Analysis first = drives.getFirst().analysis();
            double density = first.observation().sheet().ambient().densityKgPerM3();
            for (int k = 1; k < drives.size(); k++) {
                String name = drives.get(k).name();
                RunComparison c = against.get(k - 1);
                List<PartChange> others = c.changed().stream().filter(p -> !p.part().equals(part) || p.side() != stage)
                        .toList();
                if (!others.isEmpty()) {
                    out.add(message("series.more-than-one-part", name, Message.join("; ", others.stream().map(
                            PartChange::text).toList())));
                }
                for (Difference d : c.differences()) {
                    double should = Double.isNaN(d.predicted()) ? 0.0 : d.predicted();
                    if (d.matters() && Math.abs(should) < NOTHING && others.isEmpty()) {
                        out.add(message(d.mean() > 0.0 ? "series.moved-lean" : "series.moved-rich", name, d.regime()
                                .label(), 100.0 * Math.abs(d.mean())));
                    }
                }
                if (c.share() < LEAST_SHARED) {
                    out.add(message("series.little-in-common", name, 100.0 * c.share()));
                }
                double other = drives.get(k).analysis().observation().sheet().ambient().densityKgPerM3();
                if (Math.abs(other / density - 1.0) > DENSITY) {
                    out.add(message("series.other-air", name, 100.0 * (other / density - 1.0)));
                }
            }
            for (Drive d : drives) {
                if (d.analysis().advice().verdict() == Verdict.CHECK_FIRST) {
                    out.add(message("series.check-first", d.name()));
                }
                if (part.role().pump() && d.analysis().tipIns().stream().filter(TipIn::fromClosed).count()
                        < FEWEST_TIP_INS) {
                    out.add(message("series.few-tip-ins", d.name()));
                }
            }
            return out;
        }
    }

    /** {@return what the trials come to, in one sentence} */
    public Message sentence() {
        Message size = part.text(trials.get(best).size());
        Message what = part.named(stage);
        if (next.isPresent()) {
            return message(told ? "series.best-then-next" : "series.open-then-next", what, size, part.text(next.get()));
        }
        Message other = trials.stream().filter(t -> t.size() != trials.get(best).size()).min(Comparator.comparingDouble(
                Trial::score)).map(t -> part.text(t.size())).orElse(size);
        return told ? message("series.settled", what, size) : message("series.not-told", what, size, other);
    }
}
