package nariz.workbook;

import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.zip.CRC32C;
import org.sqlite.Function;

/**
 * The sum that tells whether a row of a workbook is what was written: CRC-32C (RFC 3720, section 12.1) over its values,
 * each behind a byte for its type and, where it has one, its length. Known to the database as {@code row_sum}.
 */
final class RowSum extends Function {
    private static final int INTEGER = 1;
    private static final int REAL = 2;
    private static final int TEXT = 3;
    private static final int BLOB = 4;
    private static final int NULL = 5;

    private RowSum() {
    }

    /** Makes the function known to a connection. */
    static void register(Connection c) throws SQLException {
        Function.create(c, "row_sum", new RowSum(), Function.FLAG_DETERMINISTIC);
    }

    @Override
    protected void xFunc() throws SQLException {
        CRC32C sum = new CRC32C();
        for (int i = 0; i < args(); i++) {
            int type = value_type(i);
            sum.update(type);
            switch (type) {
                case INTEGER -> sum.update(ByteBuffer.allocate(Long.BYTES).putLong(0, value_long(i)));
                case REAL -> sum.update(ByteBuffer.allocate(Double.BYTES).putDouble(0, value_double(i)));
                case TEXT -> bytes(sum, value_text(i).getBytes(StandardCharsets.UTF_8));
                case BLOB -> bytes(sum, value_blob(i));
                case NULL -> { }
                default -> throw new SQLException("a value of type " + type);
            }
        }
        result(sum.getValue());
    }

    private static void bytes(CRC32C sum, byte[] b) {
        sum.update(ByteBuffer.allocate(Integer.BYTES).putInt(0, b.length));
        sum.update(b, 0, b.length);
    }
}
