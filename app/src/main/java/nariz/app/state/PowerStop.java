package nariz.app.state;

import static nariz.app.words.WindowWords.say;

import java.util.ArrayList;
import java.util.List;
import java.util.OptionalInt;
import nariz.carburetor.Circuit;
import nariz.carburetor.Stage;
import nariz.diagnosis.Analysis;
import nariz.units.Units;
import org.jspecify.annotations.Nullable;

/** Enrichment: judged steadily and by every crossing of its line. */
final class PowerStop extends CircuitStop {
    private static final double LOADED_PA = 9 * Units.INHG;

    PowerStop() {
        super("power", Stage.PRIMARY, Circuit.Role.ENRICHMENT);
    }

    @Override
    public Evidence evidence(@Nullable Drive d, @Nullable Comparison against) {
        return d != null && d.analysis().advice().dynamics().enrichment().isPresent() ? Evidence.ENRICHMENT
                : Evidence.STREAM;
    }

    /** A valve that opens too late delivers nothing just where it should: its own share says little there. */
    @Override
    public OptionalInt moment(Drive d, @Nullable Comparison against) {
        return OptionalInt.of(d.trace().bestMoment(d.analysis(), this, false, true));
    }

    @Override
    public boolean speaks(Analysis a, int cell) {
        return super.speaks(a, cell) || a.estimate().cells().get(cell).vacuumPa() < LOADED_PA;
    }

    @Override
    public List<Seen> seen(Drive d) {
        List<Seen> out = new ArrayList<>();
        out.add(new Seen(say("work-card-panel.enrichment-seen"), d.analysis().advice().dynamics().ofEnrichment()));
        if (!Stops.SECONDARY.in(d.sheet().carburetor().family())) {
            out.add(SecondaryStop.pulls(d));
        }
        return out;
    }
}
