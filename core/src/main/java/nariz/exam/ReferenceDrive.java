package nariz.exam;

import de.siegmar.fastcsv.reader.CsvReader;
import de.siegmar.fastcsv.reader.NamedCsvRecord;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Stream;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.diagnosis.Regime;
import nariz.log.DriveLog;
import nariz.log.LogReader;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/**
 * A drive from a simulator that is not part of this project, with its answer, as it lies in a folder beside it.
 *
 * @param name letter of the drive
 * @param engine what stands before the hyphen in the name of its files; drives of one engine share it
 * @param sheet what is fitted
 * @param healthy the same with the sizes that would be right; what is fitted where nothing or a fault is hidden
 * @param log what the logger recorded
 * @param hidden what is wrong, in words; empty when nothing is
 * @param keys what is wrong, as the folder names it: parts with their side, or a fault
 * @param fault whether what is wrong is a fault and no part
 * @param meanError true mean of lambda/target - 1 by regime
 * @param rms true root mean square of the same
 * @param healthyRms what the healthy parts leave of it on this engine; empty where the folder does not say
 * @param inside what only the simulator knows, by column name, SI where it says so in the folder's own notes
 */
public record ReferenceDrive(String name, String engine, BuildSheet sheet, BuildSheet healthy, DriveLog log,
        String hidden, List<String> keys, boolean fault, Map<Regime, Double> meanError, Map<Regime, Double> rms,
        Map<Regime, Double> healthyRms, Map<String, double[]> inside) {
    private static final Map<String, Regime> REGIMES = Map.of("idle", Regime.IDLE, "transfer", Regime.TRANSFER,
            "cruise", Regime.CRUISE, "moderate", Regime.MODERATE, "power", Regime.POWER, "wot", Regime.FULL);
    private static final Map<String, String> HOLES = holes();

    /**
     * Reads every drive of a folder.
     *
     * @param folder with {@code drive-X.csv}, {@code .sheet.json}, {@code .answer.json} and {@code .inside.csv}
     * @return drives in the order of their names
     * @throws IOException when a file cannot be read
     */
    public static List<ReferenceDrive> all(Path folder) throws IOException {
        List<ReferenceDrive> out = new ArrayList<>();
        try (Stream<Path> files = Files.list(folder)) {
            for (Path f : files.filter(p -> p.toString().endsWith(".sheet.json")).sorted().toList()) {
                out.add(read(folder, f.getFileName().toString().replace(".sheet.json", "")));
            }
        }
        return out;
    }

    /**
     * True lambda in the cylinders.
     *
     * @param timeS time on the log, s
     * @return between the rows of the inside table; the nearest row's beyond its ends
     */
    double lambda(double timeS) {
        double[] t = inside.get("t");
        double[] v = inside.get("lam");
        int i = Arrays.binarySearch(t, timeS);
        int next = Math.clamp(i >= 0 ? i : -i - 1L, 1, t.length - 1);
        double f = Math.clamp((timeS - t[next - 1]) / (t[next] - t[next - 1]), 0.0, 1.0);
        return v[next - 1] + f * (v[next] - v[next - 1]);
    }

    private static ReferenceDrive read(Path folder, String stem) throws IOException {
        JsonMapper json = JsonMapper.builder().build();
        JsonNode answer = json.readTree(Files.readString(folder.resolve(stem + ".answer.json")));
        ObjectNode words = (ObjectNode) json.readTree(Files.readString(folder.resolve(stem + ".sheet.json")));
        BuildSheet sheet = BuildSheetReader.parse(stem + ".sheet.json", sheet(stem, words));
        answer.get("hidden").forEach(h -> mend(words, h));
        BuildSheet mended = BuildSheetReader.parse(stem + ".healthy.json", sheet(stem, words));
        JsonNode healthy = answer.path("healthyRms");
        Map<Regime, Double> healthyRms = new EnumMap<>(Regime.class);
        healthy.properties().forEach(e -> {
            if (e.getValue().isNumber()) {
                healthyRms.put(REGIMES.get(e.getKey()), e.getValue().asDouble() / 100);
            }
        });
        List<String> hidden = new ArrayList<>();
        List<String> keys = new ArrayList<>();
        boolean fault = false;
        for (JsonNode h : answer.get("hidden")) {
            fault |= h.has("fault");
            keys.add(h.has("fault") ? h.get("fault").asString() : h.get("part").asString());
            hidden.add(h.has("fault") ? h.get("fault").asString().replace('_', ' ') : h.get("part").asString() + " "
                    + h.get("fitted").asString() + " for " + h.get("healthy").asString());
        }
        boolean lettered = stem.startsWith("drive-");
        return new ReferenceDrive(lettered ? stem.substring(stem.length() - 1).toUpperCase(Locale.ROOT) : stem,
                lettered ? stem : stem.substring(0, stem.indexOf('-')), sheet, mended, LogReader.read(folder.resolve(
                        stem + ".csv"), sheet), String.join("; ", hidden), keys, fault, percent(answer, "mean_pct"),
                percent(answer, "rms_pct"), healthyRms, inside(folder.resolve(stem + ".inside.csv")));
    }

    /**
     * Puts the right size of what is hidden into the folder's own words; faults and what no sheet has stay. How an
     * offset of a needle's middle goes out towards its ends the folder does not say: as the square of a sine here.
     */
    private static void mend(ObjectNode words, JsonNode hidden) {
        String part = hidden.path("part").asString("");
        if (words.has(part)) {
            words.set(part, hidden.get("healthy"));
        } else if (part.equals("cv_needle_mid")) {
            ArrayNode needle = (ArrayNode) words.get("needle_thou");
            double by = hidden.get("healthy").asDouble() - hidden.get("fitted").asDouble();
            int last = needle.size() - 1;
            for (int i = 0; i <= last; i++) {
                needle.set(i, needle.get(i).asDouble() + by * Math.pow(Math.sin(Math.PI * i / last), 2.0));
            }
        }
    }

    private static Map<Regime, Double> percent(JsonNode answer, String field) {
        Map<Regime, Double> out = new EnumMap<>(Regime.class);
        answer.get("regimes").properties().forEach(e -> {
            JsonNode percent = e.getValue().get(field);
            if (percent != null && percent.isNumber()) {
                out.put(REGIMES.get(e.getKey()), percent.asDouble() / 100);
            }
        });
        return out;
    }

    private static Map<String, double[]> inside(Path file) throws IOException {
        Map<String, List<Double>> columns = new LinkedHashMap<>();
        try (CsvReader<NamedCsvRecord> rows = CsvReader.builder().ofNamedCsvRecord(file)) {
            for (NamedCsvRecord row : rows) {
                row.getFieldsAsMap().forEach((k, v) -> columns.computeIfAbsent(k, x -> new ArrayList<>())
                        .add(Double.valueOf(v)));
            }
        }
        Map<String, double[]> out = new LinkedHashMap<>();
        columns.forEach((k, v) -> out.put(k, v.stream().mapToDouble(Double::doubleValue).toArray()));
        return out;
    }

    private static Map<String, String> holes() {
        Map<String, String> m = new LinkedHashMap<>();
        m.put("jet", "mainJet");
        m.put("hsab", "highSpeedAirBleed");
        m.put("ifr", "idleFeedRestriction");
        m.put("iab", "idleAirBleed");
        m.put("pvcr", "powerChannelRestriction");
        return m;
    }

    /** The folder's own sheet words in {@code nariz-build/1}. */
    private static String sheet(String name, JsonNode s) {
        JsonNode e = s.get("engine");
        Map<String, Object> engine = new LinkedHashMap<>();
        engine.put("displacement", e.get("disp_l").asString() + " L");
        engine.put("cylinders", e.get("cyl").asInt());
        engine.put("compression", e.get("compression").asDouble());
        engine.put("cam", e.get("cam").asString());
        engine.put("idleSpeed", e.get("idle_rpm").asString() + " rpm");
        engine.put("redline", e.get("redline").asString() + " rpm");
        engine.put("manifold", e.get("manifold").asString());
        engine.put("advance", e.get("vac_advance").asBoolean() ? "vacuum" : "centrifugal");
        engine.put("transmission", e.get("transmission").asString());
        if ("F3".equals(s.get("family").asString()) || "F4".equals(s.get("family").asString())) {
            return write(name, engine, s, "F3".equals(s.get("family").asString()) ? stack(s) : needle(s));
        }
        boolean rods = "F2".equals(s.get("family").asString());
        boolean secondary = s.has("sec_type");
        Map<String, Object> carburetor = new LinkedHashMap<>();
        carburetor.put("family", rods ? "rod-metered-4" : secondary ? "block-metered-4" : "block-metered-2");
        carburetor.put("primary", side(s, "pri", rods));
        if (secondary) {
            carburetor.put("secondary", side(s, "sec", false));
            carburetor.put("secondaryOpening", Map.of(
                    "kind", s.get("sec_type").asString().replace("airvalve", "air-valve").replace("vacuum",
                            "diaphragm"),
                    "start", s.get("sec_open_deg").asString() + " deg",
                    "restAngle", s.get("sec_stop_deg").asString() + " deg"));
        }
        carburetor.put("pump", Map.of("nozzle", s.get("pump_nozzle").asString() + " thou",
                "tenStrokes", s.get("pump_cc10").asString() + " cc", "cam", s.get("pump_cam").asString()));
        return write(name, engine, s, carburetor);
    }

    private static String write(String name, Map<String, Object> engine, JsonNode s, Map<String, Object> carburetor) {
        return JsonMapper.builder().build().writeValueAsString(Map.of("format", BuildSheetReader.FORMAT,
                "name", name, "engine", engine,
                "ambient", Map.of("pressure", s.get("altitude_kpa").asString() + " kPa"),
                "carburetor", carburetor));
    }

    /** Two-barrelled bodies, sizes in hundredths of a millimetre. */
    private static Map<String, Object> stack(JsonNode s) {
        int barrels = s.get("n_pri").asInt();
        List<Map<String, Object>> holes = new ArrayList<>();
        for (int i = 0; i < s.get("progression_hole_mm").size(); i++) {
            holes.add(Map.of("diameter", s.get("progression_hole_mm").get(i).asString() + " mm", "height", s.get(
                    "progression_height_mm").get(i).asString() + " mm"));
        }
        Map<String, Object> primary = new LinkedHashMap<>();
        primary.put("bore", s.get("pri_bore_mm").asString() + " mm");
        primary.put("venturi", s.get("pri_venturi_mm").asString() + " mm");
        primary.put("mainJet", s.get("pri_jet").asString() + " 1/100mm");
        primary.put("airCorrector", s.get("pri_hsab").asString() + " 1/100mm");
        primary.put("idleJet", s.get("pri_ifr").asString() + " 1/100mm");
        primary.put("idleAir", s.get("pri_iab").asString() + " 1/100mm");
        primary.put("mixtureScrew", s.get("pri_screw").asString() + " turns");
        primary.put("progressionHoles", holes);
        return Map.of("family", "stack-jet", "count", barrels / 2, "barrels", 2, "primary", primary, "pump", Map.of(
                "jet", s.get("pump_nozzle").asString() + " 1/100mm", "strokeVolume", s.get("pump_cc10").asDouble() / 10
                        / barrels + " cc"));
    }

    private static Map<String, Object> needle(JsonNode s) {
        List<String> diameters = new ArrayList<>();
        s.get("needle_thou").forEach(d -> diameters.add(d.asString() + " thou"));
        Map<String, Object> primary = new LinkedHashMap<>();
        primary.put("bore", s.get("pri_bore_mm").asString() + " mm");
        primary.put("jet", s.get("jet_thou").asString() + " thou");
        primary.put("jetHeight", s.get("jet_turns_down").asString() + " turns");
        primary.put("jetPitch", s.get("turn_mm").asString() + " mm");
        primary.put("needle", Map.of("spacing", s.get("lift_mm").asDouble() / (diameters.size() - 1) + " mm",
                "diameters", diameters));
        primary.put("damperOil", s.get("damper").asString().replace("std", "standard"));
        primary.put("pistonSpring", s.get("piston_spring").asString().replace("std", "standard"));
        return Map.of("family", "constant-depression", "count", s.get("n_pri").asInt(), "primary", primary);
    }

    private static Map<String, Object> side(JsonNode s, String p, boolean rods) {
        Map<String, Object> out = new LinkedHashMap<>();
        out.put("bores", s.get("n_" + p).asInt());
        out.put("bore", s.get(p + "_bore_mm").asString() + " mm");
        out.put("venturi", s.get(p + "_venturi_mm").asString() + " mm");
        out.put("booster", s.get(p + "_booster").asString());
        HOLES.forEach((theirs, ours) -> {
            JsonNode v = s.get(p + "_" + theirs);
            if (v != null && v.asDouble() > 0) {
                out.put(ours, v.asString() + " thou");
            }
        });
        out.put("mixtureScrew", s.get(p + "_screw").asString() + " turns");
        if (s.has(p + "_pv")) {
            double pv = s.get(p + "_pv").asDouble();
            out.put("powerValve", pv > 0 ? pv + " inHg" : "plugged");
        }
        if (rods) {
            out.put("rodCruise", s.get("rod_cruise").asString() + " thou");
            out.put("rodPower", s.get("rod_power").asString() + " thou");
            out.put("stepUpSpring", s.get("stepup").asString() + " inHg");
        }
        out.put("plateBypassHole", "pri".equals(p) ? s.get("plate_hole_mm").asString() + " mm" : "0 mm");
        return out;
    }
}
