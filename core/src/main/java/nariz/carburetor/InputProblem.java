package nariz.carburetor;

import static nariz.text.Message.literal;
import static nariz.text.Message.message;

import nariz.text.Message;
import nariz.text.Wording;

/**
 * Input that cannot be used, with the place and the remedy. The one message format of the program is built here; the
 * exception's own message is English, {@link #text} any language.
 */
public final class InputProblem extends RuntimeException {
    private static final long serialVersionUID = 1L;
    private final String source;
    private final long line;
    private final int column;
    private final String field;
    private final transient Message found;
    private final transient Message wanted;

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
    public InputProblem(String source, long line, int column, String field, Message found, Message wanted) {
        super(text(Wording.ENGLISH, source, line, column, field, found, wanted));
        this.source = source;
        this.line = line;
        this.column = column;
        this.field = field;
        this.found = found;
        this.wanted = wanted;
    }

    /**
     * Describes a problem with something that stands in a file.
     *
     * @param source file name as the user gave it
     * @param line line number from 1, or 0 where the whole file is meant
     * @param column column from 1, or 0 where the whole line is meant
     * @param field name of the field or log column, or empty
     * @param found what stands there, as it stands
     * @param wanted what to do about it
     */
    public InputProblem(String source, long line, int column, String field, String found, Message wanted) {
        this(source, line, column, field, literal(found), wanted);
    }

    /**
     * A file that the system does not let anybody read.
     *
     * @param source file name as the user gave it
     * @param why what the system threw
     * @return the problem, with what to look at
     */
    public static InputProblem unreadable(String source, Exception why) {
        return new InputProblem(source, 0, 0, "", message("problem.a-file-that-cannot-be-read",
                why.getClass().getSimpleName()), message("problem.check-that-it-exists-and-that"));
    }

    private static String text(Wording w, String source, long line, int column, String field, Message found,
            Message wanted) {
        StringBuilder s = new StringBuilder(source);
        if (line > 0) {
            s.append(w.text(message("problem.line", line)));
        }
        if (column > 0) {
            s.append(w.text(message("problem.column", column)));
        }
        if (!field.isEmpty()) {
            s.append(" (").append(field).append(')');
        }
        return s.append(w.text(message("problem.found", found, wanted))).toString();
    }

    /**
     * The problem in words.
     *
     * @param w language and units
     * @return place, what was found, what to do
     */
    public String text(Wording w) {
        return text(w, source, line, column, field, found, wanted);
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
    public Message found() {
        return found;
    }

    /** {@return what was wanted and the remedy} */
    public Message wanted() {
        return wanted;
    }
}
