package nariz.bench;

import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import nariz.log.Channel;
import nariz.log.DriveLog;
import nariz.sim.DemoDrive;
import nariz.sim.DriveScript;
import nariz.sim.EngineSimulator;

/** The demo's drive at 50 Hz, over and over until it is long enough. */
final class Logs {
    private Logs() {
    }

    static DriveLog ofSamples(int samples) {
        DriveLog one = new EngineSimulator(DemoDrive.sheet(), DemoDrive.SEED, Map.of(), 1)
                .drive(DriveScript.twelveMinutes(), 50, "bench").log();
        double lap = one.durationS() + 0.02;
        Map<Channel, double[]> channels = new EnumMap<>(Channel.class);
        for (Channel c : one.recorded()) {
            double[] from = one.values(c);
            double[] to = new double[samples];
            for (int i = 0; i < samples; i++) {
                to[i] = from[i % from.length] + (c == Channel.TIME ? lap * (i / from.length) : 0.0);
            }
            channels.put(c, to);
        }
        return new DriveLog("bench", channels, List.of(), 0);
    }
}
