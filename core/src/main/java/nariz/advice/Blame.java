package nariz.advice;

import nariz.build.Part;
import nariz.build.SideName;
import nariz.model.Circuit;

/** Which circuit a part trims. */
public final class Blame {
    private Blame() {
    }

    /**
     * The circuit a change trims.
     *
     * @param change change
     * @return circuit
     */
    public static Circuit circuit(Change change) {
        return circuit(change.part(), change.side());
    }

    /**
     * The circuit a part trims.
     *
     * @param part part
     * @param side side
     * @return circuit
     */
    public static Circuit circuit(Part part, SideName side) {
        boolean primary = side == SideName.PRIMARY;
        return switch (part) {
            case IDLE_STOP -> Circuit.IDLE;
            case FLOAT_LEVEL -> Circuit.MAIN;
            case MIXTURE_SCREW -> primary ? Circuit.IDLE : Circuit.SECONDARY_IDLE;
            case IDLE_FEED_RESTRICTION, IDLE_AIR_BLEED -> primary ? Circuit.TRANSFER : Circuit.SECONDARY_IDLE;
            case MAIN_JET, HIGH_SPEED_AIR_BLEED -> primary ? Circuit.MAIN : Circuit.SECONDARY_MAIN;
            case POWER_VALVE_RATING, POWER_CHANNEL_RESTRICTION, STEP_UP_SPRING, METERING_ROD ->
                    primary ? Circuit.POWER : Circuit.SECONDARY_MAIN;
        };
    }
}
