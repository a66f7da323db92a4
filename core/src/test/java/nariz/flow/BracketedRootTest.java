package nariz.flow;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.function.DoubleUnaryOperator;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Roots of awkward functions: found to the width that is asked for, in few steps, without leaving the bracket. */
public class BracketedRootTest {
    private static final double WIDTH = 0.05;

    private static final class Counted extends BracketedRoot {
        private final DoubleUnaryOperator f;
        private final double low;
        private final double high;
        private int times;

        Counted(DoubleUnaryOperator f, double low, double high) {
            this.f = f;
            this.low = low;
            this.high = high;
        }

        @Override
        double imbalance(double x) {
            assertThat(x).isBetween(low, high);
            times++;
            return f.applyAsDouble(x);
        }
    }

    private interface Shape extends DoubleUnaryOperator {
    }

    @DataProvider
    public Object[][] functions() {
        return new Object[][] {
                {"a line", (Shape) x -> x - 1234.5, 1234.5, 5},
                {"a root, as of flow over pressure", (Shape) x -> Math.sqrt(x) - Math.sqrt(7.0), 7.0, 12},
                {"flat at first, steep at last", (Shape) x -> Math.pow(x / 1e4, 9) - 1e-3, 1e4 * Math.cbrt(0.1), 36},
                {"a kink at the root", (Shape) x -> x < 5000 ? 1e-4 * (x - 5000) : 10 * (x - 5000), 5000.0, 16},
                {"a step", (Shape) x -> x < 3210.0 ? -1.0 : 1e6, 3210.0, 36},
                {"next to an end", (Shape) x -> x * x - 1e-4, 0.01, 20}};
    }

    @Test(dataProvider = "functions")
    public void rootIsFoundInFewSteps(String what, DoubleUnaryOperator f, double root, int most) {
        Counted c = new Counted(f, 0.0, 1e4);
        assertThat(c.root(0.0, 1e4, WIDTH)).as(what).isCloseTo(root, within(WIDTH));
        assertThat(c.times).as("steps: %s", what).isLessThanOrEqualTo(most);
    }

    /** Estimates take differences over small steps: a root that jumps by the width would be their noise. */
    @Test
    public void rootOfASmoothFunctionMovesSmoothly() {
        for (double to = 100.0; to < 100.1; to += 0.003) {
            double wanted = to;
            assertThat(new Counted(x -> Math.sqrt(x) + 1e-3 * x - wanted, 0.0, 1e5).root(0.0, 1e5, WIDTH)).isCloseTo(
                    Math.pow((Math.sqrt(1.0 + 4e-3 * to) - 1.0) / 2e-3, 2), within(1e-4));
        }
    }

    @Test
    public void withoutAChangeOfSignTheNearerEndIsGiven() {
        assertThat(new Counted(x -> x + 1.0, 0.0, 10.0).root(0.0, 10.0, WIDTH)).isEqualTo(0.0);
        assertThat(new Counted(x -> x - 11.0, 0.0, 10.0).root(0.0, 10.0, WIDTH)).isEqualTo(10.0);
    }
}
