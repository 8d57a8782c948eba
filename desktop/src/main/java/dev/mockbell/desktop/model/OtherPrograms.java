package dev.mockbell.desktop.model;

import dev.mockbell.change.DocumentChange;
import dev.mockbell.project.ChangedPart;
import dev.mockbell.project.Clash;
import dev.mockbell.project.KeptContract;
import dev.mockbell.project.Others;
import dev.mockbell.project.Part;
import dev.mockbell.project.Project;
import dev.mockbell.project.ProjectStore.OtherContract;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
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
    private final Set<String> contracts = new LinkedHashSet<>();
    private final List<Consumer<String>> onContract = new ArrayList<>();
    private final Map<String, Optional<Part>> waiting = new LinkedHashMap<>();
    private final ObjectProperty<Versions> chosen = new SimpleObjectProperty<>();

    /**
     * Two versions of something, of which one is to be chosen.
     *
     * @param words what became of both, as a sentence
     * @param oursGone whether it is not there any more here
     * @param differences what differs
     */
    public record Versions(
            String words,
            boolean oursGone,
            DocumentChange differences,
            Runnable ours,
            Runnable theirs,
            Runnable later) {}

    OtherPrograms(Desk desk) {
        this.desk = desk;
    }

    /** Does something before anything is taken over: what is being typed is a change, too. */
    void onBefore(Runnable action) {
        before.add(action);
    }

    /** Hears of a contract that became another, by its short name, when the project has it. */
    void onContract(Consumer<String> action) {
        onContract.add(action);
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
        List<ChangedPart> taken = new ArrayList<>();
        all.forEach((key, now) -> {
            Optional<Part> own = Optional.ofNullable(here.get(key));
            // what was changed here is given to the saver: that finds two versions
            if (desk.saver().isAsSeen(key, own)) {
                desk.saver().see(key, now);
                if (!now.equals(own)) {
                    taken.add(new ChangedPart(now.or(() -> own).orElseThrow(), now.isEmpty()));
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

    private static String words(List<ChangedPart> taken) {
        ChangedPart first = taken.get(0);
        return taken.size() > 1
                ? taken.size() + " parts of the project were changed" + BY
                : first.part().title() + " was " + (first.gone() ? "deleted" : "changed") + BY;
    }

    private void adopt(List<ChangedPart> taken) {
        Project project = desk.project();
        for (ChangedPart one : taken) {
            project = one.gone() ? one.part().outOf(project) : one.part().into(project);
        }
        desk.taken(project);
        desk.took(taken);
    }

    @Override
    public void clash(Clash clash) {
        desk.tasks().later(() -> tell(clash));
    }

    private void tell(Clash clash) {
        tell(clash.words(), () -> latest(clash).ifPresent(this::compare));
    }

    /** Tells of two versions of something, with a way to choose one. */
    void tell(String words, Runnable choose) {
        desk.tell(Notice.bad(words, "Choose a version…", choose));
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
                                clash.words(),
                                clash.ours().isEmpty(),
                                differences(
                                        clash.ours().map(desk.store()::text).orElse(""),
                                        desk.store().text(clash.theirs())),
                                () -> desk.saver().keepOurs(clash),
                                () -> takeTheirs(clash),
                                () -> latest(clash).ifPresent(this::tell)),
                        this::choose,
                        desk::tell);
    }

    static DocumentChange differences(String ours, String theirs) {
        return DocumentChange.between("− only here · + only in the folder", ours, theirs);
    }

    /** Shows two versions to choose from. */
    void choose(Versions versions) {
        chosen.set(versions);
    }

    /** The versions of which one is being chosen; null for none. */
    public ObjectProperty<Versions> chosenProperty() {
        return chosen;
    }

    /** One of the versions was chosen, or neither for now. */
    public void chose(Runnable what) {
        chosen.set(null);
        what.run();
    }

    private void takeTheirs(Clash clash) {
        desk.saver().takeTheirs(clash);
        adopt(List.of(new ChangedPart(clash.theirs(), false)));
    }

    @Override
    public void contract(String name) {
        synchronized (waiting) {
            contracts.add(name);
        }
        desk.tasks().after(TOGETHER_MILLIS, contracts, this::lookAtContracts);
    }

    private void lookAtContracts() {
        List<String> names;
        synchronized (waiting) {
            names = List.copyOf(contracts);
            contracts.clear();
        }
        Path folder = desk.project().folder();
        for (String name : names) {
            // what this program wrote itself is known here by now: it was done in the saver's turn
            Optional<KeptContract> known = desk.project().contract(name);
            desk.inTurn(
                    () -> desk.store().contractIfOther(folder, name, known),
                    other -> other.ifPresent(o -> take(name, known, o)),
                    desk::tell);
        }
    }

    private void take(String name, Optional<KeptContract> known, OtherContract other) {
        if (!desk.project().contract(name).equals(known)) {
            // it has become another here meanwhile
            contract(name);
            return;
        }
        before.forEach(Runnable::run);
        desk.taken(other.now()
                .map(now -> desk.project().withContract(now))
                .orElseGet(() -> desk.project().withoutContract(name)));
        desk.contracts().refresh(name);
        onContract.forEach(a -> a.accept(name));
        String title = other.now().or(() -> known).map(KeptContract::title).orElse(name);
        desk.tell(Notice.plain("The contract “" + title + "” was "
                + (other.now().isEmpty() ? "removed" : known.isEmpty() ? "added" : "changed") + BY));
    }
}
