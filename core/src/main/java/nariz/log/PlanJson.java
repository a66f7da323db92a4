package nariz.log;

import static nariz.text.Message.message;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import nariz.carburetor.InputProblem;
import nariz.carburetor.LocatedJson;
import nariz.text.Message;
import nariz.text.MessageJson;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.json.JsonMapper;

/**
 * A plan as JSON, format {@code nariz-profile/1} (docs/formats/profile.md): what the columns of one source mean, to be
 * used again for its next file.
 */
public final class PlanJson {
    /** The format's name and version. */
    public static final String FORMAT = "nariz-profile/1";

    private PlanJson() {
    }

    /**
     * Writes a plan.
     *
     * @param plan plan
     * @return indented JSON, ends in a newline
     */
    public static String write(Plan plan) {
        Map<String, Object> root = new LinkedHashMap<>();
        root.put("format", FORMAT);
        root.put("signature", plan.signature());
        root.put("rateHz", plan.rateHz());
        root.put("events", plan.events() + 1);
        List<Map<String, Object>> columns = new ArrayList<>();
        plan.columns().forEach(c -> columns.add(column(c)));
        root.put("columns", columns);
        if (!plan.unread().isEmpty()) {
            root.put("unread", plan.unread().stream().map(PlanJson::unread).toList());
        }
        return JsonMapper.builder().build().writerWithDefaultPrettyPrinter().writeValueAsString(root) + "\n";
    }

    private static Map<String, Object> unread(UnreadColumn u) {
        Map<String, Object> m = new LinkedHashMap<>();
        m.put("column", u.index() + 1);
        m.put("title", u.title());
        m.put("looksLike", MessageJson.of(u.looksLike()));
        u.as().ifPresent(c -> m.put("as", column(c)));
        return m;
    }

    private static Map<String, Object> column(ColumnPlan c) {
        Map<String, Object> m = new LinkedHashMap<>();
        m.put("column", c.index() + 1);
        m.put("title", c.title());
        m.put("channel", c.channel().key());
        m.put("unit", c.unit());
        switch (c.scale()) {
            case Scale.Linear l -> {
                m.put("factor", l.factor());
                m.put("shift", l.shift());
            }
            case Scale.Reciprocal r -> m.put("reciprocal", r.factor());
            case Scale.Curve k -> {
                m.put("from", k.from());
                m.put("to", k.to());
            }
        }
        return m;
    }

    /**
     * Reads a plan.
     *
     * @param source name for messages
     * @param json text
     * @return the plan; every column is sure, since a person kept it
     * @throws InputProblem when it cannot be used
     */
    public static Plan parse(String source, String json) {
        Fields root = new Fields(source, LocatedJson.parse(source, json));
        if (!FORMAT.equals(root.text("format", ""))) {
            throw root.problem("format", message("problem.write-format-other-versions-are-not", FORMAT));
        }
        List<ColumnPlan> columns = new ArrayList<>();
        for (LocatedJson item : root.list("columns")) {
            ColumnPlan c = column(new Fields(source, item));
            if (columns.stream().anyMatch(o -> o.channel() == c.channel()
                    || (o.index() == c.index() && c.index() >= 0))) {
                throw new InputProblem(source, item.line(), item.column(), "columns",
                        message("problem.column-or-channel-twice", (c.index() + 1), c.channel().key()),
                        message("problem.every-column-and-channel-comes-once"));
            }
            columns.add(c);
        }
        double rate = root.number("rateHz", 0.0);
        if (rate < 0 || rate > Plan.FASTEST_HZ) {
            throw root.problem("rateHz", message("problem.samples-a-second-0-to-100000"));
        }
        List<UnreadColumn> unread = new ArrayList<>();
        if (root.has("unread")) {
            root.list("unread").forEach(u -> unread.add(unread(new Fields(source, u))));
        }
        return new Plan(columns, rate, (int) root.number("events", 0) - 1, root.text("signature", ""), unread);
    }

    private static UnreadColumn unread(Fields f) {
        LocatedJson as = f.get("as");
        LocatedJson looksLike = f.get("looksLike");
        try {
            return new UnreadColumn((int) f.number("column", 0) - 1, f.text("title", ""), as == null ? Optional.empty()
                    : Optional.of(column(new Fields(f.source(), as))), looksLike == null ? Message.NONE
                    : MessageJson.read(plain(looksLike)));
        } catch (IllegalArgumentException e) {
            throw f.problem("looksLike", message("problem.write-a-text-in-quotes"));
        }
    }

