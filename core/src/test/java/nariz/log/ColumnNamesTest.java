package nariz.log;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.testng.annotations.Test;

/**
 * Names that people give to columns, in as many ways as they think of: with units before, behind, below or in brackets,
 * cut short, in several languages. Each is read at once where unit and words are there, or asked about; none is passed
 * over without a word.
 */
public class ColumnNamesTest {
    /** Names after what they are; behind a question mark what has to be asked first. */
    private static final String[][] NAMES = {
        {"rpm", "RPM", "rpm", "Rpm", "Engine Speed", "ENGINE_SPEED", "EngineSpeed", "engine speed (rpm)",
                "Eng Speed [rpm]",
            "RPM (1/min)", "rev/min", "Tach", "Tacho (rpm)", "Tachometer", "Crank speed (rpm)", "Motor RPM", "Revs",
            "Engine revs (rev/min)", "N mot (1/min)", "nMot [U/min]", "Drehzahl (1/min)", "Motordrehzahl [U/min]",
            "Régime moteur (tr/min)", "Régimen del motor (rpm)", "Revoluciones", "Giri motore (giri/min)", "Giri/min",
            "rpm x1000", "RPM (x1000)", "RPM (x10)", "Engine (rpm)", "Engine speed (rad/s)", "speed of engine, rpm"},
        {"vacuum", "vacuum_inHg", "Vacuum (inHg)", "Vac inHg", "VAC [in Hg]", "Man Vac (in.Hg)",
        "Manifold Vacuum, inHg",
            "manifoldVacuum_kPa", "MANIFOLD VAC kPa", "vacuum in inHg", "Intake vacuum (inches Hg)",
            "inHg vacuum", "Vacuum_mbar", "Engine vacuum mmHg", "Vacuum (inH2O)", "Unterdruck (mbar)",
            "Saugrohrunterdruck [hPa]", "Dépression collecteur (mbar)", "Depresión colector (kPa)", "Vacío (kPa)",
            "Depressione (kPa)", "Vuoto mmHg", "Vacuum gauge (inHg)", "Vac (Torr)", "vacuum (psi)"},
        {"map", "map_kPa", "MAP (kPa)", "MAP kPa abs", "Manifold pressure (kPa)", "Manifold Absolute Pressure [kPa]",
            "Man. abs. pressure (inHg)", "manifold_press_mbar", "Inlet pressure (mbar)", "kPa MAP",
            "Saugrohrdruck (hPa)", "Presión de admisión (kPa)", "Pression d'admission (mbar)",
            "Pressione collettore (mbar)", "intakeManifoldPressure_kPa", "MAP [psia]", "Intake pressure (bar)"},
        {"afr", "AFR", "afr", "AFR 1", "A/F", "A/F ratio", "Air Fuel Ratio", "Air/Fuel", "AirFuelRatio",
        "air-fuel ratio (:1)",
            "WB AFR", "WB1 AFR", "Wideband AFR", "wideband_afr", "Wideband 1 AFR", "AFR (left)", "AFR bank 1",
            "AFR (gasoline)",
            "AFR (E85)", "Measured AFR", "Actual A/F", "O2 AFR", "Exhaust AFR", "Mezcla", "Relación aire-combustible",
            "Luft/Kraftstoff-Verhältnis", "Gemisch", "Rapport air/carburant", "Rapporto aria/carburante"},
        {"afr-2", "AFR 2", "AFR2", "AFR (right)", "WB2 AFR", "AFR bank 2", "Wideband 2 AFR", "AFR RH", "AFR rechts"},
        {"lambda", "lambda", "Lambda 1", "λ", "Lambda (left)", "WB lambda", "Lambda value", "Lambdasonde links Lambda"},
        {"lambda-2", "Lambda 2", "lambda_right", "λ2", "Lambda Bank 2"},
        {"throttle", "tps_pct", "TPS (%)", "TPS%", "TPS %", "THR %", "Thr (%)", "Throttle", "Throttle position (%)",
        "throttlePos",
            "Throttle Angle %", "TP %", "Throttle opening, percent", "Drosselklappe (%)", "Drosselklappenstellung (%)",
            "Papillon (%)", "Mariposa (%)", "Apertura de mariposa (%)", "Farfalla (%)", "Pedal (%)",
            "Accelerator pedal (%)",
            "% throttle"},
        {"speed", "speed_kmh", "Speed (km/h)", "MPH", "mph", "km/h", "KPH", "Road speed (mph)", "Vehicle Speed [km/h]",
            "GPS speed (mph)", "GPS Speed (m/s)", "gps_speed_mps?", "VSS (mph)", "Speed (knots)", "Wheel speed km/h",
            "Velocidad (km/h)", "Geschwindigkeit (km/h)", "Vitesse (km/h)", "Velocità (km/h)",
            "Fahrgeschwindigkeit [km/h]"},
        {"coolant", "coolant_C", "Coolant (°C)", "Engine Coolant Temp (°C)", "Engine Coolant Temperature (C)", "ECT C",
        "CLT (F)",
            "Coolant Temp °F", "Water temp (C)", "WaterTemp_C", "H2O temp?", "water_temperature_degF",
            "Engine temp (F)",
            "Kühlmitteltemperatur (°C)", "Kühlwasser °C", "Wassertemperatur (°C)", "Temp. agua (°C)",
            "Temperatura del refrigerante (°C)", "Temp eau (°C)", "Temperatura acqua (°C)", "coolant temp deg C",
            "Coolant (K)"},
        {"oil-temperature", "Oil temp (C)", "Oil Temperature °F", "oil_temp_C", "Öltemperatur (°C)", "EOT (F)",
            "Temp aceite (°C)", "Température huile (°C)"},
        {"head-temperature", "CHT (F)", "Cyl head temp (°C)", "Cylinder Head Temp C", "head_temp_C", "CHT 1 (°C)",
            "Zylinderkopftemperatur (°C)", "Temperatura de culata (°C)"},
        {"run-time", "Run time (s)", "Engine run time (min)", "Minutes since start (min)"},
        {"airflow", "airflow_gs", "MAF (g/s)", "Mass air flow (kg/h)", "Mass Airflow [kg/hr]", "Air flow (lb/min)",
            "Luftmasse (kg/h)", "Débit d'air (kg/h)", "Caudal de aire (g/s)"},
        {"fuel-pressure", "fuel_psi", "Fuel (psi)", "Fuel Pressure (psi)", "Fuel Press psi", "Fuel pres (kPa)",
        "FP (psi)",
            "fuelPressure_kPa", "Carb fuel pressure (psi)", "Fuel line psi", "Petrol pressure (bar)", "FUEL P (PSI)",
            "Kraftstoffdruck (bar)", "Benzindruck (mbar)", "Presión de combustible (bar)", "Pression d'essence (bar)",
            "Pressione carburante (bar)", "Fuel pressure (psig)"},
        {"altitude", "altitude_m", "Alt (ft)", "GPS altitude (m)", "Elevation ft", "Höhe (m)", "Altitud (m)",
        "Quota (m)"},
    };

