package nariz.app.view;

import java.util.List;
import java.util.function.BooleanSupplier;
import javafx.scene.input.KeyCombination;
import javafx.scene.input.KeyEvent;

/**
 * One thing that can be done in the window.
 *
 * @param id name in the program
 * @param title what it does, for people
 * @param keys keys that do it, the usual one first; none where there is no key
 * @param where name of the picture that must have the focus, or empty where the keys work anywhere
 * @param place the same for people
 * @param usable whether it can be done now
 * @param run does it
 */
record Action(String id, String title, List<KeyCombination> keys, String where, String place, BooleanSupplier usable,
        Runnable run) {
    /** Copies the list. */
    Action {
        keys = List.copyOf(keys);
    }

    /** Whether a key press asks for it; modifiers must match as well. */
    boolean asked(KeyEvent e) {
        return keys.stream().anyMatch(k -> k.match(e));
    }

    /** {@return the usual key in words, or empty} */
    String key() {
        return keys.isEmpty() ? "" : shown(keys.getFirst());
    }

    /** A key as it stands on the keyboard. */
    static String shown(KeyCombination k) {
        return k.getDisplayText();
    }
}
