package nariz.exam;

import java.util.List;
import java.util.Locale;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.DoubleConsumer;
import java.util.function.LongFunction;
import java.util.stream.LongStream;

/** Runs the cases of an exam on all processors. */
final class Cases {
    private Cases() {
    }

    /** {@return how many of how many, and the share in per cent} */
    static String share(long n, long of) {
        return String.format(Locale.ROOT, "%d of %d (%.0f %%)", n, of, 100.0 * n / Math.max(1, of));
    }

    /**
     * Runs one case for every seed.
     *
     * @param firstSeed seed of the first case
     * @param count how many
     * @param one runs a case; called from several threads
     * @param progress receives the share done, 0 to 1, from any thread
     * @param <T> what comes of a case
     * @return results in the order of the seeds
     */
    static <T> List<T> all(long firstSeed, int count, LongFunction<T> one, DoubleConsumer progress) {
        AtomicInteger done = new AtomicInteger();
        return LongStream.range(firstSeed, firstSeed + count).parallel().mapToObj(seed -> {
            T result = one.apply(seed);
            progress.accept(done.incrementAndGet() / (double) count);
            return result;
        }).toList();
    }
}
