package nariz.family.constantdepression;

import static nariz.text.Message.message;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import nariz.carburetor.Bands;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Carburetor;
import nariz.carburetor.Circuit;
import nariz.carburetor.Coefficient;
import nariz.carburetor.Coefficients;
import nariz.carburetor.DamperSetting;
import nariz.carburetor.DeliveryModel;
import nariz.carburetor.Engine;
import nariz.carburetor.Ladder;
import nariz.carburetor.Needle;
import nariz.carburetor.Part;
import nariz.carburetor.PumpModel;
import nariz.carburetor.SheetDraft;
import nariz.carburetor.SheetFields;
import nariz.carburetor.Stage;
import nariz.family.AbstractFamily;
import nariz.flow.FlowCoefficient;
import nariz.flow.NeedleModel;
import nariz.units.Dimension;
import nariz.units.Quantity;
import nariz.units.Units;

/** A piston that floats on the airflow and carries a needle: no idle, main and power circuits, but stations. */
public final class ConstantDepression extends AbstractFamily {
    private static final String DIAMETERS = "primary.needle.diameters";
    static final String STANDARD = "standard";
    static final List<String> OILS = List.of("thin", STANDARD, "thick");
    static final List<String> SPRINGS = List.of("soft", STANDARD, "stiff");
    private static final int MOST = 3;
    private static final int FEWEST_STATIONS = 5;
    private static final int MOST_STATIONS = 30;
    private static final List<Coefficient> COEFFICIENTS = Stream.concat(EnumSet.of(FlowCoefficient.PLATE_DISCHARGE,
            FlowCoefficient.PLATE_CLEARANCE, FlowCoefficient.FILLING, FlowCoefficient.FILLING_CURVATURE,
            FlowCoefficient.FILLING_PEAK).stream(), EnumSet.range(FlowCoefficient.ANNULUS_DISCHARGE,
            FlowCoefficient.NEEDLE_SHOULDER).stream()).map(c -> (Coefficient) c).toList();

    /** The family. */
    public ConstantDepression() {
        super("constant-depression", List.of(Stage.PRIMARY), NeedleParts.CIRCUITS, NeedleParts.ALL);
    }

    @Override
    public Optional<Bands> bands() {
        return Optional.of(NeedleParts.BANDS);
    }

    @Override
    public Optional<Needle> needle(BuildSheet sheet) {
        Carburetor c = sheet.carburetor();
        return Optional.of(new Needle(c.number("primary.needle.spacing"), c.each(DIAMETERS)));
    }

    @Override
    public double needleJetM(BuildSheet sheet) {
        return sheet.carburetor().number("primary.jet");
    }

    @Override
    public List<Coefficient> coefficients() {
        return COEFFICIENTS;
    }

    @Override
    public Coefficients standard() {
        return FlowCoefficient.STANDARD;
    }

    @Override
    public DeliveryModel model(BuildSheet sheet, double levelM, Coefficients k) {
        return new NeedleModel(sheet, NeedleParts.BANDS, levelM, k);
    }

    /** The damper does the pump's work; it is no pump. */
    @Override
    public Optional<PumpModel> pump(BuildSheet sheet, double play) {
        return Optional.empty();
    }

    /** Time constants of a rise by oil: judgement, from engine oil to gear oil. */
    @Override
    public Optional<DamperSetting> damper(BuildSheet sheet) {
        return Optional.of(new DamperSetting(switch (sheet.carburetor().word(NeedleParts.DAMPER_OIL.field())) {
            case "thin" -> 0.10;
            case "thick" -> 0.28;
            default -> 0.17;
        }, DamperSetting.USUAL_FALL_S));
    }

    @Override
    public List<Ladder> pumpParts(BuildSheet sheet) {
        return List.of(new Ladder(own(NeedleParts.DAMPER_OIL), Stage.PRIMARY, 1, 1, 0, OILS.size() - 1.0, 0.03));
    }

    @Override
    public double enrichmentPa(Carburetor c, Stage stage) {
        return 0.0;
    }

    @Override
    public Optional<Part> part(Carburetor c, Stage stage, Part.Role role) {
        return stage == Stage.PRIMARY ? parts().stream().filter(p -> p.role() == role).findFirst() : Optional.empty();
    }

    @Override
    public Circuit trims(Part part, Stage stage) {
        int band = NeedleParts.NEEDLE_BANDS.indexOf(part);
        if (band >= 0) {
            return NeedleParts.CIRCUITS.get(band);
        }
        return switch (part.role()) {
            case FUEL_LEVEL, PISTON -> NeedleParts.CRUISE;
            case DAMPER -> NeedleParts.DAMPER;
            default -> NeedleParts.IDLE;
        };
    }

    @Override
    public List<Ladder> ladders(BuildSheet sheet) {
        Carburetor c = sheet.carburetor();
        Stage p = Stage.PRIMARY;
        List<Ladder> all = new ArrayList<>();
        levelPutRight(sheet, NeedleParts.FLOAT_LEVEL).ifPresent(all::add);
        if (!c.word(NeedleParts.PISTON_SPRING.field()).equals(STANDARD)) {
            // A spring is no trim: one that is not the standard one can only go back to it.
            double standard = SPRINGS.indexOf(STANDARD);
            all.add(new Ladder(own(NeedleParts.PISTON_SPRING), p, 1, 1, standard, standard, 0.05));
        }
        all.add(new Ladder(own(NeedleParts.JET_HEIGHT), p, 0.25, 12, -2.0, 6.0, 0.05));
        double jet = c.number("primary.jet") / Units.THOU;
        List<Double> stations = c.each(DIAMETERS).stream().map(d -> d / Units.THOU).toList();
        for (int i = 0; i < NeedleParts.NEEDLE_BANDS.size(); i++) {
            Part band = NeedleParts.NEEDLE_BANDS.get(i);
            double now = band.of(c, p);
            double[] room = NeedleParts.BANDS.room(i, stations);
            all.add(new Ladder(own(band), p, 0.5, 8, Math.max(0.2 * jet, now + room[0]), Math.min(jet
                    - NeedleParts.LEAST_GAP_M / Units.THOU, now + room[1]), 0.05));
        }
        return all;
    }

