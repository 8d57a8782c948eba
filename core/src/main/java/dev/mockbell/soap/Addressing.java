package dev.mockbell.soap;

import dev.mockbell.choice.Choice;
import dev.mockbell.xml.Markup;
import java.net.URI;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.w3c.dom.Element;

/** Which WS-Addressing a request speaks. */
public enum Addressing implements Choice {
    /** What the contract demands: 1.0 or none. */
    AS_CONTRACT("contract", "As the contract demands", "", ""),
    NONE("none", "Left out", "", ""),
    /** W3C Recommendation of 9 May 2006. */
    V10("1.0", "WS-Addressing 1.0", "http://www.w3.org/2005/08/addressing", "/anonymous"),
    /** W3C Member Submission of 10 August 2004. */
    V200408("2004/08", "WS-Addressing 2004/08", "http://schemas.xmlsoap.org/ws/2004/08/addressing", "/role/anonymous");

    private final String code;
    private final String title;
    private final String namespace;
    private final String anonymous;

    Addressing(String code, String title, String namespace, String anonymous) {
        this.code = code;
        this.title = title;
        this.namespace = namespace;
        this.anonymous = anonymous;
    }

    @Override
    public String code() {
        return code;
    }

    @Override
    public String title() {
        return title;
    }

    /** Whether a request gets header blocks of it. */
    public boolean isSpoken() {
        return !namespace.isEmpty();
    }

    /** The namespace of its header blocks. */
    public String namespace() {
        return namespace;
    }

    /**
     * The header blocks of a request (WS-Addressing 1.0 Core §3.2, SOAP Binding §3; 2004/08 §3).
     *
     * @param replyTo where the answer goes; empty for the way that the request came
     * @param answered whether one is due; a one-way message names no place for it, unless it is given
     */
    public List<String> blocks(String action, String messageId, URI to, String replyTo, boolean answered) {
        List<String> blocks = new ArrayList<>();
        blocks.add(block("Action", Markup.anywhere(action)));
        blocks.add(block("MessageID", Markup.anywhere(messageId)));
        blocks.add(block("To", Markup.anywhere(to.toString())));
        if (answered || !replyTo.isEmpty()) {
            String address = replyTo.isEmpty() ? namespace + anonymous : replyTo;
            blocks.add(block("ReplyTo", "<wsa:Address>" + Markup.anywhere(address) + "</wsa:Address>"));
        }
        return blocks;
    }

    /** Which one a namespace is of; empty for none that is spoken. */
    public static Optional<Addressing> ofNamespace(String namespace) {
        return java.util.Arrays.stream(values())
                .filter(a -> a.isSpoken() && a.namespace.equals(namespace))
                .findFirst();
    }

    /**
     * The header blocks of an answer that goes back the way the request came (WS-Addressing 1.0 Core §3.4, 2004/08 §3.2).
     *
     * @param action empty for a fault
     * @param relatesTo the id of the request
     */
    public List<String> answering(String action, String messageId, String relatesTo) {
        return List.of(
                block("Action", Markup.anywhere(action.isEmpty() ? namespace + "/fault" : action)),
                block("MessageID", Markup.anywhere(messageId)),
                block("To", namespace + anonymous),
                block("RelatesTo", Markup.anywhere(relatesTo)));
    }

    private String block(String name, String content) {
        return "<wsa:" + name + " xmlns:wsa=\"" + namespace + "\">" + content + "</wsa:" + name + ">";
    }

    /**
     * What is wrong with what an answer relates to.
     *
     * @param toAnother whether it names another message; otherwise it names none
     */
    public record Unrelated(boolean toAnother, String words) {}

    /** Where an answer does not say that it is one to the request; empty when it does. */
    public Optional<Unrelated> unrelated(SoapMessage request, SoapMessage answer) {
        Optional<String> asked = first(request, "MessageID");
        Optional<String> related = first(answer, "RelatesTo");
        if (asked.isEmpty() || related.equals(asked)) {
            return Optional.empty();
        }
        return Optional.of(
                related.map(r -> new Unrelated(true, "the answer relates to " + r + ", not to " + asked.get()))
                        .orElse(new Unrelated(false, "the answer does not say which message it relates to")));
    }

    private Optional<String> first(SoapMessage message, String name) {
        return message.headers().stream()
                .filter(e -> name.equals(e.getLocalName()) && namespace.equals(e.getNamespaceURI()))
                .filter(Addressing::isReply)
                .map(e -> e.getTextContent().strip())
                .findFirst();
    }

    /** A relation of another kind is none of ours. */
    private static boolean isReply(Element header) {
        String kind = header.getAttribute("RelationshipType");
        return kind.isEmpty() || kind.endsWith("Reply") || kind.endsWith("/reply");
    }
}
