package nariz.diagnosis;

import static nariz.text.Message.message;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import nariz.carburetor.Families;
import nariz.carburetor.InputProblem;
import nariz.carburetor.LocatedJson;
import nariz.carburetor.Part;
import nariz.carburetor.PartChange;
import nariz.carburetor.Stage;
import nariz.carburetor.TextFile;
import nariz.estimation.EarlierEstimate;
import nariz.text.Message;
import nariz.units.Units;
import org.hipparchus.linear.Array2DRowRealMatrix;
import org.hipparchus.linear.EigenDecompositionSymmetric;

/** Reads back what the next analysis needs of an advice file, format {@code nariz-advice/1}. */
public final class PreviousReader {
    private static final long LONGEST_BYTES = 20_000_000;
    /** Unknowns are levels around 1 and coefficients in standard deviations: no advice carries more than these. */
    private static final double MOST_VARIANCE = 100.0;
    private static final double MOST_MEAN = 20.0;
    /** Numbers are rounded when they are written, which may turn a variance of nought a little negative. */
    private static final double ROUNDING = 1e-4;
    private static final Message REMEDY = message("problem.give-the-advice-unchanged");

    private final String source;

    private PreviousReader(String source) {
        this.source = source;
    }

    /**
     * Reads a file.
     *
     * @param file an advice
     * @return what it carries
     * @throws InputProblem when it is not an advice with something to carry on from
     */
    public static Previous read(Path file) {
        return parse(String.valueOf(file.getFileName()), TextFile.read(file, LONGEST_BYTES, REMEDY, REMEDY));
    }

    /**
     * Reads a text.
     *
     * @param source name for messages
     * @param json an advice
     * @return what it carries
     * @throws InputProblem when it is not an advice with something to carry on from
     */
    public static Previous parse(String source, String json) {
        return new PreviousReader(source).previous(LocatedJson.parse(source, json));
    }

    /**
     * Reads what an advice comes to.
     *
     * @param source name for messages
     * @param json an advice
     * @return verdict and what was to be changed at once
     * @throws InputProblem when it is not an advice
     */
    public static AdviceSummary summary(String source, String json) {
        PreviousReader r = new PreviousReader(source);
        LocatedJson root = LocatedJson.parse(source, json);
        r.known(root);
        return new AdviceSummary(r.choice(root, "verdict", Verdict.values(), Verdict::key), r.changes(root));
    }

    private void known(LocatedJson root) {
        LocatedJson format = field(root, "format");
        if (!AdviceJson.FORMAT.equals(format.value())) {
            throw problem(format, "format", message("problem.write-format-other-versions-are-not", AdviceJson.FORMAT));
        }
    }

    private List<PartChange> changes(LocatedJson root) {
        List<PartChange> out = new ArrayList<>();
        for (LocatedJson c : list(root, "changes")) {
            List<LocatedJson> parts = c.value() instanceof Map<?, ?> m && m.containsKey("bands") ? list(c, "bands")
                    : List.of(c);
            for (LocatedJson p : parts) {
                if ("now".equals(field(p, "when").value())) {
                    out.add(change(p));
                }
            }
        }
        return out;
    }

    private PartChange change(LocatedJson p) {
        return new PartChange(part(p), choice(p, "side", Stage.values(), Stage::key), number(p, "from"), number(p,
                "to"));
    }

    /** Families tell the same part in units of their own. */
    private Part part(LocatedJson change) {
        Part any = choice(change, "part", Families.parts().toArray(Part[]::new), Part::key);
        return Families.part(any.key(), String.valueOf(field(change, "unit").value())).orElseThrow(() -> problem(
                field(change, "unit"), "unit", REMEDY));
    }

    private Previous previous(LocatedJson root) {
        known(root);
        List<PartChange> fitted = changes(root);
        List<Previous.Expected> predicted = new ArrayList<>();
        for (LocatedJson p : list(root, "predicted")) {
            predicted.add(new Previous.Expected(before(p), number(p, "lambdaAfter"), number(p, "low"), number(p,
                    "high")));
        }
        // Advice written before it could wait for a pull has no word of one.
        boolean asked = root.value() instanceof Map<?, ?> m && m.get("asksFor") instanceof LocatedJson w
                && w.value() != null;
        return new Previous(fitted, since(root, fitted), predicted, carried(field(root, "carried")), asked);
    }

    /** What was read: how sure the sensor is of it is not in the file. */
    private RegimeError before(LocatedJson p) {
        double lambda = number(p, "lambdaBefore");
        double target = number(p, "target");
        return new RegimeError(choice(p, "regime", Regime.values(), Regime::key), number(p, "steadyS"), target, lambda,
                lambda / target - 1.0, number(p, "rmsBefore"), Double.NaN);
    }

