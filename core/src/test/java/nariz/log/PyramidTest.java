package nariz.log;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Random;
import org.testng.annotations.Test;

public class PyramidTest {
    /** Every stretch against the plain loop, on lengths around the block edges and with holes. */
    @Test
    public void rangeIsThatOfThePlainLoop() {
        Random r = new Random(3);
        for (int n : new int[] {0, 1, 15, 16, 17, 255, 256, 257, 4097, 20_000}) {
            float[] s = new float[n];
            for (int i = 0; i < n; i++) {
                s[i] = r.nextInt(9) == 0 ? Float.NaN : r.nextFloat();
            }
            Pyramid p = new Pyramid(s);
            float[] out = new float[2];
            for (int k = 0; k < 300; k++) {
                int from = n == 0 ? 0 : r.nextInt(n);
                int to = from + r.nextInt(n - from + 1);
                float lo = Float.POSITIVE_INFINITY;
                float hi = Float.NEGATIVE_INFINITY;
                for (int i = from; i < to; i++) {
                    if (!Float.isNaN(s[i])) {
                        lo = Math.min(lo, s[i]);
                        hi = Math.max(hi, s[i]);
                    }
                }
                p.range(from, to, out);
                assertThat(out[0]).as("%d to %d of %d", from, to, n).isEqualTo((Object) (lo > hi ? Float.NaN : lo));
                assertThat(out[1]).isEqualTo((Object) (lo > hi ? Float.NaN : hi));
            }
        }
    }

    @Test
    public void stretchOutsideTheSeriesIsClamped() {
        Pyramid p = new Pyramid(new float[] {3, 1, 2});
        float[] out = new float[2];
        p.range(-5, 99, out);
        assertThat(out).containsExactly(1, 3);
        p.range(3, 9, out);
        assertThat(out[0]).isNaN();
    }

    /** 2, 4, 4, 4, 5, 5, 7, 9: mean 5, sum of squares 32, so sd with divisor 7 is 2.138. */
    @Test
    public void statisticsPassOverMissingReadings() {
        Pyramid p = new Pyramid(new float[] {99, 2, 4, 4, Float.NaN, 4, 5, 5, 7, 9, 99});
        Pyramid.Statistics s = p.statistics(1, 10);
        assertThat(s.count()).isEqualTo(8);
        assertThat(s.mean()).isEqualTo(5, within(1e-9));
        assertThat(s.sd()).isEqualTo(Math.sqrt(32.0 / 7), within(1e-9));
        assertThat(s.low()).isEqualTo(2);
        assertThat(s.high()).isEqualTo(9);
        assertThat(p.statistics(4, 5).count()).isZero();
        assertThat(p.statistics(1, 2).sd()).isZero();
    }

    /** Stretches over block edges against two plain passes, on rpm with holes. */
    @Test
    public void statisticsOverBlocksAreThoseOfThePlainLoop() {
        Random r = new Random(5);
        float[] s = new float[20_000];
        for (int i = 0; i < s.length; i++) {
            s[i] = r.nextInt(11) == 0 || (i > 8000 && i < 13_000) ? Float.NaN : 5000 + 3 * r.nextFloat();
        }
        Pyramid p = new Pyramid(s);
        int[] edges = {0, 1, 4095, 4096, 4097, 8000, 8192, 12_288, 12_999, 16_384, 19_999, 20_000};
        for (int from : edges) {
            for (int to : edges) {
                double sum = 0;
                int n = 0;
                for (int i = from; i < to; i++) {
                    if (!Float.isNaN(s[i])) {
                        sum += s[i];
                        n++;
                    }
                }
                double square = 0;
                for (int i = from; i < to; i++) {
                    square += Float.isNaN(s[i]) ? 0 : Math.pow(s[i] - sum / n, 2);
                }
                Pyramid.Statistics got = p.statistics(from, to);
                assertThat(got.count()).as("%d to %d", from, to).isEqualTo(n);
                if (n > 1) {
                    assertThat(got.mean()).isEqualTo(sum / n, within(1e-8));
                    assertThat(got.sd()).isEqualTo(Math.sqrt(square / (n - 1)), within(1e-6));
                }
            }
        }
    }
}
