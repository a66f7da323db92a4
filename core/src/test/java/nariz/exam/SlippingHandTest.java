package nariz.exam;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Random;
import nariz.practice.Hand;
import org.testng.annotations.Test;

public class SlippingHandTest {
    private static final int TURNS = 20_000;

    @Test
    public void slipsSixInAHundredEitherWayAndIsASixteenthOffEveryFifthTime() {
        SlippingHand hand = new SlippingHand(new Random(3));
        int[] deeds = new int[Hand.Deed.values().length];
        int off = 0;
        for (int i = 0; i < TURNS; i++) {
            Hand.Turn t = hand.turn(0.25);
            deeds[t.deed().ordinal()]++;
            switch (t.deed()) {
                case OTHER_WAY -> assertThat(t.by()).isEqualTo(-0.25);
                case ELSEWHERE -> assertThat(t.by()).isEqualTo(0.25);
                case ASKED -> {
                    assertThat(t.by()).isIn(0.1875, 0.25, 0.3125);
                    off += t.by() == 0.25 ? 0 : 1;
                }
            }
        }
        assertThat(deeds[Hand.Deed.OTHER_WAY.ordinal()] / (double) TURNS).isCloseTo(0.06, within(0.01));
        assertThat(deeds[Hand.Deed.ELSEWHERE.ordinal()] / (double) TURNS).isCloseTo(0.06, within(0.01));
        assertThat(off / (double) deeds[Hand.Deed.ASKED.ordinal()]).isCloseTo(0.2, within(0.02));
    }

    @Test
    public void smallMovesAreMadeWithCare() {
        SlippingHand hand = new SlippingHand(new Random(3));
        for (int i = 0; i < TURNS; i++) {
            assertThat(hand.turn(-0.05).slipped()).isFalse();
        }
    }

    @Test
    public void anotherCarburetorIsNeverTheSame() {
        SlippingHand hand = new SlippingHand(new Random(3));
        for (int i = 0; i < TURNS; i++) {
            assertThat(hand.another(i % 3, 3)).isBetween(0, 2).isNotEqualTo(i % 3);
        }
    }

    @Test
    public void slipsAndAlarmsAreCountedApart() {
        SlippingHand.Tally t = new SlippingHand.Tally();
        t.count(true, true);
        t.count(true, false);
        t.count(false, false);
        t.count(false, true);
        assertThat(new int[] {t.slips(), t.told(), t.plain(), t.alarms()}).containsExactly(2, 1, 2, 1);
    }
}
