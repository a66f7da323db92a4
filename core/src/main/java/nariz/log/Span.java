package nariz.log;

/**
 * A stretch of a drive.
 *
 * @param fromS start, s in the log
 * @param toS end, later than the start
 */
public record Span(double fromS, double toS) {
    /** Checks the order. */
    public Span {
        if (!(toS > fromS)) {
            throw new IllegalArgumentException("stretch from " + fromS + " to " + toS + " s");
        }
    }

    /**
     * Whether a moment lies in it.
     *
     * @param timeS time, s
     * @return true from the start to the end, both included
     */
    public boolean holds(double timeS) {
        return timeS >= fromS && timeS <= toS;
    }
}
