package dev.mockbell.desktop.model;

import dev.mockbell.change.DocumentChange;
import dev.mockbell.project.Clash;
import dev.mockbell.project.Others;
import dev.mockbell.project.Part;
import dev.mockbell.project.Project;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleObjectProperty;

/**
 * Takes over what other programs change in the project's folder. What is being changed here as well is left to the saver, which finds
 * out that there are two versions; one of them is chosen here.
 */
public final class OtherPrograms implements Others {
    private static final int TOGETHER_MILLIS = 150;
    private static final String BY = " by another program.";

    private final Desk desk;
    private final List<Runnable> before = new ArrayList<>();
    private final List<Consumer<List<Taken>>> after = new ArrayList<>();
    private final Map<String, Optional<Part>> waiting = new LinkedHashMap<>();
    private final ObjectProperty<Versions> chosen = new SimpleObjectProperty<>();

    /** Both versions of a part, and what differs. */
    public record Versions(Clash clash, DocumentChange differences) {}

    /**
     * A part that another program changed.
     *
     * @param gone whether it deleted it
     */
    record Taken(Part part, boolean gone) {}

    OtherPrograms(Desk desk) {
        this.desk = desk;
    }

    /** Does something before anything is taken over: what is being typed is a change, too. */
    void onBefore(Runnable action) {
        before.add(action);
    }

    /** Hears of what was taken over together, when the project has it. */
    void onTaken(Consumer<List<Taken>> action) {
        after.add(action);
    }

    @Override
    public void changed(String key, Optional<Part> was, Optional<Part> now) {
        synchronized (waiting) {
            waiting.put(key, now);
        }
        // a whole branch may be checked out at once
        desk.tasks().after(TOGETHER_MILLIS, this, this::take);
    }

    private void take() {
        Map<String, Optional<Part>> all;
        synchronized (waiting) {
            all = new LinkedHashMap<>(waiting);
            waiting.clear();
        }
        before.forEach(Runnable::run);
        Map<String, Part> here = Part.all(desk.project());
        List<Taken> taken = new ArrayList<>();
        all.forEach((key, now) -> {
            Optional<Part> own = Optional.ofNullable(here.get(key));
            // what was changed here is given to the saver: that finds two versions
            if (desk.saver().isAsSeen(key, own)) {
                desk.saver().see(key, now);
                if (!now.equals(own)) {
                    taken.add(new Taken(now.or(() -> own).orElseThrow(), now.isEmpty()));
                }
            }
        });
        if (!taken.isEmpty()) {
            adopt(taken);
            // the latest of these says enough
            desk.notices().removeIf(n -> n.text().endsWith(BY));
            desk.tell(Notice.plain(words(taken)));
        }
    }

    private static String words(List<Taken> taken) {
        Taken first = taken.get(0);
        return taken.size() > 1
                ? taken.size() + " parts of the project were changed" + BY
                : first.part().title() + " was " + (first.gone() ? "deleted" : "changed") + BY;
    }

    private void adopt(List<Taken> taken) {
        Project project = desk.project();
        for (Taken one : taken) {
            project = one.gone() ? one.part().outOf(project) : one.part().into(project);
        }
        desk.taken(project);
        after.forEach(a -> a.accept(taken));
    }

    @Override
    public void clash(Clash clash) {
        desk.tasks().later(() -> tell(clash));
    }

    private void tell(Clash clash) {
        desk.tell(Notice.bad(
                clash.words(), "Choose a version…", () -> latest(clash).ifPresent(this::compare)));
    }

    /** Both sides may have gone on since it was told. */
    private Optional<Clash> latest(Clash clash) {
        return desk.saver().clashes().stream()
                .filter(c -> c.key().equals(clash.key()))
                .findFirst();
    }

    private void compare(Clash clash) {
        desk.tasks()
                .run(
                        () -> new Versions(
                                clash,
                                DocumentChange.between(
                                        "− only here · + only in the folder",
                                        clash.ours().map(desk.store()::text).orElse(""),
                                        desk.store().text(clash.theirs()))),
                        chosen::set,
                        desk::tell);
    }

    /** The versions of which one is being chosen; null for none. */
    public ObjectProperty<Versions> chosenProperty() {
        return chosen;
    }

    /** No version is chosen now; it can be later. */
    public void later(Clash clash) {
        chosen.set(null);
        latest(clash).ifPresent(this::tell);
    }

    /** Ours is written over theirs. */
    public void keepOurs(Clash clash) {
        desk.saver().keepOurs(clash);
        chosen.set(null);
    }

    /** Theirs takes the place of ours. */
    public void takeTheirs(Clash clash) {
        desk.saver().takeTheirs(clash);
        adopt(List.of(new Taken(clash.theirs(), false)));
        chosen.set(null);
    }
}
