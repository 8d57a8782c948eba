package dev.mockbell.mock;

import java.time.Duration;

/**
 * How much a mock lets in. What is over gets the status that HTTP has for it and a sentence.
 *
 * @param body bytes of one request, unpacked
 * @param depth of elements within each other
 * @param attributes of one element
 * @param connections at once
 * @param requests that are answered at once
 * @param held bytes of all requests that are not answered yet
 * @param idle how long a connection may be silent, between requests or within one
 * @param whole how long a request may take to arrive
 */
public record MockLimits(
        long body, int depth, int attributes, int connections, int requests, long held, Duration idle, Duration whole) {
    public static final MockLimits USUAL = new MockLimits(
            64L << 20, 5_000, 1_000, 8_000, 5_000, 256L << 20, Duration.ofSeconds(60), Duration.ofMinutes(5));
}
