package nariz.app.chart;

import static nariz.app.words.WindowWords.say;
import static nariz.app.words.WindowWords.units;

import java.util.ArrayList;
import java.util.List;
import java.util.function.IntToDoubleFunction;
import nariz.app.state.Drive;
import nariz.app.state.Effect;
import nariz.app.state.MixtureUnit;
import nariz.app.state.Session;
import nariz.app.state.Stop;
import nariz.carburetor.Family;
import nariz.diagnosis.Analysis;

/** What a mark of the plane means, in words. */
final class PlaneWords {
    private PlaneWords() {
    }

    /** Lines: where, what was read and wanted, how much of it is the shown stop's, and what it would be. */
    static List<String> of(Session session, PlaneMark m) {
        Drive d = session.driveProperty().get();
        Analysis a = d.analysis();
        IntToDoubleFunction dwell = i -> a.estimate().cells().get(i).dwellS();
        double phi = m.mean(i -> a.estimate().phi(i), dwell);
        double target = m.mean(a::targetPhi, dwell);
        MixtureUnit unit = session.unitProperty().get();
        List<String> out = new ArrayList<>();
        out.add(say("plane.mark", m.mean(i -> a.estimate().cells().get(i).rpm(), dwell), units().vacuum(m.mean(
                i -> a.estimate().cells().get(i).vacuumPa(), dwell)), m.dwellS()));
        out.add(say("plane.mark-reads", unit.marked(1 / phi), unit.text(1 / target), error(target / phi - 1)));
        Stop stop = session.stopProperty().get();
        Family family = d.sheet().carburetor().family();
        if (!stop.circuits(family).isEmpty()) {
            out.add(say("plane.mark-share", stop.label(), 100 * m.mean(i -> a.estimate().share(i, stop.circuits(
                    family)), dwell)));
        }
        Effect then = session.trials().effectProperty().get();
        if (then.changed()) {
            out.add(say(then.tried() ? "plane.mark-tried" : "plane.mark-after", error(target / m.mean(i -> then
                    .phi()[i], dwell) - 1)));
        }
        return out;
    }

    private static String error(double e) {
        long percent = Math.round(100 * Math.abs(e));
        return percent == 0 ? say("plane.on-target") : say(e > 0 ? "plane.percent-lean" : "plane.percent-rich",
                percent);
    }
}
