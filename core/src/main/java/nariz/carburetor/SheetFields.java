package nariz.carburetor;

import static nariz.text.Message.message;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import nariz.text.Message;
import nariz.units.Dimension;
import nariz.units.Quantity;

/** One object of a build sheet being read: takes fields by name, fills defaults, and complains with the place. */
public final class SheetFields {
    private final String source;
    private final String path;
    private final LocatedJson here;
    private final Map<String, LocatedJson> fields;
    private final List<String> assumed;
    private final Set<String> known = new LinkedHashSet<>();

    SheetFields(String source, String path, LocatedJson here, List<String> assumed) {
        this.source = source;
        this.path = path;
        this.here = here;
        this.assumed = assumed;
        this.fields = objectOf(here);
    }

    @SuppressWarnings("unchecked")
    private Map<String, LocatedJson> objectOf(LocatedJson json) {
        if (json.value() instanceof Map<?, ?> map) {
            return (Map<String, LocatedJson>) map;
        }
        throw new InputProblem(source, json.line(), json.column(), path, json.words(),
                message("problem.write-an-object-in-braces-here"));
    }

    String path(String name) {
        return path.isEmpty() ? name : path + "." + name;
    }

    Optional<LocatedJson> take(String name) {
        known.add(name);
        return Optional.ofNullable(fields.get(name));
    }

    /**
     * A nested object; an absent one reads as empty, so that its fields take their defaults.
     *
     * @param name field
     * @return its fields
     */
    public SheetFields object(String name) {
        LocatedJson json = take(name).orElse(new LocatedJson(Map.of(), here.line(), here.column()));
        return new SheetFields(source, path(name), json, assumed);
    }

    /**
     * Whether a field is written.
     *
     * @param name field
     * @return true when it stands on the sheet
     */
    public boolean has(String name) {
        return take(name).isPresent();
    }

    /**
     * A problem with a field.
     *
     * @param name field
     * @param wanted what to write instead
     * @return the problem with its place, to be thrown
     */
    public InputProblem problem(String name, Message wanted) {
        LocatedJson at = fields.get(name);
        if (at == null) {
            return new InputProblem(source, here.line(), here.column(), path(name), message("problem.nothing"), wanted);
        }
        return new InputProblem(source, at.line(), at.column(), path(name), at.words(), wanted);
    }

    /**
     * A marked quantity such as "59 thou".
     *
     * @param name field
     * @param dimension what it measures
     * @param min least SI value
     * @param max greatest SI value
     * @param example how it could be written, for messages
     * @param fallback default, listed as assumed when used; empty when the field is needed
     * @return SI value
     */
    public double quantity(String name, Dimension dimension, double min, double max, String example, String fallback) {
        Optional<LocatedJson> json = take(name);
        if (json.isEmpty()) {
            if (fallback.isEmpty()) {
                throw problem(name, message("problem.this-field-is-needed-write-for", example));
            }
            assumed.add(path(name) + " = " + fallback);
            return Quantity.parse(fallback, dimension).orElseThrow().si();
        }
        if (!(json.get().value() instanceof String text)) {
            throw problem(name, message("problem.write-the-number-with-its-unit", example, dimension.choices()));
        }
        Quantity q = Quantity.parse(text, dimension).orElseThrow(() -> problem(name,
                message("problem.write-a-number-and-a-unit", example, dimension.choices())));
        if (!(q.si() >= min && q.si() <= max)) {
            throw problem(name, message("problem.that-is-outside-what-can-exist", example));
        }
        return q.si();
    }

    /**
     * What several alike are set to: one quantity for all, or a list with one for each.
     *
     * @param name field
     * @param count how many there are
     * @param dimension what it measures
     * @param min least SI value
     * @param max greatest SI value
     * @param example how one could be written, for messages
     * @param fallback default, listed as assumed when used
     * @return SI values: one, or {@code count}
     */
    public List<Double> each(String name, int count, Dimension dimension, double min, double max, String example,
            String fallback) {
        Optional<LocatedJson> json = take(name);
        if (json.isEmpty() || !(json.get().value() instanceof List<?> list)) {
            return List.of(quantity(name, dimension, min, max, example, fallback));
        }
        if (list.size() != count) {
            throw problem(name, message("problem.write-one-or-as-many-as", example, count));
        }
        List<Double> out = new ArrayList<>();
        for (Object one : list) {
            SheetFields f = new SheetFields(source, path, new LocatedJson(Map.of(name, one), json.get().line(),
                    json.get().column()), assumed);
            out.add(f.quantity(name, dimension, min, max, example, ""));
        }
        return out;
    }

    /**
     * A list of quantities.
     *
     * @param name field
     * @param fewest how many there are at least
     * @param most how many there are at most
     * @param dimension what they measure
     * @param min least SI value
     * @param max greatest SI value
     * @param example how one could be written, for messages
     * @param fallback default, listed as assumed when used
     * @return SI values
     */
    public List<Double> list(String name, int fewest, int most, Dimension dimension, double min, double max,
            String example, List<String> fallback) {
        Optional<LocatedJson> json = take(name);
        if (json.isEmpty()) {
            assumed.add(path(name) + " = " + String.join("; ", fallback));
            return fallback.stream().map(t -> Quantity.parse(t, dimension).orElseThrow().si()).toList();
        }
        List<Double> out = new ArrayList<>();
        for (LocatedJson one : items(name, fewest, most)) {
            SheetFields f = new SheetFields(source, path, new LocatedJson(Map.of(name, one), one.line(), one.column()),
                    assumed);
            out.add(f.quantity(name, dimension, min, max, example, ""));
        }
        return out;
    }

