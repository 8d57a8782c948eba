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
        int space = title.indexOf(' ');
        if (!title.startsWith("HTTP/") || space < 0 || title.length() < space + 4) {
            return 0;
        }
        int number = 0;
        for (int i = space + 1; i < space + 4; i++) {
            int digit = title.charAt(i) - '0';
            if (digit < 0 || digit > 9) {
                return 0;
            }
            number = number * 10 + digit;
        }
        boolean ends = title.length() == space + 4 || title.charAt(space + 4) == ' ';
        return ends ? number : 0;
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
