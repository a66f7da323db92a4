package nariz.exam;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import nariz.diagnosis.Regime;
import nariz.flow.CompressibleFlow;
import nariz.log.DriveLog;
import nariz.sim.Fault;
import nariz.units.Units;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/** Faults put into drives that hide nothing. */
public class FaultsExamTest {
    private List<ReferenceDrive> drives = List.of();
    private ReferenceDrive sound;

    @BeforeClass
    public void aSoundDrive() throws IOException {
        Path folder = Files.createTempDirectory("faults");
        ReferenceFolder.write(folder, "v01-0", false);
        drives = ReferenceDrive.all(folder);
        sound = drives.getFirst();
    }

    private AlteredEngine with(AlteredFault fault) {
        return new AlteredEngine(sound, 3, Optional.of(fault));
    }

    @Test
    public void leakIntoTheExhaustIsReadAndNotBurnt() {
        AlteredEngine engine = with(new AlteredFault(Fault.EXHAUST_LEAK, 0.1, 1.5));
        assertThat(engine.rms(sound.sheet())).isEqualTo(new AlteredEngine(sound, 3, Optional.empty()).rms(sound
                .sheet()));
        DriveLog log = engine.log(sound.sheet());
        assertThat(leaner(log, 55e3, 70e3)).isBetween(0.05, 0.1);
        assertThat(leaner(log, 0.0, 4e3)).isBetween(0.0, 0.01);
    }

    @Test
    public void leakReadsItsSizeAtIdleAndFadesByItsPower() {
        AlteredFault leak = new AlteredFault(Fault.EXHAUST_LEAK, 0.2, 1.5);
        assertThat(leak.reads(1.0)).isEqualTo(1.2, within(1e-12));
        assertThat(leak.reads(0.8)).isEqualTo(1.2, within(1e-12));
        assertThat(leak.reads(4.0)).isEqualTo(1.0 + 0.2 / 8, within(1e-12));
    }

    @Test
    public void leakIntoTheManifoldPassesItsShareOfTheIdlesAir() {
        AlteredFault leak = new AlteredFault(Fault.VACUUM_LEAK, 0.15, 0.0);
        double holes = leak.holes(0.01, 1e5, 298.0, 4e4);
        assertThat(holes * 0.7 * Units.holeArea(4e-3) * CompressibleFlow.flux(1e5, 298.0, 4e4)).isEqualTo(0.0015,
                within(1e-9));
        assertThat(with(leak).rms(sound.sheet()).get(Regime.IDLE)).isGreaterThan(0.05);
    }

    @Test
    public void venturiIsRicherAtAnyAirflowAndAPistonAsTheCleanersDropGrows() {
        AlteredFault cleaner = new AlteredFault(Fault.AIR_CLEANER, 0.08, 1000.0);
        assertThat(cleaner.main(false, 0.2)).isEqualTo(cleaner.main(false, 1.0)).isEqualTo(1.08);
        assertThat(cleaner.main(true, 1.0)).isEqualTo(Math.sqrt(1.5), within(1e-12));
        assertThat(cleaner.main(true, 0.1)).isEqualTo(1.0025, within(1e-4));
        assertThat(cleaner.vacuumPa(0.5)).isEqualTo(250.0, within(1e-9));
    }

    @Test
    public void cleanerLeavesVacuumWideOpenAndRichensTheTop() {
        DriveLog log = with(new AlteredFault(Fault.AIR_CLEANER, 0.08, 2000.0)).log(sound.sheet());
        assertThat(leaner(log, 0.0, 4e3)).isBetween(-0.09, -0.04);
        assertThat(leaner(log, 55e3, 70e3)).isBetween(-0.03, 0.0);
        double[] more = new double[log.size()];
        for (int i = 0; i < more.length; i++) {
            more[i] = log.vacuumPa()[i] - sound.log().vacuumPa()[i];
        }
        assertThat(Arrays.stream(more).max().orElseThrow()).isBetween(1500.0, 2000.0);
        assertThat(Arrays.stream(more).min().orElseThrow()).isBetween(0.0, 50.0);
    }

    @Test
    public void bowlThatIsFilledTooSlowlyEndsAtWhatThePumpPasses() {
        AlteredFault supply = new AlteredFault(Fault.FALLING_FUEL_LEVEL, 0.5, 1e-4);
        double[] t = new double[2000];
        double[] demand = new double[t.length];
        for (int i = 0; i < t.length; i++) {
            t[i] = 0.1 * i;
            demand[i] = t[i] > 50 && t[i] < 150 ? 0.01 : 0.001;
        }
        double[] comes = supply.supplied(t, demand);
        assertThat(comes[400]).isEqualTo(1.0);
        // 50 cc down to half, which a shortfall of 5 g/s takes 7 s for; after that what flows in flows out.
        assertThat(comes[520]).isEqualTo(1.0);
        assertThat(comes[1490] * 0.01).isEqualTo(0.5 * 0.01, within(1e-5));
        assertThat(comes[1999]).isEqualTo(1.0);
        assertThat(new AlteredFault(Fault.AIR_CLEANER, 0.1, 1e3).supplied(t, demand)).containsOnly(1.0);
    }

    @Test
    public void everyKindIsDrawnWithinWhatItIsWorthLookingFor() {
        for (Fault kind : AlteredFault.KINDS) {
            for (int i = 0; i < 50; i++) {
                assertThat(AlteredFault.draw(new Random(i), kind, i % 2 == 0).size()).isBetween(0.04, 0.7);
            }
        }
        assertThatThrownBy(() -> AlteredFault.draw(new Random(1), Fault.MISFIRE, false)).isInstanceOf(
                IllegalArgumentException.class).hasMessage("found MISFIRE. No drive is altered by it.");
    }

    @Test
    public void everyFaultIsAskedAboutAndCountedOnce() {
        List<String> lines = new ArrayList<>();
        FaultsExam.report(drives, 4, 5, lines::add, done -> assertThat(done).isBetween(0.0, 1.0));
        assertThat(lines.get(0)).startsWith("| hidden | among the first two named");
        assertThat(lines.subList(2, 7)).extracting(l -> l.split("\\|")[1].trim()).containsExactly("exhaust leak",
                "vacuum leak", "air cleaner", "falling fuel level", "all");
        List<String> rows = lines.stream().filter(l -> l.startsWith("| v01-0 |")).toList();
        assertThat(rows).hasSize(4);
        long right = rows.stream().filter(l -> l.endsWith("| right |")).count();
        assertThat(right).isPositive();
        assertThat(lines.get(6)).contains("| " + right + " of ");
    }

    /** Mean of ln lambda over what was recorded, in a range of vacuum. */
    private double leaner(DriveLog log, double fromPa, double toPa) {
        double sum = 0;
        int n = 0;
        for (int i = 0; i < log.size(); i++) {
            double d = Math.log(log.lambda()[i] / sound.log().lambda()[i]);
            if (sound.log().vacuumPa()[i] > fromPa && sound.log().vacuumPa()[i] < toPa && !Double.isNaN(d)) {
                sum += d;
                n++;
            }
        }
        assertThat(n).isGreaterThan(20);
        return sum / n;
    }
}
