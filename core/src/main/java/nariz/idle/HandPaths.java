package nariz.idle;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Set;
import java.util.stream.IntStream;

/**
 * Where the screws stood at every reading, where nothing but speed and vacuum tells: which moves were made the other
 * way is one of the things that are not known.
 *
 * <p>One answer hardly tells a turn the other way from a best that lies elsewhere; the answers after it do, since no
 * single curve passes through them all any more. So every path that is still likely is kept, each with its own
 * posterior of curves, weighed by what its readings are worth (Bayesian averaging over models; the paths differ in a
 * label for each move). What is not settled between them is in the variance of the finish, and the next move is chosen
 * to lower that.
 */
final class HandPaths {
    /** Moves that a hand makes the other way. */
    private static final double OTHER_WAY = 0.06;
    private static final int MOST = 16;
    /** Paths less likely than this are let go of. */
    private static final double LEAST = 1e-4;

    private final double least;
    private List<Path> paths = List.of();

    /**
     * One way it may have gone.
     *
     * @param at turns at every reading
     * @param back whether the move before that reading was made the other way
     * @param prior logarithm of how likely hands make these moves
     * @param weight probability
     */
    private record Path(List<Double> at, List<Boolean> back, double prior, double weight) {
        double now() {
            return at.getLast();
        }

        Path with(double turns, boolean otherWay, double ln) {
            List<Double> all = new ArrayList<>(at);
            all.add(turns);
            List<Boolean> turned = new ArrayList<>(back);
            turned.add(otherWay);
            return new Path(all, turned, prior + ln, weight);
        }
    }

    /**
     * Begins with nothing read.
     *
     * @param least fewest turns the screws can stand at: their seat
     */
    HandPaths(double least) {
        this.least = least;
    }

    HandPaths(HandPaths of) {
        least = of.least;
        paths = of.paths;
    }

    /**
     * Whatever may have happened before, the screws stood where these readings have them.
     *
     * @param readings in order, none yet or all so far
     */
    void known(List<IdleReading> readings) {
        paths = readings.isEmpty() ? List.of() : List.of(new Path(readings.stream().map(IdleReading::turns).toList(),
                readings.stream().map(r -> false).toList(), 0.0, 1.0));
    }

    /**
     * A move was made and the engine is about to be weighed.
     *
     * @param by turns asked for
     * @param mayBeWrong whether a hand may have made it the other way
     */
    void moved(double by, boolean mayBeWrong) {
        List<Path> next = new ArrayList<>();
        for (Path p : paths) {
            next.add(p.with(Math.max(p.now() + by, least), false, mayBeWrong ? Math.log1p(-OTHER_WAY) : 0.0));
            if (mayBeWrong) {
                next.add(p.with(Math.max(p.now() - by, least), true, Math.log(OTHER_WAY)));
            }
        }
        paths = next;
    }

    /** The move before the latest reading was put back, whichever way it had gone, and the engine is to be weighed. */
    void back() {
        paths = paths.stream().map(p -> p.with(p.at().get(Math.max(0, p.at().size() - 2)), false, 0.0)).toList();
    }

    /**
     * Weighs the paths by what was read.
     *
     * @param readings as many as there were moves, with the first one; their turns are not looked at
     * @param without those that are not on any curve, from 0
     * @return posterior over curves, seen from where the likeliest path has the screws now
     */
    IdleCurve weigh(List<IdleReading> readings, Set<Integer> without) {
        double low = paths.stream().flatMap(p -> p.at().stream()).mapToDouble(x -> x).min().orElse(0.0);
        double high = paths.stream().flatMap(p -> p.at().stream()).mapToDouble(x -> x).max().orElse(0.0);
        List<IdleCurve> curves = paths.stream().map(p -> IdleCurve.inTurns(along(p, readings, without), low, high))
                .toList();
        double[] ln = IntStream.range(0, paths.size()).mapToDouble(i -> paths.get(i).prior() + curves.get(i)
                .logEvidence()).toArray();
        double top = IntStream.range(0, ln.length).mapToDouble(i -> ln[i]).max().orElse(0.0);
        double sum = IntStream.range(0, ln.length).mapToDouble(i -> Math.exp(ln[i] - top)).sum();
        record Weighed(Path path, IdleCurve curve) {
        }

        List<Weighed> kept = IntStream.range(0, ln.length).mapToObj(i -> new Weighed(new Path(paths.get(i).at(), paths
                .get(i).back(), paths.get(i).prior(), Math.exp(ln[i] - top) / sum), curves.get(i))).filter(w ->
                        w.path().weight() > LEAST).sorted(Comparator.comparingDouble((Weighed w) -> w.path().weight())
                                .reversed()).limit(MOST).toList();
        double whole = kept.stream().mapToDouble(w -> w.path().weight()).sum();
        paths = kept.stream().map(w -> new Path(w.path().at(), w.path().back(), w.path().prior(), w.path().weight()
                / whole)).toList();
        double now = paths.getFirst().now();
        return IdleCurve.averaged(kept.stream().map(Weighed::curve).toList(), paths.stream().mapToDouble(p -> now - p
                .now()).toArray(), paths.stream().mapToDouble(Path::weight).toArray());
    }

    private static List<IdleReading> along(Path p, List<IdleReading> readings, Set<Integer> without) {
        return IntStream.range(0, readings.size()).filter(i -> !without.contains(i)).mapToObj(i -> readings.get(i).at(p
                .at().get(i), readings.get(i).stop())).toList();
    }

    /**
     * The readings where the likeliest path has them.
     *
     * @param readings as many as there were moves, with the first one
     * @return the same with their turns
     */
    List<IdleReading> placed(List<IdleReading> readings) {
        return along(paths.getFirst(), readings, Set.of());
    }

    /**
     * How likely a move was made the other way.
     *
     * @param reading the reading after it, from 0
     * @return probability
     */
    double otherWay(int reading) {
        return paths.stream().filter(p -> p.back().get(reading)).mapToDouble(Path::weight).sum();
    }
}
