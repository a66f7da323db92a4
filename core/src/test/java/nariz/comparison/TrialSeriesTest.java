package nariz.comparison;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.networknt.schema.InputFormat;
import com.networknt.schema.SchemaRegistry;
import com.networknt.schema.SpecificationVersion;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.InputProblem;
import nariz.carburetor.Stage;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Regime;
import nariz.diagnosis.Strategy;
import nariz.family.metered.MeteredParts;
import nariz.sim.DemoDrive;
import nariz.sim.DriveScript;
import nariz.sim.EngineSimulator;
import org.testng.annotations.Test;

/** Four ratings on one road. */
public class TrialSeriesTest {
    private static final BuildSheet TUNED = MeteredParts.IDLE_FEED_RESTRICTION.fit(DemoDrive.sheet(), Stage.PRIMARY,
            34);

    private static TrialSeries.Drive drive(BuildSheet sheet, int day) {
        return new TrialSeries.Drive("day " + day, Analysis.of(sheet, DemoDrive.again(sheet, day).log(),
                Strategy.BALANCED));
    }

    private static BuildSheet rated(double inHg) {
        return MeteredParts.POWER_VALVE_RATING.fit(TUNED, Stage.PRIMARY, inHg);
    }

    /** The late valve is the worst, one of the middle ones the best, and the drives agree where it does nothing. */
    @Test
    public void fourRatings() throws IOException {
        List<TrialSeries.Drive> drives = new ArrayList<>();
        int day = 1;
        for (double inHg : new double[] {3.5, 5.5, 6.5, 10.5}) {
            drives.add(drive(rated(inHg), day++));
        }
        TrialSeries s = TrialSeries.of(drives);
        assertThat(s.part()).isEqualTo(MeteredParts.POWER_VALVE_RATING);
        assertThat(s.trials()).extracting(TrialSeries.Trial::size).containsExactly(3.5, 5.5, 6.5, 10.5);
        assertThat(s.trials().get(s.best()).size()).isBetween(5.5, 6.5);
        assertThat(s.trials().get(0).score()).isGreaterThan(1.5 * s.trials().get(s.best()).score());
        assertThat(s.regimes()).contains(Regime.IDLE, Regime.POWER);
        double[] late = s.trials().get(0).errors().get(Regime.POWER);
        double[] right = s.trials().get(s.best()).errors().get(Regime.POWER);
        assertThat(late[0]).isGreaterThan(right[0] + 0.04);
        assertThat(s.next().map(n -> n > 3.5 && n < 10.5).orElse(true)).isTrue();
        assertThat(s.warnings()).noneMatch(m -> m.code().equals("series.more-than-one-part"));
        assertThat(s.sentence().toString()).contains("power valve");
        assertThat(SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12).getSchema(Files.readString(
                Path.of("../docs/formats/series.schema.json")), InputFormat.JSON).validate(SeriesJson.write(s),
                InputFormat.JSON)).isEmpty();
    }

    private static TrialSeries.Drive nozzles(double thou, int day) {
        BuildSheet s = MeteredParts.PUMP_NOZZLE.fit(rated(6.5), Stage.PRIMARY, thou);
        return new TrialSeries.Drive("day " + day, Analysis.of(s, new EngineSimulator(s, DemoDrive.SEED, Map.of(), day)
                .withPump(s.carburetor().family().pumpSetting(s).orElseThrow()).drive(DriveScript.twelveMinutes().then(
                DriveScript.openings()), 20, "nozzles").log(), Strategy.BALANCED));
    }

    /** Nozzles far too small make openings hesitate lean; ones twice as large as lose least are no better any more. */
    @Test
    public void nozzlesAreScoredByWhatBurnsLeanOrRich() {
        TrialSeries s = TrialSeries.of(List.of(nozzles(14, 1), nozzles(45, 2), nozzles(90, 3)));
        assertThat(s.part()).isEqualTo(MeteredParts.PUMP_NOZZLE);
        double[] score = s.trials().stream().mapToDouble(TrialSeries.Trial::score).toArray();
        assertThat(s.best()).isEqualTo(1);
        assertThat(score[0]).isGreaterThan(2.0 * score[1]);
        assertThat(score[2]).isGreaterThan(1.05 * score[1]);
        assertThat(s.trials()).allMatch(t -> t.scoreSd() >= 0.35 * t.score());
    }

    /** What was turned besides is said, and so is a drive of another setting with the same part. */
    @Test
    public void saysWhatElseMoved() {
        BuildSheet two = MeteredParts.MAIN_JET.fit(rated(6.5), Stage.PRIMARY, MeteredParts.MAIN_JET.of(rated(6.5)
                .carburetor(), Stage.PRIMARY) + 3);
        TrialSeries s = TrialSeries.of(List.of(drive(rated(3.5), 1), drive(rated(5.5), 2), drive(two, 3)));
        assertThat(s.part()).isEqualTo(MeteredParts.POWER_VALVE_RATING);
        assertThat(s.warnings()).anyMatch(m -> m.code().equals("series.more-than-one-part")
                && m.toString().contains("day 3"));

        // Screws turned out without a word on the sheet.
        BuildSheet turned = MeteredParts.MIXTURE_SCREW.fit(rated(5.5), Stage.PRIMARY, MeteredParts.MIXTURE_SCREW.of(
                rated(5.5).carburetor(), Stage.PRIMARY) + 1.0);
        Analysis untold = Analysis.of(rated(5.5), DemoDrive.again(turned, 2).log(), Strategy.BALANCED);
        TrialSeries moved = TrialSeries.of(List.of(drive(rated(3.5), 1), new TrialSeries.Drive("day 2", untold)));
        assertThat(moved.warnings()).anyMatch(m -> m.code().equals("series.moved-rich")
                && m.toString().contains("idle"));
    }

    /** One drive is no series, and neither are two with the same parts. */
    @Test
    public void refusesWhatIsNoSeries() {
        TrialSeries.Drive one = drive(rated(5.5), 1);
        assertThatThrownBy(() -> TrialSeries.of(List.of(one))).isInstanceOf(InputProblem.class)
                .hasMessageContaining("two drives or more");
        assertThatThrownBy(() -> TrialSeries.of(List.of(one, drive(rated(5.5), 2)))).isInstanceOf(InputProblem.class)
                .hasMessageContaining("no part that differs");
    }
}
