package nariz.log;

import static nariz.text.Message.message;

import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.util.Collections;
import java.util.List;
import nariz.carburetor.InputProblem;
import org.apache.commons.compress.archivers.zip.ZipArchiveEntry;
import org.apache.commons.compress.archivers.zip.ZipFile;
import org.apache.commons.compress.utils.SeekableInMemoryByteChannel;

/**
 * A spreadsheet's package, held as it is packed. Nothing of it is unpacked but what is needed, and of that nothing
 * beyond what a log can be: a few kilobytes may stand for gigabytes.
 */
final class SheetPackage {
    /** The packed file may take this part of the memory at most. */
    private static final int SHARE_OF_MEMORY = 12;
    private static final long LEAST = 8_000_000;
    /** Texts a sheet shares are held in memory unpacked, at several times their size. */
    private static final int SHARE_FOR_TEXTS = 24;
    /** No cell of a log is longer, and no tag of a sheet. */
    private static final int LONGEST_RUN = 100_000;
    private static final String TEXTS = "xl/sharedStrings.xml";

    private final String source;
    private final byte[] packed;

    private SheetPackage(String source, byte[] packed) {
        this.source = source;
        this.packed = packed;
    }

    static SheetPackage read(String source, InputStream in) throws IOException {
        long most = Math.max(LEAST, Runtime.getRuntime().maxMemory() / SHARE_OF_MEMORY);
        byte[] all = in.readNBytes((int) Math.min(Integer.MAX_VALUE - 16L, most + 1));
        if (all.length > most) {
            throw tooLarge(source);
        }
        SheetPackage p = new SheetPackage(source, all);
        p.check();
        return p;
    }

    private static InputProblem tooLarge(String source) {
        return new InputProblem(source, 0, 0, "", message("problem.a-spreadsheet-that-unpacks-too-large"),
                message("problem.save-it-as-csv"));
    }

    byte[] bytes() {
        return packed;
    }

    private ZipFile zip() throws IOException {
        return ZipFile.builder().setSeekableByteChannel(new SeekableInMemoryByteChannel(packed)).get();
    }

    private List<String> names() throws IOException {
        try (ZipFile zip = zip()) {
            return Collections.list(zip.getEntries()).stream().map(ZipArchiveEntry::getName).toList();
        }
    }

    /** One kind keeps its cells in content.xml, the other under xl/. */
    boolean openDocument() throws IOException {
        List<String> n = names();
        return n.contains("content.xml") && !n.contains("xl/workbook.xml");
    }

    /** The unpacked bytes of an entry, looked at as they come; closing it closes the package. */
    InputStream entry(String name) throws IOException {
        ZipFile zip = zip();
        ZipArchiveEntry e = zip.getEntry(name);
        if (e == null) {
            zip.close();
            throw new IOException("no " + name);
        }
        return new Guarded(zip.getInputStream(e), Long.MAX_VALUE) {
            @Override
            public void close() throws IOException {
                super.close();
                zip.close();
            }
        };
    }

    /** Goes through what the library would read, before it does. */
    private void check() throws IOException {
        long texts = Math.max(LEAST, Runtime.getRuntime().maxMemory() / SHARE_FOR_TEXTS);
        List<String> names;
        try {
            names = names();
        } catch (IOException | RuntimeException e) {
            throw new InputProblem(source, 1, 1, "", message("problem.bytes-that-are-not-text"),
                    message("problem.it-is-packed-like-a-spreadsheet"));
        }
        if (names.contains("xl/workbook.xml")) {
            for (String n : names) {
                if (n.endsWith(".xml") || n.endsWith(".rels")) {
                    boolean sheet = n.startsWith("xl/worksheets/");
                    drain(n, sheet ? Long.MAX_VALUE : texts, sheet || n.equals(TEXTS));
                }
            }
        }
    }

    private void drain(String name, long most, boolean runs) throws IOException {
        try (ZipFile zip = zip(); InputStream in = new Guarded(zip.getInputStream(zip.getEntry(name)), most, runs)) {
            byte[] buffer = new byte[1 << 16];
            while (in.read(buffer) >= 0) {
                // Only looked at.
            }
        } catch (InputProblem e) {
            throw e;
        } catch (IOException | RuntimeException e) {
            throw SheetTable.damaged(source, 0, e);
        }
    }

    /**
     * Counts bytes, the length of texts and tags between angle brackets, and the letters of cell references:
     * r="ZZZZZZ50" alone makes a row of three hundred million cells.
     */
    private class Guarded extends FilterInputStream {
        private static final int LETTERS = 3;
        private final boolean runs;
        private long left;
        private int run;
        private int letters = -1;
        private int last;
        private int beforeLast;

        Guarded(InputStream in, long most) {
            this(in, most, true);
        }

        Guarded(InputStream in, long most, boolean runs) {
            super(in);
            left = most;
            this.runs = runs;
        }

        private void look(int b) {
            if (--left < 0) {
                throw tooLarge(source);
            }
            run = b == '<' || b == '>' ? 0 : run + 1;
            if (runs && run > LONGEST_RUN) {
                throw tooLarge(source);
            }
            if (letters >= 0) {
                letters = b >= 'A' && b <= 'Z' ? letters + 1 : -1;
                if (letters > LETTERS) {
                    throw SheetTable.tooWide(source, 0);
                }
            } else if (b == '"' && last == '=' && beforeLast == 'r') {
                letters = 0;
            }
            beforeLast = last;
            last = b;
        }

        @Override
        public int read() throws IOException {
            int b = super.read();
            if (b >= 0) {
                look(b);
            }
            return b;
        }

        @Override
        public int read(byte[] b, int from, int length) throws IOException {
            int n = super.read(b, from, length);
            for (int i = from; i < from + n; i++) {
                look(b[i] & 0xff);
            }
            return n;
        }
    }
}
