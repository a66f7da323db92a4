package nariz.estimation;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Random;
import org.testng.annotations.Test;

public class SlidingSpanTest {
    @Test
    public void spanEqualsTheOneFoundByLookingAtEveryValue() {
        Random r = new Random(2);
        double[] v = new double[2000];
        for (int i = 0; i < v.length; i++) {
            v[i] = r.nextInt(10) == 0 ? Double.NaN : r.nextInt(50);
        }
        SlidingSpan s = new SlidingSpan();
        int from = 0;
        for (int i = 0; i < v.length; i++) {
            s.add(i, v[i]);
            from = Math.max(from, i - r.nextInt(30));
            s.dropBefore(from);
            double low = Double.POSITIVE_INFINITY;
            double high = Double.NEGATIVE_INFINITY;
            for (int k = from; k <= i; k++) {
                if (!Double.isNaN(v[k])) {
                    low = Math.min(low, v[k]);
                    high = Math.max(high, v[k]);
                }
            }
            assertThat(s.span()).isEqualTo(high < low ? 0.0 : high - low);
        }
    }

    @Test
    public void longRisingWindowsGrowTheRing() {
        SlidingSpan s = new SlidingSpan();
        for (int i = 0; i < 5000; i++) {
            s.add(i, 0.5 * i);
            s.dropBefore(Math.max(0, i - 700));
            assertThat(s.span()).isEqualTo(0.5 * Math.min(i, 700));
        }
    }
}
