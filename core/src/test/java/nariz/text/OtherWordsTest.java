package nariz.text;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowable;

import nariz.family.metered.MeteredCircuits;
import nariz.carburetor.Families;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import nariz.diagnosis.Advice;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Change;
import nariz.diagnosis.Hypothesis;
import nariz.diagnosis.Strategy;
import nariz.diagnosis.WorkCard;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.carburetor.InputProblem;
import nariz.carburetor.Part;
import nariz.carburetor.Stage;
import nariz.log.LogReader;
import nariz.sim.DemoDrive;
import nariz.testing.Bundles;
import nariz.testing.Malformed;
import nariz.testing.Samples;
import nariz.units.Shown;
import org.assertj.core.api.recursive.comparison.RecursiveComparisonConfiguration;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** The other language and other units, all the way through: messages, answers, cards. */
public class OtherWordsTest {
    private static final BuildSheet GOOD = BuildSheetReader.parse("good.json", Samples.sheet());

    /** Where nothing was read the error is no number, twice the same one. */
    private static final RecursiveComparisonConfiguration SAME = RecursiveComparisonConfiguration.builder()
            .withIgnoredFields("carried").withEqualsForType((a, b) -> Double.compare(a, b) == 0, Double.class).build();

    @AfterMethod
    void usual() {
        Words.speak(Language.ENGLISH);
        Shown.use(Shown.USUAL);
    }

    @DataProvider
    Object[][] badFiles() {
        return Malformed.all().stream().map(c -> new Object[] {c}).toArray(Object[][]::new);
    }

    /** Text in quotes and brackets is the file's own, or an example of what to write in it. */
    private static String ownWords(String message) {
        return message.replaceAll("\"[^\"]*\"", "").replaceAll("\\([^()]*\\)", "").replaceAll("\\{[^}]*}", "")
                .replaceAll("(?<=: )[a-zA-Z, ]+(?=[.)]|$)", "").replaceAll("[a-z]+_[A-Za-z]+", "");
    }

    @Test(dataProvider = "badFiles")
    public void badFileIsComplainedAboutInSpanish(Malformed.Case c) throws IOException {
        Path file = Files.createTempFile("nariz", c.sheet() ? ".json" : ".csv");
        Files.write(file, c.content());
        Words.speak(Language.SPANISH);
        Throwable t = catchThrowable(() -> {
            if (c.sheet()) {
                BuildSheetReader.read(file);
            } else {
                LogReader.read(file, GOOD);
            }
        });
        Files.delete(file);
        assertThat(t).isInstanceOf(InputProblem.class);
        assertThat(t.getMessage()).contains(": se encontró ");
        assertThat(ownWords(((InputProblem) t).wanted())).doesNotContainPattern(Bundles.ENGLISH);
        assertThat(((InputProblem) t).wanted()).as("remedy").hasSizeGreaterThan(20);
    }

    @Test
    public void answerIsPutIntoOtherWordsWithoutBeingFoundAnew() {
        Analysis english = Analysis.of(DemoDrive.sheet(), DemoDrive.drive().log(), Strategy.BALANCED);
        Words.speak(Language.SPANISH);
        Shown.use(new Shown(Shown.Pressure.MBAR, Shown.Size.MM, Shown.Road.METRIC));
        Analysis told = english.retold();
        Advice fresh = Analysis.of(DemoDrive.sheet(), DemoDrive.drive().log(), Strategy.BALANCED).advice();
        assertThat(told.advice()).usingRecursiveComparison(SAME).isEqualTo(fresh);
        assertThat(told.estimate()).isSameAs(english.estimate());
        assertThat(told.phiAfter()).isEqualTo(english.phiAfter());
        assertThat(told.advice().sentence()).startsWith("El circuito de progresión").contains("0.94 mm a 0.86 mm");
        Words.speak(Language.ENGLISH);
        Shown.use(Shown.USUAL);
        assertThat(told.retold().advice()).usingRecursiveComparison(SAME).isEqualTo(english.advice());
    }

    @Test
    public void answerOfAThinLogIsRetoldToo() {
        Analysis thin = Analysis.of(GOOD, LogReader.drive(thinLog(), GOOD), Strategy.BALANCED);
        Words.speak(Language.SPANISH);
        assertThat(thin.retold().estimated()).isFalse();
        assertThat(thin.retold().advice().sentence()).doesNotContainPattern(Bundles.ENGLISH);
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
        Words.speak(Language.SPANISH);
        Advice a = Analysis.of(DemoDrive.sheet(), DemoDrive.drive().log(), Strategy.BALANCED).advice();
        assertThat(a.sentence()).doesNotContainPattern(Bundles.ENGLISH);
        for (Change c : a.changes()) {
            assertThat(c.title()).doesNotContainPattern(Bundles.ENGLISH);
            assertThat(String.join(" ", c.reasons()) + String.join(" ", c.recheck()) + String.join(" ", c.cautions()))
                    .doesNotContainPattern(Bundles.ENGLISH);
        }
        for (Hypothesis h : a.hypotheses()) {
            assertThat(h.label()).doesNotContainPattern(Bundles.ENGLISH);
        }
        a.circuits().forEach(f -> assertThat(f.settledBy()).doesNotContainPattern(Bundles.ENGLISH));
        assertThat(String.join(" ", a.missing())).doesNotContainPattern(Bundles.ENGLISH);
    }

    /** Whatever part is changed, on either side, up or down: tools, steps and a proof, in both languages. */
    @Test
    public void everyPartHasAWholeWorkCardInBothLanguages() {
        for (Language l : Language.values()) {
            Words.speak(l);
            for (Part p : Families.parts()) {
                for (Stage s : Stage.values()) {
                    for (double to : new double[] {2, 4}) {
                        WorkCard card = WorkCard.of(new Change(p, s, MeteredCircuits.MAIN, 3, to, true, 0.1, 1, List.of(), List.of(),
                                List.of()));
                        String all = String.join(" ", card.tools()) + ' ' + String.join(" ", card.steps()) + ' '
                                + card.proof();
                        assertThat(card.tools()).as("%s tools", p).isNotEmpty();
                        assertThat(card.steps()).as("%s steps", p).hasSizeGreaterThanOrEqualTo(2);
                        assertThat(card.proof()).as("%s proof", p).isNotBlank();
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
