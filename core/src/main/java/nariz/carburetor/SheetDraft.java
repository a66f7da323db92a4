package nariz.carburetor;

import static nariz.text.Message.message;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.Function;
import java.util.stream.Collectors;
import nariz.text.Message;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.json.JsonMapper;

/**
 * A build sheet that is being filled in: the text of every field, as a person writes it. What a sheet holds beside
 * these fields (notes, fuel, the manifold) is carried along. Whether it can be used is {@link BuildSheetReader}'s
 * business: a draft may be as incomplete as it likes.
 */
public final class SheetDraft {
    private static final JsonMapper MAPPER = JsonMapper.builder().build();
    private static final String EACH = ";";
    /** Marks a path step that is a list of objects. */
    private static final String ROWS = "[]";
    private static final String FAMILY = "carburetor.family";
    private static final int WRITTEN_DECIMALS = 6;
    private final Map<String, Object> root;

    /**
     * A field of the sheet.
     *
     * @param path where it stands, for example {@code engine.cam}
     * @param unit unit that a bare number is taken to be in; empty for bare numbers and words
     * @param choices words it may be; empty for anything else
     * @param several whether it usually holds several, with semicolons between
     * @param standsFor path of the list of rows that what is stamped on the part stands for; empty for anything else
     */
    public record Field(String path, String unit, List<String> choices, boolean several, String standsFor) {
        /** Copies the list. */
        public Field {
            choices = List.copyOf(choices);
        }

        /**
         * A field that holds a bare number.
         *
         * @param path where it stands
         * @return the field
         */
        public static Field bare(String path) {
            return new Field(path, "", List.of(), false, "");
        }

        /**
         * A field that holds a quantity.
         *
         * @param path where it stands
         * @param unit unit that a bare number is taken to be in
         * @return the field
         */
        public static Field in(String path, String unit) {
            return new Field(path, unit, List.of(), false, "");
        }

        /**
         * A field that holds one of several words.
         *
         * @param path where it stands
         * @param choices the words
         * @return the field
         */
        public static Field of(String path, List<String> choices) {
            return new Field(path, "", choices, false, "");
        }

        /**
         * A field of every object of a list: all of them in one place, semicolons between.
         *
         * @param list path of the list
         * @param name the field in each object
         * @param unit unit that a bare number is taken to be in
         * @return the field
         */
        public static Field rows(String list, String name, String unit) {
            return new Field(list + ROWS + "." + name, unit, List.of(), true, "");
        }

        /**
         * A field that holds several quantities, semicolons between.
         *
         * @param path where it stands
         * @param unit unit that bare numbers are taken to be in
         * @return the field
         */
        public static Field each(String path, String unit) {
            return new Field(path, unit, List.of(), true, "");
        }

        /**
         * A field that holds what is stamped on a part whose rows of holes stand in a list.
         *
         * @param path where it stands
         * @param list path of the list
         * @return the field
         */
        public static Field stamped(String path, String list) {
            return new Field(path, "", List.of(), false, list);
        }

        private Field below(String group) {
            return new Field(group + path, unit, choices, several, standsFor.isEmpty() ? "" : group + standsFor);
        }

        /** {@return the name for people} */
        public Message label() {
            return Assumption.label(path);
        }
    }

    private SheetDraft(Map<String, Object> root) {
        this.root = root;
    }

    /** {@return a draft in which nothing is filled in but the family that stands first} */
    public static SheetDraft blank() {
        SheetDraft d = new SheetDraft(new LinkedHashMap<>());
        d.root.put("format", BuildSheetReader.FORMAT);
        d.set(FAMILY, Families.all().getFirst().key());
        return d;
    }

