package nariz.dynamics;

import static nariz.text.Message.message;

import java.util.ArrayList;
import java.util.List;
import nariz.carburetor.Circuit;
import nariz.estimation.Flag;
import nariz.estimation.Observation;
import nariz.log.Channel;
import nariz.log.DriveLog;
import nariz.text.Message;

/**
 * Held speeds of a standing car, 2, 3, 4, 5, 6 thousand, each steady for {@value #LEAST_S} s: the mixture of idle,
 * progression and the beginning of the main circuit without a road. An engine without load draws little air at high
 * vacuum, so enrichment, full load, second stage and pump say nothing in it; with and without the air box it tells
 * whether the box throttles.
 *
 * @param holds held speeds, slowest first
 * @param mostLoad highest manifold over ambient pressure in them, 0 to 1
 */
public record UnloadedSweep(List<Hold> holds, double mostLoad) {
    private static final double LEAST_S = 4.0;
    private static final double STANDS_M_PER_S = 1.0;
    private static final double ABOVE_IDLE = 1.4;
    private static final double WIDTH = 0.05;
    private static final double ALIKE = 0.06;
    /** Readings of a second hang together; what the same speed repeats to on another run. */
    private static final double SHARED_S = 1.0;
    private static final double REPEATS = 0.01;
    private static final double Z90 = 1.6449;

    /** Copies the list. */
    public UnloadedSweep {
        holds = List.copyOf(holds);
    }

    /**
     * A held speed.
     *
     * @param rpm mean engine speed
     * @param seconds how long it was held, s
     * @param lambda mean mixture
     * @param sd standard deviation of that mean, share
     * @param slot part of the fuel from idle port and progression, 0 to 1
     */
    public record Hold(double rpm, double seconds, double lambda, double sd, double slot) {
    }

    /**
     * The same speed in two sweeps.
     *
     * @param rpm engine speed of the first
     * @param mean how much leaner the second is, share
     * @param low low end of the 90 % interval
     * @param high high end
     */
    public record Difference(double rpm, double mean, double low, double high) {
    }

    /**
     * Finds held speeds.
     *
     * @param o drive
     * @return the sweep; without holds where there was none, or where the car was moving
     */
    public static UnloadedSweep of(Observation o) {
        DriveLog log = o.log();
        double[] t = log.timeS();
        double[] speed = log.has(Channel.SPEED) ? log.values(Channel.SPEED) : new double[0];
        double least = ABOVE_IDLE * o.sheet().engine().idleRpm();
        List<Hold> out = new ArrayList<>();
        double load = 0.0;
        int from = 0;
        while (from < t.length) {
            int to = from;
            double first = log.rpm()[from];
            while (to < t.length && log.rpm()[to] > least && Math.abs(log.rpm()[to] / first - 1.0) < WIDTH
                    && stands(speed, to) && (to == from || t[to] - t[to - 1] < Math.max(1.0, o.gapS()))) {
                to++;
            }
            if (to > from && t[to - 1] - t[from] >= LEAST_S) {
                Hold h = hold(o, from, to);
                if (h.seconds() >= LEAST_S) {
                    out.add(h);
                    load = Math.max(load, 1.0 - log.vacuumPa()[(from + to) / 2]
                            / o.sheet().ambient().pressurePa());
                }
            }
            from = Math.max(to, from + 1);
        }
        out.sort(java.util.Comparator.comparingDouble(Hold::rpm));
        return new UnloadedSweep(out, load);
    }

    /** Without a speed channel nothing says that the car moves; noted points and stands have none. */
    private static boolean stands(double[] speed, int i) {
        return speed.length == 0 || speed[i] < STANDS_M_PER_S;
    }

    private static Hold hold(Observation o, int from, int to) {
        double[] t = o.log().timeS();
        double rpm = 0.0;
        double sum = 0.0;
        double squares = 0.0;
        double slot = 0.0;
        double seconds = 0.0;
        int n = 0;
        for (int i = from; i < to; i++) {
            int s = o.stateOf(i);
            boolean reads = o.flag(i) == Flag.STEADY || o.flag(i) == Flag.TRANSIENT;
            if (!reads || s < from || !(o.measuredPhi(i) > 0.0)) {
                continue;
            }
            double y = -Math.log(o.measuredPhi(i));
            rpm += o.log().rpm()[s];
            sum += y;
            squares += y * y;
            slot += slot(o, s);
            seconds += i + 1 < to ? t[i + 1] - t[i] : 0.0;
            n++;
        }
        if (n == 0) {
            return new Hold(0.0, 0.0, Double.NaN, Double.NaN, Double.NaN);
        }
        double mean = sum / n;
        double scatter = Math.sqrt(Math.max(0.0, squares / n - mean * mean));
        return new Hold(rpm / n, seconds, Math.exp(mean), scatter / Math.sqrt(Math.max(1.0, seconds / SHARED_S)), slot
                / n);
    }

    private static double slot(Observation o, int s) {
        double low = 0.0;
        double all = 0.0;
        for (Circuit c : o.sheet().carburetor().family().circuits()) {
            all += o.phi(c, s);
            low += c.lowSpeed() ? o.phi(c, s) : 0.0;
        }
        return all > 0.0 ? low / all : 0.0;
    }

    /**
     * The same speeds in another sweep.
     *
     * @param other sweep of the same car, for example without its air box
     * @return differences, slowest first; positive where the other is leaner
     */
    public List<Difference> against(UnloadedSweep other) {
        List<Difference> out = new ArrayList<>();
        for (Hold a : holds) {
            other.holds().stream().filter(b -> Math.abs(b.rpm() / a.rpm() - 1.0) < ALIKE).min(
                    java.util.Comparator.comparingDouble(b -> Math.abs(b.rpm() - a.rpm()))).ifPresent(b -> {
                        double mean = Math.log(b.lambda() / a.lambda());
                        double reach = Z90 * Math.sqrt(a.sd() * a.sd() + b.sd() * b.sd() + REPEATS * REPEATS);
                        out.add(new Difference(a.rpm(), mean, mean - reach, mean + reach));
                    });
        }
        return out;
    }

    /** {@return what the held speeds read and what they cannot say} */
    public List<Message> words() {
        List<Message> out = new ArrayList<>();
        holds.forEach(h -> out.add(message("sweep.hold", h.rpm(), h.lambda(), 100.0 * h.sd() * Z90, h.seconds(), 100.0
                * h.slot())));
        if (!holds.isEmpty()) {
            out.add(message("sweep.says-nothing-of", 100.0 * mostLoad));
        }
        return out;
    }

    /**
     * What a second sweep says of the air box.
     *
     * @param without the same speeds without the box
     * @return sentences; none where no speed is shared
     */
    public List<Message> airBox(UnloadedSweep without) {
        List<Message> out = new ArrayList<>();
        List<Difference> shared = against(without);
        shared.forEach(d -> out.add(message(d.low() > 0.0 ? "sweep.leaner-without" : d.high() < 0.0
                ? "sweep.richer-without" : "sweep.alike", d.rpm(), 100.0 * Math.abs(d.mean()), 100.0 * d.low(), 100.0
                * d.high())));
        if (shared.size() > 1) {
            Difference fastest = shared.getLast();
            boolean grows = fastest.low() > 0.0 && fastest.mean() > shared.getFirst().mean() + REPEATS;
            out.add(message(grows ? "sweep.the-box" : "sweep.not-the-box"));
        }
        return out;
    }
}
