package nariz.diagnosis;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CancellationException;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Circuit;
import nariz.carburetor.Stage;
import nariz.estimation.Cell;
import nariz.estimation.Estimate;
import nariz.estimation.Estimator;
import nariz.estimation.Observation;
import nariz.exam.PracticeCase;
import nariz.sim.DriveScript;
import nariz.sim.EngineSimulator;
import nariz.sim.Fault;
import nariz.sim.Seeds;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/** What circuits are said to give while a fault may be there. */
public class UnderFaultTest {
    private static final BuildSheet SHEET = PracticeCase.ofFamily("single-venturi", 18).healthy();
    private static final Circuit MAIN = SHEET.carburetor().family().circuit(Stage.PRIMARY, Circuit.Role.METERING)
            .orElseThrow();

    private Observation leaking;
    private Estimate unaware;
    private CausePosterior posterior;

    private static EngineSimulator car(Map<Fault, Double> faults) {
        return new EngineSimulator(SHEET, Seeds.spread(18), faults, 18);
    }

    @BeforeClass
    public void drive() {
        leaking = Observation.of(car(Map.of(Fault.VACUUM_LEAK, 1.5)).drive(DriveScript.twelveMinutes(), 20, "leaking")
                .log(), SHEET, () -> false);
        unaware = Estimator.of(leaking);
        posterior = new CausePosterior(new Scorer(SHEET, Strategy.BALANCED, unaware), unaware, leaking, List.of(),
                List.of(), () -> false);
    }

    /** Fuel of the main circuit over what the sheet has, in the places of the drive; of all the air, as it is burnt. */
    private double trueMain() {
        EngineSimulator car = car(Map.of(Fault.VACUUM_LEAK, 1.5));
        double truth = 0.0;
        double sheet = 0.0;
        for (int i = 0; i < leaking.cells().size(); i++) {
            Cell c = leaking.cells().get(i);
            double w = Math.min(c.dwellS(), 10.0);
            truth += w * c.film() * car.steadyPhi(c.rpm(), c.vacuumPa())[MAIN.index()];
            sheet += w * unaware.sheetPhi(i, MAIN);
        }
        return truth / sheet;
    }

    /** An estimate that knows no leaks takes one for a lean idle and a rich main circuit. */
    @Test
    public void besideALeakTheMainCircuitGivesWhatItGives() {
        List<UnderFault> under = UnderFault.of(leaking, posterior, Optional.empty(), () -> false);
        assertThat(under).allMatch(f -> f.probability() >= 0.03);
        UnderFault leak = under.stream().filter(UnderFault::real).max((a, b) -> Double.compare(a.probability(),
                b.probability())).orElseThrow();
        assertThat(leak.probability()).isGreaterThan(0.3);
        double truth = trueMain();
        Scorer scorer = new Scorer(SHEET, Strategy.BALANCED, unaware);
        CircuitFinding said = new CircuitFindings(leaking, unaware, scorer, under).of(List.of(),
                Optional.empty(), false, Optional.empty(), 0).get(MAIN.index());
        assertThat(unaware.low(MAIN)).as("unaware").isGreaterThan(truth);
        assertThat(said.low()).isLessThan(truth);
        assertThat(said.high()).isGreaterThan(truth);
        assertThat(Math.abs(said.correction() - truth)).isLessThan(0.7 * Math.abs(unaware.correction(MAIN) - truth));
    }

    @Test
    public void besideNothingItIsTheEstimate() {
        Estimate same = Estimator.beside(leaking, new double[leaking.cells().size()], Optional.empty());
        SHEET.carburetor().family().circuits().forEach(c -> assertThat(same.correction(c)).isEqualTo(unaware
                .correction(c)));
    }

    @Test
    public void itEndsWhenCancelled() {
        assertThatThrownBy(() -> UnderFault.of(leaking, posterior, Optional.empty(), () -> true)).isInstanceOf(
                CancellationException.class);
    }
}
