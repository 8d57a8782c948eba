package dev.mockbell.project;

import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.expression.Expressions;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.Optional;

/**
 * The values of secret variables. They live in one file of the user's own configuration folder, which nobody else may
 * read, under the project's name; an environment variable of the process comes before it. No secret is ever written into
 * a project.
 */
public final class Secrets {
    private final Path file;
    private final Map<String, String> environment;
    private final Yaml yaml = new Yaml();

    /**
     * @param file where values are kept
     * @param environment the environment variables of the process
     */
    public Secrets(Path file, Map<String, String> environment) {
        this.file = file;
        this.environment = environment;
    }

    /** Those of the user who runs the program: in {@code mockbell/secrets.yaml} of the configuration folder. */
    public static Secrets ofUser(Map<String, String> environment) {
        String configured = environment.get("XDG_CONFIG_HOME");
        Path folder = configured == null || configured.isBlank()
                ? Path.of(System.getProperty("user.home"), ".config")
                : Path.of(configured);
        return new Secrets(folder.resolve("mockbell").resolve("secrets.yaml"), environment);
    }

    /** The value of a project's secret; empty when this machine has none. */
    public synchronized Optional<String> value(String project, String name) {
        String given = environment.get(Expressions.environmentName(name));
        if (given != null) {
            return Optional.of(given);
        }
        if (!Files.isRegularFile(file)) {
            return Optional.empty();
        }
        var node = yaml.read(file).path("projects").path(project).path(name);
        return node.isMissingNode() ? Optional.empty() : Optional.of(node.asText());
    }

    /** Keeps a value; an empty one takes it away. */
    public synchronized void keep(String project, String name, String value) {
        ObjectNode node = Files.isRegularFile(file) ? yaml.read(file) : yaml.object();
        ObjectNode own = node.withObjectProperty("projects").withObjectProperty(project);
        if (value.isEmpty()) {
            own.remove(name);
        } else {
            own.put(name, value);
        }
        // a file that is made beside and moved into place has the mode 0600 from the start
        yaml.write(file, node);
    }
}
