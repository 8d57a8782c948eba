package dev.mockbell.project;

import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.expression.Expressions;
import dev.mockbell.file.UserFolders;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.util.Map;
import java.util.Optional;

/**
 * The values of secret variables. They live in one file of the user's own configuration folder, which nobody else may
 * read, under the project's local id; an environment variable of the process comes before it. No secret is ever written
 * into a project.
 */
public final class Secrets {
    private final Path file;
    private final Map<String, String> environment;
    private final Yaml yaml = new Yaml();
    private ObjectNode read;
    private FileTime readAt;

    /**
     * @param file where values are kept
     * @param environment the environment variables of the process
     */
    public Secrets(Path file, Map<String, String> environment) {
        this.file = file;
        this.environment = environment;
    }

    /** No secrets. */
    public static Secrets none() {
        return new Secrets(Path.of("none"), Map.of());
    }

    /** Those of the user who runs the program: in {@code secrets.yaml} of the configuration folder. */
    public static Secrets ofUser(UserFolders folders, Map<String, String> environment) {
        return new Secrets(folders.config().resolve("secrets.yaml"), environment);
    }

    /** Where the value of a project's secret comes from, in words; empty when this machine has none. */
    public Optional<String> source(LocalProject project, String name) {
        String variable = Expressions.environmentName(name);
        return environment.containsKey(variable)
                ? Optional.of("from " + variable)
                : value(project, name).map(v -> "from your own file of secrets");
    }

    /** The value of a project's secret; empty when this machine has none. */
    public synchronized Optional<String> value(LocalProject project, String name) {
        String given = environment.get(Expressions.environmentName(name));
        if (given != null) {
            return Optional.of(given);
        }
        if (project.id().isEmpty()) {
            return Optional.empty();
        }
        var node = kept().path("projects").path(project.id()).path(name);
        return node.isMissingNode() ? Optional.empty() : Optional.of(node.asText());
    }

    /** The file as it is; read again only when it has changed, since every look at a request asks for values. */
    private ObjectNode kept() {
        FileTime now = changed();
        if (read == null || !now.equals(readAt)) {
            read = yaml.readOwn(file);
            readAt = now;
        }
        return read;
    }

    private FileTime changed() {
        try {
            return Files.getLastModifiedTime(file);
        } catch (IOException e) {
            return FileTime.fromMillis(0);
        }
    }

    /** Keeps a value for a project that has an id; an empty one takes it away. */
    public synchronized void keep(LocalProject project, String name, String value) {
        ObjectNode node = yaml.readOwn(file);
        ObjectNode own = node.withObjectProperty("projects").withObjectProperty(project.id());
        if (value.isEmpty()) {
            own.remove(name);
        } else {
            own.put(name, value);
        }
        yaml.writeOwn(file, node);
        read = null;
    }
}
