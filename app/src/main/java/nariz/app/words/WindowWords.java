package nariz.app.words;

import java.util.Arrays;
import nariz.text.Bundle;
import nariz.text.Measure;
import nariz.text.Message;
import nariz.text.Wording;
import nariz.units.Shown;

/**
 * What the window says, by key, in the language and units of this window. There is one window a program; what is worked
 * out beside it knows neither.
 */
public final class WindowWords {
    private static final Bundle BUNDLE = new Bundle("nariz.app.words.words");
    private static volatile Wording wording = Wording.ENGLISH;

    private WindowWords() {
    }

    /**
     * Sets language and units from here on; what was said before stays as it was.
     *
     * @param w language and units
     */
    public static void use(Wording w) {
        wording = w;
    }

    /** {@return language and units in use} */
    public static Wording wording() {
        return wording;
    }

    /** {@return units in use} */
    public static Shown units() {
        return wording.units();
    }

    /**
     * Text of a key.
     *
     * @param key key in {@code nariz/app/words/words.properties}
     * @param values values for its places; messages and measures are put into words
     * @return the text in the language of the window
     */
    public static String say(String key, Object... values) {
        Wording w = wording;
        return BUNDLE.text(w.language(), key, Arrays.stream(values).map(v -> v instanceof Message m ? w.text(m)
                : v instanceof Measure m ? w.text(Message.of(m)) : v).toArray());
    }

    /**
     * Words for what the core found.
     *
     * @param m message
     * @return the text in the language and units of the window
     */
    public static String say(Message m) {
        return wording.text(m);
    }
}
