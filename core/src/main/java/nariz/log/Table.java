package nariz.log;

import java.util.List;

/**
 * A table of readings, opened and looked over but not read yet.
 *
 * @param source name for messages
 * @param preamble lines above the header
 * @param titles header, empty where the table starts with numbers
 * @param headerLine its line, from 1
 * @param units fields of a units row, empty when there is none
 * @param separator what parts the fields, for messages
 * @param sample the first rows, to judge columns by
 * @param rows all rows below header and units
 */
record Table(String source, List<String> preamble, List<String> titles, long headerLine, List<String> units,
        char separator, List<List<String>> sample, Rows rows) {
    /** Widest row of the sample and the header. */
    int width() {
        return Math.max(titles.size(), sample.stream().mapToInt(List::size).max().orElse(0));
    }

    /** Numbers of a column in the sample; NaN where there is none. */
    double[] numbers(int field) {
        return sample.stream().mapToDouble(r -> field < r.size() ? Cells.number(r.get(field)) : Double.NaN).toArray();
    }

    /** Texts of a column in the sample. */
    List<String> texts(int field) {
        return sample.stream().filter(r -> field < r.size()).map(r -> r.get(field).trim()).toList();
    }
}
