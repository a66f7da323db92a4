package nariz.log;

import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Supplier;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import nariz.carburetor.InputProblem;
import org.jspecify.annotations.Nullable;

/**
 * Rows of an .ods sheet (OASIS OpenDocument 1.3, part 3, section 9), streamed from content.xml. A cell or row that is
 * repeated is written once with its count; what is empty to the end of a row or sheet is not given out.
 */
final class OpenDocumentRows extends ListedRows {
    private static final String CONTENT = "content.xml";
    private static final int LAST_ROW = 1_048_576;

    private final String source;
    private final InputStream in;
    private final XMLStreamReader xml;
    private List<String> repeated = List.of();
    private long at;
    private int again;

    private OpenDocumentRows(String source, SheetPackage packed, int sheet) {
        this.source = source;
        try {
            in = packed.entry(CONTENT);
            xml = reader(in);
            for (int k = -1; k < sheet;) {
                if (xml.next() == XMLStreamConstants.START_ELEMENT && xml.getLocalName().equals("table")) {
                    k++;
                }
            }
        } catch (IOException | XMLStreamException | RuntimeException e) {
            throw problem(e);
        }
    }

    /** Entities and outside definitions have no place in a log. */
    private static XMLStreamReader reader(InputStream in) throws XMLStreamException {
        XMLInputFactory f = XMLInputFactory.newDefaultFactory();
        f.setProperty(XMLInputFactory.SUPPORT_DTD, false);
        f.setProperty(XMLInputFactory.IS_SUPPORTING_EXTERNAL_ENTITIES, false);
        f.setProperty(XMLInputFactory.IS_COALESCING, true);
        return f.createXMLStreamReader(in);
    }

    static List<Supplier<Rows>> sheets(String source, SheetPackage packed) throws IOException {
        int n = 0;
        try (InputStream in = packed.entry(CONTENT)) {
            XMLStreamReader xml = reader(in);
            while (xml.hasNext()) {
                n += xml.next() == XMLStreamConstants.START_ELEMENT && xml.getLocalName().equals("table") ? 1 : 0;
            }
        } catch (XMLStreamException e) {
            throw new IOException(e);
        }
        List<Supplier<Rows>> out = new ArrayList<>();
        for (int i = 0; i < n; i++) {
            int sheet = i;
            out.add(() -> new OpenDocumentRows(source, packed, sheet));
        }
        return out;
    }

    private InputProblem problem(Exception e) {
        return e instanceof InputProblem p ? p : SheetTable.damaged(source, at + 1, e);
    }

    @Override
    public boolean next() {
        if (again > 0) {
            again--;
            take(repeated, ++at);
            return true;
        }
        try {
            while (xml.hasNext()) {
                int e = xml.next();
                if (e == XMLStreamConstants.END_ELEMENT && xml.getLocalName().equals("table")) {
                    return false;
                }
                if (e == XMLStreamConstants.START_ELEMENT && xml.getLocalName().equals("table-row")) {
                    int times = times("number-rows-repeated");
                    repeated = cells();
                    at += repeated.isEmpty() ? times : 1;
                    again = repeated.isEmpty() ? 0 : times - 1;
                    if (at + again > LAST_ROW && !repeated.isEmpty()) {
                        throw new IllegalStateException("row " + (at + again));
                    }
                    if (!repeated.isEmpty()) {
                        take(repeated, at);
                        return true;
                    }
                }
            }
            return false;
        } catch (XMLStreamException | RuntimeException e) {
            throw problem(e);
        }
    }

    private int times(String attribute) {
        String n = attribute(attribute);
        int times = n == null ? 1 : Integer.parseInt(n);
        if (times < 1) {
            throw new IllegalStateException(attribute + " " + n);
        }
        return times;
    }

    private @Nullable String attribute(String localName) {
        for (int i = 0; i < xml.getAttributeCount(); i++) {
            if (xml.getAttributeLocalName(i).equals(localName)) {
                return xml.getAttributeValue(i);
            }
        }
        return null;
    }

    private List<String> cells() throws XMLStreamException {
        List<String> out = new ArrayList<>();
        int blank = 0;
        while (xml.hasNext()) {
            int e = xml.next();
            if (e == XMLStreamConstants.END_ELEMENT && xml.getLocalName().equals("table-row")) {
                return out;
            }
            if (e == XMLStreamConstants.START_ELEMENT && xml.getLocalName().endsWith("table-cell")) {
                int times = times("number-columns-repeated");
                String text = cell();
                if (text.isEmpty()) {
                    blank = Math.min(TextTable.MOST_COLUMNS + 1, blank + times);
                } else {
                    if (out.size() + blank + times > TextTable.MOST_COLUMNS) {
                        throw SheetTable.tooWide(source, at + 1);
                    }
                    for (; blank > 0; blank--) {
                        out.add("");
                    }
                    for (int k = 0; k < times; k++) {
                        out.add(text);
                    }
                }
            }
        }
        throw new XMLStreamException("a row that does not end");
    }

    /** What a cell holds; the reader stands behind it afterwards. */
    private String cell() throws XMLStreamException {
        String name = xml.getLocalName();
        String type = String.valueOf(attribute("value-type"));
        String value = attribute("value");
        String date = attribute("date-value");
        String time = attribute("time-value");
        StringBuilder text = new StringBuilder();
        for (int depth = 1; depth > 0;) {
            int e = xml.next();
            if (e == XMLStreamConstants.START_ELEMENT) {
                depth += 1;
            } else if (e == XMLStreamConstants.END_ELEMENT) {
                depth -= 1;
            } else if (e == XMLStreamConstants.CHARACTERS && depth > 1) {
                text.append(xml.getText());
            }
        }
        if (!name.endsWith("table-cell")) {
            throw new XMLStreamException("a cell that does not end");
        }
        return switch (type) {
            case "float", "currency" -> value == null ? "" : value;
            case "percentage" -> value == null ? "" : SheetCells.percent(Double.parseDouble(value));
            case "date" -> date == null ? "" : date.indexOf('T') > 0 ? date : date + " 00:00:00";
            case "time" -> time == null ? "" : SheetCells.duration(time);
            default -> text.toString().trim();
        };
    }

    @Override
    public void close() throws IOException {
        try {
            xml.close();
        } catch (XMLStreamException e) {
            throw new IOException(e);
        } finally {
            in.close();
        }
    }
}
