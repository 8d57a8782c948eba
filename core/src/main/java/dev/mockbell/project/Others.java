package dev.mockbell.project;

import java.util.Optional;

/** Hears of what other programs do in a project's folder, on the saver's thread. Nothing of it may block. */
public interface Others {
    /** Nobody listens. */
    Others NONE = new Others() {
        @Override
        public void changed(String key, Optional<Part> before, Optional<Part> now) {
            // nobody does
        }

        @Override
        public void clash(Clash clash) {
            // nobody does
        }
    };

    /**
     * A part was changed by another program.
     *
     * @param before what this program saw last; empty when there was none
     * @param now what is there; empty when it was deleted
     */
    void changed(String key, Optional<Part> before, Optional<Part> now);

    /** A part was changed by both. */
    void clash(Clash clash);

    /**
     * Files of a contract are others than before, by whatever program; {@link ProjectStore#contractIfOther} says whether what they
     * hold is.
     *
     * @param name its short name
     */
    default void contract(String name) {
        // who keeps none does not care
    }
}
