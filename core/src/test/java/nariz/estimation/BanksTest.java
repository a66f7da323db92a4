package nariz.estimation;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import nariz.carburetor.Circuit;
import nariz.diagnosis.Advice;
import nariz.diagnosis.AdviceJson;
import nariz.diagnosis.AdviceText;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.BankFinding;
import nariz.diagnosis.Strategy;
import nariz.family.metered.MeteredCircuits;
import nariz.log.Channel;
import nariz.log.DriveLog;
import nariz.sim.DemoDrive;
import org.testng.annotations.Test;

public class BanksTest {
    /** The demo's drive with a second sensor that reads leaner by a factor. */
    private static DriveLog twoSensors(double factor) {
        DriveLog log = DemoDrive.drive().log();
        Map<Channel, double[]> channels = new EnumMap<>(Channel.class);
        log.recorded().forEach(c -> channels.put(c, log.values(c)));
        double[] second = log.lambda().clone();
        for (int i = 0; i < second.length; i++) {
            second[i] *= factor;
        }
        channels.put(Channel.LAMBDA_2, second);
        return new DriveLog("banks", channels, List.of(), 0);
    }

    @Test
    public void differenceIsFoundWhereverTheCarRanAndSaid() {
        DriveLog log = twoSensors(1.06);
        Banks b = Banks.of(Observation.of(log, DemoDrive.sheet(), () -> false)).orElseThrow();
        assertThat(b.idle()).isCloseTo(Math.log(1.06), within(1e-9));
        assertThat(b.light()).isCloseTo(Math.log(1.06), within(1e-9));
        assertThat(b.load()).isCloseTo(Math.log(1.06), within(1e-9));
        Advice a = Analysis.of(DemoDrive.sheet(), log, Strategy.BALANCED).advice();
        assertThat(a.notes()).anyMatch(n -> n.toString().startsWith(
                "the second bank reads 6 % leaner than the other under load"));
    }

    @Test
    public void eachBankIsEstimatedForItself() {
        Advice a = Analysis.of(DemoDrive.sheet(), twoSensors(1.06), Strategy.BALANCED).advice();
        assertThat(a.banks()).extracting(BankFinding::bank).containsExactly(1, 2);
        Map<Circuit, BankFinding.Interval> one = a.banks().getFirst().circuits();
        Map<Circuit, BankFinding.Interval> two = a.banks().getLast().circuits();
        assertThat(one).containsKeys(MeteredCircuits.IDLE, MeteredCircuits.TRANSFER, MeteredCircuits.MAIN);
        double first = one.get(MeteredCircuits.IDLE).value() + one.get(MeteredCircuits.TRANSFER).value();
        double second = two.get(MeteredCircuits.IDLE).value() + two.get(MeteredCircuits.TRANSFER).value();
        assertThat(first / second).isBetween(1.03, 1.09);
        assertThat(a.finding(MeteredCircuits.MAIN).correction()).isBetween(two.get(MeteredCircuits.MAIN).value(),
                one.get(MeteredCircuits.MAIN).value());
        assertThat(AdviceJson.write(a)).contains("\"bank\" : 2");
        assertThat(AdviceText.write(a)).contains("Bank 2 alone: idle ");
    }

    @Test
    public void banksThatAgreeAndSingleSensorsAreNotSpokenOf() {
        assertThat(Analysis.of(DemoDrive.sheet(), twoSensors(1.01), Strategy.BALANCED).advice().notes()).isEmpty();
        assertThat(Banks.of(Observation.of(DemoDrive.drive().log(), DemoDrive.sheet(), () -> false))).isEmpty();
    }
}
