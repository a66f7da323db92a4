package nariz.carburetor;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowable;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import nariz.log.LogReader;
import nariz.testing.Malformed;
import nariz.testing.Samples;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Every bad file ends in one message with place, matter and remedy. */
public class MalformedInputTest {
    @DataProvider
    Object[][] cases() {
        return Malformed.all().stream().map(c -> new Object[] {c}).toArray(Object[][]::new);
    }

    @Test(dataProvider = "cases")
    public void badFileIsNamedWithPlaceAndRemedy(Malformed.Case c) throws IOException {
        Path file = Files.createTempFile("nariz", c.sheet() ? ".json" : ".csv");
        try {
            Files.write(file, c.content());
            BuildSheet good = BuildSheetReader.parse("good.json", Samples.sheet());
            Throwable t = catchThrowable(() -> {
                if (c.sheet()) {
                    BuildSheetReader.read(file);
                } else {
                    LogReader.read(file, good);
                }
            });
            assertThat(t).as("message of %s", c).isInstanceOf(InputProblem.class);
            assertThat(t.getMessage()).startsWith(file.getFileName().toString());
            for (String words : c.says()) {
                assertThat(t.getMessage()).containsIgnoringCase(words);
            }
            assertThat(((InputProblem) t).wanted().toString()).as("remedy").hasSizeGreaterThan(20);
        } finally {
            Files.delete(file);
        }
    }

    @Test
    public void thereAreAHundredOfThem() {
        assertThat(Malformed.all()).hasSizeGreaterThanOrEqualTo(100);
    }

    @Test
    public void theSampleTheyAreMadeFromIsGood() throws IOException {
        BuildSheet good = BuildSheetReader.parse("good.json", Samples.sheet());
        Path file = Files.createTempFile("nariz", ".csv");
        Files.writeString(file, Samples.log());
        assertThat(LogReader.read(file, good).size()).isEqualTo(1000);
        Files.delete(file);
    }
}
