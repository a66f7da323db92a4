package nariz.carburetor;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.ArrayList;
import java.util.List;
import org.testng.annotations.Test;

public class BandsTest {
    private static final Bands BANDS = new Bands(List.of(0.0, 0.5, 1.0));
    /** A jet that any needle goes into. */
    private static final double WIDE = 120.0;
    private static final List<Double> FALLING = List.of(90.0, 88.0, 87.0, 84.0, 80.0);

    /** Moved as far as there is room every station still is no thicker than the one before; a little further it is. */
    @Test
    public void bandGoesAsFarAsTheProfileKeepsFalling() {
        for (int band = 0; band < 3; band++) {
            double[] room = BANDS.room(band, FALLING);
            assertThat(room[0]).isLessThanOrEqualTo(0.0);
            assertThat(room[1]).isGreaterThanOrEqualTo(0.0);
            int middle = BANDS.station(band, FALLING.size());
            for (double by : room) {
                if (Double.isInfinite(by)) {
                    continue;
                }
                assertThat(raw(band, by)).isEqualTo(BANDS.moved(band, FALLING, by, WIDE));
                double further = by + Math.copySign(0.5, by);
                assertThat(BANDS.moved(band, FALLING, further, WIDE)).isNotEqualTo(raw(band, further));
            }
            double up = Math.min(1.0, room[1]);
            assertThat(BANDS.moved(band, FALLING, up, WIDE).get(middle)).isCloseTo(FALLING.get(middle) + up, within(
                    1e-9));
        }
        // The first can grow as it likes; the second ends how far it can shrink: from 88 to 87 is 1, for half of it.
        assertThat(BANDS.room(0, FALLING)[1]).isInfinite();
        assertThat(BANDS.room(0, FALLING)[0]).isCloseTo(-2.0, within(1e-9));
        assertThat(BANDS.room(2, FALLING)[1]).isCloseTo(6.0, within(1e-9));
        assertThat(BANDS.room(2, FALLING)[0]).isEqualTo(Double.NEGATIVE_INFINITY);
    }

    /** A flat stretch leaves no room: thicker beyond it is thicker than before it. */
    @Test
    public void flatProfileLeavesNoRoomToGrow() {
        List<Double> flat = List.of(90.0, 90.0, 90.0, 90.0, 90.0);
        assertThat(BANDS.room(1, flat)[0]).isCloseTo(0.0, within(0.0));
        assertThat(BANDS.room(1, flat)[1]).isCloseTo(0.0, within(0.0));
        assertThat(BANDS.room(0, flat)[0]).isCloseTo(0.0, within(0.0));
    }

    /** Thicker at the first station than the jet is wide stops at the jet; the rest goes on. */
    @Test
    public void nothingGrowsBeyondTheLargestThereCanBe() {
        assertThat(BANDS.moved(0, FALLING, 1.5, 90.5)).containsExactly(90.5, 88.75, 87.0, 84.0, 80.0);
        assertThat(BANDS.moved(0, FALLING, 1.5, WIDE)).containsExactly(91.5, 88.75, 87.0, 84.0, 80.0);
    }

    private static List<Double> raw(int band, double by) {
        List<Double> out = new ArrayList<>();
        for (int i = 0; i < FALLING.size(); i++) {
            out.add(FALLING.get(i) + by * BANDS.share(band, i, FALLING.size()));
        }
        return out;
    }
}
