package dev.mockbell.desktop.model;

import dev.mockbell.project.Clash;
import dev.mockbell.project.Others;
import dev.mockbell.project.Part;
import dev.mockbell.project.Project;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleObjectProperty;

/**
 * Takes over what other programs change in the project's folder. What is being changed here as well is left to the saver, which finds
 * out that there are two versions; one of them is chosen here.
 */
public final class OtherPrograms implements Others {
    private final Desk desk;
    private final List<Runnable> before = new ArrayList<>();
    private final List<Consumer<Taken>> after = new ArrayList<>();
    private final ObjectProperty<Clash> chosen = new SimpleObjectProperty<>();

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

    /** Hears of what was taken over, when the project has it. */
    void onTaken(Consumer<Taken> action) {
        after.add(action);
    }

    @Override
    public void changed(String key, Optional<Part> was, Optional<Part> now) {
        desk.tasks().later(() -> take(key, now));
    }

    private void take(String key, Optional<Part> now) {
        before.forEach(Runnable::run);
        Project project = desk.project();
        Optional<Part> here = Part.in(project, key);
        if (!desk.saver().isAsSeen(key, here)) {
            // it was changed here, and is given to the saver: that finds two versions
            return;
        }
        Part part = now.or(() -> here).orElse(null);
        if (part == null || now.equals(here)) {
            desk.saver().see(key, now);
            return;
        }
        desk.saver().see(key, now);
        adopt(part, now.isEmpty());
        desk.tell(Notice.plain(
                part.title() + " was " + (now.isEmpty() ? "deleted" : "changed") + " by another program."));
    }

    private void adopt(Part part, boolean gone) {
        desk.taken(gone ? part.outOf(desk.project()) : part.into(desk.project()));
        after.forEach(a -> a.accept(new Taken(part, gone)));
    }

    @Override
    public void clash(Clash clash) {
        desk.tasks().later(() -> tell(clash));
    }

    private void tell(Clash clash) {
        desk.tell(Notice.bad(
                clash.words(), "Choose a version…", () -> latest(clash).ifPresent(chosen::set)));
    }

    /** Both sides may have gone on since it was told. */
    private Optional<Clash> latest(Clash clash) {
        return desk.saver().clashes().stream()
                .filter(c -> c.key().equals(clash.key()))
                .findFirst();
    }

    /** The clash of which a version is being chosen; null for none. */
    public ObjectProperty<Clash> chosenProperty() {
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
        adopt(clash.theirs(), false);
        chosen.set(null);
    }

    /** Both versions, as text. */
    public String text(Part part) {
        return desk.store().text(part);
    }
}
