package nariz.app.state;

import static nariz.app.words.WindowWords.say;

import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.ReadOnlyStringWrapper;
import nariz.carburetor.InputProblem;
import nariz.carburetor.PartChange;
import nariz.carburetor.SheetDraft;
import nariz.log.Span;
import nariz.text.Message;
import nariz.workbook.AtomicFile;

/** The workbook as a list of kept drives, and files written out. Called on the interface thread. */
public final class Garage {
    private final SessionContext context;
    private final ReadOnlyObjectWrapper<List<DriveRepository.Entry>> kept = new ReadOnlyObjectWrapper<>(List.of());
    private final ReadOnlyObjectWrapper<List<Car>> cars = new ReadOnlyObjectWrapper<>(List.of());
    private final ReadOnlyStringWrapper workbook = new ReadOnlyStringWrapper("");
    /** Whether recordings that a crash cut short were looked for; on the storage worker alone. */
    private boolean recovered;

    Garage(SessionContext context) {
        this.context = context;
        workbook.set(context.repository.name());
    }

    private record Inside(List<DriveRepository.Entry> kept, List<Car> cars) {
        static Inside of(DriveRepository r) {
            return new Inside(r.entries(), r.cars());
        }
    }

    private record Found(Inside inside, DriveRepository.Recorded cutShort) {
    }

    private void tell(DriveRepository.Recorded cutShort) {
        if (!cutShort.files().isEmpty()) {
            context.complain(say("live.saved-as", cutShort.files().getFirst()));
        } else if (!cutShort.runs().isEmpty()) {
            context.complain(say("live.recovered", cutShort.runs().size()));
        }
    }

    private void show(Inside inside) {
        kept.set(inside.kept());
        cars.set(inside.cars());
    }

    /** {@return the cars of the workbook, the one driven last first} */
    public ReadOnlyObjectProperty<List<Car>> carsProperty() {
        return cars.getReadOnlyProperty();
    }

    /**
     * The car of a kept drive.
     *
     * @param d drive
     * @return its car; empty for a drive that is not kept
     */
    public Optional<Car> carOf(Drive d) {
        return d.run().flatMap(r -> cars.get().stream().filter(c -> c.drives().stream().anyMatch(e -> e.run() == r))
                .findFirst());
    }

    /**
     * Keeps a build sheet as the newest of its car, and begins the car where there is none of its name.
     *
     * @param json the sheet
     */
    public void keepSheet(String json) {
        storeSheet(new SheetText(say("sheet-panel.the-sheet"), json));
    }

    /**
     * Writes parts down as fitted: the car's newest sheet carries them from now on, and undo takes them off again.
     *
     * @param changes parts with their new sizes
     */
    public void fitted(List<PartChange> changes) {
        Drive d = context.drive.get();
        if (d == null || d.run().isEmpty()) {
            context.complain(say("garage.not-kept"));
            return;
        }
        long run = d.run().get();
        context.storage.queue(c -> {
            SheetText before = context.repository.newestSheet(run);
            SheetDraft draft = SheetDraft.of(before.name(), before.json());
            changes.forEach(draft::fit);
            return List.of(before, new SheetText(before.name(), draft.json()));
        }, sheets -> {
            context.history.record(say("garage.fitted", Message.join("; ", changes.stream().map(PartChange::text)
                    .toList())), false, () -> storeSheet(sheets.getFirst()), () -> storeSheet(sheets.getLast()));
            storeSheet(sheets.getLast());
        }, e -> context.complain(context.words(e)));
    }

    private void storeSheet(SheetText text) {
        context.storage.queue(c -> {
            context.repository.keepSheet(text);
            return Inside.of(context.repository);
        }, this::show, e -> context.complain(context.words(e)));
    }

    /** Reads the list anew. */
    void list() {
        if (context.repository.keeps()) {
            context.storage.queue(c -> {
                DriveRepository.Recorded cut = recovered || !context.repository.there() ? new DriveRepository.Recorded(
                        List.of(), List.of()) : context.repository.recover();
                recovered = true;
                return new Found(Inside.of(context.repository), cut);
            }, found -> {
                show(found.inside());
                tell(found.cutShort());
                if (!context.repository.damage().isEmpty()) {
                    context.complain(say("session.the-workbook-is-damaged", context.repository.damage()));
                }
            }, e -> context.complain(
                    say("session.drives-cannot-be-kept", context.words(e))));
        }
    }

