package nariz.app.plot;

import java.util.ArrayList;
import java.util.List;
import javafx.beans.value.ChangeListener;
import javafx.beans.value.ObservableValue;
import javafx.beans.value.WeakChangeListener;
import javafx.scene.Node;

/**
 * Lets a node follow the session without being kept alive by it. The session outlives its windows: another language
 * puts a new one in the old one's place, and what the old one drew must not be drawn for ever after.
 */
public final class Follow {
    private Follow() {
    }

    /**
     * Tells a listener of changes for as long as a node is in use.
     *
     * @param value what is followed
     * @param by node that follows; it holds the listener
     * @param listener told of every change
     * @param <T> type of the value
     */
    public static <T> void the(ObservableValue<T> value, Node by, ChangeListener<? super T> listener) {
        @SuppressWarnings("unchecked")
        List<Object> held = (List<Object>) by.getProperties().computeIfAbsent(Follow.class, k -> new ArrayList<>());
        held.add(listener);
        value.addListener(new WeakChangeListener<>(listener));
    }
}
