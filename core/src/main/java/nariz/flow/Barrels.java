package nariz.flow;

import java.util.List;
import nariz.carburetor.Carburetor;
import nariz.carburetor.ProgressionHole;
import nariz.carburetor.Stage;

/**
 * One stage of a carburetor with a fixed venturi: its bores, all alike, and everything that meters fuel there.
 *
 * @param bores number of bores on this stage of one carburetor
 * @param throat bore, venturi and what stands in it
 * @param main main jet and its air
 * @param idle idle feed, its air, screw and progression
 * @param enrichment power valve or rods
 */
public record Barrels(int bores, Throat throat, MainJets main, IdleJets idle, PowerJets enrichment) {
    /**
     * Where the air goes.
     *
     * @param boreM throttle bore diameter, m
     * @param venturiM main venturi diameter, m
     * @param booster booster kind
     * @param plateHoleM diameter of a bypass hole drilled in each throttle plate, m; 0 when there is none
     * @param pulses whether a bore feeds one cylinder alone, so that its flow pulsates
     */
    public record Throat(double boreM, double venturiM, Booster booster, double plateHoleM, boolean pulses) {
    }

    /**
     * Main jet and its air, one set a bore.
     *
     * @param jetM main jet diameter, m
     * @param airBleedM high-speed air bleed or air corrector diameter, m
     * @param rows rows of holes of the emulsion tube from the top, none where the air's way is as wide as it likes
     * @param nozzleM diameter of the outlet in the booster, m; 0 where it goes with the venturi
     * @param stacked whether the air comes down a stack, through the froth, and not by a bleed of its own
     */
    public record MainJets(double jetM, double airBleedM, List<EmulsionRow> rows, double nozzleM, boolean stacked) {
        /** Copies the list. */
        public MainJets {
            rows = List.copyOf(rows);
        }
    }

    /**
     * Idle system of a bore.
     *
     * @param feedM idle feed restriction or idle jet diameter, m
     * @param bleedM idle air bleed diameter, m
     * @param screwTurns mixture screw, turns out from lightly seated
     * @param holes progression holes from the shut plate up; none where there is a transfer slot
     */
    public record IdleJets(double feedM, double bleedM, double screwTurns, List<ProgressionHole> holes) {
        /** Copies the list. */
        public IdleJets {
            holes = List.copyOf(holes);
        }
    }

    /**
     * Enrichment of a bore.
     *
     * @param valvePa manifold vacuum under which the power valve opens, Pa; 0 when plugged or absent
     * @param channelM power-valve channel restriction diameter, m; 0 when absent
     * @param rodCruiseM rod diameter in the jet at high vacuum, m; 0 when there are no rods
     * @param rodPowerM rod diameter in the jet with the rods up, m; 0 when there are no rods
     * @param stepUpPa manifold vacuum under which the step-up spring lifts the rods, Pa; 0 when there are no rods
     */
    public record PowerJets(double valvePa, double channelM, double rodCruiseM, double rodPowerM, double stepUpPa) {
        /** Neither valve nor rods. */
        public static final PowerJets NONE = new PowerJets(0, 0, 0, 0, 0);

        /** {@return whether rods hang in the jets} */
        public boolean hasRods() {
            return rodPowerM > 0.0 || rodCruiseM > 0.0;
        }

        /** {@return the vacuum under which this stage enriches, Pa; 0 when it never does} */
        public double opensPa() {
            return hasRods() ? stepUpPa : (channelM > 0.0 ? valvePa : 0.0);
        }
    }

    /**
     * The barrels of a stage with a transfer slot and booster.
     *
     * @param c carburetor of a family with these fields
     * @param stage stage it has
     * @return its barrels
     */
    public static Barrels of(Carburetor c, Stage stage) {
        String s = stage.key() + ".";
        return new Barrels((int) c.number(s + "bores"), new Throat(c.number(s + "bore"), c.number(s + "venturi"),
                Booster.ofKey(c.word(s + "booster")), c.number(s + "plateBypassHole"), false),
                new MainJets(c.number(s + "mainJet"), c.number(s + "highSpeedAirBleed"), List.of(), 0.0, false),
                new IdleJets(c.number(s + "idleFeedRestriction"), c.number(s + "idleAirBleed"),
                        c.number(s + "mixtureScrew"), List.of()),
                new PowerJets(c.number(s + "powerValve"), c.number(s + "powerChannelRestriction"),
                        c.number(s + "rodCruise"), c.number(s + "rodPower"), c.number(s + "stepUpSpring")));
    }
}
