package nariz.carburetor;

import java.util.List;
import java.util.Optional;
import nariz.text.Message;
import nariz.units.Quantity;

/**
 * One part to be fitted in place of another.
 *
 * @param part part
 * @param side side
 * @param from size now, in {@link Part#unit()}
 * @param to size then
 */
public record PartChange(Part part, Stage side, double from, double to) {
    private static final double LEAST_OF_FITTED = 0.3;
    private static final double MOST_OF_FITTED = 3.0;
    /** Sizes closer than this, in a part's unit, are one size: conversions round. */
    private static final double SAME = 1e-6;
    private static final double MOST_TURNS = 3.0;
    private static final double MOST_LEVEL_MM = 12.0;

    /**
     * Reads {@code part=value} or {@code side.part=value}; the side is primary where none is named, the unit the part's
     * own where none is written.
     *
     * @param text for example {@code secondary.main-jet=74} or {@code power-valve-rating=5.5 inHg}
     * @param sheet sheet it is a change of
     * @return the change, or empty when {@link #reason} has something to say
     */
    public static Optional<PartChange> parse(String text, BuildSheet sheet) {
        if (!reason(text, sheet).isEmpty()) {
            return Optional.empty();
        }
        int equals = text.indexOf('=');
        Stage side = side(text.substring(0, equals)).orElseThrow();
        Part part = part(text.substring(0, equals), sheet).orElseThrow();
        return Optional.of(new PartChange(part, side, part.of(sheet.carburetor(), side),
                value(part, text.substring(equals + 1))));
    }

    /**
     * Why a text is no change.
     *
     * @param text as for {@link #parse}
     * @param sheet sheet it would be a change of
     * @return a sentence with the remedy, or empty when it is one
     */
    public static String reason(String text, BuildSheet sheet) {
        int equals = text.indexOf('=');
        if (equals < 0) {
            return "write part=value, for example main-jet=62.";
        }
        String name = text.substring(0, equals).trim();
        Optional<Part> part = part(name, sheet);
        Optional<Stage> side = side(name);
        if (part.isEmpty() || side.isEmpty()) {
            return "the part is one of " + String.join(", ", Part.keys()) + ", with primary. or secondary. before it.";
        }
        double from = part.get().of(sheet.carburetor(), side.get());
        double to = value(part.get(), text.substring(equals + 1));
        boolean bypass = part.get().role() == Part.Role.IDLE_BYPASS;
        if ((bypass || part.get().role().second()) && !Double.isNaN(to)) {
            Family family = sheet.carburetor().family();
            return (bypass ? family.bypasses(sheet).stream() : family.openingPart(sheet).stream()).filter(l ->
                    l.part().equals(part.get()))
                    .findFirst().map(l -> to >= l.low() && to <= l.high() ? "" : String.format(java.util.Locale.ROOT,
                    "%s goes from %.0f to %.0f %s.", l.part().key(), l.low(), l.high(), l.part().unit())).orElse(
                    "this carburetor has no " + part.get().label() + ".");
        }
        if (part.get().isWhole() && !Double.isNaN(to)) {
            double most = part.get().role() == Part.Role.IDLE_STOP ? MOST_TURNS : MOST_LEVEL_MM;
            return Math.abs(to) <= most ? "" : String.format(java.util.Locale.ROOT,
                    "%s goes from -%.0f to %.0f %s.", part.get().key(), most, most, part.get().unit());
        }
        if (part.get().isFromDatum() && !Double.isNaN(to)) {
            return ladder(part.get(), sheet).map(l -> to >= l.low() && to <= l.high() ? "" : String.format(
                    java.util.Locale.ROOT, "%s goes from %.1f to %.1f %s.", l.part().key(), l.low(), l.high(), l.part()
                    .unit())).orElse("this carburetor has no " + part.get().label() + ".");
        }
        if (Double.isNaN(to) || to < 0.0) {
            return "the value is a number, for example " + part.get().key() + "=" + part.get().text(from) + ".";
        }
        if (from <= 0.0) {
            return "the sheet has no " + part.get().label() + " on the " + side.get().key() + " side.";
        }
        boolean plugs = part.get().pluggable() && to == 0.0;
        if (!plugs && (to < LEAST_OF_FITTED * from || to > MOST_OF_FITTED * from)) {
            return "from " + part.get().text(from) + " to " + part.get().text(to)
                    + " is further than any carburetor goes; check number and unit.";
        }
        return "";
    }

    private static Optional<Ladder> ladder(Part part, BuildSheet sheet) {
        return sheet.carburetor().family().ladders(sheet).stream().filter(l -> l.part().equals(part)).findFirst();
    }

    private static Optional<Stage> side(String name) {
        String n = name.trim();
        if (!n.contains(".")) {
            return Optional.of(Stage.PRIMARY);
        }
        return List.of(Stage.values()).stream().filter(s -> n.startsWith(s.key() + ".")).findFirst();
    }

    private static Optional<Part> part(String name, BuildSheet sheet) {
        String key = name.trim().substring(name.trim().indexOf('.') + 1);
        return sheet.carburetor().family().parts().stream().filter(p -> p.key().equals(key)).findFirst()
                .or(() -> Families.part(key));
    }

    private static double value(Part part, String text) {
        String t = text.trim();
        Optional<Quantity> q = Quantity.parse(t, part.dimension());
        if (q.isPresent()) {
            return q.get().si() / part.si();
        }
        try {
            return part.pluggable() && "plugged".equals(t) ? 0.0 : Double.parseDouble(t);
        } catch (NumberFormatException e) {
            return Double.NaN;
        }
    }

    /**
     * What differs between two sheets.
     *
     * @param was earlier sheet
     * @param is later sheet
     * @return every part whose size differs, primary side first
     */
    public static List<PartChange> between(BuildSheet was, BuildSheet is) {
        List<PartChange> out = new java.util.ArrayList<>();
        for (Stage side : Stage.values()) {
            for (Part p : is.carburetor().family().parts()) {
                double from = p.of(was.carburetor(), side);
                double to = p.of(is.carburetor(), side);
                boolean twice = p.isWhole() && side == Stage.SECONDARY;
                // Two parts may stand in one field: a diaphragm has the one, an air valve the other.
                boolean other = p.role().second() && is.carburetor().family().openingPart(is).filter(l ->
                        l.part().equals(p)).isEmpty();
                if (!twice && !other && Math.abs(to - from) > SAME) {
                    out.add(new PartChange(p, side, from, to));
                }
            }
        }
        return out;
    }

    /**
     * A sheet with the change made.
     *
     * @param sheet today's
     * @return a new sheet
     */
    public BuildSheet fit(BuildSheet sheet) {
        return part.fit(sheet, side, to);
    }

    /**
     * A sheet with several changes made.
     *
     * @param sheet today's
     * @param changes parts
     * @return a new sheet
     */
    public static BuildSheet fit(BuildSheet sheet, List<PartChange> changes) {
        BuildSheet out = sheet;
        for (PartChange c : changes) {
            out = c.fit(out);
        }
        return out;
    }

    /** {@return for example "primary main jets: 59 thou to 62 thou"} */
    public Message text() {
        return part.title(side, from, to);
    }
}
