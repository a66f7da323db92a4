package nariz.text;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Path;
import java.util.MissingResourceException;
import java.util.Properties;
import nariz.carburetor.Circuit;
import nariz.carburetor.Families;
import nariz.carburetor.Family;
import nariz.carburetor.Part;
import nariz.carburetor.Stage;
import nariz.diagnosis.Advice;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Regime;
import nariz.diagnosis.Status;
import nariz.diagnosis.Strategy;
import nariz.diagnosis.WorkCard;
import nariz.estimation.Flag;
import nariz.log.Channel;
import nariz.sim.DemoDrive;
import nariz.testing.Bundles;
import nariz.units.Shown;
import org.testng.annotations.Test;

/** Every key the core asks for is there, in every language, with the same places for values. */
public class WordsTest {
    private static final Path FOLDER = Path.of("src/main/resources/nariz/text");

    @Test
    public void everyKeyThatIsAskedForIsThere() throws IOException {
        Properties base = Bundles.of(FOLDER.resolve("messages.properties"));
        assertThat(base.stringPropertyNames()).containsAll(Bundles.asked(Path.of("src/main/java")));
    }

    @Test
    public void spanishHasEveryKeyWithTheSamePlaces() throws IOException {
        assertThat(Bundles.faults(Bundles.of(FOLDER.resolve("messages.properties")),
                Bundles.of(FOLDER.resolve("messages_es.properties")))).isEmpty();
    }

    @Test
    public void everythingThatIsListedHasANameInEveryLanguage() {
        for (Language l : Language.values()) {
            Wording w = new Wording(l, Shown.USUAL);
            for (Part p : Families.parts()) {
                for (Stage s : Stage.values()) {
                    assertThat(w.text(p.named(s))).isNotBlank();
                    assertThat(w.text(p.title(s, 1, 2))).isNotBlank();
                }
            }
            for (Family f : Families.all()) {
                assertThat(w.text(f.label())).isNotBlank();
            }
            for (Circuit c : Families.all().getFirst().circuits()) {
                assertThat(w.text(c.label())).isNotBlank();
                assertThat(w.text(c.shortLabel())).isNotBlank();
            }
            for (Regime r : Regime.values()) {
                assertThat(w.text(r.label())).isNotBlank();
            }
            for (Status s : Status.values()) {
                assertThat(w.text(s.label())).isNotBlank();
            }
            for (Flag f : Flag.values()) {
                assertThat(w.text(f.label())).isNotBlank();
            }
            for (Channel c : Channel.values()) {
                assertThat(w.text(c.label())).isNotBlank();
            }
        }
    }

    /** One and many, in each language's own form; a number that is no count changes nothing. */
    @Test
    public void countsTakeTheFormOfTheirLanguage() {
        Wording spanish = new Wording(Language.SPANISH, Shown.USUAL);
        Message one = Message.message("problem.points", 1);
        Message more = Message.message("problem.points", 12);
        assertThat(one.toString()).isEqualTo("1 point");
        assertThat(more.toString()).isEqualTo("12 points");
        assertThat(spanish.text(one)).isEqualTo("1 punto");
        assertThat(spanish.text(more)).isEqualTo("12 puntos");
        assertThat(spanish.text(Message.message("problem.points", 2_000_000))).isEqualTo("2000000 puntos");
        assertThat(Message.message("problem.points", 0).toString()).isEqualTo("0 points");
    }

    @Test
    public void keyThatNobodyWroteIsAnError() {
        assertThatThrownBy(() -> Message.message("no.such.key").toString()).isInstanceOf(
                MissingResourceException.class);
    }

    @Test
    public void languageIsFoundByItsCodeAndIsEnglishElsewhere() {
        assertThat(Language.of("es-MX")).isEqualTo(Language.SPANISH);
        assertThat(Language.of("de")).isEqualTo(Language.ENGLISH);
        assertThat(Language.of("")).isEqualTo(Language.ENGLISH);
        Message rich = Message.message("error.rich", 7L);
        assertThat(Wording.ENGLISH.in(Language.SPANISH).text(rich)).isEqualTo("7 % rica");
        assertThat(Wording.ENGLISH.text(rich)).isEqualTo("7 % rich");
    }

    @Test
    public void valuesOfAMessageAreToldInTheUnitsOfWhoeverReads() {
        Message m = Message.join(", ", java.util.List.of(Message.of(Measure.rating(6.5 * 3386.389)),
                Message.of(Measure.size(59 * 25.4e-6)), Message.literal("as is")));
        assertThat(m.toString()).isEqualTo("6.5 inHg, 59 thou, as is");
        assertThat(Wording.ENGLISH.with(new Shown(Shown.Pressure.KPA, Shown.Size.MM, Shown.Road.METRIC)).text(m))
                .isEqualTo("22.0 kPa, 1.50 mm, as is");
    }

    @Test
    public void messagesAreTheSameWhenCodesAndValuesAre() {
        assertThat(Message.message("error.rich", 7L)).isEqualTo(Message.message("error.rich", 7L))
                .isNotEqualTo(Message.message("error.rich", 8L)).isNotEqualTo(Message.message("error.lean", 7L));
        assertThat(Message.NONE.then(Message.literal("x")).toString()).isEqualTo("x");
        assertThat(Message.join("", java.util.List.of(Message.NONE)).isEmpty()).isTrue();
    }

    /** Whatever the language, what is found is the same; only the telling differs. */
    @Test
    public void answerIsTheSameInEveryLanguage() {
        Advice a = Analysis.of(DemoDrive.sheet(), DemoDrive.drive().log(), Strategy.BALANCED).advice();
        Wording spanish = Wording.ENGLISH.in(Language.SPANISH);
        assertThat(spanish.text(a.sentence())).startsWith("El circuito de progresión").contains("37 thou a 34 thou");
        assertThat(WorkCard.of(a.changes().getFirst()).steps()).anyMatch(s -> spanish.text(s).contains("motor frío"));
    }
}
