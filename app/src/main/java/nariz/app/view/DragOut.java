package nariz.app.view;

import static nariz.app.words.WindowWords.say;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import javafx.scene.control.Label;
import javafx.scene.control.Tooltip;
import javafx.scene.input.ClipboardContent;
import javafx.scene.input.Dragboard;
import javafx.scene.input.TransferMode;
import nariz.app.state.Drive;
import nariz.app.state.Session;

/**
 * Takes the open drive out of the window as a file. A drag needs the file before it begins, so that it is written when
 * the pointer comes near, beside the interface thread.
 */
final class DragOut {
    private final Session session;
    private final Label handle;
    private Path ready;
    private long written = -1;

    private DragOut(Label handle, Session session) {
        this.session = session;
        this.handle = handle;
        handle.setOnMouseEntered(e -> prepare());
        handle.setOnDragDetected(e -> {
            if (ready != null) {
                Dragboard board = handle.startDragAndDrop(TransferMode.COPY);
                ClipboardContent content = new ClipboardContent();
                content.putFiles(List.of(ready.toFile()));
                board.setContent(content);
                e.consume();
            }
        });
    }

    /** Makes a label the handle of the open drive. */
    static void by(Label handle, Session session) {
        new DragOut(handle, session);
    }

    private void prepare() {
        Drive d = session.driveProperty().get();
        if (d == null || d.run().isEmpty()) {
            ready = null;
            handle.setTooltip(null);
        } else if (d.run().get() != written) {
            ready = null;
            long run = d.run().get();
            written = run;
            try {
                String name = d.log().name().replaceFirst("\\.[^.]*$", "") + ".csv";
                Path file = Files.createTempDirectory("nariz").resolve(name);
                session.garage().copy(run, file, () -> {
                    if (written == run) {
                        ready = file;
                        handle.setTooltip(new Tooltip(say("drag-out.help", name)));
                    }
                });
            } catch (IOException e) {
                session.complain(say("main-window.the-rows-could-not", e.getMessage()));
            }
        }
    }
}
