package nariz.app;

import java.util.Map;
import nariz.carburetor.BuildSheet;
import nariz.log.DriveLog;
import nariz.sim.DemoDrive;
import nariz.sim.DriveScript;
import nariz.sim.EngineSimulator;
import nariz.units.Units;

/** The demo's car, its mixtures right, with slack at the pump's arm that is likely by its openings and not sure. */
public final class LooseArm {
    private static final double SLACK_RAD = 11.5 * Units.DEG;

    private LooseArm() {
    }

    /** {@return the sheet} */
    public static String sheetJson() {
        return DemoDrive.sheetJson().replace("37 thou", "34 thou").replace("3.5 inHg", "6.5 inHg");
    }

    /**
     * Drives it, with openings of the throttle.
     *
     * @param sheet the sheet, read
     * @return log
     */
    public static DriveLog log(BuildSheet sheet) {
        return new EngineSimulator(sheet, DemoDrive.SEED, Map.of(), 3).withPump(sheet.carburetor().family().pumpSetting(
                sheet).orElseThrow().scaled(1.0, 1.0, SLACK_RAD, 0.3)).drive(DriveScript.twelveMinutes().then(
                DriveScript.openings()), 20, "slack").log();
    }
}
