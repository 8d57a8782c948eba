package dev.mockbell.desktop.view.check;

import dev.mockbell.desktop.model.CheckModel;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.Models;
import dev.mockbell.desktop.model.Station;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.DataTable;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.StepPath;
import dev.mockbell.suite.Suite;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Collectors;
import javafx.geometry.Side;
import javafx.scene.Node;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Menu;
import javafx.scene.control.MenuItem;
import javafx.scene.control.SeparatorMenuItem;

/** The menus of the register: what can be added, and what can be done with a step. */
final class StepActions {
    private final Models models;
    private final CheckModel model;
    private final Desk desk;
    private final Node within;

    StepActions(Models models, Node within) {
        this.models = models;
        this.model = models.check();
        this.desk = models.desk();
        this.within = within;
    }

    /** What can be added, shown at a node. */
    void showAdd(Node at) {
        ContextMenu menu = new ContextMenu();
        desk.project().cases().stream()
                .collect(Collectors.groupingBy(Case::operation, TreeMap::new, Collectors.toList()))
                .forEach((operation, cases) -> {
                    Menu group = new Menu(operation);
                    for (Case kept : cases) {
                        group.getItems()
                                .add(item(
                                        kept.title(),
                                        () -> model.edits().add(Step.call(kept.title(), kept.reference()))));
                    }
                    menu.getItems().add(group);
                });
        if (!menu.getItems().isEmpty()) {
            menu.getItems().add(new SeparatorMenuItem());
        }
        asked(menu, "Pause…", new Step.Pause("Pause", true, 1_000));
        asked(menu, "Group…", new Step.Group("Group", true, List.of()));
        asked(menu, "Repeat until…", new Step.Until("Wait for it", true, "", 10, 1_000, List.of()));
        asked(
                menu,
                "Choose by a condition…",
                new Step.Choose(
                        "Which",
                        true,
                        "",
                        new Step.Group("then", true, List.of()),
                        new Step.Group("otherwise", true, List.of())));
        asked(
                menu,
                "For each node of an answer…",
                new Step.ForEach("For each", true, Optional.empty(), "", "item", List.of()));
        asked(menu, "For each row…", new Step.ForEach("For each row", true, Optional.of(rows()), "", "", List.of()));
        asked(menu, "Another suite…", new Step.RunSuite("Another suite", true, "", Map.of()));
        Menu setUp = new Menu("Before the steps (set-up)");
        Menu cleanUp = new Menu("At the end, always (clean-up)");
        desk.project().cases().forEach(kept -> {
            String words = kept.operation() + " · " + kept.title();
            Step call = Step.call(kept.title(), kept.reference());
            setUp.getItems().add(item(words, () -> model.edits().add(StepPath.Part.SET_UP, call)));
            cleanUp.getItems().add(item(words, () -> model.edits().add(StepPath.Part.CLEAN_UP, call)));
        });
        menu.getItems().addAll(new SeparatorMenuItem(), setUp, cleanUp);
        menu.show(at, Side.TOP, 0, 0);
    }

    private DataTable rows() {
        Suite suite = model.suiteProperty().get();
        String lead = suite == null ? "suite" : suite.id();
        long count = suite == null
                ? 0
                : suite.all().filter(Step.ForEach.class::isInstance).count();
        return new DataTable(
                lead + "-rows" + (count == 0 ? "" : "-" + (count + 1)) + ".csv",
                List.of("nights"),
                List.of(List.of("1"), List.of("2")));
    }

    private void asked(ContextMenu menu, String words, Step proposal) {
        menu.getItems()
                .add(item(
                        words,
                        () -> StepForm.ask(
                                within,
                                desk,
                                model.suiteProperty().get(),
                                words.replace("…", ""),
                                proposal,
                                model.edits()::add)));
    }

    /** What can be done with a step, shown at a node. */
    void show(Register.Row row, Node at) {
        StepPath path = row.path();
        Step step = row.step();
        ContextMenu menu = new ContextMenu();
        menu.getItems()
                .addAll(
                        item("Run this step", () -> model.runOne(path)),
                        item("Run from here", () -> model.runFrom(path)),
                        item("Run up to here", () -> model.runUpTo(path)),
                        new SeparatorMenuItem(),
                        item("Edit…", () -> edit(path, step)),
                        item(
                                step.on() ? "Switch off" : "Switch on",
                                () -> model.edits().switched(path)),
                        item("Duplicate", () -> model.edits().duplicate(path)),
                        item("Put into a group", () -> model.edits().group(path, "Group")),
                        item("Move up", () -> model.edits().move(path, -1)),
                        item("Move down", () -> model.edits().move(path, 1)),
                        item("Take out", () -> model.edits().remove(path)));
        if (step instanceof Step.Call call && call.known().isEmpty()) {
            menu.getItems()
                    .addAll(
                            new SeparatorMenuItem(),
                            item("Give it known values", () -> model.edits().knownOf(path, "value,result\n,\n")));
        }
        menu.show(at, Side.BOTTOM, 20, 0);
    }

    void edit(StepPath path, Step step) {
        StepForm.ask(
                within,
                desk,
                model.suiteProperty().get(),
                "Step " + path.text(),
                step,
                edited -> model.edits().replace(path, edited));
    }

    /** Opens the case of a step in Call. */
    void openCase(Case kept) {
        desk.place(kept.contract(), kept.operation()).ifPresent(p -> {
            desk.placeProperty().set(p);
            models.call().open(kept);
            desk.go(Station.CALL);
        });
    }

    private static MenuItem item(String words, Runnable action) {
        MenuItem item = new MenuItem(words);
        item.setOnAction(e -> action.run());
        return item;
    }
}
