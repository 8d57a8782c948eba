package dev.mockbell.file;

import java.io.IOException;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.function.BiPredicate;

/** What is in a folder and the folders in it, while other processes write there: files that come and go meanwhile are no error. */
public final class FileTree {
    private FileTree() {}

    /** Goes on where a file or folder is gone by the time that it is looked at. */
    public abstract static class Visitor extends SimpleFileVisitor<Path> {
        @Override
        public FileVisitResult visitFileFailed(Path file, IOException failure) throws IOException {
            if (failure instanceof NoSuchFileException) {
                return FileVisitResult.CONTINUE;
            }
            throw failure;
        }

        @Override
        public FileVisitResult postVisitDirectory(Path left, IOException failure) throws IOException {
            return failure == null ? FileVisitResult.CONTINUE : visitFileFailed(left, failure);
        }
    }

    /**
     * The files, links among them, that are as wanted; no link is followed.
     *
     * @param depth how deep; 1 for what is in the folder itself
     * @return none when there is no such folder
     * @throws IOException when something that is there cannot be looked at
     */
    public static List<Path> found(Path folder, int depth, BiPredicate<Path, BasicFileAttributes> wanted)
            throws IOException {
        List<Path> found = new ArrayList<>();
        Files.walkFileTree(folder, Set.of(), depth, new Visitor() {
            @Override
            public FileVisitResult visitFile(Path file, BasicFileAttributes is) {
                if (wanted.test(file, is)) {
                    found.add(file);
                }
                return FileVisitResult.CONTINUE;
            }
        });
        return found;
    }
}