    /**
     * Lists a default that was used.
     *
     * @param name field
     * @param value what was assumed
     */
    public void assume(String name, String value) {
        assumed.add(path(name) + " = " + value);
    }

    /**
     * A list of objects.
     *
     * @param name field
     * @param most how many there are at most
     * @return their fields, each to be asked and then closed with {@link #noOthers}; empty where the list is absent
     */
    public List<SheetFields> objects(String name, int most) {
        if (take(name).isEmpty()) {
            return List.of();
        }
        List<SheetFields> out = new ArrayList<>();
        for (LocatedJson one : items(name, 1, most)) {
            out.add(new SheetFields(source, path(name) + "[" + (out.size() + 1) + "]", one, assumed));
        }
        return out;
    }

    private List<LocatedJson> items(String name, int fewest, int most) {
        Optional<LocatedJson> json = take(name);
        if (json.isPresent() && json.get().value() instanceof List<?> list && list.size() >= fewest
                && list.size() <= most) {
            return list.stream().map(LocatedJson.class::cast).toList();
        }
        throw problem(name, message("problem.write-a-list-of", fewest, most));
    }

    /**
     * As {@link #quantity}, and also the word "plugged" for 0.
     *
     * @param name field
     * @param dimension what it measures
     * @param min least SI value
     * @param max greatest SI value
     * @param example how it could be written, for messages
     * @param fallback default, listed as assumed when used; empty when nothing written means plugged
     * @return SI value
     */
    public double quantityOrPlugged(String name, Dimension dimension, double min, double max, String example,
            String fallback) {
        boolean plugged = take(name).map(LocatedJson::value).filter("plugged"::equals).isPresent();
        if (plugged || (fallback.isEmpty() && !has(name))) {
            return 0.0;
        }
        return quantity(name, dimension, min, max, example, fallback);
    }

    /**
     * A bare number.
     *
     * @param name field
     * @param min least
     * @param max greatest
     * @param fallback default, listed as assumed when used
     * @return the number
     */
    public double number(String name, double min, double max, double fallback) {
        Optional<LocatedJson> json = take(name);
        if (json.isEmpty()) {
            assumed.add(path(name) + " = " + Quantity.trim(fallback, 3));
            return fallback;
        }
        if (json.get().value() instanceof Double d && d >= min && d <= max) {
            return d;
        }
        throw problem(name, message("problem.write-a-bare-number-from-to", Quantity.trim(min, 3), Quantity.trim(max,
                3)));
    }

    /**
     * A whole number.
     *
     * @param name field
     * @param min least
     * @param max greatest
     * @param fallback default, listed as assumed when used
     * @return the number
     */
    public int whole(String name, int min, int max, int fallback) {
        double d = number(name, min, max, fallback);
        if (d != Math.rint(d)) {
            throw problem(name, message("problem.write-a-whole-number-from-to", min, max));
        }
        return (int) d;
    }

    /**
     * One of a list of words.
     *
     * @param name field
     * @param choices words it may be
     * @param fallback default, listed as assumed when used; empty when the field is needed
     * @return the word
     */
    public String choice(String name, List<String> choices, String fallback) {
        Optional<LocatedJson> json = take(name);
        if (json.isEmpty() && !fallback.isEmpty()) {
            assumed.add(path(name) + " = " + fallback);
            return fallback;
        }
        if (json.isPresent() && json.get().value() instanceof String s && choices.contains(s)) {
            return s;
        }
        throw problem(name, message("problem.write-one-of", String.join(", ", choices)));
    }

    /**
     * Free text.
     *
     * @param name field
     * @param fallback what it is where nothing is written
     * @return the text
     * @throws InputProblem where something else than text stands there
     */
    public String text(String name, String fallback) {
        Optional<LocatedJson> json = take(name);
        if (json.isEmpty()) {
            return fallback;
        }
        if (json.get().value() instanceof String s) {
            return s;
        }
        throw problem(name, message("problem.write-text-in-quotes"));
    }

    /**
     * Complains about the first field nobody asked for: a misspelt name must not turn into a silent default.
     */
    public void noOthers() {
        for (Map.Entry<String, LocatedJson> e : fields.entrySet()) {
            if (!known.contains(e.getKey())) {
                String below = path(e.getKey()).replaceFirst("^carburetor\\.", "");
                Optional<Family> other = Families.all().stream().filter(f -> f.fields().stream().map(x -> x.path()
                        .replace("[]", "") + ".").anyMatch(x -> x.startsWith(below + "."))).findFirst();
                if (other.isPresent() && path(e.getKey()).startsWith("carburetor.")) {
                    throw problem(e.getKey(), message("problem.field-of-another-family", other.get().label(),
                            String.join(", ", known)));
                }
                throw new InputProblem(source, e.getValue().line(), e.getValue().column(), path(e.getKey()),
                        message("problem.a-field-that-is-not-known"), message("problem.known-here", String.join(", ",
                        known)));
            }
        }
    }
}
