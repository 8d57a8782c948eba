package dev.mockbell.desktop.model;

import dev.mockbell.problem.Problem;
import java.util.concurrent.Callable;
import java.util.function.Consumer;

/** Does what may take long off the interface thread, and tells of it on that. */
@FunctionalInterface
public interface Elsewhere {
    /**
     * Does {@code work}, then {@code done} or {@code failed}.
     *
     * @param <T> what is made
     */
    <T> void run(Callable<T> work, Consumer<T> done, Consumer<Problem> failed);
}
