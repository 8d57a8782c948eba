package dev.mockbell.mock;

import dev.mockbell.soap.SoapFault;
import java.util.List;

/** What a mock's answer says. */
public sealed interface AnswerContent {
    /** The XML that is written for it: the payload, or what stands in a fault's detail. Expressions in braces are filled. */
    default String xml() {
        return "";
    }

    /** The same kind with other XML; the same where its kind has none. */
    default AnswerContent withXml(String text) {
        return this;
    }

    /** Whether it is a fault. */
    default boolean isFault() {
        return false;
    }

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

        R requestBack(RequestBack content);

        R file(FileBody content);

        R nothing(Nothing content);

        R passOn(PassOn content);
    }

    /**
     * A message of the operation.
     *
     * @param xml the payload, or a whole envelope
     */
    record Message(String xml) implements AnswerContent {
        @Override
        public Message withXml(String text) {
            return new Message(text);
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.message(this);
        }
    }

    /**
     * A SOAP fault.
     *
     * @param code whose fault it says it is
     * @param reason the fault's reason, with expressions in braces
     * @param xml the content of its detail
     */
    record Fault(SoapFault.Code code, String reason, String xml) implements AnswerContent {
        /** One of the service's own. */
        public Fault(String reason, String xml) {
            this(SoapFault.Code.RECEIVER, reason, xml);
        }

        public Fault withReason(String text) {
            return new Fault(code, text, xml);
        }

        public Fault withCode(SoapFault.Code other) {
            return new Fault(other, reason, xml);
        }

        @Override
        public Fault withXml(String text) {
            return new Fault(code, reason, text);
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

    /** The envelope of the request, byte for byte. */
    record RequestBack() implements AnswerContent {
        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.requestBack(this);
        }
    }

    /**
     * The bytes of a file, as they are when the answer is given first.
     *
     * @param file a path within the project's folder
     * @param type its Content-Type; empty for that of the version of SOAP that was asked in
     */
    record FileBody(String file, String type) implements AnswerContent {
        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.file(this);
        }
    }

    /** No body at all. */
    record Nothing() implements AnswerContent {
        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.nothing(this);
        }
    }

    /**
     * What the live endpoint says.
     *
     * @param endpoint its address; empty for the one in the contract
     * @param elseNext whether a later answer is given when the live endpoint fails: when it cannot be reached, says nothing in time,
     *     or answers with a status of 500 or more that is no SOAP fault
     * @param asked what is changed in the request on its way there
     * @param answered what is changed in the answer on its way back; its expressions see that as {@code $answer}
     */
    record PassOn(String endpoint, boolean elseNext, List<ValueChange> asked, List<ValueChange> answered)
            implements AnswerContent {
        public PassOn {
            asked = List.copyOf(asked);
            answered = List.copyOf(answered);
        }

        /** As it is, both ways. */
        public static PassOn to(String endpoint) {
            return new PassOn(endpoint, false, List.of(), List.of());
        }

        @Override
        public <R> R accept(Visitor<R> visitor) {
            return visitor.passOn(this);
        }
    }
}
