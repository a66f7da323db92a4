package nariz.app.print;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.util.ArrayList;
import java.util.List;
import org.apache.pdfbox.pdmodel.PDDocument;
import org.apache.pdfbox.pdmodel.PDPage;
import org.apache.pdfbox.pdmodel.PDPageContentStream;
import org.apache.pdfbox.pdmodel.common.PDRectangle;
import org.apache.pdfbox.pdmodel.font.PDFont;
import org.apache.pdfbox.pdmodel.font.PDType0Font;

/** A PDF of headings, lines and lists on A4, filled from the top; what does not fit goes on on the next page. */
final class Paper implements AutoCloseable {
    static final float BODY = 11;
    static final float SMALL = 9.5f;
    private static final float MARGIN = 54;
    private static final float LEADING = 1.35f;

    private final PDDocument document = new PDDocument();
    private final PDFont plain;
    private final PDFont strong;
    private PDPageContentStream page;
    private float y;

    Paper(String title) throws IOException {
        document.getDocumentInformation().setTitle(title);
        plain = font("text-regular.ttf");
        strong = font("text-semibold.ttf");
        turn();
    }

    private PDFont font(String file) throws IOException {
        try (InputStream in = Paper.class.getResourceAsStream("/nariz/app/fonts/" + file)) {
            return PDType0Font.load(document, in);
        }
    }

    /** A line in the plain face, wrapped. */
    void text(float size, String s) throws IOException {
        line(plain, size, 0, s);
    }

    /** A line in the heavier face, wrapped. */
    void heading(float size, String s) throws IOException {
        line(strong, size, 0, s);
    }

    /** Finishes the last page and writes the document. */
    void save(OutputStream out) throws IOException {
        page.close();
        document.save(out);
    }

    @Override
    public void close() throws IOException {
        document.close();
    }

    void list(String title, String bullet, List<String> items) throws IOException {
        if (items.isEmpty()) {
            return;
        }
        space(5);
        // A heading does not stay behind alone at the foot of a page.
        if (y < MARGIN + 3 * BODY * LEADING) {
            turn();
        }
        line(strong, BODY, 0, title);
        for (String s : items) {
            List<String> lines = wrap(plain, BODY, PDRectangle.A4.getWidth() - 2 * MARGIN - 22, s);
            for (int i = 0; i < lines.size(); i++) {
                down(BODY);
                if (i == 0) {
                    put(plain, BODY, MARGIN, bullet);
                }
                put(plain, BODY, MARGIN + 22, lines.get(i));
            }
        }
    }

    private void line(PDFont f, float size, float indent, String s) throws IOException {
        for (String l : wrap(f, size, PDRectangle.A4.getWidth() - 2 * MARGIN - indent, s)) {
            down(size);
            put(f, size, MARGIN + indent, l);
        }
    }

    void space(float points) {
        y -= points;
    }

    private void down(float size) throws IOException {
        y -= size * LEADING;
        if (y < MARGIN) {
            turn();
            y -= size * LEADING;
        }
    }

    private void put(PDFont f, float size, float x, String s) throws IOException {
        page.beginText();
        page.setFont(f, size);
        page.newLineAtOffset(x, y);
        page.showText(known(f, s));
        page.endText();
    }

    private void turn() throws IOException {
        if (page != null) {
            page.close();
        }
        PDPage next = new PDPage(PDRectangle.A4);
        document.addPage(next);
        page = new PDPageContentStream(document, next);
        y = PDRectangle.A4.getHeight() - MARGIN;
    }

    /** A name may hold signs the face does not have: each becomes a question mark and the card still comes out. */
    private static String known(PDFont f, String s) {
        StringBuilder out = new StringBuilder();
        s.codePoints().forEach(c -> {
            String one = Character.toString(c);
            try {
                f.getStringWidth(one);
                out.append(one);
            } catch (IOException | IllegalArgumentException e) {
                out.append('?');
            }
        });
        return out.toString();
    }

    /** Words, and where one is wider than a line, as file names can be, pieces of it that are not. */
    private static List<String> pieces(PDFont f, float size, float width, String s) throws IOException {
        List<String> out = new ArrayList<>();
        for (String word : s.split(" ")) {
            int from = 0;
            for (int to = 1; to <= word.length(); to++) {
                if (f.getStringWidth(word.substring(from, to)) / 1000 * size > width) {
                    out.add(word.substring(from, to - 1));
                    from = to - 1;
                }
            }
            out.add(word.substring(from));
        }
        return out;
    }

    private static List<String> wrap(PDFont f, float size, float width, String s) throws IOException {
        List<String> out = new ArrayList<>();
        StringBuilder line = new StringBuilder();
        for (String word : pieces(f, size, width, known(f, s))) {
            String longer = line.isEmpty() ? word : line + " " + word;
            if (!line.isEmpty() && f.getStringWidth(longer) / 1000 * size > width) {
                out.add(line.toString());
                line.setLength(0);
                line.append(word);
            } else {
                line.setLength(0);
                line.append(longer);
            }
        }
        out.add(line.toString());
        return out;
    }
}
