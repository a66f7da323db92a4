package nariz.dynamics;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.function.ObjDoubleConsumer;
import java.util.function.ToDoubleFunction;

/** Cuts a posterior on a grid down to the explanations that count. */
final class Likeliest {
    private static final double KEPT = 0.995;
    private static final int MOST_KEPT = 300;

    private Likeliest() {
    }

    /**
     * Keeps the likeliest.
     *
     * @param all explanations
     * @param weight their weights, to any scale
     * @param kept receives those that count, the likeliest first, with weights that sum to 1
     * @param <T> explanation
     */
    static <T> void of(List<T> all, ToDoubleFunction<T> weight, ObjDoubleConsumer<T> kept) {
        double sum = all.stream().mapToDouble(weight).sum();
        List<T> out = new ArrayList<>();
        double total = 0.0;
        for (T s : all.stream().sorted(Comparator.comparingDouble(weight).reversed()).toList()) {
            if (total > KEPT * sum || out.size() >= MOST_KEPT) {
                break;
            }
            out.add(s);
            total += weight.applyAsDouble(s);
        }
        double counted = total;
        out.forEach(s -> kept.accept(s, weight.applyAsDouble(s) / counted));
    }
}
