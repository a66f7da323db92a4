package nariz.practice;

import java.util.Arrays;
import java.util.Optional;
import java.util.Random;
import nariz.idle.ThrottleBalance;
import nariz.sim.RunningEngine;
import nariz.sim.WhenSettled;

/**
 * A person with a flow meter at a practice engine: holds it on one mouth after the other and reads it, as fast as that
 * can be computed.
 */
public final class WatchedBalance {
    /** Speed that is held at the last stage, rpm. */
    public static final double FAST_RPM = 2750.0;
    /** What a meter is held otherwise each time, share of what it shows. */
    private static final double HAND_SD = 0.02;
    /** What a meter whose ring is opened for the flow at speed takes there, over what it takes at idle. */
    private static final double WIDER = 0.03;
    private static final double SETTLES_S = 5.0;
    private static final int LOOKS = 25;
    private static final double LOOK_S = 0.1;
    /** How often an engine that dies under the meter is tried again. */
    private static final int TRIES = 3;

    private final RunningEngine engine;
    private final ThrottleBalance.Stage stage;
    private final double takes;
    private final double step;
    private final Random random;

    /**
     * Begins.
     *
     * @param engine engine
     * @param stage how it is balanced; links and speed are seen to
     * @param takes share of a carburetor's air at idle that the meter takes
     * @param step what the figures are rounded to, kg/h
     * @param random draws how the meter is held
     */
    public WatchedBalance(RunningEngine engine, ThrottleBalance.Stage stage, double takes, double step, Random random) {
        this.engine = engine;
        this.stage = stage;
        this.takes = takes;
        this.step = step;
        this.random = random;
        set(engine, stage);
    }

    /**
     * Undoes the links or does them up, and holds a speed or lets go.
     *
     * @param e engine
     * @param s how it is balanced
     */
    public static void set(RunningEngine e, ThrottleBalance.Stage s) {
        e.linked(s != ThrottleBalance.Stage.LINKS_OFF);
        e.hold(s == ThrottleBalance.Stage.FAST ? FAST_RPM : 0.0);
    }

    /**
     * What the meter takes of a carburetor's air.
     *
     * @param s how it is balanced
     * @param takes at idle
     * @return share as {@link RunningEngine#meter} has it
     */
    public static double takes(ThrottleBalance.Stage s, double takes) {
        return s == ThrottleBalance.Stage.FAST ? WIDER * takes : takes;
    }

    /**
     * What a meter held by hand shows.
     *
     * @param passes what passes the mouth, kg/h
     * @param step what figures are rounded to, kg/h
     * @param random draws how it is held
     * @return figure, kg/h, at least a step
     */
    public static double shown(double passes, double step, Random random) {
        return Math.max(step, Math.rint(passes * (1.0 + HAND_SD * random.nextGaussian()) / step) * step);
    }

    /** {@return a reading of every carburetor; empty where the engine dies again and again} */
    public Optional<ThrottleBalance.Reading> read() {
        again();
        double before = watch(0)[0];
        double with = 0.0;
        double[] flow = new double[engine.carburetors()];
        for (int j = 0; j < flow.length; j++) {
            double[] seen = through(j);
            for (int k = 0; k < TRIES && engine.stalled(); k++) {
                again();
                seen = through(j);
            }
            if (engine.stalled()) {
                return Optional.empty();
            }
            with += seen[0] / flow.length;
            flow[j] = shown(seen[1], step, random);
            engine.meter(-1, 0.0);
            engine.run(SETTLES_S);
        }
        boolean held = stage == ThrottleBalance.Stage.FAST;
        return Optional.of(new ThrottleBalance.Reading(flow, held ? Double.NaN : before, held ? Double.NaN : with));
    }

    private void again() {
        engine.start();
        set(engine, stage);
        engine.run(2.0 * SETTLES_S);
    }

    /** The meter on one mouth: speed and flow. */
    private double[] through(int carburetor) {
        engine.meter(carburetor, takes(stage, takes));
        engine.run(SETTLES_S);
        return watch(carburetor);
    }

    /** Speed, rpm, and what passes a mouth, kg/h; means over some seconds. */
    private double[] watch(int carburetor) {
        double[] sum = new double[2];
        for (int i = 0; i < LOOKS; i++) {
            engine.run(LOOK_S);
            sum[0] += engine.read().rpm() / LOOKS;
            sum[1] += engine.draft(carburetor) / LOOKS;
        }
        return sum;
    }

    /**
     * How far the worst carburetor is off when all has settled, without meter or noise.
     *
     * @param e engine, its links as they are
     * @param s how it is balanced
     * @return share of what it should pass; 1 where the engine dies
     */
    public static double worst(RunningEngine e, ThrottleBalance.Stage s) {
        double[] flow = new WhenSettled(e).flows(s == ThrottleBalance.Stage.FAST ? FAST_RPM : 0.0);
        double mean = Arrays.stream(flow).average().orElse(0.0);
        double reference = s == ThrottleBalance.Stage.LINKS_OFF ? mean : flow[0];
        return reference <= 0.0 ? 1.0 : Arrays.stream(flow).map(x -> Math.abs(x / reference - 1.0)).max().orElse(0.0);
    }

    /**
     * Turns the stop or link of a carburetor.
     *
     * @param e engine
     * @param s how it is balanced
     * @param carburetor from 0
     * @param by turns, positive opens
     */
    public static void turn(RunningEngine e, ThrottleBalance.Stage s, int carburetor, double by) {
        if (s == ThrottleBalance.Stage.LINKS_OFF) {
            e.stop(carburetor, e.stop(carburetor) + by);
        } else {
            e.link(carburetor, e.link(carburetor) + by);
        }
    }
}
