package nariz.carburetor;

import static nariz.text.Message.message;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import nariz.text.Message;

/** Reads the short JSON files a person hands over: build sheet, kit, earlier advice. */
public final class TextFile {
    private TextFile() {
    }

    /**
     * Reads a file as UTF-8; a byte-order mark is passed over.
     *
     * @param file file
     * @param longestBytes size beyond which it cannot be what was asked for
     * @param tooLong remedy for a longer one
     * @param notText remedy for bytes that are not UTF-8
     * @return its text
     * @throws InputProblem when it cannot be read; nothing else is thrown
     */
    public static String read(Path file, long longestBytes, Message tooLong, Message notText) {
        String name = String.valueOf(file.getFileName());
        try {
            if (Files.size(file) > longestBytes) {
                throw new InputProblem(name, 0, 0, "", message("problem.a-file-of-bytes", Files.size(file)), tooLong);
            }
            String s = StandardCharsets.UTF_8.newDecoder().onMalformedInput(CodingErrorAction.REPORT)
                    .decode(ByteBuffer.wrap(Files.readAllBytes(file))).toString();
            return s.startsWith("\uFEFF") ? s.substring(1) : s;
        } catch (CharacterCodingException e) {
            throw new InputProblem(name, 1, 1, "", message("problem.bytes-that-are-not-text"), notText);
        } catch (IOException e) {
            throw InputProblem.unreadable(name, e);
        }
    }
}
