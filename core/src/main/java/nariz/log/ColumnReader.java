package nariz.log;

import static nariz.text.Message.message;

import java.util.Optional;
import java.util.function.Supplier;
import java.util.regex.Pattern;
import nariz.carburetor.InputProblem;
import nariz.text.Message;
import org.jspecify.annotations.Nullable;

/** One column of a log: takes its cells as numbers and lists those that cannot be. */
final class ColumnReader {
    private static final double WORST_SHARE = 0.2;
    private static final Pattern GROUPED = Pattern.compile("[-+]?[1-9][0-9]{0,2}[.,][0-9]{3}");

    private final ColumnPlan plan;
    private final NumberStyle style;
    private final Problems problems;
    private final Column data = new Column();
    private long bad;
    private @Nullable LogProblem firstBad;

    /** Where what is left out of a log is listed. */
    interface Problems {
        /** Lists one. */
        void note(LogProblem p);

        /** Counts one that nobody will read. */
        void count();

        /** Whether there is room to list more. */
        boolean full();
    }

    ColumnReader(ColumnPlan plan, NumberStyle style, Problems problems) {
        this.plan = plan;
        this.style = style;
        this.problems = problems;
    }

    ColumnPlan plan() {
        return plan;
    }

    Channel channel() {
        return plan.channel();
    }

    Column data() {
        return data;
    }

    /** A cell as the number that stands in it, in the column's unit; NaN where there is none. */
    double cell(Rows r) {
        double v = r.number(plan.index(), style);
        String s = "";
        if (Double.isNaN(v)) {
            s = r.get(plan.index()).trim();
            if (Cells.blank(s)) {
                return Double.NaN;
            }
            v = withUnit(s);
            if (Double.isNaN(v)) {
                String text = LogReader.shorten(s);
                bad(r, () -> message(Double.isNaN(NumberStyle.EITHER.leading(text)) && GROUPED.matcher(text).matches()
                        ? "problem.that-could-be-two-numbers" : "problem.where-a-number-belongs", text));
                return Double.NaN;
            }
        }
        if (!possible(plan.scale().toSi(v))) {
            String text = LogReader.shorten(s.isEmpty() ? r.get(plan.index()) : s);
            bad(r, () -> message("problem.outside-what-can-be", text, plan.channel().label()));
            return Double.NaN;
        }
        return v;
    }

    /** A cell in SI where it is a plain number that can be; NaN otherwise, and nothing is listed. */
    double plainSi(Rows r) {
        double si = plan.scale().toSi(r.number(plan.index(), style));
        return possible(si) ? si : Double.NaN;
    }

    private boolean possible(double si) {
        return si >= plan.channel().lowest() && si <= plan.channel().highest();
    }

    /** A number whose unit stands in its own cell, in the unit of its column; NaN where that cannot be. */
    private double withUnit(String s) {
        Cells.Reading r = Cells.withUnit(s, style);
        if (r.unit().isEmpty()) {
            return Double.NaN;
        }
        Optional<Channel.Unit> u = plan.channel().unit(r.unit());
        if (u.isEmpty() || !(plan.scale() instanceof Scale.Linear column)) {
            return Double.NaN;
        }
        boolean same = u.get().factor() == column.factor() && u.get().shift() == column.shift();
        return same ? r.value() : (r.value() * u.get().factor() + u.get().shift() - column.shift()) / column.factor();
    }

    /** Counts a cell that was left out; it is put into words only where somebody may read them. */
    private void bad(Rows r, Supplier<Message> found) {
        bad++;
        if (firstBad != null && problems.full()) {
            problems.count();
            return;
        }
        LogProblem p = new LogProblem(r.line(plan.index()), plan.index() + 1, plan.title(), found.get(),
                message("problem.the-reading-was-left-out"));
        firstBad = firstBad == null ? p : firstBad;
        problems.note(p);
    }

    /** Refuses a column of which more than one cell in five could not be read. */
    void rejectIfHopeless(String source, int rows) {
        LogProblem p = firstBad;
        if (p != null && bad > WORST_SHARE * Math.max(rows, 1)) {
            throw new InputProblem(source, p.line(), p.column(), p.channel(), message("problem.and-more-like-it",
                    p.found(), bad - 1), message("problem.check-that-this-column-really-is", plan.channel().label(),
                            plan.channel().header()));
        }
    }
}
