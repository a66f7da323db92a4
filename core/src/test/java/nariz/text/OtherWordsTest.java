package nariz.text;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowable;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.carburetor.Families;
import nariz.carburetor.InputProblem;
import nariz.carburetor.Part;
import nariz.carburetor.Stage;
import nariz.diagnosis.Advice;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Change;
import nariz.diagnosis.Hypothesis;
import nariz.diagnosis.Strategy;
import nariz.diagnosis.WorkCard;
import nariz.family.metered.MeteredCircuits;
import nariz.log.LogReader;
import nariz.sim.DemoDrive;
import nariz.testing.Bundles;
import nariz.testing.Malformed;
import nariz.testing.Samples;
import nariz.text.Message;
import nariz.units.Shown;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** The other language and other units, all the way through: messages, answers, cards. */
public class OtherWordsTest {
    private static final BuildSheet GOOD = BuildSheetReader.parse("good.json", Samples.sheet());

    private static final Wording SPANISH = Wording.ENGLISH.in(Language.SPANISH);

    @DataProvider
    Object[][] badFiles() {
        return Malformed.all().stream().map(c -> new Object[] {c}).toArray(Object[][]::new);
    }

    /** Text in quotes and brackets is the file's own, or an example of what to write in it. */
    private static String ownWords(String message) {
        return message.replaceAll("\"[^\"]*\"", "").replaceAll("\\([^()]*\\)", "").replaceAll("\\{[^}]*}", "")
                .replaceAll("(?<=: )[a-zA-Z0-9, -]+(?=[.)]|$)", "").replaceAll("[a-z]+_[A-Za-z]+", "");
    }

    @Test(dataProvider = "badFiles")
    public void badFileIsComplainedAboutInSpanish(Malformed.Case c) throws IOException {
        Path file = Files.createTempFile("nariz", c.sheet() ? ".json" : ".csv");
        Files.write(file, c.content());
        Throwable t = catchThrowable(() -> {
            if (c.sheet()) {
                BuildSheetReader.read(file);
            } else {
                LogReader.read(file, GOOD);
            }
        });
        Files.delete(file);
        assertThat(t).isInstanceOf(InputProblem.class);
        InputProblem p = (InputProblem) t;
        assertThat(p.getMessage()).contains(": found ");
        assertThat(p.text(SPANISH)).contains(": se encontró ");
        assertThat(ownWords(SPANISH.text(p.wanted()))).doesNotContainPattern(Bundles.ENGLISH);
        assertThat(SPANISH.text(p.wanted())).as("remedy").hasSizeGreaterThan(20);
    }

    @Test
    public void oneAnswerIsToldInAnyLanguageAndUnits() {
        Advice a = Analysis.of(DemoDrive.sheet(), DemoDrive.drive().log(), Strategy.BALANCED).advice();
        Wording metric = SPANISH.with(new Shown(Shown.Pressure.MBAR, Shown.Size.MM, Shown.Road.METRIC));
        assertThat(metric.text(a.sentence())).startsWith("El circuito de progresión").contains("0.94 mm a 0.86 mm");
        assertThat(Wording.ENGLISH.text(a.sentence())).startsWith("The transfer circuit").contains(
                "37 thou to 34 thou");
    }

    @Test
    public void answerOfAThinLogIsToldInSpanishToo() {
        Analysis thin = Analysis.of(GOOD, LogReader.drive(thinLog(), GOOD), Strategy.BALANCED);
        assertThat(thin.estimated()).isFalse();
        assertThat(SPANISH.text(thin.advice().sentence())).doesNotContainPattern(Bundles.ENGLISH);
    }

    private static nariz.log.Recording thinLog() {
        StringBuilder s = new StringBuilder("time_s,rpm,vacuum_inHg,afr\n");
        for (int i = 0; i < 300; i++) {
            s.append(i * 0.05).append(',').append(820 + i % 7).append(",17.5,13.9\n");
        }
        try {
            return LogReader.record("thin.csv", new java.io.ByteArrayInputStream(s.toString().getBytes(
                    java.nio.charset.StandardCharsets.UTF_8)), null, () -> false, n -> { });
        } catch (IOException e) {
            throw new AssertionError(e);
        }
    }

    @Test
    public void everythingAnAnswerSaysIsInSpanish() {
        Advice a = Analysis.of(DemoDrive.sheet(), DemoDrive.drive().log(), Strategy.BALANCED).advice();
        List<Message> all = new ArrayList<>(List.of(a.sentence()));
        for (Change c : a.changes()) {
            all.add(c.title());
            all.addAll(c.reasons());
            all.addAll(c.recheck());
            all.addAll(c.cautions());
        }
        a.hypotheses().forEach(h -> all.addAll(List.of(h.label(), h.evidence(), h.check(), Message.message("a-cause."
                + Hypothesis.VACUUM_LEAK))));
        a.circuits().forEach(f -> {
            all.add(f.settledBy());
            all.addAll(f.confoundedWith());
        });
        a.schools().forEach(s -> all.addAll(List.of(s.question(), s.why())));
        all.addAll(a.missing());
        assertThat(all).hasSizeGreaterThan(30).allSatisfy(m -> assertThat(SPANISH.text(m))
                .doesNotContainPattern(Bundles.ENGLISH));
    }

    /** What programs read does not change with the language: it is written without one. */
    @Test
    public void jsonHoldsNoWordOfAnotherLanguage() {
        String json = nariz.diagnosis.AdviceJson.write(Analysis.of(DemoDrive.sheet(), DemoDrive.drive().log(),
                Strategy.BALANCED).advice());
        assertThat(json).contains("\"transfer level\"").doesNotContain("progresión").doesNotContain("nivel");
    }

    /** Whatever part is changed, on either side, up or down: tools, steps and a proof, in both languages. */
    @Test
    public void everyPartHasAWholeWorkCardInBothLanguages() {
        for (Language l : Language.values()) {
            Wording w = Wording.ENGLISH.in(l);
            for (Part p : Families.parts()) {
                for (Stage s : Stage.values()) {
                    for (double to : new double[] {2, 4}) {
                        WorkCard card = WorkCard.of(new Change(p, s, MeteredCircuits.MAIN, 3, to, true, 0.1, 1,
                                List.of(), List.of(),
                                List.of(), List.of()));
                        String all = w.text(Message.join(" ", card.tools())) + ' ' + w.text(Message.join(" ",
                                card.steps())) + ' ' + w.text(card.proof());
                        assertThat(card.tools()).as("%s tools", p).isNotEmpty();
                        assertThat(card.steps()).as("%s steps", p).hasSizeGreaterThanOrEqualTo(2);
                        assertThat(w.text(card.proof())).as("%s proof", p).isNotBlank();
                        assertThat(all).as("%s %s", l, p).doesNotContain("%s").doesNotContain("null");
                        if (l == Language.SPANISH) {
                            assertThat(all).doesNotContainPattern(Bundles.ENGLISH);
                        }
                    }
                }
            }
        }
    }
}
