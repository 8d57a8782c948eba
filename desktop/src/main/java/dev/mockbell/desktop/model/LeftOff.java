package dev.mockbell.desktop.model;

import dev.mockbell.file.AtomicFile;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.suite.Case;
import java.io.IOException;
import java.io.StringReader;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Optional;
import java.util.Properties;
import javafx.beans.InvalidationListener;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Where the work on a project was left, in a file that belongs to this machine alone: the station, the operation and its case, the suite and
 * the load plan, and how views were. What is not there any more is passed over.
 */
public final class LeftOff {
    private static final Logger LOG = LoggerFactory.getLogger(LeftOff.class);
    private static final int REST_MILLIS = 500;

    /** What stands before the names of views. */
    private static final String VIEW = "view.";

    private static final int MOST_BYTES = 64 << 10;

    private final Models models;
    private final Desk desk;
    private String last = "";

    private LeftOff(Models models) {
        this.models = models;
        this.desk = models.desk();
    }

    /** What was kept for a project; nothing where nothing was, or cannot be read. Reads a file, so not for the interface thread. */
    static Properties read(Path project) {
        Properties kept = new Properties();
        try {
            Path file = file(project);
            if (Files.isRegularFile(file) && Files.size(file) < MOST_BYTES) {
                kept.load(new StringReader(Files.readString(file)));
            }
        } catch (IOException | IllegalArgumentException | Problem e) {
            // a comfort, not data
            LOG.debug("where {} was left is not known", project, e);
        }
        return kept;
    }

    private static Path file(Path project) {
        return ProjectStore.hidden(project).resolve("left");
    }

    /** Goes to where the work was left, and keeps from now on where it is. */
    public static void of(Models models) {
        LeftOff left = new LeftOff(models);
        left.goBack(models.desk().left());
        left.last = left.text();
        InvalidationListener moved = o -> models.desk().tasks().after(REST_MILLIS, left, left::keep);
        models.desk().stationProperty().addListener(moved);
        models.call().currentProperty().addListener(moved);
        models.check().suiteProperty().addListener(moved);
        models.load().planProperty().addListener(moved);
        models.desk().views().addListener(moved);
        models.desk().onClose(left::keep);
    }

    private void goBack(Properties kept) {
        for (String name : kept.stringPropertyNames()) {
            if (name.startsWith(VIEW)) {
                desk.views().put(name.substring(VIEW.length()), kept.getProperty(name));
            }
        }
        desk.place(kept.getProperty("contract", ""), kept.getProperty("operation", ""))
                .ifPresent(place -> {
                    desk.placeProperty().set(place);
                    models.call().cases().stream()
                            .filter(c -> c.id().equals(kept.getProperty("case", "")))
                            .findFirst()
                            .ifPresent(models.call()::open);
                });
        desk.project().suite(kept.getProperty("suite", "")).ifPresent(models.check()::open);
        desk.project().load(kept.getProperty("load", "")).ifPresent(models.load()::open);
        Arrays.stream(Station.values())
                .filter(s -> s.name().equals(kept.getProperty("station", "")))
                .findFirst()
                .ifPresent(desk::go);
    }

    private String text() {
        Properties now = new Properties();
        now.setProperty("station", desk.stationProperty().get().name());
        Optional.ofNullable(desk.placeProperty().get()).ifPresent(place -> {
            now.setProperty("contract", place.contract().name());
            now.setProperty("operation", place.key());
        });
        Case looked = models.call().currentProperty().get();
        if (looked != null) {
            now.setProperty("case", looked.id());
        }
        Optional.ofNullable(models.check().suiteProperty().get()).ifPresent(s -> now.setProperty("suite", s.id()));
        Optional.ofNullable(models.load().planProperty().get()).ifPresent(p -> now.setProperty("load", p.id()));
        desk.views().forEach((name, how) -> now.setProperty(VIEW + name, how));
        StringWriter text = new StringWriter();
        try {
            now.store(text, null);
        } catch (IOException e) {
            throw new UncheckedIOException("memory can always be written to", e);
        }
        // without the date, which would be another each time
        return text.toString().replaceFirst("^#.*\\R", "");
    }

    private void keep() {
        String now = text();
        if (!now.equals(last)) {
            last = now;
            Path project = desk.project().folder();
            desk.saver().submit(() -> {
                AtomicFile.writePrivate(file(project), now);
                return null;
            });
        }
    }
}
