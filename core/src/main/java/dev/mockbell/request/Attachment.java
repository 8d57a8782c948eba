package dev.mockbell.request;

import dev.mockbell.content.Content;
import dev.mockbell.content.ContentSink;
import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.net.URLConnection;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;

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
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The file of the part " + id + " cannot be read: " + Problem.reason(e),
                    file.toString(),
                    "Check the path.",
                    e);
        }
        String type = URLConnection.guessContentTypeFromName(file.getFileName().toString());
        return new Attachment(id, type == null ? "application/octet-stream" : type, content.content());
    }

    /** How the envelope refers to it. */
    public String address() {
        return "cid:" + URLEncoder.encode(id, StandardCharsets.UTF_8).replace("+", "%20");
    }
}
