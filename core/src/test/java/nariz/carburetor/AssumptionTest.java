package nariz.carburetor;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.TreeSet;
import nariz.testing.Bundles;
import nariz.text.Language;
import nariz.text.Wording;
import org.testng.annotations.Test;

public class AssumptionTest {
    @Test
    public void fieldIsNamedWithItsSideAndKeepsTheValueOfTheSheet() {
        assertThat(Assumption.words("carburetor.primary.mainJet = 57 thou")
                .toString()).isEqualTo("primary main jets: 57 thou");
        assertThat(Assumption.words("carburetor.pump.cam = standard").toString()).isEqualTo("pump cam: standard");
        assertThat(Assumption.words("engine.cam = medium").toString()).isEqualTo("camshaft: medium");
        assertThat(Wording.ENGLISH.in(Language.SPANISH).text(Assumption.words(
                "carburetor.secondary.plateBypassHole = 0 mm"))).isEqualTo(
                "taladro de aire en las mariposas (secundario): 0 mm");
    }

    /** The shortest sheet of every family leaves out all that can be left out. */
    @Test
    public void everyFieldThatCanBeLeftOutHasAName() {
        for (Language language : Language.values()) {
            Wording wording = Wording.ENGLISH.in(language);
            for (Family f : Families.all()) {
                List<String> assumed = BuildSheetReader.parse("least.json", """
                        {"format": "nariz-build/1", "engine": {"displacement": "3 L", "cylinders": 6},
                         "carburetor": {"family": "%s"}}""".formatted(f.key())).assumed();
                assertThat(assumed).hasSizeGreaterThanOrEqualTo(20);
                List<String> words = assumed.stream().map(a -> wording.text(Assumption.words(a))).toList();
                assertThat(new TreeSet<>(words)).hasSameSizeAs(words);
                List<String> names = words.stream().map(w -> w.replaceFirst(":.*", "")).toList();
                assertThat(names).noneMatch(w -> w.matches(".*\\b[a-z]+[A-Z].*"));
                if (language == Language.SPANISH) {
                    assertThat(names).noneMatch(w -> Bundles.ENGLISH.matcher(w).find());
                }
            }
        }
    }
}
