package nariz.log;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What a header names, by the words of {@link HeaderWords} and the unit that stands with them: every way to read it is
 * tried, and the one that leaves the fewest words unexplained is taken.
 */
final class HeaderMatch {
    static final List<Channel> MIXTURE = List.of(Channel.AFR, Channel.AFR_2, Channel.LAMBDA, Channel.LAMBDA_2);
    private static final List<Channel> BY_UNIT_ALONE = List.of(Channel.RPM, Channel.SPEED);
    private static final Set<String> EVENT_WORDS = Set.of("driver", "user", "event", "marker", "key");

    private HeaderMatch() {
    }

    /** What a header says, by its best reading. */
    record Match(@Nullable Channel channel, String other, Header header, int unknown, int words, int letters,
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
        // Where a channel explains every word, one word more is needed to make it something else.
        int fewest = out.stream().anyMatch(m -> m.unknown() == 0) ? 2 : 1;
        HeaderWords.OTHERS.forEach((k, phrases) -> phrase(h, phrases).filter(p -> p.words().size() >= fewest).ifPresent(
                p -> out.add(new Match(null, k, h, unexplained(h, p), p.words().size(), p.letters(), false, false))));
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

    static String below(Table t, int i) {
        return i < t.units().size() ? t.units().get(i) : "";
    }

    static Optional<Match> match(Table t, int i) {
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
}
