package nariz.family.jetted;

import static nariz.text.Message.message;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Carburetor;
import nariz.carburetor.Circuit;
import nariz.carburetor.Coefficient;
import nariz.carburetor.Coefficients;
import nariz.carburetor.DeliveryModel;
import nariz.carburetor.Engine;
import nariz.carburetor.Family;
import nariz.carburetor.HoleDrawing;
import nariz.carburetor.Ladder;
import nariz.carburetor.Part;
import nariz.carburetor.PumpModel;
import nariz.carburetor.PumpSetting;
import nariz.carburetor.SheetDraft;
import nariz.carburetor.SheetFields;
import nariz.carburetor.Stage;
import nariz.flow.AcceleratorPump;
import nariz.flow.Barrels;
import nariz.flow.Booster;
import nariz.flow.EmulsionRow;
import nariz.flow.FamilyCoefficient;
import nariz.flow.FlowCoefficient;
import nariz.flow.MeteredModel;
import nariz.flow.OpeningKind;
import nariz.flow.ProgressionHole;
import nariz.units.Dimension;
import nariz.units.Quantity;
import nariz.units.Units;

/**
 * What carburetors with jet stacks and progression holes share: sheet, model, parts. A family says how many stages it
 * has, how many barrels a body, how many bodies a set, and whether vacuum enriches.
 */
public abstract class JettedFamily implements Family {
    /**
     * How a family is built.
     *
     * @param most how many of them make a set at most
     * @param leastBarrels barrels of a body at least, of the first stage
     * @param mostBarrels barrels of a body at most, of the first stage
     * @param enriched whether vacuum works an enrichment on the first stage
     * @param second whether there is a second stage
     * @param choke whether it has a choke that works by itself
     */
    public record Build(int most, int leastBarrels, int mostBarrels, boolean enriched, boolean second,
            boolean choke) {
    }

    /**
     * Plates without much clearance behind a short venturi, holes drilled from the side, a level close to the outlet.
     * Set with one sound drive of another simulator in view (docs/model.md, "Jet stacks").
     */
    private static final Coefficients STANDARD = FlowCoefficient.STANDARD
            .with(FlowCoefficient.IDLE_FEED_DISCHARGE, 0.91).with(FlowCoefficient.IDLE_BLEED_DISCHARGE, 0.89)
            .with(FlowCoefficient.PORT_DISCHARGE, 0.25).with(FlowCoefficient.UPPER_SLOT_DISCHARGE, 0.205)
            .with(FlowCoefficient.IDLE_LIFT, 0.0155).with(FlowCoefficient.PORT_PER_TURN, 0.52e-6)
            .with(FlowCoefficient.SPILL, 0.0063).with(FlowCoefficient.PULSATION, 34.0)
            .with(FlowCoefficient.GIVE_BACK, 20.0).with(FlowCoefficient.PLATE_CLEARANCE, 0.0018)
            .with(FlowCoefficient.PLATE_DISCHARGE, 0.585).with(FlowCoefficient.VENTURI_LOSS, 3.0);
    /** These carburetors differ more among each other than four-barrels in their idle and main systems. */
    private static final double LESS_KNOWN = 1.6;
    private static final int MOST_HOLES = 5;
    private static final int MOST_ROWS = 10;
    /** A measured fuel level that is further off than this is put right before jets make up for it, m. */
    private static final double LEVEL_OFF_M = 1e-3;
    /** Turns out beyond which a mixture screw's port is as open as it gets. */
    private static final double SCREW_END = 5.5;
    private static final double FULL_TRAVEL_RAD = 55.0 * Units.DEG;
    private static final List<OpeningKind> OPENINGS = List.of(OpeningKind.MECHANICAL, OpeningKind.DIAPHRAGM);

    private final String key;
    private final Build build;
    private final List<Stage> stages;
    private final List<Circuit> circuits;
    private final List<Part> parts;
    private final List<Coefficient> coefficients;

    /**
     * A family.
     *
     * @param key name in files
     * @param build how it is built
     */
    protected JettedFamily(String key, Build build) {
        this.key = key;
        this.build = build;
        stages = build.second() ? List.of(Stage.PRIMARY, Stage.SECONDARY) : List.of(Stage.PRIMARY);
        circuits = JettedCircuits.of(build.enriched(), build.second());
        List<Part> all = new ArrayList<>(List.of(JettedParts.MIXTURE_SCREW, JettedParts.IDLE_JET, JettedParts.IDLE_AIR,
                JettedParts.MAIN_JET, JettedParts.AIR_CORRECTOR, JettedParts.VENTURI));
        if (build.enriched()) {
            all.addAll(List.of(JettedParts.POWER_VALVE, JettedParts.POWER_CHANNEL));
        }
        all.addAll(List.of(JettedParts.FLOAT_LEVEL, JettedParts.IDLE_STOP));
        if (build.second()) {
            all.addAll(List.of(JettedParts.SECONDARY_SPRING, JettedParts.SECONDARY_LINKAGE));
        }
        all.addAll(List.of(JettedParts.PUMP_JET, JettedParts.PUMP_STROKE));
        parts = build.second() ? List.copyOf(all) : all.stream().map(Part::alone).toList();
        coefficients = coefficients(build);
    }

