package nariz.diagnosis;

import java.util.List;
import java.util.stream.DoubleStream;
import java.util.stream.Stream;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Circuit;
import nariz.carburetor.Family;
import nariz.carburetor.Kit;
import nariz.carburetor.Ladder;
import nariz.carburetor.Part;
import nariz.carburetor.PartChange;
import nariz.carburetor.Stage;

/**
 * A part that can be tried in other sizes.
 *
 * @param part part
 * @param side side
 * @param fitted size on the sheet, in {@link Part#unit()}
 * @param sizes what it can be had in, rising, with the fitted one among them
 */
public record Candidate(Part part, Stage side, double fitted, List<Double> sizes) {
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
        return Stream.concat(Ladder.of(sheet, kit).stream(), sheet.carburetor().family().bypasses(sheet).stream())
                .map(l -> new Candidate(l.part(), l.stage(), l.fitted(sheet),
                DoubleStream.concat(DoubleStream.of(l.fitted(sheet)), l.sizes(sheet).stream()
                        .mapToDouble(v -> v)).sorted().boxed().toList())).toList();
    }

    /**
     * The circuit it trims.
     *
     * @param family family of the carburetor
     * @return circuit
     */
    public Circuit circuit(Family family) {
        return family.trims(part, side);
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
