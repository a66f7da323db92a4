package nariz.app.chart;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * A mark of the plane: one cell of steady running, or several that lie too near each other to be told apart.
 *
 * @param x middle, px
 * @param y middle, px
 * @param r radius, px
 * @param dwellS time spent, s
 * @param cells places of the cells in the estimate, the longest first
 */
record PlaneMark(double x, double y, double r, double dwellS, int[] cells) {
    private static final double LEAST_R = 2.5;
    private static final double MOST_R = 13;
    private static final double PX_PER_ROOT_S = 1.3;
    /** Air between two marks, px: room for a whisker and what it would be after the change. */
    private static final double APART = 5;

    /** Radius of a mark that stands for so much time. */
    static double radius(double dwellS) {
        return Math.min(MOST_R, LEAST_R + PX_PER_ROOT_S * Math.sqrt(dwellS));
    }

    /**
     * Joins cells until the marks keep apart. Always the two that lie over each other most become one, in the middle of
     * the time spent in them.
     *
     * @param x places of the cells, px
     * @param y places of the cells, px
     * @param dwellS time spent in them, s
     * @return marks that do not touch; every cell is in one of them
     */
    static List<PlaneMark> of(double[] x, double[] y, double[] dwellS) {
        List<PlaneMark> marks = new ArrayList<>();
        for (int i = 0; i < x.length; i++) {
            marks.add(new PlaneMark(x[i], y[i], radius(dwellS[i]), dwellS[i], new int[] {i}));
        }
        while (join(marks)) {
            // One pair less a time.
        }
        return marks;
    }

    private static boolean join(List<PlaneMark> marks) {
        double nearest = 0;
        int a = -1;
        int b = -1;
        for (int i = 0; i < marks.size(); i++) {
            for (int j = i + 1; j < marks.size(); j++) {
                double gap = marks.get(i).gap(marks.get(j));
                if (gap < nearest) {
                    nearest = gap;
                    a = i;
                    b = j;
                }
            }
        }
        if (a < 0) {
            return false;
        }
        PlaneMark one = marks.remove(b);
        marks.set(a, marks.get(a).with(one));
        return true;
    }

    private double gap(PlaneMark o) {
        return Math.hypot(x - o.x, y - o.y) - r - o.r - APART;
    }

    private PlaneMark with(PlaneMark o) {
        double sum = dwellS + o.dwellS;
        double share = sum > 0 ? o.dwellS / sum : 0.5;
        boolean longer = dwellS >= o.dwellS;
        int[] first = longer ? cells : o.cells;
        int[] second = longer ? o.cells : cells;
        int[] all = Arrays.copyOf(first, first.length + second.length);
        System.arraycopy(second, 0, all, first.length, second.length);
        return new PlaneMark(x + share * (o.x - x), y + share * (o.y - y), radius(sum), sum, all);
    }

    /** Mean over the cells, by the time spent in them. */
    double mean(java.util.function.IntToDoubleFunction of, java.util.function.IntToDoubleFunction dwell) {
        double sum = 0;
        double weight = 0;
        for (int i : cells) {
            double w = Math.max(1e-9, dwell.applyAsDouble(i));
            sum += w * of.applyAsDouble(i);
            weight += w;
        }
        return sum / weight;
    }

    /** Whether a point lies on it, or near enough to mean it. */
    double distance(double px, double py) {
        return Math.hypot(px - x, py - y);
    }

    @Override
    public boolean equals(Object o) {
        return o instanceof PlaneMark m && m.x == x && m.y == y && m.r == r && Arrays.equals(m.cells, cells);
    }

    @Override
    public int hashCode() {
        return Arrays.hashCode(cells);
    }

    @Override
    public String toString() {
        return "mark at " + x + ", " + y + " of " + cells.length + " cells";
    }
}
