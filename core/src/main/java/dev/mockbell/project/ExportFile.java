package dev.mockbell.project;

import dev.mockbell.file.AtomicFile;
import dev.mockbell.problem.Problem;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;

/** Puts exported documents where they were asked for: a folder, a zip file, or a single file with others beside it. */
public final class ExportFile {
    private ExportFile() {}

    /**
     * Writes the files.
     *
     * @param out ends in {@code .zip} for a zip file, in {@code .wsdl} for the first file by that name; a folder else
     * @return what was written
     * @throws Problem when something cannot be written
     */
    public static List<Path> write(Path out, Map<String, byte[]> files) {
        Path at = out.toAbsolutePath().normalize();
        String name = String.valueOf(at.getFileName());
        if (name.endsWith(".zip")) {
            AtomicFile.write(at, zip(files));
            return List.of(at);
        }
        List<Path> written = new ArrayList<>();
        boolean single = name.endsWith(".wsdl");
        for (Map.Entry<String, byte[]> file : files.entrySet()) {
            Path folder = single ? at.getParent() : at;
            Path to = single && written.isEmpty() ? at : folder.resolve(file.getKey());
            AtomicFile.write(to, file.getValue());
            written.add(to);
        }
        return written;
    }

    private static byte[] zip(Map<String, byte[]> files) {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try (ZipOutputStream zip = new ZipOutputStream(bytes)) {
            for (Map.Entry<String, byte[]> file : files.entrySet()) {
                ZipEntry entry = new ZipEntry(file.getKey());
                // the same contract gives the same zip
                entry.setTime(0);
                zip.putNextEntry(entry);
                zip.write(file.getValue());
                zip.closeEntry();
            }
        } catch (IOException e) {
            throw new UncheckedIOException("memory can always be written", e);
        }
        return bytes.toByteArray();
    }
}
