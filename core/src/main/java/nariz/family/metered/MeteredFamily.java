package nariz.family.metered;

import static nariz.text.Message.message;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Carburetor;
import nariz.carburetor.Circuit;
import nariz.carburetor.Coefficient;
import nariz.carburetor.Coefficients;
import nariz.carburetor.DeliveryModel;
import nariz.carburetor.Engine;
import nariz.carburetor.Ladder;
import nariz.carburetor.Part;
import nariz.carburetor.PumpModel;
import nariz.carburetor.PumpSetting;
import nariz.carburetor.SheetDraft;
import nariz.carburetor.SheetFields;
import nariz.carburetor.Stage;
import nariz.family.AbstractFamily;
import nariz.flow.AcceleratorPump;
import nariz.flow.Barrels;
import nariz.flow.Booster;
import nariz.flow.FlowCoefficient;
import nariz.flow.MeteredModel;
import nariz.flow.OpeningKind;
import nariz.text.Message;
import nariz.units.Dimension;
import nariz.units.Quantity;
import nariz.units.Units;

/**
 * What carburetors with a fixed venturi, transfer slot and booster share: sheet, model, parts. A family says how many
 * stages it has, how many carburetors make a set, and whether rods hang in the primary jets.
 */
public abstract class MeteredFamily extends AbstractFamily {
    private static final List<String> PUMP_CAMS = List.of("early", "standard", "long");
    private static final List<Coefficient> COEFFICIENTS = List.copyOf(EnumSet.range(
            FlowCoefficient.IDLE_FEED_DISCHARGE, FlowCoefficient.AIR_VALVE_END));
    private static final List<Part> PARTS = List.of(MeteredParts.MIXTURE_SCREW, MeteredParts.IDLE_FEED_RESTRICTION,
            MeteredParts.IDLE_AIR_BLEED, MeteredParts.MAIN_JET, MeteredParts.HIGH_SPEED_AIR_BLEED,
            MeteredParts.POWER_VALVE_RATING, MeteredParts.POWER_CHANNEL_RESTRICTION, MeteredParts.STEP_UP_SPRING,
            MeteredParts.METERING_ROD, MeteredParts.FLOAT_LEVEL, MeteredParts.IDLE_STOP,
            MeteredParts.SECONDARY_STOP, MeteredParts.PLATE_HOLE, MeteredParts.SECONDARY_SPRING,
            MeteredParts.AIR_VALVE_SPRING, MeteredParts.SECONDARY_LINKAGE, MeteredParts.PUMP_CLEARANCE,
            MeteredParts.PUMP_CAM_POSITION, MeteredParts.PUMP_NOZZLE, MeteredParts.PUMP_CAM,
            MeteredParts.PUMP_CAPACITY);

    private final boolean rods;
    private final int most;

    /**
     * A family.
     *
     * @param key name in files
     * @param rods whether stepped rods hang in the primary jets in place of a power valve
     * @param stages its stages
     * @param most how many of them make a set at most
     */
    protected MeteredFamily(String key, boolean rods, List<Stage> stages, int most) {
        super(key, stages, stages.size() > 1 ? MeteredCircuits.FOUR_BARREL : MeteredCircuits.TWO_BARREL, stages.size()
                > 1 ? PARTS : PARTS.stream().filter(p -> !RODS_ONLY.contains(p) && !SECOND_ONLY.contains(p)).map(
                Part::alone).toList());
        this.rods = rods;
        this.most = most;
    }

    /** Turns out beyond which a mixture screw's port is as open as it gets. */
    private static final double SCREW_END = 4.5;
    private static final List<Part> RODS_ONLY = List.of(MeteredParts.STEP_UP_SPRING, MeteredParts.METERING_ROD);

    private static final List<Part> SECOND_ONLY = List.of(MeteredParts.SECONDARY_STOP, MeteredParts.SECONDARY_SPRING,
            MeteredParts.AIR_VALVE_SPRING, MeteredParts.SECONDARY_LINKAGE);

    private boolean rods(Stage stage) {
        return rods && stage == Stage.PRIMARY;
    }

    @Override
    public int idleTrims(Carburetor c) {
        return c.count() * (int) c.number("primary.bores");
    }

    /** What sound ones leave is measured (see nariz.diagnosis). */
    @Override
    public final double incurableShape() {
        return 0.0;
    }

    @Override
    public final List<Coefficient> coefficients() {
        return COEFFICIENTS;
    }

