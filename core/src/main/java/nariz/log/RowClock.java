package nariz.log;

/** Time from row to row: a clock that steps back, or passes midnight, goes on from where it was. */
final class RowClock {
    private static final double DAY_S = 86400.0;
    /** More usual steps at once are a jump, and a row that goes on from before it is no further than so many. */
    private static final double JUMP = 1.5;
    private static final double FEW = 3.0;

    /** What the time of a row is. */
    enum Order {
        /** Later than the row before. */
        RISES,
        /** Goes on from the row before the last one: the time of the last one had jumped ahead and was wrong. */
        AFTER_A_JUMP,
        /** The clock was set back before this row. */
        STEPPED_BACK,
        /** No time, or one that does not rise: the row is of no use. */
        LEFT_OUT
    }

    private double offsetS;
    private double candidateS = Double.NaN;
    private double firstS = Double.NaN;
    private double lastS = Double.NEGATIVE_INFINITY;
    private double usualS;
    /** Time of the row before the last, and the usual step until then. */
    private double beforeS = Double.NaN;
    private double usualBeforeS;
    private double steppedS;
    /** The very first row was out of order once; a time that runs backwards is something else. */
    private boolean firstDropped;
    private int stepsBack;
    private double startS = Double.NaN;

    /** Seconds since the first reading of a clock, s in the day. */
    double sinceStart(double clockS) {
        startS = Double.isNaN(startS) ? clockS : startS;
        return clockS - startS;
    }

    /** Takes the time of the next row, s. */
    Order take(double t) {
        double at = t + offsetS;
        if (at > lastS) {
            usualBeforeS = usualS;
            beforeS = Double.isInfinite(lastS) ? Double.NaN : lastS;
            usualS = Double.isInfinite(lastS) ? usualS : at - lastS;
            goOn(at);
            return Order.RISES;
        }
        // One time far ahead, and the next goes on as if it had not been: that one was wrong, not the clock.
        boolean first = firstS == lastS && !firstDropped;
        if (at < lastS && (first || jumped(at))) {
            usualS = Double.isNaN(beforeS) ? 0.0 : at - beforeS;
            firstS = first ? Double.NaN : firstS;
            firstDropped |= first;
            beforeS = Double.NaN;
            goOn(at);
            return Order.AFTER_A_JUMP;
        }
        boolean midnight = !Double.isNaN(startS) && lastS - at > 0.5 * DAY_S;
        // One row before it is a slip; two in a row that rise again are a clock that was set.
        if (midnight || t > candidateS) {
            steppedS = lastS - at;
            // After the very first row no step is known but that of the two rows after it.
            double step = usualS > 0 ? usualS : t - candidateS;
            offsetS += midnight ? DAY_S : lastS + step - at;
            stepsBack += midnight ? 0 : 1;
            goOn(t + offsetS);
            return midnight ? Order.RISES : Order.STEPPED_BACK;
        }
        candidateS = t;
        return Order.LEFT_OUT;
    }

    /** Whether the last time was further ahead of the one before it than a row is, and this one is not. */
    private boolean jumped(double at) {
        double step = usualBeforeS > 0 ? usualBeforeS : at - beforeS;
        return at > beforeS && at - beforeS < FEW * step && lastS - beforeS > JUMP * step;
    }

    private void goOn(double at) {
        lastS = at;
        firstS = Double.isNaN(firstS) ? at : firstS;
        candidateS = Double.NaN;
    }

    /** Time of the first row that counts, s; NaN before it. */
    double firstS() {
        return firstS;
    }

    /** Time of the last row that counts, s. */
    double lastS() {
        return lastS;
    }

    /** By how much the clock stepped back last, s. */
    double steppedS() {
        return steppedS;
    }

    /** How often the clock was set back. */
    int stepsBack() {
        return stepsBack;
    }

    /** The first reading of a clock, s in the day; NaN where time is no clock. */
    double startS() {
        return startS;
    }
}
