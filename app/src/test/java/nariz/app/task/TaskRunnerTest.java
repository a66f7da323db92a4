package nariz.app.task;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import org.testng.annotations.Test;

public class TaskRunnerTest {
    private final List<String> told = new CopyOnWriteArrayList<>();

    private static void await(CountDownLatch l) {
        try {
            assertThat(l.await(20, TimeUnit.SECONDS)).isTrue();
        } catch (InterruptedException e) {
            throw new AssertionError(e);
        }
    }

    @Test
    public void laterTaskTakesThePlaceOfOneThatRunsAndOfOneThatWaits() {
        told.clear();
        CountDownLatch begun = new CountDownLatch(1);
        CountDownLatch go = new CountDownLatch(1);
        CountDownLatch done = new CountDownLatch(1);
        try (TaskRunner r = new TaskRunner("test", Runnable::run)) {
            r.start(cancelled -> {
                begun.countDown();
                await(go);
                return "first " + cancelled.getAsBoolean();
            }, told::add, e -> told.add("failed"));
            await(begun);
            r.start(cancelled -> "second", told::add, e -> told.add("failed"));
            r.start(cancelled -> "third", x -> {
                told.add(x);
                done.countDown();
            }, e -> told.add("failed"));
            go.countDown();
            await(done);
        }
        assertThat(told).containsExactly("third");
    }

    /** An error of the machine is a failure like any other: nobody waits for ever. */
    @Test
    public void errorsEndInTheFailureHandlerAndTheWorkerGoesOn() {
        told.clear();
        CountDownLatch done = new CountDownLatch(2);
        try (TaskRunner r = new TaskRunner("test", Runnable::run)) {
            r.start(cancelled -> {
                throw new OutOfMemoryError("made up");
            }, x -> told.add("done"), e -> {
                told.add(e.getMessage());
                done.countDown();
            });
            r.queue(cancelled -> "next", x -> {
                told.add(x);
                done.countDown();
            }, e -> told.add("failed"));
            await(done);
        }
        assertThat(told).containsExactly("made up", "next");
    }

    @Test
    public void closingWaitsForWhatIsQueuedAndTellsNobodyAnyMore() {
        told.clear();
        List<Integer> kept = new CopyOnWriteArrayList<>();
        CountDownLatch go = new CountDownLatch(1);
        TaskRunner r = new TaskRunner("test", Runnable::run);
        r.queue(cancelled -> {
            await(go);
            return 0;
        }, x -> told.add("told"), e -> { });
        for (int i = 1; i <= 50; i++) {
            int n = i;
            r.queue(cancelled -> kept.add(n), x -> told.add("told"), e -> { });
        }
        new Thread(go::countDown).start();
        r.close();
        assertThat(kept).hasSize(50).isSorted();
        r.queue(cancelled -> kept.add(99), x -> { }, e -> { });
        assertThat(kept).doesNotContain(99);
    }

    @Test
    public void cancelledTaskTellsNothing() {
        told.clear();
        CountDownLatch begun = new CountDownLatch(1);
        CountDownLatch go = new CountDownLatch(1);
        try (TaskRunner r = new TaskRunner("test", Runnable::run)) {
            r.start(cancelled -> {
                begun.countDown();
                await(go);
                return "late";
            }, told::add, e -> told.add("failed"));
            await(begun);
            r.cancel();
            go.countDown();
        }
        assertThat(told).isEmpty();
    }
}
