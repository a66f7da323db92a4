package nariz.app.state;

import java.io.IOException;
import java.io.Reader;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;
import java.util.Properties;
import java.util.function.Function;
import nariz.text.Language;
import nariz.units.Shown;
import nariz.workbook.AtomicFile;

/**
 * How somebody likes the window: language, colours, size of text, units. Kept in a small file of key and value from one
 * sitting to the next; a file that is missing or spoiled counts as empty, since nothing of the work is in it.
 */
public final class Settings {
    private static final String LANGUAGE = "language";
    private static final String NIGHT = "night";
    private static final String TEXT = "text-px";
    private static final String MIXTURE = "mixture";
    private static final String PRESSURE = "vacuum";
    private static final String SIZE = "holes";
    private static final String ROAD = "road";
    private static final String TOURED = "toured";
    private static final String LOG_HIGH = "log-high";
    private static final String CONTRAST = "contrast";
    private static final String PLACE = "window";

    private final Path file;
    private final Properties values = new Properties();

    private Settings(Path file) {
        this.file = file;
    }

    /** {@return settings that are kept nowhere} */
    public static Settings none() {
        return new Settings(null);
    }

    /**
     * Settings of a file.
     *
     * @param file where they are kept; begun when something is first set
     * @return its settings
     */
    public static Settings of(Path file) {
        Settings s = new Settings(file);
        if (Files.isReadable(file)) {
            try (Reader in = Files.newBufferedReader(file, StandardCharsets.UTF_8)) {
                s.values.load(in);
            } catch (IOException | IllegalArgumentException e) {
                s.values.clear();
            }
        }
        return s;
    }

    /** {@return the language chosen, empty when none was} */
    public Optional<Language> language() {
        return Optional.ofNullable(values.getProperty(LANGUAGE)).map(Language::of);
    }

    /** {@return whether the colours are those of the night} */
    public boolean night() {
        return Boolean.parseBoolean(values.getProperty(NIGHT));
    }

    /** {@return size of text in px, empty when none was chosen} */
    public Optional<Double> textPx() {
        return read(TEXT, Double::valueOf).filter(Double::isFinite);
    }

    /** {@return how mixtures are shown} */
    public MixtureUnit mixture() {
        return read(MIXTURE, MixtureUnit::valueOf).orElse(MixtureUnit.LAMBDA);
    }

    /** {@return units of everything else} */
    public Shown shown() {
        return new Shown(read(PRESSURE, Shown.Pressure::valueOf).orElse(Shown.USUAL.pressure()),
                read(SIZE, Shown.Size::valueOf).orElse(Shown.USUAL.size()),
                read(ROAD, Shown.Road::valueOf).orElse(Shown.USUAL.road()));
    }

    private <T> Optional<T> read(String key, Function<String, T> meaning) {
        try {
            return Optional.ofNullable(values.getProperty(key)).map(meaning);
        } catch (IllegalArgumentException e) {
            return Optional.empty();
        }
    }

    /** {@return whether somebody new sits here, who has not been shown round yet} */
    public boolean tourDue() {
        return file != null && values.getProperty(TOURED) == null;
    }

    /** Keeps that somebody was shown round, or did not want to be. */
    public void toured() {
        keep(TOURED, "true");
    }

    /** {@return whether more contrast is wanted; empty where nobody said, and the platform decides} */
    public Optional<Boolean> contrast() {
        return Optional.ofNullable(values.getProperty(CONTRAST)).map(Boolean::valueOf);
    }

    /**
     * Keeps whether more contrast is wanted.
     *
     * @param more whether it is
     */
    public void contrast(boolean more) {
        keep(CONTRAST, Boolean.toString(more));
    }

    /** {@return whether the log is drawn high} */
    public boolean logHigh() {
        return Boolean.parseBoolean(values.getProperty(LOG_HIGH));
    }

    /**
     * Keeps how high the log is drawn.
     *
     * @param high whether it is drawn high
     */
    public void logHigh(boolean high) {
        keep(LOG_HIGH, Boolean.toString(high));
    }

    /** {@return place of the window: left, top, width, height, px; empty where it was never moved} */
    public Optional<double[]> place() {
        return read(PLACE, s -> Arrays.stream(s.split(" ")).mapToDouble(Double::parseDouble).toArray()).filter(
                p -> p.length == 4 && Arrays.stream(p).allMatch(Double::isFinite) && p[2] > 0 && p[3] > 0);
    }

    /**
     * Keeps the place of the window.
     *
     * @param left px
     * @param top px
     * @param width px
     * @param height px
     */
    public void place(double left, double top, double width, double height) {
        keep(PLACE, String.format(Locale.ROOT, "%.0f %.0f %.0f %.0f", left, top, width, height));
    }

    /**
     * Keeps the language.
     *
     * @param l language
     */
    public void language(Language l) {
        keep(LANGUAGE, l.locale().getLanguage());
    }

    /**
     * Keeps the colours.
     *
     * @param dark true for the night
     */
    public void night(boolean dark) {
        // A window takes on the colours it is given when it opens; that is no choice.
        if (dark != night()) {
            keep(NIGHT, Boolean.toString(dark));
        }
    }

    /**
     * Keeps the size of text.
     *
     * @param px px
     */
    public void textPx(double px) {
        keep(TEXT, Double.toString(px));
    }

    /**
     * Keeps how mixtures are shown.
     *
     * @param u unit
     */
    public void mixture(MixtureUnit u) {
        keep(MIXTURE, u.name());
    }

    /**
     * Keeps the units of everything else.
     *
     * @param u units
     */
    public void shown(Shown u) {
        keep(PRESSURE, u.pressure().name());
        keep(SIZE, u.size().name());
        keep(ROAD, u.road().name());
    }

    /** A few lines, written where they are set, whole or not at all. */
    private void keep(String key, String value) {
        if (value.equals(values.setProperty(key, value)) || file == null) {
            return;
        }
        try {
            Files.createDirectories(file.toAbsolutePath().getParent());
            AtomicFile.write(file, out -> {
                StringBuilder s = new StringBuilder();
                values.stringPropertyNames().stream().sorted().forEach(k -> s.append(k).append(" = ")
                        .append(values.getProperty(k)).append('\n'));
                out.write(s.toString().getBytes(StandardCharsets.UTF_8));
            });
        } catch (IOException | UncheckedIOException e) {
            // It holds for this sitting; there is nothing the user could do about it now.
            System.getLogger(Settings.class.getName()).log(System.Logger.Level.DEBUG, "settings not kept", e);
        }
    }
}
