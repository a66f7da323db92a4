package nariz.app.state;

import java.util.List;
import java.util.Optional;
import nariz.carburetor.BuildSheet;
import nariz.coverage.DrivePlan;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Previous;
import nariz.log.DriveLog;
import nariz.log.Quality;
import nariz.text.Wording;

/**
 * A drive with its analysis.
 *
 * @param opening which opening of a drive in this sitting it belongs to: weighed anew it keeps its number
 * @param sheet build sheet
 * @param log what was recorded
 * @param analysis answer and what it rests on
 * @param trace display series
 * @param today boundaries between circuits with today's parts
 * @param decisions what the user had decided when it was analysed
 * @param odd what is odd in the log
 * @param run where it is kept in the workbook, if it is
 * @param before the advice before the last change, where that was followed and is kept
 * @param advised what the changes to make now would do
 * @param strips what the trace shows
 * @param tipIns openings of the throttle
 * @param plan readings still to be made, and those that were
 * @param wording language and units it is shown in
 */
public record Drive(long opening, BuildSheet sheet, DriveLog log, Analysis analysis, Trace trace, Boundaries today,
        Decisions decisions, List<Quality.Finding> odd, Optional<Long> run, Optional<Previous> before, Effect advised,
        Strips strips, TipInSeries tipIns, DrivePlan plan, Wording wording) {
    /** Copies the list. */
    public Drive {
        odd = List.copyOf(odd);
    }

    Drive keptAs(Optional<Long> place) {
        return new Drive(opening, sheet, log, analysis, trace, today, decisions, odd, place, before, advised, strips,
                tipIns, plan, wording);
    }

    Drive in(Wording other) {
        return new Drive(opening, sheet, log, analysis, trace, today, decisions, odd, run, before, advised, strips,
                tipIns, plan, other);
    }
}
