package nariz.sim;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import nariz.advice.Strategy;
import nariz.build.BuildSheet;
import nariz.build.Part;
import nariz.build.SideName;
import nariz.units.Units;

/**
 * Sets a practice engine up well, knowing its true mixture: parts one step at a time until no step helps. Gives the
 * starting point into which errors are then put; the estimator never sees it.
 */
final class HealthyTune {
    private record Point(double rpm, double vacuumPa, double targetPhi, double weight) {
    }

    private record Move(Part part, SideName side, double step) {
    }

    private final long quirksSeed;
    private final List<Point> points = new ArrayList<>();

    private HealthyTune(BuildSheet sheet, long quirksSeed) {
        this.quirksSeed = quirksSeed;
        double idle = sheet.engine().idleRpm();
        double red = sheet.engine().redlineRpm();
        double idleVacuum = EngineSimulator.idleVacuumPa(sheet.engine().cam());
        points.add(new Point(idle, idleVacuum, 1 / 0.95, 12));
        double ambient = sheet.ambient().pressurePa();
        for (double share : new double[] {0.28, 0.35, 0.45, 0.55, 0.65}) {
            for (double load : new double[] {0.35, 0.42, 0.5, 0.62, 0.72, 0.78, 0.82, 0.87}) {
                double target = Strategy.BALANCED.atLoad(load, sheet.engine().vacuumAdvance());
                points.add(new Point(share * red, (1 - load) * ambient, 1 / target, load > 0.3 && share > 0.3 ? 1 : 2));
            }
        }
        for (double share : new double[] {0.5, 0.6, 0.7, 0.8, 0.9}) {
            points.add(new Point(share * red, 0.4 * Units.INHG, 1 / 0.87, 2));
        }
    }

    static BuildSheet of(BuildSheet sheet, long quirksSeed) {
        return new HealthyTune(sheet, quirksSeed).tune(sheet);
    }

    private BuildSheet tune(BuildSheet start) {
        List<Move> moves = new ArrayList<>(List.of(
                new Move(Part.MIXTURE_SCREW, SideName.PRIMARY, 0.125),
                new Move(Part.IDLE_FEED_RESTRICTION, SideName.PRIMARY, 1),
                new Move(Part.IDLE_AIR_BLEED, SideName.PRIMARY, 2),
                new Move(Part.MAIN_JET, SideName.PRIMARY, 1),
                new Move(Part.HIGH_SPEED_AIR_BLEED, SideName.PRIMARY, 1),
                new Move(Part.MAIN_JET, SideName.SECONDARY, 1),
                new Move(Part.HIGH_SPEED_AIR_BLEED, SideName.SECONDARY, 1)));
        if (start.carburetor().primary().hasRods()) {
            moves.add(new Move(Part.METERING_ROD, SideName.PRIMARY, 1));
            moves.add(new Move(Part.STEP_UP_SPRING, SideName.PRIMARY, 1));
        } else {
            moves.add(new Move(Part.POWER_CHANNEL_RESTRICTION, SideName.PRIMARY, 2));
            moves.add(new Move(Part.POWER_VALVE_RATING, SideName.PRIMARY, 1));
        }
        BuildSheet best = start;
        double least = cost(best);
        boolean better = true;
        for (int round = 0; better && round < 60; round++) {
            better = false;
            for (Move m : moves) {
                for (int sign = -1; sign <= 1; sign += 2) {
                    double v = m.part().of(best.carburetor().barrels(m.side())) + sign * m.step();
                    if (v <= 0 || tooThick(m, best, v) || tooSmall(m, v)) {
                        continue;
                    }
                    BuildSheet tried = m.part().fit(best, m.side(), v);
                    double c = cost(tried);
                    if (c < least) {
                        least = c;
                        best = tried;
                        better = true;
                    }
                }
            }
        }
        return best;
    }

    private static boolean tooThick(Move m, BuildSheet sheet, double v) {
        return m.part() == Part.METERING_ROD && v * Units.THOU > sheet.carburetor().primary().rodCruiseM();
    }

    private static boolean tooSmall(Move m, double v) {
        return (m.part() == Part.HIGH_SPEED_AIR_BLEED && (v < 20 || v > 60))
                || (m.part() == Part.IDLE_AIR_BLEED && (v < 50 || v > 110));
    }

    /** Root mean square error of a car against its targets over the tuning points. */
    static double rms(BuildSheet sheet, long quirksSeed) {
        HealthyTune t = new HealthyTune(sheet, quirksSeed);
        return Math.sqrt(t.cost(sheet) / t.points.stream().mapToDouble(Point::weight).sum());
    }

    /** Largest relative change of the true mixture between two sets of parts, over the tuning points. */
    static double worstChange(BuildSheet a, BuildSheet b, long quirksSeed) {
        EngineSimulator was = new EngineSimulator(a, quirksSeed, Map.of(), 1);
        EngineSimulator is = new EngineSimulator(b, quirksSeed, Map.of(), 1);
        return new HealthyTune(a, quirksSeed).points.stream().mapToDouble(p -> Math.abs(
                is.steadyPhi(p.rpm(), p.vacuumPa()) / was.steadyPhi(p.rpm(), p.vacuumPa()) - 1)).max().orElse(0);
    }

    private double cost(BuildSheet sheet) {
        EngineSimulator car = new EngineSimulator(sheet, quirksSeed, Map.of(), 1);
        double sum = 0;
        for (Point p : points) {
            double e = car.steadyPhi(p.rpm(), p.vacuumPa()) / p.targetPhi() - 1;
            sum += p.weight() * e * e;
        }
        return sum;
    }
}
