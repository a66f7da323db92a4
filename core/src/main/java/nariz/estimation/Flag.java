package nariz.estimation;

import static nariz.text.Message.message;

import java.util.Locale;
import nariz.text.Message;

/** Why a sample does not count toward steady calibration; a sample keeps its first reason in this order. */
public enum Flag {
    /** The user took this stretch out. */
    EXCLUDED,
    /** A needed reading is missing. */
    MISSING,
    /** The sensor stands at the end of its range. */
    RAIL,
    /** Engine not warm. */
    COLD,
    /** Throttle shut above idle speed. */
    OVERRUN,
    /** Time jumps in the log. */
    GAP,
    /** Load or throttle moved within the sensor's memory. */
    TRANSIENT,
    /** A short lean spike in steady running: unburnt oxygen of a cylinder that missed. */
    MISFIRE,
    /** Counts. */
    STEADY;

    /** {@return words for people} */
    public Message label() {
        return message("flag." + name().toLowerCase(Locale.ROOT));
    }
}
