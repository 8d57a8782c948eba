package dev.mockbell.grid;

import dev.mockbell.file.AtomicFile;
import dev.mockbell.file.Inside;
import dev.mockbell.problem.Problem;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import java.util.zip.ZipOutputStream;

/**
 * The files of a project, packed for a worker. What is hidden stays behind: ledger, runs, and what this machine knows of the
 * project; so do links that lead out of the folder.
 */
final class ProjectFiles {
    private static final long MOST_BYTES = 256L << 20;
    private static final int MOST_FILES = 50_000;

    /**
     * A project's files as they are sent.
     *
     * @param digest by which the same files are known
     */
    record Packed(String digest, List<byte[]> pieces) {}

    private ProjectFiles() {}

    /**
     * Packs a project's folder.
     *
     * @throws Problem when it cannot be read, or is too large
     */
    static byte[] pack(Path folder) {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try (ZipOutputStream out = new ZipOutputStream(bytes)) {
            long sum = 0;
            for (Path file : files(folder)) {
                sum += Files.size(file);
                if (sum > MOST_BYTES) {
                    throw Problem.input(
                            "The project's files are more than " + (MOST_BYTES >> 20) + " MB, too many to be sent",
                            file.toString(),
                            "Put what load does not need elsewhere.");
                }
                // without a time, so that the same files have the same digest
                ZipEntry entry = new ZipEntry(folder.relativize(file).toString().replace('\\', '/'));
                entry.setTime(0);
                out.putNextEntry(entry);
                Files.copy(file, out);
            }
        } catch (IOException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The project's files cannot be read: " + Problem.reason(e),
                    folder.toString(),
                    "Check their permissions.",
                    e);
        }
        return bytes.toByteArray();
    }

    private static List<Path> files(Path folder) throws IOException {
        Inside inside = new Inside(folder);
        List<Path> all = new ArrayList<>();
        Files.walkFileTree(folder, new SimpleFileVisitor<>() {
            @Override
            public FileVisitResult preVisitDirectory(Path directory, BasicFileAttributes attributes) {
                return !directory.equals(folder) && hidden(directory)
                        ? FileVisitResult.SKIP_SUBTREE
                        : FileVisitResult.CONTINUE;
            }

            @Override
            public FileVisitResult visitFile(Path file, BasicFileAttributes attributes) {
                if (!hidden(file) && Files.isRegularFile(file) && isHeld(inside, file) && all.size() < MOST_FILES) {
                    all.add(file);
                }
                return FileVisitResult.CONTINUE;
            }

            @Override
            public FileVisitResult visitFileFailed(Path file, IOException unreadable) {
                // whoever needs it says that it is missing
                return FileVisitResult.CONTINUE;
            }
        });
        all.sort(null);
        return all;
    }

    private static boolean hidden(Path path) {
        return path.getFileName().toString().startsWith(".");
    }

    private static boolean isHeld(Inside inside, Path file) {
        try {
            inside.held(file);
            return true;
        } catch (Problem leadsOut) {
            return false;
        }
    }

    /** By what the same files are known. */
    static String digest(byte[] packed) {
        try {
            return HexFormat.of().formatHex(MessageDigest.getInstance("SHA-256").digest(packed));
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java has SHA-256", e);
        }
    }

    /**
     * Lays them out in a folder that is the user's alone.
     *
     * @throws Problem when they are none, or cannot be written
     */
    static void unpack(byte[] packed, Path folder) {
        Inside inside = new Inside(folder);
        try (ZipInputStream in = new ZipInputStream(new ByteArrayInputStream(packed))) {
            long left = MOST_BYTES;
            int files = 0;
            for (ZipEntry entry = in.getNextEntry(); entry != null; entry = in.getNextEntry()) {
                Path file = inside.resolve(folder, entry.getName());
                byte[] bytes = in.readNBytes((int) Math.min(Integer.MAX_VALUE - 8, left + 1));
                left -= bytes.length;
                if (left < 0 || ++files > MOST_FILES) {
                    throw Problem.input("The project's files are more than were to be sent", entry.getName(), null);
                }
                AtomicFile.privateFolder(file.getParent());
                Files.write(file, bytes);
                AtomicFile.privateFile(file);
            }
        } catch (IOException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The project's files cannot be laid out: " + Problem.reason(e),
                    folder.toString(),
                    "Check the disk.",
                    e);
        }
    }
}
