package nariz.app.state;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.Random;
import org.testng.annotations.Test;

public class HistoryTest {
    private final History history = new History();
    private int value;

    private void set(int to, boolean ofDrive) {
        int was = value;
        history.record("set " + to, ofDrive, () -> value = was, () -> value = to);
        value = to;
    }

    /** Against the plainest model there is: two stacks of values. */
    @Test
    public void anyWayBackAndForthEndsWhereTwoStacksOfValuesDo() {
        Random r = new Random(12);
        Deque<Integer> done = new ArrayDeque<>();
        Deque<Integer> undone = new ArrayDeque<>();
        value = 0;
        int expected = 0;
        for (int i = 1; i < 5000; i++) {
            switch (r.nextInt(4)) {
                case 0, 1 -> {
                    done.push(expected);
                    if (done.size() > History.LONGEST) {
                        done.removeLast();
                    }
                    undone.clear();
                    expected = i;
                    set(i, true);
                }
                case 2 -> {
                    int steps = 1 + r.nextInt(3);
                    for (int k = 0; k < steps && !done.isEmpty(); k++) {
                        undone.push(expected);
                        expected = done.pop();
                    }
                    history.undo(steps);
                }
                default -> {
                    if (!undone.isEmpty()) {
                        done.push(expected);
                        expected = undone.pop();
                    }
                    history.redo();
                }
            }
            assertThat(value).isEqualTo(expected);
            assertThat(history.titlesProperty().get()).hasSize(done.size());
        }
    }

    @Test
    public void whatConcernsADriveEndsWithItAndTheRestStays() {
        History h = new History();
        StringBuilder log = new StringBuilder();
        h.record("drive taken off", false, () -> log.append("back;"), () -> log.append("again;"));
        h.record("note", true, () -> log.append("note back;"), () -> { });
        assertThat(h.titlesProperty().get()).containsExactly("note", "drive taken off");
        h.endOfDrive();
        assertThat(h.titlesProperty().get()).containsExactly("drive taken off");
        h.undo(5);
        h.redo();
        h.redo();
        assertThat(log).hasToString("back;again;");
        h.clear();
        h.undo(1);
        assertThat(h.titlesProperty().get()).isEmpty();
    }
}
