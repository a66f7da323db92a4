package nariz.log;

import static nariz.text.Message.message;

import java.util.List;
import nariz.text.Message;

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
    public Message title(int field) {
        return field < titles.size() && !titles.get(field).isBlank() ? Message.literal(titles.get(field).trim())
                : message("plan.column", field + 1);
    }

    /**
     * Cells of a column in the first rows; blank ones are left out, so that a channel that is logged more seldom than
     * the rest shows as much of itself.
     *
     * @param field from 0
     * @return as they stand there
     */
    public List<String> readings(int field) {
        return sample.stream().filter(r -> field < r.size()).map(r -> r.get(field).trim()).filter(c -> !Cells.blank(c))
                .toList();
    }

    /**
     * What a cell is as a number.
     *
     * @param cell as it stands in the file
     * @return NaN when it is none
     */
    public double number(String cell) {
        return Cells.number(cell);
    }

    /**
     * Whether there is nothing in a column to ask about: no title and no reading. So are the clocks that were laid over
     * the first.
     *
     * @param field from 0
     * @return true for nothing
     */
    public boolean empty(int field) {
        return (field >= titles.size() || titles.get(field).isBlank()) && readings(field).isEmpty();
    }

    /** {@return number of columns with numbers or times of day in more than half of their readings} */
    public int numbers() {
        int k = 0;
        for (int f = 0; f < width(); f++) {
            List<String> r = readings(f);
            long read = r.stream().filter(c -> !Double.isNaN(number(c)) || c.matches("[0-9T:.,Z -]+")).count();
            k += 2 * read > r.size() ? 1 : 0;
        }
        return k;
    }

    /** {@return whether an analysis can go ahead without asking} */
    public boolean clear() {
        return plan.certain() && plan.missing().isEmpty();
    }
}
