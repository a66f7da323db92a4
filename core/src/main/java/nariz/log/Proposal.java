package nariz.log;

import java.util.List;

/**
 * What a file seems to hold, for the user to look at before it is read.
 *
 * @param plan what the columns seem to mean, with how sure that is
 * @param titles header, empty where the table starts with numbers
 * @param units row of units, empty when there is none
 * @param preamble lines above the header
 * @param sample first rows as they stand there
 */
public record Proposal(Plan plan, List<String> titles, List<String> units, List<String> preamble,
        List<List<String>> sample) {
    /** {@return number of columns} */
    public int width() {
        return Math.max(titles.size(), sample.stream().mapToInt(List::size).max().orElse(0));
    }

    /**
     * Name of a column.
     *
     * @param field from 0
     * @return its header, or its number
     */
    public String title(int field) {
        return field < titles.size() && !titles.get(field).isBlank() ? titles.get(field).trim()
                : "column " + (field + 1);
    }

    /**
     * Numbers of a column in the first rows.
     *
     * @param field from 0
     * @return as they stand there, NaN where there is none
     */
    public double[] numbers(int field) {
        return sample.stream().mapToDouble(r -> field < r.size() ? Cells.number(r.get(field)) : Double.NaN).toArray();
    }

    /** {@return whether an analysis can go ahead without asking} */
    public boolean clear() {
        return plan.certain() && plan.missing().isEmpty();
    }
}
