package nariz.idle;

import static nariz.text.Message.message;

import java.math.BigInteger;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import nariz.text.Message;

/**
 * Balances the airflow of several carburetors: which link or stop, which way, how far.
 *
 * <p>A flow meter held on a mouth throttles it a little and the engine slows; what it shows is put back by the ratio of
 * the speeds, for at idle the air goes with the speed. What a turn does is learned from the turns made: ln of a
 * carburetor's share over turns, a straight line with {@value #USUAL} a turn before anything was seen (spread
 * {@value #USUAL_SD}; a link of some 30 mm on a plate a few degrees open), as of {@code flow.ThrottlePlate}. Links off,
 * every stop is brought to the mean, so that the speed stays; links on and at a fast steady speed, every other
 * carburetor to the first, which the pedal pulls.
 */
public final class ThrottleBalance {
    /** Shares within this of each other are balanced. */
    public static final double TOLERANCE = 0.03;
    private static final double USUAL = 0.45;
    private static final double USUAL_SD = 0.35;
    private static final double READ_SD = 0.02;
    private static final double FINEST = 1.0 / 16.0;
    private static final double MOST = 0.5;

    private final int carburetors;
    private final Stage stage;
    private final List<double[]> flows = new ArrayList<>();
    private final List<double[]> turns = new ArrayList<>();
    private final double[] now;

    /** How it is balanced. */
    public enum Stage {
        /** At idle, links undone: each on its own stop. */
        LINKS_OFF("links-off"),
        /** At idle, links done up. */
        LINKS_ON("links-on"),
        /** At 2500 to 3000 rpm. */
        FAST("fast");

        private final String key;

        Stage(String key) {
            this.key = key;
        }

        /** {@return name in bundles} */
        public String key() {
            return key;
        }
    }

    /**
     * A turn to make.
     *
     * @param carburetor from 0
     * @param turns positive opens
     * @param off share by which it passes more than it should
     */
    public record Turn(int carburetor, double turns, double off) {
        /**
         * In words.
         *
         * @param stage how it is balanced
         * @return what to turn
         */
        public Message text(Stage stage) {
            long parts = Math.round(Math.abs(turns) * 16);
            long by = BigInteger.valueOf(parts).gcd(BigInteger.valueOf(16)).longValue();
            return message(stage == Stage.LINKS_OFF ? turns > 0 ? "balance.stop-in" : "balance.stop-out" : turns > 0
                    ? "balance.link-open" : "balance.link-shut", carburetor + 1, parts / by, 16 / by,
                    100 * Math.abs(off));
        }
    }

    /**
     * Begins.
     *
     * @param carburetors how many, 2 or more
     * @param stage how it is balanced
     */
    public ThrottleBalance(int carburetors, Stage stage) {
        if (carburetors < 2) {
            throw new IllegalArgumentException("nothing to balance with " + carburetors);
        }
        this.carburetors = carburetors;
        this.stage = stage;
        now = new double[carburetors];
    }

    /**
     * What a meter shows, put back to the engine without it.
     *
     * @param shown flow, any unit
     * @param rpmBefore speed without the meter
     * @param rpmWith speed with it; NaN where nobody looked
     * @return flow without the meter
     */
    public static double withoutMeter(double shown, double rpmBefore, double rpmWith) {
        return Double.isNaN(rpmWith) || rpmWith <= 0 ? shown : shown * rpmBefore / rpmWith;
    }

    /**
     * Takes a reading of every carburetor.
     *
     * @param flow of each, one unit for all, positive
     */
    public void read(double[] flow) {
        if (flow.length != carburetors) {
            throw new IllegalArgumentException(flow.length + " readings for " + carburetors + " carburetors");
        }
        flows.add(flow.clone());
        turns.add(now.clone());
    }

    /**
     * Takes note of a turn that was made.
     *
     * @param t the turn, or another one
     */
    public void turned(Turn t) {
        now[t.carburetor()] += t.turns();
    }

    /** What a turn does to the ln of a carburetor's share, learned from the readings. */
    double perTurn() {
        double prior = 1.0 / (USUAL_SD * USUAL_SD);
        double sxx = prior;
        double sxy = prior * USUAL;
        for (int k = 1; k < flows.size(); k++) {
            for (int i = 0; i < carburetors; i++) {
                double dx = turns.get(k)[i] - turns.get(k - 1)[i];
                if (dx != 0.0) {
                    double dy = Math.log(share(k, i) / share(k - 1, i));
                    double p = 1.0 / (2 * READ_SD * READ_SD);
                    // The share falls with what the others gain.
                    double felt = dx * (1.0 - 1.0 / carburetors);
                    sxx += p * felt * felt;
                    sxy += p * felt * dy;
                }
            }
        }
        return Math.max(0.08, sxy / sxx);
    }

    private double share(int reading, int carburetor) {
        double sum = 0.0;
        for (double f : flows.get(reading)) {
            sum += f;
        }
        return flows.get(reading)[carburetor] / sum;
    }

    /**
     * By how much every carburetor passes more than it should, in the latest reading.
     *
     * @return shares, 0 where right; empty before the first reading
     */
    public double[] off() {
        double[] out = new double[flows.isEmpty() ? 0 : carburetors];
        for (int i = 0; i < out.length; i++) {
            double[] f = flows.getLast();
            double mean = 0.0;
            for (double x : f) {
                mean += x / carburetors;
            }
            out[i] = f[i] / (stage == Stage.LINKS_OFF ? mean : f[0]) - 1.0;
        }
        return out;
    }

    /** {@return the turn to make next; empty when it is balanced, or nothing was read} */
    public Optional<Turn> next() {
        double[] off = off();
        int worst = -1;
        for (int i = 0; i < off.length; i++) {
            if (Math.abs(off[i]) > TOLERANCE && (worst < 0 || Math.abs(off[i]) > Math.abs(off[worst]))) {
                worst = i;
            }
        }
        if (worst < 0) {
            return Optional.empty();
        }
        double by = -Math.log1p(off[worst]) / perTurn();
        double rounded = Math.rint(Math.clamp(by, -MOST, MOST) / FINEST) * FINEST;
        return Optional.of(new Turn(worst, rounded == 0.0 ? Math.copySign(FINEST, by) : rounded, off[worst]));
    }

    /** {@return how it is balanced} */
    public Stage stage() {
        return stage;
    }
}
