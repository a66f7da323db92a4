package nariz.carburetor;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;

/**
 * The carburetor of a build sheet, or several of one kind: every number and word the family's sheet holds, by its path
 * below {@code carburetor}, for example {@code primary.mainJet}. The family's package gives them types; everything else
 * reads and changes them through {@link Part}.
 */
public final class Carburetor {
    private final Family family;
    private final int count;
    private final Map<String, Double> numbers;
    private final Map<String, String> words;

    /**
     * A carburetor.
     *
     * @param family how it works
     * @param count how many of them, at least 1
     * @param numbers SI values by path; copied
     * @param words choices by path; copied
     */
    public Carburetor(Family family, int count, Map<String, Double> numbers, Map<String, String> words) {
        this.family = family;
        this.count = count;
        this.numbers = new LinkedHashMap<>(numbers);
        this.words = new LinkedHashMap<>(words);
    }

    /** {@return how it works} */
    public Family family() {
        return family;
    }

    /** {@return how many of them there are} */
    public int count() {
        return count;
    }

    /**
     * A number of the sheet.
     *
     * @param path path below {@code carburetor}
     * @return SI value; 0 where nothing is fitted or the family has no such field
     */
    public double number(String path) {
        return numbers.getOrDefault(path, 0.0);
    }

    /**
     * A word of the sheet.
     *
     * @param path path below {@code carburetor}
     * @return the word
     * @throws IllegalArgumentException when the family has no such field
     */
    public String word(String path) {
        String w = words.get(path);
        if (w == null) {
            throw new IllegalArgumentException("no " + path + " on a sheet of " + family.key());
        }
        return w;
    }

    /**
     * Whether the sheet has a word.
     *
     * @param path path below {@code carburetor}
     * @return false for a field the family does not have
     */
    public boolean says(String path) {
        return words.containsKey(path);
    }

    /**
     * Where each of several alike stands, for what is set one by one.
     *
     * @param path path below {@code carburetor} of what {@link #number} gives the mean of
     * @return SI values, carburetor by carburetor, front before rear, left before right; empty where all are alike
     */
    public List<Double> each(String path) {
        return IntStream.iterate(1, i -> numbers.containsKey(path + "." + i), i -> i + 1).mapToObj(i -> number(path
                + "." + i)).toList();
    }

    /**
     * The same with another number. Where several alike stand differently they all move by as much as their mean.
     *
     * @param path path below {@code carburetor}
     * @param si its value
     * @return a new carburetor
     */
    public Carburetor with(String path, double si) {
        Carburetor out = new Carburetor(family, count, numbers, words);
        out.numbers.put(path, si);
        double moved = si - number(path);
        int i = 0;
        for (double one : each(path)) {
            out.numbers.put(path + "." + ++i, Math.max(0.0, one + moved));
        }
        return out;
    }

    /**
     * The same with several alike set one by one.
     *
     * @param path path below {@code carburetor} of all of them
     * @param si their values, as many as there are
     * @return a new carburetor
     */
    public Carburetor withEach(String path, List<Double> si) {
        Carburetor out = new Carburetor(family, count, numbers, words);
        for (int i = 0; i < si.size(); i++) {
            out.numbers.put(path + "." + (i + 1), si.get(i));
        }
        return out;
    }

    /**
     * The same with another word.
     *
     * @param path path below {@code carburetor}
     * @param word one of the field's choices
     * @return a new carburetor
     */
    public Carburetor with(String path, String word) {
        Carburetor out = new Carburetor(family, count, numbers, words);
        out.words.put(path, word);
        return out;
    }

    /**
     * Compares what is fitted.
     *
     * @param o another object
     * @return whether it is a carburetor of the same family with the same numbers and words
     */
    @Override
    public boolean equals(Object o) {
        return o instanceof Carburetor c && c.family.equals(family) && c.count == count && c.numbers.equals(numbers)
                && c.words.equals(words);
    }

    @Override
    public int hashCode() {
        return numbers.hashCode();
    }

    @Override
    public String toString() {
        return count + " x " + family.key() + " " + numbers + " " + words;
    }
}
