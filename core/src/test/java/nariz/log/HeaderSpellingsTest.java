package nariz.log;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.testing.Samples;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Headers as loggers, spreadsheets and people write them. */
public class HeaderSpellingsTest {
    private static final int ROWS = 400;

    /**
     * Header, and what its columns are: channel:unit, with a ? where it has to be asked, - where it is not used (with
     * what its numbers are about).
     */
    @DataProvider
    Object[][] headers() {
        return new Object[][] {
            {"Time (s),Engine RPM,Manifold Vacuum (inHg),AFR 1,TPS %,Coolant Temp (F),GPS Speed (mph)",
                "time:s rpm:rpm vacuum:inhg afr: throttle:% coolant:f speed:mph"},
            {"time s,rpm rpm,map kPa,lambda -,throttle %,ect C",
                "time:s rpm:rpm map:kpa lambda: throttle:% coolant:c"},
            {"Elapsed Time,RPM,Vacuum inHg,Air/Fuel Ratio,Accelerator pedal %,Engine temp °F",
                "time:s rpm:rpm vacuum:inhg afr: throttle:% coolant:f"},
            {"TIME;RPM;VAC [inHg];A/F;TP %;CLT [°C]", "time:s rpm:rpm vacuum:inhg afr: throttle:% coolant:c"},
            {"Seconds,Revs,Man Vac (in.Hg),WB AFR,Throttle Pos (%),Oil temp (C)",
                "time:s rpm:rpm vacuum:inhg afr: throttle:% oil-temperature:c"},
            {"Zeit (s),Motordrehzahl (1/min),Unterdruck (mbar),Lambda,Gaspedal (%),Kühlmitteltemperatur (°C)",
                "time:s rpm:1/min vacuum:mbar lambda: throttle:% coolant:c"},
            {"Tiempo (s),Régimen motor (rpm),Vacío colector (kPa),Relación aire/combustible,Pedal (%),Temp. agua (°C)",
                "time:s rpm:rpm vacuum:kpa afr: throttle:% coolant:c"},
            {"Temps (s),Régime moteur (tr/min),Dépression collecteur (mbar),Richesse,Pédale (%),Température eau (°C)",
                "time:s rpm:tr/min vacuum:mbar lambda:1/lambda throttle:% coolant:c"},
            {"Tempo (s),Giri motore (rpm),Depressione (kPa),Lambda,Farfalla (%),Acqua (°C)",
                "time:s rpm:rpm vacuum:kpa lambda: throttle:% coolant:c"},
            {"Log Time,Engine speed (RPM),Intake vacuum (inches Hg),Wideband 1 AFR,Throttle position (percent)",
                "time:s rpm:rpm vacuum:inhg afr: throttle:percent"},
            // What was aimed at is no reading, and a stand-in gives way to what it stands in for.
            {"Time,RPM,Vacuum (inHg),Target AFR,Measured AFR (left),Measured AFR right,Pedal (%),TPS (%)",
                "time:s rpm:rpm vacuum:inhg - afr: afr-2: - throttle:%"},
            {"Time,RPM,Vacuum (inHg),AFR target,Wideband", "time:s rpm:rpm vacuum:inhg -14 ?afr:"},
            // A temperature is no pressure, whatever its numbers look like; a second pressure is not wanted.
            {"Time,RPM,Vacuum (inHg),AFR,Exhaust (C),Baro", "time:s rpm:rpm vacuum:inhg afr: - -"},
            {"Time,RPM,Vacuum (inHg),AFR (left),AFR (right)", "time:s rpm:rpm vacuum:inhg afr: afr-2:"},
            // Nothing but units to go by.
            {"Time,a (1/min),b (mph),Vacuum (inHg),AFR", "time:s ?rpm:1/min ?speed:mph vacuum:inhg afr:"},
        };
    }

    @Test(dataProvider = "headers")
    public void columnsAreWhatTheirNamesSay(String header, String expected) {
        String[] wanted = expected.split(" ", -1);
        char separator = header.contains(";") ? ';' : ',';
        Proposal p = LogReader.propose(file(header, separator, wanted));
        List<String> got = new ArrayList<>();
        for (int i = 0; i < p.width(); i++) {
            int field = i;
            got.add(p.plan().columns().stream().filter(c -> c.index() == field).map(c -> (c.certainty()
                    == ColumnPlan.Certainty.SURE ? "" : "?") + c.channel().name().toLowerCase(Locale.ROOT).replace('_',
                    '-') + ":" + c.unit()).findFirst().orElse("-"));
        }
        assertThat(got).containsExactly(expected.replace("-14", "-").split(" ", -1));
    }

    /** What is sure goes in without a question, and becomes the same drive whatever it is called. */
    @Test(dataProvider = "headers")
    public void whatIsSureIsReadAtOnce(String header, String expected) {
        if (expected.contains("?")) {
            return;
        }
        Path log = file(header, header.contains(";") ? ';' : ',', expected.split(" ", -1));
        BuildSheet sheet = BuildSheetReader.parse("six.json", Samples.sheet());
        DriveLog d = LogReader.read(log, sheet);
        assertThat(d.size()).isEqualTo(ROWS);
        assertThat(d.vacuumPa()[0]).isCloseTo(expected.contains("map") ? sheet.ambient().pressurePa()
                - 50.5e3 : 15 * 3386.4, org.assertj.core.api.Assertions.withinPercentage(1.0));
        assertThat(d.lambda()[0]).isCloseTo(0.9, org.assertj.core.api.Assertions.withinPercentage(1.0));
        assertThat(d.has(Channel.THROTTLE)).isEqualTo(expected.contains("throttle"));
    }

    private static Path file(String header, char separator, String[] wanted) {
        StringBuilder s = new StringBuilder(header).append('\n');
        for (int i = 0; i < ROWS; i++) {
            int row = i;
            s.append(java.util.Arrays.stream(wanted).map(w -> String.format(Locale.ROOT, "%.3f", value(w, row)))
                    .collect(Collectors.joining(String.valueOf(separator)))).append('\n');
        }
        try {
            return Files.writeString(Files.createTempFile("nariz", ".csv"), s);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** A slow drive from 15 inHg, lambda 0.9, in the unit of the column; what is not used looks like a pressure. */
    private static double value(String wanted, int row) {
        String[] w = wanted.replace("?", "").split(":", -1);
        double vacuumInHg = 15 + 5 * Math.sin(row / 40.0);
        double lambda = 0.9 + 0.1 * Math.sin(row / 50.0);
        return switch (w[0]) {
            case "time" -> 0.05 * row;
            case "rpm" -> 800 + 4 * row;
            case "vacuum" -> vacuumInHg * ("kpa".equals(w[1]) ? 3.3864 : "mbar".equals(w[1]) ? 33.864 : 1);
            case "map" -> 101.3 - 3.3864 * vacuumInHg;
            case "-14" -> 14.2 + 0.01 * row % 3;
            case "afr", "afr-2" -> 14.7 * lambda;
            case "lambda" -> "1/lambda".equals(w[1]) ? 1 / lambda : lambda;
            case "throttle" -> 0.05 * row;
            case "speed" -> 0.2 * row;
            case "coolant", "oil-temperature" -> "f".equals(w[1]) ? 190 : 88;
            default -> 88 + 0.01 * row % 3;
        };
    }
}
