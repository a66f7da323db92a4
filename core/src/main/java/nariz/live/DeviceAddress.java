package nariz.live;

import static nariz.text.Message.message;

import java.util.regex.Matcher;
import java.util.regex.Pattern;
import nariz.carburetor.InputProblem;

/**
 * Where a device is: {@code tcp:HOST:PORT}, or {@code serial:NAME} with its rate in bits a second after an {@code @}
 * where it is not {@value #USUAL_RATE}.
 *
 * @param serial whether it is a serial port
 * @param place host, or name of the port
 * @param number TCP port 1 to 65535, or rate in bits a second 300 to 4000000
 */
public record DeviceAddress(boolean serial, String place, int number) {
    /** Rate of a serial port when none is given, bits a second. */
    public static final int USUAL_RATE = 115_200;
    private static final Pattern TCP = Pattern.compile("tcp:(.+):(\\d{1,5})");
    private static final Pattern SERIAL = Pattern.compile("serial:([^@]+)(?:@(\\d{3,7}))?");
    private static final int MOST_PORT = 65_535;
    private static final int LEAST_RATE = 300;
    private static final int MOST_RATE = 4_000_000;

    /**
     * Reads an address.
     *
     * @param text as above
     * @return it
     * @throws InputProblem when it is none
     */
    public static DeviceAddress parse(String text) {
        Matcher tcp = TCP.matcher(text.strip());
        if (tcp.matches() && in(tcp.group(2), 1, MOST_PORT)) {
            return new DeviceAddress(false, tcp.group(1), Integer.parseInt(tcp.group(2)));
        }
        Matcher port = SERIAL.matcher(text.strip());
        if (port.matches() && (port.group(2) == null || in(port.group(2), LEAST_RATE, MOST_RATE))) {
            return new DeviceAddress(true, port.group(1).strip(), port.group(2) == null ? USUAL_RATE
                    : Integer.parseInt(port.group(2)));
        }
        throw new InputProblem(text, 0, 0, "", message("problem.no-address-of-a-device"),
                message("problem.write-tcp-or-serial"));
    }

    private static boolean in(String number, int low, int high) {
        int n = Integer.parseInt(number);
        return n >= low && n <= high;
    }

    /** {@return the address as it is written} */
    public String text() {
        return !serial ? "tcp:" + place + ":" + number : "serial:" + place + (number == USUAL_RATE ? ""
                : "@" + number);
    }
}
