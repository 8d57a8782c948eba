package dev.mockbell.project;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.file.AtomicFile;
import dev.mockbell.file.UserFolders;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;

/**
 * What this machine knows of projects, in one file of the user's own: {@code projects.yaml} in the configuration folder. A
 * project is known by a random id that is kept here together with its folder and, in the folder, in {@code .mockbell/id};
 * only where both agree is it the same project. A folder that came from somebody else is new here, whatever it holds.
 */
public final class LocalProjects {
    private final Path file;
    private final Yaml yaml = new Yaml();

    /** @param file where it is kept */
    public LocalProjects(Path file) {
        this.file = file;
    }

    /** Those of the user who runs the program. */
    public static LocalProjects ofUser(UserFolders folders) {
        return new LocalProjects(folders.config().resolve("projects.yaml"));
    }

    /** The project in a folder. Of one that is new here nothing is known, and nothing is written down. */
    public synchronized LocalProject of(Path folder) {
        String id = idIn(folder);
        if (!(yaml.readOwn(file).path("projects").get(id) instanceof ObjectNode known) || id.isEmpty()) {
            return LocalProject.UNKNOWN;
        }
        Path was = Path.of(known.path("folder").asText());
        if (was.equals(real(folder))) {
            return read(id, known);
        }
        return new LocalProject("", Set.of(), Set.of(), Set.of(), Optional.of(was));
    }

    /** The project in a folder, with an id from now on. */
    public synchronized LocalProject entered(Path folder) {
        LocalProject known = of(folder);
        if (!known.id().isEmpty()) {
            return known;
        }
        LocalProject made =
                new LocalProject(UUID.randomUUID().toString(), Set.of(), Set.of(), Set.of(), Optional.empty());
        AtomicFile.writePrivate(ProjectStore.hidden(folder).resolve("id"), made.id() + "\n");
        return write(folder, made);
    }

    /** Takes over what was known of a project before it was moved or copied here. */
    public synchronized LocalProject adopt(Path folder) {
        String id = idIn(folder);
        return yaml.readOwn(file).path("projects").get(id) instanceof ObjectNode known
                ? write(folder, read(id, known))
                : entered(folder);
    }

    /** Lets a project's secrets go to a host. */
    public synchronized LocalProject allowHost(Path folder, String host) {
        return write(folder, entered(folder).withHost(host));
    }

    /** Takes that back. */
    public synchronized LocalProject refuseHost(Path folder, String host) {
        return write(folder, entered(folder).withoutHost(host));
    }

    /** Lets a project listen on an address beyond loopback. */
    public synchronized LocalProject allowListening(Path folder, String address) {
        return write(folder, entered(folder).withListening(address));
    }

    /** Lets a project put a host beyond loopback under load. */
    public synchronized LocalProject confirmLoad(Path folder, String host) {
        return write(folder, entered(folder).withLoaded(host));
    }

    private LocalProject write(Path folder, LocalProject project) {
        ObjectNode all = yaml.readOwn(file);
        ObjectNode own = all.withObjectProperty("projects").withObjectProperty(project.id());
        own.put("folder", real(folder).toString());
        list(own, "hosts", project.hosts());
        list(own, "listening", project.listening());
        list(own, "loaded", project.loaded());
        yaml.writeOwn(file, all);
        return project;
    }

    private static void list(ObjectNode own, String name, Set<String> values) {
        ArrayNode list = own.putArray(name);
        new TreeSet<>(values).forEach(list::add);
    }

    private static LocalProject read(String id, ObjectNode known) {
        Set<String> hosts = new TreeSet<>();
        known.path("hosts").forEach(h -> hosts.add(h.asText()));
        Set<String> listening = new TreeSet<>();
        known.path("listening").forEach(l -> listening.add(l.asText()));
        Set<String> loaded = new TreeSet<>();
        known.path("loaded").forEach(l -> loaded.add(l.asText()));
        return new LocalProject(id, hosts, listening, loaded, Optional.empty());
    }

    private static String idIn(Path folder) {
        try {
            Path id = folder.resolve(".mockbell").resolve("id");
            return Files.isRegularFile(id) && Files.size(id) < 200
                    ? Files.readString(id).strip()
                    : "";
        } catch (IOException e) {
            return "";
        }
    }

    private static Path real(Path folder) {
        try {
            return folder.toRealPath();
        } catch (IOException e) {
            return folder.toAbsolutePath().normalize();
        }
    }
}
