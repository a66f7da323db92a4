package nariz.dynamics;

import nariz.carburetor.DamperSetting;
import nariz.carburetor.Piston;
import nariz.carburetor.PumpSetting;

/**
 * What pump or damper, walls and sensor make of an opening of the throttle.
 *
 * <p>Pump: the arm presses lift times stroke out of the chamber over the plate's travel; the nozzles let it out at no
 * more than their rate, and the stream follows with a lag, since a spring gives way between arm and plunger, a check
 * has to lift and a column of fuel to be set going; what the chamber lacks after the plate has closed comes back
 * through the inlet check valve with a time constant. Damper: the piston of a constant-depression carburetor rises at
 * a speed in proportion to how far it is from rest (an orifice in the damper), or to what the air lifts more than its
 * weight (a dashpot), and falls with a time constant of its own; what the jet gives follows from where it is ({@link
 * Piston}). Walls: dF/dt = X f - F/tau, burnt = (1 - X) f + F/tau with X = x p/p_ambient (Aquino, SAE 810494, 1981).
 * Wells: the fuel lags behind the air's depression; first order, judgement. Sensor: first-order lag on lambda behind
 * the gas's delay.
 */
final class StabModel {
    /** Plate travel that is noise of the channel, rad: four thousandths of the throttle. */
    private static final double PLAY_RAD = 0.0055;
    /** Lift at which both laws of a damper agree near rest is twice this: the depression goes with lift squared. */
    private static final double PULLS = 0.15;
    private static final double NEAR = 1e-4;

    private StabModel() {
    }

    /**
     * Fuel of the pump.
     *
     * @param s opening
     * @param p pump
     * @param lagS time constant between arm and stream, s, positive
     * @param stoich stoichiometric ratio
     * @param out receives kg/s times the stoichiometric ratio by step
     */
    static void pump(Stab s, PumpSetting p, double lagS, double stoich, float[] out) {
        float[] theta = s.theta();
        double held = theta[0];
        double capacity = p.strokeKg() * (1.0 - p.lift(held));
        double filled = capacity;
        double pending = 0.0;
        double refill = 1.0 - Math.exp(-Stab.STEP_S / p.refillS());
        double most = p.rateKgPerS() * Stab.STEP_S;
        double keeps = Math.exp(-Stab.STEP_S / lagS);
        double stream = 0.0;
        for (int k = 0; k < out.length; k++) {
            held = Math.clamp(held, theta[k] - PLAY_RAD, theta[k] + PLAY_RAD);
            double room = p.strokeKg() * (1.0 - p.lift(Math.max(0.0, held)));
            if (room < capacity) {
                double pressed = Math.max(0.0, filled - room);
                pending += pressed;
                filled -= pressed;
            } else if (room > capacity) {
                // The spring behind the arm slackens: what still waits goes no further.
                pending = Math.max(0.0, pending - (room - capacity));
            }
            capacity = room;
            filled += (capacity - filled) * refill;
            double gone = Math.min(pending, most);
            pending -= gone;
            stream = gone + (stream - gone) * keeps;
            out[k] = (float) (stream / Stab.STEP_S * stoich);
        }
    }

    /**
     * Fuel that follows what the settled carburetor would meter with a lag: the column in well and passages has to be
     * set going.
     *
     * @param s opening
     * @param lagS time constant, s, positive
     * @param out receives kg/s times the stoichiometric ratio by step
     */
    static void metered(Stab s, double lagS, float[] out) {
        float[] wanted = s.metered();
        double keeps = Math.exp(-Stab.STEP_S / lagS);
        double f = wanted[0];
        for (int k = 0; k < out.length; k++) {
            f = wanted[k] + (f - wanted[k]) * keeps;
            out[k] = (float) f;
        }
    }

    /**
     * What a piston that rises late adds to the fuel of one that rests where the air carries it.
     *
     * @param s opening
     * @param piston piston
     * @param d how it is held back
     * @param dashpot whether its speed follows the force on it, else its distance from rest
     * @param out receives kg/s times the stoichiometric ratio by step; negative where it falls late
     */
    static void piston(Stab s, Piston piston, DamperSetting d, boolean dashpot, float[] out) {
        double y = piston.rest(s.carburetorAir(0));
        for (int k = 0; k < out.length; k++) {
            double air = s.carburetorAir(k);
            double away = piston.rest(air) - y;
            double rate = away <= 0.0 ? 1.0 / d.fallS() : !dashpot || away < NEAR ? 1.0 / d.riseS()
                    : PULLS * Math.max(0.0, piston.pull(y, air) - 1.0) / (away * d.riseS());
            y += away * (1.0 - Math.exp(-Stab.STEP_S * rate));
            out[k] = (float) (s.metered()[k] * (piston.fuel(y, air) - 1.0));
        }
    }

    /**
     * What of the pump's fuel is burnt: most of its stream strikes the walls, whatever the load.
     *
     * @param s opening
     * @param fuel let out, kg/s times the stoichiometric ratio
     * @param wets share that wets the walls
     * @param tauS evaporation time, s
     * @param out receives what burns
     */
    static void stream(Stab s, float[] fuel, double wets, double tauS, float[] out) {
        double keeps = Math.exp(-Stab.STEP_S / tauS);
        double film = 0.0;
        for (int k = 0; k < fuel.length; k++) {
            out[k] = (float) ((1.0 - wets) * fuel[k] + film / tauS);
            film = film * keeps + wets * fuel[k] * tauS * (1.0 - keeps);
        }
    }

    /**
     * What of a fuel flow is burnt.
     *
     * @param s opening
     * @param fuel metered, kg/s times the stoichiometric ratio
     * @param x share that wets the walls at full load
     * @param tauS evaporation time, s
     * @param settled whether the walls are in balance with the first step, not dry
     * @param out receives what burns
     */
    static void burnt(Stab s, float[] fuel, double x, double tauS, boolean settled, float[] out) {
        float[] load = s.load();
        double keeps = Math.exp(-Stab.STEP_S / tauS);
        double film = settled ? x * load[0] * fuel[0] * tauS : 0.0;
        for (int k = 0; k < fuel.length; k++) {
            double wets = x * load[k];
            double off = film / tauS;
            out[k] = (float) ((1.0 - wets) * fuel[k] + off);
            film = film * keeps + wets * fuel[k] * tauS * (1.0 - keeps);
        }
    }

    /**
     * What burns of what the carburetor meters by itself, pump and damper apart.
     *
     * @param s opening
     * @param lagS lag of the fuel in wells and passages, s
     * @param x share that wets the walls at full load
     * @param tauS evaporation time, s
     * @return kg/s times the stoichiometric ratio by step
     */
    static float[] alone(Stab s, double lagS, double x, double tauS) {
        float[] metered = new float[Stab.STEPS];
        float[] out = new float[Stab.STEPS];
        metered(s, lagS, metered);
        burnt(s, metered, x, tauS, true, out);
        return out;
    }
}
