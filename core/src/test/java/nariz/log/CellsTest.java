package nariz.log;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.util.Random;
import org.testng.annotations.Test;

/** Numbers as they stand in cells. */
public class CellsTest {
    @Test
    public void shortDecimalsAreTheNearestDoublesBitForBit() {
        Random r = new Random(7);
        for (int i = 0; i < 200_000; i++) {
            int digits = 1 + r.nextInt(15);
            long whole = Math.floorMod(r.nextLong(), (long) Math.pow(10, digits));
            String s = new BigDecimal(java.math.BigInteger.valueOf(r.nextBoolean() ? whole : -whole),
                    r.nextInt(digits + 1)).toPlainString();
            assertThat(Double.doubleToRawLongBits(Cells.number(s))).as(s)
                    .isEqualTo(Double.doubleToRawLongBits(Double.parseDouble(s)));
            double comma = Cells.number(s.replace('.', ','));
            if (s.matches("-?[1-9][0-9]{0,2}\\.[0-9]{3}")) {
                // "1,550" is one and a half or fifteen hundred: nothing here tells.
                assertThat(comma).as(s).isNaN();
            } else {
                assertThat(comma).as(s).isEqualTo(Double.parseDouble(s));
            }
        }
    }

    @Test
    public void numbersInOtherSpellingsAreReadToo() {
        assertThat(Cells.number("1.25e-3")).isEqualTo(1.25e-3);
        assertThat(Cells.number("+7")).isEqualTo(7);
        assertThat(Cells.number(" 14,7 ")).isEqualTo(14.7);
        assertThat(Cells.number(".5")).isEqualTo(0.5);
        assertThat(Cells.number("5.")).isEqualTo(5);
        assertThat(Cells.number("12345678901234567890")).isEqualTo(1.2345678901234567E19);
        assertThat(Double.doubleToRawLongBits(Cells.number("-0"))).isEqualTo(Double.doubleToRawLongBits(-0.0));
    }

    @Test
    public void whatIsNoNumberIsNone() {
        for (String s : new String[] {"", ".", "-", "-.", ",", "1.2.3", "1,234,5", "--1", "12:30", "abc"}) {
            assertThat(Cells.number(s)).as(s).isNaN();
        }
    }

    @Test
    public void clockTimesAreReadAsTheyAreWritten() {
        double noon = 12 * 3600 + 34 * 60 + 56.5;
        for (String s : new String[] {"12:34:56.5", "12:34:56,5", "01/05/2026 12:34:56.5", "1.5.26 12:34:56.5",
            "5-1-2026, 12:34:56.5", "12:34:56.5 PM", "12:34:56.5 p.m.", "05/01/2026 12:34:56.5 pm"}) {
            assertThat(Cells.clock(s)).as(s).isTrue();
            assertThat(Cells.clockS(s)).as(s).isEqualTo(noon);
        }
        assertThat(Cells.clockS("12:34:56.5 AM")).isEqualTo(noon - 12 * 3600);
        assertThat(Cells.clockS("1:02:03 PM")).isEqualTo(13 * 3600 + 2 * 60 + 3);
        assertThat(Cells.clockS("34:56.5")).isEqualTo(34 * 60 + 56.5);
        // 20 574 days from 1970 to the first of May 2026.
        for (String s : new String[] {"2026-05-01 12:34:56.5", "2026/05/01 12:34:56.5", "2026.5.1 12:34:56.5",
            "2026-05-01T12:34:56.5Z"}) {
            assertThat(Cells.clockS(s)).as(s).isEqualTo(20_574 * 86_400.0 + noon);
        }
        for (String s : new String[] {"2026-13-01 12:34:56", "12:34:56 XM", "1/2 12:34:56", "12.34.56"}) {
            assertThat(Cells.clockS(s)).as(s).isNaN();
        }
    }
}
