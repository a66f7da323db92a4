package nariz.exam;

import static org.assertj.core.api.Assertions.assertThat;

import org.testng.annotations.Test;

/** Engines nobody has set up, taken by the adviser from a form left blank to a tune. */
public class UsualSizesTest {
    /**
     * Between two ratings of this engine's valve the mixture is too rich on the one side and too lean on the other. It
     * went to and fro between them for as long as anyone drove.
     */
    @Test
    public void valveIsNotChangedToAndFro() {
        PracticeCase paper = PracticeCase.usualSizes("block-metered-4", 10);
        assertThat(paper.errors()).hasSizeGreaterThan(4);
        Examination.Outcome o = Examination.sit(paper);
        assertThat(o.answers.stream().filter(a -> a.contains("power valve")).count()).isBetween(1L, 2L);
        assertThat(o.tuned).isTrue();
    }

    @Test
    public void whatIsWrongIsWhatAGoodSetUpHasInAnotherSize() {
        PracticeCase paper = PracticeCase.usualSizes("single-venturi", 4);
        assertThat(PracticeCase.apply(paper.healthy(), paper.errors()).carburetor()).isEqualTo(paper.fitted()
                .carburetor());
        assertThat(paper.faults()).isEmpty();
    }
}
