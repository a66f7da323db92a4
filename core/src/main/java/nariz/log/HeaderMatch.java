package nariz.log;

import static nariz.text.Message.message;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import nariz.carburetor.InputProblem;
import nariz.text.Message;
import org.jspecify.annotations.Nullable;

/**
 * What the columns of a table carry: by the words of {@link HeaderWords}, by units in the header or in a row of their
 * own, and, where asked to guess, by the range of the numbers.
 *
 * <p>A column is sure when every word of its header is understood, its unit is named (or the channel has only one that
 * people leave out) and no other column claims the same channel as well. A unit that is named is understood or asked
 * about, never overridden by what the numbers look like.
 */
final class HeaderMatch {
    private static final double CLEAR_SHARE = 0.6;
    private static final List<Channel> MIXTURE = List.of(Channel.AFR, Channel.AFR_2, Channel.LAMBDA, Channel.LAMBDA_2);
    private static final Set<Channel> NEEDED = Set.of(Channel.TIME, Channel.RPM, Channel.VACUUM, Channel.MAP,
            Channel.AFR, Channel.LAMBDA);
    private static final List<Channel> BY_UNIT_ALONE = List.of(Channel.RPM, Channel.SPEED);
    private static final Set<String> EVENT_WORDS = Set.of("driver", "user", "event", "marker", "key");
    private static final Set<String> VOLTS = Set.of("v", "volt", "volts", "mv", "vdc");
    /** A throttle that never reads higher than this has no percent. */
    private static final double HIGHEST_VOLTS = 5.5;
    /** A share reads no higher than this, and at idle no higher than that. */
    private static final double HIGHEST_SHARE = 1.05;
    private static final double HIGHEST_IDLE_SHARE = 0.3;
    private static final double USUAL_SHUT_VOLTS = 0.5;
    private static final double USUAL_OPEN_VOLTS = 4.5;
    private static final double HIGHEST_SHUT_VOLTS = 1.2;
    /** Steps of time: shorter ones are minutes or days, longer ones parts of a second, s. */
    private static final double SHORTEST_STEP_S = 0.0009;
    private static final double LONGEST_STEP_S = 5.0;
    private static final double SHORTEST_STEP_US = 5000.0;

    private HeaderMatch() {
    }

    /** What a header says, by its best reading. */
    private record Match(@Nullable Channel channel, String other, Header header, int unknown, int words, int letters,
            boolean standIn, boolean ratio) {
        boolean event() {
            return "event".equals(other);
        }

        /** Whether the unit that is named is one of the channel's. */
        boolean unitKnown() {
            return channel != null && channel.unit(header.unit()).isPresent();
        }

        boolean unitNamed() {
            return !header.unit().isEmpty();
        }

        private int unitRank() {
            return channel == null ? 1 : unitNamed() && !unitKnown() ? 2 : unitKnown() && unitNamed() ? 0 : 1;
        }
    }

    private static final Comparator<Match> BETTER = Comparator.comparingInt(Match::unknown)
            .thenComparing(m -> m.channel() == null && !m.event()).thenComparing(m ->
            m.standIn()).thenComparingInt(Match::unitRank)
            .thenComparing(Comparator.comparingInt(Match::words).reversed())
            .thenComparing(Comparator.comparingInt(Match::letters).reversed());

    /** What a header names; empty when no word of it is known. */
    private static Optional<Match> match(String title, String unitBelow) {
        if (title.isBlank()) {
            return Optional.empty();
        }
        return Header.readings(title, unitBelow).stream().flatMap(h -> matches(h).stream()).min(BETTER);
    }

    private static List<Match> matches(Header h) {
        List<Match> out = new ArrayList<>();
        boolean aimed = h.words().stream().anyMatch(HeaderWords.NOT_READ::contains);
        if (!aimed) {
            HeaderWords.CHANNELS.forEach((c, phrases) -> add(out, h, c, phrases, false));
            HeaderWords.STAND_INS.forEach((c, phrases) -> add(out, h, c, phrases, true));
            sensor(out, h);
            fuel(out, h);
            byUnit(out, h);
        }
        if (out.stream().noneMatch(m -> m.unknown() == 0)) {
            HeaderWords.OTHERS.forEach((k, phrases) -> phrase(h, phrases).ifPresent(p -> out.add(new Match(null, k, h,
                    unexplained(h, p), p.words().size(), p.letters(), false, false))));
        } else {
            HeaderWords.OTHERS.forEach((k, phrases) -> phrase(h, phrases).filter(p -> p.words().size() > 1).ifPresent(
                    p -> out.add(new Match(null, k, h, unexplained(h, p), p.words().size(),
                            p.letters(), false, false))));
        }
        phrase(h, HeaderWords.EVENT).filter(p -> !aimed && h.unit().isEmpty()).ifPresent(p -> out.add(
                new Match(null, "event", h, rest(h, p, EVENT_WORDS).size(),
                        p.words().size(), p.letters(), false, false)));
        return out;
    }

