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
import nariz.family.metered.MeteredParts;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

public class KitReaderTest {
    private static final String KIT = """
            {"format": "nariz-kit/1",
             "have": {"main-jet": ["63 thou", "1.5 mm"], "power-valve-rating": ["plugged", "22 kPa"]},
             "ladder": {"step-up-spring": ["3 inHg", "5 inHg", "8 inHg"]},
             "drill": ["idle-feed-restriction"]}
            """;

    @Test
    public void sizesArriveInThePartsUnitAndRising() {
        Kit k = KitReader.parse("kit.json", KIT);
        assertThat(k.have().get(MeteredParts.MAIN_JET).get(0)).isEqualTo(59.06, within(0.01));
        assertThat(k.have().get(MeteredParts.MAIN_JET).get(1)).isEqualTo(63, within(1e-9));
        assertThat(k.has(MeteredParts.POWER_VALVE_RATING, 0)).isTrue();
        assertThat(k.ladder().get(MeteredParts.STEP_UP_SPRING)).hasSize(3);
        assertThat(k.drills(MeteredParts.IDLE_FEED_RESTRICTION, 30, 32)).isTrue();
        assertThat(k.drills(MeteredParts.IDLE_FEED_RESTRICTION, 32, 30)).isFalse();
        assertThat(k.known()).isTrue();
        assertThat(Kit.NONE.known()).isFalse();
    }

    @Test
    public void fileWithAByteOrderMarkIsReadAndOtherBytesAreRefused() throws IOException {
        Path file = Files.createTempFile("kit", ".json");
        Files.writeString(file, "\uFEFF" + KIT);
        assertThat(KitReader.read(file)).isEqualTo(KitReader.parse("kit.json", KIT));
        Files.write(file, new byte[] {'{', (byte) 0xff, '}'});
        assertThatThrownBy(() -> KitReader.read(file)).isInstanceOf(InputProblem.class)
                .hasMessageContaining("bytes that are not text");
        Files.delete(file);
        assertThatThrownBy(() -> KitReader.read(file)).isInstanceOf(InputProblem.class)
                .hasMessageContaining("cannot be read");
    }

    @DataProvider
    public Object[][] bad() {
        return new Object[][] {
            {"", "an empty file"},
            {"{\"format\": \"nariz-kit/2\"}", "nariz-kit/2"},
            {"{\"format\": \"nariz-kit/1\", \"have\": {\"jets\": [\"60 thou\"]}}", "not known here"},
            {"{\"format\": \"nariz-kit/1\", \"have\": {\"main-jet\": \"60 thou\"}}", "60 thou"},
            {"{\"format\": \"nariz-kit/1\", \"have\": {\"main-jet\": []}}", "a list"},
            {"{\"format\": \"nariz-kit/1\", \"have\": {\"main-jet\": [60]}}", "60"},
            {"{\"format\": \"nariz-kit/1\", \"have\": {\"main-jet\": [\"60 inHg\"]}}", "60 inHg"},
            {"{\"format\": \"nariz-kit/1\", \"have\": {\"main-jet\": [\"-60 thou\"]}}", "-60 thou"},
            {"{\"format\": \"nariz-kit/1\", \"drill\": [\"step-up-spring\"]}", "step-up-spring"},
            {"{\"format\": \"nariz-kit/1\", \"drill\": [3]}", "3"},
            {"{\"format\": \"nariz-kit/1\", \"box\": {}}", "not known here"},
        };
    }

    @Test(dataProvider = "bad")
    public void badKitsAreRefusedWithPlaceAndRemedy(String json, String found) {
        assertThatThrownBy(() -> KitReader.parse("kit.json", json)).isInstanceOf(InputProblem.class)
                .hasMessageContaining("kit.json").hasMessageContaining(found);
    }

    @Test
    public void exampleFollowsThePublishedSchema() throws IOException {
        Schema schema = SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12)
                .getSchema(Files.readString(Path.of("../docs/formats/kit.schema.json")), InputFormat.JSON);
        assertThat(schema.validate(KIT, InputFormat.JSON)).isEmpty();
        assertThat(schema.validate(KIT.replace("main-jet", "jets"), InputFormat.JSON)).isNotEmpty();
    }
}
