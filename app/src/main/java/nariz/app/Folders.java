package nariz.app;

import java.nio.file.Files;
import java.nio.file.Path;
import net.harawata.appdirs.AppDirs;
import net.harawata.appdirs.AppDirsFactory;

/**
 * Where things of this program are kept on this platform. What earlier versions kept in {@code nariz} in the user's
 * home stays there and is used.
 */
final class Folders {
    private static final String NAME = "nariz";
    private static final AppDirs DIRS = AppDirsFactory.getInstance();

    private Folders() {
    }

    /** {@return the workbook} */
    static Path workbook() {
        return earlier("garage.nariz", Path.of(DIRS.getUserDataDir(NAME, null, null)).resolve("garage.nariz"));
    }

    /** {@return the preferences file} */
    static Path preferences() {
        return earlier("window.properties", Path.of(DIRS.getUserConfigDir(NAME, null, null))
                .resolve("window.properties"));
    }

    /** {@return the folder of log files: {@code nariz.logs}, or the platform's} */
    static Path logs() {
        return Path.of(System.getProperty("nariz.logs", DIRS.getUserLogDir(NAME, null, null)));
    }

    private static Path earlier(String name, Path now) {
        Path before = Path.of(System.getProperty("user.home"), NAME, name);
        return Files.exists(before) && !Files.exists(now) ? before : now;
    }
}
