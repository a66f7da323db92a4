package nariz.app.state;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import nariz.text.Language;
import nariz.units.Shown;
import org.testng.annotations.Test;

public class SettingsTest {
    private static final Shown METRIC = new Shown(Shown.Pressure.KPA, Shown.Size.MM, Shown.Road.IMPERIAL);

    private static Path file() throws IOException {
        return Files.createTempDirectory("nariz").resolve("home").resolve("window.properties");
    }

    @Test
    public void whatIsLikedIsThereAtTheNextStart() throws IOException {
        Path file = file();
        Settings s = Settings.of(file);
        s.language(Language.SPANISH);
        s.night(true);
        s.textPx(17);
        s.mixture(MixtureUnit.AFR);
        s.shown(METRIC);
        Settings again = Settings.of(file);
        assertThat(again.language()).contains(Language.SPANISH);
        assertThat(again.night()).isTrue();
        assertThat(again.textPx()).contains(17.0);
        assertThat(again.mixture()).isEqualTo(MixtureUnit.AFR);
        assertThat(again.shown()).isEqualTo(METRIC);
        assertThat(Files.readString(file)).startsWith("holes = MM\nlanguage = es\n");
    }

    @Test
    public void nothingIsWrittenBeforeSomethingIsChosen() throws IOException {
        Path file = file();
        Settings s = Settings.of(file);
        assertThat(s.language()).isEmpty();
        assertThat(s.shown()).isEqualTo(Shown.USUAL);
        assertThat(s.textPx()).isEqualTo(Optional.empty());
        s.night(false);
        assertThat(file).doesNotExist();
        s.night(true);
        assertThat(Files.readString(file)).isEqualTo("night = true\n");
        s.night(false);
        assertThat(Settings.of(file).night()).isFalse();
    }

    @Test
    public void whatCannotBeUnderstoodCountsAsNotChosen() throws IOException {
        Path file = file();
        Files.createDirectories(file.getParent());
        Files.writeString(file, "vacuum = FURLONG\nholes = MM\ntext-px = large\nnight = perhaps\nlanguage = xx\n");
        Settings s = Settings.of(file);
        assertThat(s.shown()).isEqualTo(new Shown(Shown.Pressure.INHG, Shown.Size.MM, Shown.Road.METRIC));
        assertThat(s.textPx()).isEmpty();
        assertThat(s.night()).isFalse();
        assertThat(s.language()).contains(Language.ENGLISH);
        Files.write(file, new byte[] {(byte) 0xc3, 0x28, 0, 1});
        assertThat(Settings.of(file).shown()).isEqualTo(Shown.USUAL);
        Files.writeString(file, "vacuum = \\u00zz\n");
        assertThat(Settings.of(file).shown()).isEqualTo(Shown.USUAL);
    }

    @Test
    public void aPlaceThatCannotBeWrittenLosesNothingOfThisSitting() throws IOException {
        Path blocked = Files.createTempFile("nariz", ".file").resolve("window.properties");
        Settings s = Settings.of(blocked);
        s.night(true);
        assertThat(s.night()).isTrue();
        assertThat(blocked).doesNotExist();
        Settings.none().night(true);
    }
}
