package nariz.app.chart;

import java.util.ArrayList;
import java.util.List;
import javafx.beans.value.ChangeListener;
import javafx.beans.value.ObservableValue;
import javafx.beans.value.WeakChangeListener;
import javafx.scene.Node;

/**
 * Lets a node listen to the session without being kept alive by it. The session outlives its windows: another language
 * puts a new one in the old one's place, and the listeners are weak so that replaced windows can be collected.
 */
public final class WeakListeners {
    private WeakListeners() {
    }

    /**
     * Tells a listener of changes for as long as a node is in use.
     *
     * @param value what is followed
     * @param by node that follows; it holds the listener
     * @param listener told of every change
     * @param <T> type of the value
     */
    public static <T> void attach(ObservableValue<T> value, Node by, ChangeListener<? super T> listener) {
        @SuppressWarnings("unchecked")
        List<Object> held = (List<Object>) by.getProperties().computeIfAbsent(WeakListeners.class, k ->
                new ArrayList<>());
        held.add(listener);
        value.addListener(new WeakChangeListener<>(listener));
    }
}
