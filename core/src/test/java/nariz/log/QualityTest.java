package nariz.log;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import java.util.function.IntFunction;
import org.testng.annotations.Test;

/** What is odd in a log is found where it was put, and nothing else. */
public class QualityTest {
    private static final int ROWS = 3000;
    private static final double STEP_S = 0.05;

    /** One row of cells: time, rpm, vacuum, AFR. */
    private static double[] sound(int i, Random r) {
        double slow = Math.sin(i / 200.0);
        return new double[] {i * STEP_S, 2200 + 500 * slow + 8 * r.nextGaussian(), 14 - 3 * slow + 0.1
                * r.nextGaussian(), 14.2 + 0.4 * slow + 0.06 * r.nextGaussian()};
    }

    private static List<Quality.Finding> of(IntFunction<double[]> row) throws IOException {
        StringBuilder s = new StringBuilder("time_s,rpm,vacuum_inHg,afr\n");
        for (int i = 0; i < ROWS; i++) {
            double[] v = row.apply(i);
            if (v != null) {
                s.append(String.format(Locale.ROOT, "%.2f,%.0f,%.2f,%s%n", v[0], v[1], v[2], Double.isNaN(v[3]) ? ""
                        : String.format(Locale.ROOT, "%.2f", v[3])));
            }
        }
        return Quality.of(LogReader.record("odd.csv", new ByteArrayInputStream(s.toString().getBytes(
                StandardCharsets.UTF_8)), null, () -> false, n -> { }));
    }

    @Test
    public void nothingIsOddInASoundLog() throws IOException {
        for (long seed = 1; seed <= 8; seed++) {
            Random r = new Random(seed);
            assertThat(of(i -> sound(i, r))).isEmpty();
        }
    }

    @Test
    public void gapIsFoundWithItsEnds() throws IOException {
        Random r = new Random(1);
        List<Quality.Finding> f = of(i -> i > 1000 && i < 1200 ? null : sound(i, r));
        assertThat(f).hasSize(1);
        assertThat(f.getFirst().kind()).isEqualTo(Quality.Kind.GAP);
        assertThat(f.getFirst().fromS()).isEqualTo(50.0, within(1e-9));
        assertThat(f.getFirst().toS()).isEqualTo(60.0, within(1e-9));
    }

    @Test
    public void singleJumpsAreFoundInTheirChannel() throws IOException {
        Random r = new Random(2);
        List<Quality.Finding> f = of(i -> {
            double[] v = sound(i, r);
            v[3] = i == 700 ? 21.0 : v[3];
            v[1] = i == 1500 ? 6900 : v[1];
            return v;
        });
        assertThat(f).extracting(Quality.Finding::kind).containsOnly(Quality.Kind.SPIKE);
        assertThat(f).extracting(Quality.Finding::channel).containsExactly(Channel.AFR, Channel.RPM);
        assertThat(f.getFirst().fromS()).isLessThanOrEqualTo(35.0);
        assertThat(f.getFirst().toS()).isGreaterThanOrEqualTo(35.0);
    }

    @Test
    public void sensorThatStopsMovingWhileTheEngineDoesIsFound() throws IOException {
        Random r = new Random(3);
        List<Quality.Finding> f = of(i -> {
            double[] v = sound(i, r);
            v[2] = i > 500 && i < 1500 ? 11.37 : v[2];
            return v;
        });
        assertThat(f).anyMatch(x -> x.kind() == Quality.Kind.STUCK && x.channel() == Channel.VACUUM
                && x.fromS() < 26 && x.toS() > 74);
    }

    @Test
    public void readingsAtTheEndOfTheScaleAreFound() throws IOException {
        Random r = new Random(4);
        List<Quality.Finding> f = of(i -> {
            double[] v = sound(i, r);
            v[3] = i > 800 && i < 1100 ? 19.1 : v[3];
            return v;
        });
        assertThat(f).anyMatch(x -> x.kind() == Quality.Kind.RAIL && x.channel() == Channel.AFR
                && Math.abs(x.fromS() - 40) < 0.2);
    }

    @Test
    public void channelWithFewReadingsIsSaidToBeThin() throws IOException {
        Random r = new Random(5);
        List<Quality.Finding> f = of(i -> {
            double[] v = sound(i, r);
            v[3] = i % 40 == 0 ? v[3] : Double.NaN;
            return v;
        });
        assertThat(f).anyMatch(x -> x.kind() == Quality.Kind.THIN && x.channel() == Channel.AFR);
        assertThat(f.stream().filter(x -> x.kind() == Quality.Kind.THIN).findFirst().orElseThrow()
                .text().toString()).contains(
                "75").contains("3000");
    }

    /** A jump between two rows that hold the channel is seen, though blank rows lie between them. */
    @Test
    public void jumpOfAChannelThatIsReadMoreSeldomIsFoundToo() throws IOException {
        Random r = new Random(8);
        List<Quality.Finding> f = of(i -> {
            double[] v = sound(i, r);
            v[3] = i % 4 != 0 ? Double.NaN : i == 1600 ? 21.0 : v[3];
            return v;
        });
        assertThat(f).extracting(Quality.Finding::kind).containsExactly(Quality.Kind.SPIKE);
        assertThat(f.getFirst().channel()).isEqualTo(Channel.AFR);
        assertThat(f.getFirst().fromS()).isEqualTo(79.8, within(1e-6));
        assertThat(f.getFirst().toS()).isEqualTo(80.2, within(1e-6));
    }

    @Test
    public void temperatureOnceASecondIsNotThinAndOnceAMinuteIs() throws IOException {
        for (int every : new int[] {20, 1200}) {
            Random r = new Random(9);
            StringBuilder s = new StringBuilder("time_s,rpm,vacuum_inHg,afr,coolant_C\n");
            for (int i = 0; i < ROWS; i++) {
                double[] v = sound(i, r);
                s.append(String.format(Locale.ROOT, "%.2f,%.0f,%.2f,%.2f,%s%n", v[0], v[1], v[2], v[3], i % every == 0
                        ? "" + (80 + i / 400.0) : ""));
            }
            List<Quality.Finding> f = Quality.of(LogReader.record("slow.csv", new ByteArrayInputStream(s.toString()
                    .getBytes(StandardCharsets.UTF_8)), null, () -> false, n -> { }));
            assertThat(f.stream().anyMatch(x -> x.kind() == Quality.Kind.THIN)).as("every %d rows", every).isEqualTo(
                    every > 100);
        }
    }

    @Test
    public void listStaysShortWhenEverythingIsOdd() throws IOException {
        Random r = new Random(6);
        List<Quality.Finding> f = of(i -> {
            double[] v = sound(i, r);
            int block = i / 3;
            v[0] = i * STEP_S + 3.0 * block;
            return v;
        });
        assertThat(f.size()).isBetween(100, 1000);
    }
}
