package nariz.workbook;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.channels.Channels;
import java.nio.channels.FileChannel;
import java.nio.file.FileSystemException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.HexFormat;
import java.util.concurrent.ThreadLocalRandom;

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
     * Writes beside the file under a name of its own, waits until the disk has it and moves it into place, so that a
     * full disk or a crash leaves what was there.
     *
     * @param file where to; a file that is there is replaced, a folder is not
     * @param content writes it
     * @throws IOException when that fails
     */
    public static void write(Path file, Content content) throws IOException {
        if (Files.isDirectory(file)) {
            throw new FileSystemException(file.toString(), null, "is a folder");
        }
        Path beside = beside(file);
        try {
            try (FileChannel channel = FileChannel.open(beside, StandardOpenOption.CREATE_NEW,
                    StandardOpenOption.WRITE); OutputStream out = new BufferedOutputStream(Channels.newOutputStream(
                            channel), BUFFER)) {
                content.to(out);
                out.flush();
                channel.force(true);
            }
            Files.move(beside, file, StandardCopyOption.REPLACE_EXISTING);
        } finally {
            Files.deleteIfExists(beside);
        }
    }

    /** A name beside a file that nothing else has. */
    static Path beside(Path file) {
        return file.resolveSibling(file.getFileName() + "." + HexFormat.of().toHexDigits(ThreadLocalRandom.current()
                .nextInt()) + ".part");
    }
}
