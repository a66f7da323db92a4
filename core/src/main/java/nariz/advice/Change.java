package nariz.advice;

import java.util.List;
import nariz.build.Part;
import nariz.build.SideName;

/**
 * One change to one part.
 *
 * @param part part
 * @param side side
 * @param from size now
 * @param to size recommended
 * @param now whether to do it now, or after reading again
 * @param effort cost in the decision's units
 * @param gain how much of the loss this change removes
 * @param reasons which readings say so
 * @param recheck what to look at afterwards, in order
 * @param cautions short warnings
 */
public record Change(Part part, SideName side, double from, double to, boolean now, double effort, double gain,
        List<String> reasons, List<String> recheck, List<String> cautions) {
    /** Copies the lists. */
    public Change {
        reasons = List.copyOf(reasons);
        recheck = List.copyOf(recheck);
        cautions = List.copyOf(cautions);
    }

    /** {@return for example "primary main jets: 59 to 62 thou"} */
    public String title() {
        return part.title(side, from, to);
    }
}
