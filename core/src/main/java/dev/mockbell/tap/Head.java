package dev.mockbell.tap;

import dev.mockbell.content.Header;
import dev.mockbell.tap.HttpStream.Body;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * Start line and header fields of a message on its way (RFC 9112 §2.1).
 *
 * @param text as it came, with the empty line
 */
record Head(String text, String title, List<Header> headers) {
    static Head of(String text) {
        List<Header> headers = new ArrayList<>();
        String title = "";
        int from = 0;
        for (int end = text.indexOf('\n'); end >= 0; end = text.indexOf('\n', from)) {
            int stop = end > from && text.charAt(end - 1) == '\r' ? end - 1 : end;
            if (from == 0) {
                title = text.substring(0, stop);
            } else {
                int colon = text.indexOf(':', from);
                if (colon > from && colon < stop) {
                    headers.add(new Header(
                            text.substring(from, colon),
                            text.substring(colon + 1, stop).strip()));
                }
            }
            from = end + 1;
        }
        return new Head(text, title, headers);
    }

    /** As {@link #of(String)}; the head before, where it says the same: on one connection most do. */
    static Head of(String text, Head before) {
        return before != null && before.text().equals(text) ? before : of(text);
    }

    Optional<String> field(String name) {
        return Header.first(headers, name);
    }

    private boolean says(String name, String token) {
        for (Header header : headers) {
            if (header.name().equalsIgnoreCase(name)
                    && List.of(header.value().toLowerCase(Locale.ROOT).split("\\s*,\\s*"))
                            .contains(token)) {
                return true;
            }
        }
        return false;
    }

    String method() {
        int space = title.indexOf(' ');
        return space < 0 ? title : title.substring(0, space);
    }

    /** The target of a request. */
    String target() {
        int first = title.indexOf(' ');
        int last = title.lastIndexOf(' ');
        return first < 0 || last <= first
                ? ""
                : title.substring(first + 1, last).strip();
    }

    /** The status of an answer; 0 for none. */
    int status() {
        int space = title.indexOf(' ');
        if (space < 0 || title.length() < space + 4) {
            return 0;
        }
        try {
            return Integer.parseInt(title.substring(space + 1, space + 4));
        } catch (NumberFormatException e) {
            return 0;
        }
    }

    boolean chunked() {
        return says("Transfer-Encoding", "chunked");
    }

    /** The length that it says; -1 for none, or none that can be. */
    long length() {
        try {
            return field("Content-Length")
                    .map(Long::parseLong)
                    .filter(n -> n >= 0)
                    .orElse(-1L);
        } catch (NumberFormatException e) {
            return -1;
        }
    }

    /** How the body of a request is framed (RFC 9112 §6.3). */
    Body requestBody() {
        return chunked() ? Body.CHUNKED : Body.of(Math.max(0, length()));
    }

    /** How the body of the answer to a request is framed. */
    Body answerBody(String asked) {
        int status = status();
        if (status == 101 || "CONNECT".equals(asked) && status / 100 == 2) {
            return Body.OPAQUE;
        }
        if ("HEAD".equals(asked) || status / 100 == 1 || status == 204 || status == 304) {
            return Body.NONE;
        }
        return chunked() ? Body.CHUNKED : length() >= 0 ? Body.of(length()) : Body.UNTIL_CLOSE;
    }

    /**
     * With another start line, and other values of some fields; every other line is as it came.
     *
     * @param other a value of null takes the field out; what was not there comes last
     */
    String with(String newTitle, List<Header> other) {
        StringBuilder all = new StringBuilder(text.length() + 64);
        all.append(newTitle).append("\r\n");
        List<Header> left = new ArrayList<>(other);
        int from = text.indexOf('\n') + 1;
        for (int end = text.indexOf('\n', from); end >= 0; end = text.indexOf('\n', from)) {
            String line = text.substring(from, end + 1);
            from = end + 1;
            int colon = line.indexOf(':');
            String name = colon < 0 ? "" : line.substring(0, colon);
            Optional<Header> change =
                    other.stream().filter(o -> o.name().equalsIgnoreCase(name)).findFirst();
            if (change.isEmpty() && !line.isBlank()) {
                all.append(line);
            } else if (change.isPresent()
                    && left.remove(change.get())
                    && change.get().value() != null) {
                all.append(name).append(": ").append(change.get().value()).append("\r\n");
            }
        }
        left.stream()
                .filter(h -> h.value() != null)
                .forEach(
                        h -> all.append(h.name()).append(": ").append(h.value()).append("\r\n"));
        return all.append("\r\n").toString();
    }
}
