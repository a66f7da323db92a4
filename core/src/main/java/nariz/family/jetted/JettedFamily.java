package nariz.family.jetted;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Carburetor;
import nariz.carburetor.Circuit;
import nariz.carburetor.Coefficient;
import nariz.carburetor.Coefficients;
import nariz.carburetor.DeliveryModel;
import nariz.carburetor.Engine;
import nariz.carburetor.Ladder;
import nariz.carburetor.Part;
import nariz.carburetor.ProgressionHole;
import nariz.carburetor.PumpModel;
import nariz.carburetor.PumpSetting;
import nariz.carburetor.SheetDraft;
import nariz.carburetor.SheetFields;
import nariz.carburetor.Stage;
import nariz.family.AbstractFamily;
import nariz.flow.AcceleratorPump;
import nariz.flow.Barrels;
import nariz.flow.Booster;
import nariz.flow.EmulsionRow;
import nariz.flow.FamilyCoefficient;
import nariz.flow.FlowCoefficient;
import nariz.flow.MeteredModel;
import nariz.flow.OpeningKind;
import nariz.units.Dimension;
import nariz.units.Quantity;
import nariz.units.Units;

/**
 * What carburetors with jet stacks and progression holes share: sheet, model, parts. A family says how many stages it
 * has, how many barrels a body, how many bodies a set, and whether vacuum enriches.
 */
public abstract class JettedFamily extends AbstractFamily {
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
     * Plates without much clearance behind a short venturi that has another in it, holes drilled from the side, a level
     * close to the outlet.
     * Set with one sound drive of another simulator in view (docs/model.md, "Jet stacks").
     */
    private static final Coefficients STANDARD = FlowCoefficient.STANDARD
            .with(FlowCoefficient.IDLE_FEED_DISCHARGE, 0.91).with(FlowCoefficient.IDLE_BLEED_DISCHARGE, 0.89)
            .with(FlowCoefficient.PORT_DISCHARGE, 0.25).with(FlowCoefficient.UPPER_SLOT_DISCHARGE, 0.205)
            .with(FlowCoefficient.IDLE_LIFT, 0.0155).with(FlowCoefficient.PORT_PER_TURN, 0.52e-6)
            .with(FlowCoefficient.SPILL, 0.0063).with(FlowCoefficient.PULSATION, 34.0)
            .with(FlowCoefficient.GIVE_BACK, 20.0).with(FlowCoefficient.PLATE_CLEARANCE, 0.0018)
            .with(FlowCoefficient.PLATE_DISCHARGE, 0.585).with(FlowCoefficient.VENTURI_LOSS, 0.8);
    /** These carburetors differ more among each other than four-barrels in their idle and main systems. */
    private static final double LESS_KNOWN = 1.6;
    /** Turns out beyond which a mixture screw's port is as open as it gets. */
    private static final double SCREW_END = 5.5;
    private static final double FULL_TRAVEL_RAD = 55.0 * Units.DEG;

    private final Build build;
    private final List<Coefficient> coefficients;

    /**
     * A family.
     *
     * @param key name in files
     * @param build how it is built
     */
    protected JettedFamily(String key, Build build) {
        super(key, build.second() ? List.of(Stage.PRIMARY, Stage.SECONDARY) : List.of(Stage.PRIMARY),
                JettedCircuits.of(build.enriched(), build.second()), parts(build));
        this.build = build;
        coefficients = coefficients(build);
    }

    private static List<Part> parts(Build build) {
        List<Part> all = new ArrayList<>(List.of(JettedParts.MIXTURE_SCREW, JettedParts.IDLE_JET, JettedParts.IDLE_AIR,
                JettedParts.MAIN_JET, JettedParts.AIR_CORRECTOR, JettedParts.VENTURI));
        if (build.enriched()) {
            all.addAll(List.of(JettedParts.POWER_VALVE, JettedParts.POWER_CHANNEL));
        }
        all.addAll(List.of(JettedParts.FLOAT_LEVEL, JettedParts.IDLE_STOP));
        if (build.second()) {
            all.addAll(List.of(JettedParts.SECONDARY_SPRING, JettedParts.SECONDARY_LINKAGE));
        }
        all.addAll(List.of(JettedParts.PUMP_CLEARANCE, JettedParts.PUMP_JET, JettedParts.PUMP_STROKE));
        return build.second() ? all : all.stream().map(Part::alone).toList();
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
    public int idleTrims(Carburetor c) {
        return c.count() * (int) c.number("primary.bores");
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
    public final List<ProgressionHole> holes(BuildSheet sheet) {
        return barrels(sheet, Stage.PRIMARY).idle().holes();
    }

    @Override
    public final Optional<PumpModel> pump(BuildSheet sheet, double play) {
        return pumpSetting(sheet).map(p -> new AcceleratorPump(p, play));
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
                * c.number("pump.strokeVolume") * density, FULL_TRAVEL_RAD, AcceleratorPump.slackRad(c.number(
                "pump.clearance")), PumpSetting.USUAL_REFILL_S, PumpSetting.STRAIGHT));
    }

    @Override
    public final List<Ladder> pumpParts(BuildSheet sheet) {
        return List.of(pumpSlack(JettedParts.PUMP_CLEARANCE),
                new Ladder(own(JettedParts.PUMP_JET), Stage.PRIMARY, 0.05, 8, 0.25, 1.2, 0.10),
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
        return stages().contains(stage) ? parts().stream().filter(p -> p.role() == role).findFirst() : Optional.empty();
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
        levelPutRight(sheet, JettedParts.FLOAT_LEVEL).ifPresent(all::add);
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
        return 0.35e-3;
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

    @Override
    public final Carburetor read(SheetFields f, Engine engine) {
        return new JettedSheet(build, stages()).read(this, f, engine);
    }

    @Override
    public final List<SheetDraft.Field> fields() {
        return new JettedSheet(build, stages()).fields();
    }
}
