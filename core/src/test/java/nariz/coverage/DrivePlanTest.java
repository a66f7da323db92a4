package nariz.coverage;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.carburetor.Stage;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Strategy;
import nariz.family.metered.MeteredCircuits;
import nariz.flow.Barrels;
import nariz.log.DriveLog;
import nariz.log.Span;
import nariz.sim.DemoDrive;
import nariz.testing.Samples;
import org.testng.annotations.Test;

/** What to record next, and what a drive has of it. */
public class DrivePlanTest {
    private static DrivePlan plan(BuildSheet sheet, DriveLog log) {
        Analysis a = Analysis.of(sheet, log, Strategy.BALANCED);
        return DrivePlan.of(a, a.tipIns());
    }

    @Test
    public void twelveMinutesOfEverythingLeaveLittleToRecord() {
        DrivePlan p = plan(DemoDrive.sheet(), DemoDrive.drive().log());
        assertThat(p.items()).extracting(DrivePlan.Item::circuit).contains(MeteredCircuits.IDLE,
                MeteredCircuits.TRANSFER,
                MeteredCircuits.MAIN, MeteredCircuits.POWER, MeteredCircuits.SECONDARY_MAIN, MeteredCircuits.PUMP);
        assertThat(p.items()).hasSizeBetween(7, 12);
        assertThat(p.missing()).hasSizeLessThan(p.items().size() / 2);
        assertThat(p.items().getFirst().done()).isTrue();
    }

    @Test
    public void halfADriveTicksOffWhatItHeldAndAsksForTheRest() {
        DriveLog all = DemoDrive.drive().log();
        DrivePlan p = plan(DemoDrive.sheet(), all.without(List.of(new Span(200, 1e6))));
        assertThat(p.items().getFirst().done()).isTrue();
        assertThat(p.missing()).extracting(DrivePlan.Item::circuit).contains(MeteredCircuits.MAIN,
                MeteredCircuits.POWER,
                MeteredCircuits.SECONDARY_MAIN);
        assertThat(p.missing()).filteredOn(i -> i.circuit().equals(MeteredCircuits.SECONDARY_MAIN)).singleElement()
                .extracting(DrivePlan.Item::caution).asString().contains("Closed course");
    }

    @Test
    public void pointsOfTheMainCircuitLieBetweenTheSlotAndTheEnrichment() {
        DrivePlan p = plan(DemoDrive.sheet(), DemoDrive.drive().log());
        double opens = Barrels.of(DemoDrive.sheet().carburetor(), Stage.PRIMARY).enrichment().opensPa();
        assertThat(p.items()).filteredOn(i -> i.circuit().equals(MeteredCircuits.MAIN)).isNotEmpty()
                .allMatch(i -> i.fromPa() > opens && i.toPa() > i.fromPa());
    }

    @Test
    public void drivesTooShortForAVerdictHaveAPlanToo() {
        BuildSheet sheet = BuildSheetReader.parse("s", Samples.sheet());
        DrivePlan p = plan(sheet, DemoDrive.drive().log().without(List.of(new Span(5, 1e6))));
        assertThat(p.missing()).hasSizeGreaterThan(5);
    }
}
