package dev.mockbell.project;

import dev.mockbell.file.AtomicFile;
import dev.mockbell.file.FileName;
import dev.mockbell.file.FileTree;
import dev.mockbell.file.Inside;
import dev.mockbell.problem.Problem;
import dev.mockbell.suite.Case;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * Where everything is in a project's folder. The one place that makes paths of names: what comes out is inside the folder,
 * links followed, or is refused.
 */
final class ProjectFolder {
    static final String SETTINGS = "mockbell.yaml";
    static final String YAML = ".yaml";

    /** What of a project's folder other programs may change. */
    static final List<String> PARTS =
            List.of("contracts", "cases", "baselines", "suites", "mocks", "loads", "taps", SETTINGS);

    /** Runs of suites lie four deep. */
    private static final int HIDDEN_DEPTH = 6;

    private final Inside inside;

    ProjectFolder(Path folder) {
        inside = new Inside(folder);
    }

    Path folder() {
        return inside.folder();
    }

    Path settings() {
        return inside.held(folder().resolve(SETTINGS));
    }

    /** A folder of the first level. */
    Path part(String name) {
        return inside.held(folder().resolve(name));
    }

    Path contract(String name) {
        return inside.held(part("contracts").resolve(FileName.of(name)));
    }

    Path caseFile(Case kept) {
        return inside.held(operation(kept).resolve(FileName.of(kept.id()) + YAML));
    }

    Path caseBody(Case kept) {
        return inside.held(operation(kept).resolve(FileName.of(kept.id()) + ".xml"));
    }

    /** The answer that a case's answers are held against. */
    Path baseline(Case kept) {
        return baseline(kept.contract(), kept.operation(), kept.id());
    }

    Path baseline(String contract, String operation, String id) {
        return inside.held(part("baselines")
                .resolve(FileName.of(contract))
                .resolve(FileName.of(operation))
                .resolve(FileName.of(id) + ".xml"));
    }

    private Path operation(Case kept) {
        return part("cases").resolve(FileName.of(kept.contract())).resolve(FileName.of(kept.operation()));
    }

    /**
     * The file of a table of a suite.
     *
     * @throws dev.mockbell.problem.Problem when it leads out of the project
     */
    Path table(String name) {
        return inside.resolve(part("suites"), name);
    }

    Path suite(String id) {
        return inside.held(part("suites").resolve(FileName.of(id) + YAML));
    }

    Path mock(String contract) {
        return inside.held(part("mocks").resolve(FileName.of(contract) + YAML));
    }

    /** @param name as it is written in the mock's file; it may not lead out of the mocks' folder */
    Path mockBody(String contract, String name) {
        Path mocks = part("mocks");
        return new Inside(mocks).resolve(mocks.resolve(FileName.of(contract)), name);
    }

    Path load(String id) {
        return inside.held(part("loads").resolve(FileName.of(id) + YAML));
    }

    Path tap(String id) {
        return inside.held(part("taps").resolve(FileName.of(id) + YAML));
    }

    /** Where {@link #hidden} is, whether it is there or not. */
    Path hiddenPlace() {
        return part(".mockbell");
    }

    /**
     * The folder for what belongs to this machine alone; nobody but the user may look into it.
     *
     * @throws Problem when it leads elsewhere or cannot be made
     */
    Path hidden() {
        Path hidden = hiddenPlace();
        AtomicFile.privateFolder(hidden);
        if (!Files.exists(hidden.resolve(".gitignore"))) {
            AtomicFile.write(hidden.resolve(".gitignore"), "*\n");
        }
        return hidden;
    }

    /**
     * Checks that what belongs to this machine holds no link: the program makes none, and writes there without looking.
     *
     * @throws Problem when there is one
     */
    void checkHidden() {
        Path hidden = part(".mockbell");
        if (!Files.exists(hidden)) {
            return;
        }
        try {
            Optional<Path> link = FileTree.found(hidden, HIDDEN_DEPTH, (file, is) -> is.isSymbolicLink()).stream()
                    .findFirst();
            if (link.isPresent()) {
                throw Problem.input(
                        "The project holds a link where the program keeps what belongs to this machine",
                        link.get().toString(),
                        "Delete the link; what is needed there is made anew.");
            }
        } catch (IOException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The folder cannot be looked through: " + Problem.reason(e),
                    hidden.toString(),
                    "Check its permissions.",
                    e);
        }
    }

    /**
     * The files of the parts that a file belongs to: its own, or that of what it lies beside. Empty for a file of no part.
     *
     * @param file in the folder
     */
    List<Path> partsOf(Path file) {
        Path at = folder().relativize(file);
        String first = at.getName(0).toString();
        String name = file.getFileName().toString();
        String plain = name.replaceFirst("\\.[^.]*$", "");
        return switch (first) {
            case SETTINGS -> List.of(file);
            case "cases" -> at.getNameCount() == 4 ? List.of(file.resolveSibling(plain + YAML)) : List.of();
            case "baselines" ->
                at.getNameCount() == 4
                        ? List.of(folder().resolve("cases")
                                .resolve(at.getName(1))
                                .resolve(at.getName(2))
                                .resolve(plain + YAML))
                        : List.of();
            case "mocks" ->
                at.getNameCount() == 2
                        ? name.endsWith(YAML) ? List.of(file) : List.of()
                        : List.of(folder().resolve("mocks").resolve(at.getName(1) + YAML));
            case "suites" -> name.endsWith(YAML) && at.getNameCount() == 2 ? List.of(file) : suites();
            case "loads", "taps" -> name.endsWith(YAML) ? List.of(file) : List.of();
            default -> List.of();
        };
    }

    /** The short name of the contract that a file in the folder belongs to; empty for another file. */
    Optional<String> contractOf(Path file) {
        Path at = folder().relativize(file);
        return at.getNameCount() > 2 && at.startsWith("contracts")
                ? Optional.of(FileName.name(at.getName(1).toString()))
                : Optional.empty();
    }

    /** A table may be one of any suite. */
    private List<Path> suites() {
        try (Stream<Path> all = Files.list(part("suites"))) {
            return all.filter(f -> f.toString().endsWith(YAML)).toList();
        } catch (IOException gone) {
            return List.of();
        }
    }

    /** A path found by listing, when it is inside. */
    Path held(Path found) {
        return inside.held(found);
    }
}
