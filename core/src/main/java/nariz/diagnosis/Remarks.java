package nariz.diagnosis;

import static nariz.text.Message.message;

import java.util.ArrayList;
import java.util.List;
import nariz.estimation.IdleSpeed;
import nariz.estimation.Observation;
import nariz.text.Message;

/** What speaks against the columns of a log as a person named them, and against the sheet. */
final class Remarks {
    /** Further from the sheet than anybody sets it by a screw, share. */
    private static final double IDLE_DIFFERS = 0.2;

    private Remarks() {
    }

    static List<Message> of(Observation o) {
        List<Message> out = new ArrayList<>(o.log().remarks());
        out.addAll(o.sheet().carburetor().family().oddities(o.sheet()));
        double idle = IdleSpeed.of(o);
        double expected = o.sheet().engine().idleRpm();
        if (Math.abs(idle / expected - 1.0) > IDLE_DIFFERS) {
            out.add(message("advice-builder.the-log-idles-elsewhere", idle, expected));
        }
        return out;
    }
}
