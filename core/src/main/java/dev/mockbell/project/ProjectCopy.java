package dev.mockbell.project;

import dev.mockbell.file.AtomicFile;
import dev.mockbell.file.FileTree;
import dev.mockbell.problem.Problem;
import dev.mockbell.task.StopSignal;
import java.io.IOException;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.stream.Stream;

/**
 * A second project with the same files. What belongs to this machine (exchanges, runs, secrets) and what version control keeps stays
 * with the first, as do links, which lead to its files.
 */
public final class ProjectCopy {
    private ProjectCopy() {}

    /**
     * Copies the files of a project.
     *
     * @param to a folder that is empty or not there
     * @return how many files were copied
     * @throws Problem when the folder holds something or lies in the project, or a file cannot be copied
     */
    public static int of(Path from, Path to, StopSignal stop) {
        Path source = from.toAbsolutePath().normalize();
        Path target = to.toAbsolutePath().normalize();
        if (target.startsWith(source)) {
            throw Problem.input(
                    "The copy would lie in the project itself", target.toString(), "Choose another folder.");
        }
        try {
            if (Files.exists(target) && !isEmpty(target)) {
                throw Problem.input("The folder holds something already", target.toString(), "Choose an empty one.");
            }
            Copying copying = new Copying(source, target, stop);
            Files.walkFileTree(source, copying);
            return copying.files;
        } catch (IOException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The project cannot be copied: " + Problem.reason(e),
                    target.toString(),
                    "Check that there is room, and that the folder can be written to.",
                    e);
        }
    }

    private static boolean isEmpty(Path folder) throws IOException {
        try (Stream<Path> list = Files.list(folder)) {
            return list.findAny().isEmpty();
        }
    }

    private static final class Copying extends FileTree.Visitor {
        private final Path from;
        private final Path to;
        private final StopSignal stop;
        private int files;

        Copying(Path from, Path to, StopSignal stop) {
            this.from = from;
            this.to = to;
            this.stop = stop;
        }

        @Override
        public FileVisitResult preVisitDirectory(Path folder, BasicFileAttributes attributes) throws IOException {
            stop.check();
            if (!folder.equals(from) && folder.getFileName().toString().startsWith(".")) {
                return FileVisitResult.SKIP_SUBTREE;
            }
            Files.createDirectories(to.resolve(from.relativize(folder)));
            return FileVisitResult.CONTINUE;
        }

        @Override
        public FileVisitResult visitFile(Path file, BasicFileAttributes attributes) throws IOException {
            if (attributes.isRegularFile() && !AtomicFile.isUnfinished(file)) {
                try {
                    Files.copy(file, to.resolve(from.relativize(file)), StandardCopyOption.COPY_ATTRIBUTES);
                    files++;
                } catch (NoSuchFileException deletedMeanwhile) {
                    return FileVisitResult.CONTINUE;
                }
            }
            return FileVisitResult.CONTINUE;
        }
    }
}