    /** The model's numbers that these carburetors have: no slot, and what enriches or opens only where it is there. */
    private static List<Coefficient> coefficients(Build build) {
        EnumSet<FlowCoefficient> own = EnumSet.range(FlowCoefficient.IDLE_FEED_DISCHARGE,
                FlowCoefficient.FILLING_PEAK);
        own.removeAll(EnumSet.range(FlowCoefficient.SLOT_WIDTH, FlowCoefficient.SLOT_SOFTNESS));
        if (!build.enriched()) {
            own.removeAll(EnumSet.of(FlowCoefficient.ENRICHMENT_RAMP, FlowCoefficient.CHANNEL_DISCHARGE));
        }
        if (build.second()) {
            own.addAll(EnumSet.of(FlowCoefficient.DIAPHRAGM_START, FlowCoefficient.DIAPHRAGM_END));
        }
        own.removeAll(EnumSet.of(FlowCoefficient.WELL_BLEED_DISCHARGE, FlowCoefficient.NOZZLE_SHARE));
        own.add(FlowCoefficient.STACK_AIR_DISCHARGE);
        own.add(FlowCoefficient.PULSE);
        own.add(FlowCoefficient.HOLE_EDGE);
        return own.stream().map(c -> (Coefficient) new FamilyCoefficient(c, STANDARD.of(c), c.spread() * (c.ordinal()
                < FlowCoefficient.ENRICHMENT_RAMP.ordinal() ? LESS_KNOWN : 1.0))).toList();
    }

    @Override
    public final String key() {
        return key;
    }

    @Override
    public final List<Stage> stages() {
        return stages;
    }

    @Override
    public final List<Circuit> circuits() {
        return circuits;
    }

    @Override
    public final List<Part> parts() {
        return parts;
    }

    private Part own(Part p) {
        return parts.get(parts.indexOf(p));
    }

    @Override
    public final List<Coefficient> coefficients() {
        return coefficients;
    }

    @Override
    public final Coefficients standard() {
        return STANDARD;
    }

    @Override
    public final DeliveryModel model(BuildSheet sheet, double levelM, Coefficients k) {
        return new MeteredModel(sheet, stage -> barrels(sheet, stage), levelM, k);
    }

    private static Barrels barrels(BuildSheet sheet, Stage stage) {
        Carburetor c = sheet.carburetor();
        String s = stage.key() + ".";
        int bores = (int) c.number(s + "bores");
        List<Double> holes = c.each(s + "progressionHoles.diameter");
        List<Double> heights = c.each(s + "progressionHoles.height");
        List<Double> depths = c.each(s + "emulsionTube.depth");
        List<Double> areas = c.each(s + "emulsionTube.area");
        return new Barrels(bores, new Barrels.Throat(c.number(s + "bore"), c.number(s + "venturi"), Booster.DOWNLEG,
                0.0, sheet.engine().cylinders() <= c.count() * bores),
                new Barrels.MainJets(c.number(s + "mainJet"), c.number(s + "airCorrector"), IntStream.range(0, depths
                        .size()).mapToObj(i -> new EmulsionRow(depths.get(i), areas.get(i))).toList(),
                        c.number(s + "auxiliaryVenturi"), true),
                new Barrels.IdleJets(c.number(s + "idleJet"), c.number(s + "idleAir"), c.number(s + "mixtureScrew"),
                        IntStream.range(0, holes.size()).mapToObj(i -> new ProgressionHole(holes.get(i), heights
                                .get(i))).toList()),
                new Barrels.PowerJets(c.number(s + "powerValve"), c.number(s + "powerChannelRestriction"), 0, 0, 0));
    }

    @Override
    public final List<HoleDrawing> holes(BuildSheet sheet) {
        return barrels(sheet, Stage.PRIMARY).idle().holes().stream().map(h -> new HoleDrawing(h.diameterM(), h.heightM()))
                .toList();
    }

