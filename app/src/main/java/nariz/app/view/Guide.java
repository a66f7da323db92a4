package nariz.app.view;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import nariz.text.Language;

/**
 * The user guide as it ships: sections with a name in the program, each of paragraphs. Read from the small part of
 * Markdown it is written in: a comment names the section that follows, {@code ##} is its title, an asterisk begins a
 * point of a list, double asterisks and single ones mark what stands out.
 *
 * @param sections sections in order
 */
record Guide(List<Section> sections) {
    /** Copies the list. */
    Guide {
        sections = List.copyOf(sections);
    }

    /**
     * A section.
     *
     * @param id name in the program
     * @param title title
     * @param paragraphs paragraphs; a point of a list begins with an asterisk and a blank
     */
    record Section(String id, String title, List<String> paragraphs) {
        /** Copies the list. */
        Section {
            paragraphs = List.copyOf(paragraphs);
        }

        /** Whether every word asked for is in it. */
        boolean holds(String words) {
            String all = (title + " " + String.join(" ", paragraphs)).toLowerCase(Locale.ROOT).replace("*", "");
            return List.of(words.toLowerCase(Locale.ROOT).strip().split("\\s+")).stream().allMatch(all::contains);
        }
    }

    /** A run of words in one face. */
    record Run(String text, boolean strong) {
    }

    /** The guide in a language. */
    static Guide of(Language language) {
        return parse(read("/nariz/app/guide/" + language.locale().getLanguage() + ".md"));
    }

    /** Text of a file that ships with the program. */
    static String read(String resource) {
        try (InputStream in = Guide.class.getResourceAsStream(resource)) {
            if (in == null) {
                throw new IllegalStateException("the program ships without " + resource);
            }
            return new String(in.readAllBytes(), StandardCharsets.UTF_8);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    static Guide parse(String markdown) {
        List<Section> out = new ArrayList<>();
        String id = "";
        String title = "";
        List<String> paragraphs = new ArrayList<>();
        for (String line : markdown.split("\n")) {
            if (line.startsWith("<!--")) {
                if (!title.isEmpty()) {
                    out.add(new Section(id, title, paragraphs));
                }
                id = line.replace("<!--", "").replace("-->", "").strip();
                title = "";
                paragraphs = new ArrayList<>();
            } else if (line.startsWith("## ")) {
                title = line.substring(3);
            } else if (!line.isBlank() && !line.startsWith("# ")) {
                paragraphs.add(line);
            }
        }
        out.add(new Section(id, title, paragraphs));
        return new Guide(out);
    }

    Optional<Section> of(String id) {
        return sections.stream().filter(s -> s.id().equals(id)).findFirst();
    }

    /** Words of a paragraph, split where the face changes; code keeps its marks off. */
    static List<Run> runs(String paragraph) {
        List<Run> out = new ArrayList<>();
        String rest = paragraph.startsWith("* ") ? "•  " + paragraph.substring(2) : paragraph;
        boolean strong = false;
        for (String piece : rest.replace("**", "*").replace("`", "").split("\\*")) {
            if (!piece.isEmpty()) {
                out.add(new Run(piece, strong));
            }
            strong = !strong;
        }
        return out;
    }
}
