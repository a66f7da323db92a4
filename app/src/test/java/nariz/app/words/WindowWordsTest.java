package nariz.app.words;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Properties;
import nariz.app.state.Glossary;
import nariz.app.state.DriveDecisions;
import nariz.app.state.Stop;
import nariz.app.state.Stops;
import nariz.carburetor.Circuit;
import nariz.carburetor.Families;
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

    /** Properties drop spaces before a value: a sentence that is joined to another by them is not joined at all. */
    @Test
    public void noWordsCountOnASpaceBeforeThem() throws IOException {
        Path core = Path.of("../core/src/main/resources/nariz/text");
        for (Path file : List.of(FOLDER.resolve("words.properties"), FOLDER.resolve("words_es.properties"),
                core.resolve("messages.properties"), core.resolve("messages_es.properties"))) {
            assertThat(Files.readAllLines(file)).noneMatch(l -> l.matches("\\S+ = \\s+.*"));
        }
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
            Hypothesis.FAULTS.forEach(c -> assertThat(DriveDecisions.causeLabel(c)).isNotBlank());
            assertThat(Glossary.words()).hasSizeGreaterThan(15).allMatch(w -> w.contains(": "));
        }
    }

    /** Sentences about an opening are asked for by the stop's name: pump and dampers have each their own. */
    @Test
    public void pumpAndDampersHaveTheirOwnSentences() throws IOException {
        Properties base = Bundles.of(FOLDER.resolve("words.properties"));
        List<String> both = List.of("look", "mind", "1", "2", "3", "4", "5", "proof", "nothing-known", "too-much",
                "too-little", "leave", "no-part", "soon-again");
        List<String> ids = Families.all().stream().flatMap(f -> f.circuits().stream()).filter(c -> c.role()
                == Circuit.Role.PUMP).map(Circuit::id).distinct().toList();
        assertThat(ids).containsExactlyInAnyOrder("pump", "damper");
        for (String id : ids) {
            both.forEach(k -> assertThat(base.stringPropertyNames()).contains("opening-stop." + id + "." + k));
            assertThat(Stops.all()).filteredOn(s -> s.id().equals(id)).hasSize(1);
        }
        assertThat(base.stringPropertyNames()).contains("opening-stop.damper.sticks");
    }
}
