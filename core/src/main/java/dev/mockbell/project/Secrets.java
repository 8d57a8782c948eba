package dev.mockbell.project;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.expression.Expressions;
import dev.mockbell.file.UserFolders;
import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * The values of secret variables. They live in one file of the user's own configuration folder, which nobody else may
 * read, under the project's local id, or in the desktop's keyring where that file says so; an environment variable of the process
 * comes before both. No secret is ever written into a project. What the keyring gave is kept in memory.
 */
public final class Secrets {
    private static final Logger LOG = LoggerFactory.getLogger(Secrets.class);
    private static final String IN_KEYRING = "keyring";

    private final Path file;
    private final Map<String, String> environment;
    private final Keyring keyring;
    private final Map<List<String>, Optional<String>> fromKeyring = new HashMap<>();
    private final Set<String> fetched = new HashSet<>();
    private final Yaml yaml = new Yaml();
    private ObjectNode read;
    private FileTime readAt;

    /**
     * @param file where values are kept
     * @param environment the environment variables of the process
     */
    public Secrets(Path file, Map<String, String> environment) {
        this(file, environment, Keyring.NONE);
    }

    /** As {@link #Secrets(Path, Map)}, for a desktop that has a keyring. */
    Secrets(Path file, Map<String, String> environment, Keyring keyring) {
        this.file = file;
        this.environment = environment;
        this.keyring = keyring;
    }

    /** No secrets. */
    public static Secrets none() {
        return new Secrets(Path.of("none"), Map.of());
    }

    /** Those of the user who runs the program: in {@code secrets.yaml} of the configuration folder. */
    public static Secrets ofUser(UserFolders folders, Map<String, String> environment) {
        return new Secrets(folders.config().resolve("secrets.yaml"), environment, Keyring.of(environment));
    }

    /** Whether the desktop has a keyring. */
    public boolean hasKeyring() {
        return keyring.isThere();
    }

    /** Where the value of a project's secret comes from, in words; empty when this machine has none. */
    public Optional<String> source(LocalProject project, String name) {
        String variable = Expressions.environmentName(name);
        if (environment.containsKey(variable)) {
            return Optional.of("from " + variable);
        }
        return value(project, name)
                .map(v -> isInKeyring(project, name) ? "from the desktop's keyring" : "from your own file of secrets");
    }

    /** Whether the value of a project's secret is kept in the keyring. */
    public synchronized boolean isInKeyring(LocalProject project, String name) {
        return inKeyring(node(project, name));
    }

    private static boolean inKeyring(JsonNode node) {
        return node.path(IN_KEYRING).asBoolean(false);
    }

    private JsonNode node(LocalProject project, String name) {
        return kept().path("projects").path(project.id()).path(name);
    }

    /**
     * The value of a project's secret; empty when this machine has none. The first time that one of the keyring is asked for may
     * take long, as {@link #fetch} does beforehand.
     */
    public synchronized Optional<String> value(LocalProject project, String name) {
        String given = environment.get(Expressions.environmentName(name));
        if (given != null) {
            return Optional.of(given);
        }
        if (project.id().isEmpty()) {
            return Optional.empty();
        }
        JsonNode node = node(project, name);
        if (inKeyring(node)) {
            // what came there since the others were fetched is not waited for in the midst of work
            return fetched.contains(project.id())
                    ? fromKeyring.getOrDefault(List.of(project.id(), name), Optional.empty())
                    : fromKeyring.computeIfAbsent(List.of(project.id(), name), k -> asked(project, name));
        }
        return node.isMissingNode() ? Optional.empty() : Optional.of(node.asText());
    }

    private Optional<String> asked(LocalProject project, String name) {
        try {
            return keyring.isThere() ? keyring.value(project.id(), name) : Optional.empty();
        } catch (Problem silent) {
            // as if it had none: whoever needs the value says that it is missing
            LOG.warn("the keyring was asked in vain", silent);
            return Optional.empty();
        }
    }

    /** Fetches the values of a project that are in the keyring, so that they are at hand. It may wait for the user. */
    public void fetch(LocalProject project) {
        List<String> names = new ArrayList<>();
        synchronized (this) {
            kept().path("projects").path(project.id()).properties().forEach(e -> {
                if (inKeyring(e.getValue())) {
                    names.add(e.getKey());
                }
            });
        }
        names.forEach(name -> value(project, name));
        synchronized (this) {
            fetched.add(project.id());
        }
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

    /**
     * Keeps a value for a project that has an id, where it was kept before; an empty one takes it away.
     *
     * @throws Problem when the keyring refuses it
     */
    public void keep(LocalProject project, String name, String value) {
        keep(project, name, value, isInKeyring(project, name));
    }

    /**
     * Keeps a value in the keyring or in the file, and nowhere else any more.
     *
     * @throws Problem when the keyring refuses it; the value is where it was then
     */
    public void keep(LocalProject project, String name, String value, boolean inKeyring) {
        boolean was = isInKeyring(project, name);
        boolean into = inKeyring && !value.isEmpty();
        // the keyring may wait for the user; who asks for other values does not wait with it
        if (into) {
            keyring.keep(project.id(), name, value);
        }
        write(project, name, value, into);
        if (was && !into && keyring.isThere()) {
            keyring.clear(project.id(), name);
        }
    }

    private synchronized void write(LocalProject project, String name, String value, boolean inKeyring) {
        ObjectNode node = yaml.readOwn(file);
        ObjectNode own = node.withObjectProperty("projects").withObjectProperty(project.id());
        fromKeyring.remove(List.of(project.id(), name));
        if (value.isEmpty()) {
            own.remove(name);
        } else if (inKeyring) {
            own.putObject(name).put(IN_KEYRING, true);
            fromKeyring.put(List.of(project.id(), name), Optional.of(value));
        } else {
            own.put(name, value);
        }
        yaml.writeOwn(file, node);
        read = null;
    }

    /**
     * Moves a value that is kept into the keyring, or out of it.
     *
     * @throws Problem when the keyring refuses it; the value is where it was then
     */
    public void move(LocalProject project, String name, boolean intoKeyring) {
        if (isInKeyring(project, name) != intoKeyring && !environment.containsKey(Expressions.environmentName(name))) {
            value(project, name).ifPresent(value -> keep(project, name, value, intoKeyring));
        }
    }
}
