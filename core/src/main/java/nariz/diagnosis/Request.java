package nariz.diagnosis;

import java.util.List;
import java.util.Optional;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.Kit;
import nariz.log.DriveLog;

/**
 * What an analysis is asked.
 *
 * @param sheet build sheet
 * @param log drive
 * @param strategy targets
 * @param ruledOut causes the user has checked and found sound, keys as in {@link Hypothesis#cause()}
 * @param kit what the tuner has at hand
 * @param previous the advice before the last change, on the same car
 */
public record Request(BuildSheet sheet, DriveLog log, Strategy strategy, List<String> ruledOut, Kit kit,
        Optional<Previous> previous) {
    /** Copies the list. */
    public Request {
        ruledOut = List.copyOf(ruledOut);
    }

    /**
     * A plain question with the targets the sheet asks for.
     *
     * @param sheet build sheet
     * @param log drive
     * @return nothing ruled out, nothing known of kit or past
     */
    public static Request of(BuildSheet sheet, DriveLog log) {
        return of(sheet, log, Strategy.of(sheet));
    }

    /**
     * A plain question.
     *
     * @param sheet build sheet
     * @param log drive
     * @param strategy targets
     * @return nothing ruled out, nothing known of kit or past
     */
    public static Request of(BuildSheet sheet, DriveLog log, Strategy strategy) {
        return new Request(sheet, log, strategy, List.of(), Kit.NONE, Optional.empty());
    }

    /**
     * The same with causes ruled out.
     *
     * @param causes keys
     * @return a new request
     */
    public Request withRuledOut(List<String> causes) {
        return new Request(sheet, log, strategy, causes, kit, previous);
    }

    /**
     * The same with a kit.
     *
     * @param k kit
     * @return a new request
     */
    public Request withKit(Kit k) {
        return new Request(sheet, log, strategy, ruledOut, k, previous);
    }

    /**
     * The same after an earlier advice.
     *
     * @param p the advice before the last change
     * @return a new request
     */
    public Request withPrevious(Previous p) {
        return withPrevious(Optional.of(p));
    }

    /**
     * The same after an earlier advice, if there is one.
     *
     * @param p the advice before the last change, or empty
     * @return a new request
     */
    public Request withPrevious(Optional<Previous> p) {
        return new Request(sheet, log, strategy, ruledOut, kit, p);
    }
}
