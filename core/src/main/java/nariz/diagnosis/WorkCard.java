package nariz.diagnosis;

import static nariz.text.Message.message;

import java.util.List;
import nariz.carburetor.Part;
import nariz.text.Message;
import nariz.units.Quantity;

/**
 * How to carry a change out.
 *
 * @param tools what to lay ready
 * @param steps what to do, in order
 * @param proof the measurement that will prove it
 */
public record WorkCard(List<Message> tools, List<Message> steps, Message proof) {
    /** Copies the lists. */
    public WorkCard {
        tools = List.copyOf(tools);
        steps = List.copyOf(steps);
    }

    /**
     * The card of a change.
     *
     * @param c change
     * @return its card
     */
    public static WorkCard of(Change c) {
        Message to = c.each().isEmpty() ? c.part().text(c.to()) : message("work-card.each-from-where-it-stands",
                Message.join(", ", c.each().stream().map(v -> message("work-card.one-from-to", Quantity.trim(v, 3),
                        Quantity.trim(Math.max(0.0, v + c.to() - c.from()), 3))).toList()));
        Part.Work w = c.part().work();
        return new WorkCard(w.tools().stream().map(k -> message(k)).toList(), w.steps().stream().map(k -> message(k,
                to))
                .toList(), message(w.proof()));
    }
}
