package dev.mockbell.file;

import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;

/**
 * A folder that nothing found through it may lead out of: neither by the path that is written, nor by a link that lies in
 * it. Paths that stand in files of a project come from whoever made the project.
 */
public final class Inside {
    private final Path folder;

    public Inside(Path folder) {
        this.folder = folder.toAbsolutePath().normalize();
    }

    /** The folder itself. */
    public Path folder() {
        return folder;
    }

    /**
     * A path below {@code base} as it is written in a file.
     *
     * @throws Problem when it leads out of the folder, or is no path at all
     */
    public Path resolve(Path base, String written) {
        try {
            return held(base.resolve(written), written);
        } catch (InvalidPathException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "“" + shown(written) + "” is not a path: " + e.getReason(),
                    null,
                    "Mend it.",
                    e);
        }
    }

    /**
     * A path that must be inside.
     *
     * @throws Problem when it is not, or when a link on its way leads out
     */
    public Path held(Path path) {
        return held(path, path.toString());
    }

    private Path held(Path path, String written) {
        Path at = path.toAbsolutePath().normalize();
        if (!at.startsWith(folder) || !real(at).startsWith(real(folder))) {
            throw Problem.input(
                    "“" + shown(written) + "” leads out of the folder " + folder,
                    null,
                    "Put the file into the folder and name it from there.");
        }
        return at;
    }

    private static String shown(String written) {
        return written.replaceAll("\\p{Cntrl}", "?");
    }

    /** Where a path really is; of one that is not there yet, where it would be. */
    private static Path real(Path path) {
        Path there = path;
        while (there != null && !Files.exists(there, java.nio.file.LinkOption.NOFOLLOW_LINKS)) {
            there = there.getParent();
        }
        if (there == null) {
            return path;
        }
        try {
            return there.toRealPath().resolve(there.relativize(path)).normalize();
        } catch (IOException e) {
            // a link that leads nowhere could lead anywhere by the time it is used
            return Path.of("/").resolve("unreadable");
        }
    }
}
