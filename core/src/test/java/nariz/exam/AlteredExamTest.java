package nariz.exam;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Part;
import nariz.carburetor.Stage;
import nariz.diagnosis.Regime;
import nariz.family.metered.MeteredParts;
import nariz.log.Channel;
import nariz.log.DriveLog;
import nariz.sim.Demo;
import nariz.sim.Fault;
import nariz.sim.SimulatedDrive;
import nariz.units.Units;
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
        engine = new AlteredEngine(sound, 3, Optional.empty());
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
    public void driveWithAWrongPartIsAlteredFromWhatItsHealthyPartsWouldGive() {
        ReferenceDrive wrong = drives.get(1);
        assertThat(MeteredParts.IDLE_FEED_RESTRICTION.of(wrong.healthy().carburetor(), Stage.PRIMARY)).isEqualTo(34.0,
                within(1e-9));
        assertThat(MeteredParts.IDLE_FEED_RESTRICTION.of(wrong.sheet().carburetor(), Stage.PRIMARY)).isEqualTo(37.0,
                within(1e-9));
        AlteredEngine mended = new AlteredEngine(wrong, 3, Optional.empty());
        assertThat(mended.tuned(wrong.healthy())).isTrue();
        assertThat(mended.rms(wrong.healthy()).get(Regime.IDLE)).isLessThan(mended.rms(wrong.sheet()).get(Regime.IDLE));
        assertThat(mended.log(wrong.sheet()).lambda()).containsExactly(wrong.log().lambda());
    }

    /** The inside of a constant-depression carburetor has one column of fuel, and the place of its piston. */
    @Test
    public void needleIsOneStreamAndItsIdleStationMovesTheIdle() {
        SimulatedDrive d = Demo.SMALL_FOUR.drive();
        BuildSheet sheet = Demo.SMALL_FOUR.sheet();
        DriveLog log = d.log();
        Map<String, double[]> inside = new HashMap<>();
        for (String column : List.of("t", "rpm", "vac", "lam", "th_p", "air", "idle_p", "main_p", "idle_s", "main_s",
                "pump", "enrich")) {
            inside.put(column, new double[log.size()]);
        }
        for (int i = 0; i < log.size(); i++) {
            double air = 1e-9 * log.rpm()[i] * (sheet.ambient().pressurePa() - log.vacuumPa()[i]);
            inside.get("t")[i] = log.timeS()[i];
            inside.get("rpm")[i] = log.rpm()[i];
            inside.get("vac")[i] = log.vacuumPa()[i] / Units.INHG;
            inside.get("lam")[i] = d.trueLambda()[i];
            inside.get("th_p")[i] = 4 + 80 * log.values(Channel.THROTTLE)[i];
            inside.get("air")[i] = air;
            inside.get("main_p")[i] = air / sheet.fuel().stoichAfr() / d.trueLambda()[i];
            inside.get("enrich")[i] = 1e-6 * log.rpm()[i];
        }
        AlteredEngine four = new AlteredEngine(new ReferenceDrive("M", "drive-m", sheet, sheet, log, "", List.of(),
                false, Map.of(), Map.of(), Map.of(), inside), 3, Optional.empty());
        Part idle = sheet.carburetor().family().parts().stream().filter(p -> p.key().equals("needle-idle")).findFirst()
                .orElseThrow();
        BuildSheet thick = idle.fit(sheet, Stage.PRIMARY, idle.of(sheet.carburetor(), Stage.PRIMARY) + 1.0);
        assertThat(four.rms(thick).get(Regime.IDLE)).isGreaterThan(0.05 + four.rms(sheet).get(Regime.IDLE));
        assertThat(four.rms(thick).get(Regime.FULL)).isCloseTo(four.rms(sheet).get(Regime.FULL), within(0.005));
    }

    @Test
    public void leakLeansTheIdleMost() {
        AlteredFault leak = new AlteredFault(Fault.VACUUM_LEAK, 0.12, 0.0);
        DriveLog log = new AlteredEngine(sound, 3, Optional.of(leak)).log(sound.sheet());
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
