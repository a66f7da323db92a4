package nariz.log;

import static nariz.text.Message.message;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import nariz.carburetor.InputProblem;
import nariz.text.Message;

/**
 * What the columns of a table carry: by the words of {@link HeaderWords}, by units in the header or in a row of their
 * own, and, where asked to guess, by the range of the numbers.
 *
 * <p>A column is sure when every word of its header is understood, its unit is named (or the channel has only one that
 * people leave out) and no other column claims the same channel as well. A unit that is named is understood or asked
 * about, never overridden by what the numbers look like.
 */
final class ColumnChoice {
    private static final Set<Channel> NEEDED = Set.of(Channel.TIME, Channel.RPM, Channel.VACUUM, Channel.MAP,
            Channel.AFR, Channel.LAMBDA);

    private ColumnChoice() {
    }

    /** The plan of a column whose header names time, empty for every other. */
    static Optional<ColumnPlan> time(Table t, int i) {
        return HeaderMatch.match(t, i).filter(m -> m.channel() == Channel.TIME && m.unknown() == 0).flatMap(m ->
                ColumnScale.plan(t, i, m));
    }

    /** Columns that header and units name; what is unclear of what is needed is refused with its place. */
    static List<ColumnPlan> strict(Table t) {
        Assigned all = assign(t);
        for (Claim c : all.unclear()) {
            Channel channel = c.match().channel();
            if (channel != null && NEEDED.contains(channel) && missing(channel, all.columns())) {
                throw unclear(t, c, all);
            }
        }
        List<ColumnPlan> sure = all.columns().stream().filter(c -> c.certainty() == ColumnPlan.Certainty.SURE)
                .toList();
        for (ColumnPlan c : all.columns()) {
            if (c.certainty() != ColumnPlan.Certainty.SURE && NEEDED.contains(c.channel()) && missing(c.channel(),
                    sure)) {
                throw likely(t, c);
            }
        }
        return sure;
    }

    private static InputProblem likely(Table t, ColumnPlan c) {
        boolean words = HeaderMatch.match(t, c.index()).filter(m -> m.unknown() == 0).isPresent();
        Message found = words ? message("problem.no-unit-for-but-likely", c.channel().label(), c.unit())
                : message("problem.a-column-that-is-only-likely", c.channel().label());
        return new InputProblem(t.source(), t.headerLine(), c.index() + 1, c.title(), found, message(
                "problem.put-the-unit-in-or-say", c.channel().header(), units(c.channel()), c.index() + 1,
                c.channel().key() + (c.unit().isEmpty() ? "" : ":" + c.unit())));
    }

    private static String units(Channel c) {
        return String.join(", ", c.units().stream().map(Channel.Unit::name).filter(n -> !n.isEmpty()).toList());
    }

    /** Whether nothing else tells what a needed channel tells. */
    private static boolean missing(Channel c, List<ColumnPlan> columns) {
        return columns.stream().noneMatch(o -> same(c).contains(o.channel())
                && o.certainty() == ColumnPlan.Certainty.SURE);
    }

    private static InputProblem unclear(Table t, Claim c, Assigned all) {
        Channel channel = java.util.Objects.requireNonNull(c.match().channel());
        Optional<Claim> rival = all.unclear().stream().filter(o -> o.index() != c.index()
                && o.match().channel() == channel
                && o.plan().isPresent()).findFirst();
        if (c.plan().isPresent() && rival.isPresent()) {
            Claim second = rival.get().index() > c.index() ? rival.get() : c;
            Claim first = second.equals(c) ? rival.get() : c;
            return new InputProblem(t.source(), t.headerLine(), second.index() + 1, second.title(),
                    message("problem.a-second-column-for-the-first", channel.label(), first.title()),
                    message("problem.keep-one-or-name-the-other"));
        }
        Message found = c.match().unitNamed() ? message("problem.the-unit-for", c.match().header().unit(),
                channel.label()) : message("problem.no-unit-for", channel.label());
        return new InputProblem(t.source(), t.headerLine(), c.index() + 1, c.title(), found,
                message("problem.put-the-unit-in-the-header", channel.header(), units(channel)));
    }

    /** A column whose header names something. */
    private record Claim(int index, String title, HeaderMatch.Match match, Optional<ColumnPlan> plan) {
    }

    /** Columns that can be read, and claims that cannot as they stand. */
    private record Assigned(List<ColumnPlan> columns, List<Claim> unclear) {
    }

    /** Every channel to the column that names it best; where two do as well, to none for sure. */
    private static Assigned assign(Table t) {
        Map<Channel, List<Claim>> claims = new EnumMap<>(Channel.class);
        for (int i = 0; i < t.titles().size(); i++) {
            int field = i;
            HeaderMatch.match(t, i).filter(m -> m.channel() != null).ifPresent(m -> claims.computeIfAbsent(
                    java.util.Objects.requireNonNull(m.channel()), c -> new ArrayList<>()).add(new Claim(field,
                            t.titles().get(field).trim(), m, ColumnScale.plan(t, field, m))));
        }
        List<ColumnPlan> columns = new ArrayList<>();
        List<Claim> unclear = new ArrayList<>();
        claims.forEach((c, all) -> {
            List<Claim> best = best(t, c, all);
            Optional<ColumnPlan> first = best.getFirst().plan();
            if (first.isEmpty()) {
                unclear.add(best.getFirst());
            } else if (best.size() > 1 && !alike(t, best)) {
                unclear.addAll(best);
                columns.add(ColumnScale.as(first.get(), ColumnPlan.Certainty.LIKELY,
                        message("because.another-claims-it",
                        best.get(1).title())));
            } else {
                columns.add(first.get());
            }
        });
        columns.sort(Comparator.comparingInt(ColumnPlan::index));
        return new Assigned(columns, unclear);
    }

