package nariz.sim;

import java.util.ArrayList;
import java.util.List;
import java.util.Random;

/** What the driver is asked to do: legs of a given length, each with a speed to reach and a hill. */
public final class DriveScript {
    /**
     * One leg.
     *
     * @param lengthS duration, s
     * @param toKmh speed to be at when it ends, km/h; 0 stops
     * @param gradePercent climb, %
     * @param gear 1 to 4
     * @param foot fixed throttle from 0 to 1, or negative to follow the speed
     */
    public record Leg(double lengthS, double toKmh, double gradePercent, int gear, double foot) {
    }

    /** Grade that matches whatever the engine gives. */
    static final double MATCHED_HILL = 99;

    private final List<Leg> legs = new ArrayList<>();

    private DriveScript follow(double lengthS, double toKmh, double gradePercent, int gear) {
        legs.add(new Leg(lengthS, toKmh, gradePercent, gear, -1));
        return this;
    }

    /** A hill just steep enough that the car hardly gains speed at this throttle. */
    private DriveScript climb(double lengthS, double foot, int gear) {
        legs.add(new Leg(lengthS, 0, MATCHED_HILL, gear, foot));
        return this;
    }

    private DriveScript foot(double lengthS, double foot, int gear) {
        legs.add(new Leg(lengthS, 0, 0, gear, foot));
        return this;
    }

    /**
     * Twelve minutes: idle, town, steady country roads at several speeds, hills at part load, tip-ins, three pulls.
     *
     * @return the script
     */
    public static DriveScript twelveMinutes() {
        DriveScript s = new DriveScript();
        s.follow(55, 0, 0, 1);
        s.follow(12, 32, 0, 2).follow(30, 32, 0, 2).follow(8, 45, 0, 3).follow(25, 45, 0, 3);
        s.follow(8, 30, 0, 3).follow(14, 30, 1, 3).follow(10, 55, 0, 4).follow(36, 56, 0, 4);
        s.follow(6, 70, 0, 4).follow(28, 70, 0, 4).follow(14, 70, 2, 4).follow(8, 88, 0, 4).follow(34, 88, 0, 4);
        s.follow(14, 88, 3, 4).follow(10, 104, 0, 4).follow(32, 104, 0, 4).follow(12, 104, 3, 4);
        s.follow(16, 118, 0, 4).follow(20, 118, 1, 4).follow(20, 70, -1, 4);
        s.follow(14, 70, 4, 4).follow(12, 72, 6, 4).follow(12, 74, 7.5, 4).follow(12, 76, 8.5, 4)
                .follow(12, 76, 9.5, 4);
        s.follow(12, 84, 6, 3).follow(10, 86, 10, 3);
        s.climb(8, 0.26, 3).climb(7, 0.31, 3).climb(7, 0.36, 3).climb(7, 0.42, 3).climb(7, 0.50, 3);
        s.follow(12, 50, 0, 4);
        s.foot(4, 0.16, 3).foot(3, 0.45, 3).foot(4, 0.08, 3).foot(3, 0.3, 3).foot(4, 0.05, 3);
        s.foot(6, 1.0, 2).follow(14, 60, 0, 4).foot(8, 1.0, 2).follow(14, 58, 0, 4);
        s.foot(7, 0.62, 3).follow(12, 55, 0, 4).foot(9, 1.0, 3).follow(18, 45, 0, 4);
        s.follow(12, 40, 0, 3).follow(20, 0, 0, 2).follow(62, 0, 0, 1);
        return s;
    }

    /**
     * Six minutes of openings: from closed throttle and from steady cruises, small and large, one at a time.
     *
     * @return the script
     */
    public static DriveScript openings() {
        DriveScript s = new DriveScript();
        s.follow(20, 40, 0, 3);
        for (double foot : new double[] {0.25, 0.45, 0.7}) {
            s.foot(3.5, 0.08, 3).foot(2.5, foot, 3).follow(14, 45, 0, 3);
            s.foot(3.5, 0.0, 3).foot(2.5, foot, 3).follow(14, 50, 0, 3);
            s.follow(10, 62, 0, 4).foot(2.5, foot, 4).follow(16, 58, 0, 4);
        }
        s.follow(16, 0, 0, 2).foot(0.6, 0.2, 1).follow(20, 0, 0, 1);
        return s;
    }

    /**
     * Three rolling pulls in the highest gear from low speed, so that a second stage that air opens is reached slowly.
     *
     * @return the script
     */
    public static DriveScript rollingPulls() {
        DriveScript s = new DriveScript();
        s.follow(16, 42, 0, 4);
        for (int k = 0; k < 3; k++) {
            s.foot(20, 1.0, 4).follow(24, 44 - k, 0, 4).follow(8, 42, 0, 4);
        }
        return s;
    }

    /**
     * The same road on another day: legs 20 % longer or shorter, speeds 6 % and feet 10 % off.
     *
     * @param r source of chance
     * @return a new script
     */
    public DriveScript varied(Random r) {
        DriveScript s = new DriveScript();
        for (Leg l : legs) {
            double speed = l.toKmh() * (0.94 + 0.12 * r.nextDouble());
            double foot = l.foot() < 0 || l.foot() >= 1 ? l.foot() : l.foot() * (0.9 + 0.2 * r.nextDouble());
            s.legs.add(new Leg(l.lengthS() * (0.8 + 0.4 * r.nextDouble()), speed, l.gradePercent(), l.gear(), foot));
        }
        return s;
    }

    /**
     * One road after the other.
     *
     * @param next what follows
     * @return a new script
     */
    public DriveScript then(DriveScript next) {
        DriveScript s = new DriveScript();
        s.legs.addAll(legs);
        s.legs.addAll(next.legs);
        return s;
    }

    /** {@return the legs in order} */
    public List<Leg> legs() {
        return List.copyOf(legs);
    }

    /** {@return length of the whole drive, s} */
    public double lengthS() {
        return legs.stream().mapToDouble(Leg::lengthS).sum();
    }
}
