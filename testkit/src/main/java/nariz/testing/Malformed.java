package nariz.testing;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.function.DoubleUnaryOperator;

/** A hundred bad files, each with the words its message must contain. */
public final class Malformed {
    /**
     * One bad file.
     *
     * @param name what is wrong with it
     * @param sheet whether it is a build sheet (else a log)
     * @param content the bytes
     * @param says words the message must contain: place and matter
     */
    public record Case(String name, boolean sheet, byte[] content, List<String> says) {
        @Override
        public String toString() {
            return (sheet ? "sheet: " : "log: ") + name;
        }
    }

    private final List<Case> cases = new ArrayList<>();

    private Malformed() {
        brokenSheets();
        wrongFields();
        wrongQuantities();
        brokenLogs();
        wrongColumns();
        wrongNumbers();
        implausible();
    }

    /** {@return all of them} */
    public static List<Case> all() {
        return List.copyOf(new Malformed().cases);
    }

    private void sheet(String name, String text, String... says) {
        cases.add(new Case(name, true, text.getBytes(StandardCharsets.UTF_8), List.of(says)));
    }

    /** A good sheet with one thing replaced. */
    private void spoiled(String name, String what, String by, String... says) {
        String good = Samples.sheet();
        if (!good.contains(what)) {
            throw new IllegalStateException("the sample has no " + what);
        }
        sheet(name, good.replace(what, by), says);
    }

    private void log(String name, String text, String... says) {
        cases.add(new Case(name, false, text.getBytes(StandardCharsets.UTF_8), List.of(says)));
    }

    private void brokenSheets() {
        sheet("empty", "", "line 1", "empty");
        sheet("blanks only", "  \n \n", "line", "empty");
        sheet("a word", "hello", "line 1", "not JSON");
        sheet("a list", "[1, 2]", "line 1, column 1", "object");
        sheet("a number", "42", "line 1", "object");
        sheet("a log by mistake", Samples.log(), "line 1", "column");
        sheet("truncated", Samples.sheet().substring(0, 400), "line", "not JSON");
        sheet("truncated in a word", Samples.sheet().substring(0, 22), "line", "not JSON");
        spoiled("comma missing", "\"cylinders\": 6,", "\"cylinders\": 6", "line 7", "not JSON");
        spoiled("quote missing", "\"name\": \"test six\"", "\"name\": \"test six", "line 3", "not JSON");
        spoiled("comma too many", "\"transmission\": \"manual\"", "\"transmission\": \"manual\",", "line 13",
                "not JSON");
        spoiled("single quotes", "\"medium\"", "'medium'", "line 8", "not JSON");
        spoiled("comment", "\"name\"", "// car\n\"name\"", "line 3", "not JSON");
        sheet("text after the end", Samples.sheet() + "{}", "more text");
        spoiled("field twice", "\"cylinders\": 6,", "\"cylinders\": 6, \"cylinders\": 8,", "line 6", "twice");
        spoiled("NaN", "9.4", "NaN", "line 7", "not JSON");
        cases.add(new Case("binary", true, new byte[] {(byte) 0xff, (byte) 0xd8, 0, 16, (byte) 0x80}, List.of("text")));
        cases.add(new Case("UTF-16", true, Samples.sheet().getBytes(StandardCharsets.UTF_16), List.of("text")));
        sheet("deep nesting", "[".repeat(3000), "line 1", "not JSON");
        sheet("null", "null", "line 1", "object");
    }

