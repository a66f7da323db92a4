package nariz.diagnosis;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.concurrent.CancellationException;
import java.util.stream.IntStream;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Ladder;
import nariz.carburetor.PartChange;
import nariz.carburetor.Stage;
import nariz.estimation.Estimator;
import nariz.estimation.Observation;
import nariz.family.metered.MeteredParts;
import nariz.sim.DemoDrive;
import org.testng.annotations.Test;

public class WrongPartsTest {
    private static final BuildSheet SHEET = DemoDrive.sheet();
    private static final Scorer SCORER = new Scorer(SHEET, Strategy.BALANCED, Estimator.of(Observation.of(
            DemoDrive.drive().log(), SHEET, () -> false)));

    private static WrongParts after(PartChange... since) {
        return WrongParts.of(SHEET, SCORER, List.of(since), 0.5, () -> false);
    }

    /** Index of the move that takes the primary main jets so many steps from what is fitted. */
    private static int jets(WrongParts p, int steps) {
        return IntStream.range(0, p.moves().size()).filter(v -> {
            WrongParts.Move m = p.moves().get(v);
            return m.ladder().part().equals(MeteredParts.MAIN_JET) && m.ladder().stage() == Stage.PRIMARY
                    && Math.abs(m.to() - m.ladder().fitted(SHEET) - steps * m.ladder().step()) < 1e-9;
        }).findFirst().orElseThrow();
    }

    private static double fitted() {
        return MeteredParts.MAIN_JET.of(SHEET.carburetor(), Stage.PRIMARY);
    }

    private static PartChange jetsChanged(double from) {
        return new PartChange(MeteredParts.MAIN_JET, Stage.PRIMARY, from, fitted());
    }

    @Test
    public void sizesOfAPartShareOutItsProbability() {
        WrongParts p = after();
        for (int part = 0; part < Ladder.of(SHEET).size(); part++) {
            int at = part;
            assertThat(p.moves().stream().filter(m -> m.part() == at).mapToDouble(m -> Math.exp(m.logPrior())).sum())
                    .isEqualTo(1.0, within(1e-9));
        }
        assertThat(p.moves()).noneMatch(WrongParts.Move::back);
        assertThat(p.logPrior()).isEqualTo(Math.log(0.12), within(1e-12));
        double one = IntStream.range(0, p.moves().size()).mapToDouble(v -> Math.exp(p.logPrior(v))).sum();
        assertThat(one).isEqualTo(0.36, within(1e-9));
    }

    /** However a car that was changed is told, what was wrong when it was found keeps its probability. */
    @Test
    public void changeMakesItNoOtherCar() {
        double step = Ladder.of(SHEET).stream().filter(l -> l.part().equals(MeteredParts.MAIN_JET)
                && l.stage() == Stage.PRIMARY).findFirst().orElseThrow().step();
        WrongParts p = after(jetsChanged(fitted() - 2 * step));
        int back = jets(p, -2);
        assertThat(p.moves().get(back).back()).isTrue();
        assertThat(p.logPrior(back)).as("nothing was wrong").isEqualTo(Math.log(0.12), within(1e-12));
        int part = p.moves().get(back).part();
        double stays = Math.exp(p.logPrior());
        double further = IntStream.range(0, p.moves().size()).filter(v -> p.moves().get(v).part() == part && v != back)
                .mapToDouble(v -> Math.exp(p.logPrior(v))).sum();
        assertThat(stays + further).as("these jets alone were wrong").isEqualTo(0.36 / Ladder.of(SHEET).size(),
                within(1e-9));
        int more = jets(p, 1);
        assertThat(p.logPrior(more)).as("a little more is hardly less likely").isBetween(p.logPrior() - 1.0,
                p.logPrior());
    }

    @Test
    public void faultIsASecondThingWhereSomethingWasChanged() {
        WrongParts untouched = after();
        WrongParts p = after(jetsChanged(fitted() - 1));
        assertThat(untouched.logPriorBeside(new int[0], 0.1, 0.25)).isEqualTo(Math.log(0.1), within(1e-12));
        assertThat(p.logPriorBeside(new int[0], 0.1, 0.25)).isLessThan(Math.log(0.1 * 0.25 / Ladder.of(SHEET).size()));
        assertThat(p.logPriorBeside(new int[] {jets(p, -1)}, 0.1, 0.25)).isEqualTo(Math.log(0.1), within(1e-12));
    }

    /** A part that goes back to beyond what is looked at now was still of that size when the car was found. */
    @Test
    public void sizeFarAwayIsNoMoveBack() {
        WrongParts p = after(jetsChanged(0.4 * fitted()));
        assertThat(p.moves()).noneMatch(WrongParts.Move::back);
        assertThat(p.logPrior(jets(p, -1))).isGreaterThan(p.logPrior(jets(p, 1)));
    }

    /** Files have three decimals, and a sixteenth of a turn has four. */
    @Test
    public void sizeThatAFileRoundedIsStillTheOneTheCarWasFoundWith() {
        WrongParts p = after(jetsChanged(fitted() - 2 + 0.0005));
        assertThat(p.moves()).filteredOn(WrongParts.Move::back).extracting(WrongParts.Move::to)
                .containsExactly(fitted() - 2);
        assertThat(after(jetsChanged(fitted() + 0.0005)).logPrior()).isEqualTo(after().logPrior());
    }

    @Test
    public void isCancelled() {
        assertThatThrownBy(() -> WrongParts.of(SHEET, SCORER, List.of(), 0.5, () -> true)).isInstanceOf(
                CancellationException.class);
    }
}
