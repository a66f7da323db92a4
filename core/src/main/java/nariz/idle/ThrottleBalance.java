package nariz.idle;

import static nariz.text.Message.message;

import java.math.BigInteger;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import nariz.text.Message;
import org.hipparchus.special.Erf;
import org.jspecify.annotations.Nullable;

/**
 * Balances the airflow of several carburetors: which link or stop, which way, how far, and when it is done.
 *
 * <p>What is believed after every reading and turn is in {@link BalancePosterior}: how far each carburetor is off, what
 * a turn does here, how good the meter is, whether the hand did as it was asked. The turn that is asked for is the one
 * that lowers the mean square most, as large as a turn does in the mean: smaller ones would be surer and take longer.
 * Where nothing is clearly off and not everything clearly right it is read once
 * more. Links off, every stop is brought to the mean, so that the speed stays, and at the end all of them together to
 * the speed wanted; links on and at a fast steady speed, every other carburetor to the first, which the pedal pulls.
 * One thread at a time.
 */
public final class ThrottleBalance {
    /** Shares within this of each other are balanced. */
    public static final double TOLERANCE = 0.04;
    /** No meter shows more, whatever its unit. */
    public static final double MOST_FLOW = 10_000;
    /** How likely every carburetor has to be within it. */
    private static final double SURE = 0.8;
    /** Chance that any of several that are right looks clearly off. */
    private static final double ALARM = 0.1;
    private static final double FINEST = 1.0 / 16.0;
    private static final double MOST = 0.5;
    /** The largest turn once what a turn does was seen so often. */
    private static final double MOST_KNOWN = 0.75;
    private static final int KNOWN = 2;
    /** Readings one after the other that ask for no turn, after which nothing more is learnt. */
    private static final int MOST_READ = 3;
    /** Turns after which it is left. */
    private static final int MOST_TURNS = 16;
    /** From here on a turn is taken for another than the one asked for. */
    private static final double SLIPPED = 0.8;
    private static final double SPEED_OFF = 0.04;
    /** What the speed counts beside the shares. */
    private static final double SPEED_WEIGHT = 0.5;
    private static final int MOST_SPEED = 6;
    /** Share of a carburetor's air that no meter takes more of. */
    private static final double MOST_TAKEN = 0.4;
    /**
     * Air over speed at idle, as exponent: what the cylinders have to bring grows a little with the speed, since
     * friction does (total motored friction 0.97 + 0.15 n + 0.05 n² bar, n in 1000/min; Heywood 1988, eq. 13.6).
     */
    private static final double AIR_OVER_SPEED = 1.15;
    /** Less than this of the speed a turn is none, ln. */
    private static final double LEAST_SPEED_PER_TURN = 0.1;

    private final int carburetors;
    private final Stage stage;
    private final double idleRpm;
    /** Turns of all stops that nothing was read after yet, and what such a turn makes of the speed, ln. */
    private double all;
    private double speedPerTurn = Double.NaN;
    private final List<Move> moves = new ArrayList<>();
    private final List<Reading> readings = new ArrayList<>();
    private final BalancePosterior belief;
    private @Nullable Move next;
    private int idle;
    private Optional<BalancePosterior.Done> slip = Optional.empty();

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

    /** What there is to do. */
    public enum Kind {
        /** Read every carburetor. */
        READ,
        /** Turn one stop or link. */
        TURN,
        /** Turn every stop alike, for the speed. */
        SPEED,
        /** Balanced. */
        DONE,
        /** It is left as it is: turns do not bring it nearer. */
        LEFT
    }

    /**
     * What every carburetor showed.
     *
     * @param flow of each, one unit for all, positive, at most {@value ThrottleBalance#MOST_FLOW}
     * @param rpm speed without the meter; NaN where nobody looked
     * @param rpmWith mean of the speeds with the meter on; NaN where nobody looked
     */
    public record Reading(double[] flow, double rpm, double rpmWith) {
        /** Copies the flows. */
        public Reading {
            flow = flow.clone();
        }
    }

    /**
     * A move.
     *
     * @param kind what
     * @param carburetor whose, from 0; -1 for all
     * @param turns positive opens
     * @param off share by which it passes more than it should
     * @param why reason
     */
    public record Move(Kind kind, int carburetor, double turns, double off, Message why) {
    }