    @Override
    public final Coefficients standard() {
        return FlowCoefficient.STANDARD;
    }

    @Override
    public final DeliveryModel model(BuildSheet sheet, double levelM, Coefficients k) {
        return new MeteredModel(sheet, stage -> Barrels.of(sheet.carburetor(), stage), levelM, k);
    }

    @Override
    public final Optional<PumpModel> pump(BuildSheet sheet, double play) {
        return Optional.of(new AcceleratorPump(sheet.carburetor(), sheet.fuel().densityKgPerM3(), play));
    }

    @Override
    public final Optional<PumpSetting> pumpSetting(BuildSheet sheet) {
        return Optional.of(AcceleratorPump.setting(sheet.carburetor(), sheet.fuel().densityKgPerM3()));
    }

    @Override
    public final double enrichmentPa(Carburetor c, Stage stage) {
        String s = stage.key() + ".";
        boolean channel = c.number(s + "powerChannelRestriction") > 0.0;
        return rods(stage) ? c.number(s + "stepUpSpring") : channel ? c.number(s + "powerValve") : 0.0;
    }

    @Override
    public final Optional<Part> part(Carburetor c, Stage stage, Part.Role role) {
        if (!stages().contains(stage)) {
            return Optional.empty();
        }
        return parts().stream().filter(p -> p.role() == role && RODS_ONLY.contains(p) == (rods(stage)
                && (role == Part.Role.ENRICHMENT_OPENING || role == Part.Role.ENRICHMENT_AMOUNT))).findFirst();
    }

    /** An idle passage feeds a few percent of what the main jet does: one that is wider was measured or typed wrong. */
    @Override
    public List<Message> oddities(BuildSheet sheet) {
        List<Message> out = new ArrayList<>();
        for (Stage s : stages()) {
            Carburetor c = sheet.carburetor();
            Optional<Part> feed = part(c, s, Part.Role.IDLE_FUEL);
            Optional<Part> jet = part(c, s, Part.Role.METERING_FUEL);
            if (feed.isPresent() && jet.isPresent() && feed.get().of(c, s) >= jet.get().of(c, s)) {
                out.add(message("oddity.idle-feed-over-jet", feed.get().text(feed.get().of(c, s)),
                        jet.get().text(jet.get().of(c, s))));
            }
        }
        return out;
    }

    @Override
    public final Circuit trims(Part part, Stage stage) {
        boolean primary = stage == Stage.PRIMARY;
        return switch (part.role()) {
            case IDLE_STOP, IDLE_BYPASS -> MeteredCircuits.IDLE;
            case PUMP_RATE, PUMP_VOLUME, PUMP_START, DAMPER -> MeteredCircuits.PUMP;
            case FUEL_LEVEL -> MeteredCircuits.MAIN;
            case SECOND_SPRING, SECOND_LINKAGE -> MeteredCircuits.SECONDARY_MAIN;
            case IDLE_MIXTURE -> primary ? MeteredCircuits.IDLE : MeteredCircuits.SECONDARY_IDLE;
            case IDLE_FUEL, IDLE_AIR -> primary ? MeteredCircuits.TRANSFER : MeteredCircuits.SECONDARY_IDLE;
            case METERING_FUEL, METERING_AIR, AIR_WAY, STATION, PISTON -> primary ? MeteredCircuits.MAIN
                    : MeteredCircuits.SECONDARY_MAIN;
            case ENRICHMENT_OPENING, ENRICHMENT_AMOUNT ->
                    primary ? MeteredCircuits.POWER : MeteredCircuits.SECONDARY_MAIN;
        };
    }

