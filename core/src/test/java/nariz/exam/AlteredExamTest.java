package nariz.exam;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Stage;
import nariz.diagnosis.Regime;
import nariz.family.metered.MeteredParts;
import nariz.log.DriveLog;
import nariz.sim.Fault;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/** The folder is the demo's car, so that what its circuits give is known. */
public class AlteredExamTest {
    private List<ReferenceDrive> drives = List.of();
    private ReferenceDrive sound;
    private AlteredEngine engine;

    @BeforeClass
    public void aSoundDrive() throws IOException {
        Path folder = Files.createTempDirectory("altered");
        ReferenceFolder.write(folder, "v01-0", false);
        ReferenceFolder.write(folder, "v01-1", true);
        drives = ReferenceDrive.all(folder);
        sound = drives.getFirst();
        engine = new AlteredEngine(sound, 3, Map.of());
    }

    @Test
    public void withTheSamePartsNothingChanges() {
        assertThat(engine.log(sound.sheet()).lambda()).containsExactly(sound.log().lambda());
        assertThat(engine.tuned(sound.sheet())).isTrue();
        assertThat(engine.runs(sound.sheet())).isTrue();
        assertThat(engine.rms(sound.sheet())).containsKeys(Regime.IDLE, Regime.TRANSFER, Regime.FULL);
    }

    @Test
    public void partsChangeTheMixtureWhereTheyDeliverAndByAboutWhatTheyAre() {
        BuildSheet jets = MeteredParts.MAIN_JET.fit(sound.sheet(), Stage.PRIMARY, 1.1 * MeteredParts.MAIN_JET.of(sound
                .sheet().carburetor(), Stage.PRIMARY));
        DriveLog log = engine.log(jets);
        assertThat(richer(log, 0.0, 4e3)).isBetween(0.05, 0.25);
        // Some of the idle feed comes from behind the jet.
        assertThat(richer(log, 55e3, 70e3)).isBetween(-0.01, 0.06);
        assertThat(engine.tuned(jets)).isFalse();
        assertThat(engine.loss(jets)).isGreaterThan(engine.loss(sound.sheet()));
        assertThat(richer(engine.log(MeteredParts.IDLE_FEED_RESTRICTION.fit(sound.sheet(), Stage.PRIMARY, 30)), 55e3,
                70e3)).isBetween(-0.35, -0.05);
    }

    @Test
    public void leakLeansTheIdleMost() {
        DriveLog log = new AlteredEngine(sound, 3, Map.of(Fault.VACUUM_LEAK, 0.5)).log(sound.sheet());
        assertThat(richer(log, 55e3, 70e3)).isLessThan(-0.03);
        assertThat(richer(log, 0.0, 4e3)).isCloseTo(0.0, within(0.02));
    }

    @Test
    public void oneCaseIsPutThroughRoundsAndReportedByHalves() {
        List<String> lines = new ArrayList<>();
        AlteredExam.report(drives, 1, 11, lines::add, done -> assertThat(done).isBetween(0.0, 1.0));
        assertThat(lines).contains("| measure | first half of the engines | second half |")
                .anyMatch(l -> l.matches("\\| in tune after at most 3 \\| [01] of 1 .*0 of 0.*"));
        List<String> rows = lines.stream().filter(l -> l.startsWith("| v01-0 |")).toList();
        assertThat(rows).hasSize(1).allMatch(l -> l.contains(" for ") && l.contains("in tune"));
        List<String> again = new ArrayList<>();
        AlteredExam.report(drives, 1, 11, again::add, done -> { });
        assertThat(again).isEqualTo(lines);
    }

    /** Mean of ln phi over what was recorded, in a range of vacuum. */
    private double richer(DriveLog log, double fromPa, double toPa) {
        double sum = 0;
        int n = 0;
        for (int i = 0; i < log.size(); i++) {
            double d = Math.log(sound.log().lambda()[i] / log.lambda()[i]);
            if (log.vacuumPa()[i] > fromPa && log.vacuumPa()[i] < toPa && !Double.isNaN(d)) {
                sum += d;
                n++;
            }
        }
        assertThat(n).isGreaterThan(20);
        return sum / n;
    }
}
