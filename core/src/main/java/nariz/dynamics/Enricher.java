package nariz.dynamics;

import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;

/**
 * What makes up for the fuel that stays on the walls as the throttle opens: a pump's shot or a piston that rises late.
 * It comes with the explanations of a drive's openings, with their weights, and with what could be done about it.
 */
interface Enricher {
    /**
     * Something that could be done.
     *
     * @param act the part and its size; empty for nothing, and for work on no part that has sizes
     * @param cause what it cures
     * @param cost its work, in units of the loss
     * @param sure how probable its cause must be for it to be made; 0 where the loss alone decides
     */
    record Choice(Optional<OpeningStudy.Act> act, OpeningStudy.Cause cause, double cost, double sure) {
        Choice(Optional<OpeningStudy.Act> act, OpeningStudy.Cause cause, double cost) {
            this(act, cause, cost, 0.0);
        }
    }

    /** {@return how many explanations count; the first is the likeliest} */
    int explanations();

    /**
     * How probable an explanation is.
     *
     * @param explanation which, from 0
     * @return 0 to 1; all sum to 1
     */
    double weight(int explanation);

    /** {@return further events in which what is done shows, beside the openings themselves} */
    default List<Stab> others() {
        return List.of();
    }

    /**
     * The choice after which {@link #others()} are as sound hardware has them: no act gains by making them better
     * than that.
     *
     * @return index among {@link #choices()}; empty where any betterment counts
     */
    default OptionalInt soundOthers() {
        return OptionalInt.empty();
    }

    /**
     * What is wrong under an explanation whether or not these openings suffer from it.
     *
     * @param explanation which, from 0
     * @return its cause; empty where the loss decides
     */
    default Optional<OpeningStudy.Cause> plainly(int explanation) {
        return Optional.empty();
    }

    /** {@return what could be done; the first is nothing} */
    List<Choice> choices();

    /**
     * What burns in an opening.
     *
     * @param stab opening
     * @param explanation which explanation holds
     * @param choices which of {@link #choices()} are made
     * @return fuel times the stoichiometric ratio by choice and step, kg/s
     */
    float[][] burnt(Stab stab, int explanation, int[] choices);
}
