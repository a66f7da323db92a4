package nariz.exam;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Circuit;
import nariz.carburetor.Coefficients;
import nariz.carburetor.Delivery;
import nariz.carburetor.DeliveryModel;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Strategy;
import nariz.estimation.Calibrated;
import nariz.estimation.Cell;
import nariz.flow.FlowCoefficient;
import nariz.sim.DemoDrive;
import nariz.sim.SimulatedDrive;
import nariz.units.Units;

/** The pictures of docs/model.md, drawn as SVG from the demo car, so that they cannot fall behind the model. */
public final class ModelPictures {
    private static final int WIDTH = 760;
    private static final int HEIGHT = 360;
    private static final int LEFT = 56;
    private static final int RIGHT = 120;
    private static final int TOP = 24;
    private static final int BOTTOM = 44;
    private static final int FAMILY = 40;
    private static final double RPM = 2600;
    private static final List<String> INKS = List.of("#b5762a", "#d9a95b", "#5d7f86", "#2f6f73", "#8a6d8f", "#55489c",
            "#999999");

    private ModelPictures() {
    }

    /** {@return SVG texts by file name} */
    public static Map<String, String> all() {
        SimulatedDrive drive = DemoDrive.drive();
        Analysis a = Analysis.of(DemoDrive.sheet(), drive.log(), Strategy.BALANCED);
        Map<String, String> out = new LinkedHashMap<>();
        out.put("circuits.svg", circuits());
        out.put("family.svg", family(a));
        out.put("pull.svg", pull(a, drive));
        return out;
    }

    /** Axes from x0 to x1 and y0 to y1; x may fall. */
    private record Plot(StringBuilder svg, double x0, double x1, double y0, double y1) {
        static Plot of(String title, String xLabel, String yLabel, double x0, double x1, double y0, double y1) {
            Plot p = new Plot(new StringBuilder(), x0, x1, y0, y1);
            p.svg.append(String.format(Locale.ROOT, "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 %d %d\" "
                    + "font-family=\"sans-serif\" font-size=\"12\">%n<title>%s</title>%n"
                    + "<rect width=\"100%%\" height=\"100%%\" fill=\"#fbfaf6\"/>%n", WIDTH, HEIGHT, title));
            p.text(0.5 * (LEFT + WIDTH - RIGHT), HEIGHT - 8, xLabel, "middle", "#444");
            p.svg.append(String.format(Locale.ROOT, "<text x=\"14\" y=\"%d\" fill=\"#444\" text-anchor=\"middle\" "
                    + "transform=\"rotate(-90 14 %d)\">%s</text>%n", HEIGHT / 2, HEIGHT / 2, yLabel));
            return p;
        }

        double x(double v) {
            return LEFT + (v - x0) / (x1 - x0) * (WIDTH - LEFT - RIGHT);
        }

        double y(double v) {
            return HEIGHT - BOTTOM - (v - y0) / (y1 - y0) * (HEIGHT - TOP - BOTTOM);
        }

        void text(double px, double py, String words, String anchor, String ink) {
            svg.append(String.format(Locale.ROOT, "<text x=\"%.0f\" y=\"%.0f\" fill=\"%s\" text-anchor=\"%s\">%s"
                    + "</text>%n", px, py, ink, anchor, words));
        }

        void grid(double[] xs, double[] ys, int decimals) {
            String f = "%." + decimals + "f";
            for (double v : xs) {
                line(List.of(new double[] {v, y0}, new double[] {v, y1}), "#e2ded2", 1, "");
                text(x(v), HEIGHT - BOTTOM + 16, String.format(Locale.ROOT, "%.0f", v), "middle", "#666");
            }
            for (double v : ys) {
                line(List.of(new double[] {x0, v}, new double[] {x1, v}), "#e2ded2", 1, "");
                text(LEFT - 6, y(v) + 4, String.format(Locale.ROOT, f, v), "end", "#666");
            }
        }

