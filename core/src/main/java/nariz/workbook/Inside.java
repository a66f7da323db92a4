package nariz.workbook;

import static nariz.text.Message.message;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.regex.Pattern;
import nariz.carburetor.InputProblem;

/**
 * The gate for every name that comes from outside and becomes a path: a plain name of a regular file that lies in the
 * folder it is looked for in. Nothing that climbs out of it, is absolute or is a link passes.
 */
final class Inside {
    private static final Pattern PLAIN = Pattern.compile("[A-Za-z0-9][A-Za-z0-9._-]{0,127}");
    private static final Pattern SHA_256 = Pattern.compile("[0-9a-f]{64}");

    private Inside() {
    }

    /**
     * A file to be read.
     *
     * @param folder folder that was picked
     * @param within folder in it
     * @param name from outside
     * @return the file
     * @throws InputProblem when it is not a plain name, not there, or not really in that folder
     */
    static Path file(Path folder, String within, String name) throws IOException {
        Path place = name(folder.resolve(within), name);
        String shown = within + "/" + name;
        if (!Files.isRegularFile(place, LinkOption.NOFOLLOW_LINKS)) {
            throw new InputProblem(shown, 0, 0, "", message(Files.exists(place, LinkOption.NOFOLLOW_LINKS)
                    ? "problem.a-link-or-folder" : "problem.a-file-that-is-not-there"),
                    message("problem.pick-a-folder-that-a-workbook"));
        }
        if (!place.toRealPath().startsWith(folder.toRealPath())) {
            throw new InputProblem(shown, 0, 0, "", message("problem.a-link-or-folder"),
                    message("problem.pick-a-folder-that-a-workbook"));
        }
        return place;
    }

    /**
     * A place for a name in a folder.
     *
     * @param folder folder
     * @param name from outside
     * @return the place
     * @throws InputProblem when the name is not a plain one
     */
    static Path name(Path folder, String name) {
        if (!PLAIN.matcher(name).matches()) {
            throw new InputProblem(String.valueOf(folder.getFileName()), 0, 0, "",
                    message("problem.a-name-that-leads-away",
                    name), message("problem.pick-a-folder-that-a-workbook"));
        }
        return folder.resolve(name);
    }

    /** Whether a text is a SHA-256 in lower-case hexadecimal. */
    static boolean sha256(Object text) {
        return text instanceof String s && SHA_256.matcher(s).matches();
    }
}
