package nariz.log;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.function.BooleanSupplier;

/** A text file that another program is writing: whole lines as they appear, until somebody says that it is finished. */
public final class FollowedFile implements SampleSource {
    private static final long LOOK_AGAIN_MS = 20;
    private static final int LONGEST_LINE = 1 << 20;
    private final String name;
    private final InputStream in;
    private final BooleanSupplier finished;
    private final byte[] buffer = new byte[1 << 16];
    private final ByteArrayOutputStream line = new ByteArrayOutputStream();
    private int at;
    private int filled;

    /**
     * Begins at the start of the file.
     *
     * @param file UTF-8 text
     * @param finished asked where the file ends for now; true when nothing more will come
     * @throws IOException when it cannot be opened
     */
    public FollowedFile(Path file, BooleanSupplier finished) throws IOException {
        name = String.valueOf(file.getFileName());
        in = Files.newInputStream(file);
        this.finished = finished;
    }

    @Override
    public String name() {
        return name;
    }

    @Override
    public Optional<String> next() throws IOException {
        while (true) {
            while (at < filled) {
                byte b = buffer[at++];
                if (b == '\n') {
                    return Optional.of(taken());
                }
                line.write(b);
                if (line.size() > LONGEST_LINE) {
                    throw new IOException("a line of more than " + LONGEST_LINE + " bytes");
                }
            }
            // Asked before looking: what is written until then is still read.
            boolean last = finished.getAsBoolean();
            at = 0;
            filled = Math.max(0, in.read(buffer));
            if (filled == 0) {
                if (last) {
                    return line.size() > 0 ? Optional.of(taken()) : Optional.empty();
                }
                pause();
            }
        }
    }

    private String taken() {
        String s = line.toString(StandardCharsets.UTF_8);
        line.reset();
        return s.endsWith("\r") ? s.substring(0, s.length() - 1) : s;
    }

    private static void pause() throws IOException {
        try {
            Thread.sleep(LOOK_AGAIN_MS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw new IOException("reading was interrupted", e);
        }
    }

    @Override
    public void close() throws IOException {
        in.close();
    }
}
