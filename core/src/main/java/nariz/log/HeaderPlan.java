package nariz.log;

import static nariz.text.Message.message;

import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import nariz.carburetor.InputProblem;
import org.jspecify.annotations.Nullable;

/** What a table says of itself, guessing nothing. */
final class HeaderPlan {
    private static final Pattern RATE = Pattern.compile(
            "(?i).*(?:rate|frequency|frecuencia|abtastrate|frequence)[^0-9]{0,20}([0-9]+(?:[.,][0-9]+)?)\\s*hz.*");

    private HeaderPlan() {
    }

    /** The plan that header and units alone give; refused where they do not. */
    static Plan strict(Table t) {
        // One title is a sentence, or a whole header parted by something else.
        List<ColumnPlan> columns = t.titles().size() < 2 ? List.of() : ColumnChoice.strict(t);
        if (columns.isEmpty()) {
            List<String> first = t.titles().isEmpty() && !t.sample().isEmpty() ? t.sample().getFirst() : t.titles();
            throw new InputProblem(t.source(), t.headerLine(), 1, "", message("problem.a-first-line-that-names-no",
                    LogReader.shorten(String.join(String.valueOf(t.separator()), first))),
                    message("problem.name-the-columns-in-the-first"));
        }
        double rate = rate(t);
        if (rate <= 0) {
            need(t, columns, Channel.TIME, null);
        }
        need(t, columns, Channel.RPM, null);
        need(t, columns, Channel.VACUUM, Channel.MAP);
        need(t, columns, Channel.LAMBDA, Channel.AFR);
        boolean timed = columns.stream().anyMatch(c -> c.channel() == Channel.TIME);
        int events = HeaderMatch.events(t);
        return new Plan(columns, timed ? 0.0 : rate, events, signature(t), ColumnChoice.unread(t, columns, events));
    }

    private static void need(Table t, List<ColumnPlan> columns, Channel c, @Nullable Channel or) {
        if (columns.stream().noneMatch(x -> x.channel() == c || x.channel() == or)) {
            String names = c.header() + (or == null ? "" : " or " + or.header());
            throw new InputProblem(t.source(), t.headerLine(), 0, "", message("problem.no-column-for", c.label()),
                    message("problem.add-or-rename-a-column-to", names));
        }
    }

    /** Sample rate named above the header, Hz; 0 when there is none. */
    static double rate(Table t) {
        for (String line : t.preamble()) {
            Matcher m = RATE.matcher(line);
            if (m.matches()) {
                return Double.parseDouble(m.group(1).replace(',', '.'));
            }
        }
        return 0.0;
    }

    /** What a source of logs is recognised by. */
    static String signature(Table t) {
        return String.join("|", t.titles()) + (t.units().isEmpty() ? "" : " / " + String.join("|", t.units()));
    }
}
