package dev.mockbell.exchange;

import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * One side of an exchange.
 *
 * @param startLine the request line or status line
 * @param body the content, decoded from chunks and compression
 * @param wire every byte as it went over the connection, head included; empty when it was not recorded
 */
public record HttpMessage(String startLine, List<Header> headers, byte[] body, byte[] wire) {
    private static final Pattern CHARSET =
            Pattern.compile("charset\\s*=\\s*\"?([A-Za-z0-9._:-]+)", Pattern.CASE_INSENSITIVE);

    /** A header field as it was sent. */
    public record Header(String name, String value) {}

    /** The value of the first header of that name, upper and lower case alike. */
    public Optional<String> header(String name) {
        return headers.stream()
                .filter(h -> h.name().equalsIgnoreCase(name))
                .map(Header::value)
                .findFirst();
    }

    /** The status of a response; 0 for a request. */
    public int status() {
        String[] words = startLine.split(" ");
        return startLine.startsWith("HTTP/") && words.length > 1 && words[1].matches("\\d{3}")
                ? Integer.parseInt(words[1])
                : 0;
    }

    /** The body as text, by the charset of the Content-Type, else as UTF-8. */
    public String text() {
        return new String(body, charset());
    }

    private Charset charset() {
        Matcher matcher = CHARSET.matcher(header("Content-Type").orElse(""));
        if (matcher.find() && Charset.isSupported(matcher.group(1))) {
            return Charset.forName(matcher.group(1));
        }
        return StandardCharsets.UTF_8;
    }

    /** The start line and headers as text, ending with an empty line. */
    public String head() {
        StringBuilder text = new StringBuilder(startLine).append("\r\n");
        headers.forEach(
                h -> text.append(h.name()).append(": ").append(h.value()).append("\r\n"));
        return text.append("\r\n").toString();
    }
}