    /** The claims that are as good as the best one. */
    private static List<Claim> best(Table t, Channel c, List<Claim> all) {
        List<Claim> fit = c == Channel.TIME && all.size() > 1 ? all.stream().filter(x -> clock(t, x.index())).toList()
                : all;
        List<Claim> of = fit.isEmpty() ? all : fit;
        Comparator<Claim> order = Comparator.comparing((Claim x) -> x.match().standIn())
                .thenComparingInt(x -> x.match().unknown()).thenComparing(x -> x.plan().isEmpty());
        Claim first = of.stream().min(order).orElseThrow();
        List<Claim> same = of.stream().filter(x -> order.compare(x, first) == 0).toList();
        // Any of several clocks will do, as long as no others' channels stand between them.
        return c == Channel.TIME && together(same) ? List.of(same.getFirst()) : same;
    }

    private static boolean together(List<Claim> claims) {
        for (int k = 1; k < claims.size(); k++) {
            if (claims.get(k).index() != claims.get(k - 1).index() + 1) {
                return false;
            }
        }
        return true;
    }

    private static boolean clock(Table t, int i) {
        double[] v = t.texts(i).stream().filter(s -> !Cells.blank(s)).mapToDouble(s -> s.indexOf(':') > 0
                ? Cells.clockS(s) : t.style(i).number(s)).toArray();
        return v.length > 1 && ColumnScale.rises(v);
    }

    private static boolean alike(Table t, List<Claim> claims) {
        List<String> first = t.texts(claims.getFirst().index());
        return claims.stream().allMatch(c -> t.texts(c.index()).equals(first));
    }

    /** Columns as well as can be told, each with how sure that is; a channel is given to one column only. */
    static List<ColumnPlan> propose(Table t) {
        List<ColumnPlan> out = new ArrayList<>(assign(t).columns());
        int events = HeaderMatch.events(t);
        Set<Integer> used = new HashSet<>();
        out.forEach(c -> used.add(c.index()));
        for (int i = 0; i < t.width(); i++) {
            if (!used.contains(i) && i != events && unnamed(t, i)) {
                ColumnScale.guess(t, i).filter(c -> out.stream().noneMatch(o ->
                        same(c.channel()).contains(o.channel())))
                        .ifPresent(out::add);
            }
        }
        out.sort(Comparator.comparingInt(ColumnPlan::index));
        return out;
    }

    /** Whether a header leaves open what its column is: no word and no unit of it is known. */
    private static boolean unnamed(Table t, int i) {
        if (i >= t.titles().size() || t.titles().get(i).isBlank()) {
            return true;
        }
        return HeaderMatch.match(t, i).isEmpty() && Header.readings(t.titles().get(i), HeaderMatch.below(t,
                i)).stream().allMatch(h -> h.unit()
                .isEmpty() && h.words().stream().noneMatch(HeaderWords.NOT_READ::contains));
    }

    /** Channels that tell the same in other terms. */
    private static List<Channel> same(Channel c) {
        return switch (c) {
            case MAP, VACUUM -> List.of(Channel.MAP, Channel.VACUUM);
            case AFR, LAMBDA -> List.of(Channel.AFR, Channel.LAMBDA);
            default -> List.of(c);
        };
    }

    /**
     * What stands in a table and is not read.
     *
     * @param t table
     * @param columns columns that are read
     * @param events field of event marks, -1 for none
     */
    static List<UnreadColumn> unread(Table t, List<ColumnPlan> columns, int events) {
        Set<Integer> used = new HashSet<>();
        columns.forEach(c -> used.add(c.index()));
        List<UnreadColumn> out = new ArrayList<>();
        for (int i = 0; i < t.width(); i++) {
            boolean nothing = t.texts(i).stream().allMatch(Cells::blank);
            if (!used.contains(i) && i != events && !nothing) {
                out.add(unread(t, i, columns));
            }
        }
        return out;
    }

    private static UnreadColumn unread(Table t, int i, List<ColumnPlan> columns) {
        String title = i < t.titles().size() && !t.titles().get(i).isBlank() ? t.titles().get(i).trim()
                : message("plan.column", i + 1).toString();
        Optional<HeaderMatch.Match> m = HeaderMatch.match(t, i);
        if (m.isEmpty() || (m.get().channel() == null && m.get().unknown() > 1 && !m.get().event())) {
            return new UnreadColumn(i, title, Optional.empty(), message("unread.unknown"));
        }
        Channel c = m.get().channel();
        if (c == null) {
            return new UnreadColumn(i, title, Optional.empty(), message("unread.of-no-use", message("unread."
                    + m.get().other().replace("other.", ""))));
        }
        Optional<ColumnPlan> as = ColumnScale.plan(t, i, m.get());
        Optional<ColumnPlan> taken = columns.stream().filter(o -> same(as.map(ColumnPlan::channel).orElse(c)).contains(
                o.channel())).findFirst();
        if (taken.isPresent()) {
            return new UnreadColumn(i, title, as.map(a -> ColumnScale.as(a, ColumnPlan.Certainty.LIKELY, a.because())),
                    message("unread.as-well", c.label(), taken.get().title()));
        }
        return as.map(UnreadColumn::of).orElseGet(() -> new UnreadColumn(i, title, Optional.empty(), m.get().unitNamed()
                        ? message("unread.in-an-unknown-unit", c.label(), m.get().header().unit())
                        : message("unread.without-a-unit", c.label())));
    }
}
