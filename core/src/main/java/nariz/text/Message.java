package nariz.text;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Something to tell a person, as a code with its values; {@link Wording} turns it into words of a language and units at
 * the moment of showing. Immutable; two messages are equal when codes and values are.
 *
 * <p>Values are numbers, text that came from the user (names, cells), other messages, and {@link Measure} for
 * quantities that have a unit. {@link #toString()} is English in the usual units, for logs and exceptions.
 */
public final class Message {
    private static final String LITERAL = "";
    private static final String JOINED = "+";
    /** Nothing to tell. */
    public static final Message NONE = literal("");

    private final String code;
    private final List<Object> values;

    private Message(String code, List<Object> values) {
        this.code = code;
        this.values = List.copyOf(values);
    }

    /**
     * A message with a code.
     *
     * @param code key in the bundle
     * @param values values for its places: numbers, text, messages, measures; none is null
     * @return the message
     */
    public static Message message(String code, Object... values) {
        return new Message(code, Arrays.stream(values).map(Message::plain).toList());
    }

    /** What a file can keep; anything else is text. */
    private static Object plain(@Nullable Object v) {
        return v instanceof Number || v instanceof Message || v instanceof Measure ? v : String.valueOf(v);
    }

    /**
     * Text that is the same in every language: a name, a cell of a file, a number.
     *
     * @param text the text
     * @return the message
     */
    public static Message literal(String text) {
        return new Message(LITERAL, List.of(text));
    }

    /**
     * A quantity by itself.
     *
     * @param m quantity
     * @return the message
     */
    public static Message of(Measure m) {
        return new Message(JOINED, List.of("", m));
    }

    /**
     * Messages one after the other.
     *
     * @param separator between them, the same in every language
     * @param parts messages
     * @return the message
     */
    public static Message join(String separator, List<Message> parts) {
        List<Object> all = new ArrayList<>(List.of(separator));
        all.addAll(parts);
        return new Message(JOINED, all);
    }

    /**
     * This message with something after it.
     *
     * @param more what follows at once
     * @return the message
     */
    public Message then(Message more) {
        return more.isEmpty() ? this : isEmpty() ? more : join("", List.of(this, more));
    }

    /**
     * A message as it is kept in a file.
     *
     * @param code {@link #code()}
     * @param values {@link #values()}
     * @return the message
     */
    public static Message restored(String code, List<Object> values) {
        return new Message(code, values);
    }

    /** {@return key in the bundle; empty for text as it stands, a plus sign for messages one after the other} */
    public String code() {
        return code;
    }

    /** {@return values; for joined messages the separator first} */
    public List<Object> values() {
        return values;
    }

    /** {@return whether there is nothing to tell} */
    public boolean isEmpty() {
        return equals(NONE) || (code.equals(JOINED) && values.stream().skip(1).allMatch(v -> v instanceof Message m
                && m.isEmpty()));
    }

    String in(Wording w) {
        return switch (code) {
            case LITERAL -> (String) values.getFirst();
            case JOINED -> values.stream().skip(1).map(v -> String.valueOf(shown(v, w)))
                    .collect(Collectors.joining((String) values.getFirst()));
            default -> w.pattern(code, values.stream().map(v -> shown(v, w)).toArray());
        };
    }

    private static Object shown(Object value, Wording w) {
        return switch (value) {
            case Message m -> m.in(w);
            case Measure m -> m.in(w.units());
            default -> value;
        };
    }

    @Override
    public boolean equals(Object o) {
        return o instanceof Message m && m.code.equals(code) && m.values.equals(values);
    }

    @Override
    public int hashCode() {
        return code.hashCode() + 31 * values.hashCode();
    }

    @Override
    public String toString() {
        return in(Wording.ENGLISH);
    }
}
