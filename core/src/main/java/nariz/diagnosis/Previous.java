package nariz.diagnosis;

import static nariz.text.Message.message;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Part;
import nariz.carburetor.PartChange;
import nariz.estimation.EarlierEstimate;
import nariz.text.Message;

/**
 * An earlier advice, as far as the next one needs it.
 *
 * @param fitted what was fitted then and what was to be fitted, for every change to be made at once
 * @param since changes made since the car was found, these among them; none after a car was left as it is
 * @param predicted what was predicted for after these changes
 * @param carried what that drive taught about the carburetor
 * @param asked whether it asked for the pull that tells enrichment and second stage apart
 */
public record Previous(List<PartChange> fitted, List<PartChange> since, List<Expected> predicted,
        EarlierEstimate carried, boolean asked) {
    /**
     * A prediction.
     *
     * @param before what was read when it was made
     * @param lambda mean lambda expected
     * @param low lower end of the 90 % interval
     * @param high upper end
     */
    public record Expected(RegimeError before, double lambda, double low, double high) {
        /** {@return way of running} */
        public Regime regime() {
            return before.regime();
        }
    }

    /** Copies the lists. */
    public Previous {
        fitted = List.copyOf(fitted);
        since = List.copyOf(since);
        predicted = List.copyOf(predicted);
    }

    /**
     * What an advice leaves for the next one.
     *
     * @param a advice
     * @return it, or empty when nothing was estimated
     */
    public static Optional<Previous> of(Advice a) {
        List<PartChange> fitted = a.changes().stream().filter(Change::now).map(x -> new PartChange(x.part(), x.side(),
                x.from(), x.to())).toList();
        return a.carried().map(c -> new Previous(fitted, after(a.verdict(), a.since(), fitted), a.predicted().stream()
                .map(p -> new Expected(p.before(), p.after().lambda(), p.low(), p.high())).toList(), c,
                a.awaited().isPresent()));
    }

    /** Changes made since the car was found, after an answer: one that is left as it is has been found anew. */
    static List<PartChange> after(Verdict verdict, List<PartChange> changes, List<PartChange> more) {
        return verdict == Verdict.LEAVE ? List.of() : after(changes, more);
    }

    /**
     * Changes and more changes, told from where each part was first.
     *
     * @param changes made before
     * @param more made after
     * @return one for every part
     */
    static List<PartChange> after(List<PartChange> changes, List<PartChange> more) {
        List<PartChange> out = new ArrayList<>(more);
        for (PartChange c : changes) {
            Optional<PartChange> later = more.stream().filter(x -> x.part().equals(c.part()) && x.side() == c.side())
                    .findFirst();
            later.ifPresent(out::remove);
            out.add(new PartChange(c.part(), c.side(), c.from(), later.orElse(c).to()));
        }
        return out;
    }

    /**
     * Whether a sheet is that of the car after this advice was followed.
     *
     * @param sheet sheet of a later drive
     * @return true where something was advised and all of it is fitted
     */
    public boolean followed(BuildSheet sheet) {
        List<Part> parts = sheet.carburetor().family().parts();
        return !fitted.isEmpty() && fitted.stream().allMatch(p -> parts.contains(p.part())) && notFitted(sheet)
                .isEmpty();
    }

    /** Advised changes missing from the sheet, in words. */
    List<Message> notFitted(BuildSheet sheet) {
        List<Message> out = new ArrayList<>();
        for (PartChange p : fitted) {
            double is = p.part().of(sheet.carburetor(), p.side());
            // A stop screw counts from where it stood: no sheet carries it.
            if (p.part().role() != Part.Role.IDLE_STOP && Math.abs(is - p.to()) > 1e-3 * Math.max(1.0,
                    Math.abs(p.to()))) {
                out.add(message("previous.was-advised-the-sheet", p.part().named(p.side()), p.part().text(p.to()),
                        p.part().text(is)));
            }
        }
        return out;
    }

    /** {@return whether the advice before took up a pump's slack or filled the dampers: no sheet has a trace of it} */
    boolean madeGood() {
        return fitted.stream().anyMatch(p -> (p.part().role() == Part.Role.PUMP_START && p.to() == 0.0)
                || (p.part().role() == Part.Role.DAMPER && p.to() == p.from()));
    }

    /** The prediction against what is measured now; empty when nothing, or other parts than advised, were fitted. */
    List<Scored> score(BuildSheet sheet, List<RegimeError> today) {
        List<Scored> out = new ArrayList<>();
        if (fitted.isEmpty() || !notFitted(sheet).isEmpty()) {
            return out;
        }
        for (Expected e : predicted) {
            today.stream().filter(t -> t.regime() == e.regime()).findFirst().ifPresent(t -> out.add(new Scored(
                    e.regime(), e.lambda(), e.low(), e.high(), t.lambda())));
        }
        return out;
    }

    /**
     * A prediction and what came of it.
     *
     * @param regime way of running
     * @param predicted mean lambda predicted
     * @param low lower end of the 90 % interval
     * @param high upper end
     * @param measured mean lambda measured
     */
    public record Scored(Regime regime, double predicted, double low, double high, double measured) {
        /** {@return whether it came out within the interval} */
        public boolean within() {
            return measured >= low && measured <= high;
        }
    }
}
