package nariz.exam;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Carburetor;
import nariz.carburetor.Stage;
import nariz.family.metered.MeteredParts;
import nariz.log.Channel;
import nariz.log.DriveLog;
import nariz.sim.DemoDrive;
import nariz.sim.DriveScript;
import nariz.sim.EngineSimulator;
import nariz.units.Units;
import org.testng.annotations.Test;

/** docs/accuracy.md has the figures; this guards the examination itself, and against a collapse. */
public class AccuracyTest {
    @Test
    public void fiveCasesAreExaminedAndMostlyRight() {
        List<String> lines = new ArrayList<>();
        Accuracy.report(PracticeCase::of, 1, 5, lines::add, done -> assertThat(done).isBetween(0.0, 1.0));
        assertThat(lines).anyMatch(l -> l.startsWith("| worst error blamed"));
        List<String> rows = lines.stream().filter(l -> l.matches("\\| [1-5] \\|.*")).toList();
        assertThat(rows).hasSize(5);
        assertThat(rows.stream().filter(r -> !r.contains("NOT RIGHT")).count()).isGreaterThanOrEqualTo(3);
    }

    @Test
    public void caseIsTheSameEveryTimeAndItsErrorsAreFelt() {
        PracticeCase a = PracticeCase.of(2);
        PracticeCase b = PracticeCase.of(2);
        assertThat(a.errors()).isEqualTo(b.errors()).isNotEmpty();
        assertThat(a.healthy()).isEqualTo(b.healthy());
        for (PracticeCase.Misfit e : a.errors()) {
            assertThat(e.part().of(a.fitted().carburetor(), e.side())).isEqualTo(e.fitted());
            assertThat(e.healthy()).isNotEqualTo(e.fitted());
        }
    }

    @Test
    public void strangersComeAsPartsFaultsAndSoundEnginesByTurns() {
        PracticeCase parts = PracticeCase.stranger(3);
        assertThat(parts.stranger()).isTrue();
        assertThat(parts.errors()).isNotEmpty();
        assertThat(parts.faults()).isEmpty();
        PracticeCase fault = PracticeCase.stranger(1);
        assertThat(fault.errors()).isEmpty();
        assertThat(fault.faults()).hasSize(1);
        PracticeCase sound = PracticeCase.stranger(2);
        assertThat(sound.errors()).isEmpty();
        assertThat(sound.faults()).isEmpty();
        assertThat(sound.fitted()).isEqualTo(sound.healthy());
    }

    @Test
    public void drivesOfAnotherSimulatorAreJudgedByHalvesOfTheirEngines() throws IOException {
        Path folder = Files.createTempDirectory("reference");
        for (String stem : List.of("v01-0", "v02-1")) {
            writeReference(folder, stem, stem.endsWith("1"));
        }
        List<String> lines = new ArrayList<>();
        ReferenceReport.write(ReferenceDrive.all(folder), lines::add);
        assertThat(lines).contains("| first half of the engines | result |", "| second half | result |")
                .anyMatch(l -> l.startsWith("| fuel parts for a sound engine | 0 of 1"))
                .anyMatch(l -> l.startsWith("| engines out of tune: right circuit in the first answer | ")
                        && l.endsWith(" of 1 |"))
                .anyMatch(l -> l.startsWith("| v02-1 | pri_ifr 37 for 34 | "));
    }

