package nariz.sim;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.Random;
import java.util.function.LongFunction;
import java.util.random.RandomGenerator;
import java.util.stream.LongStream;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class SeedsTest {
    private static final int CASES = 60;

    @DataProvider
    Object[][] draws() {
        LongFunction<RandomGenerator> hand = n -> Seeds.random(n, 3);
        LongFunction<RandomGenerator> engine = n -> new Random(Seeds.spread(n));
        // As simulated carburetors of other laws draw from the number they are given.
        LongFunction<RandomGenerator> stranger = n -> new Random(Seeds.spread(n) * 31 + 7);
        return new Object[][] {{"hand", hand, 1L}, {"hand", hand, 82_001L}, {"engine", engine, 1L}, {"engine", engine,
            7801L}, {"stranger", stranger, 1L}, {"stranger", stranger, 82_001L}};
    }

    /** The first draw of sixty cases in a row is spread as sixty draws are: no tenth of its range has most of them. */
    @Test(dataProvider = "draws")
    public void casesInARowDoNotShareTheirFirstDraw(String what, LongFunction<RandomGenerator> of, long first) {
        double[] drawn = LongStream.range(first, first + CASES).mapToDouble(n -> of.apply(n).nextDouble()).toArray();
        int[] tenths = new int[10];
        Arrays.stream(drawn).forEach(d -> tenths[(int) (10 * d)]++);
        assertThat(Arrays.stream(tenths).max().orElseThrow()).as(what).isLessThanOrEqualTo(14);
        assertThat(Arrays.stream(drawn).average().orElseThrow()).as(what).isCloseTo(0.5, within(0.13));
    }

    @Test
    public void aCaseIsTheSameEveryTimeAndItsThingsAreDrawnApart() {
        assertThat(Seeds.spread(7)).isEqualTo(Seeds.spread(7)).isNotEqualTo(Seeds.spread(8));
        assertThat(Seeds.random(7, 1).nextLong()).isEqualTo(Seeds.random(7, 1).nextLong())
                .isNotEqualTo(Seeds.random(7, 2).nextLong()).isNotEqualTo(Seeds.random(8, 1).nextLong());
    }
}
