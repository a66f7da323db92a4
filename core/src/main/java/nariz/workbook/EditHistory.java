package nariz.workbook;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.Optional;

/** Changes of this sitting, each with what takes it back; the latest {@value #LONGEST}. Any thread. */
final class EditHistory {
    private static final int LONGEST = 200;
    private final Deque<Edit> done = new ArrayDeque<>();
    private final Deque<Edit> undone = new ArrayDeque<>();

    /** A change with what takes it back; both run in a transaction of their own. */
    private record Edit(String title, Runnable again, Runnable back) {
    }

    /** Runs a change and remembers how to take it back. */
    void run(String title, Runnable again, Runnable back) {
        again.run();
        add(title, again, back);
    }

    /** Remembers how to take back what has just been done. */
    synchronized void add(String title, Runnable again, Runnable back) {
        done.push(new Edit(title, again, back));
        if (done.size() > LONGEST) {
            done.removeLast();
        }
        undone.clear();
    }

    synchronized Optional<String> undoTitle() {
        return Optional.ofNullable(done.peek()).map(Edit::title);
    }

    synchronized Optional<String> redoTitle() {
        return Optional.ofNullable(undone.peek()).map(Edit::title);
    }

    synchronized void undo() {
        if (!done.isEmpty()) {
            done.peek().back().run();
            undone.push(done.pop());
        }
    }

    synchronized void redo() {
        if (!undone.isEmpty()) {
            undone.peek().again().run();
            done.push(undone.pop());
        }
    }
}
