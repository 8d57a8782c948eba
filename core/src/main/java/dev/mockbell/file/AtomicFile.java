package dev.mockbell.file;

import dev.mockbell.problem.Problem;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.channels.Channels;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.AtomicMoveNotSupportedException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.OpenOption;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.nio.file.attribute.FileAttribute;
import java.nio.file.attribute.PosixFileAttributes;
import java.nio.file.attribute.PosixFilePermission;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.Set;
import java.util.concurrent.ThreadLocalRandom;
import java.util.stream.Stream;

/**
 * Writes files so that a crash leaves either the old or the new content, never a part. A file that is shared with others
 * keeps the mode it has, a new one gets what the user's umask says; what belongs to the user alone is made with the mode
 * 0600 in folders of the mode 0700.
 */
public final class AtomicFile {
    private static final String BESIDE = ".new";
    private static final Duration LEFT_OVER = Duration.ofMinutes(10);
    private static final Set<PosixFilePermission> OWN_FILE = PosixFilePermissions.fromString("rw-------");
    private static final Set<PosixFilePermission> OWN_FOLDER = PosixFilePermissions.fromString("rwx------");

    private static final int STEP = 64 << 10;

    private AtomicFile() {}

    /** Writes text as UTF-8. A file that already holds the same is not touched. */
    public static void write(Path file, String text) {
        write(file, text.getBytes(StandardCharsets.UTF_8));
    }

    /** Writes beside the file, forces it to disk, then moves it into place. A file that already holds the same is not touched. */
    public static void write(Path file, byte[] bytes) {
        written(file, bytes, false);
    }

    /** What is written to a file, without being held whole. */
    public interface Source {
        void writeTo(OutputStream out) throws IOException;
    }

    /** As {@link #write(Path, byte[])}, for what is too large to be compared with what the file holds. */
    public static void write(Path file, Source source) {
        written(file, source, false);
    }

    /** As {@link #write(Path, String)}, a file that nobody but the user may read. */
    public static void writePrivate(Path file, String text) {
        written(file, text.getBytes(StandardCharsets.UTF_8), true);
    }

    /** As {@link #writePrivate}, in a folder that somebody else chose and that is left as it is. */
    public static void writePrivateBeside(Path file, String text) {
        byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
        if (!holds(file, bytes, true)) {
            written(file, out -> out.write(bytes), true, false);
        }
    }

    private static void written(Path file, byte[] bytes, boolean own) {
        if (!holds(file, bytes, own)) {
            written(file, out -> out.write(bytes), own);
        }
    }

    /** Whether a file holds that already; one of the user's own is made so that nobody else may read it. */
    private static boolean holds(Path file, byte[] bytes, boolean own) {
        try {
            Path at = Files.isSymbolicLink(file) ? file.toRealPath() : file.toAbsolutePath();
            boolean there = Files.exists(at);
            if (there && own) {
                narrow(at, OWN_FILE);
            }
            return there && Arrays.equals(Files.readAllBytes(at), bytes);
        } catch (IOException e) {
            throw cannotBeWritten(file, e);
        }
    }

    private static void written(Path file, Source source, boolean own) {
        written(file, source, own, own);
    }

    private static void written(Path file, Source source, boolean own, boolean ownFolder) {
        try {
            Path at = Files.isSymbolicLink(file) ? file.toRealPath() : file.toAbsolutePath();
            boolean there = Files.exists(at);
            if (ownFolder) {
                privateFolder(at.getParent());
            } else {
                Files.createDirectories(at.getParent());
            }
            Path beside = beside(at, own);
            try {
                try (FileChannel channel = FileChannel.open(beside, StandardOpenOption.WRITE)) {
                    OutputStream out = new BufferedOutputStream(Channels.newOutputStream(channel), STEP);
                    source.writeTo(out);
                    out.flush();
                    channel.force(true);
                }
                if (there && !own) {
                    takeOver(at, beside);
                }
                moved(beside, at);
                force(at.getParent());
            } finally {
                Files.deleteIfExists(beside);
            }
        } catch (IOException e) {
            throw cannotBeWritten(file, e);
        }
    }

    private static Problem cannotBeWritten(Path file, IOException e) {
        return Problem.of(
                Problem.Kind.INPUT,
                "The file cannot be written: " + Problem.reason(e),
                file.toString(),
                "Check the folder's permissions and free space; the work is still here.",
                e);
    }

