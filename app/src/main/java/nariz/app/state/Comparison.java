package nariz.app.state;

import static nariz.app.words.WindowWords.say;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.PartChange;
import nariz.comparison.Difference;
import nariz.comparison.RunComparison;
import nariz.comparison.Trend;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.RegimeError;
import nariz.diagnosis.RegimePrediction;
import nariz.dynamics.UnloadedSweep;
import nariz.log.DriveLog;
import nariz.sim.Demo;
import nariz.text.Message;

/**
 * The open drive against another of the same car.
 *
 * @param with what it is compared with: enough to load and analyse it again
 * @param other the other drive, analysed
 * @param result what the open drive has that the other has not
 * @param heldSpeeds what speeds held without load in both say; none where there are none
 */
public record Comparison(Other with, Analysis other, RunComparison result, List<Message> heldSpeeds) {
    /**
     * Something the open drive can be compared with.
     *
     * @param label what it is called
     * @param run its key in the workbook; 0 for a drive of the demo's engine
     * @param demo the demo whose engine it is; empty for a drive of the workbook
     * @param sheet what was fitted in a drive of the demo's engine; empty for its day with an air cleaner
     * @param round how often the demo's engine had been driven before, -1 for the demo itself
     */
    public record Other(String label, long run, Optional<Demo> demo, Optional<BuildSheet> sheet, int round) {
        static Other kept(String label, long run) {
            return new Other(label, run, Optional.empty(), Optional.empty(), 0);
        }

        static Other demoWithCleaner(String label, Demo demo) {
            return new Other(label, 0, Optional.of(demo), Optional.empty(), 0);
        }

        static Other demo(String label, Demo demo, BuildSheet fitted, int round) {
            return new Other(label, 0, Optional.of(demo), Optional.of(fitted), round);
        }

        /** The log of a drive of the demo's engine. */
        DriveLog demoLog() {
            Demo d = demo.orElseThrow();
            return sheet.isEmpty() ? d.withCleaner().log() : round < 0 ? d.drive().log() : d.again(sheet.get(), round)
                    .log();
        }
    }

    static Comparison of(Other with, Analysis other, Analysis open) {
        return new Comparison(with, other, RunComparison.of(other, open), UnloadedSweep.of(other.observation())
                .airBox(UnloadedSweep.of(open.observation())));
    }

    /** {@return what the other is called} */
    public String name() {
        return with.label();
    }

    /** {@return the trend with airflow; empty when other parts lie between the two, for then it is theirs} */
    public Optional<Trend> trend() {
        return result.changed().isEmpty() ? result.trend() : Optional.empty();
    }

    /** {@return what matters, in one sentence} */
    public String sentence() {
        List<String> parts = result.differences().stream().filter(Difference::matters).map(d ->
                say("comparison.at", percent(d.mean()), d.regime().label())).toList();
        return parts.isEmpty() ? say("comparison.against-nothing-differs-that", name())
                : say("comparison.against-this-drive-reads", name(), String.join(", ", parts), (
                parts.size() < result.differences().size() ? say("comparison.elsewhere-nothing-that-matters") : "."));
    }

    /** {@return what the difference looks like, what was foretold, and what it rests on} */
    public List<String> remarks() {
        List<String> out = new ArrayList<>();
        trend().filter(t -> t.certain() && Math.abs(t.atLargest()) > 0.02).ifPresent(t -> out.add(
                say("comparison.it-grows-with-airflow", percent(t.atLargest()), 100 * t.low(),
                100 * t.high())));
        if (!result.changed().isEmpty()) {
            out.add(say("comparison.between-the-two", Message.join("; ", result.changed().stream().map(
                    PartChange::text).toList())));
            long kept = result.differences().stream().filter(Difference::asPredicted).count();
            out.add(say("comparison.it-came-out-as", kept, result.differences().size()));
        }
        if (!heldSpeeds.isEmpty()) {
            out.add(say("comparison.held-speeds", Message.join("; ", heldSpeeds)));
        }
        out.add(say("comparison.of-the-other-drive", 100 * result.share()));
        return out;
    }

    private static String percent(double share) {
        return Math.round(100 * Math.abs(share)) + " % " + (share > 0 ? say("comparison.leaner")
                : say("comparison.richer"));
    }

    /**
     * Ways of running that came nearer to their target.
     *
     * @param now the open drive
     * @return for example "idle 9 → 2 %"; where both drives were read
     */
    public List<String> nearer(Analysis now) {
        List<String> out = new ArrayList<>();
        for (RegimePrediction was : other.advice().predicted()) {
            for (RegimePrediction is : now.advice().predicted()) {
                RegimeError a = was.before();
                RegimeError b = is.before();
                if (a.regime() == b.regime() && Math.round(100 * a.rms()) != Math.round(100 * b.rms())) {
                    out.add(String.format(Locale.ROOT, "%s %.0f → %.0f %%", say(a.regime().label()), 100 * a.rms(),
                            100 * b.rms()));
                }
            }
        }
        return out;
    }
}
