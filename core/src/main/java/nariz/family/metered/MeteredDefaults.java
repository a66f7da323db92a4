package nariz.family.metered;

import nariz.carburetor.Engine;
import nariz.flow.OpeningKind;
import nariz.units.Quantity;
import nariz.units.Units;

/**
 * What a family of carburetor usually carries, as texts with units, for fields a sheet leaves out.
 *
 * <p>Sizes follow the engine: the venturi from full-load airflow at about 100 m/s in the throat (Heywood 1988, section
 * 7.2, gives the venturi flow relation), the main jet from the venturi by about 2.2 thousandths of an inch a millimetre
 * on the primary and 2.4 on the secondary side: the size at which the model delivers a cruise mixture. A rule of
 * thumb, and listed as assumed when used.
 */
record MeteredDefaults(boolean rods, double boreMm) {
    static MeteredDefaults of(boolean rods, boolean twoStages, Engine engine, int count) {
        double bores = twoStages ? 4.0 : 2.0;
        double peakKgPerS = 0.85 * engine.displacementM3() * engine.redlineRpm() / 120.0 * 1.18;
        double throatM2 = peakKgPerS / (bores * count * 1.18 * 65.0);
        double venturiMm = Math.sqrt(4.0 * throatM2 / Math.PI) * 1e3;
        return new MeteredDefaults(rods, Math.clamp(venturiMm * 1.32, 28.0, 52.0));
    }

    String bore(boolean primary) {
        return Quantity.trim(boreMm, 1) + " mm";
    }

    String venturi(boolean primary, double boreM) {
        return Quantity.trim(boreM * 1e3 * (primary ? 0.74 : 0.78), 1) + " mm";
    }

    String mainJet(boolean primary, double venturiM) {
        double perMm = rods && primary ? 2.9 : (primary ? 2.18 : 2.38);
        return Quantity.trim(Math.rint(venturiM * 1e3 * perMm), 0) + " thou";
    }

    String highSpeedBleed(boolean primary) {
        return rods && primary ? "22 thou" : "33 thou";
    }

    String idleFeed(boolean primary) {
        return primary ? Quantity.trim(Math.rint(30 + 0.6 * (boreMm - 38.0)), 0) + " thou" : "28 thou";
    }

    String idleBleed(boolean primary) {
        return primary ? "80 thou" : "64 thou";
    }

    String screw(boolean primary) {
        return primary ? "2.25 turns" : "0.5 turns";
    }

    OpeningKind opening() {
        return rods ? OpeningKind.AIR_VALVE : OpeningKind.MECHANICAL;
    }

    String nozzle() {
        return Quantity.trim(Math.rint(0.9 * boreMm * 1e-3 / Units.THOU / 42.0), 0) + " thou";
    }
}
