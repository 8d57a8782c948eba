package dev.mockbell.exchange;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.content.MediaType;
import dev.mockbell.content.Multipart;
import dev.mockbell.content.Part;
import dev.mockbell.content.TransferEncoding;
import dev.mockbell.problem.Problem;
import dev.mockbell.xml.TextEncoding;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.Reader;
import java.io.StringWriter;
import java.util.List;
import java.util.Optional;

/**
 * One side of an exchange, whatever carried it. What all transports have is asked for here; what only one has, by a visitor.
 */
public sealed interface Message permits HttpMessage, JmsMessage {
    /** How much of a body tells its encoding. */
    int START = 8_192;

    /** One method a kind, so that a new kind does not compile before everything knows it. */
    interface Visitor<R> {
        R http(HttpMessage message);

        R jms(JmsMessage message);
    }

    <R> R accept(Visitor<R> visitor);

    /** What stands before the body, as text. */
    String head();

    /** The first line of the head: what is wanted, or what came of it. */
    String title();

    /** The header fields or properties in their order. */
    List<Header> headers();

    /** The value of the first header of that name, upper and lower case alike. */
    default Optional<String> header(String name) {
        return Header.first(headers(), name);
    }

    /** What became of the request, as the transport's own number; 0 for a request, and where there is no such number. */
    int status();

    /** Whether the transport says that the request was taken; one that has no status says nothing against it. */
    default boolean isGood() {
        return !hasStatus() || status() / 100 == 2;
    }

    /** Whether answers of its transport have a status at all. */
    default boolean hasStatus() {
        return true;
    }

    /** The body, decoded from what was done to it for the way: chunks, compression. */
    Content body();

    /** Every byte as it went over the connection, head included; empty when it was not recorded. */
    Content wire();

    /** What the body is; its text is empty when that is not said. */
    default MediaType type() {
        return new MediaType(header("Content-Type").orElse(""));
    }

    /**
     * The body taken apart, when its type says that there are several parts.
     *
     * @throws Problem when the body is not in parts as its type says
     */
    default Multipart inParts() {
        return Multipart.of(body(), type());
    }

    /**
     * The parts of the body; one, the body itself, unless its type says that there are several.
     *
     * @throws Problem when the body is not in parts as its type says
     */
    default List<Part> parts() {
        return Multipart.is(type()) ? inParts().parts() : List.of(whole());
    }

    /**
     * The part that holds the message itself, out of its transfer encoding; the body when there are no parts, also where there
     * should be.
     */
    default Part root() {
        try {
            return Multipart.is(type()) ? TransferEncoding.undone(inParts().root()) : whole();
        } catch (Problem notInParts) {
            return whole();
        }
    }

    /** The parts besides the root; none where there are no parts, also where there should be. */
    default List<Part> attachments() {
        try {
            return Multipart.is(type()) ? inParts().attachments() : List.of();
        } catch (Problem notInParts) {
            return List.of();
        }
    }

    /** What is not right about how it came, though it can be read; sentences without a full stop. */
    default List<String> flaws() {
        try {
            return Multipart.is(type()) ? inParts().flaws() : List.of();
        } catch (Problem notInParts) {
            return List.of();
        }
    }

    /** The body as a part, with fields that say what it is. */
    default Part whole() {
        return new Part(headers(), body());
    }

    /** The message itself as text, by byte order mark, XML declaration or charset, else as UTF-8. */
    default String text() {
        try (Reader reader = reader();
                StringWriter text = new StringWriter()) {
            reader.transferTo(text);
            return text.toString();
        } catch (IOException e) {
            throw Content.unreadable(e);
        }
    }

    /** As {@link #text()}, piece by piece. For the caller to close. */
    default Reader reader() throws IOException {
        Part root = root();
        TextEncoding encoding = TextEncoding.of(
                root.content().start(START), root.header("Content-Type").orElse(""));
        return new InputStreamReader(root.content().open(encoding.skip()), encoding.charset());
    }
}
