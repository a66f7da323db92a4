package nariz.text;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import nariz.carburetor.Families;
import java.io.IOException;
import java.nio.file.Path;
import java.util.MissingResourceException;
import java.util.Properties;
import nariz.diagnosis.Advice;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Regime;
import nariz.diagnosis.Status;
import nariz.diagnosis.Strategy;
import nariz.diagnosis.WorkCard;
import nariz.carburetor.Part;
import nariz.carburetor.Stage;
import nariz.estimation.Flag;
import nariz.log.Channel;
import nariz.carburetor.Circuit;
import nariz.sim.DemoDrive;
import nariz.testing.Bundles;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.Test;

/** Every key the core asks for is there, in every language, with the same places for values. */
public class WordsTest {
    private static final Path FOLDER = Path.of("src/main/resources/nariz/words");

    @AfterMethod
    void english() {
        Words.speak(Language.ENGLISH);
    }

    @Test
    public void everyKeyThatIsAskedForIsThere() throws IOException {
        Properties base = Bundles.of(FOLDER.resolve("words.properties"));
        assertThat(base.stringPropertyNames()).containsAll(Bundles.asked(Path.of("src/main/java")));
    }

    @Test
    public void spanishHasEveryKeyWithTheSamePlaces() throws IOException {
        assertThat(Bundles.faults(Bundles.of(FOLDER.resolve("words.properties")),
                Bundles.of(FOLDER.resolve("words_es.properties")))).isEmpty();
    }

    @Test
    public void everythingThatIsListedHasANameInEveryLanguage() {
        for (Language l : Language.values()) {
            Words.speak(l);
            for (Part p : Families.parts()) {
                for (Stage s : Stage.values()) {
                    assertThat(p.named(s)).isNotBlank();
                    assertThat(p.title(s, 1, 2)).isNotBlank();
                }
            }
            for (Circuit c : Families.all().getFirst().circuits()) {
                assertThat(c.label() + c.shortLabel()).isNotBlank();
            }
            for (Regime r : Regime.values()) {
                assertThat(r.label()).isNotBlank();
            }
            for (Status s : Status.values()) {
                assertThat(s.label()).isNotBlank();
            }
            for (Flag f : Flag.values()) {
                assertThat(f.label()).isNotBlank();
            }
            for (Channel c : Channel.values()) {
                assertThat(c.label()).isNotBlank();
            }
        }
    }

    @Test
    public void keyThatNobodyWroteIsAnError() {
        assertThatThrownBy(() -> CoreWords.say("no.such.key")).isInstanceOf(MissingResourceException.class);
    }

    @Test
    public void languageIsFoundByItsCodeAndIsEnglishElsewhere() {
        assertThat(Language.of("es-MX")).isEqualTo(Language.SPANISH);
        assertThat(Language.of("de")).isEqualTo(Language.ENGLISH);
        assertThat(Language.of("")).isEqualTo(Language.ENGLISH);
        Words.speak(Language.SPANISH);
        assertThat(CoreWords.say("error.rich", 7L)).isEqualTo("7 % rica");
        Words.speak(Language.ENGLISH);
        assertThat(CoreWords.say("error.rich", 7L)).isEqualTo("7 % rich");
    }

    /** The same numbers, the same parts: only the words differ. */
    @Test
    public void answerIsTheSameInEveryLanguage() {
        Advice english = Analysis.of(DemoDrive.sheet(), DemoDrive.drive().log(), Strategy.BALANCED).advice();
        Words.speak(Language.SPANISH);
        Advice spanish = Analysis.of(DemoDrive.sheet(), DemoDrive.drive().log(), Strategy.BALANCED).advice();
        assertThat(spanish.verdict()).isEqualTo(english.verdict());
        assertThat(spanish.changes()).hasSameSizeAs(english.changes());
        assertThat(spanish.sentence()).startsWith("El circuito de progresión").contains("37 thou a 34 thou");
        assertThat(WorkCard.of(spanish.changes().getFirst()).steps()).anyMatch(s -> s.contains("motor frío"));
    }
}
