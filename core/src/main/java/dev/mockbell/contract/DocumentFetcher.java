package dev.mockbell.contract;

import dev.mockbell.problem.Problem;
import dev.mockbell.task.StopSignal;
import java.io.IOException;
import java.io.InputStream;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;

/** Brings documents. The reader of contracts asks for one at a time and never follows anything by itself. */
@FunctionalInterface
public interface DocumentFetcher {
    /**
     * Fetches a document.
     *
     * @throws Problem when it cannot be had; the message names the address
     */
    Fetched fetch(URI uri, StopSignal stop);

    /**
     * What was fetched.
     *
     * @param uri where it was in the end, after redirects
     * @param contentType the Content-Type it came with; empty when none
     */
    record Fetched(URI uri, byte[] bytes, String contentType) {}

    /** Reads {@code file:} addresses, up to {@code limit} bytes each. */
    static DocumentFetcher files(long limit) {
        return (uri, stop) -> {
            Path path;
            try {
                path = Path.of(URI.create(uri.toASCIIString()));
            } catch (IllegalArgumentException | java.nio.file.FileSystemNotFoundException e) {
                throw Problem.of(Problem.Kind.INPUT, "The address does not name a file", uri.toString(), null, e);
            }
            if (Files.exists(path) && !Files.isDirectory(path) && !Files.isRegularFile(path)) {
                // a pipe or device might never end
                throw Problem.input("This is not a plain file", path.toString(), "Give the WSDL file itself.");
            }
            try (InputStream in = Files.newInputStream(path)) {
                byte[] bytes = in.readNBytes((int) Math.min(Integer.MAX_VALUE - 8, limit + 1));
                if (bytes.length > limit) {
                    throw Problem.input(
                            "The file is larger than the limit of " + limit + " bytes",
                            path.toString(),
                            "Raise the limit if it is meant to be that large.");
                }
                return new Fetched(uri, bytes, "");
            } catch (NoSuchFileException e) {
                throw Problem.of(
                        Problem.Kind.INPUT, "There is no such file", path.toString(), "Check the spelling.", e);
            } catch (IOException e) {
                throw Problem.of(
                        Problem.Kind.INPUT,
                        Files.isDirectory(path) ? "This is a folder, not a WSDL" : "The file cannot be read",
                        path.toString(),
                        "Give the WSDL file itself.",
                        e);
            }
        };
    }
}
