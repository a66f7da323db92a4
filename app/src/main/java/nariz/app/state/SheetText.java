package nariz.app.state;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.carburetor.InputProblem;

/**
 * A build sheet as it is written, from a file or from the workbook.
 *
 * @param name name for messages
 * @param json the sheet's own text, to be kept as it stands
 */
public record SheetText(String name, String json) {
    /**
     * A sheet of a file.
     *
     * @param file build sheet (JSON)
     * @return its text
     * @throws InputProblem when it cannot be read or is no sheet
     */
    static SheetText of(Path file) {
        BuildSheetReader.read(file);
        try {
            return new SheetText(String.valueOf(file.getFileName()), Files.readString(file));
        } catch (IOException e) {
            throw InputProblem.unreadable(String.valueOf(file.getFileName()), e);
        }
    }

    BuildSheet sheet() {
        return BuildSheetReader.parse(name, json);
    }
}
