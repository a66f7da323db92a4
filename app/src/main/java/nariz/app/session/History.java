package nariz.app.session;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;

/** What was done in this sitting, each step with what takes it back; without an end. */
final class History {
    private final ReadOnlyObjectWrapper<List<String>> titles = new ReadOnlyObjectWrapper<>(List.of());
    private final Deque<Step> done = new ArrayDeque<>();
    private final Deque<Step> undone = new ArrayDeque<>();

    /** A step; what concerns one drive alone ends with it. */
    private record Step(String title, boolean ofDrive, Runnable back, Runnable again) {
    }

    /**
     * Takes note of something done. Steps that were taken back before can no longer be brought back.
     *
     * @param title what it was, for people
     * @param ofDrive whether it concerns the open drive alone
     * @param back takes it back
     * @param again does it once more
     */
    void did(String title, boolean ofDrive, Runnable back, Runnable again) {
        done.push(new Step(title, ofDrive, back, again));
        undone.clear();
        tell();
    }

    /** Takes steps back, the latest first. */
    void undo(int steps) {
        for (int i = 0; i < steps && !done.isEmpty(); i++) {
            Step s = done.pop();
            undone.push(s);
            s.back().run();
        }
        tell();
    }

    /** Brings back what was taken back last; nothing when nothing was. */
    void redo() {
        if (!undone.isEmpty()) {
            Step s = undone.pop();
            done.push(s);
            tell();
            s.again().run();
        }
    }

    /** Ends the steps that concern the drive that was open. */
    void endOfDrive() {
        done.removeIf(Step::ofDrive);
        undone.removeIf(Step::ofDrive);
        tell();
    }

    /** Ends all steps. */
    void clear() {
        done.clear();
        undone.clear();
        tell();
    }

    private void tell() {
        titles.set(done.stream().map(Step::title).toList());
    }

    /** {@return titles of what undo would take back, the latest first} */
    ReadOnlyObjectProperty<List<String>> titlesProperty() {
        return titles.getReadOnlyProperty();
    }
}
