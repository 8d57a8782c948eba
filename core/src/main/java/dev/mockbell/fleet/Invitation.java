package dev.mockbell.fleet;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.file.AtomicFile;
import dev.mockbell.problem.Problem;
import dev.mockbell.wire.Authority;
import dev.mockbell.wire.ClientKey;
import dev.mockbell.xml.TextFile;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;

/**
 * What lets a program take part in load from many machines: where the coordinator is, and a key with a certificate of the
 * project's authority. Who holds the file may join until it expires. Its text never shows the key.
 *
 * @param host the coordinator's address
 * @param port likewise
 * @param project the project's name, for people
 * @param member key and certificates as PEM: its own, then the authority's
 */
public record Invitation(String host, int port, String project, Instant expires, String member) {
    /** Where a coordinator is when nothing is said. */
    public static final int USUAL_PORT = 8490;

    /** What a worker's certificate says that it is. */
    public static final URI WORKER = URI.create("urn:mockbell:load:worker");

    /** What a coordinator's certificate says that it is. */
    public static final URI COORDINATOR = URI.create("urn:mockbell:load:coordinator");

    /** For how long workers may join by one when nothing is said, and at most. */
    public static final int USUAL_DAYS = 7;

    public static final int MOST_DAYS = 365;

    /** A coordinator makes its own each time that it opens. */
    public static final Duration OF_A_COORDINATOR = Duration.ofDays(2);

    private static final int FORMAT = 1;
    private static final int MOST_MEGABYTES = 1;
    private static final ObjectMapper JSON = new ObjectMapper();

    /**
     * A new one.
     *
     * @param role {@link #WORKER} or {@link #COORDINATOR}
     * @param life for how long it is good
     */
    public static Invitation of(
            Authority authority, URI role, String host, int port, String project, Instant now, Duration life) {
        String member = ClientKey.pem(authority.issueMember(role, now, life));
        return new Invitation(host, port, project, now.plus(life), member);
    }

    /**
     * Reads one.
     *
     * @throws Problem when the file is none, or is of a newer program
     */
    public static Invitation read(Path file) {
        if (!Files.exists(file)) {
            throw none(file, null);
        }
        String text = TextFile.read(file, "The invitation", MOST_MEGABYTES);
        try {
            JsonNode node = JSON.readTree(text);
            if (node.path("format").asInt() > FORMAT) {
                throw Problem.of(
                        Problem.Kind.NEWER_FORMAT,
                        "A newer version of Mock Bell wrote the invitation",
                        file.toString(),
                        "Use the same version on all machines.",
                        null);
            }
            String host = node.path("host").asText();
            int port = node.path("port").asInt();
            if (host.isEmpty() || port < 1 || port > 65_535) {
                throw none(file, null);
            }
            return new Invitation(
                    host,
                    port,
                    node.path("project").asText(),
                    Instant.parse(node.path("expires").asText()),
                    node.path("member").asText());
        } catch (JsonProcessingException | DateTimeException e) {
            throw none(file, e);
        }
    }

    private static Problem none(Path file, Exception cause) {
        return Problem.of(
                Problem.Kind.INPUT,
                Files.exists(file) ? "The file is no invitation" : "There is no such invitation",
                file.toString(),
                "Have one written by “mockbell grid invite PROJECT --out FILE”.",
                cause);
    }

    /** Writes it to a file that is the user's alone; its folder is left as it is. */
    public void write(Path file) {
        ObjectNode node = JSON.createObjectNode();
        node.put("format", FORMAT);
        node.put("host", host);
        node.put("port", port);
        node.put("project", project);
        node.put("expires", expires.toString());
        node.put("member", member);
        AtomicFile.writePrivateBeside(file, node.toPrettyString() + "\n");
    }

    /**
     * Its key and certificates.
     *
     * @throws Problem when they are none, or have expired
     */
    public ClientKey.Opened key(Instant now) {
        if (!now.isBefore(expires)) {
            throw Problem.input(
                    "The invitation expired at " + expires, null, "Have a new one written by “mockbell grid invite”.");
        }
        return ClientKey.ofPem(member);
    }

    @Override
    public String toString() {
        return "invitation to " + host + ":" + port;
    }
}