    @Override
    public final List<Ladder> ladders(BuildSheet sheet) {
        Carburetor c = sheet.carburetor();
        Stage p = Stage.PRIMARY;
        List<Ladder> all = new ArrayList<>();
        all.add(new Ladder(own(MeteredParts.MIXTURE_SCREW), p, 0.125, 12, 0.25, SCREW_END, 0.05));
        levelPutRight(sheet, MeteredParts.FLOAT_LEVEL).ifPresent(all::add);
        all.add(new Ladder(own(MeteredParts.IDLE_FEED_RESTRICTION), p, 1, 8, 15, 60, 0.10));
        all.add(new Ladder(own(MeteredParts.IDLE_AIR_BLEED), p, 2, 8, 30, 120, 0.45));
        all.add(new Ladder(own(MeteredParts.MAIN_JET), p, 1, 10, 35, 130, 0.05));
        all.add(new Ladder(own(MeteredParts.HIGH_SPEED_AIR_BLEED), p, 2, 6, 14, 70, 0.40));
        if (rods) {
            all.add(new Ladder(MeteredParts.STEP_UP_SPRING, p, 1, 6, 2, 12, 0.05));
            // A power step as thick as the cruise step would enrich nothing.
            all.add(new Ladder(MeteredParts.METERING_ROD, p, 1, 10, 20, c.number("primary.rodCruise") / Units.THOU,
                    0.10));
        } else if (enrichmentPa(c, p) > 0) {
            all.add(new Ladder(own(MeteredParts.POWER_VALVE_RATING), p, 1, 6, 1.5, 12.5, 0.10));
            all.add(new Ladder(own(MeteredParts.POWER_CHANNEL_RESTRICTION), p, 2, 12, 10, 80, 0.10));
        }
        if (twoStages()) {
            all.add(new Ladder(MeteredParts.MAIN_JET, Stage.SECONDARY, 1, 10, 35, 130, 0.05));
            all.add(new Ladder(MeteredParts.HIGH_SPEED_AIR_BLEED, Stage.SECONDARY, 2, 6, 14, 70, 0.45));
        }
        return all;
    }

    @Override
    public final List<Ladder> pumpParts(BuildSheet sheet) {
        Stage p = Stage.PRIMARY;
        List<Ladder> all = new ArrayList<>();
        // Which cam and which class a pump has is what the maker chose for the engine: far more often the rest is
        // wrong.
        all.add(pumpSlack(MeteredParts.PUMP_CLEARANCE));
        all.add(new Ladder(own(MeteredParts.PUMP_CAM_POSITION), p, 1, 1, 1, 2, 0.08));
        all.add(new Ladder(own(MeteredParts.PUMP_NOZZLE), p, 2, 10, 20, 60, 0.10));
        all.add(new Ladder(own(MeteredParts.PUMP_CAM), p, 1, 2, 0, 2, 0.60));
        all.add(new Ladder(own(MeteredParts.PUMP_CAPACITY), p, 20, 1, 30, 50, 0.90));
        return all;
    }

    @Override
    public final Optional<Double> usual(BuildSheet sheet, Part part) {
        if (!part.equals(MeteredParts.PUMP_NOZZLE)) {
            return Optional.empty();
        }
        String nozzle = MeteredDefaults.of(rods, twoStages(), sheet.engine(), sheet.carburetor().count()).nozzle();
        return Quantity.parse(nozzle, Dimension.LENGTH).map(q -> q.si() / part.si());
    }

    @Override
    public final boolean linked(Carburetor c) {
        return twoStages() && OpeningKind.MECHANICAL.key().equals(c.word("secondaryOpening.kind"));
    }

    @Override
    public final Optional<Ladder> openingPart(BuildSheet sheet) {
        if (!twoStages()) {
            return Optional.empty();
        }
        Stage p = Stage.PRIMARY;
        return Optional.of(switch (OpeningKind.ofKey(sheet.carburetor().word("secondaryOpening.kind"))) {
            case DIAPHRAGM -> new Ladder(MeteredParts.SECONDARY_SPRING, p, 0.2, 10, 0.4, 2.4, 0.15);
            case AIR_VALVE -> new Ladder(MeteredParts.AIR_VALVE_SPRING, p, 0.1, 15, 0.4, 2.4, 0.05);
            case MECHANICAL -> new Ladder(MeteredParts.SECONDARY_LINKAGE, p, 5, 8, 15, 70, 0.20);
        });
    }

    @Override
    public final List<Ladder> bypasses(BuildSheet sheet) {
        List<Ladder> all = new ArrayList<>();
        if (twoStages()) {
            all.add(new Ladder(own(MeteredParts.SECONDARY_STOP), Stage.PRIMARY, 0.25, 20, 0, 6, 0.10));
        }
        all.add(new Ladder(own(MeteredParts.PLATE_HOLE), Stage.PRIMARY, 10, 12, 0, 120, 0.40));
        return all;
    }

    // The sheet