    /** The longest phrase whose words all stand in a header. */
    private static Optional<HeaderWords.Phrase> phrase(Header h, List<HeaderWords.Phrase> phrases) {
        return phrases.stream().filter(p -> h.words().containsAll(p.words())).findFirst();
    }

    /** Words that are left of a header of something else; targets and numbers are told with it. */
    private static int unexplained(Header h, HeaderWords.Phrase p) {
        return (int) rest(h, p, HeaderWords.NOT_READ).stream().filter(w -> !w.matches("[0-9]+")).count();
    }

    /** Words of a header that neither the phrase nor what may stand beside it explains. */
    private static List<String> rest(Header h, HeaderWords.Phrase p, Set<String> beside) {
        List<String> left = new ArrayList<>(h.words());
        p.words().forEach(left::remove);
        left.removeIf(w -> beside.contains(w) || HeaderWords.ANY.contains(w));
        return left;
    }

    private static void add(List<Match> out, Header h, Channel c, List<HeaderWords.Phrase> phrases, boolean standIn) {
        Set<String> beside = HeaderWords.qualifiers(c);
        Optional<HeaderWords.Phrase> p = phrases.stream().filter(x -> h.words().containsAll(x.words())).min(
                Comparator.comparingInt(x -> rest(h, x, beside).size()));
        if (p.isEmpty() || (!h.unit().isEmpty() && c.unit(h.unit()).isEmpty() && foreign(c, h.unit()))) {
            return;
        }
        List<String> left = rest(h, p.get(), beside);
        out.add(numbered(new Match(c, "", h, 0, p.get().words().size(), p.get().letters(), standIn, false), left,
                false));
    }

    /** Counts what is not understood and tells the second of two sensors by its number or side. */
    private static Match numbered(Match m, List<String> left, boolean ratio) {
        Channel c = m.channel();
        boolean mixture = c != null && MIXTURE.contains(c);
        boolean second = mixture && left.stream().anyMatch(HeaderWords.SECOND::contains);
        int unknown = (int) left.stream().filter(w -> !(HeaderWords.FIRST.contains(w) || HeaderWords.SECOND.contains(w)
                || (!mixture && w.matches("[0-9]+")))).count();
        Channel told = second ? c == Channel.AFR ? Channel.AFR_2 : c == Channel.LAMBDA ? Channel.LAMBDA_2 : c : c;
        return new Match(told, m.other(), m.header(), unknown, m.words(), m.letters(), m.standIn(), ratio);
    }

    /** Whether a unit is one of another quantity: then the column is something else, whatever its words. */
    private static boolean foreign(Channel c, String unit) {
        boolean mixture = MIXTURE.contains(c);
        return UnitSpellings.known(unit) && !mixture && Arrays.stream(Channel.values()).anyMatch(o -> o.unit(unit)
                .isPresent());
    }

    /** A wideband sensor that does not say in what, and words for the reciprocal of lambda. */
    private static void sensor(List<Match> out, Header h) {
        phrase(h, HeaderWords.RATIO).filter(p -> h.unit().isEmpty()).ifPresent(p ->
                out.add(numbered(new Match(Channel.LAMBDA, "", h, 0,
                p.words().size() + 1, p.letters(), false, true), rest(h, p, HeaderWords.qualifiers(Channel.LAMBDA)),
                true)));
        phrase(h, HeaderWords.SENSOR).ifPresent(p -> {
            List<String> left = rest(h, p, HeaderWords.qualifiers(Channel.AFR));
            boolean lambda = UnitSpellings.usual(h.unit()).equals("lambda");
            out.add(numbered(new Match(lambda ? Channel.LAMBDA : Channel.AFR, "", h, 0, 0, 0, true, false), left,
                    false));
        });
    }

