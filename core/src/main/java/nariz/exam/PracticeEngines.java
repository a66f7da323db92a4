package nariz.exam;

import java.util.List;
import java.util.Locale;
import java.util.Random;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;

/** Made-up engines with carburetors of one family, as they come: sizes are the family's, chosen for the engine. */
final class PracticeEngines {
    private PracticeEngines() {
    }

    /** Draws an engine of a family that is neither a four-barrel nor a two-barrel with metering blocks. */
    static BuildSheet of(String family, Random r) {
        return switch (family) {
            case "stack-jet" -> stack(r);
            case "constant-depression" -> sheet(r, family, 0.9 + 1.9 * r.nextDouble(), 0, "mild", "mild", "medium");
            case "progressive-twin" -> sheet(r, family, 1.1 + 1.7 * r.nextDouble(), 1, "mild", "mild", "medium");
            case "single-venturi" -> sheet(r, family, 0.8 + 1.1 * r.nextDouble(), 1, "mild", "mild", "medium");
            default -> throw new IllegalArgumentException("no practice engines with " + family);
        };
    }

    /** One barrel a cylinder, in bodies of two or three. */
    private static BuildSheet stack(Random r) {
        int cylinders = r.nextBoolean() ? 4 : 6;
        int barrels = cylinders == 6 && r.nextInt(3) == 0 ? 3 : 2;
        double litres = Math.rint(10 * (cylinders == 4 ? 1.3 + 1.0 * r.nextDouble() : 2.0 + 1.5 * r.nextDouble())) / 10;
        return engine(r, "stack-jet", litres, cylinders, 5750 + 250 * r.nextInt(6), List.of("mild", "medium", "medium",
                "big").get(r.nextInt(4)), cylinders / barrels, "\"barrels\": " + barrels + ", ", holes(r));
    }

    /** Holes as they are drilled: sizes and heights differ from casting to casting. */
    private static String holes(Random r) {
        double size = 0.8 + 0.05 * r.nextInt(6);
        double low = 0.45 + 0.3 * r.nextDouble();
        return String.format(Locale.ROOT,
                "\"progressionHoles\": [{\"diameter\": \"%.2f mm\", \"height\": \"%.2f mm\"}, "
                + "{\"diameter\": \"%.2f mm\", \"height\": \"%.2f mm\"}, {\"diameter\": \"%.2f mm\", \"height\": "
                + "\"%.2f mm\"}]", size, low, 0.9 * size, low + 0.7, 0.7 * size, low + 1.6);
    }

    /** A count of 0 draws one to three by size. */
    private static BuildSheet sheet(Random r, String family, double litres, int count, String... cams) {
        double rounded = Math.rint(10 * litres) / 10;
        int many = count > 0 ? count : rounded < 1.3 ? 1 + r.nextInt(2) : rounded < 2.2 ? 2 : 2 + r.nextInt(2);
        return engine(r, family, rounded, rounded > 2.3 ? 6 : 4, 5000 + 250 * r.nextInt(5), cams[r.nextInt(
                cams.length)], many, "", "");
    }

    private static BuildSheet engine(Random r, String family, double litres, int cylinders, int redline, String cam,
            int count, String barrels, String primary) {
        int idle = "mild".equals(cam) ? 800 : "medium".equals(cam) ? 880 : 980;
        return BuildSheetReader.parse("practice", String.format(Locale.ROOT, """
                {"format": "nariz-build/1", "name": "practice",
                 "engine": {"displacement": "%.1f L", "cylinders": %d, "compression": %.1f, "cam": "%s",
                   "idleSpeed": "%d rpm", "redline": "%d rpm", "advance": "%s", "transmission": "manual"},
                 "ambient": {"pressure": "%.1f kPa", "temperature": "%d C"},
                 "carburetor": {"family": "%s", "count": %d, %s"primary": {%s}}}
                """, litres, cylinders, 8.5 + 1.5 * r.nextDouble(), cam, idle, redline,
                r.nextInt(3) == 0 ? "centrifugal" : "vacuum", 95 + 6.5 * r.nextDouble(), 5 + r.nextInt(25), family,
                count, barrels, primary));
    }
}