    private static final String[] EVENTS = {"Event", "Event Marker", "Marker", "Mark", "Lap", "Marca", "Ereignis",
            "Notes"};

    private static double[] range(String channel, String name) {
        String n = name.toLowerCase(Locale.ROOT);
        return switch (channel) {
            case "rpm" -> n.contains("x1000") ? new double[] {0.8, 5} : n.contains("x10") ? new double[] {80, 500}
                    : n.contains("rad") ? new double[] {80, 500} : new double[] {800, 5000};
            case "vacuum" -> n.contains("psi") ? new double[] {1, 11} : n.contains("h2o") ? new double[] {20, 280}
                    : n.contains("mm") || n.contains("torr") ? new double[] {50, 550}
                    : n.contains("mbar") || n.contains("hpa") ? new double[] {60, 700}
                    : n.contains("kpa") ? new double[] {6, 70} : new double[] {2, 21};
            case "map" -> n.contains("mbar") || n.contains("hpa") ? new double[] {300, 990} : n.contains("inhg")
                    ? new double[] {9, 29} : n.contains("psi") ? new double[] {5, 14} : n.contains("bar")
                    ? new double[] {0.3, 0.99} : new double[] {30, 99};
            case "afr", "afr-2" -> new double[] {12, 16};
            case "lambda", "lambda-2" -> new double[] {0.8, 1.1};
            case "throttle" -> new double[] {0, 90};
            case "fuel-pressure" -> n.contains("kpa") ? new double[] {35, 45} : n.contains("mbar") ? new double[] {300,
                400} : n.contains("bar") ? new double[] {0.3, 0.4} : new double[] {5, 6.5};
            case "odd" -> new double[] {-500, -100};
            default -> new double[] {20, 90};
        };
    }

