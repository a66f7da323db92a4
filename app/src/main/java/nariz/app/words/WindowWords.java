package nariz.app.words;

import nariz.words.Words;

/** What the window says, by key. */
public final class WindowWords {
    private static final Words WORDS = new Words("nariz.app.words.words");

    private WindowWords() {
    }

    /**
     * Text of a key.
     *
     * @param key key in {@code nariz/app/words/words.properties}
     * @param values values for its places
     * @return the text in the language spoken
     */
    public static String say(String key, Object... values) {
        return WORDS.say(key, values);
    }
}