    /**
     * Where a carburetor stands.
     *
     * @param off share by which it passes more than it should
     * @param sd standard deviation of it
     * @param read the same in the latest reading alone
     */
    public record Share(double off, double sd, double read) {
    }

    /**
     * Begins.
     *
     * @param carburetors how many, 2 or more
     * @param stage how it is balanced
     * @param idleRpm idle speed wanted
     */
    public ThrottleBalance(int carburetors, Stage stage, double idleRpm) {
        if (carburetors < 2) {
            throw new IllegalArgumentException("nothing to balance with " + carburetors);
        }
        this.carburetors = carburetors;
        this.stage = stage;
        this.idleRpm = idleRpm;
        belief = new BalancePosterior(carburetors);
    }

    /**
     * What a meter shows, put back to the engine without it. Held on a mouth it is one more restriction before the
     * plate: the pressure it costs grows with the square of what it passes, and behind a choked plate so does the share
     * it takes. How large that is follows from how far the engine slows down, since the air goes with the speed.
     *
     * @param shown flow of each carburetor, one unit
     * @param rpm speed without the meter; NaN where nobody looked
     * @param rpmWith mean of the speeds with it; NaN where nobody looked
     * @return flows without the meter; as shown where nobody looked
     */
    static double[] withoutMeter(double[] shown, double rpm, double rpmWith) {
        double[] out = shown.clone();
        if (!(rpm > 0.0) || !(rpmWith > 0.0)) {
            return out;
        }
        // With the meter on one of n carburetors the engine loses a share of one nth of its air.
        double taken = Math.clamp(AIR_OVER_SPEED * shown.length * (1.0 - rpmWith / rpm), 0.0, MOST_TAKEN);
        double square = Arrays.stream(shown).map(x -> x * x).average().orElse(1.0);
        for (int i = 0; i < out.length; i++) {
            out[i] = shown[i] / (1.0 - Math.min(MOST_TAKEN, taken * shown[i] * shown[i] / square));
        }
        return out;
    }

    /** {@return what to do next; the same until it was done} */
    public Move next() {
        Move m = next == null ? choose() : next;
        next = m;
        return m;
    }

    /**
     * Takes a reading of every carburetor.
     *
     * @param r what was read
     * @throws IllegalArgumentException for another number of flows, or one that is not in its range
     */
    public void read(Reading r) {
        if (r.flow().length != carburetors) {
            throw new IllegalArgumentException(r.flow().length + " readings for " + carburetors + " carburetors");
        }
        for (int i = 0; i < carburetors; i++) {
            if (!(r.flow()[i] > 0.0 && r.flow()[i] <= MOST_FLOW)) {
                throw new IllegalArgumentException("flow {" + i + "} is " + r.flow()[i]);
            }
        }
        boolean turned = belief.open();
        boolean[] same = new boolean[carburetors];
        for (int j = 0; j < carburetors && !turned && !readings.isEmpty(); j++) {
            same[j] = r.flow()[j] == readings.getLast().flow()[j];
        }
        double air = readings.isEmpty() ? Double.NaN : AIR_OVER_SPEED * Math.log(r.rpm() / readings.getLast().rpm());
        if (all != 0.0 && !readings.isEmpty()) {
            speedPerTurn = Math.max(LEAST_SPEED_PER_TURN, Math.log(r.rpm() / readings.getLast().rpm()) / all);
        }
        all = 0.0;
        readings.add(r);
        belief.read(withoutMeter(r.flow(), r.rpm(), r.rpmWith()), step(), air, same);
        BalancePosterior.Done done = belief.latest();
        slip = turned && done.asked() < 1.0 - SLIPPED ? Optional.of(done) : Optional.empty();
        idle = turned ? 0 : idle + 1;
        next = null;
    }

    /** What the figures read so far are rounded to: the coarsest usual step that all of them are multiples of. */
    private double step() {
        for (double step : new double[] {1.0, 0.5, 0.25, 0.2, 0.1, 0.05}) {
            if (readings.stream().flatMapToDouble(r -> Arrays.stream(r.flow())).allMatch(x -> Math.abs(x / step - Math
                    .rint(x / step)) < 1e-6)) {
                return step;
            }
        }
        return 0.0;
    }

