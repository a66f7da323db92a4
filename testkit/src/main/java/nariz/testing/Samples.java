package nariz.testing;

import java.util.Locale;
import java.util.Random;

/** A small good build sheet and a small good log, to be used as they are or spoiled. */
public final class Samples {
    private Samples() {
    }

    /** {@return a complete build sheet, one field a line} */
    public static String sheet() {
        return """
                {
                  "format": "nariz-build/1",
                  "name": "test six",
                  "engine": {
                    "displacement": "3.8 L",
                    "cylinders": 6,
                    "compression": 9.4,
                    "cam": "medium",
                    "idleSpeed": "820 rpm",
                    "redline": "5600 rpm",
                    "advance": "vacuum",
                    "transmission": "manual"
                  },
                  "fuel": { "name": "petrol", "stoichAfr": 14.7, "density": "745 kg/m3" },
                  "ambient": { "pressure": "98.6 kPa", "temperature": "17 C" },
                  "carburetor": {
                    "family": "block-metered-4",
                    "primary": {
                      "bores": 2,
                      "bore": "39.5 mm",
                      "venturi": "28.5 mm",
                      "booster": "downleg",
                      "mainJet": "61 thou",
                      "highSpeedAirBleed": "32 thou",
                      "idleFeedRestriction": "34 thou",
                      "idleAirBleed": "78 thou",
                      "mixtureScrew": "2.375 turns",
                      "powerValve": "6.5 inHg",
                      "powerChannelRestriction": "28 thou"
                    },
                    "secondary": {
                      "bores": 2,
                      "bore": "39.5 mm",
                      "venturi": "29.5 mm",
                      "mainJet": "74 thou",
                      "powerValve": "plugged"
                    }
                  }
                }
                """;
    }

    /**
     * A short drive: idle, three cruises and a pull, AFR about right.
     *
     * @param header first line, with its line end
     * @param separator between fields
     * @return the log as text: time s, rpm, vacuum inHg, AFR, at 10 Hz for 100 s
     */
    public static String log(String header, char separator) {
        StringBuilder s = new StringBuilder(header);
        Random r = new Random(5);
        for (int i = 0; i < 1000; i++) {
            int leg = i / 200;
            double rpm = new double[] {820, 1700, 2300, 2900, 3400}[leg] + 8 * r.nextGaussian();
            double vacuum = new double[] {18, 18.5, 16, 12, 1.2}[leg] + 0.05 * r.nextGaussian();
            double afr = new double[] {14.0, 15.0, 14.9, 14.6, 12.9}[leg] + 0.08 * r.nextGaussian();
            s.append(String.format(Locale.ROOT, "%.1f%c%.0f%c%.2f%c%.2f%n", i * 0.1, separator, rpm, separator,
                    vacuum, separator, afr).replace(System.lineSeparator(), "\n"));
        }
        return s.toString();
    }

    /** {@return the short drive with this program's own header} */
    public static String log() {
        return log("time_s,rpm,vacuum_inHg,afr\n", ',');
    }
}