    private static void fuel(List<Match> out, Header h) {
        Optional<String> fuel = h.words().stream().filter(HeaderWords.FUEL::contains).findFirst();
        if (fuel.isPresent() && !h.unit().isEmpty() && Channel.FUEL_PRESSURE.unit(h.unit()).isPresent()) {
            HeaderWords.Phrase p = new HeaderWords.Phrase(List.of(fuel.get()));
            out.add(numbered(new Match(Channel.FUEL_PRESSURE, "", h, 0, 1, p.letters(), false, false), rest(h, p,
                    HeaderWords.qualifiers(Channel.FUEL_PRESSURE)), false));
        }
    }

    /** Only engine and road speed have units that nothing else has. */
    private static void byUnit(List<Match> out, Header h) {
        for (Channel c : BY_UNIT_ALONE) {
            if (!h.unit().isEmpty() && c.unit(h.unit()).isPresent()) {
                Set<String> own = HeaderWords.qualifiers(c);
                int unknown = h.words().isEmpty() || h.words().stream().anyMatch(own::contains) ? (int) rest(h,
                        new HeaderWords.Phrase(List.of()), own).stream().filter(w -> !w.matches("[0-9]+")).count()
                        : Math.max(1, h.words().size());
                out.add(new Match(c, "", h, unknown, 0, 0, true, false));
            }
        }
    }

    /** How many fields of a row name something known. */
    static int known(List<String> titles) {
        int n = 0;
        for (String t : titles) {
            n += names(t) ? 1 : 0;
        }
        return n;
    }

    private static boolean names(String title) {
        if (title.chars().noneMatch(Character::isLetter)) {
            return false;
        }
        return match(title, "").filter(m -> m.unknown() == 0 && (m.channel() != null || m.event())).isPresent();
    }

    /** Whether the row under the header names units: no number in it, and a unit of its channel under some header. */
    static boolean unitsRow(List<String> titles, List<String> row) {
        int units = 0;
        for (int i = 0; i < row.size(); i++) {
            String u = row.get(i).trim();
            if (!Double.isNaN(Cells.number(u)) || Cells.clock(u)) {
                return false;
            }
            if (i < titles.size() && !u.isEmpty()) {
                units += match(titles.get(i), u).filter(m -> m.channel() != null && m.unitKnown()).isPresent() ? 1 : 0;
            }
        }
        return units > 0;
    }

    private static String below(Table t, int i) {
        return i < t.units().size() ? t.units().get(i) : "";
    }

    private static Optional<Match> match(Table t, int i) {
        return i < t.titles().size() ? match(t.titles().get(i), below(t, i)) : Optional.empty();
    }

    /** The field with event marks, -1 for none. */
    static int events(Table t) {
        for (int i = 0; i < t.titles().size(); i++) {
            if (match(t, i).filter(m -> m.event() && m.unknown() == 0).isPresent()) {
                return i;
            }
        }
        return -1;
    }

