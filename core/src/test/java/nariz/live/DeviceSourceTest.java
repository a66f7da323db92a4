package nariz.live;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import nariz.carburetor.BuildSheet;
import nariz.sim.Demo;
import nariz.sim.RunningEngine;
import nariz.sim.StandInDevice;
import nariz.testing.Await;
import nariz.testing.PseudoTerminal;
import nariz.workbook.Workbook;
import org.testng.SkipException;
import org.testng.annotations.Test;

/** A device that is plugged, unplugged, dumb and drunk, over TCP and over a serial pair. */
public class DeviceSourceTest {
    private static final BuildSheet SHEET = Demo.ESTATE.sheet();

    private static StandInDevice device(StandInDevice.Manners m) {
        return StandInDevice.on(new RunningEngine(SHEET, 3, 4), m);
    }

    private static List<String> read(DeviceSource s, int rows) throws IOException {
        List<String> out = new ArrayList<>();
        while (out.size() < rows) {
            Optional<String> line = s.next();
            if (line.isEmpty()) {
                break;
            }
            out.add(line.get());
        }
        return out;
    }

    @Test
    public void pluggedInAgainItGoesOnWithoutLosingWhatWasRead() throws IOException, InterruptedException {
        try (StandInDevice d = device(new StandInDevice.Manners(100, 2, 0, 0, true, true, 1))) {
            DeviceAddress a = d.listen(0);
            try (DeviceSource s = new DeviceSource(a)) {
                List<String> first = read(s, 40);
                assertThat(first.getFirst()).startsWith("time (s),rpm");
                d.unplug();
                List<String> more = read(s, 60);
                assertThat(s.reconnections()).isEqualTo(1);
                // One header in all, and a clock that only goes forward.
                assertThat(more).noneMatch(l -> l.startsWith("time"));
                double last = 0;
                first.addAll(more);
                for (String l : first.subList(1, first.size())) {
                    double t = Double.parseDouble(l.substring(0, l.indexOf(',')));
                    assertThat(t).isGreaterThan(last);
                    last = t;
                }
            }
        }
    }

    @Test
    public void nobodyThereSilenceAndGarbageAreToldApart() throws IOException, InterruptedException {
        DeviceSource nobody = new DeviceSource(new DeviceAddress(false, "127.0.0.1", 1));
        Thread t = Thread.ofVirtual().start(() -> next(nobody));
        Await.until("what the device does", () -> !nobody.trouble().isEmpty());
        assertThat(nobody.state()).isEqualTo(DeviceSource.State.WAITING);
        nobody.close();
        t.join(3000);
        try (StandInDevice d = device(new StandInDevice.Manners(100, 1, 0, 0.9, false, true, 2))) {
            try (DeviceSource s = new DeviceSource(d.listen(0))) {
                Thread r = Thread.ofVirtual().start(() -> {
                    while (next(s).isPresent()) {
                        Thread.onSpinWait();
                    }
                });
                Await.until("what the device does", () -> s.state() == DeviceSource.State.GARBAGE);
                assertThat(s.tally().malformed()).isGreaterThan(10);
                assertThat(r.isAlive()).isTrue();
            }
        }
        try (StandInDevice d = device(StandInDevice.Manners.GOOD)) {
            d.quiet(true);
            try (DeviceSource s = new DeviceSource(d.listen(0))) {
                Thread r = Thread.ofVirtual().start(() -> {
                    while (next(s).isPresent()) {
                        Thread.onSpinWait();
                    }
                });
                Await.until("what the device does", () -> s.state() == DeviceSource.State.SILENT);
                d.quiet(false);
                Await.until("what the device does", () -> s.state() == DeviceSource.State.READING);
                assertThat(r.isAlive()).isTrue();
            }
        }
    }

    private static Optional<String> next(DeviceSource s) {
        try {
            return s.next();
        } catch (IOException e) {
            return Optional.empty();
        }
    }

    @Test
    public void serialPairIsRecordedIntoAWorkbook() throws IOException {
        if (!PseudoTerminal.there()) {
            throw new SkipException("no pseudo-terminals here");
        }
        var file = Files.createTempDirectory("nariz").resolve("live.nariz");
        try (PseudoTerminal pair = new PseudoTerminal(); Workbook w = Workbook.open(file)) {
            try (StandInDevice d = device(new StandInDevice.Manners(50, 4, 0.02, 0, true, true, 5))) {
                DeviceSource s = new DeviceSource(DeviceAddress.parse("serial:" + pair.name(false)));
                Workbook.Sheet sheet = w.addSheet(w.vehicle("estate").id(), Demo.ESTATE.sheetJson());
                long id = w.recordings().begin(sheet, "serial", null);
                Thread plug = Thread.ofVirtual().start(() -> plug(d, pair, s));
                try (LiveRecorder r = new LiveRecorder(lines -> w.recordings().append(id, lines))) {
                    read(s, 300).forEach(r::add);
                }
                s.close();
                plug.join(2000);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
            assertThat(w.recordings().unfinished()).hasSize(1);
            Workbook.Run run = w.recordings().finish(w.recordings().unfinished().getFirst());
            assertThat(run.samples()).isEqualTo(299);
            assertThat(w.recordings().unfinished()).isEmpty();
            assertThat(w.hasFile(run.id())).isTrue();
        }
    }

    private static void plug(StandInDevice d, PseudoTerminal pair, DeviceSource listener) {
        try {
            // What is printed before the listener has opened its end is lost, as on a real port.
            Await.until("the listener", () -> listener.state() == DeviceSource.State.SILENT);
            d.print(DeviceAddress.parse("serial:" + pair.name(true)));
        } catch (IOException e) {
            throw new IllegalStateException(e);
        }
    }

    @Test
    public void whatACrashCutShortIsThereWhenTheWorkbookIsOpenedNext() throws IOException {
        var file = Files.createTempDirectory("nariz").resolve("cut.nariz");
        try (Workbook w = Workbook.open(file)) {
            long id = w.recordings().begin(w.addSheet(w.vehicle("estate").id(), Demo.ESTATE.sheetJson()), "cut", null);
            List<String> lines = new ArrayList<>(List.of("time (s),rpm (1/min),vacuum (inHg),lambda"));
            for (int i = 0; i < 200; i++) {
                lines.add(String.format(java.util.Locale.ROOT, "%.2f,800,18,0.95", 0.05 * i));
            }
            w.recordings().append(id, lines);
            w.recordings().append(id, List.of("10.05,800,18,0.95"));
        }
        try (Workbook w = Workbook.open(file)) {
            assertThat(w.runs()).isEmpty();
            assertThat(w.recordings().finish(w.recordings().unfinished().getFirst()).samples()).isEqualTo(201);
            assertThat(w.damage()).isEmpty();
        }
    }

    @Test
    public void whileTheDiskIsFullLinesWait() throws InterruptedException {
        List<String> kept = java.util.Collections.synchronizedList(new ArrayList<>());
        boolean[] full = {true};
        LiveRecorder r = new LiveRecorder(lines -> {
            if (full[0]) {
                throw new IllegalStateException("no room");
            }
            kept.addAll(lines);
        });
        r.add("a");
        r.add("b");
        Await.until("what the device does", () -> r.trouble().equals("no room"));
        r.add("c");
        full[0] = false;
        Await.until("what the device does", () -> kept.size() == 3);
        assertThat(kept).containsExactly("a", "b", "c");
        assertThat(r.trouble()).isEmpty();
        r.add("d");
        r.close();
        assertThat(kept).containsExactly("a", "b", "c", "d");
        assertThat(r.dropped()).isZero();
    }
}
