package nariz.log;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Arrays;
import java.util.Random;
import java.util.function.DoubleSupplier;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** What goes into a packed column comes out bit for bit, whatever the numbers are like. */
public class ColumnsPackedTest {
    private static final int MANY = ColumnChunk.SIZE + 777;

    @DataProvider
    Object[][] numbers() {
        Random r = new Random(3);
        double[] walk = {800};
        return new Object[][] {
            {"tenths", (DoubleSupplier) () -> Math.rint(10 * r.nextGaussian() * 20) / 10},
            {"hundredths around 14.7", (DoubleSupplier) () -> Math.rint(1470 + 40 * r.nextGaussian()) / 100},
            {"whole rpm that wander", (DoubleSupplier) () -> walk[0] = Math.rint(walk[0] + 30 * r.nextGaussian())},
            {"any doubles", (DoubleSupplier) () -> Double.longBitsToDouble(r.nextLong())},
            {"doubles of every size", (DoubleSupplier) () -> r.nextGaussian() * Math.pow(10, r.nextInt(40) - 20)},
            {"mostly blanks", (DoubleSupplier) () -> r.nextInt(20) == 0 ? r.nextInt(100) / 10.0 : Double.NaN},
            {"nothing but blanks", (DoubleSupplier) () -> Double.NaN},
            {"one value", (DoubleSupplier) () -> 98.6},
            {"both zeros", (DoubleSupplier) () -> r.nextBoolean() ? 0.0 : -0.0},
            {"the ends of the scale", (DoubleSupplier) () -> r.nextBoolean() ? Double.MAX_VALUE : Double.MIN_VALUE},
            {"infinities", (DoubleSupplier) () -> r.nextBoolean() ? Double.POSITIVE_INFINITY : 1.5},
            {"whole numbers beyond a double's", (DoubleSupplier) () -> (double) r.nextLong()},
        };
    }

    private static double[] unpacked(Column c) {
        double[] out = new double[c.size()];
        int at = 0;
        for (byte[] chunk : c.chunks()) {
            at += ColumnChunk.unpack(chunk, out, at);
        }
        assertThat(at).isEqualTo(out.length);
        return out;
    }

    @Test(dataProvider = "numbers")
    public void comeOutAsTheyWentIn(String name, DoubleSupplier next) {
        Column c = new Column();
        double[] in = new double[MANY];
        for (int i = 0; i < MANY; i++) {
            in[i] = next.getAsDouble();
            c.add(in[i]);
        }
        double[] out = unpacked(c);
        for (int i = 0; i < MANY; i++) {
            if (Double.isNaN(in[i])) {
                assertThat(out[i]).as(name + " " + i).isNaN();
            } else {
                assertThat(Double.doubleToRawLongBits(out[i])).as(name + " " + i).isEqualTo(Double.doubleToRawLongBits(
                        in[i]));
            }
        }
    }

    @Test
    public void readingsOfALoggerTakeAFewBitsEach() {
        Random r = new Random(8);
        Column afr = new Column();
        for (int i = 0; i < ColumnChunk.SIZE; i++) {
            afr.add(Math.rint(1470 + 10 * r.nextGaussian()) / 100);
        }
        // Two digits that change of eight bytes: a third of them at most.
        assertThat(afr.chunks().stream().mapToInt(b -> b.length).sum()).isLessThan(8 * ColumnChunk.SIZE / 3);
    }

    @Test
    public void chunksOfEverySizeSayHowManyTheyHold() {
        for (int n : new int[] {0, 1, 2, 3, 7, 100, ColumnChunk.SIZE}) {
            double[] v = new double[n];
            Arrays.setAll(v, i -> i / 8.0);
            byte[] chunk = ColumnChunk.pack(v, n);
            assertThat(ColumnChunk.count(chunk)).isEqualTo(n);
            double[] out = new double[n + 2];
            assertThat(ColumnChunk.unpack(chunk, out, 1)).isEqualTo(n);
            assertThat(Arrays.copyOfRange(out, 1, n + 1)).isEqualTo(v);
            assertThat(out[n + 1]).isZero();
        }
    }

    @Test
    public void damagedChunksEndInAnErrorOrInNumbersButNeverHang() {
        Random r = new Random(5);
        double[] v = new double[500];
        Arrays.setAll(v, i -> Math.rint(1000 * Math.sin(i / 9.0)) / 10);
        byte[] good = ColumnChunk.pack(v, v.length);
        for (int k = 0; k < 400; k++) {
            byte[] bad = k % 2 == 0 ? good.clone() : Arrays.copyOf(good, r.nextInt(good.length));
            for (int i = 0; i < 3 && bad.length > 0; i++) {
                bad[r.nextInt(bad.length)] ^= (byte) (1 << r.nextInt(8));
            }
            try {
                ColumnChunk.unpack(bad, new double[ColumnChunk.SIZE], 0);
            } catch (RuntimeException e) {
                assertThat(e).isNotInstanceOf(NullPointerException.class);
            }
        }
    }

    @Test
    public void curveOfASensorGoesThroughItsPointsAndOnBeyondThem() {
        Scale s = new Scale.Curve(new double[] {0, 1, 5}, new double[] {0.68, 0.80, 1.36});
        assertThat(s.toSi(0)).isEqualTo(0.68);
        assertThat(s.toSi(1)).isEqualTo(0.80);
        assertThat(s.toSi(3)).isEqualTo(1.08, org.assertj.core.api.Assertions.within(1e-12));
        assertThat(s.toSi(6)).isEqualTo(1.50, org.assertj.core.api.Assertions.within(1e-12));
        assertThat(s.toSi(-1)).isEqualTo(0.56, org.assertj.core.api.Assertions.within(1e-12));
        assertThatThrownBy(() -> new Scale.Curve(new double[] {0, 1, 1}, new double[] {1, 2, 3}))
                .hasMessage("points {1} and {2} of the curve do not rise");
        assertThatThrownBy(() -> new Scale.Curve(new double[] {0}, new double[] {1}))
                .hasMessageStartingWith("a curve needs two points or more");
    }
}
