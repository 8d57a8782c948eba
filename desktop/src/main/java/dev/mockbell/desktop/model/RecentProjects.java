package dev.mockbell.desktop.model;

import dev.mockbell.file.AtomicFile;
import dev.mockbell.file.UserFolders;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.ProjectStore;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** The projects that were opened last, the latest first, in a file of the user's own. */
public final class RecentProjects {
    private static final Logger LOG = LoggerFactory.getLogger(RecentProjects.class);
    private static final int MOST = 12;

    private final Path file;
    private final ObservableList<Path> projects = FXCollections.observableArrayList();

    RecentProjects(Path file) {
        this.file = file;
    }

    /** Those of a user that are still there, but for one, the latest first. Reads a file; none where it cannot be read. */
    public static List<Path> but(Path one, UserFolders user) {
        try {
            return new RecentProjects(file(user))
                    .read().stream()
                            .filter(p -> !p.equals(one) && ProjectStore.isProject(p))
                            .toList();
        } catch (IOException e) {
            LOG.warn("the recent projects are not known", e);
            return List.of();
        }
    }

    static Path file(UserFolders user) {
        return user.state().resolve("recent-projects");
    }

    /** Those that are still there, without the one that is open. */
    public ObservableList<Path> projects() {
        return projects;
    }

    /** Puts a project first and reads the others, off the interface thread. */
    void opened(Path project, Tasks tasks) {
        tasks.run(
                () -> {
                    List<Path> others = read();
                    others.remove(project);
                    List<String> lines = new ArrayList<>();
                    lines.add(project.toString());
                    others.stream().limit(MOST - 1).map(Path::toString).forEach(lines::add);
                    if (project.toString().indexOf('\n') < 0) {
                        AtomicFile.writePrivate(file, String.join("\n", lines) + "\n");
                    }
                    return others.stream()
                            .filter(ProjectStore::isProject)
                            .limit(MOST - 1)
                            .toList();
                },
                projects::setAll,
                RecentProjects::unknown);
    }

    private static void unknown(Problem problem) {
        // a list of what was opened before is a comfort, not data
        LOG.warn("the recent projects are not known", problem);
    }

    private List<Path> read() throws IOException {
        List<Path> found = new ArrayList<>();
        if (Files.isRegularFile(file)) {
            for (String line : Files.readAllLines(file)) {
                try {
                    if (!line.isBlank()) {
                        found.add(Path.of(line));
                    }
                } catch (InvalidPathException e) {
                    LOG.debug("passed over {}", line, e);
                }
            }
        }
        return found;
    }
}
