package nariz.exam;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Carburetor;
import nariz.carburetor.Circuit;
import nariz.carburetor.Stage;
import nariz.family.metered.MeteredParts;
import nariz.log.Channel;
import nariz.log.DriveLog;
import nariz.sim.DemoDrive;
import nariz.sim.DriveScript;
import nariz.sim.EngineSimulator;
import nariz.sim.SimulatedDrive;
import nariz.units.Units;

/** Writes drives as a simulator that is not part of this project would. */
final class ReferenceFolder {
    private ReferenceFolder() {
    }

    /** The demo's car as another program would write it down: sound, or with its idle feed too large. */
    static void write(Path folder, String stem, boolean wrong) throws IOException {
        BuildSheet sheet = MeteredParts.IDLE_FEED_RESTRICTION.fit(MeteredParts.POWER_VALVE_RATING.fit(DemoDrive.sheet(),
                Stage.PRIMARY, 6.5), Stage.PRIMARY, wrong ? 37 : 34);
        SimulatedDrive drive = new EngineSimulator(sheet, DemoDrive.SEED, Map.of(), 5).drive(
                DriveScript.twelveMinutes(), 10, stem);
        DriveLog log = drive.log();
        StringBuilder csv = new StringBuilder("time_s,rpm,vacuum_inHg,afr,tps_pct\n");
        StringBuilder inside = new StringBuilder("t,rpm,vac,lam,th_p,air,idle_p,main_p,idle_s,main_s,pump\n");
        for (int i = 0; i < log.size(); i++) {
            csv.append(String.format(Locale.ROOT, "%.3f,%.0f,%.2f,%s,%.1f%n", log.timeS()[i], log.rpm()[i],
                    log.vacuumPa()[i] / Units.INHG, Double.isNaN(log.lambda()[i]) ? ""
                    : String.format(Locale.ROOT, "%.2f", 14.7 * log.lambda()[i]),
                    100 * log.values(Channel.THROTTLE)[i]));
            if (i % 2 == 0) {
                inside.append(inside(sheet, drive, i));
            }
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

    /** Air as the model has it, by which leaks are measured. */
    private static String inside(BuildSheet sheet, SimulatedDrive d, int i) {
        DriveLog log = d.log();
        double air = sheet.carburetor().family().model(sheet).airKgPerS(Math.max(300.0, log.rpm()[i]), sheet.ambient()
                .pressurePa() - log.vacuumPa()[i]);
        double perPhi = air / sheet.fuel().stoichAfr();
        double[] fuel = new double[5];
        for (Circuit c : sheet.carburetor().family().circuits()) {
            int at = c.role() == Circuit.Role.PUMP ? 4 : (c.stage() == Stage.PRIMARY ? 0 : 2) + (c.lowSpeed() ? 0 : 1);
            fuel[at] += perPhi * d.truePhi()[c.index()][i];
        }
        double plateDeg = 4 + 80 * log.values(Channel.THROTTLE)[i];
        return String.format(Locale.ROOT, "%.3f,%.0f,%.2f,%.4f,%.3f,%.6f,%.8f,%.8f,%.8f,%.8f,%.8f%n", log.timeS()[i],
                log.rpm()[i], log.vacuumPa()[i] / Units.INHG, d.trueLambda()[i], plateDeg, air, fuel[0],
                fuel[1], fuel[2], fuel[3], fuel[4]);
    }
}
