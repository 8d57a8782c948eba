package dev.mockbell.listing;

import dev.mockbell.task.StopSignal;
import java.net.URI;

/** Sends a SOAP 1.1 message and brings the answer. */
@FunctionalInterface
public interface SoapPost {
    /**
     * Sends an envelope.
     *
     * @return the body of the answer, whatever its status; empty when it has none
     * @throws dev.mockbell.problem.Problem when there is no answer
     */
    byte[] post(URI address, String action, byte[] envelope, StopSignal stop);
}
