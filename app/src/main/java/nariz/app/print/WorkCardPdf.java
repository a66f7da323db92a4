package nariz.app.print;

import static nariz.app.words.WindowWords.say;

import java.io.IOException;
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

/**
 * A work card on A4, black on white, to lie beside the engine: what to change and why, cautions, tools, steps with
 * boxes
 * to tick, what to look at again, and what will prove it. The shipped face is embedded.
 */
public final class WorkCardPdf {
    private WorkCardPdf() {
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
        try (Paper p = new Paper(say("work-card-pdf.work-card", car))) {
            p.text(Paper.SMALL, say("work-card-pdf.from-the-drive", car, log, LocalDate.now(ZoneId.systemDefault())));
            p.space(6);
            for (Change c : changes) {
                change(p, c);
            }
            effect(p, a);
            p.space(10);
            p.text(Paper.SMALL, say("work-card-pdf.emission-equipment-and-road"));
            p.save(out);
        }
    }

    private static void change(Paper p, Change c) throws IOException {
        WorkCard card = WorkCard.of(c);
        p.heading(18, say(c.title()));
        p.text(Paper.BODY, c.now() ? say("work-card-pdf.to-do-now") : say("work-card-pdf.later-after-reading-again"));
        p.list(say("work-card-pdf.mind"), "!", told(c.cautions()));
        p.list(say("work-card-pdf.because"), "–", told(c.reasons()));
        p.list(say("work-card-pdf.lay-ready"), "[  ]", told(card.tools()));
        p.list(say("work-card-pdf.do"), "[  ]", told(card.steps()));
        p.list(say("work-card-pdf.then-look-again-at"), "[  ]", told(c.recheck()));
        p.list(say("work-card-pdf.proved-by"), "–", List.of(say(card.proof())));
        p.list(say("work-card-pdf.found-and-fitted-write"), "", List.of(say("work-card-pdf.size-that-came-out"),
                say("work-card-pdf.date-who")));
        p.space(8);
    }

    private static void effect(Paper p, Advice a) throws IOException {
        if (a.predicted().isEmpty()) {
            return;
        }
        List<String> rows = new ArrayList<>();
        for (RegimePrediction r : a.predicted()) {
            rows.add(say("work-card-pdf.lambda-today-wanted-expected",
                    r.before().regime().label(), r.before().lambda(), r.before().target(), r.after().lambda(), r.low(),
                    r.high()));
        }
        p.list(say("work-card-pdf.what-the-next-drive"), "–", rows);
    }

    private static List<String> told(List<Message> all) {
        return all.stream().map(m -> say(m)).toList();
    }
}
