package nariz.app.view;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import nariz.testing.Bundles;
import nariz.text.Language;
import org.testng.annotations.Test;

public class GuideTest {
    @Test
    public void bothLanguagesHaveTheSameSectionsInTheSameOrder() {
        Guide en = Guide.of(Language.ENGLISH);
        Guide es = Guide.of(Language.SPANISH);
        assertThat(es.sections()).extracting(Guide.Section::id).isEqualTo(en.sections().stream().map(Guide.Section::id)
                .toList()).doesNotHaveDuplicates();
        for (Guide.Section s : en.sections()) {
            Guide.Section other = es.of(s.id()).orElseThrow();
            assertThat(s.paragraphs()).as(s.id()).isNotEmpty().hasSameSizeAs(other.paragraphs());
            assertThat(other.title()).isNotEqualTo(s.title());
            assertThat(String.join(" ", other.paragraphs()).replaceAll("`[^`]*`", "")).as(s.id())
                    .doesNotContainPattern(Bundles.ENGLISH);
        }
    }

    /** Wherever F1 is pressed there is a section. */
    @Test
    public void everyPictureAndPanelHasItsSection() {
        Guide g = Guide.of(Language.ENGLISH);
        for (String id : List.of("start", "garage", "plane", "card", Pictures.TRACE, Pictures.TIP_INS,
                Pictures.ENRICHMENT, Pictures.PULLS, "compare", WorkColumn.TRY, WorkColumn.COMPARE,
                WorkColumn.RECORD)) {
            assertThat(g.of(id)).as(id).isPresent();
        }
    }

    @Test
    public void marksOfTheTextBecomeFaces() {
        assertThat(Guide.runs("* **Change**: one part, press *Fitted*.")).containsExactly(new Guide.Run("•  ", false),
                new Guide.Run("Change", true), new Guide.Run(": one part, press ", false), new Guide.Run("Fitted",
                true),
                new Guide.Run(".", false));
        assertThat(Guide.runs("`0 = 0.68` volts")).containsExactly(new Guide.Run("0 = 0.68 volts", false));
    }

    @Test
    public void wordsAreFoundInTitleAndText() {
        Guide.Section s = Guide.of(Language.ENGLISH).of("log").orElseThrow();
        assertThat(s.holds("stretch cursor")).isTrue();
        assertThat(s.holds("  The LOG ")).isTrue();
        assertThat(s.holds("stretch gearbox")).isFalse();
    }
}
