/**
 * Readings of a running engine: lines from a device over TCP or a serial port ({@link nariz.live.DeviceSource}), made
 * sound line by line ({@link nariz.live.LineFilter}), written down as they come ({@link nariz.live.LiveRecorder}) and
 * shown at once ({@link nariz.live.LiveReadings}). The line protocol is {@code docs/formats/lines.md}.
 */
@NullMarked
package nariz.live;

import org.jspecify.annotations.NullMarked;
