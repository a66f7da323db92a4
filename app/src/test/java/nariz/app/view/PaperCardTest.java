package nariz.app.view;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import nariz.app.print.WorkCardPdf;
import nariz.app.words.WindowWords;
import nariz.carburetor.Families;
import nariz.carburetor.Part;
import nariz.carburetor.Stage;
import nariz.diagnosis.Advice;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Change;
import nariz.diagnosis.Strategy;
import nariz.sim.DemoDrive;
import nariz.testing.Bundles;
import nariz.text.Language;
import nariz.text.Message;
import nariz.text.Wording;
import nariz.units.Shown;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.pdmodel.PDDocument;
import org.apache.pdfbox.text.PDFTextStripper;
import org.apache.pdfbox.text.TextPosition;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.Test;

/** The card as it comes out of the printer: words, places, pages. */
public class PaperCardTest {
    private static final Analysis DEMO = Analysis.of(DemoDrive.sheet(), DemoDrive.drive().log(), Strategy.BALANCED);

    @AfterMethod
    void usual() {
        WindowWords.use(Wording.ENGLISH);
    }

    private static byte[] card(Advice a, List<Change> changes) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        WorkCardPdf.write("Hill-climb estate", "drive.csv", a, changes, out);
        return out.toByteArray();
    }

    private static String text(byte[] pdf) throws IOException {
        try (PDDocument d = Loader.loadPDF(pdf)) {
            return new PDFTextStripper().getText(d).replaceAll("\\s+", " ");
        }
    }

    @Test
    public void everythingTheScreenSaysOfAChangeIsOnThePaper() throws IOException {
        Advice a = DEMO.advice();
        String text = text(card(a, a.changes()));
        for (Change c : a.changes()) {
            assertThat(text).contains(WindowWords.say(c.part().text(c.from()))).contains(
                    WindowWords.say(c.part().text(c.to())));
            for (Message s : c.cautions()) {
                assertThat(text).contains(s.toString().replaceAll("\\s+", " "));
            }
            for (Message s : nariz.diagnosis.WorkCard.of(c).steps()) {
                assertThat(text).contains(s.toString().replaceAll("\\s+", " "));
            }
        }
    }

    @Test
    public void otherWordsAndUnitsAreOnThePaperToo() throws IOException {
        WindowWords.use(new Wording(Language.SPANISH, new Shown(Shown.Pressure.KPA, Shown.Size.MM,
                Shown.Road.METRIC)));
        Advice a = DEMO.advice();
        String text = text(card(a, a.changes()));
        assertThat(text).contains("0.94 mm").contains("0.86 mm").contains("22.0 kPa").doesNotContain("thou")
                .doesNotContain("inHg").contains("Motor frío");
        assertThat(text.replace("drive.csv", "").replace("Hill-climb estate", "")).doesNotContainPattern(
                Bundles.ENGLISH);
    }

    /** Letters the face lacks would be left out or shown as boxes; nothing may lie beyond the edge of its page. */
    @Test
    public void nothingIsLostAtTheEdgesHoweverMuchThereIsToDo() throws IOException {
        List<Change> many = new ArrayList<>();
        for (Part p : Families.parts()) {
            many.add(new Change(p, Stage.PRIMARY, nariz.family.metered.MeteredCircuits.MAIN, 30, 33, true, 0.1, 1,
                    List.of(Message.literal("λ 0,93 – «così» ± 5 % ≤ 3·10⁻³ Ω")),
                    List.of(Message.literal("señal")), List.of(Message.literal(
                    "Ünïcödé and a very long word of one piece: " + "wide".repeat(60))), List.of()));
        }
        byte[] pdf = card(DEMO.advice(), many);
        try (PDDocument d = Loader.loadPDF(pdf)) {
            assertThat(d.getNumberOfPages()).isBetween(2, 2 * many.size() / 3);
            float width = d.getPage(0).getMediaBox().getWidth();
            float height = d.getPage(0).getMediaBox().getHeight();
            List<TextPosition> outside = new ArrayList<>();
            PDFTextStripper all = new PDFTextStripper() {
                @Override
                protected void writeString(String text, List<TextPosition> at) {
                    at.stream().filter(t -> t.getX() < 10 || t.getX() + t.getWidth() > width - 10 || t.getY() < 10
                            || t.getY() > height - 10).forEach(outside::add);
                }
            };
            all.getText(d);
            assertThat(outside).isEmpty();
        }
        assertThat(text(pdf)).contains("λ 0,93").contains("señal");
    }

    @Test
    public void aCardIsTheSameEveryTimeButForItsDate() throws IOException {
        Advice a = DEMO.advice();
        assertThat(text(card(a, a.changes()))).isEqualTo(text(card(a, a.changes())));
    }
}
