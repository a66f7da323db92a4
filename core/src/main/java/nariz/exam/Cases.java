package nariz.exam;

import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.DoubleConsumer;
import java.util.function.LongFunction;
import java.util.stream.LongStream;

/** Runs the cases of an exam on all processors. */
final class Cases {
    private Cases() {
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
