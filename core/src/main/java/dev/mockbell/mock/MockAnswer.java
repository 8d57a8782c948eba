package dev.mockbell.mock;

import java.util.List;

/**
 * One of the answers of an operation; the first whose turn it is is given.
 *
 * @param when an XPath condition over what {@link Slot} names and the values that the mock remembers; empty for any request
 * @param turns whose turn it is among those whose condition holds
 * @param title for people: "sample", the fault's name
 * @param content what it says
 * @param head what goes with it
 * @param pause how long to wait before it
 * @param trouble what is made wrong with it
 * @param after what is remembered and forgotten with it, in order
 */
public record MockAnswer(
        String when,
        Turns turns,
        String title,
        AnswerContent content,
        AnswerHead head,
        Pause pause,
        Trouble trouble,
        List<MemoryStep> after) {
    public MockAnswer {
        after = List.copyOf(after);
    }

    /** One with nothing but its condition and content. */
    public MockAnswer(String when, String title, AnswerContent content) {
        this(when, Turns.ALWAYS, title, content, AnswerHead.USUAL, Pause.NONE, Trouble.NONE, List.of());
    }

    /** An answer to every request that no other answer takes. */
    public static MockAnswer otherwise(String title, String body) {
        return message("", title, body);
    }

    /** A message for the requests that a condition holds for. */
    public static MockAnswer message(String when, String title, String body) {
        return new MockAnswer(when, title, new AnswerContent.Message(body));
    }

    /** A fault for the requests that a condition holds for. */
    public static MockAnswer fault(String when, String title, String reason, String detail) {
        return new MockAnswer(when, title, new AnswerContent.Fault(reason, detail));
    }

    /** Whether it is for some requests only. */
    public boolean conditional() {
        return !when.isBlank() || turns.limits();
    }

    /** The XML of its content. */
    public String body() {
        return content.xml();
    }

    public MockAnswer withWhen(String condition) {
        return new MockAnswer(condition, turns, title, content, head, pause, trouble, after);
    }

    public MockAnswer with(Turns other) {
        return new MockAnswer(when, other, title, content, head, pause, trouble, after);
    }

    public MockAnswer withTitle(String other) {
        return new MockAnswer(when, turns, other, content, head, pause, trouble, after);
    }

    public MockAnswer withBody(String text) {
        return withContent(content.withXml(text));
    }

    public MockAnswer withContent(AnswerContent other) {
        return new MockAnswer(when, turns, title, other, head, pause, trouble, after);
    }

    public MockAnswer with(AnswerHead other) {
        return new MockAnswer(when, turns, title, content, other, pause, trouble, after);
    }

    public MockAnswer with(Pause other) {
        return new MockAnswer(when, turns, title, content, head, other, trouble, after);
    }

    public MockAnswer with(Trouble other) {
        return new MockAnswer(when, turns, title, content, head, pause, other, after);
    }

    public MockAnswer withAfter(List<MemoryStep> steps) {
        return new MockAnswer(when, turns, title, content, head, pause, trouble, steps);
    }

    /** What this one changed of another, put upon what became of that meanwhile. */
    public MockAnswer over(MockAnswer base, MockAnswer now) {
        return new MockAnswer(
                when.equals(base.when) ? now.when : when,
                turns.equals(base.turns) ? now.turns : turns,
                title.equals(base.title) ? now.title : title,
                content.equals(base.content) ? now.content : content,
                head.equals(base.head) ? now.head : head,
                pause.equals(base.pause) ? now.pause : pause,
                trouble.equals(base.trouble) ? now.trouble : trouble,
                after.equals(base.after) ? now.after : after);
    }

    /** The same after so many milliseconds, always. */
    public MockAnswer withDelay(long millis) {
        return with(new Pause.Fixed(millis));
    }
}
