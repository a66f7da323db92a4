package nariz.log;

import static nariz.text.Message.message;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.List;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import nariz.carburetor.InputProblem;
import nariz.text.Message;

/**
 * Reads the track points of a GPX file (GPX 1.1, topografix.com): place, height and time. Road speed follows from
 * neighbouring points by the haversine formula (Sinnott, R. W., "Virtues of the haversine", Sky and Telescope 68 (2),
 * 1984) with the earth's mean radius of 6371 km.
 */
public final class TrackReader {
    private static final double DAY_S = 86400.0;
    private static final double EARTH_M = 6_371_000.0;

    /**
     * A track at its own rate.
     *
     * @param clockS time of each of two or more points, s since 1970, rising
     * @param speedMps road speed, m/s
     * @param altitudeM height, m; NaN where the file has none
     */
    public record Track(double[] clockS, double[] speedMps, double[] altitudeM) {
        /**
         * Values of the track at moments of a recording.
         *
         * @param values of this track, one a point
         * @param timesS times of the recording, s
         * @param startClockS clock of its first row, s since 1970, or of the day when below 86400
         * @param shiftS what that clock is to be set forward by, s
         * @return values on straight lines between points, NaN outside the track
         */
        public double[] at(double[] values, double[] timesS, double startClockS, double shiftS) {
            // A clock of the day says nothing of the date: the day is the one that brings the log nearest to the track.
            boolean day = startClockS < DAY_S;
            double zero = day ? DAY_S * Math.rint((clockS[0] - startClockS - shiftS) / DAY_S) : 0.0;
            double[] out = new double[timesS.length];
            int k = 0;
            for (int i = 0; i < out.length; i++) {
                double t = zero + startClockS + shiftS + timesS[i] - timesS[0];
                while (k + 2 < clockS.length && clockS[k + 1] <= t) {
                    k++;
                }
                boolean within = t >= clockS[k] && t <= clockS[k + 1];
                double f = within ? (t - clockS[k]) / (clockS[k + 1] - clockS[k]) : Double.NaN;
                out[i] = values[k] + f * (values[k + 1] - values[k]);
            }
            return out;
        }
    }

    private record Point(double lat, double lon, double ele, double clockS) {
    }

    private TrackReader() {
    }

    /**
     * Reads a file.
     *
     * @param file the track
     * @return its points
     * @throws InputProblem when it cannot be used
     */
    public static Track read(Path file) {
        String name = String.valueOf(file.getFileName());
        try (InputStream in = Files.newInputStream(file)) {
            return read(name, in);
        } catch (IOException e) {
            throw InputProblem.unreadable(name, e);
        }
    }

    /**
     * Reads a stream.
     *
     * @param name name for messages
     * @param in XML
     * @return its points
     * @throws InputProblem when it cannot be used
     */
    public static Track read(String name, InputStream in) {
        XMLInputFactory factory = XMLInputFactory.newFactory();
        // A track needs no entities from elsewhere, and a stranger's file may not ask for any.
        factory.setProperty(XMLInputFactory.SUPPORT_DTD, false);
        factory.setProperty(XMLInputFactory.IS_SUPPORTING_EXTERNAL_ENTITIES, false);
        List<Point> points = new ArrayList<>();
        try {
            XMLStreamReader x = factory.createXMLStreamReader(in);
            while (x.hasNext()) {
                if (x.next() == XMLStreamConstants.START_ELEMENT && "trkpt".equals(x.getLocalName())) {
                    Point p = point(name, x);
                    if (points.isEmpty() || p.clockS() > points.getLast().clockS()) {
                        points.add(p);
                    }
                }
            }
        } catch (XMLStreamException e) {
            throw new InputProblem(name, Math.max(0, e.getLocation() == null ? 0 : e.getLocation().getLineNumber()),
                    Math.max(0, e.getLocation() == null ? 0 : e.getLocation().getColumnNumber()), "",
                    message("problem.text-that-is-not-a-gpx"), message("problem.export-the-track-again-as-gpx"));
        }
        if (points.size() < 2) {
            throw new InputProblem(name, 0, 0, "trkpt", message("problem.track-points-with-a-time", points.size()),
                    message("problem.a-track-needs-at-least-two"));
        }
        return track(points);
    }

    private static Point point(String name, XMLStreamReader x) throws XMLStreamException {
        int line = x.getLocation().getLineNumber();
        double lat = number(name, line, "lat", x.getAttributeValue(null, "lat"), 90);
        double lon = number(name, line, "lon", x.getAttributeValue(null, "lon"), 180);
        double ele = Double.NaN;
        double clock = Double.NaN;
        while (x.hasNext()) {
            int event = x.next();
            if (event == XMLStreamConstants.END_ELEMENT && "trkpt".equals(x.getLocalName())) {
                break;
            }
            if (event == XMLStreamConstants.START_ELEMENT && "ele".equals(x.getLocalName())) {
                ele = Cells.number(x.getElementText());
            } else if (event == XMLStreamConstants.START_ELEMENT && "time".equals(x.getLocalName())) {
                clock = time(name, line, x.getElementText());
            }
        }
        return new Point(lat, lon, ele, clock);
    }

    private static double number(String name, int line, String field, String text, double most) {
        double v = text == null ? Double.NaN : Cells.number(text);
        if (!(Math.abs(v) <= most)) {
            throw new InputProblem(name, line, 0, field, text == null ? message("problem.no-value")
                    : Message.literal("\"" + text + "\""),
                    message("problem.a-track-point-has-lat-and"));
        }
        return v;
    }

    private static double time(String name, int line, String text) {
        try {
            return Instant.parse(text.trim()).toEpochMilli() / 1e3;
        } catch (DateTimeParseException e) {
            throw new InputProblem(name, line, 0, "time", "\"" + text.trim() + "\"",
                    message("problem.times-are-written-like-2026-05"));
        }
    }

    private static Track track(List<Point> points) {
        int n = points.size();
        double[] clock = new double[n];
        double[] speed = new double[n];
        double[] altitude = new double[n];
        for (int i = 0; i < n; i++) {
            Point a = points.get(Math.max(0, i - 1));
            Point b = points.get(Math.min(n - 1, i + 1));
            clock[i] = points.get(i).clockS();
            altitude[i] = points.get(i).ele();
            speed[i] = distance(a, b) / (b.clockS() - a.clockS());
        }
        return new Track(clock, speed, altitude);
    }

    private static double distance(Point a, Point b) {
        double dLat = Math.sin(Math.toRadians(b.lat() - a.lat()) / 2);
        double dLon = Math.sin(Math.toRadians(b.lon() - a.lon()) / 2);
        double h = dLat * dLat + Math.cos(Math.toRadians(a.lat())) * Math.cos(Math.toRadians(b.lat())) * dLon * dLon;
        return 2.0 * EARTH_M * Math.asin(Math.min(1.0, Math.sqrt(h)));
    }
}
