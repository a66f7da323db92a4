package nariz.advice;

import java.util.List;
import java.util.stream.DoubleStream;
import nariz.build.BuildSheet;
import nariz.build.Kit;
import nariz.build.Part;
import nariz.build.PartChange;
import nariz.build.SideName;
import nariz.model.Circuit;

/**
 * A part that can be tried in other sizes.
 *
 * @param part part
 * @param side side
 * @param fitted size on the sheet, in {@link Part#unit()}
 * @param sizes what it can be had in, rising, with the fitted one among them
 */
public record Candidate(Part part, SideName side, double fitted, List<Double> sizes) {
    /** Copies the list. */
    public Candidate {
        sizes = List.copyOf(sizes);
    }

    /**
     * What can be tried on a sheet.
     *
     * @param sheet today's parts
     * @param kit what is at hand; {@link Kit#NONE} for the usual steps
     * @return parts in the order of work
     */
    public static List<Candidate> of(BuildSheet sheet, Kit kit) {
        return Ladder.of(sheet, kit).stream().map(l -> new Candidate(l.part(), l.side(), l.fitted(sheet),
                DoubleStream.concat(DoubleStream.of(l.fitted(sheet)), l.sizes(sheet).stream()
                        .mapToDouble(v -> v)).sorted().boxed().toList())).toList();
    }

    /** {@return the circuit it trims} */
    public Circuit circuit() {
        return Blame.circuit(part, side);
    }

    /**
     * This part in another size.
     *
     * @param size in its unit
     * @return the change
     */
    public PartChange to(double size) {
        return new PartChange(part, side, fitted, size);
    }

    /** {@return where in the sizes the fitted one stands} */
    public int fittedAt() {
        return sizes.indexOf(fitted);
    }
}
