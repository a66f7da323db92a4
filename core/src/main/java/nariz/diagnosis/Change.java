package nariz.diagnosis;

import static nariz.text.Message.message;

import java.util.List;
import java.util.Optional;
import nariz.carburetor.Circuit;
import nariz.carburetor.Part;
import nariz.carburetor.Stage;
import nariz.text.Message;
import nariz.units.Quantity;

/**
 * One change to one part.
 *
 * @param part part
 * @param side stage
 * @param circuit the circuit it trims
 * @param from size now
 * @param to size recommended
 * @param now whether to do it now, or after reading again
 * @param effort cost in the decision's units
 * @param gain how much of the loss this change removes
 * @param reasons which readings say so
 * @param recheck what to look at afterwards, in order
 * @param cautions short warnings
 * @param each where each of several alike stands now, in the part's unit; empty where all stand alike
 * @param profile the whole profile before and after, where the part is a band of one
 */
public record Change(Part part, Stage side, Circuit circuit, double from, double to, boolean now, double effort,
        double gain,
        List<Message> reasons, List<Message> recheck, List<Message> cautions,
        List<Double> each, Optional<Profile> profile) {
    /**
     * A profile of stations, all changes to it made.
     *
     * @param key name in files
     * @param spacingM distance of stations, m
     * @param from sizes at the stations now, in the part's unit
     * @param to sizes then
     */
    public record Profile(String key, double spacingM, List<Double> from, List<Double> to) {
        /** Copies the lists. */
        public Profile {
            from = List.copyOf(from);
            to = List.copyOf(to);
        }
    }

    /**
     * A change of a part that is no band of a profile.
     *
     * @param part part
     * @param side stage
     * @param circuit the circuit it trims
     * @param from size now
     * @param to size recommended
     * @param now whether to do it now
     * @param effort cost
     * @param gain what it takes off the loss
     * @param reasons readings
     * @param recheck what to look at afterwards
     * @param cautions warnings
     * @param each where each stands now
     */
    public Change(Part part, Stage side, Circuit circuit, double from, double to, boolean now, double effort,
            double gain, List<Message> reasons, List<Message> recheck, List<Message> cautions, List<Double> each) {
        this(part, side, circuit, from, to, now, effort, gain, reasons, recheck, cautions, each, Optional.empty());
    }

    /** Copies the lists. */
    public Change {
        reasons = List.copyOf(reasons);
        recheck = List.copyOf(recheck);
        cautions = List.copyOf(cautions);
        each = List.copyOf(each);
    }

    /** {@return whether it adds fuel where its part works} */
    public boolean enriches() {
        return part.enriches(from, to);
    }

    /** {@return for example "primary main jets: 59 to 62 thou"} */
    public Message title() {
        return each.isEmpty() ? part.title(side, from, to) : message("part.title-each", part.named(side),
                moved());
    }

    /** How far every one of them goes, where they stand differently. */
    Message moved() {
        return message(to > from ? "part.each-out" : "part.each-in", Quantity.trim(Math.abs(to - from), 3));
    }
}
