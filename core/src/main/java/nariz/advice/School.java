package nariz.advice;

import java.util.List;
import nariz.build.SideName;

/**
 * A question on which good tuners differ, with what each school would say on this log.
 *
 * @param question the question
 * @param answers what each says
 * @param followed name of the answer this advice follows
 * @param why why that is the default
 * @param side side of the carburetor it is about
 */
public record School(String question, List<Answer> answers, String followed, String why, SideName side) {
    /**
     * One school's answer.
     *
     * @param name the rule, in the trade's words
     * @param says what it comes to on this log
     */
    public record Answer(String name, String says) {
    }

    /** Copies the list. */
    public School {
        answers = List.copyOf(answers);
    }
}