    /**
     * A draft from a sheet.
     *
     * @param source name for messages
     * @param json the sheet; its values need not make sense
     * @return the draft
     * @throws InputProblem when it is not JSON, or not an object
     */
    public static SheetDraft of(String source, String json) {
        LocatedJson tree = LocatedJson.parse(source, json);
        if (!(tree.value() instanceof Map<?, ?>)) {
            throw new InputProblem(source, tree.line(), tree.column(), "", tree.words(),
                    message("problem.a-json-file-starts-with"));
        }
        SheetDraft d = new SheetDraft(object(tree.value()));
        d.root.put("format", BuildSheetReader.FORMAT);
        return d;
    }

    private static Map<String, Object> object(@Nullable Object json) {
        Map<String, Object> out = new LinkedHashMap<>();
        if (!(json instanceof Map<?, ?> fields)) {
            return out;
        }
        fields.forEach((k, v) -> out.put(String.valueOf(k), plain(((LocatedJson) v).value())));
        return out;
    }

    private static Object plain(@Nullable Object value) {
        return switch (value) {
            case Map<?, ?> m -> object(m);
            case List<?> l -> l.stream().map(v -> plain(((LocatedJson) v).value())).toList();
            case Double n -> whole(n);
            case null -> "";
            default -> value;
        };
    }

    private static Number whole(double n) {
        return n == Math.rint(n) && Math.abs(n) < 1e9 ? (Number) (int) n : (Number) n;
    }

    /**
     * The fields there are for the family written in the sheet, in the order in which a person would fill them in.
     *
     * @return fields; those of no use to the family are left out
     */
    public List<Field> fields() {
        List<Field> out = new ArrayList<>();
        out.add(Field.bare("name"));
        for (Field f : List.of(Field.in("displacement", "L"), Field.bare("cylinders"), Field.of("cam",
                BuildSheetReader.CAMS), Field.of("advance", BuildSheetReader.ADVANCES), Field.of("transmission",
                BuildSheetReader.TRANSMISSIONS), Field.in("idleSpeed", "rpm"), Field.in("redline", "rpm"),
                Field.bare("compression"))) {
            out.add(f.below("engine."));
        }
        out.add(Field.in("ambient.pressure", "kPa"));
        out.add(Field.in("ambient.temperature", "C"));
        out.add(Field.of(FAMILY, Families.keys()));
        family().fields().forEach(f -> out.add(f.below("carburetor.")));
        out.add(Field.of("targets.from", BuildSheetReader.STARTING_POINTS));
        for (String running : List.of("idle", "light", "moderate", "full")) {
            out.add(Field.in("targets." + running, "lambda"));
        }
        return out;
    }

    /** {@return stages of the family written in the sheet} */
    public List<Stage> stages() {
        return family().stages();
    }

    private Family family() {
        return Families.ofKey(get(FAMILY)).orElse(Families.all().getFirst());
    }

    /**
     * Text of a field.
     *
     * @param path path as in {@link Field}
     * @return what stands there, empty where nothing does
     */
    public String get(String path) {
        Object here = root;
        for (String step : path.split("\\.", -1)) {
            here = here instanceof Map<?, ?> m ? m.get(step.replace(ROWS, "")) : here instanceof List<?> rows ? rows
                    .stream().map(r -> r instanceof Map<?, ?> m ? m.get(step) : null).filter(Objects::nonNull).toList()
                    : null;
        }
        if (here instanceof List<?> each) {
            return each.stream().map(String::valueOf).collect(Collectors.joining(EACH + " "));
        }
        return here == null || here instanceof Map<?, ?> ? "" : String.valueOf(here);
    }

    /**
     * Fills a field in.
     *
     * @param path path as in {@link Field}
     * @param text what a person wrote; a decimal comma is a point, a bare number gets
     *     the field's unit, blank empties the field; several with semicolons between are a list, one for each
     */
    public void set(String path, String text) {
        String[] steps = path.split("\\.", -1);
        Map<String, Object> here = root;
        for (int i = 0; i + 1 < steps.length; i++) {
            if (steps[i].endsWith(ROWS)) {
                setRows(here, path, steps[i].replace(ROWS, ""), steps[i + 1], text);
                return;
            }
            here = inside(here, steps[i]);
        }
        String last = steps[steps.length - 1];
        if (text == null || text.isBlank()) {
            here.remove(last);
            return;
        }
        Field field = fields().stream().filter(f -> f.path().equals(path)).findFirst().orElse(Field.bare(
                path));
        if ("name".equals(path) || !field.choices().isEmpty() || !field.standsFor().isEmpty()) {
            here.put(last, text.trim());
            return;
        }
        here.put(last, text.contains(EACH) ? Arrays.stream(text.split(EACH)).filter(t -> !t.isBlank()).map(t ->
                written(field, t)).toList() : written(field, text));
    }