    /** The plan of a column whose header names time, empty for every other. */
    static Optional<ColumnPlan> time(Table t, int i) {
        return match(t, i).filter(m -> m.channel() == Channel.TIME && m.unknown() == 0).flatMap(m -> plan(t, i, m));
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
        boolean words = match(t, c.index()).filter(m -> m.unknown() == 0).isPresent();
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
    private record Claim(int index, String title, Match match, Optional<ColumnPlan> plan) {
    }

    /** Columns that can be read, and claims that cannot as they stand. */
    private record Assigned(List<ColumnPlan> columns, List<Claim> unclear) {
    }

    /** Every channel to the column that names it best; where two do as well, to none for sure. */
    private static Assigned assign(Table t) {
        Map<Channel, List<Claim>> claims = new EnumMap<>(Channel.class);
        for (int i = 0; i < t.titles().size(); i++) {
            int field = i;
            match(t, i).filter(m -> m.channel() != null).ifPresent(m -> claims.computeIfAbsent(
                    java.util.Objects.requireNonNull(m.channel()), c -> new ArrayList<>()).add(new Claim(field,
                            t.titles().get(field).trim(), m, plan(t, field, m))));
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
                columns.add(as(first.get(), ColumnPlan.Certainty.LIKELY, message("because.another-claims-it",
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
        return v.length > 1 && rises(v);
    }

    private static boolean alike(Table t, List<Claim> claims) {
        List<String> first = t.texts(claims.getFirst().index());
        return claims.stream().allMatch(c -> t.texts(c.index()).equals(first));
    }

    /** How a column is read, as far as its header and its numbers tell; empty when its unit is not understood. */
    private static Optional<ColumnPlan> plan(Table t, int i, Match m) {
        String title = t.titles().get(i).trim();
        Channel c = java.util.Objects.requireNonNull(m.channel());
        ColumnPlan.Certainty words = m.unknown() > 0 ? ColumnPlan.Certainty.LIKELY : ColumnPlan.Certainty.SURE;
        if (m.ratio()) {
            return Optional.of(new ColumnPlan(i, title, c,
                    "1/lambda", new Scale.Reciprocal(1.0), words, message("because.the-header-says-so")));
        }
        boolean sensorOnly = m.standIn() && MIXTURE.contains(c) && m.words() == 0 && !m.unitNamed();
        if (m.unitNamed()) {
            return c.unit(m.header().unit()).map(u -> linear(i, title, c, u, words, words == ColumnPlan.Certainty.SURE
                    ? message("because.the-header-says-so") : message("because.a-word-of-the-header")))
                    .or(() -> c == Channel.THROTTLE && VOLTS.contains(m.header().unit()) ? volts(t, i, title)
                            : Optional.empty());
        }
        if (sensorOnly) {
            return mixture(t, i, title, c);
        }
        Optional<Channel.Unit> cells = t.style(i).unit().flatMap(c::unit);
        if (cells.isPresent()) {
            return Optional.of(linear(i, title, c, cells.get(), words, message("because.the-cells-say-so")));
        }
        return switch (c) {
            case AFR, AFR_2, LAMBDA, LAMBDA_2, RPM -> Optional.of(linear(i, title, c, c.units().getFirst(), words,
                    words == ColumnPlan.Certainty.SURE ? message("because.the-header-says-so")
                    : message("because.a-word-of-the-header")));
            case TIME -> Optional.of(time(t, i, title, words));
            case THROTTLE -> throttle(t, i, title, words);
            default -> byRange(t, i, title, c);
        };
    }

    private static ColumnPlan linear(int i, String title, Channel c, Channel.Unit u, ColumnPlan.Certainty sure,
            Message because) {
        return new ColumnPlan(i, title, c, u.name(), new Scale.Linear(u.factor(), u.shift()), sure, because);
    }

    private static ColumnPlan as(ColumnPlan c, ColumnPlan.Certainty sure, Message because) {
        return new ColumnPlan(c.index(), c.title(), c.channel(), c.unit(), c.scale(), sure, because);
    }

    /**
     * A time without a unit is in seconds where its steps can be: steps of tens and hundreds are milliseconds, steps
     * of less than a thousandth are minutes or days.
     */
    private static ColumnPlan time(Table t, int i, String title, ColumnPlan.Certainty words) {
        if (t.texts(i).stream().filter(Cells::clock).count() > CLEAR_SHARE * t.sample().size()) {
            return linear(i, title, Channel.TIME, Channel.TIME.units().getFirst(), words,
                    message("because.the-header-says-so"));
        }
        double[] v = t.numbers(i);
        double[] steps = new double[Math.max(0, v.length - 1)];
        for (int k = 0; k < steps.length; k++) {
            steps[k] = v[k + 1] - v[k];
        }
        double step = middle(Arrays.stream(steps).filter(x -> x > 0).toArray());
        String unit = step >= SHORTEST_STEP_US ? "us" : step >= LONGEST_STEP_S ? "ms" : step < 2e-5 ? "days"
                : step < SHORTEST_STEP_S ? "min" : "s";
        boolean plain = unit.equals("s");
        return linear(i, title, Channel.TIME, Channel.TIME.unit(unit).orElseThrow(), plain ? words
                : ColumnPlan.Certainty.LIKELY, plain ? message("because.the-header-says-so")
                : message("because.its-steps-are-those-of", unit));
    }

    /** Percent where no volts and no fraction reads as high. */
    private static Optional<ColumnPlan> throttle(Table t, int i, String title, ColumnPlan.Certainty words) {
        double top = high(t.spreadNumbers(i));
        if (Double.isNaN(top)) {
            return Optional.empty();
        }
        if (top > HIGHEST_VOLTS) {
            return Optional.of(linear(i, title, Channel.THROTTLE, Channel.THROTTLE.units().getFirst(), words,
                    message("because.the-header-says-so")));
        }
        if (top > HIGHEST_SHARE) {
            return volts(t, i, title);
        }
        // Nothing but idle was logged yet: then it is what most people write.
        String unit = top > HIGHEST_IDLE_SHARE ? "0..1" : "%";
        return Optional.of(linear(i, title, Channel.THROTTLE, Channel.THROTTLE.unit(unit).orElseThrow(),
                ColumnPlan.Certainty.LIKELY, message("because.unit-its-numbers-fit")));
    }

    /** Volts of a throttle: shut at the lowest that was logged, open where such sensors usually are; likely at best. */
    private static Optional<ColumnPlan> volts(Table t, int i, String title) {
        double[] v = Arrays.stream(t.spreadNumbers(i)).filter(x -> !Double.isNaN(x)).toArray();
        if (v.length == 0) {
            return Optional.empty();
        }
        double shut = low(v) < HIGHEST_SHUT_VOLTS ? low(v) : USUAL_SHUT_VOLTS;
        double open = high(v) > USUAL_OPEN_VOLTS ? HIGHEST_VOLTS : USUAL_OPEN_VOLTS;
        return Optional.of(new ColumnPlan(i, title, Channel.THROTTLE, "volts", new Scale.Curve(new double[] {shut,
                open},
                new double[] {0, 1}), ColumnPlan.Certainty.LIKELY, message("because.volts-as-usual")));
    }

    private static Optional<ColumnPlan> mixture(Table t, int i, String title, Channel c) {
        double middle = middle(t.spreadNumbers(i));
        Channel lambda = c == Channel.AFR_2 ? Channel.LAMBDA_2 : Channel.LAMBDA;
        Channel told = middle > 5 && middle < 30 ? c : middle > 0.5 && middle < 2 ? lambda : null;
        return told == null ? Optional.empty() : Optional.of(linear(i, title, told, told.units().getFirst(),
                ColumnPlan.Certainty.LIKELY, message("because.unit-its-numbers-fit")));
    }

    /** Columns as well as can be told, each with how sure that is; a channel is given to one column only. */
    static List<ColumnPlan> propose(Table t) {
        List<ColumnPlan> out = new ArrayList<>(assign(t).columns());
        int events = events(t);
        Set<Integer> used = new HashSet<>();
        out.forEach(c -> used.add(c.index()));
        for (int i = 0; i < t.width(); i++) {
            if (!used.contains(i) && i != events && unnamed(t, i)) {
                guess(t, i).filter(c -> out.stream().noneMatch(o -> same(c.channel()).contains(o.channel())))
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
        return match(t, i).isEmpty() && Header.readings(t.titles().get(i), below(t, i)).stream().allMatch(h -> h.unit()
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
        Optional<Match> m = match(t, i);
        if (m.isEmpty() || (m.get().channel() == null && m.get().unknown() > 1 && !m.get().event())) {
            return new UnreadColumn(i, title, Optional.empty(), message("unread.unknown"));
        }
        Channel c = m.get().channel();
        if (c == null) {
            return new UnreadColumn(i, title, Optional.empty(), message("unread.of-no-use", message("unread."
                    + m.get().other().replace("other.", ""))));
        }
        Optional<ColumnPlan> as = plan(t, i, m.get());
        Optional<ColumnPlan> taken = columns.stream().filter(o -> same(as.map(ColumnPlan::channel).orElse(c)).contains(
                o.channel())).findFirst();
        if (taken.isPresent()) {
            return new UnreadColumn(i, title, as.map(a -> as(a, ColumnPlan.Certainty.LIKELY, a.because())),
                    message("unread.as-well", c.label(), taken.get().title()));
        }
        return as.map(UnreadColumn::of).orElseGet(() -> new UnreadColumn(i, title, Optional.empty(), m.get().unitNamed()
                        ? message("unread.in-an-unknown-unit", c.label(), m.get().header().unit())
                        : message("unread.without-a-unit", c.label())));
    }

    /** The unit in which the numbers make sense, where none is named. */
    private static Optional<ColumnPlan> byRange(Table t, int i, String title, Channel c) {
        double[] v = t.spreadNumbers(i);
        double top = high(v);
        double low = low(v);
        if (Double.isNaN(top)) {
            return Optional.empty();
        }
        String unit = switch (c) {
            case VACUUM -> low < -3 ? (low < -150 ? "mbar gauge" : "kpa gauge") : top <= 31 ? "inhg"
                    : top <= 105 ? "kpa" : "mbar";
            case MAP -> top <= 1.3 ? "bar" : top <= 18 ? "psi" : top <= 34 ? "inhg" : top <= 120 ? "kpa" : "mbar";
            case SPEED -> "km/h";
            case COOLANT, OIL_TEMPERATURE -> top > 130 ? "f" : "c";
            case HEAD_TEMPERATURE -> top > 250 ? "f" : "c";
            case FUEL_PRESSURE -> top < 1.5 ? "bar" : top < 15 ? "psi" : "kpa";
            case AIRFLOW -> "g/s";
            case ALTITUDE -> "m";
            case RUN_TIME -> "s";
            default -> c.units().getFirst().name();
        };
        return c.unit(unit).map(u -> linear(i, title, c, u, ColumnPlan.Certainty.LIKELY,
                message("because.unit-its-numbers-fit")));
    }

    /** By the numbers alone. */
    private static Optional<ColumnPlan> guess(Table t, int i) {
        // A channel that is logged more seldom than the rest is judged by the cells it fills.
        List<String> filled = t.texts(i).stream().filter(s -> !Cells.blank(s)).toList();
        double[] v = filled.stream().mapToDouble(t.style(i)::number).toArray();
        String title = i < t.titles().size() ? t.titles().get(i).trim() : message("plan.column", i + 1).toString();
        if (Arrays.stream(v).filter(x -> !Double.isNaN(x)).count() < CLEAR_SHARE * v.length || v.length < 3) {
            boolean clock = !filled.isEmpty() && filled.stream().filter(Cells::clock).count() > CLEAR_SHARE * v.length;
            return clock ? Optional.of(guessed(i, title, Channel.TIME, "s", message("because.clock-times")))
                    : Optional.empty();
        }
        double[] all = t.spreadNumbers(i);
        double middle = middle(all);
        double top = high(all);
        double low = low(all);
        if (rises(v)) {
            return Optional.of(guessed(i, title, Channel.TIME, v.length > 1 && v[1] - v[0] >= 5 ? "ms" : "s",
                    message("because.numbers-that-rise")));
        }
        if (middle > 9.5 && middle < 18 && low > 7 && top < 26) {
            return Optional.of(guessed(i, title, Channel.AFR, "", message("because.numbers-around-14")));
        }
        if (middle > 0.65 && middle < 1.3 && low > 0.4 && top < 2.6) {
            return Optional.of(guessed(i, title, Channel.LAMBDA, "", message("because.numbers-around-1")));
        }
        if (middle > 500 && top < 12000 && top > 1.2 * low) {
            return Optional.of(guessed(i, title, Channel.RPM, "rpm", message("because.hundreds-and-thousands")));
        }
        if (low >= -1 && top > 8 && top <= 30) {
            return Optional.of(guessed(i, title, Channel.VACUUM, "inhg", message("because.numbers-up-to-30")));
        }
        return low >= 8 && top > 60 && top < 115 ? Optional.of(guessed(i, title, Channel.MAP, "kpa",
                message("because.numbers-up-to-a-barometer"))) : Optional.empty();
    }

    private static ColumnPlan guessed(int i, String title, Channel c, String unit, Message because) {
        Channel.Unit u = c.unit(unit).orElseThrow();
        return new ColumnPlan(i, title, c, u.name(), new Scale.Linear(u.factor(), u.shift()),
                ColumnPlan.Certainty.GUESS, because);
    }

    private static boolean rises(double[] v) {
        for (int k = 1; k < v.length; k++) {
            if (!(v[k] > v[k - 1])) {
                return false;
            }
        }
        return true;
    }

    private static double middle(double[] v) {
        return Quantile.of(v, 0.5);
    }

    private static double high(double[] v) {
        return Quantile.of(v, 0.995);
    }

    private static double low(double[] v) {
        return Quantile.of(v, 0.005);
    }
}
