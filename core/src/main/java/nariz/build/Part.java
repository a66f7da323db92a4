package nariz.build;

import static nariz.words.CoreWords.say;

import java.util.Arrays;
import java.util.Optional;
import nariz.units.Dimension;
import nariz.units.Quantity;
import nariz.units.Shown;
import nariz.units.Units;

/** A part that trims a circuit, with its key in files, the unit people name it in and how to change it on a sheet. */
public enum Part {
    /** Mixture screws, turns out. */
    MIXTURE_SCREW("mixture-screw", "turns", 1.0, 3),
    /** Idle feed restriction diameter. */
    IDLE_FEED_RESTRICTION("idle-feed-restriction", "thou", Units.THOU, 1),
    /** Idle air bleed diameter. */
    IDLE_AIR_BLEED("idle-air-bleed", "thou", Units.THOU, 1),
    /** Main jet diameter. */
    MAIN_JET("main-jet", "thou", Units.THOU, 1),
    /** High-speed air bleed diameter. */
    HIGH_SPEED_AIR_BLEED("high-speed-air-bleed", "thou", Units.THOU, 1),
    /** Power valve rating. */
    POWER_VALVE_RATING("power-valve-rating", "inHg", Units.INHG, 1),
    /** Power-valve channel restriction diameter. */
    POWER_CHANNEL_RESTRICTION("power-channel-restriction", "thou", Units.THOU, 1),
    /** Step-up spring rating. */
    STEP_UP_SPRING("step-up-spring", "inHg", Units.INHG, 1),
    /** Metering rod; the number is its power step, the cruise step stays. */
    METERING_ROD("metering-rod", "thou", Units.THOU, 1),
    /** Fuel level against the family's setting; it is put right, not used as a trim. */
    FLOAT_LEVEL("float-level", "mm", 1e-3, 1),
    /** Idle stop screw, turns in (positive) from where it stood in the drive. */
    IDLE_STOP("idle-stop", "turns", 1.0, 3);

    private final String key;
    private final String unit;
    private final double si;
    private final int decimals;

    Part(String key, String unit, double si, int decimals) {
        this.key = key;
        this.unit = unit;
        this.si = si;
        this.decimals = decimals;
    }

    /** {@return the name used in files and on the command line} */
    public String key() {
        return key;
    }

    /** {@return the trade's words for it} */
    public String label() {
        return say("part." + key);
    }

    /** {@return what kind of quantity it is} */
    public Dimension dimension() {
        return switch (this) {
            case MIXTURE_SCREW, IDLE_STOP -> Dimension.TURNS;
            case POWER_VALVE_RATING, STEP_UP_SPRING -> Dimension.PRESSURE;
            default -> Dimension.LENGTH;
        };
    }

    /** {@return SI value of one {@link #unit()}} */
    public double si() {
        return si;
    }

    /** {@return the unit people name it in} */
    public String unit() {
        return unit;
    }

    /**
     * Finds a part by its key.
     *
     * @param key as in files
     * @return the part, or empty
     */
    public static Optional<Part> ofKey(String key) {
        return Arrays.stream(values()).filter(p -> p.key.equals(key)).findFirst();
    }

    /** {@return whether this is set by turning or bending what is there, so that nothing has to be bought} */
    public boolean adjusted() {
        return this == MIXTURE_SCREW || this == FLOAT_LEVEL || this == IDLE_STOP;
    }

    /** {@return whether this belongs to the carburetor and not to one of its sides} */
    public boolean whole() {
        return this == FLOAT_LEVEL || this == IDLE_STOP;
    }

    /**
     * Reads this part off a carburetor.
     *
     * @param c the carburetor
     * @param side which side; no matter where there is one for both
     * @return value in {@link #unit()}; 0 where it is not fitted
     */
    public double of(Carburetor c, SideName side) {
        Barrels b = c.barrels(side);
        double v = switch (this) {
            case MIXTURE_SCREW -> b.screwTurns();
            case IDLE_FEED_RESTRICTION -> b.idleFeedM();
            case IDLE_AIR_BLEED -> b.idleBleedM();
            case MAIN_JET -> b.mainJetM();
            case HIGH_SPEED_AIR_BLEED -> b.highSpeedBleedM();
            case POWER_VALVE_RATING -> b.powerValvePa();
            case POWER_CHANNEL_RESTRICTION -> b.powerChannelM();
            case STEP_UP_SPRING -> b.stepUpPa();
            case METERING_ROD -> b.rodPowerM();
            case FLOAT_LEVEL -> c.fuelLevelM();
            case IDLE_STOP -> c.idleStopTurns();
        };
        return v / si;
    }

