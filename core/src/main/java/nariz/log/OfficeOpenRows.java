package nariz.log;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import java.util.Objects;
import java.util.function.Supplier;
import java.util.stream.Stream;
import nariz.carburetor.InputProblem;
import org.dhatim.fastexcel.reader.Cell;
import org.dhatim.fastexcel.reader.CellType;
import org.dhatim.fastexcel.reader.ReadableWorkbook;
import org.dhatim.fastexcel.reader.ReadingOptions;
import org.dhatim.fastexcel.reader.Row;
import org.jspecify.annotations.Nullable;

/** Rows of an .xlsx sheet, streamed. */
final class OfficeOpenRows implements Rows {
    private final String source;
    private final ReadableWorkbook book;
    private final Stream<Row> stream;
    private final Iterator<Row> rows;
    private @Nullable Row row;

    private OfficeOpenRows(String source, byte[] all, int sheet) {
        this.source = source;
        try {
            book = open(all);
            stream = book.getSheet(sheet).orElseThrow().openStream();
            rows = stream.iterator();
        } catch (IOException | RuntimeException e) {
            throw SheetTable.damaged(source, 1, e);
        }
    }

    private static ReadableWorkbook open(byte[] all) throws IOException {
        return new ReadableWorkbook(new ByteArrayInputStream(all), new ReadingOptions(true, true));
    }

    static List<Supplier<Rows>> sheets(String source, SheetPackage packed) throws IOException {
        List<Supplier<Rows>> out = new ArrayList<>();
        try (ReadableWorkbook book = open(packed.bytes())) {
            int n = (int) book.getSheets().count();
            for (int i = 0; i < n; i++) {
                int sheet = i;
                out.add(() -> new OfficeOpenRows(source, packed.bytes(), sheet));
            }
        }
        return out;
    }

    private InputProblem damaged(Exception e) {
        return SheetTable.damaged(source, row == null ? 1 : row.getRowNum() + 1L, e);
    }

    @Override
    public boolean next() {
        try {
            if (!rows.hasNext()) {
                return false;
            }
            row = rows.next();
        } catch (InputProblem e) {
            throw e;
        } catch (RuntimeException e) {
            throw damaged(e);
        }
        if (row.getCellCount() > TextTable.MOST_COLUMNS) {
            throw SheetTable.tooWide(source, row.getRowNum());
        }
        return true;
    }

    private Row current() {
        return Objects.requireNonNull(row, "next() comes first");
    }

    @Override
    public long line() {
        return current().getRowNum();
    }

    @Override
    public int size() {
        return current().getCellCount();
    }

    @Override
    public String get(int field) {
        try {
            Cell c = current().getOptionalCell(field).orElse(null);
            return c == null || c.getRawValue() == null ? "" : text(c);
        } catch (RuntimeException e) {
            throw damaged(e);
        }
    }

    private static String text(Cell c) {
        String format = c.getDataFormatString();
        boolean number = c.getType() == CellType.NUMBER || (c.getType() == CellType.FORMULA && !Double.isNaN(
                Cells.number(c.getRawValue())));
        if (!number || format == null) {
            return c.getText();
        }
        double v = Double.parseDouble(c.getRawValue());
        return SheetCells.percent(format) ? SheetCells.percent(v) : SheetCells.clock(format) ? SheetCells.clock(v,
                SheetCells.elapsed(format)) : c.getText();
    }

    @Override
    public void close() throws IOException {
        stream.close();
        book.close();
    }
}