    @Override
    public final Carburetor read(SheetFields f, Engine engine) {
        int count = f.whole("count", 1, most, 1);
        MeteredDefaults d = MeteredDefaults.of(rods, twoStages(), engine, count);
        Map<String, Double> numbers = new LinkedHashMap<>();
        Map<String, String> words = new LinkedHashMap<>();
        for (Stage stage : stages()) {
            barrels(f.object(stage.key()), stage, count, d, numbers, words);
        }
        if (twoStages()) {
            opening(f.object("secondaryOpening"), d, numbers, words);
        }
        pump(f.object("pump"), d, numbers, words);
        numbers.put("fuelLevel", f.quantity("fuelLevel", Dimension.LENGTH, -12e-3, 12e-3, "0 mm", "0 mm"));
        f.noOthers();
        return new Carburetor(this, count, numbers, words);
    }

    private void barrels(SheetFields f, Stage stage, int count, MeteredDefaults d, Map<String, Double> numbers,
            Map<String, String> words) {
        String at = stage.key() + ".";
        boolean primary = stage == Stage.PRIMARY;
        int bores = f.whole("bores", 1, 2, 2);
        numbers.put(at + "bores", (double) bores);
        double bore = f.quantity("bore", Dimension.LENGTH, 15e-3, 70e-3, "42 mm", d.bore(primary));
        double venturi = f.quantity("venturi", Dimension.LENGTH, 10e-3, 65e-3, "32 mm", d.venturi(primary, bore));
        if (venturi > bore) {
            throw f.problem("venturi", message("problem.a-venturi-is-narrower-than-its"));
        }
        numbers.put(at + "bore", bore);
        numbers.put(at + "venturi", venturi);
        words.put(at + "booster", f.choice("booster", keys(Booster.values()), Booster.DOWNLEG.key()));
        double jet = hole(f, "mainJet", 20, 150, "65 thou", d.mainJet(primary, venturi));
        numbers.put(at + "mainJet", jet);
        numbers.put(at + "highSpeedAirBleed", hole(f, "highSpeedAirBleed", 10, 100, "33 thou",
                d.highSpeedBleed(primary)));
        numbers.put(at + "idleFeedRestriction", hole(f, "idleFeedRestriction", 10, 80, "33 thou",
                d.idleFeed(primary)));
        numbers.put(at + "idleAirBleed", hole(f, "idleAirBleed", 20, 150, "80 thou", d.idleBleed(primary)));
        List<Double> screws = f.each("mixtureScrew", count * bores, Dimension.TURNS, 0,
                12, "2.25 turns", d.screw(primary));
        numbers.put(at + "mixtureScrew", screws.stream().mapToDouble(t -> t).average().orElseThrow());
        for (int i = 0; i < screws.size() && screws.size() > 1; i++) {
            numbers.put(at + "mixtureScrew." + (i + 1), screws.get(i));
        }
        if (rods(stage)) {
            rods(f, at, jet, numbers);
        } else {
            valve(f, at, primary, jet, numbers);
        }
        numbers.put(at + "plateBypassHole", f.quantity("plateBypassHole", Dimension.LENGTH, 0, 6e-3, "2 mm", "0 mm"));
        f.noOthers();
    }

    private static void rods(SheetFields f, String at, double jet, Map<String, Double> numbers) {
        double cruise = hole(f, "rodCruise", 5, 120, "65 thou", share(jet, 0.72));
        double power = hole(f, "rodPower", 0, 120, "52 thou", share(jet, 0.60));
        numbers.put(at + "rodCruise", cruise);
        numbers.put(at + "rodPower", power);
        numbers.put(at + "stepUpSpring", f.quantity("stepUpSpring", Dimension.PRESSURE, 0, 20 * Units.INHG, "5 inHg",
                "5 inHg"));
        if (cruise >= jet) {
            throw f.problem("rodCruise", message("problem.a-rod-is-thinner-than-its"));
        }
        if (power > cruise) {
            throw f.problem("rodPower", message("problem.the-power-step-is-thinner-than"));
        }
    }

    private static void valve(SheetFields f, String at, boolean primary, double jet, Map<String, Double> numbers) {
        // A front valve is the family's rule, a rear one the exception: absent there means plugged.
        double valve = f.quantityOrPlugged("powerValve", Dimension.PRESSURE, 0, 20 * Units.INHG, "6.5 inHg",
                primary ? "6.5 inHg" : "");
        boolean fitted = valve > 0 || f.has("powerChannelRestriction");
        numbers.put(at + "powerValve", valve);
        numbers.put(at + "powerChannelRestriction", fitted ? hole(f, "powerChannelRestriction", 5, 100, "40 thou",
                share(jet, 0.5)) : 0.0);
    }