    private void wrongFields() {
        spoiled("format missing", "\"format\": \"nariz-build/1\",", "", "format", "nariz-build/1");
        spoiled("newer format", "nariz-build/1", "nariz-build/9", "line 2", "format");
        spoiled("format a number", "\"nariz-build/1\"", "1", "line 2", "format");
        spoiled("displacement missing", "\"displacement\": \"3.8 L\",", "", "engine.displacement", "needed");
        spoiled("cylinders missing", "\"cylinders\": 6,", "", "engine.cylinders", "needed");
        spoiled("family missing", "\"family\": \"block-metered-4\",", "", "carburetor.family", "block-metered-4");
        spoiled("unknown family", "block-metered-4", "magic", "line 17", "rod-metered-4");
        spoiled("misspelt field", "\"mainJet\": \"61", "\"mainJett\": \"61", "mainJett", "not known", "mainJet");
        spoiled("unknown section", "\"ambient\":", "\"weather\":", "weather", "not known");
        spoiled("unknown cam", "\"medium\"", "\"spicy\"", "line 8", "mild");
        spoiled("unknown booster", "\"downleg\"", "\"turbo\"", "booster", "annular");
        spoiled("engine a word", "\"fuel\": {", "\"x\": {}, \"fuel\": {", "not known");
        spoiled("cylinders a word", "\"cylinders\": 6", "\"cylinders\": \"six\"", "line 6", "number");
        spoiled("half a cylinder", "\"cylinders\": 6", "\"cylinders\": 5.5", "line 6", "whole");
        spoiled("bores a list", "\"bores\": 2", "\"bores\": [2]", "bores", "number");
        spoiled("manual a number", "\"manual\"", "1", "transmission", "automatic");
        spoiled("name a number", "\"test six\"", "7", "name", "quotes");
        spoiled("primary a word", "\"primary\": {", "\"primary\": \"big\", \"other\": {", "primary", "object");
        spoiled("advance unknown", "\"vacuum\"", "\"magneto\"", "advance", "centrifugal");
        spoiled("fuel null", "{ \"name\": \"petrol\", \"stoichAfr\": 14.7, \"density\": \"745 kg/m3\" }", "null",
                "fuel", "object");
    }

    private void wrongQuantities() {
        spoiled("unit missing", "\"61 thou\"", "61", "mainJet", "unit");
        spoiled("bare number in quotes", "\"61 thou\"", "\"61\"", "mainJet", "thou");
        spoiled("wrong unit", "\"61 thou\"", "\"61 inHg\"", "mainJet", "mm");
        spoiled("jet in mm taken for thou", "\"61 thou\"", "\"61 mm\"", "mainJet", "outside");
        spoiled("huge jet", "\"61 thou\"", "\"1e300 thou\"", "mainJet", "outside");
        spoiled("negative jet", "\"61 thou\"", "\"-61 thou\"", "mainJet", "outside");
        spoiled("valve in thou", "\"6.5 inHg\"", "\"6.5 thou\"", "powerValve", "inHg");
        spoiled("venturi wider than bore", "\"28.5 mm\"", "\"45 mm\"", "venturi", "narrower");
        spoiled("displacement in cc without unit", "\"3.8 L\"", "\"3800\"", "displacement", "L");
        spoiled("tiny engine", "\"3.8 L\"", "\"3.8 cc\"", "displacement", "outside");
        spoiled("hundred cylinders", "\"cylinders\": 6", "\"cylinders\": 100", "cylinders", "16");
        spoiled("barometer in inHg as kPa", "\"98.6 kPa\"", "\"29.1 kPa\"", "pressure", "outside");
        spoiled("decimal comma", "\"39.5 mm\"", "\"39,5 mm\"", "bore", "number and a unit");
        spoiled("compression of a diesel", "9.4", "22", "compression", "16");
        spoiled("huge number", "9.4", "1e999", "compression", "16");
    }

    private void brokenLogs() {
        log("empty", "", "line 1", "empty");
        log("header only", "time_s,rpm,vacuum_inHg,afr\n", "0 usable rows");
        log("blank lines only", "\n\n\n", "line 1", "header");
        log("no header", Samples.log("", ','), "line 1", "names no known column");
        log("a sheet by mistake", Samples.sheet(), "line 1", "names no known column");
        log("prose", "dear diary\ntoday it ran badly\n", "line 1", "names no known column");
        cases.add(new Case("binary", false, new byte[] {'P', 'K', 3, 4, 0, 0, 0, 8}, List.of("line 1", "not text")));
        cases.add(new Case("spreadsheet cut off", false, new byte[] {'P', 'K', 3, 4, 20, 0, 8},
                List.of("not text")));
        log("truncated after ten rows", Samples.log().lines().limit(11).reduce("", (a, b) -> a + b + "\n"),
                "10 usable rows");
        log("unclosed quote", Samples.log().replaceFirst("\n0.0,", "\n\"0.0,"), "line 2", "quotation mark");
        log("three seconds", Samples.log().lines().limit(80).reduce("", (a, b) -> a + b + "\n"), "10 s");
        log("rows cut short", Samples.log().replaceAll(",[0-9.]+\n", "\n").replaceFirst("vacuum_inHg\n",
                "vacuum_inHg,afr\n"), "0 usable rows", "fields");
    }

