package dev.mockbell.exchange;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import java.util.List;

/**
 * A message of HTTP/1.1 (RFC 9112 §2.1).
 *
 * @param title the request line or status line
 */
public record HttpMessage(String title, List<Header> headers, Content body, Content wire) implements Message {
    @Override
    public <R> R accept(Visitor<R> visitor) {
        return visitor.http(this);
    }

    @Override
    public int status() {
        String[] words = title.split(" ");
        return title.startsWith("HTTP/") && words.length > 1 && words[1].matches("\\d{3}")
                ? Integer.parseInt(words[1])
                : 0;
    }

    /** The start line and headers as text, ending with an empty line. */
    @Override
    public String head() {
        StringBuilder text = new StringBuilder(title).append("\r\n");
        headers.forEach(
                h -> text.append(h.name()).append(": ").append(h.value()).append("\r\n"));
        return text.append("\r\n").toString();
    }
}
