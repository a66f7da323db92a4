package nariz.workbook;

import java.io.IOException;
import java.io.Writer;
import java.util.ArrayList;
import java.util.List;
import nariz.log.Channel;
import nariz.log.ColumnPlan;
import nariz.log.Plan;
import nariz.log.Recording;
import nariz.log.Scale;

/**
 * A run as CSV: names, a row of units, readings. A channel that came in a unit this program knows goes out as it came,
 * digit for digit; one that was converted from volts or the like goes out in its channel's first unit.
 */
final class RunCsv {
    private RunCsv() {
    }

    /** How a column is written: scale from SI, or none where it goes out as it came. */
    private record Out(Channel channel, Channel.Unit unit, boolean asItCame) {
        static Out of(Plan plan, Channel c) {
            ColumnPlan p = plan.column(c).orElse(null);
            boolean known = p != null && p.scale() instanceof Scale.Linear l
                    && c.unit(p.unit()).filter(u -> u.factor() == l.factor() && u.shift() == l.shift()).isPresent();
            return c == Channel.TIME ? new Out(c, c.units().getFirst(), true)
                    : new Out(c, known && p != null ? c.unit(p.unit()).orElseThrow() : c.units().getFirst(), known);
        }

        double[] values(Recording r) {
            double[] v = asItCame ? r.written(channel) : r.si(channel);
            if (!asItCame) {
                for (int i = 0; i < v.length; i++) {
                    v[i] = (v[i] - unit.shift()) / unit.factor();
                }
            }
            return v;
        }
    }

    /** Writes rows with fromS &lt;= time &lt;= toS. */
    static void write(Recording r, double fromS, double toS, Writer w) throws IOException {
        List<Out> columns = new ArrayList<>();
        List<double[]> values = new ArrayList<>();
        for (Channel c : r.channels()) {
            Out o = Out.of(r.plan(), c);
            columns.add(o);
            values.add(o.values(r));
        }
        w.write(String.join(",", columns.stream().map(o -> o.channel().key()).toList()) + "\n");
        w.write(String.join(",", columns.stream().map(o -> o.unit().name()).toList()) + "\n");
        double[] t = r.written(Channel.TIME);
        StringBuilder line = new StringBuilder();
        for (int i = 0; i < t.length; i++) {
            if (t[i] >= fromS && t[i] <= toS) {
                line.setLength(0);
                for (double[] v : values) {
                    line.append(text(v[i])).append(',');
                }
                line.setCharAt(line.length() - 1, '\n');
                w.append(line);
            }
        }
    }

    /** Shortest decimal that reads back as the same number; whole numbers without a point. */
    static String text(double v) {
        if (Double.isNaN(v)) {
            return "";
        }
        long whole = (long) v;
        return whole == v && Math.abs(v) < 1e15 && (whole != 0 || 1 / v > 0) ? Long.toString(whole) : Double.toString(
                v);
    }

    /** Unit names in the order of the columns. */
    static List<String> units(Recording r) {
        return r.channels().stream().map(c -> Out.of(r.plan(), c).unit().name()).toList();
    }
}