    /** Goes on with another workbook; {@code then} runs once it is open. */
    void turnTo(Path file, Path from, Runnable then) {
        context.busy.set(say("session.opening", file.getFileName()));
        context.problem.set("");
        context.storage.queue(c -> {
            context.repository.turnTo(file, from);
            DriveRepository.Recorded cut = context.repository.recover();
            return new Found(Inside.of(context.repository), cut);
        }, found -> {
            context.busy.set("");
            then.run();
            workbook.set(context.repository.name());
            show(found.inside());
            tell(found.cutShort());
        }, context::fail);
    }

    /**
     * Writes a file beside the interface thread; what stood there is replaced only once the new one is whole.
     *
     * @param file where to
     * @param writing writes it
     * @param then runs once it is written; not when that fails
     */
    public void write(Path file, AtomicFile.Content writing, Runnable then) {
        writeOut(file, () -> AtomicFile.write(file, writing), then);
    }

    /**
     * Writes the whole workbook out as CSV and JSON.
     *
     * @param folder an empty folder, or one to make
     */
    public void exportAll(Path folder) {
        writeOut(folder, () -> context.repository.exportAll(folder), () -> { });
    }

    /**
     * Writes the open drive out: the selected stretch or all of it as CSV with a row of units, or the whole as a data
     * package where the name ends in .zip.
     *
     * @param stretch stretch to write, or null for all
     * @param file where to
     */
    public void export(Span stretch, Path file) {
        Drive d = context.drive.get();
        if (d == null) {
            return;
        }
        if (d.run().isEmpty()) {
            context.complain(say("session.only-kept-drives-are"));
            return;
        }
        writeOut(file, () -> context.repository.export(d.run().get(), stretch, file), () -> { });
    }

    /**
     * Copies a kept drive into a file, without a word about it.
     *
     * @param run its key
     * @param file where to
     * @param then runs once it is there
     */
    public void copy(long run, Path file, Runnable then) {
        context.storage.queue(c -> {
            try {
                context.repository.export(run, null, file);
                return file;
            } catch (IOException e) {
                throw new java.io.UncheckedIOException(e);
            }
        }, f -> then.run(), e -> context.complain(context.words(e)));
    }

    /** Work on a file that may fail. */
    @FunctionalInterface
    private interface FileWork {
        void run() throws IOException;
    }

    private void writeOut(Path file, FileWork work, Runnable then) {
        String what = say("session.writing", file.getFileName());
        if (context.busy.get().isEmpty()) {
            context.busy.set(what);
        }
        context.problem.set("");
        // Not on the worker that reads logs: starting there would cancel one.
        context.storage.queue(cancelled -> {
            try {
                work.run();
                return file;
            } catch (IOException e) {
                throw new InputProblem(String.valueOf(file.getFileName()), 0, 0, "",
                        Message.literal(say("session.a-place-that-cannot", e.getClass().getSimpleName())),
                        Message.literal(say("session.choose-another-folder-nothing")));
            }
        }, f -> {
            written(what);
            then.run();
        }, e -> {
            written(what);
            context.complain(context.words(e));
        });
    }

    private void written(String what) {
        if (context.busy.get().equals(what)) {
            context.busy.set("");
        }
    }

    /**
     * Takes a kept drive off the list.
     *
     * @param run its key
     */
    public void takeOff(long run) {
        context.history.record(say("session.drive-taken-off-the"), false, () -> removed(run, false),
                () -> removed(run, true));
        removed(run, true);
    }

    private void removed(long run, boolean off) {
        context.storage.queue(c -> {
            context.repository.removed(run, off);
            return Inside.of(context.repository);
        }, this::show, e -> context.complain(context.words(e)));
    }

    /** {@return drives kept in the workbook, the latest first} */
    public ReadOnlyObjectProperty<List<DriveRepository.Entry>> keptProperty() {
        return kept.getReadOnlyProperty();
    }

    /** {@return whether there is a workbook to keep cars in} */
    public boolean keeps() {
        return context.repository.keeps();
    }

    /** {@return name of the workbook drives are kept in, or empty} */
    public ReadOnlyStringProperty workbookProperty() {
        return workbook.getReadOnlyProperty();
    }
}
