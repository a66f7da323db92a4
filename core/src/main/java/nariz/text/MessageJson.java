package nariz.text;

import static nariz.text.Message.literal;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * A message as a tree of maps, lists, texts and numbers, to be kept in a file and told in the language of whoever reads
 * it: {@code {"code": ..., "values": [...]}}, a quantity among the values as {@code {"measure": ..., "si": ...}}.
 */
public final class MessageJson {
    private MessageJson() {
    }

    /**
     * Takes a message apart.
     *
     * @param m message
     * @return its tree, fields always in the same order
     */
    public static Map<String, Object> of(Message m) {
        Map<String, Object> out = new LinkedHashMap<>();
        out.put("code", m.code());
        out.put("values", m.values().stream().map(v -> switch (v) {
            case Message inner -> of(inner);
            case Measure q -> measure(q);
            default -> v;
        }).toList());
        return out;
    }

    /** Two fields, always in this order: what is written twice is the same twice. */
    private static Map<String, Object> measure(Measure q) {
        Map<String, Object> m = new LinkedHashMap<>();
        m.put("measure", q.kind().name());
        m.put("si", q.si());
        return m;
    }

    /**
     * Puts a message together.
     *
     * @param json tree from {@link #of}; anything else is taken as text that stands as it is
     * @return the message
     * @throws IllegalArgumentException when it has a code that cannot be put into words
     */
    public static Message read(Object json) {
        if (!(json instanceof Map<?, ?> m)) {
            return literal(String.valueOf(json));
        }
        Message read = inner(m);
        try {
            Wording.ENGLISH.text(read);
        } catch (RuntimeException e) {
            throw new IllegalArgumentException("no such message: " + m.get("code"), e);
        }
        return read;
    }

    private static Message inner(Map<?, ?> m) {
        List<Object> values = new ArrayList<>();
        if (!(m.get("values") instanceof List<?> list) || !(m.get("code") instanceof String code)) {
            throw new IllegalArgumentException("a message without code or values");
        }
        for (Object v : list) {
            if (!(v instanceof Map<?, ?> map)) {
                values.add(v);
            } else if (map.get("measure") instanceof String kind && map.get("si") instanceof Number si) {
                values.add(new Measure(Measure.Kind.valueOf(kind), si.doubleValue()));
            } else {
                values.add(inner(map));
            }
        }
        return Message.restored(code, values);
    }
}
