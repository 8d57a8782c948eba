package dev.mockbell.mock;

/** What a mock's answer says. */
public sealed interface AnswerContent {
    /** The XML that is written for it: the payload, or what stands in a fault's detail. Expressions in braces are filled. */
    String xml();

    /** The same kind with other XML. */
    AnswerContent withXml(String text);

    /** Whether it is a fault. */
    boolean isFault();

    /** Does what is due for its kind. */
    <R> R accept(Visitor<R> visitor);

    /**
     * Something that is done for each kind of content: giving it, writing it to a file, editing it. A new kind does not compile
     * before all know it.
     *
     * @param <R> what comes of it
     */
    interface Visitor<R> {
        R message(Message content);

        R fault(Fault content);
    }

    /**
     * A message of the operation.
     *
     * @param xml the payload
     */
    record Message(String xml) implements AnswerContent {
        @Override
        public Message withXml(String text) {
            return new Message(text);
        }

        @Override
        public boolean isFault() {
            return false;
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.message(this);
        }
    }

    /**
     * A SOAP fault.
     *
     * @param reason the fault's reason, with expressions in braces
     * @param xml the content of its detail
     */
    record Fault(String reason, String xml) implements AnswerContent {
        @Override
        public Fault withXml(String text) {
            return new Fault(reason, text);
        }

        @Override
        public boolean isFault() {
            return true;
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.fault(this);
        }
    }
}