    private static void opening(SheetFields f, MeteredDefaults d, Map<String, Double> numbers,
            Map<String, String> words) {
        words.put("secondaryOpening.kind", f.choice("kind", keys(OpeningKind.values()), d.opening().key()));
        numbers.put("secondaryOpening.start", f.quantity("start", Dimension.ANGLE, 0, 85 * Units.DEG, "40 deg",
                "40 deg"));
        numbers.put("secondaryOpening.restAngle", f.quantity("restAngle", Dimension.ANGLE, 0, 10 * Units.DEG,
                "0.5 deg", "0.5 deg"));
        numbers.put("secondaryOpening.spring", f.number("spring", 0.2, 5, 1));
        f.noOthers();
    }

    private static void pump(SheetFields f, MeteredDefaults d, Map<String, Double> numbers,
            Map<String, String> words) {
        numbers.put("pump.nozzle", hole(f, "nozzle", 10, 80, "35 thou", d.nozzle()));
        numbers.put("pump.tenStrokes", f.quantity("tenStrokes", Dimension.VOLUME, 2e-6, 120e-6, "30 cc", "30 cc"));
        numbers.put("pump.camPosition", f.number("camPosition", 1, 2, 1));
        words.put("pump.cam", f.choice("cam", PUMP_CAMS, "standard"));
        numbers.put("pump.clearance", f.quantity("clearance", Dimension.LENGTH, 0, 5e-3, "0.4 mm", "0 mm"));
        f.noOthers();
    }

    private static double hole(SheetFields f, String name, double minThou, double maxThou, String example,
            String fallback) {
        return f.quantity(name, Dimension.LENGTH, minThou * Units.THOU, maxThou * Units.THOU, example, fallback);
    }

    private static String share(double lengthM, double share) {
        return Quantity.trim(Math.rint(lengthM * share / Units.THOU), 0) + " thou";
    }

    private static List<String> keys(Booster[] kinds) {
        return Arrays.stream(kinds).map(Booster::key).toList();
    }

    private static List<String> keys(OpeningKind[] kinds) {
        return Arrays.stream(kinds).map(OpeningKind::key).toList();
    }

    @Override
    public final List<SheetDraft.Field> fields() {
        List<SheetDraft.Field> out = new ArrayList<>();
        out.add(SheetDraft.Field.bare("count"));
        out.add(SheetDraft.Field.in("fuelLevel", "mm"));
        if (twoStages()) {
            out.add(SheetDraft.Field.of("secondaryOpening.kind", keys(OpeningKind.values())));
            out.add(SheetDraft.Field.in("secondaryOpening.start", "deg"));
            out.add(SheetDraft.Field.in("secondaryOpening.restAngle", "deg"));
        }
        for (Stage stage : stages()) {
            String at = stage.key() + ".";
            out.add(SheetDraft.Field.in(at + "bore", "mm"));
            out.add(SheetDraft.Field.in(at + "venturi", "mm"));
            out.add(SheetDraft.Field.of(at + "booster", keys(Booster.values())));
            for (String hole : List.of("mainJet", "highSpeedAirBleed", "idleFeedRestriction", "idleAirBleed")) {
                out.add(SheetDraft.Field.in(at + hole, "thou"));
            }
            out.add(SheetDraft.Field.in(at + "mixtureScrew", "turns"));
            if (rods(stage)) {
                out.add(SheetDraft.Field.in(at + "rodCruise", "thou"));
                out.add(SheetDraft.Field.in(at + "rodPower", "thou"));
                out.add(SheetDraft.Field.in(at + "stepUpSpring", "inHg"));
            } else {
                out.add(SheetDraft.Field.in(at + "powerValve", "inHg"));
                out.add(SheetDraft.Field.in(at + "powerChannelRestriction", "thou"));
            }
            out.add(SheetDraft.Field.in(at + "plateBypassHole", "mm"));
        }
        out.add(SheetDraft.Field.in("pump.nozzle", "thou"));
        out.add(SheetDraft.Field.in("pump.tenStrokes", "cc"));
        out.add(SheetDraft.Field.of("pump.cam", PUMP_CAMS));
        out.add(SheetDraft.Field.bare("pump.camPosition"));
        out.add(SheetDraft.Field.in("pump.clearance", "mm"));
        return out;
    }
}
