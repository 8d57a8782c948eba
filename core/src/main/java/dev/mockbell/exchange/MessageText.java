package dev.mockbell.exchange;

import dev.mockbell.content.Content;
import dev.mockbell.content.Part;
import dev.mockbell.problem.Problem;
import dev.mockbell.redact.Redactor;
import dev.mockbell.xml.TextEncoding;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import dev.mockbell.xml.XmlText;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;

/**
 * Messages as text for people to look at.
 *
 * @param redactor what masks credentials and secrets; empty to show everything
 * @param most how many bytes of a content are shown; what is left out is said
 */
public record MessageText(Optional<Redactor> redactor, int most) {
    /** More than a person looks through; a search in the ledger goes through all of it. */
    public static final int TO_LOOK_AT = 16 << 20;

    /** For a window. */
    public static MessageText toLookAt(Optional<Redactor> redactor) {
        return new MessageText(redactor, TO_LOOK_AT);
    }

    /** Every byte that went over the connection; in hex what is no text. */
    public String wire(Message message) {
        return WireText.of(message, redactor, most).bytes();
    }

    /** The message itself, laid out where it is XML; its first line where it has no body. */
    public String body(Message message) {
        if (message.body().isEmpty()) {
            String title = redactor.map(r -> r.text(message.title())).orElse(message.title());
            return title + "\n\n(no body)";
        }
        String text = laidOut(message);
        return redactor.map(r -> r.message(text)).orElse(text)
                + leftOut(message.root().content())
                + attachments(message);
    }

    private static String attachments(Message message) {
        List<Part> parts = message.attachments();
        String each = parts.stream()
                .map(p -> p.header("Content-Type").orElse("no type") + ", "
                        + p.content().size() + " bytes")
                .collect(Collectors.joining("; "));
        return parts.isEmpty() ? "" : "\n\n(beside it in the same body: " + each + ")";
    }

    private String laidOut(Message message) {
        Part root = message.root();
        String type = root.header("Content-Type").orElse("");
        if (root.content().size() <= most) {
            try {
                return XmlText.laidOut(Xml.parse(root.content(), type, "body", XmlLimits.MESSAGE));
            } catch (Problem notXml) {
                // it is shown as what it is
                return plain(root.content(), type);
            }
        }
        return plain(root.content(), type);
    }

    private String plain(Content content, String type) {
        byte[] bytes = content.start(most);
        return TextEncoding.of(bytes, type).decode(bytes);
    }

    private String leftOut(Content content) {
        return content.size() <= most
                ? ""
                : "\n\n(" + (content.size() - most) + " more bytes are not shown; they are kept)";
    }
}
