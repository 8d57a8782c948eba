package dev.mockbell.suite;

/**
 * Hears of a run as it goes: {@link #started}, then {@link #stepStarted} and {@link #stepFinished} for each step in order,
 * then {@link #finished}, all from the thread that runs the suite. A listener must not block; what it throws ends the run.
 * After a stop the steps not come to are reported finished as not run, with no start.
 */
public interface RunListener {
    /** Nobody listens. */
    RunListener NONE = new RunListener() {};

    default void started(Suite suite) {}

    default void stepStarted(int index, Step step) {}

    default void stepFinished(int index, StepResult result) {}

    default void finished(Run run) {}
}
