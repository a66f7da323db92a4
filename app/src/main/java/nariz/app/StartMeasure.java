package nariz.app;

import java.lang.management.ManagementFactory;
import javafx.animation.AnimationTimer;
import javafx.application.Platform;
import javafx.stage.Stage;
import nariz.app.state.Session;

/** With {@code -Dnariz.measure=true}: prints when after the JVM's start the window and the answer stood, and ends. */
final class StartMeasure {
    private StartMeasure() {
    }

    static void on(Session session, Stage stage) {
        new AnimationTimer() {
            private int frames;
            private boolean window;

            @Override
            public void handle(long now) {
                if (!window && stage.isShowing() && ++frames == 2) {
                    window = true;
                    print("window after");
                }
                if (window && session.driveProperty().get() != null && ++frames > 4) {
                    print("answer after");
                    stop();
                    Platform.exit();
                }
            }
        }.start();
    }

    private static void print(String what) {
        long ms = System.currentTimeMillis() - ManagementFactory.getRuntimeMXBean().getStartTime();
        System.out.println(what + " " + ms + " ms");
    }
}
