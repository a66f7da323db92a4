package nariz.app.print;

import static nariz.app.words.WindowWords.say;

import java.io.IOException;
import java.io.OutputStream;
import java.util.List;

/** Every key of the window on paper, to lie beside the screen. */
public final class KeyCardPdf {
    private KeyCardPdf() {
    }

    /**
     * Keys of one place.
     *
     * @param title where they work
     * @param lines each what it does and its keys
     */
    public record Group(String title, List<String> lines) {
        /** Copies the list. */
        public Group {
            lines = List.copyOf(lines);
        }
    }

    /**
     * Writes the card.
     *
     * @param groups keys by place
     * @param out receives the PDF; not closed
     * @throws IOException when writing fails
     */
    public static void write(List<Group> groups, OutputStream out) throws IOException {
        try (Paper p = new Paper(say("key-card.title"))) {
            p.heading(18, say("key-card.title"));
            for (Group g : groups) {
                p.list(g.title(), "–", g.lines());
            }
            p.save(out);
        }
    }
}
