package dev.mockbell.file;

import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.Map;

/**
 * Where a user's files belong, by the XDG Base Directory Specification: what they set, what the program notes down while
 * it works, and what can be made again. A variable that is unset, empty or not absolute counts as its default.
 *
 * @param config settings: what this machine knows of projects, secrets
 * @param state the log, the window's place
 * @param cache what libraries unpack
 */
public record UserFolders(Path config, Path state, Path cache) {
    private static final String NAME = "mockbell";

    /**
     * Those of the user who runs the program.
     *
     * @param environment the environment variables of the process
     * @param home the user's home folder
     */
    public static UserFolders of(Map<String, String> environment, Path home) {
        return new UserFolders(
                folder(environment.get("XDG_CONFIG_HOME"), home.resolve(".config")),
                folder(environment.get("XDG_STATE_HOME"), home.resolve(".local").resolve("state")),
                folder(environment.get("XDG_CACHE_HOME"), home.resolve(".cache")));
    }

    /** As {@link #of(Map, Path)}, for this process. */
    public static UserFolders ofProcess() {
        return of(System.getenv(), Path.of(System.getProperty("user.home")));
    }

    private static Path folder(String set, Path usual) {
        try {
            Path given = set == null || set.isEmpty() ? usual : Path.of(set);
            return (given.isAbsolute() ? given : usual).resolve(NAME);
        } catch (InvalidPathException e) {
            return usual.resolve(NAME);
        }
    }
}
