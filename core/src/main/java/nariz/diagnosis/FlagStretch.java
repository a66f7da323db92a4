package nariz.diagnosis;

import java.util.ArrayList;
import java.util.List;
import nariz.estimation.Flag;
import nariz.estimation.Observation;
import nariz.log.DriveLog;

/**
 * A stretch of the log that does not count, and why.
 *
 * @param kind why
 * @param fromS start, s
 * @param toS end, s
 * @param share share of the log's time
 */
public record FlagStretch(Flag kind, double fromS, double toS, double share) {
    /**
     * Stretches of a drive that do not count.
     *
     * @param o observation
     * @return stretches in order of time
     */
    public static List<FlagStretch> of(Observation o) {
        DriveLog log = o.log();
        List<FlagStretch> out = new ArrayList<>();
        double[] t = log.timeS();
        double all = Math.max(log.durationS(), 1e-9);
        int from = 0;
        for (int i = 1; i <= log.size(); i++) {
            if (i == log.size() || o.flag(i) != o.flag(from)) {
                double to = t[Math.min(i, log.size() - 1)];
                if (o.flag(from) != Flag.STEADY && to > t[from]) {
                    out.add(new FlagStretch(o.flag(from), t[from], to, (to - t[from]) / all));
                }
                from = i;
            }
        }
        return out;
    }
}
