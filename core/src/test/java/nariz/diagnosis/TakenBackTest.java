package nariz.diagnosis;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.List;
import java.util.Optional;
import java.util.function.ToDoubleFunction;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Ladder;
import nariz.carburetor.Part;
import nariz.carburetor.PartChange;
import nariz.carburetor.Stage;
import nariz.estimation.EarlierEstimate;
import nariz.family.metered.MeteredParts;
import nariz.sim.DemoDrive;
import org.testng.annotations.Test;

public class TakenBackTest {
    private static final BuildSheet SHEET = DemoDrive.sheet();
    private static final EarlierEstimate NOTHING = new EarlierEstimate(List.of(), new double[0], new double[0][], 0.0,
            1.0);
    private static final PartChange VALVE = new PartChange(MeteredParts.POWER_VALVE_RATING, Stage.PRIMARY, 5.5, 3.5);
    private static final PartChange JET = new PartChange(MeteredParts.MAIN_JET, Stage.PRIMARY, 70, 72);

    private static RegimeError error(Regime g, double mean, double rms) {
        return new RegimeError(g, 20.0, 0.9, 0.9 * (1.0 + mean), mean, rms, 0.0);
    }

    private static Previous advice(List<PartChange> changes, RegimeError... before) {
        return new Previous(changes, changes, java.util.Arrays.stream(before).map(e -> new Previous.Expected(e, 0.9,
                0.8, 1.0)).toList(), NOTHING, false);
    }

    private static Decision.Step step(Part part, double from, double to) {
        return new Decision.Step(Ladder.of(SHEET).stream().filter(l -> l.part().equals(part) && l.stage()
                == Stage.PRIMARY).findFirst().orElseThrow(), from, to);
    }

    private static final Decision.Step BACK = step(MeteredParts.POWER_VALVE_RATING, 3.5, 5.5);

    /** Rich by the tolerance before, as lean now, which under load counts twice: going back gains one. */
    @Test
    public void whatWasReadBeforeIsWhatGoingBackGains() {
        RegimeError rich = error(Regime.POWER, -0.07, 0.07);
        RegimeError lean = error(Regime.POWER, 0.07, 0.07);
        RegimeError unread = error(Regime.FULL, 0.2, 0.2);
        TakenBack back = TakenBack.of(Optional.of(advice(List.of(VALVE), rich, unread)), List.of(lean, error(
                Regime.CRUISE, 0.1, 0.1))).orElseThrow();
        assertThat(back.gain()).isCloseTo(1.0, within(1e-9));
        // Foretold to lose 3.0 of 5.0: it is known to lose 4.0.
        ToDoubleFunction<List<Decision.Step>> predicted = s -> 3.0;
        assertThat(back.misjudged(List.of(BACK), 5.0, predicted)).isCloseTo(1.0, within(1e-9));
        assertThat(back.misjudged(List.of(step(MeteredParts.MAIN_JET, 70, 71), BACK), 5.0, predicted)).isCloseTo(1.0,
                within(1e-9));
        assertThat(back.misjudged(List.of(step(MeteredParts.POWER_VALVE_RATING, 3.5, 4.5)), 5.0, predicted)).isZero();
        assertThat(back.misjudged(List.of(), 5.0, predicted)).isZero();
    }

    /** Better before than foretold is no promise: the way of running the change was made for may not have been read. */
    @Test
    public void goingBackIsNeverMadeOutBetterThanForetold() {
        TakenBack back = TakenBack.of(Optional.of(advice(List.of(VALVE), error(Regime.POWER, 0.0, 0.01))), List.of(
                error(Regime.POWER, 0.2, 0.2))).orElseThrow();
        assertThat(back.gain()).isGreaterThan(10.0);
        assertThat(back.misjudged(List.of(BACK), 5.0, s -> 3.0)).isZero();
    }

    /** Half of it taken back was not driven. */
    @Test
    public void allOfTheChangeHasToGoBack() {
        TakenBack back = TakenBack.of(Optional.of(advice(List.of(VALVE, JET), error(Regime.POWER, 0.0, 0.01))), List
                .of(error(Regime.POWER, 0.01, 0.02))).orElseThrow();
        ToDoubleFunction<List<Decision.Step>> predicted = s -> 5.0 - s.size();
        assertThat(back.misjudged(List.of(BACK), 5.0, predicted)).isZero();
        assertThat(back.misjudged(List.of(BACK, step(MeteredParts.MAIN_JET, 72, 70)), 5.0, predicted)).isGreaterThan(
                1.5);
    }

    @Test
    public void whatNoLadderTakesBackIsLeftOut() {
        List<RegimeError> today = List.of(error(Regime.POWER, 0.01, 0.02));
        assertThat(TakenBack.of(Optional.empty(), today)).isEmpty();
        assertThat(TakenBack.of(Optional.of(advice(List.of(), today.getFirst())), today)).isEmpty();
        assertThat(TakenBack.of(Optional.of(advice(List.of(VALVE), error(Regime.IDLE, 0, 0.01))), today)).isEmpty();
        assertThat(TakenBack.of(Optional.of(advice(List.of(new PartChange(MeteredParts.IDLE_STOP, Stage.PRIMARY, 0,
                0.5)), today.getFirst())), today)).isEmpty();
    }
}
