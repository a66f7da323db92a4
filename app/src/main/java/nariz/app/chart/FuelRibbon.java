package nariz.app.chart;

import static nariz.app.words.WindowWords.say;

import java.util.List;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;
import javafx.scene.text.TextAlignment;
import nariz.app.state.Drive;
import nariz.app.theme.Palette;
import nariz.carburetor.Circuit;
import nariz.estimation.Observation;

/** Which circuits deliver, as shares of the fuel along a drive. */
final class FuelRibbon {
    private final Drive d;
    /** What delivers steadily; the pump's shots are too short for a ribbon. */
    private final List<Circuit> ribbons;

    FuelRibbon(Drive drive) {
        d = drive;
        ribbons = d.sheet().carburetor().family().circuits().stream().filter(c -> c.role() != Circuit.Role.PUMP)
                .toList();
    }

    /** One pixel column after the other, each of the state in the middle of its samples. */
    void draw(Raster raster, Palette p, double top, double bottom, int[] first, int pw) {
        double[] phi = new double[ribbons.size()];
        for (int x = 0; x < pw; x++) {
            int i = Math.min((first[x] + first[x + 1]) / 2, d.log().size() - 1);
            double total = shares(i, phi);
            if (!(total > 0)) {
                continue;
            }
            double y = bottom;
            for (int k = 0; k < phi.length; k++) {
                double up = (bottom - top) * phi[k] / total;
                if (up > 0.3) {
                    raster.column(x, y - up, y, Raster.argb(shade(p, k)), 1);
                }
                y -= up;
            }
        }
    }

    /** Phi of every circuit in the state at a sample, as found; returns the sum. */
    private double shares(int i, double[] phi) {
        Observation o = d.analysis().observation();
        double total = 0;
        for (int k = 0; k < phi.length; k++) {
            Circuit c = ribbons.get(k);
            double f = d.analysis().estimated() ? d.analysis().estimate().correction(c) : 1.0;
            phi[k] = o.phi(c, i) * f;
            total += phi[k];
        }
        return total;
    }

    /** Circuits always stand in the same order from below; neighbours differ in lightness. */
    private static Color shade(Palette p, int k) {
        double[] dark = {0.0, 0.28, 0.06, 0.42, 0.16, 0.34};
        return p.fuel().interpolate(p.ink(), dark[k % dark.length]);
    }

    /** Shares at the cursor, the same colours as in the ribbon; at most four rows. */
    void legend(GraphicsContext g, Palette p, int cursor, double x, double top) {
        double[] phi = new double[ribbons.size()];
        double total = shares(cursor, phi);
        int row = 0;
        for (int k = 0; k < phi.length && total > 0; k++) {
            long percent = Math.round(100 * phi[k] / total);
            if (percent > 0 && row < 4) {
                double y = top + 6 + 11 * row++;
                g.setFill(shade(p, k));
                g.fillRect(x, y - 4, 9, 9);
                Picture.text(g, say(ribbons.get(k).label()) + " " + percent + " %", x + 14, y, 11, p.ink(),
                        TextAlignment.LEFT);
            }
        }
    }
}
