package nariz.advice;

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
            case MIXTURE_SCREW -> new WorkCard(List.of("screwdriver", "vacuum gauge or this log"),
                    List.of("Engine fully warm, idling.",
                            "Count each screw in to lightly seated and write down the turns.",
                            "Set every screw to " + to + " out, all by the same amount.",
                            "Wait until it settles, bring the speed back with the stop screw."),
                    "40 s of warm idle: lambda within 4 % of target and vacuum no lower than before");
            case IDLE_FEED_RESTRICTION -> new WorkCard(
                    List.of("fuel-proof tray and rag", "bowl gasket", "pin gauges or drills to measure"),
                    List.of("Take the metering block off with the engine cold.",
                            "Measure the restriction that is fitted; write it down.",
                            "Fit " + to + " in each idle well; to go smaller fit a new restriction or a wire.",
                            "Close up, check for leaks, warm up, set the mixture screws again."),
                    "idle and three steady light cruises: both within their tolerance");
            case IDLE_AIR_BLEED -> new WorkCard(List.of("bleed key or drill gauge"),
                    List.of("Engine cold, air cleaner off.", "Fit " + to + " idle air bleeds on this side.",
                            "Warm up and set the mixture screws again."),
                    "idle and three steady light cruises");
            case MAIN_JET -> new WorkCard(List.of("jet driver", "fuel-proof tray and rag", "bowl gasket"),
                    List.of("Engine cold: drain and open the bowl.", "Check the numbers of the jets that come out.",
                            "Fit " + to + " jets, tight but not forced.",
                            "Close up, check the fuel level and for leaks."),
                    "the same drive again: cruise and climbs within tolerance");
            case HIGH_SPEED_AIR_BLEED -> new WorkCard(List.of("bleed key or drill gauge"),
                    List.of("Engine cold, air cleaner off.", "Fit " + to + " high-speed bleeds on this side.",
                            "No poking brass with steel; wear eye protection with compressed air."),
                    "steady running from low to high airflow: the error no longer grows with air");
            case POWER_VALVE_RATING -> new WorkCard(
                    List.of("ring spanner for the valve", "new valve gasket", "fuel-proof tray and rag"),
                    List.of("Engine cold: open the bowl, take the metering block off.",
                            "Read the rating of the valve that comes out.",
                            "Fit the " + to + " valve with its own gasket.",
                            "Close up, check for leaks."),
                    "a climb on which vacuum falls slowly past the new line: the step comes there");
            case POWER_CHANNEL_RESTRICTION -> new WorkCard(
                    List.of("drill gauge", "fuel-proof tray and rag", "bowl gasket"),
                    List.of("Engine cold: take the metering block and power valve off.",
                            "Measure both channel restrictions; write them down.",
                            "Fit " + to + ". Drilling goes only upward: a hole too big cannot be undrilled.",
                            "Close up, check for leaks."),
                    "a full-load pull: lambda on target from start to finish, cruise unchanged");
            case STEP_UP_SPRING -> new WorkCard(List.of("small screwdriver"),
                    List.of("Engine cold: lift the step-up piston cover.",
                            "Swap the spring for the " + to + " one; see that the piston moves freely."),
                    "a climb on which vacuum falls slowly past the new line: the step comes there");
            case METERING_ROD -> new WorkCard(List.of("small screwdriver", "micrometer"),
                    List.of("Engine cold: lift the step-up piston cover, hang the rods out.",
                            "Measure both steps of the rods that come out.",
                            "Fit rods with a power step of " + to + " and the same cruise step."),
                    "a full-load pull on target, cruise unchanged");
            case FLOAT_LEVEL -> new WorkCard(List.of("level gauge or sight plug", "fuel-proof tray and rag"),
                    List.of("Car level, engine cold; fuel pressure as the carburetor wants it.",
                            "Set the float so that the fuel stands where the family sheet has it.",
                            "Look at needle and seat: they must hold the level with the pump running.",
                            "Wipe up, check for leaks, write the level as measured on the sheet."),
                    "the level stays where it was set after ten minutes of running, then the same drive again");
            case IDLE_STOP -> new WorkCard(List.of("screwdriver", "tachometer"),
                    List.of("Engine fully warm, idling, choke off.",
                            "Turn the stop screw " + to + ", an eighth of a turn at a time.",
                            "Set the mixture screws again, then look at the speed once more."),
                    "40 s of warm idle at the speed the sheet asks for");
        };
    }
}