    /**
     * Fills in the rows of holes that what is stamped on a tube stands for.
     *
     * @param field a field of {@link Field#stamped}
     * @param chart the user's own table
     * @return whether the table has what stands in the field; nothing is changed where it has not
     */
    public boolean fill(Field field, TubeChart chart) {
        Optional<TubeChart.Tube> tube = chart.tube(get(field.path()));
        tube.ifPresent(t -> {
            fill(field, "depth", t, r -> millimetres(r.depthM()));
            fill(field, "diameter", t, r -> millimetres(r.diameterM()));
            fill(field, "holes", t, r -> String.valueOf(r.holes()));
        });
        return tube.isPresent();
    }

    private void fill(Field field, String name, TubeChart.Tube tube, Function<TubeChart.Row, String> text) {
        set(field.standsFor() + ROWS + "." + name, tube.rows().stream().map(text).collect(Collectors.joining(EACH
                + " ")));
    }

    private static String millimetres(double m) {
        return decimal(1e3 * m) + " mm";
    }

    /** One field of every object of a list; rows that nothing is left in go. */
    private void setRows(Map<String, Object> here, String path, String list, String name, @Nullable String text) {
        Field field = fields().stream().filter(f -> f.path().equals(path)).findFirst().orElse(Field.bare(
                path));
        List<String> values = text == null ? List.of() : Arrays.stream(text.split(EACH)).filter(t -> !t.isBlank())
                .toList();
        List<Map<String, Object>> rows = new ArrayList<>();
        if (here.get(list) instanceof List<?> old) {
            old.forEach(o -> rows.add(new LinkedHashMap<>(o instanceof Map<?, ?> m ? strings(m) : Map.of())));
        }
        while (rows.size() < values.size()) {
            rows.add(new LinkedHashMap<>());
        }
        for (int i = 0; i < rows.size(); i++) {
            if (i < values.size()) {
                rows.get(i).put(name, written(field, values.get(i)));
            } else {
                rows.get(i).remove(name);
            }
        }
        rows.removeIf(Map::isEmpty);
        if (rows.isEmpty()) {
            here.remove(list);
        } else {
            here.put(list, rows);
        }
    }

    private static Map<String, Object> strings(Map<?, ?> m) {
        Map<String, Object> out = new LinkedHashMap<>();
        m.forEach((k, v) -> out.put(String.valueOf(k), v));
        return out;
    }

    private static Object written(Field field, String text) {
        String points = text.trim().replaceFirst("^([-+]?[0-9]*),([0-9])", "$1.$2");
        Optional<Double> number = number(points);
        return number.isEmpty() ? points : field.unit().isEmpty() ? whole(number.get())
                : points + " " + field.unit();
    }

    private static Map<String, Object> inside(Map<String, Object> here, String step) {
        if (here.get(step) instanceof Map<?, ?> m) {
            @SuppressWarnings("unchecked")
            Map<String, Object> there = (Map<String, Object>) m;
            return there;
        }
        Map<String, Object> there = new LinkedHashMap<>();
        here.put(step, there);
        return there;
    }

    private static Optional<Double> number(String text) {
        try {
            double d = Double.parseDouble(text);
            return Double.isFinite(d) && text.matches("[-+0-9.eE]+") ? Optional.of(d) : Optional.empty();
        } catch (NumberFormatException e) {
            return Optional.empty();
        }
    }