    @Override
    public final Optional<PumpModel> pump(BuildSheet sheet, double play) {
        double density = sheet.fuel().densityKgPerM3();
        return pumpSetting(sheet).map(p -> new AcceleratorPump(p, density, play));
    }

    /** What the bleed-back lets return to the bowl is lost to the shot, in proportion to its area. */
    @Override
    public final Optional<PumpSetting> pumpSetting(BuildSheet sheet) {
        Carburetor c = sheet.carburetor();
        double barrels = c.count() * c.number("primary.bores");
        double jet = c.number("pump.jet");
        double bleed = c.number("pump.bleedBack");
        double kept = jet * jet / (jet * jet + bleed * bleed);
        double density = sheet.fuel().densityKgPerM3();
        return Optional.of(new PumpSetting(barrels * AcceleratorPump.nozzleKgPerS(jet, density), kept * barrels
                * c.number("pump.strokeVolume") * density, FULL_TRAVEL_RAD, 0.0, PumpSetting.USUAL_REFILL_S));
    }

    @Override
    public final List<Ladder> pumpParts(BuildSheet sheet) {
        return List.of(new Ladder(own(JettedParts.PUMP_JET), Stage.PRIMARY, 0.05, 8, 0.25, 1.2, 0.10),
                new Ladder(own(JettedParts.PUMP_STROKE), Stage.PRIMARY, 0.05, 8, 0.05, 1.5, 0.40));
    }

    @Override
    public final Optional<Double> usual(BuildSheet sheet, Part part) {
        Carburetor c = sheet.carburetor();
        JettedDefaults d = JettedDefaults.of(sheet.engine(), (int) (c.count() * c.number("primary.bores")),
                build.second());
        String jet = d.mainJet(c.number("primary.venturi"));
        String size = switch (part.role()) {
            case METERING_FUEL -> jet;
            case METERING_AIR -> d.airCorrector(Quantity.parse(jet, Dimension.LENGTH).orElseThrow().si());
            case IDLE_AIR -> d.idleAir();
            case PUMP_RATE -> d.pumpJet();
            default -> "";
        };
        return Quantity.parse(size, Dimension.LENGTH).map(q -> q.si() / part.si());
    }

    @Override
    public final double enrichmentPa(Carburetor c, Stage stage) {
        return stage == Stage.PRIMARY && c.number("primary.powerChannelRestriction") > 0.0
                ? c.number("primary.powerValve") : 0.0;
    }

    @Override
    public final Optional<Part> part(Carburetor c, Stage stage, Part.Role role) {
        return stages.contains(stage) ? parts.stream().filter(p -> p.role() == role).findFirst() : Optional.empty();
    }

    @Override
    public final Circuit trims(Part part, Stage stage) {
        Circuit.Role role = switch (part.role()) {
            case IDLE_STOP, IDLE_MIXTURE -> Circuit.Role.IDLE;
            case IDLE_FUEL, IDLE_AIR -> stage == Stage.PRIMARY ? Circuit.Role.PROGRESSION : Circuit.Role.IDLE;
            case ENRICHMENT_OPENING, ENRICHMENT_AMOUNT -> Circuit.Role.ENRICHMENT;
            case PUMP_RATE, PUMP_VOLUME, PUMP_START -> Circuit.Role.PUMP;
            default -> Circuit.Role.METERING;
        };
        return circuit(part.role().second() ? Stage.SECONDARY : stage, role).orElseThrow();
    }

    @Override
    public final List<Ladder> ladders(BuildSheet sheet) {
        Carburetor c = sheet.carburetor();
        Stage p = Stage.PRIMARY;
        List<Ladder> all = new ArrayList<>();
        all.add(new Ladder(own(JettedParts.MIXTURE_SCREW), p, 0.125, 12, 0.25, SCREW_END, 0.05));
        if (Math.abs(c.number("fuelLevel")) > LEVEL_OFF_M) {
            all.add(new Ladder(own(JettedParts.FLOAT_LEVEL), p, 1, 0, 0, 0, 0.0));
        }
        all.add(new Ladder(own(JettedParts.IDLE_JET), p, 0.025, 6, 0.25, 1.0, 0.08));
        all.add(new Ladder(own(JettedParts.IDLE_AIR), p, 0.1, 4, 0.5, 2.5, 0.45));
        all.add(new Ladder(own(JettedParts.MAIN_JET), p, 0.05, 8, 0.7, 2.6, 0.05));
        all.add(new Ladder(own(JettedParts.AIR_CORRECTOR), p, 0.1, 9, 0.8, 3.0, 0.20));
        if (enrichmentPa(c, p) > 0.0) {
            all.add(new Ladder(own(JettedParts.POWER_VALVE), p, 1, 6, 1.5, 12.5, 0.15));
            all.add(new Ladder(own(JettedParts.POWER_CHANNEL), p, 0.05, 8, 0.3, 1.6, 0.12));
        }
        if (build.second()) {
            all.add(new Ladder(own(JettedParts.MAIN_JET), Stage.SECONDARY, 0.05, 8, 0.7, 2.6, 0.05));
            all.add(new Ladder(own(JettedParts.AIR_CORRECTOR), Stage.SECONDARY, 0.1, 9, 0.8, 3.0, 0.25));
        }
        return all;
    }

