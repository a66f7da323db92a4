package nariz.carburetor;

import static nariz.text.Message.message;

import de.siegmar.fastcsv.reader.CsvRecord;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import nariz.text.Message;
import nariz.units.Dimension;

/**
 * Needles that can be had: a user's own table, one needle a line. The first line names the columns: the word "needle",
 * then one column a station with the unit in brackets once, for example "needle, 1 (thou), 2, 3"; an optional column
 * "spacing" gives the distance of stations with its unit.
 *
 * @param needles needles in the order of the table
 */
public record NeedleChart(List<Entry> needles) {
    /** A needle that is short by less than this reaches the station. */
    private static final double NEAR_M = 1e-6;
    private static final String NAME = "needle";
    private static final String SPACING = "spacing";

    /**
     * A needle of the table.
     *
     * @param name number or letters stamped on it
     * @param spacingM distance of stations, m; NaN where the table does not say
     * @param diametersM diameters from the shoulder, m
     */
    public record Entry(String name, double spacingM, List<Double> diametersM) {
        /** Copies the list. */
        public Entry {
            diametersM = List.copyOf(diametersM);
        }

        /**
         * Its diameters at the stations of another needle.
         *
         * @param stations how many
         * @param otherM distance of those stations, m
         * @return diameters, m; as many as it reaches
         */
        public List<Double> at(int stations, double otherM) {
            Needle own = new Needle(Double.isNaN(spacingM) ? otherM : spacingM, diametersM);
            List<Double> out = new ArrayList<>();
            for (int s = 0; s < stations && s * otherM <= own.lengthM() + NEAR_M; s++) {
                out.add(own.diameterM(s * otherM));
            }
            return out;
        }
    }

    /**
     * A needle beside the one that is wanted.
     *
     * @param needle the needle
     * @param offM root mean square of the difference over the stations that matter, m
     */
    public record Near(Entry needle, double offM) {
    }

    /** Copies the list. */
    public NeedleChart {
        needles = List.copyOf(needles);
    }

    /**
     * Reads a table.
     *
     * @param file CSV
     * @return the chart
     * @throws InputProblem with line and column for what cannot be
     */
    public static NeedleChart read(Path file) {
        return parse(String.valueOf(file.getFileName()), ChartTable.text(file,
                message("problem.a-needle-chart-is-short")));
    }

    /**
     * Reads a table.
     *
     * @param source name for messages
     * @param csv the table
     * @return the chart
     * @throws InputProblem for what cannot be
     */
    public static NeedleChart parse(String source, String csv) {
        Message remedy = message("problem.chart-header");
        ChartTable table = ChartTable.parse(source, csv, NAME, remedy);
        String unit = table.header().stream().filter(h -> h.contains("(")).map(ChartTable::unit).findFirst().orElse("");
        if (Dimension.LENGTH.unit(unit).isEmpty()) {
            throw new InputProblem(source, 1, 1, "", Message.literal(unit), remedy);
        }
        List<Entry> out = new ArrayList<>();
        for (CsvRecord r : table.lines()) {
            out.add(entry(table, unit, r));
        }
        return new NeedleChart(out);
    }

    private static Entry entry(ChartTable table, String unit, CsvRecord row) {
        List<String> header = table.header();
        List<Double> d = new ArrayList<>();
        double spacing = Double.NaN;
        for (int i = 1; i < row.getFieldCount() && i < header.size(); i++) {
            String text = row.getField(i).trim();
            if (text.isEmpty()) {
                continue;
            }
            boolean station = !SPACING.equalsIgnoreCase(header.get(i).trim());
            Optional<Double> q = table.length(text, station ? unit : "");
            boolean falls = !station || d.isEmpty() || q.isEmpty() || q.get() <= d.getLast() + 1e-9;
            if (q.isEmpty() || !falls) {
                throw table.problem(row, i, message(falls ? "problem.chart-number" : "problem.chart-grows"));
            }
            if (station) {
                d.add(q.get());
            } else {
                spacing = q.get();
            }
        }
        return new Entry(row.getField(0).trim(), spacing, d);
    }

    /**
     * The needles nearest to a wanted one.
     *
     * @param wantedM diameters wanted by station, m; NaN where any will do
     * @param spacingM distance of those stations, m
     * @return every needle that reaches as far, the nearest first
     */
    public List<Near> nearest(List<Double> wantedM, double spacingM) {
        List<Near> out = new ArrayList<>();
        for (Entry n : needles) {
            List<Double> d = n.diametersM().size() > 1 ? n.at(wantedM.size(), spacingM) : List.of();
            double sum = 0.0;
            int k = 0;
            boolean reaches = true;
            for (int s = 0; s < wantedM.size(); s++) {
                if (!Double.isNaN(wantedM.get(s))) {
                    reaches &= s < d.size();
                    double off = s < d.size() ? d.get(s) - wantedM.get(s) : 0.0;
                    sum += off * off;
                    k++;
                }
            }
            if (reaches && k > 0) {
                out.add(new Near(n, Math.sqrt(sum / k)));
            }
        }
        out.sort(Comparator.comparingDouble(Near::offM));
        return out;
    }
}