        void line(List<double[]> points, String ink, double width, String dash) {
            svg.append(String.format(Locale.ROOT, "<polyline fill=\"none\" stroke=\"%s\" stroke-width=\"%.1f\" "
                    + "stroke-dasharray=\"%s\" points=\"%s\"/>%n", ink, width, dash, path(points)));
        }

        void area(List<double[]> points, String ink) {
            svg.append(String.format(Locale.ROOT, "<polygon fill=\"%s\" points=\"%s\"/>%n", ink, path(points)));
        }

        void dot(double vx, double vy, double radius, String ink) {
            svg.append(String.format(Locale.ROOT, "<circle cx=\"%.1f\" cy=\"%.1f\" r=\"%.1f\" fill=\"%s\" "
                    + "fill-opacity=\"0.75\"/>%n", x(vx), y(vy), radius, ink));
        }

        private String path(List<double[]> points) {
            StringBuilder s = new StringBuilder();
            for (double[] p : points) {
                s.append(String.format(Locale.ROOT, "%.1f,%.1f ", x(p[0]), Math.clamp(y(p[1]), 0.0, HEIGHT)));
            }
            return s.toString().trim();
        }

        String done() {
            return svg.append("</svg>\n").toString();
        }
    }

    private static double[] phi(BuildSheet sheet, Coefficients made, double rpm, double inHg) {
        DeliveryModel model = sheet.carburetor().family().model(sheet, 0.0, made);
        Delivery flow = model.newDelivery();
        model.evaluate(rpm, inHg * Units.INHG, flow);
        List<Circuit> circuits = sheet.carburetor().family().circuits();
        double[] out = new double[circuits.size()];
        for (Circuit c : circuits) {
            out[c.index()] = flow.phi(c);
        }
        return out;
    }

    private static String circuits() {
        Plot p = Plot.of("Which circuit delivers", "manifold vacuum, inHg (load rises to the right), at 2600 rpm",
                "phi = 1/lambda", 20, 0.4, 0, 1.3);
        double[] below = new double[200];
        for (Circuit c : DemoDrive.sheet().carburetor().family().circuits()) {
            List<double[]> edge = new ArrayList<>();
            List<double[]> back = new ArrayList<>();
            double most = 0;
            for (int i = 0; i < below.length; i++) {
                double v = 20 - 19.6 * i / (below.length - 1);
                double mine = phi(DemoDrive.sheet(), FlowCoefficient.STANDARD, RPM, v)[c.index()];
                most = Math.max(most, mine);
                back.addFirst(new double[] {v, below[i]});
                below[i] += mine;
                edge.add(new double[] {v, below[i]});
            }
            if (most > 0.01) {
                edge.addAll(back);
                p.area(edge, INKS.get(c.index()));
                p.text(WIDTH - RIGHT + 8, TOP + 18 * (7 - c.index()), c.label().toString(), "start",
                        INKS.get(c.index()));
            }
        }
        p.grid(new double[] {20, 15, 10, 5}, new double[] {0, 0.5, 1.0}, 1);
        return p.done();
    }

    private static double sum(double[] v) {
        double s = 0;
        for (double x : v) {
            s += x;
        }
        return s;
    }