    /** Fuel stands close under the outlets. */
    @Override
    public final double levelErrorM() {
        return 0.75e-3;
    }

    @Override
    public final boolean linked(Carburetor c) {
        return build.second() && OpeningKind.MECHANICAL.key().equals(c.word("secondaryOpening.kind"));
    }

    @Override
    public final Optional<Ladder> openingPart(BuildSheet sheet) {
        if (!build.second()) {
            return Optional.empty();
        }
        return Optional.of(linked(sheet.carburetor())
                ? new Ladder(own(JettedParts.SECONDARY_LINKAGE), Stage.PRIMARY, 5, 8, 15, 70, 0.20)
                : new Ladder(own(JettedParts.SECONDARY_SPRING), Stage.PRIMARY, 0.2, 10, 0.4, 2.4, 0.30));
    }

    // The sheet

    @Override
    public final Carburetor read(SheetFields f, Engine engine) {
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
        return new Carburetor(this, count, numbers, words);
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
            f.assume("progressionHoles", String.join("; ", d.holes().stream().map(h -> JettedDefaults.mm(h[0]) + " @ "
                    + JettedDefaults.mm(h[1])).toList()));
        }
        for (int i = 0; i < holes.size(); i++) {
            numbers.put(at + "progressionHoles.diameter." + (i + 1), holes.get(i)[0]);
            numbers.put(at + "progressionHoles.height." + (i + 1), holes.get(i)[1]);
        }
    }

    /** Rows of the emulsion tube, the usual one where none are written. */
    private static void rows(SheetFields f, String at, Map<String, Double> numbers) {
        List<SheetFields> written = f.objects("emulsionTube", MOST_ROWS);
        int i = 0;
        if (written.isEmpty()) {
            List<EmulsionRow> usual = JettedDefaults.rows();
            f.assume("emulsionTube", usual.size() + " x 2 x " + JettedDefaults.mm(1.0));
            for (EmulsionRow r : usual) {
                i++;
                numbers.put(at + "emulsionTube.depth." + i, r.depthM());
                numbers.put(at + "emulsionTube.area." + i, r.areaM2());
            }
        }
        for (SheetFields r : written) {
            i++;
            numbers.put(at + "emulsionTube.depth." + i, r.quantity("depth", Dimension.LENGTH, 0, 60e-3, "5 mm", ""));
            numbers.put(at + "emulsionTube.area." + i, r.whole("holes", 1, 12, 2) * Units.holeArea(r.quantity(
                    "diameter", Dimension.LENGTH, 0.3e-3, 3e-3, "1 mm", "")));
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
        f.noOthers();
    }

    /** For the bench: nothing is computed from it. */
    private static void choke(SheetFields f, Map<String, Double> numbers) {
        numbers.put("choke.index", f.number("index", -8, 8, 0));
        numbers.put("choke.pullOff", f.quantity("pullOff", Dimension.LENGTH, 0, 12e-3, "3.5 mm", "3.5 mm"));
        numbers.put("choke.fastIdle", f.quantity("fastIdle", Dimension.SPEED, 600, 3500, "1600 rpm", "1600 rpm"));
        f.noOthers();
    }

    @Override
    public final List<SheetDraft.Field> fields() {
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
            if (build.enriched() && stage == Stage.PRIMARY) {
                out.add(SheetDraft.Field.in(at + "powerValve", "inHg"));
                out.add(SheetDraft.Field.in(at + "powerChannelRestriction", "mm"));
            }
        }
        out.add(SheetDraft.Field.in("pump.jet", "mm"));
        out.add(SheetDraft.Field.in("pump.strokeVolume", "cc"));
        out.add(SheetDraft.Field.in("pump.bleedBack", "mm"));
        if (build.choke()) {
            out.add(SheetDraft.Field.bare("choke.index"));
            out.add(SheetDraft.Field.in("choke.pullOff", "mm"));
            out.add(SheetDraft.Field.in("choke.fastIdle", "rpm"));
        }
        return out;
    }

    @Override
    public final String toString() {
        return key;
    }
}
