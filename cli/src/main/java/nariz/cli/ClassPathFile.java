package nariz.cli;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/** Writes how to start the command line again: the JVM, then the class path. Used by the build for {@code ./nariz}. */
final class ClassPathFile {
    private ClassPathFile() {
    }

    /**
     * Writes the file.
     *
     * @param args where to
     * @throws IOException when it cannot be written
     */
    public static void main(String[] args) throws IOException {
        Path java = Path.of(System.getProperty("java.home"), "bin", "java");
        Files.writeString(Path.of(args[0]), java + "\n" + System.getProperty("java.class.path") + "\n");
    }
}
