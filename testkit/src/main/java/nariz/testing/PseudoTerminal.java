package nariz.testing;

import java.io.Closeable;
import java.lang.foreign.Arena;
import java.lang.foreign.FunctionDescriptor;
import java.lang.foreign.Linker;
import java.lang.foreign.MemorySegment;
import java.lang.foreign.ValueLayout;
import java.lang.invoke.MethodHandle;

/** Two serial ports joined by a wire, made of pseudo-terminals: what goes in at one comes out at the other. */
@SuppressWarnings("restricted")
public final class PseudoTerminal implements Closeable {
    private static final Linker LINKER = Linker.nativeLinker();
    private static final int READ_WRITE = 2;
    private static final int NO_TERMINAL = 0x100;
    private final int[] masters = new int[2];
    private final String[] names = new String[2];
    private volatile boolean closed;

    /** Makes a pair. */
    public PseudoTerminal() {
        for (int i = 0; i < 2; i++) {
            masters[i] = (int) call("posix_openpt", READ_WRITE | NO_TERMINAL);
            call("grantpt", masters[i]);
            call("unlockpt", masters[i]);
            names[i] = name(masters[i]);
        }
        wire(0, 1);
        wire(1, 0);
    }

    /** Whether this system has pseudo-terminals that are opened this way. */
    public static boolean there() {
        return System.getProperty("os.name").startsWith("Linux") && LINKER.defaultLookup().find("posix_openpt")
                .isPresent();
    }

    public String name(boolean first) {
        return names[first ? 0 : 1];
    }

    private void wire(int from, int to) {
        Thread t = new Thread(() -> {
            try (Arena a = Arena.ofConfined()) {
                MemorySegment buffer = a.allocate(4096);
                while (!closed) {
                    long n = io("read", masters[from], buffer, 4096);
                    if (n > 0) {
                        io("write", masters[to], buffer, n);
                    } else {
                        // Nobody has the other end open.
                        Thread.sleep(5);
                    }
                }
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        }, "wire");
        t.setDaemon(true);
        t.start();
    }

    private static MethodHandle handle(String name, FunctionDescriptor d) {
        return LINKER.downcallHandle(LINKER.defaultLookup().find(name).orElseThrow(), d);
    }

    private static long call(String name, int argument) {
        try {
            return (int) handle(name, FunctionDescriptor.of(ValueLayout.JAVA_INT, ValueLayout.JAVA_INT))
                    .invokeExact(argument);
        } catch (Throwable e) {
            throw new IllegalStateException(name, e);
        }
    }

    private static String name(int master) {
        try {
            MemorySegment s = (MemorySegment) handle("ptsname", FunctionDescriptor.of(ValueLayout.ADDRESS,
                    ValueLayout.JAVA_INT)).invokeExact(master);
            return s.reinterpret(64).getString(0);
        } catch (Throwable e) {
            throw new IllegalStateException("ptsname", e);
        }
    }

    private static long io(String name, int fd, MemorySegment buffer, long n) {
        try {
            return (long) handle(name, FunctionDescriptor.of(ValueLayout.JAVA_LONG, ValueLayout.JAVA_INT,
                    ValueLayout.ADDRESS, ValueLayout.JAVA_LONG)).invokeExact(fd, buffer, n);
        } catch (Throwable e) {
            throw new IllegalStateException(name, e);
        }
    }

    @Override
    public void close() {
        closed = true;
        for (int m : masters) {
            call("close", m);
        }
    }
}
