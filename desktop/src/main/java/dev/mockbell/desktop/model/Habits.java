package dev.mockbell.desktop.model;

import dev.mockbell.file.AtomicFile;
import dev.mockbell.file.UserFolders;
import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.io.Reader;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Properties;
import java.util.TreeSet;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * How the user has set views up, such as which columns are shown: in a file of the user's own that every window goes by. What
 * was set last counts. Used on the interface thread; files are read when it is made and written by tasks.
 */
public final class Habits {
    private static final int WAIT_MILLIS = 300;

    private final Path file;
    private final Tasks tasks;
    private final Properties known;
    private final Properties changed = new Properties();

    /** Reads the file; one that cannot be read is as one that is not there. */
    Habits(Path file, Tasks tasks) {
        this.file = file;
        this.tasks = tasks;
        this.known = read(file);
    }

    /**
     * How large everything is to be, for the toolkit before it starts.
     *
     * @return in per cent; 0 for as the system says
     */
    public static int size(UserFolders user) {
        return Appearance.chosen(read(file(user)));
    }

    /** Whether a window begins dark, for before its project is read. */
    public static boolean dark(UserFolders user) {
        return Appearance.dark(read(file(user)));
    }

    static Path file(UserFolders user) {
        return user.state().resolve("habits");
    }

    private static Properties read(Path file) {
        Properties found = new Properties();
        if (Files.isRegularFile(file)) {
            try (Reader reader = Files.newBufferedReader(file)) {
                found.load(reader);
            } catch (IOException | IllegalArgumentException e) {
                log().debug("views begin as usual", e);
            }
        }
        return found;
    }

    /** What was set under a name of letters and points; {@code usual} until something is. */
    public String get(String name, String usual) {
        return known.getProperty(name, usual);
    }

    /** Sets it, and has it written soon. The value has one line. */
    public void set(String name, String value) {
        if (value.equals(known.setProperty(name, value))) {
            return;
        }
        changed.setProperty(name, value);
        tasks.after(WAIT_MILLIS, this, this::write);
    }

    private void write() {
        Properties fresh = new Properties();
        fresh.putAll(changed);
        tasks.run(
                () -> {
                    // another window may have set other things since
                    Properties all = read(file);
                    all.putAll(fresh);
                    StringBuilder text = new StringBuilder();
                    for (String name : new TreeSet<>(all.stringPropertyNames())) {
                        text.append(name)
                                .append('=')
                                .append(all.getProperty(name).replace("\\", "\\\\"))
                                .append('\n');
                    }
                    AtomicFile.writePrivate(file, text.toString());
                    return null;
                },
                done -> {},
                Habits::unwritten);
    }

    private static void unwritten(Problem problem) {
        log().warn("how views are set up is not remembered", problem);
    }

    /** Made when it is wanted: a start that reads habits need not wait for the log. */
    private static Logger log() {
        return LoggerFactory.getLogger(Habits.class);
    }
}