    /** The demo's car as another program would write it down: sound, or with its idle feed too large. */
    private static void writeReference(Path folder, String stem, boolean wrong) throws IOException {
        BuildSheet sheet = MeteredParts.IDLE_FEED_RESTRICTION.fit(MeteredParts.POWER_VALVE_RATING.fit(DemoDrive.sheet(),
                Stage.PRIMARY, 6.5), Stage.PRIMARY, wrong ? 37 : 34);
        DriveLog log = new EngineSimulator(sheet, DemoDrive.SEED, Map.of(), 5).drive(DriveScript.twelveMinutes(), 10,
                stem).log();
        StringBuilder csv = new StringBuilder("time_s,rpm,vacuum_inHg,afr,tps_pct\n");
        StringBuilder inside = new StringBuilder("t,lam\n");
        for (int i = 0; i < log.size(); i++) {
            csv.append(String.format(Locale.ROOT, "%.3f,%.0f,%.2f,%s,%.1f%n", log.timeS()[i], log.rpm()[i],
                    log.vacuumPa()[i] / Units.INHG, Double.isNaN(log.lambda()[i]) ? ""
                    : String.format(Locale.ROOT, "%.2f", 14.7 * log.lambda()[i]),
                    100 * log.values(Channel.THROTTLE)[i]));
            inside.append(String.format(Locale.ROOT, "%.3f,%.4f%n", log.timeS()[i], 1.0));
        }
        Carburetor c = sheet.carburetor();
        Files.writeString(folder.resolve(stem + ".csv"), csv);
        Files.writeString(folder.resolve(stem + ".inside.csv"), inside);
        StringBuilder sides = new StringBuilder();
        for (String p : List.of("pri", "sec")) {
            String at = (p.equals("pri") ? Stage.PRIMARY : Stage.SECONDARY).key() + ".";
            sides.append(String.format(Locale.ROOT, """
                    "n_%1$s": 2, "%1$s_bore_mm": %2$.2f, "%1$s_venturi_mm": %3$.2f, "%1$s_booster": "%4$s",
                    "%1$s_jet": %5$.0f, "%1$s_hsab": %6$.0f, "%1$s_ifr": %7$.0f, "%1$s_iab": %8$.0f,
                    "%1$s_screw": %9$.3f,
                    """, p, 1e3 * c.number(at + "bore"), 1e3 * c.number(at + "venturi"), c.word(at + "booster"),
                    c.number(at + "mainJet") / Units.THOU, c.number(at + "highSpeedAirBleed") / Units.THOU,
                    c.number(at + "idleFeedRestriction") / Units.THOU, c.number(at + "idleAirBleed") / Units.THOU,
                    c.number(at + "mixtureScrew")));
        }
        Files.writeString(folder.resolve(stem + ".sheet.json"), "{" + sides + String.format(Locale.ROOT, """
                "pri_pv": %.1f, "pri_pvcr": %.0f, "sec_type": "mechanical", "sec_open_deg": %.1f, "sec_stop_deg": 0.5,
                "pump_nozzle": 35, "pump_cc10": 30, "pump_cam": "standard", "plate_hole_mm": 0.0, "family": "F1",
                "altitude_kpa": %.2f, "engine": {"disp_l": %.2f, "cyl": %d, "compression": %.1f, "cam": "%s",
                "idle_rpm": %.0f, "redline": %.0f, "manifold": "single", "vac_advance": true,
                "transmission": "manual"}}""", c.number("primary.powerValve") / Units.INHG,
                c.number("primary.powerChannelRestriction") / Units.THOU,
                c.number("secondaryOpening.start") / Units.DEG, sheet.ambient().pressurePa() / 1e3,
                1e3 * sheet.engine().displacementM3(), sheet.engine().cylinders(), sheet.engine().compression(),
                sheet.engine().cam().name().toLowerCase(Locale.ROOT), sheet.engine().idleRpm(),
                sheet.engine().redlineRpm()));
        String off = wrong ? "-12" : "1";
        Files.writeString(folder.resolve(stem + ".answer.json"), """
                {"kind": "x", "hidden": [%s],
                 "regimes": {"idle": {"n": 1000, "mean_pct": %s, "rms_pct": %s}, "wot": {"n": 0}},
                 "healthyRms": {"idle": 2.0}}""".formatted(wrong
                ? "{\"part\": \"pri_ifr\", \"healthy\": 34, \"fitted\": 37}" : "", off, off.replace("-", "")));
    }
}
