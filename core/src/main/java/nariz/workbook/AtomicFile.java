package nariz.workbook;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;

/** Writes a file whole or not at all. */
public final class AtomicFile {
    private static final int BUFFER = 1 << 16;

    private AtomicFile() {
    }

    /** Writes something into a stream. */
    @FunctionalInterface
    public interface Content {
        /**
         * Writes.
         *
         * @param out receives it
         * @throws IOException when that fails
         */
        void to(OutputStream out) throws IOException;
    }

    /**
     * Writes beside the file and moves into place, so that a full disk or a crash leaves what was there.
     *
     * @param file where to
     * @param content writes it
     * @throws IOException when that fails
     */
    public static void write(Path file, Content content) throws IOException {
        Path beside = file.resolveSibling(file.getFileName() + ".part");
        try {
            try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(beside), BUFFER)) {
                content.to(out);
            }
            Files.move(beside, file, StandardCopyOption.REPLACE_EXISTING);
        } finally {
            Files.deleteIfExists(beside);
        }
    }
}
