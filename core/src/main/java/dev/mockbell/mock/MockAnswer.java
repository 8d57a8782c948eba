package dev.mockbell.mock;

/**
 * One of the answers of an operation; the first whose condition holds is given.
 *
 * @param when an XPath condition over {@code $request}, the request's payload, and {@code $hits}, how often the
 *     operation was called; empty for "otherwise"
 * @param fault whether it is a fault
 * @param title for people: "sample", the fault's name
 * @param reason of a fault
 * @param body the payload, or the content of the fault's detail, with expressions in braces
 * @param delayMillis how long to wait before answering
 */
public record MockAnswer(String when, boolean fault, String title, String reason, String body, long delayMillis) {
    /** An answer to every request that no other answer takes. */
    public static MockAnswer otherwise(String title, String body) {
        return new MockAnswer("", false, title, "", body, 0);
    }

    public boolean conditional() {
        return !when.isBlank();
    }

    public MockAnswer withWhen(String condition) {
        return new MockAnswer(condition, fault, title, reason, body, delayMillis);
    }

    public MockAnswer withBody(String text) {
        return new MockAnswer(when, fault, title, reason, text, delayMillis);
    }

    public MockAnswer withDelay(long millis) {
        return new MockAnswer(when, fault, title, reason, body, millis);
    }

    public MockAnswer withReason(String text) {
        return new MockAnswer(when, fault, title, text, body, delayMillis);
    }
}
