package dev.mockbell.exchange;

import dev.mockbell.content.Content;
import dev.mockbell.content.ContentSink;
import dev.mockbell.content.MediaType;
import dev.mockbell.content.Part;
import dev.mockbell.content.TransferEncoding;
import dev.mockbell.file.AtomicFile;
import dev.mockbell.file.FileName;
import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/** Keeps the parts of a message as files. */
public final class PartFiles {
    private static final Map<String, String> ENDINGS = Map.of(
            "image/jpeg", ".jpg",
            "image/png", ".png",
            "application/pdf", ".pdf",
            "application/zip", ".zip",
            "text/csv", ".csv",
            "text/plain", ".txt",
            "text/html", ".html",
            "text/xml", ".xml",
            "application/xml", ".xml");

    private PartFiles() {}

    /**
     * Writes the parts beside the root, each to a file that was not there: named as the part says (RFC 2183 §2.3), else by
     * its id.
     *
     * @return the files, in the order of the parts
     * @throws Problem when they cannot be written
     */
    public static List<Path> save(Message message, Path folder) {
        List<Path> files = new ArrayList<>();
        int number = 0;
        for (Part part : message.attachments()) {
            number++;
            try (InputStream in = TransferEncoding.open(part)) {
                Files.createDirectories(folder);
                files.add(copy(in, folder, name(part, number)));
            } catch (IOException e) {
                throw Problem.of(
                        Problem.Kind.INPUT,
                        "The parts cannot be saved: " + Problem.reason(e),
                        folder.toString(),
                        "Choose a folder that can be written to.",
                        e);
            }
        }
        return files;
    }

    private static Path copy(InputStream in, Path folder, String name) throws IOException {
        int dot = name.lastIndexOf('.');
        String start = dot > 0 ? name.substring(0, dot) : name;
        String ending = dot > 0 ? name.substring(dot) : "";
        for (int i = 1; ; i++) {
            Path file = folder.resolve(i == 1 ? name : start + "-" + i + ending);
            try {
                Files.copy(in, file);
                return file;
            } catch (FileAlreadyExistsException taken) {
                // nothing of the stream is read then
                continue;
            }
        }
    }

    /**
     * Writes one part to a file, in place of one that is there.
     *
     * @throws Problem when it cannot be written
     */
    public static void write(Part part, Path file) {
        AtomicFile.write(file, out -> {
            try (InputStream in = TransferEncoding.open(part)) {
                in.transferTo(out);
            }
        });
    }

    /**
     * Writes a content to a file, whole or not at all, in place of one that is there.
     *
     * @throws Problem when it cannot be written
     */
    public static void write(Content content, Path file) {
        AtomicFile.write(file, out -> {
            try (InputStream in = content.open()) {
                in.transferTo(out);
            }
        });
    }

    /** What a part holds, out of its transfer encoding. */
    public static Content decoded(Part part) {
        ContentSink plain = new ContentSink();
        try (InputStream in = TransferEncoding.open(part)) {
            in.transferTo(plain);
        } catch (IOException e) {
            throw Content.unreadable(e);
        }
        return plain.content();
    }

    /** A name for the file of a part, which is the so manieth: its own (RFC 2183 §2.3), else made of its id. */
    public static String name(Part part, int number) {
        String given = part.header("Content-Disposition")
                .flatMap(d -> new MediaType(d).parameter("filename"))
                .filter(n -> !n.isBlank())
                // some say where it was on their disk
                .map(n -> n.substring(Math.max(n.lastIndexOf('/'), n.lastIndexOf('\\')) + 1))
                .orElse("");
        if (!given.isBlank()) {
            return FileName.of(given);
        }
        String type =
                part.header("Content-Type").map(t -> new MediaType(t).name()).orElse("");
        return FileName.of(part.id().orElse("part-" + number)) + ENDINGS.getOrDefault(type, ".bin");
    }
}
