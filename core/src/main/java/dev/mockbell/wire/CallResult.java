package dev.mockbell.wire;

import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.Timing;
import java.time.Instant;
import java.util.Optional;

/**
 * What became of a call.
 *
 * @param response empty when none came
 * @param failure why none came, a sentence; empty when one did
 */
public record CallResult(
        Instant started,
        HttpMessage request,
        Optional<HttpMessage> response,
        Timing timing,
        Optional<String> failure) {}
