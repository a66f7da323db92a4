package nariz.carburetor;

import static nariz.text.Message.message;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import nariz.units.Dimension;
import nariz.units.Quantity;

/** Reads a kit, format {@code nariz-kit/1} (docs/formats/kit.md and its JSON Schema). */
public final class KitReader {
    /** The format's name and version. */
    public static final String FORMAT = "nariz-kit/1";
    private static final long LONGEST_BYTES = 1_000_000;

    private KitReader() {
    }

    /**
     * Reads a file.
     *
     * @param file the kit
     * @return the kit
     * @throws InputProblem when it cannot be used
     */
    public static Kit read(Path file) {
        return parse(String.valueOf(file.getFileName()), TextFile.read(file, LONGEST_BYTES,
                message("problem.a-kit-is-short"), message("problem.save-the-kit-as")));
    }

    /**
     * Reads a text.
     *
     * @param source name for messages
     * @param json the kit
     * @return the kit
     * @throws InputProblem when it cannot be used
     */
    public static Kit parse(String source, String json) {
        SheetFields root = new SheetFields(source, "", LocatedJson.parse(source, json), new ArrayList<>());
        if (!FORMAT.equals(root.text("format", ""))) {
            throw root.problem("format", message("problem.write-format-other-versions-are-not", FORMAT));
        }
        root.text("notes", "");
        Map<Part, List<Double>> have = sizes(source, root.object("have"));
        Map<Part, List<Double>> ladder = sizes(source, root.object("ladder"));
        Set<Part> drill = drill(source, root);
        root.noOthers();
        return new Kit(have, ladder, drill);
    }

    private static Map<Part, List<Double>> sizes(String source, SheetFields f) {
        Map<Part, List<Double>> out = new LinkedHashMap<>();
        for (Part p : Families.parts()) {
            LocatedJson list = p.isWhole() ? null : f.take(p.key()).orElse(null);
            if (list != null) {
                List<Double> sizes = new ArrayList<>();
                for (LocatedJson item : items(source, f.path(p.key()), list)) {
                    sizes.add(size(source, f.path(p.key()), p, item));
                }
                out.put(p, sizes);
            }
        }
        f.noOthers();
        return out;
    }

    private static List<LocatedJson> items(String source, String path, LocatedJson json) {
        if (!(json.value() instanceof List<?> list) || list.isEmpty()) {
            throw new InputProblem(source, json.line(), json.column(), path, json.words(),
                    message("problem.write-a-list-in-brackets-for"));
        }
        return list.stream().map(LocatedJson.class::cast).toList();
    }

    private static double size(String source, String path, Part p, LocatedJson item) {
        Dimension d = p.dimension();
        if (item.value() instanceof String text) {
            if (p.pluggable() && "plugged".equals(text)) {
                return 0.0;
            }
            Quantity q = Quantity.parse(text, d).orElse(null);
            if (q != null && q.si() > 0.0) {
                return q.si() / p.si();
            }
        }
        throw new InputProblem(source, item.line(), item.column(), path, item.words(),
                message("problem.write-a-number-above-0-and", p.text(p.pluggable() ? 6.5 : 60), d.choices()));
    }

    private static Set<Part> drill(String source, SheetFields root) {
        Set<Part> out = new LinkedHashSet<>();
        LocatedJson list = root.take("drill").orElse(null);
        if (list == null) {
            return out;
        }
        for (LocatedJson item : items(source, "drill", list)) {
            Part part = item.value() instanceof String s ? Families.part(s).filter(Part::drillable).orElse(null) : null;
            if (part == null) {
                throw new InputProblem(source, item.line(), item.column(), "drill", item.words(),
                        message("problem.only-holes-can-be-drilled", String.join(", ",
                        Families.parts().stream().filter(Part::drillable).map(Part::key).toList())));
            }
            out.add(part);
        }
        return out;
    }
}
