package dev.mockbell.mock;

/**
 * Hears of each request after it was answered, on the thread that answered it; different requests come from different
 * threads at once. It must not block; what it throws is dropped.
 */
@FunctionalInterface
public interface MockListener {
    void answered(MockEvent event);
}
