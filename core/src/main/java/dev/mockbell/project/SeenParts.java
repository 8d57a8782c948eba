package dev.mockbell.project;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;

/**
 * The parts of a project as this program saw them last in the folder: what is there now and is another was written by somebody
 * else. Safe for many threads.
 */
final class SeenParts {
    private final ProjectFolder folder;
    private final Map<String, Seen> seen = new ConcurrentHashMap<>();

    /**
     * A part in the folder.
     *
     * @param read as it is read
     * @param given as it was given to be written, which is the same to whoever gave it
     */
    private record Seen(Part read, Part given, Path file) {}

    SeenParts(ProjectFolder folder, Project opened) {
        this.folder = folder;
        Part.all(opened).values().forEach(part -> see(part.key(), Optional.of(part)));
    }

    /** What was seen under a key; empty when nothing was there. */
    Optional<Part> of(String key) {
        return Optional.ofNullable(seen.get(key)).map(Seen::read);
    }

    /** What was given to be written under a key; what was read, where nothing was. */
    Optional<Part> given(String key) {
        return Optional.ofNullable(seen.get(key)).map(Seen::given);
    }

    /** The keys of parts that were seen in a file. */
    List<String> in(Path file) {
        return seen.entrySet().stream()
                .filter(e -> e.getValue().file().equals(file))
                .map(Map.Entry::getKey)
                .toList();
    }

    /** Whether a part is what was seen, be it as it was read or as it was given; two that are not there are the same. */
    boolean is(String key, Optional<Part> part) {
        Seen known = seen.get(key);
        return known == null
                ? part.isEmpty()
                : part.filter(p -> p.equals(known.read()) || p.equals(known.given()))
                        .isPresent();
    }

    /** It is seen now. */
    void see(String key, Optional<Part> read) {
        read.ifPresentOrElse(
                part -> seen.put(key, new Seen(part, part, part.place().in(folder))), () -> seen.remove(key));
    }

    /** What was given is written, and reads so. */
    void written(Part given, Optional<Part> read) {
        read.ifPresentOrElse(
                part -> seen.put(
                        given.key(), new Seen(part, given, given.place().in(folder))),
                () -> seen.remove(given.key()));
    }
}
