package nariz.sim;

import java.util.Random;
import nariz.carburetor.PumpModel;
import nariz.carburetor.PumpSetting;

/**
 * An accelerator pump of other laws than the estimator's: a cam with a rounded lift instead of a straight one, an inlet
 * check valve that lets some of the stroke back before it shuts, an override spring whose force grows with what it
 * holds back, a column in the nozzle that has to be set going, and a chamber that takes its time to fill again.
 */
final class StrangePump implements PumpModel {
    private final PumpSetting set;
    private final double lostKg;
    private final double columnS;
    private final double springKg;
    private double filled;
    private double room;
    private double pending;
    private double lost;
    private double flow;

    /**
     * Draws one.
     *
     * @param set what it does on the whole, slack and refill included
     * @param seed draws how it strays
     */
    StrangePump(PumpSetting set, long seed) {
        Random r = new Random(seed * 31 + 7);
        this.set = set;
        lostKg = set.strokeKg() * 0.05 * r.nextDouble();
        columnS = 0.02 + 0.05 * r.nextDouble();
        springKg = set.strokeKg() * (0.10 + 0.10 * r.nextDouble());
        filled = set.strokeKg();
        room = filled;
    }

    private double lift(double thetaRad) {
        double x = Math.clamp((thetaRad - set.slackRad()) / set.fullRad(), 0.0, 1.0);
        return 0.5 * x + 0.25 * (1.0 - Math.cos(Math.PI * x));
    }

    @Override
    public double step(double thetaRad, double dtS) {
        double now = set.strokeKg() * (1.0 - lift(thetaRad));
        if (now < room) {
            double pressed = Math.max(0.0, filled - now);
            double back = Math.min(pressed, Math.max(0.0, lostKg - lost));
            lost += back;
            pending += pressed - back;
            filled -= pressed;
        } else if (now > room) {
            pending = Math.max(0.0, pending - (now - room));
            lost = 0.0;
        }
        room = now;
        filled += (room - filled) * (1.0 - Math.exp(-dtS / set.refillS()));
        double wanted = set.rateKgPerS() * Math.sqrt(Math.min(1.5, pending / springKg));
        flow += (wanted - flow) * (1.0 - Math.exp(-dtS / columnS));
        double gone = Math.min(pending, flow * dtS);
        pending -= gone;
        return gone / dtS;
    }
}
