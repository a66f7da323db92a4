package nariz.workbook;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import nariz.carburetor.PartChange;
import nariz.carburetor.Stage;
import nariz.family.metered.MeteredParts;
import nariz.log.LogReader;
import nariz.testing.Samples;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Anything done to a workbook, in any order, taken back and brought back, against lists in memory. */
public class WorkbookHistoryTest {
    private static final int STEPS = 220;

    /** What a workbook should hold. */
    private record State(List<String> notes, List<String> plans, List<String> excluded, List<String> lookedFor,
            boolean removed) {
        State {
            notes = List.copyOf(notes);
            plans = List.copyOf(plans);
            excluded = List.copyOf(excluded);
            lookedFor = List.copyOf(lookedFor);
        }

        private static List<String> with(List<String> list, String s) {
            List<String> out = new ArrayList<>(list);
            out.add(s);
            return out;
        }

        private static List<String> without(List<String> list, String s) {
            List<String> out = new ArrayList<>(list);
            out.remove(s);
            return out;
        }
    }

    private static State read(Workbook w, long vehicle, Workbook.Sheet sheet, long run) {
        return new State(w.notes().of(vehicle).stream().map(VehicleNotes.Note::text).toList(),
                w.plans().of(vehicle).stream().filter(p -> p.sheet() == sheet.id()).map(PartPlans.PartPlan::name)
                        .toList(), w.exclusions().of(run).stream()
                .map(e -> e.fromS() + "-" + e.toS()).toList(), w.lookedFor(run), w.runs().stream().noneMatch(r -> r.id()
                == run));
    }

    private static void assertSame(State is, State wanted, int step) {
        assertThat(is.notes()).as("notes at %d", step).containsExactlyInAnyOrderElementsOf(wanted.notes());
        assertThat(is.plans()).as("plans at %d", step).containsExactlyInAnyOrderElementsOf(wanted.plans());
        assertThat(is.excluded()).as("stretches at %d", step).containsExactlyInAnyOrderElementsOf(wanted.excluded());
        assertThat(is.lookedFor()).as("causes at %d", step).containsExactlyInAnyOrderElementsOf(wanted.lookedFor());
        assertThat(is.removed()).as("run at %d", step).isEqualTo(wanted.removed());
    }

    @DataProvider
    Object[][] seeds() {
        return new Object[][] {{1L}, {2L}, {3L}, {4L}};
    }

    @Test(dataProvider = "seeds")
    public void anyOrderOfStepsEndsWhereListsInMemoryDo(long seed) throws IOException {
        Path folder = Files.createTempDirectory("nariz");
        Path log = Files.writeString(folder.resolve("drive.csv"), Samples.log());
        Path file = folder.resolve("garage.nariz");
        Workbook w = Workbook.open(file);
        long vehicle = w.vehicle("estate").id();
        Workbook.Sheet sheet = w.addSheet(vehicle, Samples.sheet());
        long run = w.addRun(sheet, LogReader.record(log, null, () -> false, n -> { }), log, () -> false).id();
        Random r = new Random(seed);
        State now = new State(List.of(), List.of(), List.of(), List.of(), false);
        Deque<State> done = new ArrayDeque<>();
        Deque<State> undone = new ArrayDeque<>();
        for (int i = 0; i < STEPS; i++) {
            int what = r.nextInt(12);
            if (what < 3 && !done.isEmpty()) {
                undone.push(now);
                now = done.pop();
                w.undo();
            } else if (what == 3 && !undone.isEmpty()) {
                done.push(now);
                now = undone.pop();
                w.redo();
            } else if (what == 4) {
                // Closed and opened again: what could be taken back before stays as it is.
                w.close();
                w = Workbook.open(file);
                done.clear();
                undone.clear();
            } else {
                State next = change(w, vehicle, sheet, run, now, what, i, r);
                if (!next.equals(now)) {
                    done.push(now);
                    undone.clear();
                    now = next;
                }
            }
            assertSame(read(w, vehicle, sheet, run), now, i);
        }
        w.close();
        try (Workbook again = Workbook.open(file)) {
            assertSame(read(again, vehicle, sheet, run), now, STEPS);
        }
    }

    private static State change(Workbook w, long vehicle, Workbook.Sheet sheet, long run, State s, int what, int i,
            Random r) {
        return switch (what) {
            case 5, 6 -> {
                boolean ofRun = r.nextBoolean();
                w.notes().add(vehicle, ofRun ? Optional.of(run) : Optional.empty(), ofRun ? Optional.of(i / 4.0)
                        : Optional.empty(), "note " + i);
                yield new State(State.with(s.notes(), "note " + i), s.plans(), s.excluded(), s.lookedFor(),
                        s.removed());
            }
            case 7 -> {
                List<VehicleNotes.Note> all = w.notes().of(vehicle);
                if (all.isEmpty()) {
                    yield s;
                }
                VehicleNotes.Note n = all.get(r.nextInt(all.size()));
                w.notes().remove(vehicle, n);
                yield new State(State.without(s.notes(), n.text()), s.plans(), s.excluded(), s.lookedFor(),
                        s.removed());
            }
            case 8 -> {
                List<PartPlans.PartPlan> all = w.plans().of(vehicle);
                if (!all.isEmpty() && r.nextBoolean()) {
                    PartPlans.PartPlan p = all.get(r.nextInt(all.size()));
                    w.plans().remove(vehicle, p);
                    yield new State(s.notes(), State.without(s.plans(), p.name()), s.excluded(), s.lookedFor(),
                            s.removed());
                }
                w.plans().add(sheet, "plan " + i, List.of(new PartChange(MeteredParts.MAIN_JET, Stage.PRIMARY, 61, 60
                        + i % 9)));
                yield new State(s.notes(), State.with(s.plans(), "plan " + i), s.excluded(), s.lookedFor(),
                        s.removed());
            }
            case 9 -> {
                List<Exclusions.Excluded> all = w.exclusions().of(run);
                if (!all.isEmpty() && r.nextBoolean()) {
                    Exclusions.Excluded e = all.get(r.nextInt(all.size()));
                    w.exclusions().remove(run, e);
                    yield new State(s.notes(), s.plans(), State.without(s.excluded(), e.fromS() + "-" + e.toS()),
                            s.lookedFor(), s.removed());
                }
                w.exclusions().add(run, i, i + 0.5, "test");
                yield new State(s.notes(), s.plans(), State.with(s.excluded(), (double) i + "-" + (i + 0.5)),
                        s.lookedFor(), s.removed());
            }
            case 10 -> {
                String cause = "cause-" + r.nextInt(3);
                boolean sound = !s.lookedFor().contains(cause);
                w.lookedFor(run, cause, sound);
                yield new State(s.notes(), s.plans(), s.excluded(), sound ? State.with(s.lookedFor(), cause)
                        : State.without(s.lookedFor(), cause), s.removed());
            }
            case 11 -> {
                w.runRemoved(run, !s.removed());
                yield new State(s.notes(), s.plans(), s.excluded(), s.lookedFor(), !s.removed());
            }
            default -> s;
        };
    }
}
