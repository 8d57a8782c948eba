package dev.mockbell.cli;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import dev.mockbell.content.Content;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStreamWriter;
import java.io.PrintStream;
import java.io.Reader;
import java.io.Writer;
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

    /** Whether someone looks on. */
    boolean isTerminal() {
        return System.console() != null;
    }

    /** Shows words on the line below what was printed; the next ones take their place. */
    void under(String words) {
        out.print("\r\u001b[K" + words);
        out.flush();
    }

    /** Text of any size, without the white space at its end. */
    void text(Reader text) throws IOException {
        // past the stream's own encoder, which takes each piece apart three times
        Writer to = new OutputStreamWriter(out, StandardCharsets.UTF_8);
        char[] piece = new char[8_192];
        StringBuilder held = new StringBuilder();
        for (int count = text.read(piece); count >= 0; count = text.read(piece)) {
            int end = count;
            while (end > 0 && Character.isWhitespace(piece[end - 1])) {
                end--;
            }
            if (end > 0) {
                to.append(held).write(piece, 0, end);
                held.setLength(0);
            }
            held.append(piece, end, count - end);
        }
        to.flush();
        line("");
    }

    /** Bytes as they are, which may be no text. */
    void bytes(Content content) {
        try (InputStream in = content.open()) {
            in.transferTo(out);
        } catch (IOException e) {
            throw Content.unreadable(e);
        }
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