    /** Values without their places. */
    private static Object plain(LocatedJson json) {
        return switch (json.value()) {
            case Map<?, ?> m -> {
                Map<String, Object> out = new LinkedHashMap<>();
                m.forEach((k, v) -> out.put(String.valueOf(k), plain((LocatedJson) v)));
                yield out;
            }
            case List<?> l -> l.stream().map(v -> plain((LocatedJson) v)).toList();
            case Double d when d == Math.rint(d) && Math.abs(d) < Integer.MAX_VALUE -> d.intValue();
            case null -> "";
            default -> json.value();
        };
    }

    private static ColumnPlan column(Fields f) {
        Channel channel = Channel.ofKey(f.text("channel", "")).orElseThrow(() -> f.problem("channel",
                message("problem.one-of", String.join(", ",
                java.util.Arrays.stream(Channel.values()).map(Channel::key).toList()))));
        int index = (int) f.number("column", -1) - 1;
        if (index < ColumnPlan.ELSEWHERE || index > 4096) {
            throw f.problem("column", message("problem.columns-are-counted-from-1-0"));
        }
        String unit = f.text("unit", "");
        return new ColumnPlan(index, f.text("title", channel.label().toString()), channel, unit, scale(f, channel,
                unit),
                ColumnPlan.Certainty.SURE, message("because.the-profile-says-so"));
    }

    private static Scale scale(Fields f, Channel channel, String unit) {
        if (f.has("from") || f.has("to")) {
            try {
                return new Scale.Curve(f.numbers("from"), f.numbers("to"));
            } catch (IllegalArgumentException e) {
                throw f.problem("from", message("problem.give-rising-numbers-under-from-and",
                        String.valueOf(e.getMessage())));
            }
        }
        if (f.has("reciprocal")) {
            return new Scale.Reciprocal(f.number("reciprocal", 1.0));
        }
        if (f.has("pulsesPerTurn")) {
            return Scale.pulses(f.number("pulsesPerTurn", 3.0));
        }
        if (f.has("factor")) {
            return new Scale.Linear(f.number("factor", 1.0), f.number("shift", 0.0));
        }
        Channel.Unit u = channel.unit(unit).orElseThrow(() -> f.problem("unit",
                message("problem.one-of-or-give-factor-and", String.join(", ",
                channel.units().stream().map(Channel.Unit::name).toList()))));
        return new Scale.Linear(u.factor(), u.shift());
    }

    /** Fields of one object, each with its place. */
    private record Fields(String source, LocatedJson json) {
        Fields {
            if (!(json.value() instanceof Map<?, ?>)) {
                throw new InputProblem(source, json.line(), json.column(), "", json.words(),
                        message("problem.write-an-object"));
            }
        }

        private @Nullable LocatedJson get(String name) {
            return json.value() instanceof Map<?, ?> m ? (LocatedJson) m.get(name) : null;
        }

        boolean has(String name) {
            return get(name) != null;
        }

        InputProblem problem(String name, Message wanted) {
            LocatedJson found = get(name);
            LocatedJson at = found == null ? json : found;
            return new InputProblem(source, at.line(), at.column(), name,
                    found != null ? Message.literal(at.words()) : message("problem.nothing"), wanted);
        }

        String text(String name, String absent) {
            LocatedJson at = get(name);
            if (at == null) {
                return absent;
            }
            if (at.value() instanceof String s) {
                return s;
            }
            throw problem(name, message("problem.write-a-text-in-quotes"));
        }

        double number(String name, double absent) {
            LocatedJson at = get(name);
            if (at == null) {
                return absent;
            }
            if (at.value() instanceof Number n && Double.isFinite(n.doubleValue())) {
                return n.doubleValue();
            }
            throw problem(name, message("problem.write-a-number"));
        }

        List<LocatedJson> list(String name) {
            LocatedJson at = get(name);
            if (at != null && at.value() instanceof List<?> items) {
                return items.stream().map(i -> (LocatedJson) i).toList();
            }
            throw problem(name, message("problem.write-a-list"));
        }

        double[] numbers(String name) {
            return list(name).stream().mapToDouble(i -> i.value() instanceof Number n ? n.doubleValue() : Double.NaN)
                    .toArray();
        }
    }
}
