package nariz.dynamics;

import java.util.Comparator;
import java.util.List;
import java.util.function.ObjDoubleConsumer;
import java.util.function.ToDoubleFunction;

/**
 * Cuts a posterior on a grid down to the explanations that count: the likeliest where few hold nearly all of it, else a
 * systematic sample of {@value #MOST_KEPT} (Kitagawa, J. Comput. Graph. Stat. 5, 1996, pp. 1-25), which unlike the
 * likeliest alone is no surer than the whole.
 */
final class Likeliest {
    private static final double KEPT = 0.995;
    private static final int MOST_KEPT = 100;

    private Likeliest() {
    }

    /**
     * Keeps those that count.
     *
     * @param all explanations
     * @param weight their weights, to any scale
     * @param kept receives them, the likeliest first, with weights that sum to 1
     * @param <T> explanation
     */
    static <T> void of(List<T> all, ToDoubleFunction<T> weight, ObjDoubleConsumer<T> kept) {
        List<T> sorted = all.stream().sorted(Comparator.comparingDouble(weight).reversed()).toList();
        double sum = sorted.stream().mapToDouble(weight).sum();
        double total = 0.0;
        int count = 0;
        while (count < sorted.size() && total <= KEPT * sum) {
            total += weight.applyAsDouble(sorted.get(count++));
        }
        if (count <= MOST_KEPT) {
            double counted = total;
            sorted.subList(0, count).forEach(s -> kept.accept(s, weight.applyAsDouble(s) / counted));
        } else {
            systematic(sorted, weight, sum, kept);
        }
    }

    /** One at every hundredth of the sum. */
    private static <T> void systematic(List<T> sorted, ToDoubleFunction<T> weight, double sum,
            ObjDoubleConsumer<T> kept) {
        double upTo = 0.0;
        int taken = 0;
        for (T s : sorted) {
            upTo += weight.applyAsDouble(s);
            int hits = (int) Math.round(MOST_KEPT * upTo / sum) - taken;
            if (hits > 0) {
                kept.accept(s, hits / (double) MOST_KEPT);
                taken += hits;
            }
        }
    }
}