    /** Advice written before it told what was changed since the car was found knows of its own changes alone. */
    private List<PartChange> since(LocatedJson root, List<PartChange> fitted) {
        List<PartChange> before = new ArrayList<>();
        if (root.value() instanceof Map<?, ?> m && m.containsKey("changedSinceFound")) {
            for (LocatedJson c : list(root, "changedSinceFound")) {
                before.add(change(c));
            }
        }
        return Previous.after(choice(root, "verdict", Verdict.values(), Verdict::key), before, fitted);
    }

    private EarlierEstimate carried(LocatedJson json) {
        if (json.value() == null) {
            throw problem(json, "carried", message("problem.that-advice-rested-on-too-little"));
        }
        List<String> names = list(json, "unknowns").stream().map(u -> String.valueOf(u.value())).toList();
        int n = names.size();
        double[] mean = numbers(json, "mean", n);
        double[][] covariance = new double[n][n];
        List<LocatedJson> rows = list(json, "covariance");
        if (rows.size() != n) {
            throw problem(json, "covariance", REMEDY);
        }
        for (int i = 0; i < n; i++) {
            double[] row = numbers(rows.get(i), "covariance", i + 1);
            for (int j = 0; j <= i; j++) {
                covariance[i][j] = row[j];
                covariance[j][i] = row[j];
            }
            if (covariance[i][i] <= 0.0) {
                throw problem(rows.get(i), "covariance", REMEDY);
            }
        }
        check(json, mean, covariance);
        return new EarlierEstimate(names, mean, covariance, number(json, "enrichmentShiftInHg") * Units.INHG,
                Math.abs(number(json, "enrichmentShiftSdInHg")) * Units.INHG);
    }

    /** No sum of unknowns has a negative variance, and none is as far off as this. */
    private void check(LocatedJson json, double[] mean, double[][] covariance) {
        double[] values = new EigenDecompositionSymmetric(new Array2DRowRealMatrix(covariance)).getEigenvalues();
        double most = Arrays.stream(values).max().orElse(0.0);
        double least = Arrays.stream(values).min().orElse(0.0);
        if (!(most < MOST_VARIANCE) || least < -ROUNDING * most) {
            throw problem(field(json, "covariance"), "covariance", REMEDY);
        }
        if (Arrays.stream(mean).anyMatch(m -> Math.abs(m) > MOST_MEAN)) {
            throw problem(field(json, "mean"), "mean", REMEDY);
        }
    }

    private InputProblem problem(LocatedJson at, String path, Message wanted) {
        return new InputProblem(source, at.line(), at.column(), path, at.words(), wanted);
    }

    private LocatedJson field(LocatedJson in, String name) {
        if (in.value() instanceof Map<?, ?> map) {
            Object v = map.get(name);
            if (v instanceof LocatedJson json) {
                return json;
            }
            throw new InputProblem(source, in.line(), in.column(), name, message("problem.nothing"), REMEDY);
        }
        throw problem(in, name, REMEDY);
    }

    private List<LocatedJson> list(LocatedJson in, String name) {
        LocatedJson json = field(in, name);
        if (json.value() instanceof List<?> items) {
            return items.stream().map(LocatedJson.class::cast).toList();
        }
        throw problem(json, name, REMEDY);
    }

    private double number(LocatedJson in, String name) {
        LocatedJson json = field(in, name);
        if (json.value() instanceof Double d && Math.abs(d) < 1e9) {
            return d;
        }
        throw problem(json, name, REMEDY);
    }

    private double[] numbers(LocatedJson in, String name, int n) {
        List<LocatedJson> items = in.value() instanceof List<?> direct
                ? direct.stream().map(LocatedJson.class::cast).toList() : list(in, name);
        if (items.size() != n) {
            throw problem(in, name, REMEDY);
        }
        double[] out = new double[n];
        for (int i = 0; i < n; i++) {
            if (!(items.get(i).value() instanceof Double d) || Math.abs(d) > 1e6) {
                throw problem(items.get(i), name, REMEDY);
            }
            out[i] = d;
        }
        return out;
    }

    private <T> T choice(LocatedJson in, String name, T[] all, java.util.function.Function<T, String> key) {
        LocatedJson json = field(in, name);
        Optional<T> found = Arrays.stream(all).filter(t -> key.apply(t).equals(json.value())).findFirst();
        return found.orElseThrow(() -> problem(json, name, REMEDY));
    }
}
