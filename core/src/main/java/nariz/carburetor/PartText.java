package nariz.carburetor;

import static nariz.text.Message.message;

import java.util.List;
import nariz.text.Measure;
import nariz.text.Message;
import nariz.units.Dimension;
import nariz.units.Quantity;

/** Sizes of parts, and changes of them, as a person would say them. */
final class PartText {
    private PartText() {
    }

    static Message title(Part p, Stage stage, double from, double to) {
        if (p.role() == Part.Role.IDLE_STOP) {
            return message("part.title-turned", p.label(), of(p, to - from));
        }
        if (takesUpSlack(p, to)) {
            return message("part.title-slack", p.label());
        }
        if (topsUp(p, from, to)) {
            return message("part.title-top-up", p.label(), of(p, to));
        }
        return message("part.title", p.named(stage), of(p, from), of(p, to));
    }

    static Message fromTo(Part p, double from, double to) {
        return takesUpSlack(p, to) && from == 0.0 ? message("part.take-up-slack") : topsUp(p, from, to)
                ? message("part.top-up") : message("part.from-to", of(p, from), of(p, to));
    }

    static Message reached(Part p, double from, double to) {
        return takesUpSlack(p, to) ? message("part.no-slack") : topsUp(p, from, to) ? message("part.topped-up")
                : of(p, to);
    }

    /** Slack that no sheet knows goes from nought to nought in numbers. */
    private static boolean takesUpSlack(Part p, double to) {
        return p.role() == Part.Role.PUMP_START && p.dimension() == Dimension.LENGTH && to == 0.0;
    }

    private static boolean topsUp(Part p, double from, double to) {
        return p.role() == Part.Role.DAMPER && to == from;
    }

    static Message of(Part p, double value) {
        if (p.pluggable() && value <= 0.0) {
            return message("part.plugged");
        }
        String plain = Quantity.trim(value, p.decimals());
        String size = Quantity.trim(Math.abs(value), p.decimals());
        if (p.role() == Part.Role.IDLE_STOP) {
            String one = Math.abs(value) == 1.0 ? "part.turn" : "part.turns";
            return value == 0.0 ? message("part.as-it-is") : message(one + (value > 0.0 ? "-in" : "-out"), size);
        }
        if (p.role() == Part.Role.FUEL_LEVEL) {
            return value == 0.0 ? message("part.level-set") : message(value > 0.0 ? "part.level-high"
                    : "part.level-low", size);
        }
        if (p.isFromDatum()) {
            return value == 0.0 ? message("part.level") : message(value > 0.0 ? "part.down" : "part.up", size);
        }
        if (!p.kinds().isEmpty()) {
            return message("kind." + p.key() + "." + p.kinds().get(Math.clamp(Math.round(value), 0, p.kinds().size()
                    - 1)));
        }
        return switch (p.dimension()) {
            case COUNT -> Message.literal(plain + (p.role() == Part.Role.SECOND_SPRING ? " ×" : ""));
            case VOLUME -> Message.literal(plain + " cc");
            case PRESSURE -> Message.of(Measure.rating(value * p.si()));
            case LENGTH -> "mm".equals(p.unit()) ? Message.literal(plain + " mm") : Message.of(Measure.size(value
                    * p.si()));
            case ANGLE -> Message.literal(plain + "°");
            default -> Message.join(" ", List.of(Message.literal(plain), message("part.unit-turns")));
        };
    }
}
