package nariz.words;

/** What the core says, by key. */
public final class CoreWords {
    private static final Words WORDS = new Words("nariz.words.words");

    private CoreWords() {
    }

    /**
     * Text of a key.
     *
     * @param key key in {@code nariz/words/words.properties}
     * @param values values for its places
     * @return the text in the language spoken
     */
    public static String say(String key, Object... values) {
        return WORDS.say(key, values);
    }
}