    /** A band of the needle that a sheet without one would be given; the standard oil. */
    @Override
    public Optional<Double> usual(BuildSheet sheet, Part part) {
        if (part.role() == Part.Role.DAMPER) {
            return Optional.of((double) OILS.indexOf(STANDARD));
        }
        if (part.role() != Part.Role.STATION) {
            return Optional.empty();
        }
        Carburetor c = sheet.carburetor();
        List<Double> d = UsualNeedle.diameters(c.number("primary.jet"), c.number("primary.needle.spacing"), c.number(
                "primary.bore")).stream().map(t -> Quantity.parse(t, Dimension.LENGTH).orElseThrow().si()).toList();
        return Optional.of(d.get(NeedleParts.BANDS.station(NeedleParts.NEEDLE_BANDS.indexOf(part), d.size()))
                / part.si());
    }

    @Override
    public double levelErrorM() {
        return 1e-3;
    }

    // The sheet

    @Override
    public Carburetor read(SheetFields f, Engine engine) {
        int count = f.whole("count", 1, MOST, engine.displacementM3() > 2.2e-3 ? 2 : 1);
        Map<String, Double> numbers = new LinkedHashMap<>();
        Map<String, String> words = new LinkedHashMap<>();
        if (f.has("barrels")) {
            f.whole("barrels", 1, 1, 1);
        }
        SheetFields p = f.object("primary");
        String at = "primary.";
        double bore = p.quantity("bore", Dimension.LENGTH, 20e-3, 65e-3, "38 mm", bore(engine, count));
        numbers.put(at + "bores", 1.0);
        numbers.put(at + "bore", bore);
        double jet = p.quantity("jet", Dimension.LENGTH, 50 * Units.THOU, 160 * Units.THOU, "90 thou",
                bore < 46e-3 ? "90 thou" : "100 thou");
        numbers.put(at + "jet", jet);
        needle(p.object("needle"), bore, jet, numbers);
        numbers.put(at + "jetHeight", p.quantity("jetHeight", Dimension.TURNS, -6, 12, "1.5 turns", "0 turns"));
        numbers.put(at + "jetPitch", p.quantity("jetPitch", Dimension.LENGTH, 0.1e-3, 2e-3, "0.4 mm", "0.4 mm"));
        words.put(at + "pistonSpring", p.choice("pistonSpring", SPRINGS, STANDARD));
        words.put(at + "damperOil", p.choice("damperOil", OILS, STANDARD));
        p.noOthers();
        numbers.put("fuelLevel", f.quantity("fuelLevel", Dimension.LENGTH, -12e-3, 12e-3, "0 mm", "0 mm"));
        f.noOthers();
        return new Carburetor(this, count, numbers, words);
    }

    /** A bore in which the largest air goes at about 55 m/s: the piston is then well up. */
    private static String bore(Engine engine, int count) {
        double peak = 0.85 * engine.displacementM3() * engine.redlineRpm() / 120.0;
        return Quantity.trim(Math.clamp(1e3 * Math.sqrt(4.0 / Math.PI * peak / count / 37.0), 28.0, 56.0), 0) + " mm";
    }

    private static void needle(SheetFields f, double bore, double jet, Map<String, Double> numbers) {
        double spacing = f.quantity("spacing", Dimension.LENGTH, 0.5e-3, 10e-3, "3.175 mm", "2.1 mm");
        List<Double> d = f.list("diameters", FEWEST_STATIONS, MOST_STATIONS, Dimension.LENGTH, 10 * Units.THOU, jet
                - NeedleParts.LEAST_GAP_M, "88.9 thou", UsualNeedle.diameters(jet, spacing, bore));
        for (int i = 1; i < d.size(); i++) {
            if (d.get(i) > d.get(i - 1) + 1e-9) {
                throw f.problem("diameters", message("problem.a-needle-grows-thinner", i + 1, i));
            }
        }
        numbers.put("primary.needle.spacing", spacing);
        numbers.put(DIAMETERS, d.stream().mapToDouble(v -> v).average().orElseThrow());
        for (int i = 0; i < d.size(); i++) {
            numbers.put(DIAMETERS + "." + (i + 1), d.get(i));
        }
        f.noOthers();
    }

    @Override
    public List<SheetDraft.Field> fields() {
        return List.of(SheetDraft.Field.bare("count"), SheetDraft.Field.in("fuelLevel", "mm"),
                SheetDraft.Field.in("primary.bore", "mm"), SheetDraft.Field.in("primary.jet", "thou"),
                SheetDraft.Field.in("primary.jetHeight", "turns"), SheetDraft.Field.in("primary.jetPitch", "mm"),
                SheetDraft.Field.in("primary.needle.spacing", "mm"),
                SheetDraft.Field.each("primary.needle.diameters", "thou"),
                SheetDraft.Field.of("primary.pistonSpring", SPRINGS), SheetDraft.Field.of("primary.damperOil", OILS));
    }
}
