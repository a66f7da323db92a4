package nariz.log;

import java.util.List;

/** Rows that are put together one by one as lists of texts. */
abstract class ListedRows implements Rows {
    /** The current row. */
    private List<String> row = List.of();
    private long line;

    /** Goes on to a row that stands in a line of the file, from 1. */
    final void take(List<String> next, long at) {
        row = next;
        line = at;
    }

    @Override
    public final long line() {
        return line;
    }

    @Override
    public final int size() {
        return row.size();
    }

    @Override
    public final String get(int field) {
        return row.get(field);
    }
}
