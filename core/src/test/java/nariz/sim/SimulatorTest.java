package nariz.sim;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import nariz.diagnosis.Advice;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Strategy;
import nariz.diagnosis.Verdict;
import nariz.log.Channel;
import nariz.log.DriveLog;
import nariz.units.Units;
import org.testng.annotations.Test;

public class SimulatorTest {
    @Test
    public void demoIsTheSameEveryTime() {
        assertThat(DemoDrive.drive().log().lambda()).containsExactly(DemoDrive.drive().log().lambda());
    }

    @Test
    public void demoIsTwelveMinutesWithGapsDropoutsAndRails() {
        DriveLog log = DemoDrive.drive().log();
        assertThat(log.durationS()).isBetween(690.0, 780.0);
        int missing = 0;
        int rail = 0;
        double gap = 0;
        for (int i = 0; i < log.size(); i++) {
            missing += Double.isNaN(log.lambda()[i]) ? 1 : 0;
            rail += log.lambda()[i] * 14.7 > 19.99 ? 1 : 0;
            gap = i == 0 ? 0 : Math.max(gap, log.timeS()[i] - log.timeS()[i - 1]);
        }
        assertThat(missing).isBetween(10, 100);
        assertThat(rail).isPositive();
        assertThat(gap).isGreaterThan(0.9);
    }

    @Test
    public void carReachesEveryWayOfRunning() {
        DriveLog log = DemoDrive.drive().log();
        double most = 0;
        double least = 1e9;
        double fastest = 0;
        for (int i = 0; i < log.size(); i++) {
            most = Math.max(most, log.vacuumPa()[i]);
            least = Math.min(least, log.vacuumPa()[i]);
            fastest = Math.max(fastest, log.rpm()[i]);
        }
        assertThat(most / Units.INHG).isBetween(22.0, 27.0);
        assertThat(least / Units.INHG).isLessThan(1.0);
        assertThat(fastest).isGreaterThan(5000);
        assertThat(log.values(Channel.SPEED)[600]).isLessThan(1.0);
    }

    @Test
    public void sensorLagsTheCylinders() {
        SimulatedDrive d = DemoDrive.drive();
        // Correlate changes at several lags: the best is behind by a tenth to six tenths of a second.
        int best = 0;
        double most = -1;
        for (int lag = 0; lag < 20; lag++) {
            double sum = 0;
            for (int i = 40; i < d.log().size(); i++) {
                double a = d.trueLambda()[i - lag] - d.trueLambda()[i - lag - 6];
                double b = d.log().lambda()[i] - d.log().lambda()[i - 6];
                if (!Double.isNaN(b) && Math.abs(a) < 0.3 && Math.abs(b) < 0.3) {
                    sum += a * b;
                }
            }
            if (sum > most) {
                most = sum;
                best = lag;
            }
        }
        assertThat(best * 0.05).isBetween(0.1, 0.6);
    }

    @Test
    public void vacuumLeakIsNeverAnsweredWithFuelParts() {
        DriveLog log = new EngineSimulator(healthy(), DemoDrive.SEED, Map.of(Fault.VACUUM_LEAK, 1.2), 3)
                .drive(DriveScript.twelveMinutes(), 20, "leak.csv").log();
        Advice a = Analysis.of(healthy(), log, Strategy.BALANCED).advice();
        assertThat(a.verdict()).as(a.sentence().toString()).isEqualTo(Verdict.CHECK_FIRST);
        assertThat(a.changes()).isEmpty();
    }

    @Test
    public void healthyCarIsLeftAlone() {
        DriveLog log = new EngineSimulator(healthy(), DemoDrive.SEED, Map.of(), 8)
                .drive(DriveScript.twelveMinutes(), 20, "healthy.csv").log();
        Advice a = Analysis.of(healthy(), log, Strategy.BALANCED).advice();
        assertThat(a.verdict()).as(a.sentence().toString()).isEqualTo(Verdict.LEAVE);
    }

    private static nariz.carburetor.BuildSheet healthy() {
        nariz.carburetor.BuildSheet s = nariz.family.metered.MeteredParts.IDLE_FEED_RESTRICTION.fit(DemoDrive.sheet(),
                nariz.carburetor.Stage.PRIMARY, 34);
        return nariz.family.metered.MeteredParts.POWER_VALVE_RATING.fit(s, nariz.carburetor.Stage.PRIMARY, 6.5);
    }
}