    /**
     * Writes down a part that was fitted. Everything else stays as it was written, in the units it was written in; what
     * was only assumed, and would be assumed otherwise now, is written down as it was. Where several of a part stand
     * apart, all move as far as the part did.
     *
     * @param change the part and its new size; a stop screw, which no sheet carries, changes nothing
     * @throws InputProblem when the sheet cannot be read as it is
     */
    public void fit(PartChange change) {
        Part part = change.part();
        if (part.role() == Part.Role.IDLE_STOP) {
            return;
        }
        BuildSheet then = change.fit(BuildSheetReader.parse("", json()));
        write(part, change.side(), then);
        // What is assumed goes by what is written, as a corrector by its main jet: in the car it did not change.
        PartChange.between(then, BuildSheetReader.parse("", json())).forEach(c -> write(c.part(), c.side(), then));
        List<PartChange> left = PartChange.between(then, BuildSheetReader.parse("", json()));
        if (!left.isEmpty()) {
            throw new IllegalStateException("the sheet did not take " + change + ": " + left);
        }
    }

    private void write(Part part, Stage side, BuildSheet as) {
        List<Double> each = part.each(as.carburetor(), side);
        set("carburetor." + part.path(side), each.isEmpty() ? written(part, part.of(as.carburetor(), side))
                : each.stream().map(v -> written(part, v)).collect(Collectors.joining(EACH + " ")));
    }

    private static String written(Part part, double value) {
        if (!part.kinds().isEmpty()) {
            return part.kinds().get(Math.clamp(Math.round(value), 0, part.kinds().size() - 1));
        }
        if (part.pluggable() && value == 0.0) {
            return "plugged";
        }
        return decimal(value) + (part.unit().isEmpty() ? "" : " " + part.unit());
    }

    /** Finer than any part is made or measured. */
    private static String decimal(double value) {
        return new BigDecimal(value).setScale(WRITTEN_DECIMALS, RoundingMode.HALF_UP).stripTrailingZeros()
                .toPlainString();
    }

    /**
     * What would be assumed where nothing is filled in.
     *
     * @return value by path; empty until what the sheet needs is there and makes sense
     */
    public Map<String, String> assumed() {
        Map<String, String> out = new TreeMap<>();
        try {
            BuildSheetReader.parse("", json()).assumed().forEach(a -> out.put(a.substring(0, a.indexOf(" = ")),
                    a.substring(a.indexOf(" = ") + 3)));
        } catch (InputProblem e) {
            return Map.of();
        }
        return out;
    }

    /**
     * The sheet as it would be kept; fields that only another family has are left out.
     *
     * @return JSON, {@code nariz-build/1}
     */
    public String json() {
        SheetDraft kept = new SheetDraft(object(LocatedJson.parse("", text(root)).value()));
        List<String> own = fields().stream().map(Field::path).toList();
        for (Family other : Families.all()) {
            for (Field f : other.fields()) {
                String path = "carburetor." + f.path();
                if (!own.contains(path)) {
                    kept.remove(path, own);
                }
            }
        }
        return text(kept.root);
    }

    /** Takes a field away; with it the group it stands in where this family has nothing there. */
    private void remove(String path, List<String> own) {
        String group = path.substring(0, path.lastIndexOf('.') + 1);
        boolean shared = own.stream().anyMatch(p -> p.startsWith(group));
        String[] steps = (shared ? path : group.substring(0, group.length() - 1)).split("\\.", -1);
        Object here = root;
        for (int i = 0; i + 1 < steps.length && !steps[i].endsWith(ROWS); i++) {
            here = here instanceof Map<?, ?> m ? m.get(steps[i]) : null;
        }
        if (here instanceof Map<?, ?> m) {
            m.remove(steps[steps.length - 1].replace(ROWS, ""));
        }
    }

    private static String text(Map<String, Object> root) {
        return MAPPER.writerWithDefaultPrettyPrinter().writeValueAsString(root) + "\n";
    }
}
