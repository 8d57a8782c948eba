package dev.mockbell.fleet;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import dev.mockbell.file.AtomicFile;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.xml.TextFile;
import java.nio.file.Files;
import java.nio.file.Path;

/**
 * Where a project's workers find the coordinator, as it was said when they were invited last. It is kept with what belongs to
 * this machine alone.
 */
public record Meeting(String host, int port) {
    /** Where it is when nothing was said. */
    public static final Meeting USUAL = new Meeting("127.0.0.1", Invitation.USUAL_PORT);

    private static final ObjectMapper JSON = new ObjectMapper();

    private static Path file(Path project) {
        return ProjectStore.hidden(project).resolve("workers.json");
    }

    /** That of a project. */
    public static Meeting of(Path project) {
        Path file = file(project);
        if (!Files.isRegularFile(file)) {
            return USUAL;
        }
        try {
            JsonNode node = JSON.readTree(TextFile.read(file, "The workers' meeting place", 1));
            String host = node.path("host").asText();
            int port = node.path("port").asInt();
            return host.isEmpty() || port < 1 || port > 65_535 ? USUAL : new Meeting(host, port);
        } catch (JsonProcessingException e) {
            return USUAL;
        }
    }

    /** Keeps it. */
    public void keep(Path project) {
        AtomicFile.write(
                file(project),
                JSON.createObjectNode().put("host", host).put("port", port).toPrettyString() + "\n");
    }
}
