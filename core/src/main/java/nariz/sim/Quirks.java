package nariz.sim;

import java.util.Random;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Cam;
import nariz.carburetor.Circuit;
import nariz.carburetor.Coefficients;

/**
 * How one engine strays from what the estimator believes, drawn once from a seed: other coefficients in the equations,
 * and for every circuit a level, a tilt and a bend that no equation has.
 */
final class Quirks {
    private static final int CIRCUITS = 7;
    private final double[] level = new double[CIRCUITS];
    private final double[] tilt = new double[CIRCUITS];
    private final double[] bend = new double[CIRCUITS];
    private final double filling;
    private final double ripple;
    private final double ripplePhase;
    final Coefficients coefficients;
    final double bankSpread;
    final double exhaustM3;
    final double sensorLagS;
    final double noise;
    final double lope;
    final double filmShare;
    final double filmTimeS;
    final double driftPerHour;
    final double readsLeanAtIdle;

    private Quirks(Random r, BuildSheet fitted) {
        Cam cam = fitted.engine().cam();
        double displacementM3 = fitted.engine().displacementM3();
        for (int i = 0; i < level.length; i++) {
            level[i] = Math.exp(0.03 * r.nextGaussian());
            tilt[i] = 0.02 * r.nextGaussian();
            bend[i] = 0.01 * r.nextGaussian();
        }
        filling = 1.0 + 0.03 * r.nextGaussian();
        ripple = 0.03 * r.nextDouble();
        ripplePhase = 2.0 * Math.PI * r.nextDouble();
        exhaustM3 = displacementM3 * (0.4 + 0.5 * r.nextDouble());
        sensorLagS = 0.07 + 0.08 * r.nextDouble();
        noise = 0.006 + 0.004 * r.nextDouble();
        lope = switch (cam) {
            case MILD -> 0.004;
            case MEDIUM -> 0.008;
            case BIG -> 0.02;
            case WILD -> 0.035;
        };
        filmShare = 0.1 + 0.25 * r.nextDouble();
        filmTimeS = 0.4 + 2.6 * r.nextDouble();
        driftPerHour = 0.02 * r.nextGaussian();
        readsLeanAtIdle = (0.6 + 0.8 * r.nextDouble()) * switch (cam) {
            case MILD -> 0.0;
            case MEDIUM -> 0.012;
            case BIG -> 0.03;
            case WILD -> 0.055;
        };
        bankSpread = 0.015 * r.nextGaussian();
        coefficients = fitted.carburetor().family().standard().drawn(fitted.carburetor().family().coefficients(), r,
                0.75);
    }

    static Quirks of(long seed, BuildSheet fitted) {
        return new Quirks(new Random(seed), fitted);
    }

    /** Factor on a circuit's fuel at a given air flow relative to the engine's largest. */
    double circuit(Circuit c, double airShare) {
        double x = Math.log(Math.max(airShare, 0.01) / 0.2);
        int i = c.index();
        return level[i] * (1.0 + tilt[i] * x + bend[i] * Math.sin(2.0 * x));
    }

    /** Factor on cylinder filling at a given speed. */
    double filling(double rpmShare) {
        return filling * (1.0 + ripple * Math.sin(9.0 * rpmShare + ripplePhase));
    }
}
