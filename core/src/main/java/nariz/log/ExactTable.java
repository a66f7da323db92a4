package nariz.log;

import static nariz.text.Message.message;

import de.siegmar.fastcsv.reader.CsvParseException;
import de.siegmar.fastcsv.reader.CsvReader;
import de.siegmar.fastcsv.reader.CsvRecord;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import nariz.carburetor.InputProblem;

/** Tables of readings as this program writes them into its packages: read back number for number. */
public final class ExactTable {
    private ExactTable() {
    }

    /**
     * Reads a table this program wrote with channel keys as its header, number for number: no range is checked, nothing
     * is left out.
     *
     * @param name name for messages
     * @param in UTF-8 text with commas
     * @return the recording, without a plan
     * @throws IOException when the stream fails
     * @throws InputProblem when it is no such table
     */
    public static Recording read(String name, InputStream in) throws IOException {
        try (CsvReader<CsvRecord> csv = CsvReader.builder().ofCsvRecord(new InputStreamReader(in,
                StandardCharsets.UTF_8))) {
            Iterator<CsvRecord> rows = csv.iterator();
            List<Channel> channels = new ArrayList<>();
            for (String key : rows.hasNext() ? rows.next().getFields() : List.<String>of()) {
                channels.add(Channel.ofKey(key).orElseThrow(() -> new InputProblem(name, 1, channels.size() + 1, "",
                        "\"" + LogReader.shorten(key) + "\"", message("problem.each-column-is-named-by-its"))));
            }
            if (java.util.Set.copyOf(channels).size() < channels.size()) {
                throw new InputProblem(name, 1, 0, "", message("problem.a-channel-twice"),
                        message("problem.each-column-is-named-by-its"));
            }
            Column[] data = new Column[channels.size()];
            java.util.Arrays.setAll(data, i -> new Column());
            while (rows.hasNext()) {
                CsvRecord r = rows.next();
                if (r.getFieldCount() != data.length) {
                    throw new InputProblem(name, r.getStartingLineNumber(), 0, "", message(
                            "problem.a-row-of-fields-where-the", r.getFieldCount(), data.length),
                            message("problem.export-it-again"));
                }
                for (int i = 0; i < data.length; i++) {
                    String f = r.getField(i);
                    data[i].add(f.isEmpty() ? Double.NaN : Double.parseDouble(f));
                }
            }
            Map<Channel, List<byte[]>> chunks = new EnumMap<>(Channel.class);
            for (int i = 0; i < data.length; i++) {
                chunks.put(channels.get(i), data[i].chunks());
            }
            return new Recording(name, new Plan(List.of(), 0.0, -1, ""), List.of(), data.length == 0 ? 0
                    : data[0].size(), 1, chunks, List.of(), List.of(), 0, Double.NaN);
        } catch (CsvParseException | IndexOutOfBoundsException | NumberFormatException e) {
            throw new InputProblem(name, 0, 0, "", message("problem.a-table-that-is-damaged",
                    String.valueOf(e.getMessage())),
                    message("problem.export-it-again"));
        }
    }
}
