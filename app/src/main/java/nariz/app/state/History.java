package nariz.app.state;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;

/**
 * What was done in this sitting, each step with what takes it back; the latest {@value #LONGEST}. A step holds what was
 * decided, never a drive or an analysis.
 */
final class History {
    /** More steps than anybody takes back one by one; each is a few words long. */
    static final int LONGEST = 200;
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
    void record(String title, boolean ofDrive, Runnable back, Runnable again) {
        done.push(new Step(title, ofDrive, back, again));
        if (done.size() > LONGEST) {
            done.removeLast();
        }
        undone.clear();
        refresh();
    }

    /** Takes steps back, the latest first. */
    void undo(int steps) {
        for (int i = 0; i < steps && !done.isEmpty(); i++) {
            Step s = done.pop();
            undone.push(s);
            s.back().run();
        }
        refresh();
    }

    /** Brings back what was taken back last; nothing when nothing was. */
    void redo() {
        if (!undone.isEmpty()) {
            Step s = undone.pop();
            done.push(s);
            refresh();
            s.again().run();
        }
    }

    /** Ends the steps that concern the drive that was open. */
    void endOfDrive() {
        done.removeIf(Step::ofDrive);
        undone.removeIf(Step::ofDrive);
        refresh();
    }

    /** Ends all steps. */
    void clear() {
        done.clear();
        undone.clear();
        refresh();
    }

    private void refresh() {
        titles.set(done.stream().map(Step::title).toList());
    }

    /** {@return titles of what undo would take back, the latest first} */
    ReadOnlyObjectProperty<List<String>> titlesProperty() {
        return titles.getReadOnlyProperty();
    }
}
