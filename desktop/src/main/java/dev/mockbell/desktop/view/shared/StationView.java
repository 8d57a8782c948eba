package dev.mockbell.desktop.view.shared;

import java.util.List;
import javafx.scene.Parent;

/** What the frame asks of the station that is shown. */
public interface StationView {
    /** The station's nodes. */
    Parent node();

    /** Does what the station is for: what Ctrl+Enter means there. */
    void act();

    /** What {@link #act} does, in words. */
    String acts();

    /** Goes to where something is found in what is shown; whether there is such a place. */
    default boolean find() {
        return false;
    }

    /**
     * What brings to speed that which the station will show first, so that it need not be waited for then: steps, each done
     * while nobody does anything, and none that can be seen.
     */
    default List<Runnable> practice() {
        return List.of();
    }

    /** Explains what the keyboard is on; whether there was something to explain. */
    default boolean explain() {
        return false;
    }

    /**
     * Takes the last edit back, or makes it again.
     *
     * @param typing whether the keyboard is in a field, which may have a history of its own
     * @return whether it was the station's to do so
     */
    default boolean undo(boolean redo, boolean typing) {
        return false;
    }
}
