package nariz.log;

import java.util.List;
import java.util.stream.Stream;

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
 * @param styles how numbers are written, by column
 * @param spread rows from further on, to judge a range by: a log begins with idle
 */
record Table(String source, List<String> preamble, List<String> titles, long headerLine, List<String> units,
        char separator, List<List<String>> sample, Rows rows, List<NumberStyle> styles, List<List<String>> spread) {
    Table(String source, List<String> preamble, List<String> titles, long headerLine, List<String> units,
            char separator, List<List<String>> sample, Rows rows, List<List<String>> spread) {
        this(source, preamble, titles, headerLine, units, separator, sample, rows, NumberStyle.of(sample), spread);
    }

    Table(String source, List<String> preamble, List<String> titles, long headerLine, List<String> units,
            char separator, List<List<String>> sample, Rows rows) {
        this(source, preamble, titles, headerLine, units, separator, sample, rows, List.of());
    }

    /** How numbers are written in a column. */
    NumberStyle style(int field) {
        return field < styles.size() ? styles.get(field) : NumberStyle.EITHER;
    }

    /** Widest row of the sample and the header. */
    int width() {
        return Math.max(titles.size(), sample.stream().mapToInt(List::size).max().orElse(0));
    }

    /** The same table with another name over a column. */
    Table withTitle(int field, String title) {
        List<String> changed = new java.util.ArrayList<>(titles);
        changed.set(field, title);
        return new Table(source, preamble, changed, headerLine, units, separator, sample, rows, styles, spread);
    }

    /** Numbers of a column in the sample; NaN where there is none. */
    double[] numbers(int field) {
        NumberStyle style = style(field);
        return sample.stream().mapToDouble(r -> field < r.size() ? style.leading(r.get(field)) : Double.NaN).toArray();
    }

    /** Numbers of a column in the sample and further on, in no order that means anything. */
    double[] spreadNumbers(int field) {
        NumberStyle style = style(field);
        return Stream.concat(sample.stream(), spread.stream()).mapToDouble(r -> field < r.size() ? style.leading(r.get(
                field)) : Double.NaN).toArray();
    }

    /** Texts of a column in the sample. */
    List<String> texts(int field) {
        return sample.stream().filter(r -> field < r.size()).map(r -> r.get(field).trim()).toList();
    }
}
