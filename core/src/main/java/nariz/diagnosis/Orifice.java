package nariz.diagnosis;

import static nariz.text.Message.message;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Carburetor;
import nariz.carburetor.Family;
import nariz.carburetor.Part;
import nariz.carburetor.PartChange;
import nariz.text.Measure;
import nariz.text.Message;

/**
 * Arithmetic of round holes: area pi d²/4, and for holes that feed the same stream the sum of their areas with the one
 * diameter that has it. Flow goes with area at the same depression; discharge coefficients of like parts cancel.
 *
 * @param fromM diameter today, m
 * @param toM diameter then, m
 * @param besideM diameter of the hole that feeds the same stream at full load, m; 0 for none
 */
public record Orifice(double fromM, double toM, double besideM) {
    private static final int MOST_DRILLS = 4;

    /**
     * The holes of a change.
     *
     * @param sheet today's parts
     * @param c change
     * @return its arithmetic, or empty when the part is no hole
     */
    public static Optional<Orifice> of(BuildSheet sheet, PartChange c) {
        if (!c.part().drillable()) {
            return Optional.empty();
        }
        Part.Role role = c.part().role();
        Optional<Part.Role> other = role == Part.Role.METERING_FUEL ? Optional.of(Part.Role.ENRICHMENT_AMOUNT)
                : role == Part.Role.ENRICHMENT_AMOUNT ? Optional.of(Part.Role.METERING_FUEL) : Optional.empty();
        Carburetor fitted = sheet.carburetor();
        Family family = fitted.family();
        boolean enriched = family.enrichmentPa(fitted, c.side()) > 0.0;
        // Only what is a hole itself adds its area: a rod takes area away.
        double beside = !enriched ? 0.0 : other.flatMap(r -> family.part(fitted, c.side(), r)).filter(Part::drillable)
                .map(p -> p.of(fitted, c.side()) * p.si()).orElse(0.0);
        return Optional.of(new Orifice(c.from() * c.part().si(), c.to() * c.part().si(), beside));
    }

    /**
     * Area of a hole.
     *
     * @param diameterM diameter, m
     * @return m²
     */
    public static double area(double diameterM) {
        return 0.25 * Math.PI * diameterM * diameterM;
    }

    /** {@return change of the hole's own area, share; 0.1 = a tenth more} */
    public double gain() {
        return area(toM) / area(fromM) - 1.0;
    }

    /** {@return change of the area of both holes together, share; the same as {@link #gain} without a second one} */
    public double gainTogether() {
        return (area(toM) + area(besideM)) / (area(fromM) + area(besideM)) - 1.0;
    }

    /** {@return diameter of the one hole with the area of both, after the change, m} */
    public double equivalentM() {
        return Math.hypot(toM, besideM);
    }

    /**
     * Drills between the hole of today and a larger one, should it be made by drilling.
     *
     * @return for example "drills on the way: 1.55, 1.60 mm"; empty when the hole gets no larger
     */
    public Message drills() {
        if (toM <= fromM) {
            return Message.NONE;
        }
        List<String> on = DrillLadder.above(fromM, MOST_DRILLS).stream().filter(d -> d <= toM + 1e-9).map(d ->
                String.format(Locale.ROOT, "%.2f (%+.0f %%)", 1e3 * d, 100 * (area(d) / area(fromM) - 1))).toList();
        return on.isEmpty() ? message("orifice.no-drill-of-mm") : message("orifice.drills-on-the-way",
                String.join(", ", on));
    }

    /** {@return one line for people} */
    public Message text() {
        Message own = message("orifice.area-mm", 1e6 * area(fromM), 1e6 * area(toM),
                100 * gain());
        return besideM <= 0 ? own : own.then(message("orifice.jet-and-channel-together", 100 * gainTogether(),
                Measure.size(equivalentM())));
    }
}
