package nariz.carburetor;

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
import nariz.flow.Barrels;
import nariz.sim.DemoDrive;
import nariz.testing.Samples;
import org.testng.annotations.Test;

public class BuildSheetReaderTest {
    private static final String LEAST = """
            {"format": "nariz-build/1", "engine": {"displacement": "3.8 L", "cylinders": 6},
             "carburetor": {"family": "%s"}}
            """;

    @Test
    public void everyFieldOfTheSheetArrivesInSi() {
        BuildSheet s = BuildSheetReader.parse("six.json", Samples.sheet());
        assertThat(s.engine().displacementM3()).isEqualTo(3.8e-3);
        assertThat(s.engine().cam()).isEqualTo(Cam.MEDIUM);
        assertThat(s.ambient().temperatureK()).isEqualTo(290.15, within(1e-9));
        assertThat(Barrels.of(s.carburetor(), Stage.PRIMARY).main().jetM()).isEqualTo(61 * 25.4e-6, within(1e-12));
        assertThat(Barrels.of(s.carburetor(), Stage.PRIMARY).enrichment().valvePa()).isEqualTo(6.5 * 3386.389,
                within(1e-6));
        assertThat(Barrels.of(s.carburetor(), Stage.SECONDARY).enrichment().opensPa()).isZero();
    }

    @Test
    public void whatIsLeftOutIsFilledAndListed() {
        BuildSheet s = BuildSheetReader.parse("least.json", String.format(LEAST, "block-metered-4"));
        assertThat(s.assumed()).hasSizeGreaterThan(20).anyMatch(a -> a.startsWith("carburetor.primary.mainJet = "))
                .anyMatch(a -> a.equals("ambient.pressure = 101.3 kPa"));
        assertThat(BuildSheetReader.parse("six.json", Samples.sheet()).assumed())
                .noneMatch(a -> a.startsWith("carburetor.primary.mainJet"));
    }

    @Test
    public void rodFamilyGetsRodsThinnerThanTheJet() {
        Barrels b = Barrels.of(BuildSheetReader.parse("rods.json", String.format(LEAST, "rod-metered-4"))
                .carburetor(), Stage.PRIMARY);
        assertThat(b.enrichment().hasRods()).isTrue();
        assertThat(b.enrichment().rodPowerM()).isLessThan(b.enrichment().rodCruiseM());
        assertThat(b.enrichment().rodCruiseM()).isLessThan(b.main().jetM());
        assertThat(b.enrichment().opensPa()).isEqualTo(5 * 3386.389, within(1e-6));
    }

    @Test
    public void problemNamesLineColumnFieldAndRemedy() {
        String bad = Samples.sheet().replace("\"61 thou\"", "\"61 pints\"");
        assertThatThrownBy(() -> BuildSheetReader.parse("six.json", bad)).isInstanceOf(InputProblem.class)
                .hasMessage("six.json, line 23, column 18 (carburetor.primary.mainJet): found \"61 pints\". Write a "
                        + "number and a unit, for example \"65 thou\" (units: thou, mm, 1/100mm, in, m).");
    }

    @Test
    public void partsAreChangedOnACopy() {
        BuildSheet s = BuildSheetReader.parse("six.json", Samples.sheet());
        for (Part p : s.carburetor().family().parts()) {
            // What comes in a few kinds has their numbers alone.
            double size = p.role() == Part.Role.PUMP_VOLUME && p.unit().isEmpty() ? 2 : 42;
            BuildSheet t = p.fit(s, Stage.PRIMARY, size);
            assertThat(p.of(t.carburetor(), Stage.PRIMARY)).isEqualTo(size, within(1e-9));
            BuildSheet back = p.fit(t, Stage.PRIMARY, p.of(s.carburetor(), Stage.PRIMARY));
            for (Part other : Families.parts()) {
                for (Stage stage : Stage.values()) {
                    assertThat(other.of(back.carburetor(), stage)).as("%s after %s", other, p).isEqualTo(other.of(
                            s.carburetor(), stage), within(1e-9));
                }
            }
            assertThat(Families.part(p.key())).contains(p);
        }
    }

    @Test
    public void demoAndSampleFollowThePublishedSchema() throws IOException {
        Schema schema = SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12)
                .getSchema(Files.readString(Path.of("../docs/formats/build-sheet.schema.json")), InputFormat.JSON);
        assertThat(schema.validate(DemoDrive.sheetJson(), InputFormat.JSON)).isEmpty();
        assertThat(schema.validate(Samples.sheet(), InputFormat.JSON)).isEmpty();
        assertThat(schema.validate(Samples.sheet().replace("61 thou", "61 pints"), InputFormat.JSON)).isNotEmpty();
        assertThat(schema.validate(Samples.sheet().replace("mainJet", "mainJett"), InputFormat.JSON)).isNotEmpty();
    }
}
