package nariz.app.state;

import static nariz.app.words.WindowWords.say;

import java.util.List;

/** Words of the trade, each in one line. */
public final class Glossary {
    private static final List<String> TERMS = List.of("lambda",
            "afr",
            "manifold-vacuum",
            "curb-idle",
            "transfer-slot",
            "idle-feed-restriction",
            "air-bleed",
            "main-jet",
            "emulsion-tube",
            "booster",
            "power-valve",
            "power-valve-channel-restriction",
            "metering-rod",
            "step-up-spring",
            "accelerator-pump",
            "tip-in",
            "overrun",
            "wide-open-throttle",
            "float-level");

    private Glossary() {
    }

    /** {@return every word with what it means, the word first} */
    public static List<String> words() {
        return TERMS.stream().map(t -> say("glossary." + t)).toList();
    }
}