    /** The turn that {@link #next} asked for was made: it is read next. */
    public void turned() {
        Move m = next();
        if (m.kind() == Kind.TURN) {
            belief.turned(m.carburetor(), m.turns());
        } else if (m.kind() == Kind.SPEED) {
            belief.turnedAll(m.turns());
            all = m.turns();
        } else {
            return;
        }
        moves.add(m);
        next = new Move(Kind.READ, -1, 0.0, 0.0, message("balance.why-again"));
    }

    /**
     * Takes the latest turn back: it is asked for the other way.
     *
     * @return the turn back, or what there is to do where none was made
     */
    public Move back() {
        if (!moves.isEmpty()) {
            Move m = moves.getLast();
            next = new Move(m.kind(), m.carburetor(), -m.turns(), m.off(), message("balance.why-back"));
        }
        return next();
    }

    private Move choose() {
        if (readings.isEmpty()) {
            return new Move(Kind.READ, -1, 0.0, 0.0, message("balance.why-read"));
        }
        BalancePosterior.Off[] off = new BalancePosterior.Off[carburetors];
        Arrays.setAll(off, this::off);
        boolean balanced = Arrays.stream(off).allMatch(o -> o.within() >= SURE);
        if (balanced) {
            return finished();
        }
        long turns = made(Kind.TURN);
        Optional<Move> turn = turns < MOST_TURNS ? turn(off, turns) : Optional.empty();
        if (turn.isPresent()) {
            Move m = turn.get();
            // What is not clearly off is read once more before anything is turned for it.
            if (Math.abs(m.off()) > clearly() * off[m.carburetor()].sd() || idle >= MOST_READ) {
                return m;
            }
        }
        boolean nothing = turn.isEmpty() && (turns >= MOST_TURNS || idle >= MOST_READ);
        return nothing ? new Move(Kind.LEFT, -1, 0.0, 0.0, message("balance.why-left")) : new Move(Kind.READ, -1, 0.0,
                0.0, message("balance.why-once-more"));
    }

    private long made(Kind kind) {
        return moves.stream().filter(m -> m.kind() == kind).count();
    }

    private BalancePosterior.Off off(int j) {
        return belief.off(j, stage == Stage.LINKS_OFF, Math.log1p(TOLERANCE));
    }

    /** So many standard deviations off is clearly off: the more there are, the further one of them strays. */
    private double clearly() {
        return Math.sqrt(2.0) * Erf.erfInv(1.0 - ALARM / (carburetors - 1.0));
    }

    /** Share of a turn that shows in how far a carburetor is off: the mean moves with it. */
    private double share() {
        return stage == Stage.LINKS_OFF ? 1.0 - 1.0 / carburetors : 1.0;
    }

    /** The turn that lowers the mean square most, in sixteenths; empty where none lowers it. */
    private Optional<Move> turn(BalancePosterior.Off[] off, long turns) {
        double best = 0.0;
        Move move = null;
        for (int j = 0; j < carburetors; j++) {
            double most = turns < KNOWN ? MOST : MOST_KNOWN;
            double by = Math.rint(Math.clamp(-off[j].off() / (share() * belief.perTurn()), -most, most)
                    / FINEST) * FINEST;
            double gains = off[j].gains(by, share()) - SPEED_WEIGHT * slower(by);
            if (gains > best) {
                best = gains;
                move = new Move(Kind.TURN, j, by, Math.expm1(off[j].off()), message("balance.why-turn", off[j]
                        .within() * 100.0));
            }
        }
        return Optional.ofNullable(move);
    }

    /** By how much a turn raises the square of what the speed is off: links off, it may be open or shut. */
    private double slower(double by) {
        double rpm = readings.getLast().rpm();
        if (stage != Stage.LINKS_OFF || Double.isNaN(rpm)) {
            return 0.0;
        }
        double now = Math.log(rpm / idleRpm);
        double then = now + belief.perTurn() * by / carburetors / AIR_OVER_SPEED;
        return then * then - now * now;
    }

