package nariz.log;

import java.io.IOException;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import nariz.units.Units;

/** Writes a drive log as the CSV that {@link LogReader} reads: comma, decimal point, units in the header. */
public final class LogWriter {
    private LogWriter() {
    }

    /**
     * Writes a file.
     *
     * @param log the drive
     * @param file where to; replaced when it exists
     * @throws IOException when writing fails
     */
    public static void write(DriveLog log, Path file) throws IOException {
        try (Writer w = Files.newBufferedWriter(file, StandardCharsets.UTF_8)) {
            write(log, w);
        }
    }

    /**
     * Writes to a stream of characters.
     *
     * @param log the drive
     * @param w where to; not closed
     * @throws IOException when writing fails
     */
    public static void write(DriveLog log, Writer w) throws IOException {
        List<Channel> channels = new ArrayList<>(log.recorded());
        w.write(String.join(",", channels.stream().map(LogWriter::header).toList()));
        w.write('\n');
        for (int i = 0; i < log.size(); i++) {
            for (int c = 0; c < channels.size(); c++) {
                if (c > 0) {
                    w.write(',');
                }
                w.write(text(channels.get(c), log.values(channels.get(c))[i]));
            }
            w.write('\n');
        }
    }

    private static String header(Channel c) {
        return switch (c) {
            case LAMBDA -> "afr";
            case LAMBDA_2 -> "afr2";
            default -> c.header();
        };
    }

    private static String text(Channel c, double si) {
        if (Double.isNaN(si)) {
            return "";
        }
        return switch (c) {
            case TIME -> format("%.3f", si);
            case RPM -> format("%.0f", si);
            case VACUUM -> format("%.2f", si / Units.INHG);
            case MAP -> format("%.2f", si / 1e3);
            case LAMBDA, LAMBDA_2 -> format("%.2f", si * Units.PETROL_GAUGE_STOICH);
            case THROTTLE -> format("%.1f", si * 100.0);
            case SPEED -> format("%.1f", si * 3.6);
            case AIRFLOW -> format("%.2f", si * 1e3);
            case FUEL_PRESSURE -> format("%.2f", si / 1e3);
            case ALTITUDE -> format("%.1f", si);
            case RUN_TIME -> format("%.1f", si);
            case COOLANT, OIL_TEMPERATURE, HEAD_TEMPERATURE -> format("%.1f", si - Units.ZERO_CELSIUS_K);
            case AFR, AFR_2 -> format("%.2f", si);
        };
    }

    private static String format(String f, double v) {
        return String.format(Locale.ROOT, f, v);
    }
}
