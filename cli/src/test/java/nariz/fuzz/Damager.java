package nariz.fuzz;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;

/** Damages bytes and texts as disks, loggers and ill-meaning people do; the same seed damages in the same way. */
final class Damager {
    private static final String[] GARBAGE = {"", "NaN", "-", "Infinity", "-1e308", "1e999", "999999999", "-40", "0x10",
        "1,550", "12:30:00", "\u0000", "\u001b[2J", "\"", "\"\"\"", "=1+1", "abc", "1.2.3", "\ud83d\ude97", "\t", " ",
        "-0",
        "455 mmHg", "٣", "1_000", "true", "null", "{}", "[]", "../../x", "9".repeat(400), "x".repeat(5000)};
    private final Random random;

    Damager(Random random) {
        this.random = random;
    }

    /** Bytes with a few bits, spans or repeats that were not there. */
    byte[] bytes(byte[] whole) {
        byte[] b = whole.clone();
        for (int k = 1 + random.nextInt(4); k > 0 && b.length > 0; k--) {
            int at = random.nextInt(b.length);
            switch (random.nextInt(5)) {
                case 0, 1 -> b[at] ^= (byte) (1 << random.nextInt(8));
                case 2 -> b = Arrays.copyOf(b, at);
                case 3 -> Arrays.fill(b, at, Math.min(b.length, at + 1 + random.nextInt(64)),
                        (byte) random.nextInt(256));
                default -> b = spliced(b, at, Math.min(b.length, at + random.nextInt(200)));
            }
        }
        return b;
    }

    /** A span taken out, or put in once more. */
    private byte[] spliced(byte[] b, int from, int to) {
        boolean out = random.nextBoolean();
        byte[] r = new byte[out ? b.length - (to - from) : b.length + (to - from)];
        System.arraycopy(b, 0, r, 0, out ? from : to);
        System.arraycopy(b, out ? to : from, r, out ? from : to, b.length - (out ? to : from));
        return r;
    }

    /** A JSON text with values, names or punctuation changed. */
    String json(String whole) {
        String s = whole;
        boolean numbers = random.nextBoolean();
        for (int k = 1 + random.nextInt(3); k > 0; k--) {
            int at = s.isEmpty() ? 0 : random.nextInt(s.length());
            s = switch (numbers ? 2 : random.nextInt(6)) {
                case 0 -> new String(bytes(s.getBytes(StandardCharsets.UTF_8)), StandardCharsets.UTF_8);
                case 1 -> s.substring(0, at) + garbage() + s.substring(Math.min(s.length(), at + random.nextInt(8)));
                case 2 -> number(s, at);
                case 3 -> s.replaceFirst("\"[a-zA-Z]+\"(?=\\s*:)", "\"" + (char) ('a' + random.nextInt(26)) + "\"");
                case 4 -> s.substring(0, at) + "[".repeat(random.nextInt(2000)) + s.substring(at);
                default -> s.substring(at) + s.substring(0, at);
            };
        }
        return s;
    }

    /** Some number further on, another one. */
    private String number(String s, int at) {
        java.util.regex.Matcher m = java.util.regex.Pattern.compile("-?[0-9]+(?:\\.[0-9]+)?").matcher(s);
        return m.find(at) ? s.substring(0, m.start()) + new String[] {"0", "-1", "1e300", "-1e300", "0.0001", "99999",
                "NaN",
            "1e-320", "1", "7.5", "33", "120", "640", "0.37"}[random.nextInt(14)] + s.substring(m.end()) : s;
    }

    String garbage() {
        return GARBAGE[random.nextInt(GARBAGE.length)];
    }

    /**
     * A log with a few lines damaged.
     *
     * @param text what came of it
     * @param lines lines that are not what they were, from 0; the header is 0
     * @param structure whether lines were added, taken out or moved, so that places no longer tell
     */
    record Log(String text, Set<Integer> lines, boolean structure) {
    }

    Log log(String whole) {
        String[] lines = whole.split("\n", -1);
        Set<Integer> touched = new TreeSet<>();
        boolean structure = false;
        for (int k = 1 + random.nextInt(4); k > 0; k--) {
            int at = random.nextInt(20) == 0 ? 0 : 1 + random.nextInt(lines.length - 2);
            touched.add(at);
            String[] cells = lines[at].split(",", -1);
            int cell = random.nextInt(cells.length);
            switch (random.nextInt(8)) {
                case 0 -> cells[cell] = garbage();
                case 1 -> cells[cell] = "";
                case 2 -> cells[cell] = cells[cell] + garbage();
                case 3 -> cells = Arrays.copyOf(cells, Math.max(1, cell));
                case 4 -> cells[cell] = cells[cell] + "," + cells[cell];
                case 5 -> cells[cell] = new String(bytes(cells[cell].getBytes(StandardCharsets.ISO_8859_1)),
                        StandardCharsets.ISO_8859_1);
                case 6 -> {
                    int other = 1 + random.nextInt(lines.length - 2);
                    String moved = lines[other];
                    lines[other] = lines[at];
                    lines[at] = moved;
                    touched.add(other);
                    structure = true;
                    continue;
                }
                default -> {
                    cells[cell] = cells[cell].replace('.', ',');
                    structure = true;
                }
            }
            lines[at] = String.join(",", cells);
            structure |= lines[at].indexOf('\n') >= 0 || lines[at].indexOf('\r') >= 0 || lines[at].indexOf('"') >= 0
                    || at == 0;
        }
        return new Log(String.join("\n", lines), touched, structure);
    }
}
