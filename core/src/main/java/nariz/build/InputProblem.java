package nariz.build;

import static nariz.words.CoreWords.say;

/**
 * Input that cannot be used, with the place and the remedy. The one message format of the program is built here.
 */
public final class InputProblem extends RuntimeException {
    private static final long serialVersionUID = 1L;
    private final String source;
    private final long line;
    private final int column;
    private final String field;
    private final String found;
    private final String wanted;

    /**
     * Describes a problem.
     *
     * @param source file name as the user gave it
     * @param line line number from 1, or 0 where the whole file is meant
     * @param column column from 1 (character in JSON, field in a log), or 0 where the whole line is meant
     * @param field name of the field or log column, or empty
     * @param found what stands there
     * @param wanted what to do about it: what was expected and the remedy, one sentence
     */
    public InputProblem(String source, long line, int column, String field, String found, String wanted) {
        super(message(source, line, column, field, found, wanted));
        this.source = source;
        this.line = line;
        this.column = column;
        this.field = field;
        this.found = found;
        this.wanted = wanted;
    }

    /**
     * A file that the system does not let anybody read.
     *
     * @param source file name as the user gave it
     * @param why what the system threw
     * @return the problem, with what to look at
     */
    public static InputProblem unreadable(String source, Exception why) {
        return new InputProblem(source, 0, 0, "", say("problem.a-file-that-cannot-be-read",
                why.getClass().getSimpleName()), say("problem.check-that-it-exists-and-that"));
    }

    private static String message(String source, long line, int column, String field, String found, String wanted) {
        StringBuilder s = new StringBuilder(source);
        if (line > 0) {
            s.append(say("problem.line", line));
        }
        if (column > 0) {
            s.append(say("problem.column", column));
        }
        if (!field.isEmpty()) {
            s.append(" (").append(field).append(')');
        }
        return s.append(say("problem.found", found, wanted)).toString();
    }

    /** {@return file name} */
    public String source() {
        return source;
    }

    /** {@return line from 1, 0 for the whole file} */
    public long line() {
        return line;
    }

    /** {@return column from 1, 0 for the whole line} */
    public int column() {
        return column;
    }

    /** {@return field or log column, or empty} */
    public String field() {
        return field;
    }

    /** {@return what was found} */
    public String found() {
        return found;
    }

    /** {@return what was wanted and the remedy} */
    public String wanted() {
        return wanted;
    }
}