    /** A log in which the name stands, below or beside its unit where it has one. */
    private static Proposal proposal(String name, String channel) throws java.io.IOException {
        StringBuilder s = new StringBuilder("time_s;").append(name).append(";zz filler\n");
        double[] r = range(channel, name);
        for (int i = 0; i < 60; i++) {
            s.append(String.format(Locale.ROOT, "%.2f;%.3f;x\n", 0.05 * i, r[0] + (r[1] - r[0]) * (i * 7 % 60) / 59.0));
        }
        return LogReader.propose("names.csv", new java.io.ByteArrayInputStream(s.toString().getBytes(
                java.nio.charset.StandardCharsets.UTF_8)));
    }

    @Test
    public void everyNameIsReadOrAskedAbout() throws java.io.IOException {
        List<String> wrong = new ArrayList<>();
        int names = 0;
        for (String[] row : NAMES) {
            for (int i = 1; i < row.length; i++) {
                boolean asked = row[i].endsWith("?");
                String name = asked ? row[i].substring(0, row[i].length() - 1) : row[i];
                Optional<ColumnPlan> c = proposal(name, row[0]).plan().columns().stream().filter(p -> p.index() == 1)
                        .findFirst();
                String got = c.map(p -> p.channel().key() + (p.certainty() == ColumnPlan.Certainty.SURE ? "" : "?"))
                        .orElse("nothing");
                if (!got.equals(row[0] + (asked ? "?" : ""))) {
                    wrong.add(name + ": " + got + ", not " + row[0] + (asked ? "?" : ""));
                }
                names++;
            }
        }
        assertThat(names).isGreaterThanOrEqualTo(200);
        assertThat(wrong).isEmpty();
    }

    @Test
    public void columnsOfMarksAreFound() throws java.io.IOException {
        for (String e : EVENTS) {
            assertThat(proposal(e, "none").plan().events()).as(e).isEqualTo(1);
        }
    }

    /** What has a name that is known and no use is told, and so is what has none. */
    @Test
    public void whatIsNotReadIsNamedWithWhatItLooksLike() throws java.io.IOException {
        String[][] told = {{"Battery (V)", "battery voltage"}, {"Ignition advance (deg)", "ignition"}, {"Gear",
                "the gear"},
            {"IAT (C)", "air temperature"}, {"EGT 1 (C)", "exhaust temperature"}, {"Oil pressure (psi)",
            "oil pressure"},
            {"Target AFR", "a target"}, {"Lap time (s)", "a lap timer"}, {"Lap Timer", "a lap timer"}, {"Latitude",
            "a position"},
            {"Baro (kPa)", "a barometer"}, {"lateral g", "acceleration"}, {"qwertz", "is not known here"}};
        for (String[] t : told) {
            List<UnreadColumn> u = proposal(t[0], "odd").plan().unread();
            assertThat(u.getFirst().title()).isEqualTo(t[0]);
            assertThat(u.getFirst().looksLike().toString()).as(t[0]).contains(t[1]);
            assertThat(u.getFirst().matters()).as(t[0]).isFalse();
        }
    }

    /** A unit that is named and not known is asked about, whatever the numbers look like. */
    @Test
    public void aNamedUnitIsUnderstoodOrAskedNeverOverridden() throws java.io.IOException {
        for (String n : new String[] {"AFR (LPG)", "Lambda (phi)", "AFR (lambda)", "Vacuum (furlong)", "Airflow (CFM)",
            "RPM (furlong)", "Speed (parsec)", "Fuel pressure (V)"}) {
            Proposal p = proposal(n, "none");
            assertThat(p.plan().columns().stream().filter(c -> c.index() == 1)).as(n).isEmpty();
            assertThat(p.plan().unread().getFirst().looksLike().toString()).as(n).contains("a unit that is not known");
        }
        assertThat(proposal("RPM (rad/s)", "rpm").plan().columns().get(1).scale().toSi(100)).isCloseTo(954.93,
                org.assertj.core.api.Assertions.within(0.01));
        assertThat(proposal("Vacuum (inH2O)", "vacuum").plan().columns().get(1).scale().toSi(100)).isCloseTo(24908.89,
                org.assertj.core.api.Assertions.within(0.01));
        assertThat(proposal("Speed (knots)", "speed").plan().columns().get(1).scale().toSi(10)).isCloseTo(5.1444,
                org.assertj.core.api.Assertions.within(0.001));
        assertThat(proposal("MAF (kg/hr)", "airflow").plan().columns().get(1).scale().toSi(36)).isCloseTo(0.01,
                org.assertj.core.api.Assertions.within(1e-9));
    }
}
