package nariz.family.metered;

import java.util.List;
import nariz.carburetor.Circuit;
import nariz.carburetor.Stage;

/**
 * Circuits of carburetors with a fixed venturi, transfer slot and booster, as a four-barrel has them. The spreads of
 * their levels are judgement, checked by the coverage of the intervals in docs/accuracy.md.
 */
public final class MeteredCircuits {
    private static final List<String> LOW_SPEED = List.of("idleFeedRestriction", "idleAirBleed", "mixtureScrew");
    private static final List<String> JETS = List.of("mainJet", "venturi", "booster", "highSpeedAirBleed", "rodCruise");

    /** Curb-idle port of the primary stage, trimmed by the mixture screws. */
    public static final Circuit IDLE = new Circuit("idle", "idle", Stage.PRIMARY, Circuit.Role.IDLE, 0, 0.10,
            LOW_SPEED);
    /** Transfer slot of the primary stage. */
    public static final Circuit TRANSFER = new Circuit("transfer", "transfer", Stage.PRIMARY, Circuit.Role.PROGRESSION,
            1, 0.10, LOW_SPEED);
    /** Main jet and booster of the primary stage. */
    public static final Circuit MAIN = new Circuit("main", "main", Stage.PRIMARY, Circuit.Role.METERING, 2, 0.08, JETS);
    /** Enrichment of the primary stage: power valve and its channel, or the power step of the rods. */
    public static final Circuit POWER = new Circuit("power", "power", Stage.PRIMARY, Circuit.Role.ENRICHMENT, 3, 0.18,
            List.of("powerChannelRestriction", "rodPower"));
    /** Idle port and slot of the secondary stage. */
    public static final Circuit SECONDARY_IDLE = new Circuit("secondary-idle", "idle", Stage.SECONDARY,
            Circuit.Role.IDLE, 4, 0.15, LOW_SPEED);
    /** Main and enrichment of the secondary stage. */
    public static final Circuit SECONDARY_MAIN = new Circuit("secondary-main", "main", Stage.SECONDARY,
            Circuit.Role.METERING, 5, 0.12, JETS);
    /** Accelerator pump shot. */
    public static final Circuit PUMP = new Circuit("pump", "pump", Stage.PRIMARY, Circuit.Role.PUMP, 6, 0.30,
            List.of());

    /** All of a four-barrel's. */
    static final List<Circuit> FOUR_BARREL = List.of(IDLE, TRANSFER, MAIN, POWER, SECONDARY_IDLE, SECONDARY_MAIN, PUMP);
    /** All of a two-barrel's: no second stage. */
    static final List<Circuit> TWO_BARREL = List.of(IDLE, TRANSFER, MAIN, POWER, PUMP.at(4));

    private MeteredCircuits() {
    }
}
