package nariz.family.jetted;

import static nariz.text.Message.message;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Stream;
import nariz.carburetor.Carburetor;
import nariz.carburetor.Engine;
import nariz.carburetor.Family;
import nariz.carburetor.SheetDraft;
import nariz.carburetor.SheetFields;
import nariz.carburetor.Stage;
import nariz.flow.EmulsionRow;
import nariz.flow.OpeningKind;
import nariz.units.Dimension;
import nariz.units.Units;

/**
 * The sheet of a carburetor with jet stacks.
 *
 * @param build how the family is built
 * @param stages its stages
 */
record JettedSheet(JettedFamily.Build build, List<Stage> stages) {
    private static final int MOST_HOLES = 5;
    private static final int MOST_ROWS = 10;
    private static final int LONGEST_LETTER = 20;
    private static final List<OpeningKind> OPENINGS = List.of(OpeningKind.MECHANICAL, OpeningKind.DIAPHRAGM);

    /** Reads the object {@code carburetor}. */
    Carburetor read(Family family, SheetFields f, Engine engine) {
        int usual = build.second() ? 1 : Math.clamp(engine.cylinders() / 2, 1, build.most());
        int count = f.whole("count", 1, build.most(), build.leastBarrels() == 1 && build.mostBarrels() == 1 ? 1
                : usual);
        int barrels = f.whole("barrels", build.second() ? 2 : build.leastBarrels(), build.second() ? 2
                : build.mostBarrels(), Math.min(2, build.second() ? 2 : build.mostBarrels()));
        int bores = build.second() ? 1 : barrels;
        JettedDefaults d = JettedDefaults.of(engine, count * bores, build.second());
        Map<String, Double> numbers = new LinkedHashMap<>();
        Map<String, String> words = new LinkedHashMap<>();
        numbers.put("barrels", (double) barrels);
        for (Stage stage : stages) {
            barrels(f.object(stage.key()), stage, count, bores, d, numbers);
        }
        if (build.second()) {
            opening(f.object("secondaryOpening"), numbers, words);
        }
        pump(f.object("pump"), d, numbers);
        if (build.choke()) {
            choke(f.object("choke"), numbers);
        }
        numbers.put("fuelLevel", f.quantity("fuelLevel", Dimension.LENGTH, -12e-3, 12e-3, "0 mm", "0 mm"));
        f.noOthers();
        return new Carburetor(family, count, numbers, words);
    }

    private void barrels(SheetFields f, Stage stage, int count, int bores, JettedDefaults d,
            Map<String, Double> numbers) {
        String at = stage.key() + ".";
        boolean primary = stage == Stage.PRIMARY;
        numbers.put(at + "bores", (double) bores);
        double bore = f.quantity("bore", Dimension.LENGTH, 15e-3, 65e-3, "40 mm", d.bore(primary));
        double venturi = f.quantity("venturi", Dimension.LENGTH, 10e-3, 60e-3, "32 mm", d.venturi(primary, bore));
        if (venturi > bore) {
            throw f.problem("venturi", message("problem.a-venturi-is-narrower-than-its"));
        }
        numbers.put(at + "bore", bore);
        numbers.put(at + "venturi", venturi);
        numbers.put(at + "auxiliaryVenturi", f.quantity("auxiliaryVenturi", Dimension.LENGTH, 2e-3, 15e-3, "4.5 mm",
                "4.5 mm"));
        double jet = each(f, at, "mainJet", count, 0.5, 3.0, "1.35 mm or 135 1/100mm", d.mainJet(venturi), numbers);
        each(f, at, "airCorrector", count, 0.5, 4.0, "1.8 mm or 180 1/100mm", d.airCorrector(jet), numbers);
        each(f, at, "idleJet", count, 0.2, 1.5, "0.5 mm or 50 1/100mm", d.idleJet(primary, bore), numbers);
        each(f, at, "idleAir", count, 0.3, 3.0, "1.1 mm or 110 1/100mm", d.idleAir(), numbers);
        List<Double> screws = f.each("mixtureScrew", count * bores, Dimension.TURNS, 0, 12, "2 turns", primary
                ? "1.5 turns" : "0.75 turns");
        put(numbers, at + "mixtureScrew", screws);
        holes(f, at, d, numbers);
        rows(f, at, numbers);
        if (build.enriched() && primary) {
            double valve = f.quantityOrPlugged("powerValve", Dimension.PRESSURE, 0, 20 * Units.INHG, "6 inHg",
                    "6 inHg");
            numbers.put(at + "powerValve", valve);
            numbers.put(at + "powerChannelRestriction", valve > 0.0 || f.has("powerChannelRestriction")
                    ? f.quantity("powerChannelRestriction", Dimension.LENGTH, 0.2e-3, 2e-3, "0.6 mm",
                    JettedDefaults.mm(Math.rint(20 * 1e3 * jet * 0.48) / 20)) : 0.0);
        }
        f.noOthers();
    }

