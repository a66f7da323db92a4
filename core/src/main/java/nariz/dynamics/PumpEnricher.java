package nariz.dynamics;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.function.BooleanSupplier;
import java.util.stream.IntStream;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Ladder;
import nariz.carburetor.Part;
import nariz.carburetor.PumpSetting;
import nariz.dynamics.OpeningStudy.Act;
import nariz.dynamics.OpeningStudy.Cause;
import nariz.estimation.Observation;
import nariz.units.Units;

/** An accelerator pump: explanations of {@link PumpFit}, every size of every one of its parts. */
final class PumpEnricher implements Enricher {
    /** What any change to a pump costs before its own work: sound pumps are left alone. */
    private static final double WORTH = 0.25;
    /** A size this far from the usual one, in ln, is worth a quarter of a felt hesitation less. */
    private static final double USUAL_SPREAD = 0.25;
    private static final double UNUSUAL = 0.15;
    private static final double PER_SIZE = 0.02;
    /** How probable slack must be: a round cam, a check that lifts late and a slow sensor look a little like it. */
    private static final double SLACK_SURE = 0.75;
    /** A spring that yields looks like so much slack, which no spanner takes up, rad. */
    private static final double YIELDS_RAD = 1.5 * Units.DEG;

    private final List<PumpFit.Sample> posterior;
    private final List<Stab> gentle;
    private final List<Option> options = new ArrayList<>();
    private final PumpSetting today;
    private final double stoich;

    /**
     * A choice.
     *
     * @param choice what is done
     * @param then what the pump of the sheet does with it
     * @param taut whether slack that no sheet has is gone then
     */
    private record Option(Choice choice, PumpSetting then, boolean taut) {
    }

    PumpEnricher(List<Stab> stabs, List<Stab> gentle, PumpSetting fitted, Observation o, boolean slackGone,
            BooleanSupplier cancelled) {
        this.gentle = gentle;
        BuildSheet sheet = o.sheet();
        today = fitted;
        stoich = sheet.fuel().stoichAfr();
        posterior = new PumpFit(stabs, fitted, o, cancelled).posterior();
        add(new Choice(Optional.empty(), Cause.SOUND, 0.0), fitted, false);
        for (Ladder l : sheet.carburetor().family().pumpParts(sheet)) {
            boolean arm = l.part().role() == Part.Role.PUMP_START && l.low() <= 0.0;
            double from = l.fitted(sheet);
            if (arm && !slackGone) {
                // Slack that no sheet has: taking it up is an act of its own, and nothing but a spanner's turn.
                add(new Choice(Optional.of(new Act(l, from, 0.0, Cause.SLACK)), Cause.SLACK, l.alone(),
                        SLACK_SURE), then(sheet, l, 0.0), true);
            }
            for (double to : arm ? List.<Double>of() : l.sizes(sheet)) {
                Cause cause = cause(l.part(), from, to);
                double cost = WORTH + l.alone() + PER_SIZE * Math.abs(to - from) / l.step()
                        + sheet.carburetor().family().usual(sheet, l.part()).map(u -> unusual(to, u) - unusual(from, u))
                        .orElse(0.0);
                if (cause != Cause.SLACK || !slackGone) {
                    add(new Choice(Optional.of(new Act(l, from, to, cause)), cause, cost, cause == Cause.SLACK
                            ? SLACK_SURE : 0.0), then(sheet, l, to), false);
                }
            }
        }
    }

    private void add(Choice c, PumpSetting then, boolean taut) {
        options.add(new Option(c, then, taut));
    }

    private static PumpSetting then(BuildSheet sheet, Ladder l, double to) {
        return sheet.carburetor().family().pumpSetting(l.part().fit(sheet, l.stage(), to)).orElseThrow();
    }

    /** What a size costs that is not what such carburetors have: sound hardware is near it. */
    private static double unusual(double size, double usual) {
        double x = Math.log(size / usual) / USUAL_SPREAD;
        return UNUSUAL * x * x;
    }

    private static Cause cause(Part part, double from, double to) {
        return switch (part.role()) {
            case PUMP_START -> to < from ? Cause.SLACK : Cause.TOO_MUCH;
            case PUMP_RATE -> to > from ? Cause.RATE : Cause.TOO_MUCH;
            default -> to > from ? Cause.VOLUME : Cause.TOO_MUCH;
        };
    }

    @Override
    public int explanations() {
        return posterior.size();
    }

    @Override
    public double weight(int explanation) {
        return posterior.get(explanation).weight();
    }

    @Override
    public List<Stab> others() {
        return soundOthers().isPresent() ? gentle : List.of();
    }

    /** With a taut arm: sound pumps leave gentle openings a little lean too, and no cam or stroke is for those. */
    @Override
    public OptionalInt soundOthers() {
        return IntStream.range(0, options.size()).filter(k -> options.get(k).taut()).findFirst();
    }

    @Override
    public List<Choice> choices() {
        return options.stream().map(Option::choice).toList();
    }

    @Override
    public float[][] burnt(Stab stab, int explanation, int[] which) {
        PumpFit.Sample s = posterior.get(explanation);
        float[] base = StabModel.alone(stab, PumpFit.WELL_S, s.share(), s.tauS());
        float[] work = new float[Stab.STEPS];
        float[][] out = new float[which.length][Stab.STEPS];
        for (int c = 0; c < which.length; c++) {
            StabModel.pump(stab, with(s, which[c]), s.streamLagS(), stoich, work);
            StabModel.stream(stab, work, s.stream(), s.tauS(), out[c]);
            for (int k = 0; k < Stab.STEPS; k++) {
                out[c][k] += base[k];
            }
        }
        return out;
    }

    /** What the pump of an explanation would do with other parts: it strays from the new sheet as from the old. */
    private PumpSetting with(PumpFit.Sample s, int choice) {
        PumpSetting is = s.pump();
        if (choice == 0) {
            return is;
        }
        Option made = options.get(choice);
        PumpSetting sheet = made.then();
        double more = is.slackRad() - today.slackRad();
        double slack = sheet.slackRad() + (made.taut() ? Math.clamp(more, 0.0, YIELDS_RAD) : more);
        return new PumpSetting(is.rateKgPerS() * sheet.rateKgPerS() / today.rateKgPerS(), is.strokeKg()
                * sheet.strokeKg() / today.strokeKg(), sheet.fullRad(), Math.max(0.0, slack), is.refillS(), is.shape());
    }
}
