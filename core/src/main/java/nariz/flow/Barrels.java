package nariz.flow;

import nariz.carburetor.Carburetor;
import nariz.carburetor.Stage;

/**
 * One stage of a carburetor with a fixed venturi, a transfer slot and a booster: its bores and everything that meters
 * fuel there. Diameters in m.
 *
 * @param bores number of bores on this stage of one carburetor
 * @param boreM throttle bore diameter, m
 * @param venturiM main venturi diameter, m
 * @param booster booster kind
 * @param mainJetM main jet diameter, one per bore, m
 * @param highSpeedBleedM high-speed (main) air bleed diameter, one per bore, m
 * @param idleFeedM idle feed restriction diameter, one per bore, m
 * @param idleBleedM idle air bleed diameter, one per bore, m
 * @param screwTurns mixture screws, turns out from lightly seated
 * @param powerValvePa manifold vacuum under which the power valve opens, Pa; 0 when plugged or absent
 * @param powerChannelM power-valve channel restriction diameter, one per bore, m; 0 when absent
 * @param rodCruiseM rod diameter in the jet at high vacuum, m; 0 when there are no rods
 * @param rodPowerM rod diameter in the jet with the rods up, m; 0 when there are no rods
 * @param stepUpPa manifold vacuum under which the step-up spring lifts the rods, Pa; 0 when there are no rods
 * @param plateHoleM diameter of a bypass hole drilled in each throttle plate, m; 0 when there is none
 */
public record Barrels(int bores, double boreM, double venturiM, Booster booster, double mainJetM,
        double highSpeedBleedM, double idleFeedM, double idleBleedM, double screwTurns, double powerValvePa,
        double powerChannelM, double rodCruiseM, double rodPowerM, double stepUpPa, double plateHoleM) {
    /**
     * The barrels of a stage.
     *
     * @param c carburetor of a family with these fields
     * @param stage stage it has
     * @return its barrels
     */
    public static Barrels of(Carburetor c, Stage stage) {
        String s = stage.key() + ".";
        return new Barrels((int) c.number(s + "bores"), c.number(s + "bore"), c.number(s + "venturi"),
                Booster.ofKey(c.word(s + "booster")), c.number(s + "mainJet"), c.number(s + "highSpeedAirBleed"),
                c.number(s + "idleFeedRestriction"), c.number(s + "idleAirBleed"), c.number(s + "mixtureScrew"),
                c.number(s + "powerValve"), c.number(s + "powerChannelRestriction"), c.number(s + "rodCruise"),
                c.number(s + "rodPower"), c.number(s + "stepUpSpring"), c.number(s + "plateBypassHole"));
    }

    /** {@return whether rods hang in the jets} */
    public boolean hasRods() {
        return rodPowerM > 0.0 || rodCruiseM > 0.0;
    }

    /** {@return the vacuum under which this stage enriches, Pa; 0 when it never does} */
    public double enrichmentPa() {
        return hasRods() ? stepUpPa : (powerChannelM > 0.0 ? powerValvePa : 0.0);
    }
}
