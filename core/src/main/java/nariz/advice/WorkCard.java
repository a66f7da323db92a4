package nariz.advice;

import static nariz.words.CoreWords.say;

import java.util.List;

/**
 * How to carry a change out.
 *
 * @param tools what to lay ready
 * @param steps what to do, in order
 * @param proof the measurement that will prove it
 */
public record WorkCard(List<String> tools, List<String> steps, String proof) {
    /** Copies the lists. */
    public WorkCard {
        tools = List.copyOf(tools);
        steps = List.copyOf(steps);
    }

    /**
     * The card of a change.
     *
     * @param c change
     * @return its card
     */
    public static WorkCard of(Change c) {
        String to = c.part().text(c.to());
        return switch (c.part()) {
            case MIXTURE_SCREW -> new WorkCard(List.of(say("work-card.screwdriver"),
                    say("work-card.vacuum-gauge-or-this")),
                    List.of(say("work-card.engine-fully-warm-idling"),
                            say("work-card.count-each-screw-in"),
                            say("work-card.set-every-screw-to", to),
                            say("work-card.wait-until-it-settles")),
                    say("work-card.s-of-warm-idle"));
            case IDLE_FEED_RESTRICTION -> new WorkCard(
                    List.of(say("work-card.fuel-proof-tray-and"), say("work-card.bowl-gasket"),
                            say("work-card.pin-gauges-or-drills")),
                    List.of(say("work-card.take-the-metering-block"),
                            say("work-card.measure-the-restriction-that"),
                            say("work-card.fit-in-each-idle", to),
                            say("work-card.close-up-check-for")),
                    say("work-card.idle-and-three-steady"));
            case IDLE_AIR_BLEED -> new WorkCard(List.of(say("work-card.bleed-key-or-drill")),
                    List.of(say("work-card.engine-cold-air-cleaner"), say("work-card.fit-idle-air-bleeds", to),
                            say("work-card.warm-up-and-set")),
                    say("work-card.idle-and-three-steady-2"));
            case MAIN_JET -> new WorkCard(List.of(say("work-card.jet-driver"), say("work-card.fuel-proof-tray-and"),
                    say("work-card.bowl-gasket")),
                    List.of(say("work-card.engine-cold-drain-and"), say("work-card.check-the-numbers-of"),
                            say("work-card.fit-jets-tight-but", to),
                            say("work-card.close-up-check-the")),
                    say("work-card.the-same-drive-again"));
            case HIGH_SPEED_AIR_BLEED -> new WorkCard(List.of(say("work-card.bleed-key-or-drill")),
                    List.of(say("work-card.engine-cold-air-cleaner"), say("work-card.fit-high-speed-bleeds", to),
                            say("work-card.no-poking-brass-with")),
                    say("work-card.steady-running-from-low"));
            case POWER_VALVE_RATING -> new WorkCard(
                    List.of(say("work-card.ring-spanner-for-the"), say("work-card.new-valve-gasket"),
                            say("work-card.fuel-proof-tray-and")),
                    List.of(say("work-card.engine-cold-open-the"),
                            say("work-card.read-the-rating-of"),
                            say("work-card.fit-the-valve-with", to),
                            say("work-card.close-up-check-for-2")),
                    say("work-card.a-climb-on-which"));
            case POWER_CHANNEL_RESTRICTION -> new WorkCard(
                    List.of(say("work-card.drill-gauge"), say("work-card.fuel-proof-tray-and"),
                            say("work-card.bowl-gasket")),
                    List.of(say("work-card.engine-cold-take-the"),
                            say("work-card.measure-both-channel-restrictions"),
                            say("work-card.fit-drilling-goes-only", to),
                            say("work-card.close-up-check-for-2")),
                    say("work-card.a-full-load-pull"));
            case STEP_UP_SPRING -> new WorkCard(List.of(say("work-card.small-screwdriver")),
                    List.of(say("work-card.engine-cold-lift-the"),
                            say("work-card.swap-the-spring-for", to)),
                    say("work-card.a-climb-on-which"));
            case METERING_ROD -> new WorkCard(List.of(say("work-card.small-screwdriver"), say("work-card.micrometer")),
                    List.of(say("work-card.engine-cold-lift-the-2"),
                            say("work-card.measure-both-steps-of"),
                            say("work-card.fit-rods-with-a", to)),
                    say("work-card.a-full-load-pull-2"));
            case FLOAT_LEVEL -> new WorkCard(List.of(say("work-card.level-gauge-or-sight"),
                    say("work-card.fuel-proof-tray-and")),
                    List.of(say("work-card.car-level-engine-cold"),
                            say("work-card.set-the-float-so"),
                            say("work-card.look-at-needle-and"),
                            say("work-card.wipe-up-check-for")),
                    say("work-card.the-level-stays-where"));
            case IDLE_STOP -> new WorkCard(List.of(say("work-card.screwdriver"), say("work-card.tachometer")),
                    List.of(say("work-card.engine-fully-warm-idling-2"),
                            say("work-card.turn-the-stop-screw", to),
                            say("work-card.set-the-mixture-screws")),
                    say("work-card.s-of-warm-idle-2"));
        };
    }
}
