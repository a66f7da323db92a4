package nariz.carburetor;

import static nariz.text.Message.message;

import java.util.Arrays;
import java.util.Locale;
import nariz.text.Message;

/** A field that the sheet left out, as a person would call it. */
public final class Assumption {
    private Assumption() {
    }

    /**
     * Words for an assumed field. The value stays as it would be written in the sheet: that is where it is put right.
     *
     * @param assumed one of {@link BuildSheet#assumed()}, {@code path = value}
     * @return name of the part or property, and the value
     */
    public static Message words(String assumed) {
        int split = assumed.indexOf(" = ");
        return message("sheet.assumed", label(assumed.substring(0, split)), assumed.substring(split + 3));
    }

    /**
     * Name of a field of the sheet.
     *
     * @param path where it stands
     * @return the name for people, with its side
     */
    public static Message label(String path) {
        return Arrays.stream(path.split("\\.", -1)).flatMap(step -> Stage.ofKey(step).stream()).findFirst().map(s ->
                message("part.of-side", s.label(), part(path))).orElseGet(() -> part(path));
    }

    /**
     * Name of a field of the sheet, whichever side it is on.
     *
     * @param path where it stands
     * @return the name for people
     */
    public static Message part(String path) {
        String group = group(path);
        String name = kebab(path.substring(path.lastIndexOf('.') + 1));
        boolean side = Stage.ofKey(group).isPresent();
        return Families.part(name).filter(p -> side).map(Part::label).orElseGet(() -> message("sheet." + (side
                ? "barrels"
                : kebab(group)) + "." + name));
    }

    /** What the field is part of; the name of the car stands by itself. */
    private static String group(String path) {
        String[] steps = path.split("\\.", -1);
        return steps.length < 2 ? "car" : steps[steps.length - 2].replace("[]", "");
    }

    /** {@code idleSpeed} as {@code idle-speed}. */
    private static String kebab(String camel) {
        return camel.replaceAll("([A-Z])", "-$1").toLowerCase(Locale.ROOT);
    }
}
