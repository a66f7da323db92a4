package nariz.log;

import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.text.Normalizer;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Properties;
import java.util.Set;
import java.util.regex.Pattern;

/**
 * The words that people name columns with, from {@code header-words.properties}, and the way a header is taken apart.
 */
final class HeaderWords {
    private static final Properties WORDS = properties("header-words.properties");
    private static final Pattern PARTS = Pattern.compile("[a-z]+|[0-9]+");
    /** Shorter words are found in too many others to take a compound apart by them. */
    private static final int SHORTEST_PART = 3;
    /** A header longer than this is no header. */
    private static final int LONGEST = 200;

    static final Map<Channel, List<Phrase>> CHANNELS = byChannel("channel.");
    static final Map<Channel, List<Phrase>> STAND_INS = byChannel("stand-in.");
    static final Map<String, List<Phrase>> OTHERS = others();
    static final List<Phrase> SENSOR = phrases("sensor");
    static final List<Phrase> RATIO = phrases("ratio");
    static final List<Phrase> EVENT = phrases("event");
    static final Set<String> FUEL = words("fuel");
    static final Set<String> FIRST = words("first");
    static final Set<String> SECOND = words("second");
    static final Set<String> NOT_READ = words("not-read");
    static final Set<String> ANY = words("qualifier.any");
    private static final Map<Channel, Set<String>> QUALIFIERS = qualifiers();
    private static final Set<String> VOCABULARY = vocabulary();

    private HeaderWords() {
    }

    /** Words that name something when all of them stand in a header. */
    record Phrase(List<String> words) {
        int letters() {
            return words.stream().mapToInt(String::length).sum();
        }
    }

    static Properties properties(String name) {
        try (InputStream in = Objects.requireNonNull(HeaderWords.class.getResourceAsStream(name), name)) {
            Properties p = new Properties();
            p.load(new InputStreamReader(in, StandardCharsets.UTF_8));
            return p;
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static List<Phrase> phrases(String key) {
        return Arrays.stream(WORDS.getProperty(key, "").split(",")).map(String::trim).filter(s -> !s.isEmpty())
                .map(s -> new Phrase(List.of(s.split("\\s+")))).sorted(Comparator.comparingInt((Phrase p) ->
                        p.words().size()).thenComparingInt(Phrase::letters).reversed()).toList();
    }

    private static Set<String> words(String key) {
        Set<String> out = new HashSet<>();
        phrases(key).forEach(p -> out.addAll(p.words()));
        return Set.copyOf(out);
    }

    private static Map<Channel, List<Phrase>> byChannel(String prefix) {
        Map<Channel, List<Phrase>> out = new EnumMap<>(Channel.class);
        for (Channel c : Channel.values()) {
            List<Phrase> p = phrases(prefix + c.key());
            if (!p.isEmpty()) {
                out.put(c, p);
            }
        }
        return out;
    }

    private static Map<String, List<Phrase>> others() {
        Map<String, List<Phrase>> out = new LinkedHashMap<>();
        WORDS.stringPropertyNames().stream().filter(k -> k.startsWith("other.")).sorted().forEach(k -> out.put(k,
                phrases(k)));
        return out;
    }

    private static Set<String> vocabulary() {
        Set<String> out = new HashSet<>();
        WORDS.stringPropertyNames().forEach(k -> out.addAll(words(k)));
        return Set.copyOf(out);
    }

    /** Words that may stand beside those of a channel and say nothing. */
    static Set<String> qualifiers(Channel c) {
        return Objects.requireNonNull(QUALIFIERS.get(c));
    }

    private static Map<Channel, Set<String>> qualifiers() {
        Map<Channel, Set<String>> out = new EnumMap<>(Channel.class);
        for (Channel c : Channel.values()) {
            out.put(c, words("qualifier." + group(c)));
        }
        return out;
    }

    private static String group(Channel c) {
        return switch (c) {
            case AFR, AFR_2, LAMBDA, LAMBDA_2 -> "mixture";
            case COOLANT, OIL_TEMPERATURE, HEAD_TEMPERATURE -> "temperature";
            case FUEL_PRESSURE -> "pressure";
            default -> c.key();
        };
    }

    /** Lower case where wanted, without accents; letters of other alphabets as they are spelled in this one. */
    static String unaccented(String s) {
        String cut = s.length() > LONGEST ? s.substring(0, LONGEST) : s;
        return Normalizer.normalize(cut.replace("λ", "lambda").replace("Λ", "lambda").replace("ß", "ss")
                .replace("º", "°").replace("ø", "o").replace("Ø", "O").replace("œ", "oe"), Normalizer.Form.NFKD)
                .replaceAll("\\p{M}", "");
    }

    /** Words of a title: parted where its writer parted them, and compounds by the vocabulary. */
    static List<String> split(String title) {
        List<String> out = new ArrayList<>();
        String parted = unaccented(title).replaceAll("(?<=[a-z])(?=[A-Z])", " ").toLowerCase(Locale.ROOT);
        for (String run : parted.split("[^a-z0-9]+")) {
            if (VOCABULARY.contains(run)) {
                out.add(run);
            } else {
                PARTS.matcher(run).results().forEach(m -> out.addAll(compound(m.group())));
            }
        }
        return out;
    }

    /** A word taken apart into as few known ones as will do; itself where that cannot be. */
    private static List<String> compound(String word) {
        if (VOCABULARY.contains(word) || word.length() < 2 * SHORTEST_PART || word.length() > 60) {
            return List.of(word);
        }
        List<List<String>> best = new ArrayList<>(java.util.Collections.nCopies(word.length() + 1, List.of()));
        for (int end = SHORTEST_PART; end <= word.length(); end++) {
            for (int from = 0; from <= end - SHORTEST_PART; from++) {
                String part = word.substring(from, end);
                boolean reached = from == 0 || !best.get(from).isEmpty();
                if (reached && VOCABULARY.contains(part) && (best.get(end).isEmpty() || best.get(from).size() + 1
                        < best.get(end).size())) {
                    List<String> parts = new ArrayList<>(best.get(from));
                    parts.add(part);
                    best.set(end, parts);
                }
            }
        }
        return best.getLast().isEmpty() ? List.of(word) : best.getLast();
    }
}
