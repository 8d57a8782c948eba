package dev.mockbell.suite;

import dev.mockbell.exchange.Exchange;
import java.time.Instant;

/** What a run tells as it goes, in this order and from the thread that runs it. */
public sealed interface RunEvent {
    /** When it happened. */
    Instant at();

    /** The run begins. */
    record Started(Instant at, Suite suite, String environment) implements RunEvent {}

    /**
     * A step begins.
     *
     * @param round which row or round of the steps around it; empty where it runs once
     */
    record StepStarted(Instant at, StepPath path, String round, String name) implements RunEvent {}

    /** A step has had its answer, or none; the exchange is on the ledger and has its number. */
    record Called(Instant at, StepPath path, String round, Exchange exchange) implements RunEvent {}

    /** A row of known values of a step has ended. */
    record RowFinished(Instant at, StepPath path, String round, StepResult result) implements RunEvent {}

    /** A step has ended, or is not run. One that is not run has no start. */
    record StepFinished(Instant at, StepPath path, String round, StepResult result) implements RunEvent {}

    /** The run has ended; the last event. */
    record Finished(Instant at, Run run) implements RunEvent {}
}
