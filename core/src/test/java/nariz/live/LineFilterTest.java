package nariz.live;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.List;
import nariz.carburetor.InputProblem;
import org.testng.annotations.Test;

public class LineFilterTest {
    private final List<String> out = new ArrayList<>();

    private LineFilter fed(String... lines) {
        LineFilter f = new LineFilter();
        out.clear();
        double t = 0;
        for (String l : lines) {
            out.addAll(f.take(l, t));
            t += 0.05;
        }
        return f;
    }

    @Test
    public void rowsPassAndTheRepeatedHeaderDoesNot() {
        LineFilter f = fed("time (s),rpm (1/min),lambda", "0.00,800,0.95", "time (s),rpm (1/min),lambda",
                "0.05,805,0.94");
        assertThat(out).containsExactly("time (s),rpm (1/min),lambda", "0.00,800,0.95", "0.05,805,0.94");
        assertThat(f.tally()).isEqualTo(new LineFilter.Tally(2, 0, 0, 0, 0));
    }

    @Test
    public void withoutAClockTheArrivalIsTheTime() {
        fed("rpm (1/min),lambda", "800,0.95", "805,0.94");
        assertThat(out).containsExactly("time (s),rpm (1/min),lambda", "0.000,800,0.95", "0.050,805,0.94");
    }

    @Test
    public void whatIsNoRowIsKeptOutAndCounted() {
        LineFilter f = fed("junk before", "time (s),rpm", "0,800", "0.05,8x0", "0.1,800,3", "\u0001\u0002,5", "0.2,",
                "0.15,800");
        assertThat(out).containsExactly("time (s),rpm", "0,800", "0.2,");
        // The last one says an earlier time than the one before.
        assertThat(f.tally().malformed()).isEqualTo(5);
    }

    @Test
    public void checksumsAreHeldToAndTakenOff() {
        String good = "0.00,800";
        LineFilter f = fed("time (s),rpm", String.format("%s*%02X", good, LineFilter.sum(good)), "0.05,801*00");
        assertThat(out).containsExactly("time (s),rpm", good);
        assertThat(f.tally().sums()).isEqualTo(1);
    }

    @Test
    public void clockThatIsSetGoesOnWhereItWas() {
        LineFilter f = fed("time (s);rpm", "10,00;800", "10,05;801", "3610,10;802", "3610,15;803", "5,00;804");
        assertThat(out).containsExactly("time (s);rpm", "10,00;800", "10,05;801", "10,100;802", "10,150;803",
                "10,200;804");
        assertThat(f.tally().jumps()).isEqualTo(2);
    }

    @Test
    public void millisecondsStayMilliseconds() {
        fed("time (ms),rpm", "1000,800", "9000000,801");
        assertThat(out).containsExactly("time (ms),rpm", "1000,800", "1050.000,801");
    }

    @Test
    public void missedHeaderGetsNumbersForTitles() {
        String[] rows = new String[LineFilter.HEADLESS];
        for (int i = 0; i < rows.length; i++) {
            rows[i] = i + ",800";
        }
        LineFilter f = fed(rows);
        assertThat(f.begun()).isTrue();
        assertThat(out).containsExactly("time (s),column 1,column 2");
    }

    @Test
    public void mostlyGarbageIsCalledThat() {
        LineFilter f = fed("time (s),rpm", "0,800");
        for (int i = 0; i < LineFilter.RECENT; i++) {
            f.take("\uFFFD\uFFFD~x" + i, i);
        }
        assertThat(f.garbage()).isTrue();
        for (int i = 1; i < LineFilter.RECENT; i++) {
            f.take(i + ",800", 100 + i);
        }
        assertThat(f.garbage()).isFalse();
    }

    @Test
    public void addressesAreReadOrRefused() {
        assertThat(DeviceAddress.parse("tcp:127.0.0.1:4000")).isEqualTo(new DeviceAddress(false, "127.0.0.1", 4000));
        assertThat(DeviceAddress.parse("serial:ttyUSB0@9600")).isEqualTo(new DeviceAddress(true, "ttyUSB0", 9600));
        assertThat(DeviceAddress.parse("serial:COM3").text()).isEqualTo("serial:COM3");
        for (String bad : List.of("", "tcp:host", "tcp:host:0", "tcp:host:70000", "serial:", "serial:x@1",
                "udp:host:4000")) {
            assertThatThrownBy(() -> DeviceAddress.parse(bad)).isInstanceOf(InputProblem.class).hasMessageContaining(
                    "tcp:HOST:PORT");
        }
    }
}
