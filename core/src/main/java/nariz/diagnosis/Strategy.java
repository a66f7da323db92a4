package nariz.diagnosis;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Circuit;
import nariz.carburetor.Targets;
import nariz.estimation.Cell;

/**
 * Target lambda by regime. Load is manifold over ambient pressure.
 *
 * @param name key on the command line
 * @param idle at curb idle
 * @param light below load 0.58, with vacuum advance
 * @param lightWithoutVacuumAdvance the same with centrifugal advance only
 * @param moderate load 0.72 to 0.78, with vacuum advance
 * @param moderateWithoutVacuumAdvance the same with centrifugal advance only
 * @param full load 0.90 and above; between the anchors the target is a straight line
 */
public record Strategy(String name, double idle, double light, double lightWithoutVacuumAdvance, double moderate,
        double moderateWithoutVacuumAdvance, double full) {
    /** Load from which on targets get richer towards full load. */
    static final double ENRICHED_LOAD = 0.78;
    /** Load from which on an engine runs at full load. */
    public static final double FULL_LOAD = 0.90;
    /** The default: lean light cruise where the advance allows it, best torque at full load. */
    public static final Strategy BALANCED = new Strategy("balanced", 0.95, 1.02, 0.95, 0.96, 0.95, 0.87);
    /** Leaner cruise for distance. */
    public static final Strategy ECONOMY = new Strategy("economy", 0.97, 1.05, 0.98, 0.99, 0.98, 0.88);
    /** Richer under load, for climbs and heat. */
    public static final Strategy CLIMB = new Strategy("climb", 0.94, 1.00, 0.94, 0.94, 0.94, 0.85);

    private static final List<Strategy> ALL = List.of(BALANCED, ECONOMY, CLIMB);

    /**
     * Finds a strategy.
     *
     * @param name key
     * @return it, or empty
     */
    public static Optional<Strategy> named(String name) {
        return ALL.stream().filter(s -> s.name.equals(name.toLowerCase(Locale.ROOT))).findFirst();
    }

    /**
     * The targets that a sheet asks for.
     *
     * @param sheet build
     * @return the starting point it names, with the tuner's own values in place of some; then its name ends in
     *     {@code -own}
     */
    public static Strategy of(BuildSheet sheet) {
        Targets own = sheet.targets();
        Strategy s = named(own.from()).orElse(BALANCED);
        if (!own.own()) {
            return s;
        }
        return new Strategy(s.name + "-own", own.idle().orElse(s.idle), own.light().orElse(s.light),
                own.light().orElse(s.lightWithoutVacuumAdvance), own.moderate().orElse(s.moderate),
                own.moderate().orElse(s.moderateWithoutVacuumAdvance), own.full().orElse(s.full));
    }

    /** {@return all names, for messages} */
    public static List<String> names() {
        return ALL.stream().map(Strategy::name).toList();
    }

    /**
     * Target at a load, idle apart.
     *
     * @param load manifold over ambient pressure, 0 to 1
     * @param vacuumAdvance whether ignition advance has a vacuum part
     * @return lambda
     */
    public double atLoad(double load, boolean vacuumAdvance) {
        double low = vacuumAdvance ? light : lightWithoutVacuumAdvance;
        double mid = vacuumAdvance ? moderate : moderateWithoutVacuumAdvance;
        if (load < 0.72) {
            return between(load, 0.58, low, 0.72, mid);
        }
        return between(load, ENRICHED_LOAD, mid, FULL_LOAD, full);
    }

    /**
     * The targets that all others lie between.
     *
     * @param vacuumAdvance whether ignition advance has a vacuum part
     * @return lambda by the names they have on a sheet, in the order idle, light, moderate, full
     */
    public Map<String, Double> anchors(boolean vacuumAdvance) {
        Map<String, Double> out = new LinkedHashMap<>();
        out.put("idle", idle);
        out.put("light", vacuumAdvance ? light : lightWithoutVacuumAdvance);
        out.put("moderate", vacuumAdvance ? moderate : moderateWithoutVacuumAdvance);
        out.put("full", full);
        return out;
    }

    private static double between(double x, double x0, double y0, double x1, double y1) {
        double f = Math.clamp((x - x0) / (x1 - x0), 0.0, 1.0);
        return y0 + f * (y1 - y0);
    }

    /**
     * Target of a cell.
     *
     * @param cell where
     * @param sheet build
     * @return lambda
     */
    public double of(Cell cell, BuildSheet sheet) {
        return at(cell.idle(), cell.vacuumPa(), sheet);
    }

    /**
     * Target of a moment.
     *
     * @param idles whether it is curb idle
     * @param vacuumPa vacuum, Pa
     * @param sheet build
     * @return lambda
     */
    public double at(boolean idles, double vacuumPa, BuildSheet sheet) {
        return idles ? idle : atLoad(load(vacuumPa, sheet), sheet.engine().vacuumAdvance());
    }

    /**
     * Load of a moment.
     *
     * @param vacuumPa vacuum, Pa
     * @param sheet build
     * @return manifold over ambient pressure
     */
    public static double load(double vacuumPa, BuildSheet sheet) {
        return 1.0 - vacuumPa / sheet.ambient().pressurePa();
    }

    /**
     * Load of a cell.
     *
     * @param cell where
     * @param sheet build
     * @return manifold over ambient pressure
     */
    public static double load(Cell cell, BuildSheet sheet) {
        return load(cell.vacuumPa(), sheet);
    }

    /**
     * Regime of a cell.
     *
     * @param cell where
     * @param sheet build
     * @param phi what each circuit delivers there
     * @return the regime
     */
    public static Regime regime(Cell cell, BuildSheet sheet, double[] phi) {
        if (cell.idle()) {
            return Regime.IDLE;
        }
        double sum = 0.0;
        double slot = 0.0;
        for (Circuit c : sheet.carburetor().family().circuits()) {
            sum += phi[c.index()];
            slot += c.lowSpeed() ? phi[c.index()] : 0.0;
        }
        return regime(load(cell, sheet), slot / sum);
    }

    /**
     * Regime off idle.
     *
     * @param load manifold over ambient pressure
     * @param slotShare share of the fuel that comes from idle port and slot, 0 to 1
     * @return the regime
     */
    public static Regime regime(double load, double slotShare) {
        if (load >= FULL_LOAD) {
            return Regime.FULL;
        }
        if (load >= 0.8) {
            return Regime.POWER;
        }
        if (slotShare > Regime.SLOT_SHARE) {
            return Regime.TRANSFER;
        }
        return load < 0.6 ? Regime.CRUISE : Regime.MODERATE;
    }
}
