package dev.mockbell.cli;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;

/** Where a command writes: results to {@code out}, messages to {@code err}. */
public record Console(PrintStream out, PrintStream err) {
    /** The process's own streams, in UTF-8. */
    public static Console ofProcess() {
        return new Console(
                new PrintStream(System.out, true, StandardCharsets.UTF_8),
                new PrintStream(System.err, true, StandardCharsets.UTF_8));
    }

    void line(String text) {
        out.println(text);
        out.flush();
    }

    void note(String text) {
        err.println(text);
        err.flush();
    }

    void json(JsonNode node) {
        try {
            line(new ObjectMapper().writerWithDefaultPrettyPrinter().writeValueAsString(node));
        } catch (JsonProcessingException e) {
            throw new IllegalStateException("a plain tree can always be written", e);
        }
    }
}
