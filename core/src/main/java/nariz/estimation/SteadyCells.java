package nariz.estimation;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import nariz.log.Channel;
import nariz.log.DriveLog;

/** Gathers the steady samples of an observation into cells of engine speed and vacuum, free of short lean spikes. */
final class SteadyCells {
    private static final double FEWEST_CELL_S = 0.4;
    private static final double SPIKE = 4.0;
    private static final double LEAST_SPIKE = 0.04;
    private static final int BINS = 300;
    private static final double BIN = 0.003;
    private static final double LEAST_RATIO = 0.6;
    /**
     * The walls are steady enough where their part of the mixture moves by less than this a second: full load is driven
     * in pulls alone, whose later seconds are what a driver gets and a tuner aims at, not what would burn for ever.
     */
    private static final double STEADY_WALLS_PER_S = 0.012;
    private static final double WALLS_SPAN_S = 0.5;
    private static final int LOAD_BANDS = 12;
    /** Share of a cell's readings with steady walls from which on they speak for the cell. */
    private static final double FEWEST_LATE = 0.2;

    private final Observation o;
    private final DriveLog log;
    private final Flag[] flags;
    private final int n;
    private final int[] cellOf;
    private final double[] lateOf = new double[LOAD_BANDS];
    private final int[] lateCount = new int[LOAD_BANDS];
    private double spikeShare;
    private List<Cell> cells = List.of();
    private final List<List<Cell>> bankCells = new ArrayList<>(List.of(List.of(), List.of()));

    /**
     * No cells yet.
     *
     * @param o readings lined up, flagged, their wall film known
     * @param flags of its samples; {@link Flag#MISFIRE} is set where a spike is found
     */
    SteadyCells(Observation o, Flag[] flags) {
        this.o = o;
        this.flags = flags;
        log = o.log();
        n = log.size();
        cellOf = new int[n];
    }

    void gather() {
        Map<Long, Gatherer> byKey = new HashMap<>();
        Arrays.fill(lateOf, 0.0);
        Arrays.fill(lateCount, 0);
        double[] t = log.timeS();
        double usual = n > 1 ? log.durationS() / (n - 1) : 0.1;
        Arrays.fill(cellOf, -1);
        List<Gatherer> all = new ArrayList<>();
        for (int i = 0; i < n; i++) {
            if (flags[i] != Flag.STEADY) {
                continue;
            }
            int s = o.stateOf(i);
            boolean idle = o.atIdle(s);
            Gatherer g = byKey.computeIfAbsent(idle ? CellGrid.IDLE : CellGrid.key(log.rpm()[s],
                    log.vacuumPa()[s]), k -> {
                Gatherer made = new Gatherer(all.size(), idle);
                all.add(made);
                return made;
            });
            double dt = i > 0 ? Math.min(t[i] - t[i - 1], 2.0 * usual) : usual;
            g.add(i, dt, s, o.measuredPhi(i) * o.sensorBias(i), 1.0 / o.film().settles(s));
            if (o.film().perS(s, WALLS_SPAN_S) < STEADY_WALLS_PER_S) {
                g.late(band(s), 1.0 / o.film().settles(s));
            }
            if (log.has(Channel.LAMBDA_2)) {
                g.bank(0, o.sensorBias(i) / log.lambda()[i]);
                g.bank(1, o.sensorBias(i) / log.values(Channel.LAMBDA_2)[i]);
            }
            cellOf[i] = g.index;
        }
        keep(all);
    }

    /**
     * Short lean spikes far outside a cell's own scatter are no mixture: they are flagged and the cells gathered again.
     * Centre and scatter come from the rich side, which a cylinder that misses cannot move: the 75th and 90th
     * percentiles of a normal distribution lie 0.674 and 1.282 deviations above its middle.
     */
    void spikes() {
        int[][] histogram = new int[cells.size()][BINS];
        for (int i = 0; i < n; i++) {
            if (cellOf[i] >= 0) {
                histogram[cellOf[i]][bin(againstCell(i))]++;
            }
        }
        double[] limit = new double[histogram.length];
        for (int c = 0; c < limit.length; c++) {
            double q75 = quantile(histogram[c], 0.75);
            double sd = (quantile(histogram[c], 0.90) - q75) / (1.282 - 0.674);
            limit[c] = q75 - 0.674 * sd - Math.max(LEAST_SPIKE, SPIKE * sd);
        }
        int found = 0;
        int steady = 0;
        for (int i = 0; i < n; i++) {
            if (cellOf[i] >= 0) {
                steady++;
                if (againstCell(i) < limit[cellOf[i]]) {
                    flags[i] = Flag.MISFIRE;
                    found++;
                }
            }
        }
        spikeShare = found / Math.max(1.0, steady);
        if (found > 0) {
            gather();
        }
    }

    /** A reading over its cell's mean. */
    private double againstCell(int i) {
        Cell c = cells.get(cellOf[i]);
        return o.measuredPhi(i) * o.film().settles(o.stateOf(i)) * o.sensorBias(i) * c.film() / c.phi();
    }

