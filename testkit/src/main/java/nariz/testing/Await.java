package nariz.testing;

import java.util.concurrent.TimeUnit;
import java.util.concurrent.locks.LockSupport;
import java.util.function.BooleanSupplier;

/** Waits in a test for what other threads or processes do. */
public final class Await {
    private static final long LOOK_NS = 5_000_000;
    private static final long LONGEST_S = 30;

    private Await() {
    }

    /**
     * Waits until something holds.
     *
     * @param what in words, for the failure
     * @param holds asked again and again
     * @throws AssertionError when it does not hold within half a minute
     */
    public static void until(String what, BooleanSupplier holds) {
        long until = System.nanoTime() + TimeUnit.SECONDS.toNanos(LONGEST_S);
        while (!holds.getAsBoolean()) {
            if (System.nanoTime() > until) {
                throw new AssertionError("waited " + LONGEST_S + " s for " + what);
            }
            LockSupport.parkNanos(LOOK_NS);
        }
    }
}
