package nariz.app.print;

import static nariz.app.words.WindowWords.say;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import nariz.diagnosis.Advice;
import nariz.diagnosis.Change;
import nariz.diagnosis.RegimePrediction;
import nariz.diagnosis.WorkCard;
import nariz.text.Message;
import org.apache.pdfbox.pdmodel.PDDocument;
import org.apache.pdfbox.pdmodel.PDPage;
import org.apache.pdfbox.pdmodel.PDPageContentStream;
import org.apache.pdfbox.pdmodel.common.PDRectangle;
import org.apache.pdfbox.pdmodel.font.PDFont;
import org.apache.pdfbox.pdmodel.font.PDType0Font;

/**
 * A work card on A4, black on white, to lie beside the engine: what to change and why, cautions, tools, steps with
 * boxes
 * to tick, what to look at again, and what will prove it. The shipped face is embedded.
 */
public final class WorkCardPdf {
    private static final float MARGIN = 54;
    private static final float LEADING = 1.35f;
    private static final float BODY = 11;

    private final PDDocument document;
    private final PDFont plain;
    private final PDFont strong;
    private PDPageContentStream page;
    private float y;

    private WorkCardPdf(PDDocument document) throws IOException {
        this.document = document;
        plain = font("text-regular.ttf");
        strong = font("text-semibold.ttf");
    }

    private PDFont font(String file) throws IOException {
        try (InputStream in = WorkCardPdf.class.getResourceAsStream("/nariz/app/fonts/" + file)) {
            return PDType0Font.load(document, in);
        }
    }

    /**
     * Writes a card.
     *
     * @param car the build sheet's name
     * @param log the drive it rests on
     * @param a advice
     * @param changes changes of one stop, at least one
     * @param out receives the PDF; not closed
     * @throws IOException when writing fails
     */
    public static void write(String car, String log, Advice a, List<Change> changes, OutputStream out)
            throws IOException {
        try (PDDocument d = new PDDocument()) {
            d.getDocumentInformation().setTitle(say("work-card-pdf.work-card", car));
            WorkCardPdf p = new WorkCardPdf(d);
            p.turn();
            p.line(p.plain, 9.5f, 0, say("work-card-pdf.from-the-drive", car, log, LocalDate.now(
                    ZoneId.systemDefault())));
            p.space(6);
            for (Change c : changes) {
                p.change(c);
            }
            p.effect(a);
            p.space(10);
            p.line(p.plain, 9.5f, 0, say("work-card-pdf.emission-equipment-and-road"));
            p.page.close();
            d.save(out);
        }
    }

    private void change(Change c) throws IOException {
        WorkCard card = WorkCard.of(c);
        line(strong, 18, 0, say(c.title()));
        line(plain, BODY, 0, c.now() ? say("work-card-pdf.to-do-now") : say("work-card-pdf.later-after-reading-again"));
        list(say("work-card-pdf.mind"), "!", told(c.cautions()));
        list(say("work-card-pdf.because"), "–", told(c.reasons()));
        list(say("work-card-pdf.lay-ready"), "[  ]", told(card.tools()));
        list(say("work-card-pdf.do"), "[  ]", told(card.steps()));
        list(say("work-card-pdf.then-look-again-at"), "[  ]", told(c.recheck()));
        list(say("work-card-pdf.proved-by"), "–", List.of(say(card.proof())));
        list(say("work-card-pdf.found-and-fitted-write"), "", List.of(say("work-card-pdf.size-that-came-out"),
                say("work-card-pdf.date-who")));
        space(8);
    }

    private void effect(Advice a) throws IOException {
        if (a.predicted().isEmpty()) {
            return;
        }
        List<String> rows = new ArrayList<>();
        for (RegimePrediction r : a.predicted()) {
            rows.add(say("work-card-pdf.lambda-today-wanted-expected",
                    r.before().regime().label(), r.before().lambda(), r.before().target(), r.after().lambda(), r.low(),
                    r.high()));
        }
        list(say("work-card-pdf.what-the-next-drive"), "–", rows);
    }

    private void list(String title, String bullet, List<String> items) throws IOException {
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

    private void space(float points) {
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

    private static List<String> told(List<Message> all) {
        return all.stream().map(m -> say(m)).toList();
    }
}