    private int band(int s) {
        return (int) Math.clamp(10.0 * (1.0 - log.vacuumPa()[s] / o.sheet().ambient().pressurePa()), 0,
                LOAD_BANDS - 1);
    }

    private static int bin(double ratio) {
        return (int) Math.clamp((ratio - LEAST_RATIO) / BIN, 0, BINS - 1);
    }

    private static double quantile(int[] histogram, double share) {
        long all = 0;
        for (int h : histogram) {
            all += h;
        }
        double left = share * all;
        for (int b = 0; b < BINS; b++) {
            if (left <= histogram[b]) {
                return LEAST_RATIO + BIN * (b + left / Math.max(1, histogram[b]));
            }
            left -= histogram[b];
        }
        return LEAST_RATIO + BIN * BINS;
    }

    private void keep(List<Gatherer> all) {
        List<Cell> kept = new ArrayList<>();
        int[] renumber = new int[all.size()];
        for (Gatherer g : all) {
            boolean enough = g.dwell >= FEWEST_CELL_S && g.count >= 4;
            renumber[g.index] = enough ? kept.size() : -1;
            if (enough) {
                kept.add(g.cell());
            }
        }
        for (int i = 0; i < n; i++) {
            cellOf[i] = cellOf[i] < 0 ? -1 : renumber[cellOf[i]];
        }
        cells = List.copyOf(kept);
        for (int b = 0; b < 2; b++) {
            int bank = b;
            bankCells.set(b, all.stream().filter(g -> renumber[g.index] >= 0).flatMap(g -> g.cell(bank).stream())
                    .toList());
        }
    }

    /** Sums of one cell. */
    private final class Gatherer {
        private final int index;
        private final boolean idle;
        private int count;
        private double dwell;
        private double rpm;
        private double vacuum;
        private double thetaSum;
        private double airSum;
        private double phi;
        private double settled;
        private double settled2;
        private double film;
        private double unsettled;
        private double late;
        private int lates;
        private final double[] bankPhi = new double[2];
        private final int[] bankCount = new int[2];
        private int runStart = -1;
        private int runLast = -10;
        private int bestLength;
        private int bestMiddle;

        Gatherer(int index, boolean idle) {
            this.index = index;
            this.idle = idle;
        }

        void add(int i, double dt, int s, double p, double burnt) {
            count++;
            dwell += dt;
            rpm += log.rpm()[s];
            vacuum += Math.max(0.0, log.vacuumPa()[s]);
            thetaSum += o.thetaRad(s);
            airSum += o.airKgPerS(s);
            phi += p;
            settled += p / burnt;
            settled2 += p / burnt * (p / burnt);
            film += burnt;
            unsettled += Math.abs(burnt - 1.0);
            if (i != runLast + 1) {
                runStart = i;
            }
            runLast = i;
            if (i - runStart + 1 > bestLength) {
                bestLength = i - runStart + 1;
                bestMiddle = (i + runStart) / 2;
            }
        }

        void late(int band, double burnt) {
            late += burnt;
            lates++;
            lateOf[band] += burnt;
            lateCount[band]++;
        }

        /** Burnt over metered where the walls are steady: here, else at this load, else as the readings had it. */
        private double steadyWalls() {
            int band = band(o.stateOf(bestMiddle));
            return lates >= FEWEST_LATE * count ? late / lates : lateCount[band] > 0 ? lateOf[band] / lateCount[band]
                    : film / count;
        }

        void bank(int b, double p) {
            if (!Double.isNaN(p)) {
                bankPhi[b] += p;
                bankCount[b]++;
            }
        }

        /** The cell as one sensor read it; its scatter is the mean's. */
        Optional<Cell> cell(int bank) {
            Cell c = cell();
            return bankCount[bank] * 2 < count ? Optional.empty()
                    : Optional.of(c.withPhi(bankPhi[bank] / bankCount[bank] / (phi / count) * c.phi()));
        }

        Cell cell() {
            double s = settled / count;
            double walls = steadyWalls();
            double var = Math.max(0.0, settled2 / count - s * s) * count / Math.max(1.0, count - 1.0);
            // Readings within half a second share the same disturbances: count dwell, not samples.
            double independent = Math.max(1.0, dwell / 0.5);
            double scatter = Math.max(0.002, Math.sqrt(var / independent));
            return new Cell(rpm / count, vacuum / count, thetaSum / count, airSum / count, dwell, s * walls,
                    scatter, walls, WallFilm.DOUBT * unsettled / count, idle,
                    log.has(Channel.AIRFLOW), o.stateOf(bestMiddle));
        }
    }

    List<Cell> cells() {
        return cells;
    }

    /** Cells as the sensor of a bank read them, 1 or 2. */
    List<Cell> bankCells(int bank) {
        return bankCells.get(bank - 1);
    }

    int cellOf(int i) {
        return cellOf[i];
    }

    /** Share of the steady readings that were short lean spikes, 0 to 1. */
    double spikeShare() {
        return spikeShare;
    }
}