    /** One size for all carburetors, or one for each: blends as fitted in real life. */
    private static double each(SheetFields f, String at, String name, int count, double minMm, double maxMm,
            String example, String fallback, Map<String, Double> numbers) {
        return put(numbers, at + name, f.each(name, count, Dimension.LENGTH, minMm * 1e-3, maxMm * 1e-3, example,
                fallback));
    }

    private static double put(Map<String, Double> numbers, String path, List<Double> all) {
        double mean = all.stream().mapToDouble(v -> v).average().orElseThrow();
        numbers.put(path, mean);
        for (int i = 0; i < all.size() && all.size() > 1; i++) {
            numbers.put(path + "." + (i + 1), all.get(i));
        }
        return mean;
    }

    private static void holes(SheetFields f, String at, JettedDefaults d, Map<String, Double> numbers) {
        List<SheetFields> written = f.objects("progressionHoles", MOST_HOLES);
        List<double[]> holes = new ArrayList<>();
        for (SheetFields h : written) {
            double diameter = h.quantity("diameter", Dimension.LENGTH, 0.3e-3, 3e-3, "1 mm", "");
            double height = h.quantity("height", Dimension.LENGTH, -12e-3, 12e-3, "0.6 mm", "");
            if (height < -0.5 * diameter) {
                throw h.problem("height", message("problem.a-progression-hole-below"));
            }
            if (!holes.isEmpty() && height < holes.getLast()[1]) {
                throw h.problem("height", message("problem.progression-holes-rise"));
            }
            h.noOthers();
            holes.add(new double[] {diameter, height});
        }
        if (written.isEmpty()) {
            d.holes().forEach(h -> holes.add(new double[] {1e-3 * h[0], 1e-3 * h[1]}));
            // As two lists, as they are written: a form shows them where they would stand.
            f.assume("progressionHoles[].diameter", listed(d.holes(), h -> JettedDefaults.mm(h[0])));
            f.assume("progressionHoles[].height", listed(d.holes(), h -> JettedDefaults.mm(h[1])));
        }
        for (int i = 0; i < holes.size(); i++) {
            numbers.put(at + "progressionHoles.diameter." + (i + 1), holes.get(i)[0]);
            numbers.put(at + "progressionHoles.height." + (i + 1), holes.get(i)[1]);
        }
    }

    private static <T> String listed(List<T> rows, Function<T, String> text) {
        return String.join("; ", rows.stream().map(text).toList());
    }

    /** Rows of the emulsion tube, the usual one where none are written: what is stamped on it is no size. */
    private static void rows(SheetFields f, String at, Map<String, Double> numbers) {
        String letter = f.text("emulsionTubeLetter", "");
        if (letter.length() > LONGEST_LETTER) {
            throw f.problem("emulsionTubeLetter", message("problem.write-what-is-stamped"));
        }
        List<SheetFields> written = f.objects("emulsionTube", MOST_ROWS);
        int i = 0;
        if (written.isEmpty()) {
            List<EmulsionRow> usual = JettedDefaults.rows();
            f.assume("emulsionTube[].depth", listed(usual, r -> JettedDefaults.mm(1e3 * r.depthM())));
            f.assume("emulsionTube[].diameter", listed(usual, r -> JettedDefaults.mm(
                    JettedDefaults.EMULSION_HOLE_MM)));
            f.assume("emulsionTube[].holes", listed(usual, r -> String.valueOf(JettedDefaults.EMULSION_HOLES)));
            for (EmulsionRow r : usual) {
                i++;
                numbers.put(at + "emulsionTube.depth." + i, r.depthM());
                numbers.put(at + "emulsionTube.area." + i, r.areaM2());
            }
        }
        for (SheetFields r : written) {
            i++;
            numbers.put(at + "emulsionTube.depth." + i, r.quantity("depth", Dimension.LENGTH, 0, 60e-3, "5 mm", ""));
            double hole = r.quantity("diameter", Dimension.LENGTH, 0.3e-3, 3e-3, "1 mm", "");
            numbers.put(at + "emulsionTube.area." + i, r.whole("holes", 1, 12, JettedDefaults.EMULSION_HOLES)
                    * Units.holeArea(hole));
            r.noOthers();
        }
    }

