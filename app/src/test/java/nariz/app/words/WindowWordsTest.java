package nariz.app.words;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Path;
import java.util.Properties;
import nariz.app.state.Glossary;
import nariz.app.state.Session;
import nariz.app.state.Stop;
import nariz.app.state.Stops;
import nariz.carburetor.SheetDraft;
import nariz.diagnosis.Hypothesis;
import nariz.testing.Bundles;
import nariz.text.Language;
import nariz.text.Wording;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.Test;

/** Every key the window asks for is there, in every language, with the same places for values. */
public class WindowWordsTest {
    private static final Path FOLDER = Path.of("src/main/resources/nariz/app/words");

    @AfterMethod
    void english() {
        WindowWords.use(Wording.ENGLISH.in(Language.ENGLISH));
    }

    @Test
    public void everyKeyThatIsAskedForIsThere() throws IOException {
        Properties base = Bundles.of(FOLDER.resolve("words.properties"));
        // A message is put into words by the core, whoever made it.
        base.putAll(Bundles.of(Path.of("../core/src/main/resources/nariz/text/messages.properties")));
        assertThat(base.stringPropertyNames()).containsAll(Bundles.asked(Path.of("src/main/java")));
    }

    @Test
    public void spanishHasEveryKeyWithTheSamePlaces() throws IOException {
        assertThat(Bundles.faults(Bundles.of(FOLDER.resolve("words.properties")),
                Bundles.of(FOLDER.resolve("words_es.properties")))).isEmpty();
    }

    @Test
    public void stopsCausesAndWordsOfTheTradeHaveNamesInEveryLanguage() {
        for (Language l : Language.values()) {
            WindowWords.use(Wording.ENGLISH.in(l));
            for (Stop s : Stops.all()) {
                assertThat(s.label().toString()).isNotBlank();
            }
            SheetDraft.blank().fields().stream().flatMap(f -> f.choices().stream()).forEach(c -> assertThat(
                    WindowWords.say("choice." + c)).isNotBlank());
            Hypothesis.FAULTS.forEach(c -> assertThat(Session.causeLabel(c)).isNotBlank());
            assertThat(Glossary.words()).hasSizeGreaterThan(15).allMatch(w -> w.contains(": "));
        }
    }
}
