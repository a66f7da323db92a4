package nariz.family.jetted;

import java.util.ArrayList;
import java.util.List;
import nariz.carburetor.Circuit;
import nariz.carburetor.Stage;

/** Circuits of carburetors with jet stacks; the spreads of their levels are judgement, as those of other families. */
final class JettedCircuits {
    private static final List<String> LOW_SPEED = List.of("idleJet", "idleAir", "mixtureScrew");
    private static final List<String> JETS = List.of("mainJet", "venturi", "airCorrector");

    private JettedCircuits() {
    }

    static List<Circuit> of(boolean enriched, boolean second) {
        List<Circuit> out = new ArrayList<>();
        out.add(new Circuit("idle", "idle", Stage.PRIMARY, Circuit.Role.IDLE, 0, 0.13, LOW_SPEED));
        out.add(new Circuit("transfer", "transfer", Stage.PRIMARY, Circuit.Role.PROGRESSION, 1, 0.13, LOW_SPEED));
        out.add(new Circuit("main", "main", Stage.PRIMARY, Circuit.Role.METERING, 2, 0.11, JETS));
        if (enriched) {
            out.add(new Circuit("power", "power", Stage.PRIMARY, Circuit.Role.ENRICHMENT, out.size(), 0.18,
                    List.of("powerChannelRestriction")));
        }
        if (second) {
            out.add(new Circuit("secondary-idle", "idle", Stage.SECONDARY, Circuit.Role.IDLE, out.size(), 0.15,
                    LOW_SPEED));
            out.add(new Circuit("secondary-main", "main", Stage.SECONDARY, Circuit.Role.METERING, out.size(), 0.12,
                    JETS));
        }
        out.add(new Circuit("pump", "pump", Stage.PRIMARY, Circuit.Role.PUMP, out.size(), 0.30, List.of()));
        return List.copyOf(out);
    }
}
