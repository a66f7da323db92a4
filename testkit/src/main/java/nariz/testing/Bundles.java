package nariz.testing;

import java.io.IOException;
import java.io.Reader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Properties;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/** Looks a module's resource bundles over: what code asks for is there, and every language has all of it. */
public final class Bundles {
    private static final Pattern ASKED = Pattern.compile("(?:say|message)\\(\\s*\"([a-z0-9.-]+)\"\\s*[,)]");
    private static final Pattern PLACE = Pattern.compile("%(?:(\\d)\\$)?[-+#0-9.,]*[a-zA-Z]");

    /** Words that nearly every English sentence of the program has one of, and no Spanish one. */
    public static final Pattern ENGLISH = Pattern.compile("(?i)\\b(the|and|found|check|write|this|with|where|line|is|"
            + "are|of|needed|look|keep|export|column|reads|rich|lean|change|from|primary|idle|feed|"
            + "jets?|bleeds?|screws?|valves?|restrictions?|transfer|cruise|load)\\b");

    private Bundles() {
    }

    /**
     * A bundle.
     *
     * @param file properties file, UTF-8
     * @return its text by key
     * @throws IOException when it cannot be read
     */
    public static Properties of(Path file) throws IOException {
        Properties p = new Properties();
        try (Reader r = Files.newBufferedReader(file, StandardCharsets.UTF_8)) {
            p.load(r);
        }
        // A text that goes with a count is asked for without its form.
        for (String key : p.stringPropertyNames()) {
            if (key.endsWith(".other")) {
                p.setProperty(key.substring(0, key.length() - ".other".length()), p.getProperty(key));
            }
        }
        return p;
    }

    /**
     * Keys that code names in whole.
     *
     * @param sources root of the sources
     * @return keys, sorted
     * @throws IOException when they cannot be read
     */
    public static Set<String> asked(Path sources) throws IOException {
        Set<String> out = new TreeSet<>();
        try (Stream<Path> all = Files.walk(sources)) {
            for (Path p : all.filter(f -> f.toString().endsWith(".java")).toList()) {
                Matcher m = ASKED.matcher(Files.readString(p));
                while (m.find()) {
                    out.add(m.group(1));
                }
            }
        }
        return out;
    }

    /**
     * What is wrong with a translation.
     *
     * @param base the base language
     * @param other another language
     * @return keys that are missing, too many or whose places for values differ, with what is wrong
     */
    public static List<String> faults(Properties base, Properties other) {
        List<String> out = new ArrayList<>();
        for (String key : new TreeSet<>(base.stringPropertyNames())) {
            String there = other.getProperty(key);
            if (there == null) {
                out.add(key + " is missing");
            } else if (!places(base.getProperty(key)).equals(places(there))) {
                out.add(key + " has other places for values: " + places(base.getProperty(key)) + ", " + places(there));
            } else if (there.isBlank() && !base.getProperty(key).matches("an? ")) {
                out.add(key + " is empty");
            }
        }
        other.stringPropertyNames().stream().filter(k -> !base.containsKey(k)).sorted().forEach(k -> out.add(k
                + " is asked for by nobody"));
        return out;
    }

    /** Conversions in the order of the values they take. */
    private static List<String> places(String text) {
        TreeSet<String> out = new TreeSet<>();
        Matcher m = PLACE.matcher(text.replace("%%", ""));
        int next = 1;
        while (m.find()) {
            // A blank after a per cent sign is text of a line that takes no values.
            int at = m.group(1) == null ? next++ : Integer.parseInt(m.group(1));
            out.add(at + m.group().replaceAll("\\d\\$", ""));
        }
        return List.copyOf(out);
    }
}