    /**
     * A sheet with this part changed.
     *
     * @param sheet today's sheet
     * @param side which side
     * @param value new value in {@link #unit()}
     * @return a new sheet
     */
    public BuildSheet fit(BuildSheet sheet, SideName side, double value) {
        Carburetor c = sheet.carburetor();
        Barrels changed = fit(c.barrels(side), value * si);
        boolean p = side == SideName.PRIMARY;
        return sheet.withCarburetor(new Carburetor(c.family(), c.count(), p ? changed : c.primary(),
                p ? c.secondary() : changed, c.opening(), c.pump(),
                this == FLOAT_LEVEL ? value * si : c.fuelLevelM(), this == IDLE_STOP ? value : c.idleStopTurns()));
    }

    private Barrels fit(Barrels b, double v) {
        return new Barrels(b.bores(), b.boreM(), b.venturiM(), b.booster(),
                this == MAIN_JET ? v : b.mainJetM(),
                this == HIGH_SPEED_AIR_BLEED ? v : b.highSpeedBleedM(),
                this == IDLE_FEED_RESTRICTION ? v : b.idleFeedM(),
                this == IDLE_AIR_BLEED ? v : b.idleBleedM(),
                this == MIXTURE_SCREW ? v : b.screwTurns(),
                this == POWER_VALVE_RATING ? v : b.powerValvePa(),
                this == POWER_CHANNEL_RESTRICTION ? v : b.powerChannelM(),
                b.rodCruiseM(),
                this == METERING_ROD ? v : b.rodPowerM(),
                this == STEP_UP_SPRING ? v : b.stepUpPa(), b.plateHoleM());
    }

    /**
     * The part of a side as a person would say it.
     *
     * @param side which side
     * @return for example {@code "primary main jets"}; without the side where the carburetor has only one
     */
    public String named(SideName side) {
        return whole() ? label() : say("part.of-side", side.label(), label());
    }

    /**
     * A change as a person would say it.
     *
     * @param side which side
     * @param from size now, in {@link #unit()}
     * @param to size then
     * @return for example {@code "primary main jets: 59 thou to 62 thou"}
     */
    public String title(SideName side, double from, double to) {
        if (this == IDLE_STOP) {
            return say("part.title-turned", label(), text(to - from));
        }
        return say("part.title", named(side), text(from), text(to));
    }

    /**
     * A value as a person would say it.
     *
     * @param value in {@link #unit()}
     * @return for example {@code "59 thou"}
     */
    public String text(double value) {
        if (this == POWER_VALVE_RATING && value <= 0.0) {
            return say("part.plugged");
        }
        if (this == IDLE_STOP) {
            String turns = Quantity.trim(Math.abs(value), decimals);
            String one = Math.abs(value) == 1.0 ? "part.turn" : "part.turns";
            return value == 0.0 ? say("part.as-it-is") : say(one + (value > 0.0 ? "-in" : "-out"), turns);
        }
        if (this == FLOAT_LEVEL) {
            String mm = Quantity.trim(Math.abs(value), decimals);
            return value == 0.0 ? say("part.level-set") : say(value > 0.0 ? "part.level-high" : "part.level-low", mm);
        }
        return switch (dimension()) {
            // A rating is stamped in halves at most; in the stamped unit it is said as it is stamped.
            case PRESSURE -> Shown.now().pressure() == Shown.Pressure.INHG ? Quantity.trim(value, decimals) + " inHg"
                    : Shown.vacuum(value * si);
            case LENGTH -> Shown.size(value * si);
            default -> Quantity.trim(value, decimals) + " " + say("part.unit-turns");
        };
    }
}
