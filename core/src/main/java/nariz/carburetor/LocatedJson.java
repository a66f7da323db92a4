package nariz.carburetor;

import static nariz.text.Message.message;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JacksonException;
import tools.jackson.core.JsonParser;
import tools.jackson.core.JsonToken;
import tools.jackson.core.ObjectReadContext;
import tools.jackson.core.TokenStreamLocation;
import tools.jackson.core.json.JsonFactory;

/**
 * JSON as a tree whose every value remembers where it stood, so that a complaint about a value (not only about the
 * syntax) can name line and column. Jackson's own tree forgets positions.
 *
 * @param value a {@code Map<String, LocatedJson>}, a {@code List<LocatedJson>}, String, Double, Boolean or null
 * @param line line from 1
 * @param column character column from 1
 */
public record LocatedJson(@Nullable Object value, int line, int column) {

    /**
     * Parses one document.
     *
     * @param source file name for messages
     * @param text the document
     * @return its root
     * @throws InputProblem on broken syntax or a key given twice, with line and column
     */
    public static LocatedJson parse(String source, String text) {
        String json = text.startsWith("\uFEFF") ? text.substring(1) : text;
        try (JsonParser p = new JsonFactory().createParser(ObjectReadContext.empty(), json)) {
            if (p.nextToken() == null) {
                throw new InputProblem(source, 1, 1, "", message("problem.an-empty-file"),
                        message("problem.a-json-file-starts-with"));
            }
            LocatedJson root = read(source, p);
            if (p.nextToken() != null) {
                TokenStreamLocation at = p.currentTokenLocation();
                throw new InputProblem(source, at.getLineNr(), at.getColumnNr(), "",
                        message("problem.more-text-after-the-end"),
                        message("problem.keep-one-json-object-in-the"));
            }
            return root;
        } catch (JacksonException e) {
            TokenStreamLocation at = e.getLocation();
            int line = at == null ? 1 : Math.max(1, at.getLineNr());
            int column = at == null ? 1 : Math.max(1, at.getColumnNr());
            throw new InputProblem(source, line, column, "", message("problem.text-that-is-not-json", reason(e)),
                    message("problem.check-for-a-missing-comma-quote"));
        }
    }

    private static String reason(JacksonException e) {
        String s = e.getOriginalMessage();
        s = s.replaceAll("\\s+", " ").replaceAll("\\(start marker.*", "").trim();
        return s.length() > 120 ? s.substring(0, 120) + "..." : s;
    }

    private static LocatedJson read(String source, JsonParser p) {
        TokenStreamLocation at = p.currentTokenLocation();
        @Nullable Object value = switch (p.currentToken()) {
            case START_OBJECT -> readObject(source, p);
            case START_ARRAY -> readArray(source, p);
            case VALUE_STRING -> p.getString();
            case VALUE_NUMBER_INT, VALUE_NUMBER_FLOAT -> Double.valueOf(p.getDoubleValue());
            case VALUE_TRUE -> true;
            case VALUE_FALSE -> false;
            default -> null;
        };
        return new LocatedJson(value, at.getLineNr(), at.getColumnNr());
    }

    private static Map<String, LocatedJson> readObject(String source, JsonParser p) {
        Map<String, LocatedJson> map = new LinkedHashMap<>();
        while (p.nextToken() == JsonToken.PROPERTY_NAME) {
            String key = p.currentName();
            TokenStreamLocation at = p.currentTokenLocation();
            p.nextToken();
            if (map.put(key, read(source, p)) != null) {
                throw new InputProblem(source, at.getLineNr(), at.getColumnNr(), key,
                        message("problem.this-field-twice"),
                        message("problem.keep-one-of-the-two-and"));
            }
        }
        return map;
    }

    private static List<LocatedJson> readArray(String source, JsonParser p) {
        List<LocatedJson> list = new ArrayList<>();
        while (p.nextToken() != JsonToken.END_ARRAY) {
            list.add(read(source, p));
        }
        return list;
    }

    /** {@return the value in words, for messages} */
    public String words() {
        return switch (value) {
            case null -> "null";
            case Map<?, ?> m -> "an object";
            case List<?> l -> "a list";
            case String s -> '"' + (s.length() > 40 ? s.substring(0, 40) + "..." : s) + '"';
            case Double d when d == Math.rint(d) && Math.abs(d) < 1e15 -> Long.toString(d.longValue());
            default -> value.toString();
        };
    }
}
