package nariz.diagnosis;

import java.util.List;
import nariz.carburetor.Circuit;
import nariz.text.Message;

/**
 * A question on which good tuners differ, with what each school would say on this log.
 *
 * @param question the question
 * @param answers what each says
 * @param followed name of the answer this advice follows
 * @param why why that is the default
 * @param circuit circuit it is about
 */
public record RuleOfThumb(Message question, List<Answer> answers, Message followed, Message why, Circuit circuit) {
    /**
     * One school's answer.
     *
     * @param name the rule, in the trade's words
     * @param says what it comes to on this log
     */
    public record Answer(Message name, Message says) {
    }

    /** Copies the list. */
    public RuleOfThumb {
        answers = List.copyOf(answers);
    }
}
