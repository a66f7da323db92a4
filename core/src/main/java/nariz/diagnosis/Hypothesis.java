package nariz.diagnosis;

import java.util.List;
import java.util.stream.Stream;
import nariz.text.Message;

/**
 * A cause that competes to explain the readings.
 *
 * @param cause key, for example {@code vacuum-leak}
 * @param label words for people
 * @param probability 0 to 1 among the causes considered; of {@link #PUMP_SLACK} among those of the openings
 * @param evidence what in the log speaks for it
 * @param check what to do to settle it
 */
public record Hypothesis(String cause, Message label, double probability, Message evidence, Message check) {
    /** Cause key of "the fuel parts". */
    public static final String CALIBRATION = "calibration";
    /** Cause key of unmetered air into the manifold. */
    public static final String VACUUM_LEAK = "vacuum-leak";
    /** Cause key of air drawn into the exhaust ahead of the sensor. */
    public static final String EXHAUST_LEAK = "exhaust-leak";
    /** Cause key of a sheet that does not describe this carburetor. */
    public static final String WRONG_SHEET = "wrong-sheet";
    /**
     * Cause key of slack at the accelerator pump's arm: weighed by the openings of the throttle, against other causes
     * of theirs, once the steady mixtures are left alone.
     */
    public static final String PUMP_SLACK = "pump-slack";
    /** Cause key of "nothing is wrong". */
    public static final String NONE = "nothing-wrong";

    /** The two leaks, which are looked for together. */
    static final List<String> LEAKS = List.of(VACUUM_LEAK, EXHAUST_LEAK);

    /** Cause keys of all faults that are weighed against the fuel parts. */
    public static final List<String> FAULTS = List.of(VACUUM_LEAK, EXHAUST_LEAK, "sensor-offset",
            "fuel-starvation", "misfire", "plates-open", "fuel-level", "air-cleaner", WRONG_SHEET);

    /** Cause keys of all that can be looked for and found sound. */
    public static final List<String> LOOKED_FOR = Stream.concat(FAULTS.stream(), Stream.of(PUMP_SLACK)).toList();

    /** {@return the probability in whole per cent, never none and never certain} */
    public long percent() {
        return percent(probability);
    }

    /** The same of several causes together. */
    static long percent(double probability) {
        return Math.clamp(Math.round(100 * probability), 1, 99);
    }

    /** {@return whether this is one of the two leaks, which are looked for together} */
    public boolean leak() {
        return LEAKS.contains(cause);
    }

    /** {@return whether this is a fault that fuel parts do not cure} */
    public boolean fault() {
        return !CALIBRATION.equals(cause) && !NONE.equals(cause);
    }
}
