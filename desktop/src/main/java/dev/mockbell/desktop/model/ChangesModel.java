package dev.mockbell.desktop.model;

import dev.mockbell.change.ContractChange;
import dev.mockbell.change.ContractChanges;
import dev.mockbell.change.Excerpt;
import dev.mockbell.change.Side;
import dev.mockbell.contract.Contract;
import dev.mockbell.file.AtomicFile;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.KeptContract;
import dev.mockbell.project.Project;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.report.ChangesReport;
import dev.mockbell.task.StopSignal;
import dev.mockbell.upkeep.Touched;
import dev.mockbell.upkeep.Upkeep;
import dev.mockbell.upkeep.Way;
import java.nio.file.Path;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleObjectProperty;

/** A contract of the project held against its source as it is now, and what is done about it. Used on the interface thread. */
public final class ChangesModel {
    private final Desk desk;
    private final ReadOnlyObjectWrapper<Compared> shown = new ReadOnlyObjectWrapper<>();
    private final ObjectProperty<Side> side = new SimpleObjectProperty<>(Side.CALLERS);
    private final Map<Touched, Way> chosen = new LinkedHashMap<>();

    ChangesModel(Desk desk) {
        this.desk = desk;
        desk.projectProperty().addListener((o, was, now) -> {
            Compared compared = shown.get();
            boolean same = compared != null
                    && now.contract(compared.upkeep().kept().name())
                            .filter(k ->
                                    k.contract() == compared.upkeep().kept().contract())
                            .isPresent();
            if (compared != null && !same) {
                leave();
            }
        });
    }

    /**
     * What was found.
     *
     * @param when the other contract was read
     * @param ofSource whether that is the address that the kept one came from
     */
    public record Compared(Upkeep upkeep, Instant when, boolean ofSource) {}

    /** What is looked at; null while nothing is. */
    public ReadOnlyObjectProperty<Compared> shownProperty() {
        return shown.getReadOnlyProperty();
    }

    /** Of whom it is asked what breaks. */
    public ObjectProperty<Side> sideProperty() {
        return side;
    }

    /** Reads the address that the contract came from once more and holds what is there against it. */
    public void compare(KeptContract kept) {
        compare(kept, kept.contract().source());
    }

    /** Likewise with another address or file. */
    public void compare(KeptContract kept, String address) {
        Project project = desk.project();
        desk.contracts()
                .working(
                        address,
                        stop -> found(project, kept, address, desk.contracts().fetch(address, stop), stop),
                        compared -> {
                            chosen.clear();
                            chosen.putAll(compared.upkeep().proposals());
                            shown.set(compared);
                            desk.go(Station.CONTRACT);
                        },
                        () -> compare(kept, address));
    }

    private Compared found(Project project, KeptContract kept, String address, Contract read, StopSignal stop) {
        ContractChanges changes = ContractChanges.between(kept.contract(), read, stop);
        return new Compared(
                Upkeep.of(project, kept, changes, stop),
                Instant.now(desk.clock()),
                address.equals(kept.contract().source()));
    }

    /** What is to be done about something that is touched. */
    public Way chosen(Touched touched) {
        return chosen.getOrDefault(touched, Way.LEAVE);
    }

    /** Chooses what is to be done. */
    public void choose(Touched touched, Way way) {
        chosen.put(touched, way);
    }

    /** Chooses what is proposed everywhere, or to leave everything. */
    public void chooseAll(boolean proposed) {
        Upkeep upkeep = shown.get().upkeep();
        chosen.clear();
        if (proposed) {
            chosen.putAll(upkeep.proposals());
        }
    }

    /** For how much of what is touched something is to be done. */
    public long chosenCount() {
        return shown.get().upkeep().touched().stream()
                .filter(t -> !chosen(t).equals(Way.LEAVE))
                .count();
    }

    /** Hands over the lines around a change, made off the interface thread. */
    public void excerpt(ContractChange change, Consumer<List<Excerpt.Line>> taker) {
        ContractChanges changes = shown.get().upkeep().changes();
        desk.tasks().run(() -> Excerpt.of(changes, change), taker, desk::tell);
    }

    /** Puts what was found aside; the contract stays as it is kept. */
    public void leave() {
        chosen.clear();
        shown.set(null);
    }

    /** Takes the contract over as it was read, with what was chosen; the notice that tells of it can take it back. */
    public void takeOver() {
        Compared compared = shown.get();
        KeptContract kept = compared.upkeep().kept();
        Map<Touched, Way> ways = Map.copyOf(chosen);
        Path folder = desk.project().folder();
        desk.inTurn(
                () -> desk.store()
                        .replaceContract(
                                folder, kept, compared.upkeep().changes().is(), compared.when()),
                replaced -> {
                    Project before = desk.project();
                    desk.change(p -> compared.upkeep().taken(p, replaced.fresh(), ways));
                    Project after = desk.project();
                    leave();
                    desk.contracts().refresh(kept.name());
                    desk.tell(new Notice(
                            kept.title() + " is taken over as it is now.",
                            false,
                            Optional.of(
                                    new Notice.Action("Undo", () -> takeBack(folder, kept, replaced, before, after)))));
                },
                desk::tell);
    }

    private void takeBack(
            Path folder, KeptContract kept, ProjectStore.Replaced replaced, Project before, Project after) {
        desk.inTurn(
                () -> desk.store().putBack(folder, kept.name(), replaced.setAside()),
                back -> {
                    desk.change(p -> Upkeep.back(before, after, p, back.fresh()));
                    desk.contracts().refresh(kept.name());
                    desk.tell(Notice.plain(kept.title() + " is as it was kept."));
                },
                desk::tell);
    }

    /** Writes what was found as a page. */
    public void report(Path file) {
        Compared compared = shown.get();
        desk.tasks()
                .run(
                        () -> {
                            Upkeep upkeep = compared.upkeep();
                            AtomicFile.write(
                                    file,
                                    new ChangesReport(upkeep.changes(), Optional.of(upkeep))
                                            .html("What changed in "
                                                    + upkeep.kept().title()));
                            return file;
                        },
                        written -> desk.tell(Notice.plain("Wrote " + written + ".")),
                        (Consumer<Problem>) desk::tell);
    }
}