    private static String family(Analysis a) {
        Plot p = Plot.of("A family of carburetors, and this one", "manifold vacuum, inHg, at 2600 rpm",
                "phi = 1/lambda", 20, 0.4, 0.7, 1.4);
        p.grid(new double[] {20, 15, 10, 5}, new double[] {0.8, 1.0, 1.2}, 1);
        Random r = new Random(4);
        for (int n = 0; n <= FAMILY; n++) {
            Coefficients made = n == FAMILY ? FlowCoefficient.STANDARD : FlowCoefficient.STANDARD.drawn(
                    DemoDrive.sheet().carburetor().family().coefficients(), r, 1.0);
            List<double[]> line = new ArrayList<>();
            for (double v = 20; v > 0.4; v -= 0.25) {
                line.add(new double[] {v, sum(phi(DemoDrive.sheet(), made, RPM, v))});
            }
            p.line(line, n == FAMILY ? "#888" : "#d5cfbf", n == FAMILY ? 2 : 0.8, n == FAMILY ? "6 4" : "");
        }
        Calibrated found = a.estimate().carburetor();
        DeliveryModel model = found.model(DemoDrive.sheet());
        Delivery flow = model.newDelivery();
        List<double[]> mine = new ArrayList<>();
        for (double v = 20; v > 0.4; v -= 0.25) {
            double pa = v * Units.INHG;
            double air = model.airKgPerS(RPM, DemoDrive.sheet().ambient().pressurePa() - pa);
            model.evaluate(RPM, pa, Math.max(0, model.angleFor(air, pa) + found.plateRad()), flow);
            double total = 0;
            for (Circuit c : DemoDrive.sheet().carburetor().family().circuits()) {
                total += a.estimate().level(c) * flow.phi(c);
            }
            mine.add(new double[] {v, total});
        }
        p.line(mine, "#0b6a70", 3, "");
        for (Cell c : a.estimate().cells()) {
            if (Math.abs(Math.log(c.rpm() / RPM)) < 0.3) {
                p.dot(c.vacuumPa() / Units.INHG, c.phi(), 2 + Math.min(5, Math.sqrt(c.dwellS())), "#b5762a");
            }
        }
        p.text(WIDTH - RIGHT + 8, 60, "family", "start", "#a59d88");
        p.text(WIDTH - RIGHT + 8, 80, "standard", "start", "#777");
        p.text(WIDTH - RIGHT + 8, 100, "found", "start", "#0b6a70");
        p.text(WIDTH - RIGHT + 8, 120, "readings", "start", "#b5762a");
        return p.done();
    }

    private static String pull(Analysis a, SimulatedDrive d) {
        double[] t = d.log().timeS();
        int start = 0;
        for (int i = 0; i < t.length - 300; i++) {
            if (d.log().vacuumPa()[i] < Units.INHG && d.log().vacuumPa()[i + 100] < Units.INHG) {
                start = i - 20;
                break;
            }
        }
        Plot p = Plot.of("A full-throttle pull", "seconds", "lambda", 0, 8, 0.75, 1.25);
        p.grid(new double[] {0, 2, 4, 6, 8}, new double[] {0.8, 0.9, 1.0, 1.1, 1.2}, 1);
        List<double[]> metered = new ArrayList<>();
        List<double[]> burnt = new ArrayList<>();
        List<double[]> read = new ArrayList<>();
        for (int i = start; i < start + 160; i++) {
            double x = t[i] - t[start];
            double phi = 0;
            for (double[] c : d.truePhi()) {
                phi += c[i];
            }
            metered.add(new double[] {x, Math.clamp(1 / phi, 0.75, 1.25)});
            burnt.add(new double[] {x, Math.clamp(d.trueLambda()[i], 0.75, 1.25)});
            if (!Double.isNaN(d.log().lambda()[i])) {
                read.add(new double[] {x, Math.clamp(d.log().lambda()[i], 0.75, 1.25)});
            }
            if (a.observation().cellOf(i) >= 0) {
                p.dot(x, 0.77, 2, "#5d7f86");
            }
        }
        p.line(metered, "#b5762a", 2, "6 4");
        p.line(burnt, "#0b6a70", 2, "");
        p.line(read, "#333", 1, "");
        p.text(WIDTH - RIGHT + 8, 60, "metered", "start", "#b5762a");
        p.text(WIDTH - RIGHT + 8, 80, "burnt", "start", "#0b6a70");
        p.text(WIDTH - RIGHT + 8, 100, "read", "start", "#333");
        p.text(WIDTH - RIGHT + 8, 120, "counts as steady", "start", "#5d7f86");
        return p.done();
    }
}
