package dev.mockbell.exchange;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.content.Part;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * A message of a queue or topic, by SOAP over Java Message Service 1.0 §2.
 *
 * @param title where it went or came from: {@code TO queue trails}, {@code FROM queue reply-1}
 * @param headers header fields and properties of the message, those of the binding under their names, {@code SOAPJMS_…}
 * @param wire title, properties and body as they came, also where the body is one that was decrypted
 */
public record JmsMessage(String title, List<Header> headers, Content body, Content wire) implements Message {
    /** The property that holds the media type of the body (§2.2.3). */
    public static final String CONTENT_TYPE = "SOAPJMS_contentType";

    public JmsMessage {
        headers = List.copyOf(headers);
    }

    /** One as it came: what goes between client and broker besides is not the message's. */
    public JmsMessage(String title, List<Header> headers, Content body) {
        this(
                title,
                headers,
                body,
                Content.joined(Content.of(head(title, headers).getBytes(StandardCharsets.UTF_8)), body));
    }

    /** The one that these bytes are the {@link #wire()} of. */
    public static JmsMessage of(Content wire) {
        byte[] bytes = wire.bytes();
        int end = 0;
        while (end + 3 < bytes.length
                && !(bytes[end] == '\r'
                        && bytes[end + 1] == '\n'
                        && bytes[end + 2] == '\r'
                        && bytes[end + 3] == '\n')) {
            end++;
        }
        String[] lines = new String(bytes, 0, end, StandardCharsets.UTF_8).split("\r\n");
        List<Header> headers = new ArrayList<>();
        for (int i = 1; i < lines.length; i++) {
            int colon = lines[i].indexOf(": ");
            headers.add(new Header(lines[i].substring(0, colon), lines[i].substring(colon + 2)));
        }
        return new JmsMessage(lines[0], headers, wire.slice(end + 4, wire.size()), wire);
    }

    @Override
    public <R> R accept(Visitor<R> visitor) {
        return visitor.jms(this);
    }

    /** Its media type stands in a property of the binding. */
    @Override
    public Optional<String> header(String name) {
        Optional<String> own = Header.first(headers, name);
        return own.isEmpty() && "Content-Type".equalsIgnoreCase(name) ? Header.first(headers, CONTENT_TYPE) : own;
    }

    @Override
    public Part whole() {
        List<Header> fields = new ArrayList<>(headers);
        if (Header.first(headers, "Content-Type").isEmpty()) {
            header("Content-Type").ifPresent(t -> fields.add(new Header("Content-Type", t)));
        }
        return new Part(fields, body);
    }

    /** A message of a queue has no status. */
    @Override
    public int status() {
        return 0;
    }

    @Override
    public boolean hasStatus() {
        return false;
    }

    /** Its title and properties as text, ending with an empty line. */
    @Override
    public String head() {
        return head(title, headers);
    }

    private static String head(String title, List<Header> headers) {
        StringBuilder text = new StringBuilder(title).append("\r\n");
        headers.forEach(
                h -> text.append(h.name()).append(": ").append(h.value()).append("\r\n"));
        return text.append("\r\n").toString();
    }
}