    /** A new file with a name that nothing else has; the plain way of making one leaves its mode to the umask. */
    private static Path beside(Path file, boolean own) throws IOException {
        String name = file.getFileName().toString();
        String start = "." + (name.length() > 100 ? name.substring(0, 100) : name) + ".";
        Set<OpenOption> options = Set.of(StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE);
        FileAttribute<?>[] attributes = own && posix(file.getParent())
                ? new FileAttribute<?>[] {PosixFilePermissions.asFileAttribute(OWN_FILE)}
                : new FileAttribute<?>[0];
        while (true) {
            Path beside = file.resolveSibling(
                    start + Long.toHexString(ThreadLocalRandom.current().nextLong()) + BESIDE);
            try {
                FileChannel.open(beside, options, attributes).close();
                return beside;
            } catch (FileAlreadyExistsException e) {
                // another name then
                continue;
            }
        }
    }

    private static void takeOver(Path from, Path to) throws IOException {
        if (posix(from)) {
            PosixFileAttributes old = Files.readAttributes(from, PosixFileAttributes.class);
            Files.setPosixFilePermissions(to, old.permissions());
        }
    }

    private static void moved(Path from, Path to) throws IOException {
        try {
            Files.move(from, to, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
        } catch (AtomicMoveNotSupportedException e) {
            Files.move(from, to, StandardCopyOption.REPLACE_EXISTING);
        }
    }

    /** A rename is only on disk when its folder is. */
    private static void force(Path folder) {
        try (FileChannel channel = FileChannel.open(folder, StandardOpenOption.READ)) {
            channel.force(true);
        } catch (IOException e) {
            // some systems do not open folders; there the rename is as safe as they make it
            return;
        }
    }

    /**
     * Makes a folder that nobody but the user may look into, or takes the others' rights to one that is there.
     *
     * @throws Problem when it cannot be made
     */
    public static void privateFolder(Path folder) {
        try {
            if (!Files.isDirectory(folder)) {
                Files.createDirectories(folder.toAbsolutePath().getParent());
                if (posix(folder.toAbsolutePath().getParent())) {
                    Files.createDirectory(folder, PosixFilePermissions.asFileAttribute(OWN_FOLDER));
                } else {
                    Files.createDirectory(folder);
                }
            }
            narrow(folder, OWN_FOLDER);
        } catch (FileAlreadyExistsException e) {
            if (!Files.isDirectory(folder)) {
                throw cannotBeMade(folder, e);
            }
        } catch (IOException e) {
            throw cannotBeMade(folder, e);
        }
    }

    private static Problem cannotBeMade(Path folder, IOException e) {
        return Problem.of(
                Problem.Kind.INPUT,
                "The folder cannot be made: " + Problem.reason(e),
                folder.toString(),
                "Check the permissions of the folder above it.",
                e);
    }

    /** Makes an empty file that nobody but the user may read, or takes the others' rights to one that is there. */
    public static void privateFile(Path file) throws IOException {
        privateFolder(file.toAbsolutePath().getParent());
        if (!Files.exists(file)) {
            Files.deleteIfExists(file);
            moved(beside(file.toAbsolutePath(), true), file);
        }
        narrow(file, OWN_FILE);
    }

    private static void narrow(Path path, Set<PosixFilePermission> allowed) throws IOException {
        if (posix(path)) {
            Set<PosixFilePermission> has = Files.getPosixFilePermissions(path);
            if (!allowed.containsAll(has)) {
                has.retainAll(allowed);
                Files.setPosixFilePermissions(path, has);
            }
        }
    }

    private static boolean posix(Path path) {
        return path.getFileSystem().supportedFileAttributeViews().contains("posix");
    }

    /** Takes away what a killed process left beside its files in a folder. */
    public static void sweep(Path folder) {
        Instant old = Instant.now().minus(LEFT_OVER);
        try (Stream<Path> list = Files.list(folder)) {
            for (Path left : list.filter(AtomicFile::isUnfinished).toList()) {
                if (Files.getLastModifiedTime(left).toInstant().isBefore(old)) {
                    Files.deleteIfExists(left);
                }
            }
        } catch (IOException e) {
            // what is left over harms nobody
            return;
        }
    }

    /** Whether it is being written, or was when its writer was killed. */
    public static boolean isUnfinished(Path path) {
        String name = path.getFileName().toString();
        return name.matches("\\..+\\.[0-9a-f]{1,16}\\.new");
    }
}
