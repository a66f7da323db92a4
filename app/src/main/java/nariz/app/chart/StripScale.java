package nariz.app.chart;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import nariz.app.state.MixtureUnit;
import nariz.app.state.Strips;

/**
 * Numbers of the strips of a trace in the units they are read in.
 *
 * @param unit unit of mixtures
 */
record StripScale(MixtureUnit unit) {
    private static final double LEAST_BETWEEN_MARKS = 17;
    /** Marks nearer than this to a strip's edge would run into its neighbour's, px. */
    private static final double EDGE = 5;

    /** A reading of a strip as it is read out. */
    String number(Strips.Strip s, double v) {
        return s.mixture() ? unit.text(v) : Double.isNaN(v) ? "–"
                : String.format(Locale.ROOT, "%." + s.decimals() + "f", s.shown(v));
    }

    /** How much one SI unit of a strip is in what is read out. */
    double scale(Strips.Strip s) {
        return s.mixture() ? unit.scale() : s.shown(1) - s.shown(0);
    }

    /** Round numbers of a strip's scale, as many as stand clear of each other; one at least where there is room. */
    List<double[]> marks(Strips.Strip s, double height) {
        int most = (int) Math.max(1, height / LEAST_BETWEEN_MARKS);
        for (int finer = 0; finer < 4; finer++) {
            List<double[]> out = marks(s, height, most + finer);
            if (!out.isEmpty()) {
                return out.size() > most ? out.subList(out.size() / 2, out.size() / 2 + 1) : out;
            }
        }
        return List.of();
    }

    /** Shown number, SI value and step of each mark. */
    private List<double[]> marks(Strips.Strip s, double height, int most) {
        double scale = scale(s);
        double shift = s.mixture() ? 0 : s.shown(0);
        double low = s.low() * scale + shift;
        double high = s.high() * scale + shift;
        double step = Ticks.step(high - low, most);
        List<double[]> out = new ArrayList<>();
        for (long k = (long) Math.ceil(low / step); k * step <= high; k++) {
            double si = (k * step - shift) / scale;
            double at = (si - s.low()) / (s.high() - s.low()) * height;
            if (at > EDGE && at < height - EDGE) {
                out.add(new double[] {k * step, si, step});
            }
        }
        return out;
    }
}
