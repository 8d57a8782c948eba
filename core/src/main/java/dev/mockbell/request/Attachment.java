package dev.mockbell.request;

import dev.mockbell.content.Content;
import dev.mockbell.content.ContentSink;
import dev.mockbell.content.Header;
import dev.mockbell.content.Part;
import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.net.URLConnection;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;

/**
 * A part that goes beside the envelope.
 *
 * @param id what the envelope refers to it by, without angle brackets (RFC 2392)
 * @param type its Content-Type
 */
public record Attachment(String id, String type, Content content) {
    /** @throws Problem when the id cannot be one */
    public Attachment {
        if (!id.matches("[!-;=?-~]+")) {
            throw Problem.input(
                    "“" + id.replaceAll("\\p{Cntrl}", "?") + "” cannot be the id of a part",
                    null,
                    "Ids are of letters, digits and signs of ASCII, without spaces and angle brackets.");
        }
        if (type.chars().anyMatch(c -> c < 0x20 || c > 0x7E)) {
            throw Problem.input(
                    "The type of the part " + id + " has characters that a Content-Type cannot have",
                    null,
                    "Write it as type/subtype (RFC 9110 §8.3).");
        }
    }

    /**
     * A file as it is now; what becomes of it later does not matter. Its type is told by its name.
     *
     * @throws Problem when it cannot be read
     */
    public static Attachment of(String id, Path file) {
        ContentSink content = new ContentSink();
        try {
            Files.copy(file, content);
        } catch (IOException e) {
            throw unreadable(id, file, e);
        }
        return new Attachment(id, type(file), content.content());
    }

    /**
     * As {@link #of}, for a look at the request: the file is read when it is looked at, and not copied before.
     *
     * @throws Problem when it cannot be read
     */
    public static Attachment lookingAt(String id, Path file) {
        try {
            return new Attachment(id, type(file), Content.of(file));
        } catch (IOException e) {
            throw unreadable(id, file, e);
        }
    }

    private static Problem unreadable(String id, Path file, IOException e) {
        return Problem.of(
                Problem.Kind.INPUT,
                "The file of the part " + id + " cannot be read: " + Problem.reason(e),
                file.toString(),
                "Check the path.",
                e);
    }

    /** With another type; the same when that is empty. */
    public Attachment typed(String other) {
        return other.isBlank() ? this : new Attachment(id, other.strip(), content);
    }

    /** What a file is by its name. */
    public static String type(Path file) {
        String type = URLConnection.guessContentTypeFromName(file.getFileName().toString());
        return type == null ? "application/octet-stream" : type;
    }

    /** As a part of a body. */
    Part part() {
        return new Part(List.of(new Header("Content-ID", "<" + id + ">"), new Header("Content-Type", type)), content);
    }

    /** How the envelope refers to it. */
    public String address() {
        return "cid:" + URLEncoder.encode(id, StandardCharsets.UTF_8).replace("+", "%20");
    }
}
