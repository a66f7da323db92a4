package nariz.app;

import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import javafx.application.Platform;

/** The toolkit, started once for all tests of a run. */
public final class Toolkit {
    private Toolkit() {
    }

    /** Starts it; nothing when it runs already. */
    public static void start() {
        CountDownLatch started = new CountDownLatch(1);
        try {
            Platform.startup(started::countDown);
        } catch (IllegalStateException e) {
            started.countDown();
        }
        try {
            if (!started.await(60, TimeUnit.SECONDS)) {
                throw new AssertionError("the toolkit did not start within a minute");
            }
        } catch (InterruptedException e) {
            throw new AssertionError(e);
        }
        Platform.setImplicitExit(false);
    }
}
