package nariz.exam;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.testng.annotations.Test;

/** docs/accuracy.md has the figures; this guards the examination itself, and against a collapse. */
public class AccuracyTest {
    @Test
    public void threeCasesAreExaminedAndMostlyRight() {
        List<String> lines = new ArrayList<>();
        Accuracy.report(PracticeCase::of, 1, 3, lines::add, done -> assertThat(done).isBetween(0.0, 1.0));
        assertThat(lines).anyMatch(l -> l.startsWith("| worst error blamed"));
        List<String> rows = lines.stream().filter(l -> l.matches("\\| [1-3] \\|.*")).toList();
        assertThat(rows).hasSize(3);
        assertThat(rows.stream().filter(r -> !r.contains("NOT RIGHT")).count()).isGreaterThanOrEqualTo(2);
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

    @Test
    public void strangersComeAsPartsFaultsAndSoundEnginesByTurns() {
        PracticeCase parts = PracticeCase.stranger(3);
        assertThat(parts.stranger()).isTrue();
        assertThat(parts.errors()).isNotEmpty();
        assertThat(parts.faults()).isEmpty();
        PracticeCase fault = PracticeCase.stranger(1);
        assertThat(fault.errors()).isEmpty();
        assertThat(fault.faults()).hasSize(1);
        PracticeCase sound = PracticeCase.stranger(2);
        assertThat(sound.errors()).isEmpty();
        assertThat(sound.faults()).isEmpty();
        assertThat(sound.fitted()).isEqualTo(sound.healthy());
    }

    @Test
    public void drivesOfAnotherSimulatorAreJudgedByHalvesOfTheirEngines() throws IOException {
        Path folder = Files.createTempDirectory("reference");
        for (String stem : List.of("v01-0", "v02-1")) {
            ReferenceFolder.write(folder, stem, stem.endsWith("1"));
        }
        List<String> lines = new ArrayList<>();
        ReferenceReport.write(ReferenceDrive.all(folder), lines::add);
        assertThat(lines).contains("| first half of the engines | result |", "| second half | result |")
                .anyMatch(l -> l.startsWith("| fuel parts for a sound engine | 0 of 1"))
                .anyMatch(l -> l.startsWith("| engines out of tune: right circuit in the first answer | ")
                        && l.endsWith(" of 1 |"))
                .anyMatch(l -> l.startsWith("| v02-1 | pri_ifr 37 for 34 | "))
                .anyMatch(l -> l.matches("\\| v01-0 \\| \\d+ \\| 0\\.\\d+ \\(.* to .*\\) \\| 0\\.\\d+ \\|"));
        assertThat(lines.getLast()).contains("intervals hold ").endsWith(" of 1.");
    }
}
