package nariz.workbook;

import java.io.ByteArrayOutputStream;
import java.nio.ByteBuffer;
import java.util.zip.DataFormatException;
import java.util.zip.Deflater;
import java.util.zip.Inflater;

/** Bytes packed with DEFLATE (RFC 1951) behind their length. */
final class Packing {
    private static final int LARGEST = 1 << 26;
    private static final int HEADER = 4;

    private Packing() {
    }

    static byte[] pack(byte[] bytes, int length) {
        Deflater d = new Deflater(Deflater.BEST_SPEED);
        try {
            d.setInput(bytes, 0, length);
            d.finish();
            ByteArrayOutputStream out = new ByteArrayOutputStream(length / 2 + 64);
            out.writeBytes(ByteBuffer.allocate(4).putInt(length).array());
            byte[] buffer = new byte[1 << 16];
            while (!d.finished()) {
                out.write(buffer, 0, d.deflate(buffer));
            }
            return out.toByteArray();
        } finally {
            d.end();
        }
    }

    static byte[] unpack(byte[] packed) {
        Inflater i = new Inflater();
        try {
            if (packed.length < HEADER) {
                throw new DamagedPart("a packed part of " + packed.length + " bytes");
            }
            int length = ByteBuffer.wrap(packed).getInt();
            if (length < 0 || length > LARGEST) {
                throw new DamagedPart("a packed part of " + length + " bytes");
            }
            byte[] out = new byte[length];
            i.setInput(packed, HEADER, packed.length - HEADER);
            int at = 0;
            while (at < length) {
                int n = i.inflate(out, at, length - at);
                if (n == 0) {
                    throw new DamagedPart("a packed part that stops short");
                }
                at += n;
            }
            return out;
        } catch (DataFormatException e) {
            throw new DamagedPart("a packed part that cannot be unpacked");
        } finally {
            i.end();
        }
    }
}
