package dev.mockbell.project;

import dev.mockbell.file.AtomicFile;
import dev.mockbell.file.FileName;
import dev.mockbell.file.Inside;
import dev.mockbell.problem.Problem;
import dev.mockbell.suite.Case;
import java.nio.file.Files;
import java.nio.file.Path;

/**
 * Where everything is in a project's folder. The one place that makes paths of names: what comes out is inside the folder,
 * links followed, or is refused.
 */
final class ProjectFolder {
    static final String SETTINGS = "mockbell.yaml";
    static final String YAML = ".yaml";

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

    /**
     * The folder for what belongs to this machine alone; nobody but the user may look into it.
     *
     * @throws Problem when it leads elsewhere or cannot be made
     */
    Path hidden() {
        Path hidden = part(".mockbell");
        AtomicFile.privateFolder(hidden);
        if (!Files.exists(hidden.resolve(".gitignore"))) {
            AtomicFile.write(hidden.resolve(".gitignore"), "*\n");
        }
        return hidden;
    }

    /** A path found by listing, when it is inside. */
    Path held(Path found) {
        return inside.held(found);
    }
}