    private void wrongColumns() {
        header("no time", "x,rpm,vacuum_inHg,afr", "no column for time", "time_s");
        header("no rpm", "time_s,x,vacuum_inHg,afr", "no column for engine speed");
        header("no vacuum", "time_s,rpm,x,afr", "no column for manifold vacuum", "map_kPa");
        header("no mixture", "time_s,rpm,vacuum_inHg,x", "no column for lambda", "afr");
        header("vacuum without unit", "time_s,rpm,vacuum,afr", "line 1, column 3", "unit");
        header("vacuum in hours", "time_s,rpm,vacuum_h,afr", "line 1, column 3", "inHg");
        header("time in fortnights", "time_fortnight,rpm,vacuum_inHg,afr", "line 1, column 1", "ms");
        header("rpm twice", "time_s,rpm,vacuum_inHg,rpm", "line 1, column 4", "second column");
        header("mixture twice", "time_s,afr,vacuum_inHg,afr", "line 1, column 4", "afr2");
        header("wrong separator", "time_s rpm vacuum_inHg afr", "line 1", "names no known column");
        header("rpm and vacuum swapped", "time_s,vacuum_inHg,rpm,afr", "column", "vacuum");
        header("time and rpm swapped", "rpm,time_s,vacuum_inHg,afr", "goes back", "swapped");
        header("vacuum and mixture swapped", "time_s,rpm,afr,vacuum_inHg", "column 4", "swapped");
        header("milliseconds said, seconds meant", "time_ms,rpm,vacuum_inHg,afr", "10 s", "time_ms");
        header("inHg called kPa", "time_s,rpm,vacuum_kPa,afr", "column 3", "never exceeds", "unit");
        header("inHg called psi", "time_s,rpm,vacuum_psi,afr", "line 2, column 3", "outside");
    }

    private void header(String name, String header, String... says) {
        log(name, Samples.log(header + "\n", ','), says);
    }

    private void wrongNumbers() {
        column("words for rpm", 1, v -> Double.NaN, "oops", "line 2, column 2", "number belongs");
        column("words for vacuum", 2, v -> Double.NaN, "n/a!", "line 2, column 3", "number belongs");
        column("words for AFR", 3, v -> Double.NaN, "lean", "line 2, column 4", "number belongs");
        column("huge rpm", 1, v -> 1e300, null, "line 2, column 2", "outside");
        column("negative rpm", 1, v -> -v, null, "line 2, column 2", "outside");
        column("infinite AFR", 3, v -> Double.POSITIVE_INFINITY, null, "line 2, column 4", "outside");
        column("huge vacuum", 2, v -> 1e9, null, "line 2, column 3", "outside");
        column("time stands still", 0, v -> 5.0, null, "1 usable rows", "does not rise");
        column("time runs backwards", 0, v -> 1000 - v, null, "1 usable rows", "does not rise");
        column("empty AFR", 3, v -> Double.NaN, "", "column 4", "half empty");
    }

    private void implausible() {
        column("lambda in the AFR column", 3, v -> v / 14.7, null, "column 4", "outside");
        column("AFR on the scale of another fuel", 3, v -> v * 6.4 / 14.7, null, "column 4", "lambda");
        column("AFR of a mower on fire", 3, v -> v * 0.5, null, "column 4", "petrol");
        column("rpm in thousands", 1, v -> v / 1000, null, "column 2", "thousands");
        column("absolute pressure taken for vacuum", 2, v -> 29.1 - v, null, "column 3", "map_kPa");
        column("vacuum above the air's pressure", 2, v -> v + 12, null, "column 3", "air has only");
        column("vacuum in bar", 2, v -> v * 0.0339, null, "column 3", "unit");
        column("vacuum stuck at zero", 2, v -> 0.0, null, "column 3", "never exceeds");
    }

    /** A good log with one column changed, or written as a word. */
    private void column(String name, int index, DoubleUnaryOperator f, String word, String... says) {
        StringBuilder s = new StringBuilder();
        for (String line : Samples.log().split("\n", -1)) {
            String[] cells = line.split(",");
            if (cells.length == 4 && Character.isDigit(cells[0].charAt(0))) {
                double v = f.applyAsDouble(Double.parseDouble(cells[index]));
                cells[index] = word != null ? word : String.format(Locale.ROOT, "%s", v);
                line = String.join(",", cells);
            }
            s.append(line).append('\n');
        }
        log(name, s.toString(), says);
    }
}
