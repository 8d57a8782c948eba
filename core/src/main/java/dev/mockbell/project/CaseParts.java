package dev.mockbell.project;

import dev.mockbell.file.FileName;
import dev.mockbell.file.Inside;
import dev.mockbell.problem.Problem;
import dev.mockbell.request.PartText;
import java.io.IOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;

/** Files of a project that go with its cases. */
public final class CaseParts {
    private static final String FOLDER = "parts";

    private CaseParts() {}

    /**
     * Takes a file into the project: one that is in it already stays where it is, another is copied to {@code parts/}, beside
     * any of its name that has other bytes.
     *
     * @return its path in the project, as a case keeps it
     * @throws Problem when it cannot be read or written
     */
    public static String take(Path project, Path file) {
        Path root = project.toAbsolutePath().normalize();
        Path from = file.toAbsolutePath().normalize();
        if (from.startsWith(root)) {
            return written(root, new Inside(root).held(from));
        }
        String name = FileName.of(from.getFileName().toString());
        int dot = name.lastIndexOf('.') > 0 ? name.lastIndexOf('.') : name.length();
        try {
            Path folder = Files.createDirectories(new Inside(root).held(root.resolve(FOLDER)));
            for (int i = 1; ; i++) {
                Path to = folder.resolve(i == 1 ? name : name.substring(0, dot) + "-" + i + name.substring(dot));
                try {
                    Files.copy(from, to);
                    return written(root, to);
                } catch (FileAlreadyExistsException there) {
                    if (Files.isRegularFile(to) && Files.mismatch(from, to) < 0) {
                        return written(root, to);
                    }
                }
            }
        } catch (IOException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The file cannot be taken into the project: " + Problem.reason(e),
                    file.toString(),
                    "Check that it can be read, and that there is room.",
                    e);
        }
    }

    private static String written(Path root, Path file) {
        return root.relativize(file).toString().replace('\\', '/');
    }

    /** An id for a file that none of the parts has, made of its name. */
    public static String freeId(String file, List<PartText> parts) {
        String name = file.substring(file.lastIndexOf('/') + 1).replaceAll("[^A-Za-z0-9._-]", "-");
        String wanted = name.isEmpty() ? "part" : name;
        String id = wanted;
        for (int i = 2; isTaken(id, parts); i++) {
            id = wanted + "-" + i;
        }
        return id;
    }

    private static boolean isTaken(String id, List<PartText> parts) {
        return parts.stream().anyMatch(p -> p.id().equals(id));
    }

    /**
     * The size of a part's file in bytes.
     *
     * @throws Problem when it is not there or leads out of the project
     */
    public static long size(Path project, PartText part) {
        try {
            return Files.size(new Inside(project).resolve(project, part.file()));
        } catch (IOException e) {
            throw Problem.of(
                    Problem.Kind.INPUT, "There is no file " + part.file(), project.toString(), "Choose another.", e);
        }
    }
}