    /** Balanced; links off, the speed is brought back by all stops alike. */
    private Move finished() {
        double rpm = readings.getLast().rpm();
        double off = rpm / idleRpm - 1.0;
        if (stage == Stage.LINKS_OFF && Math.abs(off) > SPEED_OFF && made(Kind.SPEED) < MOST_SPEED) {
            // By what all stops together have done: far up the slot a turn makes more than what one alone has shown.
            double perTurn = Double.isNaN(speedPerTurn) ? belief.perTurn() / AIR_OVER_SPEED : speedPerTurn;
            double by = Math.clamp(-Math.log1p(off) / perTurn, -MOST, MOST);
            double rounded = Math.rint(by / FINEST) * FINEST;
            if (rounded != 0.0) {
                return new Move(Kind.SPEED, -1, rounded, off, message("balance.why-speed", rpm, Math.rint(idleRpm)));
            }
        }
        return new Move(Kind.DONE, -1, 0.0, 0.0, message("balance.why-done", 100.0 * TOLERANCE));
    }

    /** {@return where every carburetor stands; empty before the first reading} */
    public List<Share> shares() {
        if (readings.isEmpty()) {
            return List.of();
        }
        Reading last = readings.getLast();
        double[] flow = withoutMeter(last.flow(), last.rpm(), last.rpmWith());
        double mean = Arrays.stream(flow).average().orElse(1.0);
        double reference = stage == Stage.LINKS_OFF ? mean : flow[0];
        return IntStream.range(0, carburetors).mapToObj(j -> {
            BalancePosterior.Off o = off(j);
            return new Share(Math.expm1(o.off()), o.sd() * Math.exp(o.off()), flow[j] / reference - 1.0);
        }).toList();
    }

    /**
     * What a turn is expected to do.
     *
     * @param m the turn
     * @return share by which each carburetor would pass more than it should
     */
    public double[] after(Move m) {
        double[] z = IntStream.range(0, carburetors).mapToDouble(j -> off(j).off() + (j == m.carburetor() ? belief
                .perTurn() * m.turns() : 0.0)).toArray();
        double reference = stage == Stage.LINKS_OFF ? Arrays.stream(z).average().orElse(0.0) : z[0];
        return Arrays.stream(z).map(x -> Math.expm1(x - reference)).toArray();
    }

    /** {@return what the latest turn looks like by the reading after it, where that is not what was asked} */
    public Optional<Message> slip() {
        // Of two carburetors the one turned in looks like the other turned out.
        return slip.map(d -> message("balance.slip-" + (d.probability() < SLIPPED * (1.0 - d.asked()) ? "otherwise"
                : switch (d.act()) {
                    case OTHER_WAY -> "other-way";
                    case OTHER_ONE -> "other-one";
                    default -> "nothing";
                }), d.carburetor() + 1));
    }

    /** {@return how far every stop or link was turned since it was found, as far as the readings tell} */
    public double[] turns() {
        return belief.turns();
    }

    /** {@return turns made so far} */
    public List<Move> moves() {
        return List.copyOf(moves);
    }

    /** {@return readings so far} */
    public List<Reading> readings() {
        return List.copyOf(readings);
    }

    /** {@return how many carburetors there are} */
    public int carburetors() {
        return carburetors;
    }

    /** {@return how it is balanced} */
    public Stage stage() {
        return stage;
    }

    /**
     * A move in words.
     *
     * @param m the move
     * @return what to do
     */
    public Message text(Move m) {
        long parts = Math.round(Math.abs(m.turns()) / FINEST);
        long by = parts == 0 ? 1 : BigInteger.valueOf(parts).gcd(BigInteger.valueOf(16)).longValue();
        boolean opens = m.turns() > 0.0;
        return switch (m.kind()) {
            case READ -> message("balance.read");
            case DONE -> message("balance.done-" + stage.key());
            case LEFT -> message("balance.left");
            case SPEED -> message(opens ? "balance.all-in" : "balance.all-out", parts / by, 16 / by);
            case TURN -> message(stage == Stage.LINKS_OFF ? opens ? "balance.stop-in" : "balance.stop-out" : opens
                    ? "balance.link-open" : "balance.link-shut", m.carburetor() + 1, parts / by, 16 / by, 100 * Math
                            .abs(m.off()));
        };
    }
}