    private static void opening(SheetFields f, Map<String, Double> numbers, Map<String, String> words) {
        words.put("secondaryOpening.kind", f.choice("kind", OPENINGS.stream().map(OpeningKind::key).toList(),
                OpeningKind.DIAPHRAGM.key()));
        numbers.put("secondaryOpening.start", f.quantity("start", Dimension.ANGLE, 0, 85 * Units.DEG, "45 deg",
                "45 deg"));
        numbers.put("secondaryOpening.restAngle", f.quantity("restAngle", Dimension.ANGLE, 0, 10 * Units.DEG,
                "0.3 deg", "0.3 deg"));
        numbers.put("secondaryOpening.spring", f.number("spring", 0.2, 5, 1));
        f.noOthers();
    }

    private void pump(SheetFields f, JettedDefaults d, Map<String, Double> numbers) {
        numbers.put("pump.jet", f.quantity("jet", Dimension.LENGTH, 0.2e-3, 1.5e-3, "0.4 mm or 40 1/100mm",
                d.pumpJet()));
        numbers.put("pump.strokeVolume", f.quantity("strokeVolume", Dimension.VOLUME, 0.02e-6, 4e-6, "0.4 cc",
                build.second() ? "0.8 cc" : "0.4 cc"));
        numbers.put("pump.bleedBack", f.quantityOrPlugged("bleedBack", Dimension.LENGTH, 0, 2e-3, "0.4 mm", ""));
        numbers.put("pump.clearance", f.quantity("clearance", Dimension.LENGTH, 0, 5e-3, "0.4 mm", "0 mm"));
        f.noOthers();
    }

    /** For the bench: nothing is computed from it. */
    private static void choke(SheetFields f, Map<String, Double> numbers) {
        numbers.put("choke.index", f.number("index", -8, 8, 0));
        numbers.put("choke.pullOff", f.quantity("pullOff", Dimension.LENGTH, 0, 12e-3, "3.5 mm", "3.5 mm"));
        numbers.put("choke.fastIdle", f.quantity("fastIdle", Dimension.SPEED, 600, 3500, "1600 rpm", "1600 rpm"));
        f.noOthers();
    }

    /** Fields of the form, in the order a person would fill them in. */
    List<SheetDraft.Field> fields() {
        List<SheetDraft.Field> out = new ArrayList<>();
        out.add(SheetDraft.Field.bare("count"));
        out.add(SheetDraft.Field.bare("barrels"));
        out.add(SheetDraft.Field.in("fuelLevel", "mm"));
        if (build.second()) {
            out.add(SheetDraft.Field.of("secondaryOpening.kind", OPENINGS.stream().map(OpeningKind::key).toList()));
            out.add(SheetDraft.Field.in("secondaryOpening.start", "deg"));
            out.add(SheetDraft.Field.in("secondaryOpening.restAngle", "deg"));
        }
        for (Stage stage : stages) {
            String at = stage.key() + ".";
            Stream.of("bore", "venturi", "auxiliaryVenturi").forEach(n -> out.add(SheetDraft.Field.in(at + n, "mm")));
            Stream.of("mainJet", "airCorrector", "idleJet", "idleAir").forEach(n -> out.add(SheetDraft.Field.in(at + n,
                    "mm")));
            out.add(SheetDraft.Field.in(at + "mixtureScrew", "turns"));
            out.add(SheetDraft.Field.rows(at + "progressionHoles", "diameter", "mm"));
            out.add(SheetDraft.Field.rows(at + "progressionHoles", "height", "mm"));
            out.add(SheetDraft.Field.stamped(at + "emulsionTubeLetter", at + "emulsionTube"));
            out.add(SheetDraft.Field.rows(at + "emulsionTube", "depth", "mm"));
            out.add(SheetDraft.Field.rows(at + "emulsionTube", "diameter", "mm"));
            out.add(SheetDraft.Field.rows(at + "emulsionTube", "holes", ""));
            if (build.enriched() && stage == Stage.PRIMARY) {
                out.add(SheetDraft.Field.in(at + "powerValve", "inHg"));
                out.add(SheetDraft.Field.in(at + "powerChannelRestriction", "mm"));
            }
        }
        out.add(SheetDraft.Field.in("pump.jet", "mm"));
        out.add(SheetDraft.Field.in("pump.strokeVolume", "cc"));
        out.add(SheetDraft.Field.in("pump.bleedBack", "mm"));
        out.add(SheetDraft.Field.in("pump.clearance", "mm"));
        if (build.choke()) {
            out.add(SheetDraft.Field.bare("choke.index"));
            out.add(SheetDraft.Field.in("choke.pullOff", "mm"));
            out.add(SheetDraft.Field.in("choke.fastIdle", "rpm"));
        }
        return out;
    }
}
