package nariz.dynamics;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.BooleanSupplier;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.DamperSetting;
import nariz.carburetor.Family;
import nariz.carburetor.Ladder;
import nariz.carburetor.Piston;
import nariz.dynamics.OpeningStudy.Act;
import nariz.dynamics.OpeningStudy.Cause;
import nariz.estimation.Observation;

/**
 * The damper of a piston: explanations of {@link DamperFit}; other oil, oil topped up, a piston freed that falls too
 * slowly.
 */
final class DamperEnricher implements Enricher {
    /** What other oil costs before its own work: what is fitted is left alone while it does. */
    private static final double WORTH = 0.08;
    /** The standard oil is what such engines have; going back to it is never free, since sound ones are left alone. */
    private static final double UNUSUAL = 0.12;
    private static final double LEAST_WORTH = 0.05;
    /** Lifting a piston by hand and cleaning its chamber, in units of the loss. */
    private static final double FREED = 0.15;

    private final List<DamperFit.Sample> posterior;
    private final List<Option> options = new ArrayList<>();
    private final Piston piston;
    private final List<Stab> falls;

    /**
     * A choice.
     *
     * @param choice what is done
     * @param then what the damper of the sheet does with it
     */
    private record Option(Choice choice, DamperSetting then) {
    }

    DamperEnricher(List<Stab> stabs, List<Stab> falls, DamperSetting fitted, Observation o, boolean toppedUp,
            BooleanSupplier cancelled) {
        BuildSheet sheet = o.sheet();
        Family family = sheet.carburetor().family();
        this.falls = falls;
        piston = family.model(sheet).piston().orElseThrow();
        posterior = new DamperFit(stabs, falls, fitted, piston, o, cancelled).posterior();
        add(new Choice(Optional.empty(), Cause.SOUND, 0.0), fitted);
        for (Ladder l : family.pumpParts(sheet)) {
            double from = l.fitted(sheet);
            double usual = family.usual(sheet, l.part()).orElse(from);
            if (!toppedUp) {
                add(new Choice(Optional.of(new Act(l, from, from, Cause.DRY)), Cause.DRY, l.alone()), fitted);
            }
            for (double to : l.sizes(sheet)) {
                Cause cause = to > from ? Cause.THIN : Cause.THICK;
                double cost = Math.max(LEAST_WORTH, WORTH + l.alone() + UNUSUAL * (Math.abs(to - usual)
                        - Math.abs(from - usual)));
                add(new Choice(Optional.of(new Act(l, from, to, cause)), cause, cost), family.damper(l.part().fit(
                        sheet, l.stage(), to)).orElseThrow());
            }
        }
        add(new Choice(Optional.empty(), Cause.STICKS, FREED), fitted);
    }

    private void add(Choice c, DamperSetting then) {
        options.add(new Option(c, then));
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
        return falls;
    }

    /** A piston that is slow to fall hurts between gears, where the overrun hides it. */
    @Override
    public Optional<Cause> plainly(int explanation) {
        return posterior.get(explanation).fallS() > DamperSetting.USUAL_FALL_S ? Optional.of(Cause.STICKS)
                : Optional.empty();
    }

    @Override
    public List<Choice> choices() {
        return options.stream().map(Option::choice).toList();
    }

    @Override
    public float[][] burnt(Stab stab, int explanation, int[] which) {
        DamperFit.Sample s = posterior.get(explanation);
        float[] base = StabModel.alone(stab, DamperFit.WELL_S, s.share(), s.tauS());
        float[] work = new float[Stab.STEPS];
        float[][] out = new float[which.length][Stab.STEPS];
        for (int c = 0; c < which.length; c++) {
            StabModel.piston(stab, piston, with(s, which[c]), s.dashpot(), work);
            StabModel.burnt(stab, work, s.share(), s.tauS(), false, out[c]);
            for (int k = 0; k < Stab.STEPS; k++) {
                out[c][k] = (float) (base[k] + s.strength() * out[c][k]);
            }
        }
        return out;
    }

    /** Oil that is poured in fills a damper that was short of it; other oil acts by its own measure. */
    private DamperSetting with(DamperFit.Sample s, int choice) {
        DamperSetting then = options.get(choice).then();
        Cause cause = options.get(choice).choice().cause();
        boolean filled = cause == Cause.DRY || cause == Cause.THIN || cause == Cause.THICK;
        double factor = filled && s.rise() <= DamperFit.DRY ? 1.0 : s.rise();
        double fall = cause == Cause.STICKS ? DamperSetting.USUAL_FALL_S : s.fallS();
        return new DamperSetting(factor * then.riseS(), fall);
    }
}
