package nariz.live;

import com.fazecast.jSerialComm.SerialPort;
import com.fazecast.jSerialComm.SerialPortInvalidPortException;
import java.io.Closeable;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.net.SocketTimeoutException;

/** An open way to a device. Reading waits at most {@link #PATIENCE_MS} and then gives nothing. */
public interface DeviceConnection extends Closeable {
    /** Longest that a read waits, ms. */
    int PATIENCE_MS = 250;

    /**
     * Reads what has come.
     *
     * @param into room for it
     * @return bytes read; 0 when nothing came for a while; -1 at the end
     * @throws IOException when the device is gone
     */
    int read(byte[] into) throws IOException;

    /** {@return where bytes are sent to the device} */
    OutputStream out() throws IOException;

    /**
     * Opens the way to a device.
     *
     * @param a where it is
     * @return the way
     * @throws IOException when nobody answers there, or another program has the port
     */
    static DeviceConnection open(DeviceAddress a) throws IOException {
        return a.serial() ? new SerialConnection(a) : new TcpConnection(a);
    }

    /** Over TCP. */
    final class TcpConnection implements DeviceConnection {
        private static final int CONNECT_MS = 2000;
        private final Socket socket = new Socket();
        private final InputStream in;

        TcpConnection(DeviceAddress a) throws IOException {
            try {
                socket.connect(new InetSocketAddress(a.place(), a.number()), CONNECT_MS);
                socket.setTcpNoDelay(true);
                socket.setSoTimeout(PATIENCE_MS);
                in = socket.getInputStream();
            } catch (IOException e) {
                socket.close();
                throw e;
            }
        }

        @Override
        public int read(byte[] into) throws IOException {
            try {
                return in.read(into);
            } catch (SocketTimeoutException e) {
                return 0;
            }
        }

        @Override
        public OutputStream out() throws IOException {
            return socket.getOutputStream();
        }

        @Override
        public void close() throws IOException {
            socket.close();
        }
    }

    /** Over a serial port, eight bits, no parity. */
    final class SerialConnection implements DeviceConnection {
        private final SerialPort port;

        SerialConnection(DeviceAddress a) throws IOException {
            try {
                port = SerialPort.getCommPort(a.place());
            } catch (SerialPortInvalidPortException e) {
                throw new IOException("there is no port " + a.place(), e);
            }
            port.setComPortParameters(a.number(), 8, SerialPort.ONE_STOP_BIT, SerialPort.NO_PARITY);
            port.setComPortTimeouts(SerialPort.TIMEOUT_READ_SEMI_BLOCKING, PATIENCE_MS, 0);
            if (!port.openPort()) {
                throw new IOException(a.place() + " cannot be opened: it is not there, another program has it, or "
                        + "this user may not");
            }
        }

        @Override
        public int read(byte[] into) throws IOException {
            int n = port.readBytes(into, into.length);
            if (n < 0 || (n == 0 && !port.isOpen())) {
                throw new IOException("the port is gone");
            }
            return n;
        }

        @Override
        public OutputStream out() {
            return port.getOutputStream();
        }

        @Override
        public void close() {
            port.closePort();
        }
    }
}
