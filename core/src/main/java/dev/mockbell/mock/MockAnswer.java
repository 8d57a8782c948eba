package dev.mockbell.mock;

/**
 * One of the answers of an operation; the first whose condition holds is given.
 *
 * @param when an XPath condition over {@code $request}, the request's payload, and {@code $hits}, how often the
 *     operation was called; empty for "otherwise"
 * @param title for people: "sample", the fault's name
 * @param content what it says
 * @param delayMillis how long to wait before answering
 */
public record MockAnswer(String when, String title, AnswerContent content, long delayMillis) {
    /** An answer to every request that no other answer takes. */
    public static MockAnswer otherwise(String title, String body) {
        return message("", title, body);
    }

    /** A message for the requests that a condition holds for. */
    public static MockAnswer message(String when, String title, String body) {
        return new MockAnswer(when, title, new AnswerContent.Message(body), 0);
    }

    /** A fault for the requests that a condition holds for. */
    public static MockAnswer fault(String when, String title, String reason, String detail) {
        return new MockAnswer(when, title, new AnswerContent.Fault(reason, detail), 0);
    }

    public boolean conditional() {
        return !when.isBlank();
    }

    /** The XML of its content. */
    public String body() {
        return content.xml();
    }

    public MockAnswer withWhen(String condition) {
        return new MockAnswer(condition, title, content, delayMillis);
    }

    public MockAnswer withBody(String text) {
        return withContent(content.withXml(text));
    }

    public MockAnswer withContent(AnswerContent other) {
        return new MockAnswer(when, title, other, delayMillis);
    }

    public MockAnswer withDelay(long millis) {
        return new MockAnswer(when, title, content, millis);
    }
}
