package nariz.diagnosis;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.stream.LongStream;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Ladder;
import nariz.carburetor.Part;
import nariz.carburetor.Stage;
import nariz.estimation.Estimate;
import nariz.estimation.Estimator;
import nariz.estimation.FaultShapes;
import nariz.estimation.Observation;
import nariz.sim.Demo;
import nariz.sim.DriveScript;
import nariz.sim.EngineSimulator;
import nariz.sim.Fault;
import org.testng.annotations.Test;

/** How a leak is read from what the carburetor on the sheet does not explain: three twin-chokes, several drives. */
public class UnexplainedTest {
    private static final double UNIT_M2 = 3e-6;
    private static final int DRIVES = 4;
    private static final Map<Fault, Double> LEAK = Map.of(Fault.VACUUM_LEAK, 2.5);

    private record Read(Observation o, Estimate estimate, Scorer scorer) {
        static Read of(BuildSheet sheet, Map<Fault, Double> faults, long seed) {
            Observation o = Observation.of(new EngineSimulator(sheet, seed, faults, seed)
                    .drive(DriveScript.twelveMinutes(), 20, "drive").log(), sheet, () -> false);
            Estimate e = Estimator.of(o);
            return new Read(o, e, new Scorer(sheet, Strategy.BALANCED, e));
        }

        Unexplained.Size leak() {
            return new Unexplained(o.sheet(), scorer, estimate).of(FaultShapes.leak(o.sheet(), o.cells(), UNIT_M2));
        }
    }

    private static List<Unexplained.Size> leaks(BuildSheet sheet, Map<Fault, Double> faults) {
        return LongStream.rangeClosed(1, DRIVES).parallel().mapToObj(s -> Read.of(sheet, faults, s).leak()).toList();
    }

    private static double mean(List<Unexplained.Size> sizes) {
        return sizes.stream().mapToDouble(Unexplained.Size::gamma).average().orElseThrow();
    }

    @Test
    public void leakIsReadAndNoneWhereThereIsNone() {
        List<Unexplained.Size> none = leaks(Demo.ROADSTER.sheet(), Map.of());
        List<Unexplained.Size> leaking = leaks(Demo.ROADSTER.sheet(), LEAK);
        double sd = none.getFirst().sd();
        assertThat(sd).isBetween(0.3, 3.0);
        assertThat(Math.abs(mean(none))).isLessThan(2.0 * sd);
        assertThat(mean(leaking) - mean(none)).isGreaterThan(sd);
    }

    @Test
    public void wrongIdleJetOnTheSheetIsNoLeak() {
        Part jet = Ladder.of(Demo.ROADSTER.sheet()).stream().filter(l -> l.part().role() == Part.Role.IDLE_FUEL)
                .findFirst().orElseThrow().part();
        BuildSheet lean = jet.fit(Demo.ROADSTER.sheet(), Stage.PRIMARY, 0.8 * jet.of(Demo.ROADSTER.sheet()
                .carburetor(), Stage.PRIMARY));
        double moved = mean(leaks(lean, Map.of())) - mean(leaks(Demo.ROADSTER.sheet(), Map.of()));
        double leak = mean(leaks(Demo.ROADSTER.sheet(), LEAK)) - mean(leaks(Demo.ROADSTER
                .sheet(), Map.of()));
        assertThat(Math.abs(moved)).isLessThan(0.6 * leak);
    }

    @Test
    public void whatHasNoShapeHasNoSize() {
        Read r = Read.of(Demo.ROADSTER.sheet(), Map.of(), 1);
        Unexplained u = new Unexplained(r.o().sheet(), r.scorer(), r.estimate());
        assertThat(u.of(new double[r.o().cells().size()]).sd()).isInfinite();
        double[] once = FaultShapes.leak(r.o().sheet(), r.o().cells(), UNIT_M2);
        double[] twice = Arrays.stream(once).map(x -> 2 * x).toArray();
        assertThat(u.of(twice).gamma()).isEqualTo(u.of(once).gamma() / 2, within(1e-9));
        assertThat(u.of(twice).sd()).isEqualTo(u.of(once).sd() / 2, within(1e-9));
    }
}
