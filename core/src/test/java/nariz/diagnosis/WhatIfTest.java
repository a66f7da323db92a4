package nariz.diagnosis;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import com.networknt.schema.InputFormat;
import com.networknt.schema.Schema;
import com.networknt.schema.SchemaRegistry;
import com.networknt.schema.SpecificationVersion;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.PartChange;
import nariz.carburetor.Stage;
import nariz.estimation.Observation;
import nariz.family.metered.MeteredParts;
import nariz.sim.DemoDrive;
import nariz.sim.SimulatedDrive;
import org.testng.annotations.Test;

public class WhatIfTest {
    private static final SimulatedDrive DRIVE = DemoDrive.drive();
    private static final Analysis ANALYSIS = Analysis.of(DemoDrive.sheet(), DRIVE.log(), Strategy.BALANCED);
    private static final WhatIf WHAT_IF = ANALYSIS.whatIf();

    @Test
    public void samePartsChangeNothing() {
        for (float r : WHAT_IF.ratio(DemoDrive.sheet())) {
            assertThat(r).isEqualTo(1f, within(1e-6f));
        }
    }

    @Test
    public void whatIsShownIsWhatWouldHaveBeenReadAtTheMomentOfTheEngine() {
        BuildSheet parts = MeteredParts.MAIN_JET.fit(DemoDrive.sheet(), Stage.PRIMARY, 64);
        double[] lambda = WHAT_IF.lambda(parts);
        float[] shown = WHAT_IF.shown(parts);
        assertThat(shown).hasSameSizeAs(lambda);
        int read = 0;
        for (int s = 0; s < shown.length; s++) {
            double there = lambda[ANALYSIS.observation().readingOf(s)];
            if (!Double.isNaN(there) && !Float.isNaN(shown[s])) {
                assertThat((double) shown[s]).isCloseTo(there, within(1e-5));
                read++;
            } else {
                assertThat(Float.isNaN(shown[s])).isEqualTo(Double.isNaN(there));
            }
        }
        assertThat(read).isGreaterThan(10_000);
    }

    @Test
    public void gridAgreesWithTheEstimateWhereTheCarLived() {
        BuildSheet parts = MeteredParts.MAIN_JET.fit(MeteredParts.IDLE_FEED_RESTRICTION.fit(DemoDrive.sheet(),
                Stage.PRIMARY, 34),
                Stage.PRIMARY, 64);
        float[] ratio = WHAT_IF.ratio(parts);
        double[] after = ANALYSIS.estimate().phiWith(parts);
        double off = 0;
        int n = 0;
        Observation o = ANALYSIS.observation();
        for (int i = 0; i < ratio.length; i++) {
            if (o.cellOf(i) >= 0) {
                off += Math.abs(ratio[o.stateOf(i)]
                        - after[o.cellOf(i)] / ANALYSIS.estimate().phi(o.cellOf(i)));
                n++;
            }
        }
        assertThat(off / n).isLessThan(0.01);
    }

    @Test
    public void partsThatAreReallyFittedGiveThePredictedDrive() {
        BuildSheet parts = MeteredParts.IDLE_FEED_RESTRICTION.fit(DemoDrive.sheet(), Stage.PRIMARY, 34);
        double[] predicted = WHAT_IF.lambda(parts);
        SimulatedDrive really = DemoDrive.drive(parts, DemoDrive.SEED);
        double before = 0;
        double off = 0;
        int n = 0;
        Observation o = ANALYSIS.observation();
        for (int i = 0; i < predicted.length; i++) {
            if (o.cellOf(i) >= 0 && o.cells().get(o.cellOf(i)).idle()) {
                before += really.log().lambda()[i] - DRIVE.log().lambda()[i];
                off += really.log().lambda()[i] - predicted[i];
                n++;
            }
        }
        assertThat(before / n).isGreaterThan(0.03);
        assertThat(Math.abs(off / n)).isLessThan(0.35 * before / n);
    }

    @Test
    public void changesAreReadWithSideAndUnit() {
        BuildSheet s = DemoDrive.sheet();
        assertThat(PartChange.parse("main-jet=62", s)).contains(
                new PartChange(MeteredParts.MAIN_JET, Stage.PRIMARY, 61, 62));
        assertThat(PartChange.parse("secondary.main-jet=1.9 mm", s).orElseThrow().to()).isEqualTo(74.8, within(0.01));
        assertThat(PartChange.parse("power-valve-rating=plugged", s).orElseThrow().to()).isZero();
        assertThat(PartChange.parse("float-level=-3 mm", s).orElseThrow().text())
                .hasToString("float level: as the family sets it to 3 mm too low");
        assertThat(PartChange.parse("idle-stop=0.25", s).orElseThrow().text())
                .hasToString("idle stop screw: 0.25 turns in");
        assertThat(PartChange.reason("float-level=20", s)).isEqualTo("float-level goes from -12 to 12 mm.");
        assertThat(PartChange.reason("main-jet", s)).contains("part=value");
        assertThat(PartChange.reason("jet=62", s)).contains("main-jet");
        assertThat(PartChange.reason("rear.main-jet=62", s)).contains("secondary.");
        assertThat(PartChange.reason("main-jet=big", s)).contains("a number");
        assertThat(PartChange.reason("main-jet=1.62", s)).contains("further than any carburetor goes");
        assertThat(PartChange.reason("step-up-spring=5", s)).contains("the sheet has no step-up springs");
    }

    @Test
    public void predictionFollowsThePublishedSchema() throws IOException {
        Schema schema = SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12).getSchema(
                Files.readString(Path.of("../docs/formats/prediction.schema.json")), InputFormat.JSON);
        Prediction p = Prediction.of(ANALYSIS, List.of(PartChange.parse("main-jet=64", DemoDrive.sheet())
                .orElseThrow()));
        String json = PredictionJson.write(p);
        assertThat(schema.validate(json, InputFormat.JSON)).isEmpty();
        assertThat(schema.validate(json.replace("\"main-jet\"", "\"choke\""), InputFormat.JSON)).isNotEmpty();
        assertThat(p.regimes()).hasSizeGreaterThanOrEqualTo(5);
        assertThat(p.lambda()).hasSameSizeAs(DRIVE.log().timeS());
    }

    @Test
    public void nothingIsPredictedWithoutAnEstimate() {
        Analysis little = Analysis.of(DemoDrive.sheet(), DemoAdviceTest.first(DRIVE.log(), 400), Strategy.BALANCED);
        assertThatThrownBy(little::whatIf).isInstanceOf(IllegalStateException.class)
                .hasMessageContaining("nothing was estimated");
    }
}
