package nariz.diagnosis;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.BooleanSupplier;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Part;
import nariz.carburetor.Stage;
import nariz.dynamics.EnrichmentStudy;
import nariz.estimation.Cell;
import nariz.estimation.Flag;
import nariz.estimation.Observation;
import nariz.units.Units;

/**
 * What a drive shows of the enrichment: where it opens, what that costs against the best line for the targets, how much
 * it gives on long pulls, and where the vacuum lies by way of driving.
 *
 * @param ratedPa vacuum under which it opens as rated, Pa
 * @param seen where it was seen to open and to shut
 * @param bestPa line that follows the targets best with the amount it gives, Pa
 * @param early what is spent between that and today's line where today's opens earlier
 * @param late what is lacking where it opens later
 * @param amount how far from the target full enrichment reads once a pull has lasted, share of lambda, lean is
 * positive: mean, low and high of 90 %; empty where no pull lasted
 * @param asOneJet jet with full enrichment as one hole; empty where the sheet has not both
 * @param ways vacuum by way of driving
 */
public record EnrichmentFinding(double ratedPa, EnrichmentStudy.Seen seen, double bestPa, Cost early, Cost late,
        Optional<double[]> amount, Optional<OneJet> asOneJet, List<Way> ways) {
    private static final double LASTS_S = 2.0;
    private static final int MOST_MOMENTS = 8000;
    private static final double LEAST_STRETCH_S = 0.5;
    private static final double STEP_PA = 0.25 * Units.INHG;
    private static final double BEYOND_PA = 6.0 * Units.INHG;
    /** Two pulls say no closer than this what a third would, share. */
    private static final double PULLS_DIFFER = 0.01;

    /** Copies the list. */
    public EnrichmentFinding {
        ways = List.copyOf(ways);
    }

    /**
     * What a line at the wrong place costs on this drive.
     *
     * @param seconds time it concerns, s
     * @param share mean change of lambda over that time, positive
     * @param fuelM3 fuel it makes, m³, positive
     */
    public record Cost(double seconds, double share, double fuelM3) {
    }

    /**
     * Jet and enrichment as one area.
     *
     * @param diameterM diameter of a hole of that area, m
     * @param rod whether a rod hangs in the jet, rather than a channel lying beside it
     */
    public record OneJet(double diameterM, boolean rod) {
        static Optional<OneJet> of(BuildSheet sheet) {
            Optional<Part> jet = sheet.carburetor().family().part(sheet.carburetor(), Stage.PRIMARY,
                    Part.Role.METERING_FUEL);
            Optional<Part> amount = sheet.carburetor().family().part(sheet.carburetor(), Stage.PRIMARY,
                    Part.Role.ENRICHMENT_AMOUNT);
            if (jet.isEmpty() || amount.isEmpty()) {
                return Optional.empty();
            }
            boolean rod = !amount.get().richerUp();
            double a = jet.get().of(sheet.carburetor(), Stage.PRIMARY) * jet.get().si();
            double b = amount.get().of(sheet.carburetor(), Stage.PRIMARY) * amount.get().si();
            double area = a * a + (rod ? -b * b : b * b);
            return b > 0.0 && area > 0.0 ? Optional.of(new OneJet(Math.sqrt(area), rod)) : Optional.empty();
        }
    }

    /**
     * Manifold vacuum in a way of driving.
     *
     * @param regime way
     * @param seconds steady time, s
     * @param lowPa vacuum that a twentieth of it stays under, Pa
     * @param middlePa median, Pa
     * @param highPa vacuum that a twentieth stays above, Pa
     */
    public record Way(Regime regime, double seconds, double lowPa, double middlePa, double highPa) {
    }

    /**
     * Studies a drive.
     *
     * @param o drive
     * @param whatIf the carburetor found on it
     * @param scorer targets and ways of running
     * @param cancelled asked now and then
     * @return what it shows; empty where nothing enriches or too little was read around the line
     */
    static Optional<EnrichmentFinding> of(Observation o, WhatIf whatIf, Scorer scorer, BooleanSupplier cancelled) {
        BuildSheet sheet = o.sheet();
        double rated = sheet.carburetor().family().enrichmentPa(sheet.carburetor(), Stage.PRIMARY);
        Optional<Part> part = sheet.carburetor().family().part(sheet.carburetor(), Stage.PRIMARY,
                Part.Role.ENRICHMENT_OPENING);
        if (rated <= 0.0 || part.isEmpty()) {
            return Optional.empty();
        }
        float[] shut = whatIf.ratio(part.get().fit(sheet, Stage.PRIMARY, 0.0));
        float[] open = whatIf.ratio(part.get().fit(sheet, Stage.PRIMARY, ALWAYS_INHG));
        return EnrichmentStudy.of(o, s -> whatIf.phi(s) * shut[s], s -> whatIf.phi(s) * open[s], rated, cancelled)
                .map(seen -> new Weighing(o, whatIf, scorer, shut, open, seen).finding(rated));
    }

    /** A rating that no manifold vacuum exceeds. */
    private static final double ALWAYS_INHG = 40.0;

    /** Weighs lines against the targets on every moment of the drive. */
    private record Weighing(Observation o, WhatIf whatIf, Scorer scorer, float[] shut, float[] open,
            EnrichmentStudy.Seen seen) {
        EnrichmentFinding finding(double rated) {
            double today = 0.5 * (seen.opensPa()[0] + seen.shutsPa()[0]);
            double best = today;
            double least = loss(today);
            for (double line = STEP_PA; line <= rated + BEYOND_PA; line += STEP_PA) {
                double loss = loss(line);
                if (loss < least) {
                    least = loss;
                    best = line;
                }
            }
            return new EnrichmentFinding(rated, seen, best, cost(today, best, 1), cost(today, best, -1), amount(),
                    OneJet.of(o.sheet()), ways());
        }

        /** Phi at a state with a line; NaN where it says nothing. */
        private double phi(int s, double line) {
            double part = Math.clamp((line + EnrichmentStudy.Seen.HALF_BAND_PA - o.log().vacuumPa()[s]) / (2
                    * EnrichmentStudy.Seen.HALF_BAND_PA), 0.0, 1.0);
            return whatIf.phi(s) * (shut[s] + part * (open[s] - shut[s]));
        }

        private boolean counts(int i) {
            return o.flag(i) == Flag.STEADY || o.flag(i) == Flag.TRANSIENT;
        }

        private double target(int s) {
            return scorer.strategy().atLoad(1.0 - o.log().vacuumPa()[s] / o.sheet().ambient().pressurePa(),
                    o.sheet().engine().vacuumAdvance());
        }

        private double lasts(int i) {
            double[] t = o.log().timeS();
            return i + 1 < t.length ? Math.min(1.0, t[i + 1] - t[i]) : 0.0;
        }

        private double loss(double line) {
            double sum = 0.0;
            // A line among others needs no more moments than this, however long and fast the log.
            int every = Math.max(1, o.log().size() / MOST_MOMENTS);
            for (int i = 0; i < o.log().size(); i += every) {
                int s = o.stateOf(i);
                if (counts(i) && o.log().vacuumPa()[s] < RELEVANT_PA) {
                    double e = Math.log(phi(s, line) * target(s));
                    sum += Double.isNaN(e) ? 0.0 : e * e * lasts(i);
                }
            }
            return sum;
        }

        private Cost cost(double today, double best, int sign) {
            double seconds = 0.0;
            double shares = 0.0;
            double fuelKg = 0.0;
            for (int i = 0; i < o.log().size(); i++) {
                int s = o.stateOf(i);
                double more = counts(i) ? phi(s, today) - phi(s, best) : 0.0;
                if (sign * more > NOTICED) {
                    seconds += lasts(i);
                    shares += lasts(i) * Math.abs(more) / phi(s, best);
                    fuelKg += lasts(i) * o.airKgPerS(s) / o.sheet().fuel().stoichAfr() * Math.abs(more);
                }
            }
            return new Cost(seconds, seconds > 0.0 ? shares / seconds : 0.0, fuelKg
                    / o.sheet().fuel().densityKgPerM3());
        }

        /** Fully open for a while: pump and walls have had their say. */
        private Optional<double[]> amount() {
            double line = seen.opensPa()[0] - EnrichmentStudy.Seen.HALF_BAND_PA;
            double[] t = o.log().timeS();
            List<Double> pulls = new ArrayList<>();
            double since = Double.NaN;
            double sum = 0.0;
            double time = 0.0;
            for (int i = 0; i < t.length; i++) {
                int s = o.stateOf(i);
                boolean under = o.log().vacuumPa()[s] < line;
                since = under ? Double.isNaN(since) ? t[s] : since : Double.NaN;
                if (under && t[s] - since >= LASTS_S && counts(i) && o.measuredPhi(i) > 0.0) {
                    sum -= lasts(i) * Math.log(o.measuredPhi(i) * target(s));
                    time += lasts(i);
                } else if (!under) {
                    if (time >= LEAST_STRETCH_S) {
                        pulls.add(sum / time);
                    }
                    sum = 0.0;
                    time = 0.0;
                }
            }
            if (pulls.isEmpty()) {
                return Optional.empty();
            }
            double mean = pulls.stream().mapToDouble(x -> x).average().orElse(0.0);
            double squares = pulls.stream().mapToDouble(x -> (x - mean) * (x - mean)).sum();
            double sd = Math.sqrt((squares / Math.max(1, pulls.size() - 1) + PULLS_DIFFER * PULLS_DIFFER)
                    / pulls.size());
            return Optional.of(new double[] {mean, mean - 1.6449 * sd, mean + 1.6449 * sd});
        }

        private List<Way> ways() {
            Map<Regime, List<Cell>> by = new EnumMap<>(Regime.class);
            for (int c = 0; c < o.cells().size(); c++) {
                by.computeIfAbsent(scorer.regime(c), r -> new ArrayList<>()).add(o.cells().get(c));
            }
            List<Way> out = new ArrayList<>();
            by.forEach((r, cells) -> {
                cells.sort(Comparator.comparingDouble(Cell::vacuumPa));
                double all = cells.stream().mapToDouble(Cell::dwellS).sum();
                out.add(new Way(r, all, at(cells, 0.05 * all), at(cells, 0.5 * all), at(cells, 0.95 * all)));
            });
            return out;
        }

        private static double at(List<Cell> cells, double seconds) {
            double sum = 0.0;
            for (Cell c : cells) {
                sum += c.dwellS();
                if (sum >= seconds) {
                    return c.vacuumPa();
                }
            }
            return cells.getLast().vacuumPa();
        }
    }

    private static final double RELEVANT_PA = 16.0 * Units.INHG;
    private static final double NOTICED = 0.005;

    /** {@return the lowest vacuum of steady cruising, where there was any} */
    public Optional<Way> cruise() {
        return ways.stream().filter(w -> w.regime() == Regime.CRUISE || w.regime() == Regime.TRANSFER)
                .min(Comparator.comparingDouble(Way::lowPa));
    }
}
