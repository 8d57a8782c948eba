package dev.mockbell.xml;

import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.CodingErrorAction;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;

/** Files that hold XML, or what becomes part of it, as text. */
public final class TextFile {
    private TextFile() {}

    /**
     * The text of a file, by its byte order mark, its XML declaration, or as UTF-8. A declaration that names another encoding
     * no longer does so in the text, which is to be written as UTF-8.
     *
     * @param what it is called in an error, a clause's subject: "The body's file"
     * @param mostMegabytes what is larger is refused
     * @throws Problem when it cannot be read, is larger, or has bytes that its encoding does not have
     */
    public static String read(Path file, String what, int mostMegabytes) {
        TextEncoding encoding = null;
        try {
            long size = Files.size(file);
            if (size > (long) mostMegabytes << 20) {
                throw Problem.input(
                        what + " has " + size + " bytes, more than the " + mostMegabytes + " MB that are read",
                        file.toString(),
                        "Take a smaller one.");
            }
            byte[] bytes = Files.readAllBytes(file);
            encoding = TextEncoding.of(bytes, "");
            String text = encoding.charset()
                    .newDecoder()
                    .onMalformedInput(CodingErrorAction.REPORT)
                    .onUnmappableCharacter(CodingErrorAction.REPORT)
                    .decode(ByteBuffer.wrap(bytes, encoding.skip(), bytes.length - encoding.skip()))
                    .toString();
            return encoding.inUtf8(text);
        } catch (NoSuchFileException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    what + " is missing",
                    file.toString(),
                    "Check the path, or restore it from version control.",
                    e);
        } catch (CharacterCodingException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    what + " has bytes that are not " + encoding.charset() + " text",
                    file.toString(),
                    "Save it as UTF-8, or name its encoding in an XML declaration.",
                    e);
        } catch (IOException | OutOfMemoryError e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    what + " cannot be read: " + Problem.reason(e),
                    file.toString(),
                    "Check the path and its permissions.",
                    e);
        }
    }
}
