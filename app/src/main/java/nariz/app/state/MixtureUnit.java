package nariz.app.state;

import java.util.Locale;
import nariz.units.Units;

/** How mixtures are shown. */
public enum MixtureUnit {
    /** Lambda. */
    LAMBDA("lambda"),
    /** Air-fuel ratio on the petrol scale. */
    AFR("AFR");

    private final String label;

    MixtureUnit(String label) {
        this.label = label;
    }

    /** {@return name on the switch} */
    public String label() {
        return label;
    }

    /** {@return numbers shown for one lambda} */
    public double scale() {
        return this == LAMBDA ? 1.0 : Units.PETROL_GAUGE_STOICH;
    }

    /**
     * A mixture as text.
     *
     * @param lambda lambda; NaN gives a dash
     * @return for example {@code "0.95"} or {@code "13.9"}
     */
    public String text(double lambda) {
        if (Double.isNaN(lambda)) {
            return "–";
        }
        return this == LAMBDA ? String.format(Locale.ROOT, "%.2f", lambda)
                : String.format(Locale.ROOT, "%.1f", lambda * Units.PETROL_GAUGE_STOICH);
    }

    /**
     * A mixture with its unit.
     *
     * @param lambda lambda
     * @return for example {@code "lambda 0.95"}
     */
    public String marked(double lambda) {
        return label + " " + text(lambda);
    }
}
