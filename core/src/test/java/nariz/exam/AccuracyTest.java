package nariz.exam;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import org.testng.annotations.Test;

/** docs/accuracy.md has the figures; this guards the examination itself, and against a collapse. */
public class AccuracyTest {
    @Test
    public void fiveCasesAreExaminedAndMostlyRight() {
        List<String> lines = new ArrayList<>();
        Accuracy.report(PracticeCase::of, 1, 5, lines::add, done -> assertThat(done).isBetween(0.0, 1.0));
        assertThat(lines).anyMatch(l -> l.startsWith("| worst error blamed"));
        List<String> rows = lines.stream().filter(l -> l.matches("\\| [1-5] \\|.*")).toList();
        assertThat(rows).hasSize(5);
        assertThat(rows.stream().filter(r -> !r.contains("NOT RIGHT")).count()).isGreaterThanOrEqualTo(3);
    }

    @Test
    public void caseIsTheSameEveryTimeAndItsErrorsAreFelt() {
        PracticeCase a = PracticeCase.of(2);
        PracticeCase b = PracticeCase.of(2);
        assertThat(a.errors()).isEqualTo(b.errors()).isNotEmpty();
        assertThat(a.healthy()).isEqualTo(b.healthy());
        for (PracticeCase.Misfit e : a.errors()) {
            assertThat(e.part().of(a.fitted().carburetor(), e.side())).isEqualTo(e.fitted());
            assertThat(e.healthy()).isNotEqualTo(e.fitted());
        }
    }
}
