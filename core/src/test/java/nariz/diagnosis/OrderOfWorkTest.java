package nariz.diagnosis;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Ladder;
import nariz.carburetor.Part;
import nariz.carburetor.Stage;
import nariz.estimation.Estimator;
import nariz.estimation.Observation;
import nariz.family.metered.MeteredParts;
import nariz.sim.DemoDrive;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class OrderOfWorkTest {
    private static final BuildSheet SHEET = DemoDrive.sheet();
    private static final Scorer SCORER = scorer();

    private static Scorer scorer() {
        Observation o = Observation.of(DemoDrive.drive().log(), SHEET, () -> false);
        return new Scorer(SHEET, Strategy.BALANCED, Estimator.of(o));
    }

    private static Decision.Step step(Part part, double by) {
        Ladder ladder = Ladder.of(SHEET).stream().filter(l -> l.part().equals(part) && l.stage() == Stage.PRIMARY)
                .findFirst().orElseThrow();
        return new Decision.Step(ladder, ladder.fitted(SHEET), ladder.fitted(SHEET) + by);
    }

    /** Changes a regime by a tenth, and transfer by some share of that. */
    private static double[] effect(Regime g, double inTransfer) {
        return IntStream.range(0, SCORER.size()).mapToDouble(i -> SCORER.regime(i) == g ? 0.1
                : SCORER.regime(i) == Regime.TRANSFER ? 0.1 * inTransfer : 0.0).toArray();
    }

    @DataProvider
    Object[][] gains() {
        // How much of the idle's change the jets' region feels, gains of screws and jets, which goes first.
        return new Object[][] {{0.0, 1.0, 1.5, false}, {0.0, 1.0, 1.2, true}, {0.0, 1.0, 0.5, true},
            {1.0, 1.0, 1.5, true}, {1.0, 1.0, 2.5, false}};
    }

    @Test(dataProvider = "gains")
    public void earlierCircuitGoesFirstUnlessItIsHardlyOffOrMovesNothingOfTheLater(double shared, double screws,
            double jets, boolean screwsFirst) {
        Decision.Step early = step(MeteredParts.MIXTURE_SCREW, 0.25);
        Decision.Step late = step(MeteredParts.MAIN_JET, 1.0);
        Map<Decision.Step, double[]> effects = Map.of(early, effect(Regime.IDLE, shared), late, effect(Regime.CRUISE,
                shared));
        Map<Decision.Step, Double> gains = Map.of(early, screws, late, jets);
        List<Decision.Step> order = new OrderOfWork(SHEET, SCORER, effects::get, gains::get).of(List.of(late, early));
        assertThat(order).containsExactlyInAnyOrder(early, late);
        assertThat(order.getFirst()).isEqualTo(screwsFirst ? early : late);
    }

    @Test
    public void whatSitsBehindTheSameBowlIsMadeTogetherInTheOrderOfWork() {
        Decision.Step early = step(MeteredParts.IDLE_FEED_RESTRICTION, 1.0);
        Decision.Step late = step(MeteredParts.MAIN_JET, 1.0);
        Map<Decision.Step, double[]> effects = Map.of(early, effect(Regime.IDLE, 0.0), late, effect(Regime.CRUISE,
                0.0));
        Map<Decision.Step, Double> gains = Map.of(early, 1.0, late, 1.8);
        assertThat(new OrderOfWork(SHEET, SCORER, effects::get, gains::get).of(List.of(late, early)))
                .containsExactly(early, late);
    }

    @Test
    public void nothingToDoHasAnOrderToo() {
        assertThat(new OrderOfWork(SHEET, SCORER, s -> new double[SCORER.size()], s -> 0.0).of(List.of())).isEmpty();
    }
}
