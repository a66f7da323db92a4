package nariz.diagnosis;

/**
 * Symmetric positive definite systems of one to three rows, solved hundreds of thousands of times an analysis: the
 * library's general routine costs more than their arithmetic.
 */
final class SmallSystem {
    private SmallSystem() {
    }

    /**
     * Cholesky factor.
     *
     * @param h symmetric and positive definite
     * @return lower triangle l with l l' = h
     */
    static double[][] lower(double[][] h) {
        int k = h.length;
        double[][] l = new double[k][k];
        for (int a = 0; a < k; a++) {
            for (int b = 0; b <= a; b++) {
                double s = h[a][b];
                for (int c = 0; c < b; c++) {
                    s -= l[a][c] * l[b][c];
                }
                l[a][b] = a == b ? Math.sqrt(s) : s / l[b][b];
            }
        }
        return l;
    }

    /**
     * Solves l l' x = u.
     *
     * @param l lower triangle
     * @param u right side, as long
     * @return x
     */
    static double[] solve(double[][] l, double[] u) {
        int k = u.length;
        double[] x = u.clone();
        for (int a = 0; a < k; a++) {
            for (int c = 0; c < a; c++) {
                x[a] -= l[a][c] * x[c];
            }
            x[a] /= l[a][a];
        }
        for (int a = k - 1; a >= 0; a--) {
            for (int c = a + 1; c < k; c++) {
                x[a] -= l[c][a] * x[c];
            }
            x[a] /= l[a][a];
        }
        return x;
    }
}
