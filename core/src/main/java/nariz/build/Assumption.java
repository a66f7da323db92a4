package nariz.build;

import static nariz.words.CoreWords.say;

import java.util.Locale;
import java.util.Optional;

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
    public static String words(String assumed) {
        int split = assumed.indexOf(" = ");
        String[] path = assumed.substring(0, split).split("\\.");
        String name = path[path.length - 1];
        String group = path[path.length - 2];
        Optional<SideName> side = SideName.ofKey(group);
        String label = Part.ofKey(kebab(name)).filter(p -> side.isPresent()).map(Part::label).orElseGet(() -> say(
                "sheet." + (side.isPresent() ? "barrels" : kebab(group)) + "." + kebab(name)));
        return say("sheet.assumed", side.map(s -> say("part.of-side", s.label(), label)).orElse(label),
                assumed.substring(split + 3));
    }

    /** {@code idleSpeed} as {@code idle-speed}. */
    private static String kebab(String camel) {
        return camel.replaceAll("([A-Z])", "-$1").toLowerCase(Locale.ROOT);
    }
}
