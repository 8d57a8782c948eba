package dev.mockbell.wire;

import dev.mockbell.exchange.Message;
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
        Instant started, Message request, Optional<Message> response, Timing timing, Optional<String> failure) {}
