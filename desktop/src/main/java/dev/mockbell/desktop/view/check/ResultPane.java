package dev.mockbell.desktop.view.check;

import dev.mockbell.check.Check;
import dev.mockbell.check.CheckResult;
import dev.mockbell.check.Contrast;
import dev.mockbell.check.Verdict;
import dev.mockbell.desktop.model.CheckModel;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.Models;
import dev.mockbell.desktop.model.Moments;
import dev.mockbell.desktop.model.Notice;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.XmlArea;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.expression.Braces;
import dev.mockbell.file.AtomicFile;
import dev.mockbell.project.Project;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Run;
import dev.mockbell.suite.RunComparison;
import dev.mockbell.suite.StepPath;
import dev.mockbell.suite.StepResult;
import java.io.File;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Collectors;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.geometry.VPos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.layout.ColumnConstraints;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import javafx.scene.text.Text;
import javafx.scene.text.TextFlow;
import javafx.stage.FileChooser;

/** What became of the step and run that are looked at: its checks in words, both messages, and the log of the run. */
final class ResultPane extends VBox {
    /** Characters of what was found or asked for, alike or different. */
    private static final int MOST_SHOWN = 1_000;

    private static final List<String> FACES = List.of("Checks", "Request", "Response", "Run before", "Log");

    private final Models models;
    private final CheckModel model;
    private final Desk desk;
    private final StepActions actions;
    private final XmlArea text = new XmlArea(false);
    private final ListView<String> log = new ListView<>();
    private final TextField search = new TextField();
    private final HBox faces;
    private final HBox head;
    private final Label title;
    private String face = "Checks";
    private Shown shown;
    private List<String> logged = List.of();
    private long turns;

    ResultPane(Models models, StepActions actions) {
        this.models = models;
        this.model = models.check();
        this.desk = models.desk();
        this.actions = actions;
        this.faces = Parts.segments(FACES, f -> f, face, f -> {
            face = f;
            show();
        });
        this.head = Parts.head("", Parts.spring(), faces);
        this.title = (Label) head.getChildren().get(0);
        setId("step-result");
        log.setId("run-log");
        log.getStyleClass().add("mono");
        log.setFixedCellSize(20);
        search.setPromptText("words");
        search.setId("log-search");
        search.textProperty().addListener((o, was, now) -> filterLog());
    }

    void show() {
        Run run = model.runProperty().get() < model.runs().size()
                ? model.runs().get(model.runProperty().get())
                : null;
        Optional<StepResult> result = model.result();
        title.setText(model.chosen().map(p -> "Step " + p.text()).orElse("No step")
                + (run == null ? "" : " at " + Moments.toTheMinute(run.started())));
        Shown now = new Shown(
                model.pathProperty().get(),
                run,
                result.orElse(null),
                face,
                desk.project(),
                model.runningProperty().get());
        if (!now.same(shown)) {
            shown = now;
            getChildren().setAll(head, Parts.tall(body(run, result)));
        }
    }

    /** All that the body depends on: it is made anew when one of them has become another. */
    private record Shown(StepPath path, Run run, StepResult result, String face, Project project, boolean running) {
        /** By the things themselves: comparing the steps of two runs would take as long as they have steps. */
        boolean same(Shown other) {
            return other != null
                    && Objects.equals(path, other.path)
                    && run == other.run
                    && result == other.result
                    && face.equals(other.face)
                    && project == other.project
                    && running == other.running;
        }
    }

    private Node body(Run run, Optional<StepResult> result) {
        if (face.equals("Log")) {
            return log();
        }
        if (run == null) {
            return Parts.empty("Run the suite with Ctrl+Enter. What failed is told here, in words.");
        }
        if (result.isEmpty()) {
            return Parts.empty(
                    model.runningProperty().get()
                            ? "It has not come to this step yet."
                            : "This run has nothing of this step.");
        }
        if (face.equals("Run before")) {
            return before();
        }
        if (face.equals("Checks")) {
            ScrollPane scroll = new ScrollPane(checks(result.get()));
            scroll.setFitToWidth(true);
            return scroll;
        }
        return side(result.get(), face.equals("Request"));
    }

    /** What is another than in the run before the one that is looked at, in all its steps; a line leads to its step. */
    private Node before() {
        int at = model.runProperty().get();
        if (at + 1 >= model.runs().size() || model.runningProperty().get()) {
            return Parts.empty("There is no run before this one to hold it against.");
        }
        ListView<RunComparison.Change> list = new ListView<>();
        list.setId("run-before");
        list.setFixedCellSize(22);
        String before = Moments.toTheMinute(model.runs().get(at + 1).started());
        model.details().changes(changes -> {
            list.getItems().setAll(changes);
            list.setPlaceholder(Parts.empty("Results, values and times are as they were at " + before + "."));
        });
        list.setCellFactory(l -> new ListCell<>() {
            @Override
            protected void updateItem(RunComparison.Change change, boolean empty) {
                super.updateItem(change, empty);
                setText(empty || change == null ? null : change.words());
            }
        });
        list.setOnMouseClicked(e -> {
            RunComparison.Change chosen = list.getSelectionModel().getSelectedItem();
            if (chosen != null && e.getClickCount() == 2) {
                face = "Checks";
                Parts.choose(faces, face);
                model.pathProperty().set(chosen.path());
                show();
            }
        });
        return list;
    }

    /** Of a step that was called for several rows, the first that failed, else the last. */
    private static StepResult meant(StepResult result) {
        List<StepResult> calls = result.all().filter(r -> r.exchange() > 0).toList();
        return calls.stream()
                .filter(r -> r.verdict() == Verdict.FAILED)
                .findFirst()
                .orElse(calls.isEmpty() ? result : calls.get(calls.size() - 1));
    }

    private Node side(StepResult result, boolean request) {
        long exchange = meant(result).exchange();
        if (exchange == 0) {
            return Parts.empty("Nothing was sent.");
        }
        long own = ++turns;
        text.show("");
        model.details().sides(exchange, both -> {
            if (own == turns) {
                text.show(both.map(b -> request ? b.request() : b.answer().isEmpty() ? "(no answer)" : b.answer())
                        .orElse("(the ledger has let this exchange go, and it was not one that failed)"));
            }
        });
        return text;
    }

    private Node log() {
        model.details().log(lines -> {
            logged = lines;
            filterLog();
        });
        Button save = Parts.button("Save…", "All of it as a text file", this::saveLog, "quiet", "table-text");
        HBox bar = new HBox(8, search, Parts.spring(), save);
        bar.setPadding(new Insets(4, 10, 4, 10));
        VBox box = new VBox(bar, Parts.tall(log));
        log.setPlaceholder(Parts.empty("No line has that."));
        return box;
    }

    private void filterLog() {
        String wanted = search.getText().toLowerCase(Locale.ROOT).strip();
        log.getItems()
                .setAll(
                        wanted.isEmpty()
                                ? logged
                                : logged.stream()
                                        .filter(l -> l.toLowerCase(Locale.ROOT).contains(wanted))
                                        .toList());
    }

    private void saveLog() {
        FileChooser chooser = new FileChooser();
        chooser.setTitle("Save the log");
        chooser.setInitialFileName("run.log");
        File file = chooser.showSaveDialog(getScene().getWindow());
        if (file != null) {
            String all = String.join("\n", logged) + "\n";
            desk.tasks()
                    .run(
                            () -> {
                                AtomicFile.write(file.toPath(), all);
                                return file;
                            },
                            f -> desk.tell(Notice.plain("The log is in " + f + ".")),
                            desk::tell);
        }
    }

    private Node checks(StepResult result) {
        VBox list = new VBox(7);
        list.setPadding(new Insets(10, 12, 10, 12));
        addResult(result, list);
        StepResult meant = meant(result);
        HBox buttons = new HBox(8);
        if (meant.exchange() > 0) {
            Button open = Parts.button(
                    "Open exchange", "See it in Traffic", () -> models.traffic().open(meant.exchange()));
            open.setId("open-exchange");
            buttons.getChildren().add(open);
        }
        kept().ifPresent(c ->
                buttons.getChildren().add(Parts.button("Open case", "Edit it in Call", () -> actions.openCase(c))));
        kept().filter(c -> !acceptable(c, result).isEmpty()).ifPresent(c -> {
            Button accept = Parts.button(
                    "Accept as expected",
                    "Take the values that were found as what the checks ask for",
                    () -> accept(c, result));
            accept.setId("accept-found");
            buttons.getChildren().add(accept);
        });
        model.chosen()
                .ifPresent(p -> buttons.getChildren()
                        .addAll(
                                Parts.button(
                                        "Run this step", "With the values of the newest run", () -> model.runOne(p)),
                                Parts.button("Run from here", "This step and all behind it", () -> model.runFrom(p))));
        list.getChildren().add(buttons);
        return list;
    }

    private Optional<Case> kept() {
        return model.step().flatMap(s -> s.sends()).flatMap(desk.project()::kept);
    }

    private void addResult(StepResult result, VBox list) {
        if (!result.problem().isEmpty()) {
            Mark mark = Numbers.mark(result.verdict());
            list.getChildren().add(wrapped(mark, result.problem()));
        }
        for (CheckResult check : result.telling()) {
            list.getChildren().add(check(check));
        }
        if (!result.undecided().isEmpty()) {
            list.getChildren().add(Parts.text(result.undecided(), "second"));
        }
        result.captures()
                .forEach((name, value) -> list.getChildren().add(Parts.text("$" + name + " = " + value, "mono")));
        List<StepResult> failed = result.inner().stream()
                .filter(r -> r.verdict() == Verdict.FAILED)
                .limit(20)
                .toList();
        failed.forEach(r -> {
            list.getChildren().add(Parts.text(r.name(), "strong", "table-text"));
            addResult(r, list);
        });
        if (result.rounds() && failed.isEmpty()) {
            String words = result.inner().stream()
                    .map(StepResult::verdict)
                    .collect(Collectors.groupingBy(v -> v, java.util.TreeMap::new, Collectors.counting()))
                    .entrySet()
                    .stream()
                    .map(e -> e.getValue() + " "
                            + e.getKey().name().toLowerCase(Locale.ROOT).replace('_', ' '))
                    .collect(Collectors.joining(", "));
            list.getChildren().add(wrapped(Numbers.mark(result.verdict()), words));
        }
    }

    /** Should be and found stand beside each other, what is different in them marked. */
    private static Node check(CheckResult check) {
        if (!check.hasSides()) {
            boolean says = check.passed() && !check.found().isEmpty() && !"true".equals(check.found());
            String words = says ? check.title() + " · found " + check.found() : check.sentence();
            return wrapped(Numbers.mark(check.verdict()), words);
        }
        GridPane sides = new GridPane();
        sides.setHgap(10);
        sides.setVgap(2);
        sides.setPadding(new Insets(0, 0, 0, 18));
        ColumnConstraints half = new ColumnConstraints();
        half.setPercentWidth(50);
        sides.getColumnConstraints().setAll(half, half);
        sides.addRow(0, Parts.text("should be", "second", "table-text"), Parts.text("found", "second", "table-text"));
        sides.addRow(
                1,
                side("wanted", check.contrast().ofExpected()),
                side("got", check.contrast().ofFound()));
        VBox all = new VBox(3, wrapped(Numbers.mark(check.verdict()), check.title()), sides);
        if (!check.where().isEmpty()) {
            Label where = Parts.text(check.where(), "mono", "table-text", "second");
            HBox line = new HBox(6, Parts.text("at", "second", "table-text"), where);
            line.setPadding(new Insets(0, 0, 0, 18));
            all.getChildren().add(line);
        }
        return all;
    }

    private static Node side(String style, Contrast.Side whole) {
        Contrast.Side side = whole.within(MOST_SHOWN);
        TextFlow flow = new TextFlow(
                text(side.before(), "alike"), text(side.different(), "different"), text(side.after(), "alike"));
        flow.getChildren().removeIf(n -> ((Text) n).getText().isEmpty());
        flow.getStyleClass().add(style);
        flow.setAccessibleText(side.before() + side.different() + side.after());
        GridPane.setValignment(flow, VPos.TOP);
        return flow;
    }

    private static Text text(String words, String style) {
        Text text = new Text(words);
        text.getStyleClass().addAll("mono", "table-text", style);
        return text;
    }

    private static Label wrapped(Mark mark, String words) {
        Label label = Parts.marked(mark, words);
        label.setWrapText(true);
        label.setAlignment(Pos.TOP_LEFT);
        return label;
    }

    /** The checks of the case that ask for another value than was found. */
    private static List<Check> acceptable(Case kept, StepResult result) {
        List<Check> found = new ArrayList<>();
        for (int i = 0; i < Math.min(kept.checks().size(), result.checks().size()); i++) {
            boolean value = kept.checks().get(i) instanceof Check.Value;
            boolean there = !result.checks().get(i).found().equals("nothing at that path");
            if (value && there && !result.checks().get(i).passed()) {
                found.add(kept.checks().get(i));
            }
        }
        return found;
    }

    private void accept(Case kept, StepResult result) {
        List<Check> changed = new ArrayList<>(kept.checks());
        for (int i = 0; i < Math.min(changed.size(), result.checks().size()); i++) {
            CheckResult is = result.checks().get(i);
            if (changed.get(i) instanceof Check.Value value
                    && !is.passed()
                    && acceptable(kept, result).contains(value)) {
                changed.set(i, new Check.Value(value.path(), Braces.literally(is.found()), value.tolerance()));
            }
        }
        StepPath at = model.chosen().orElse(null);
        desk.change(p -> p.withCase(kept.withChecks(changed)));
        desk.tell(new Notice(
                "What was found is what “" + kept.title() + "” asks for now.",
                false,
                Optional.of(new Notice.Action("Undo", () -> desk.change(p -> p.withCase(kept))))));
        if (at != null) {
            model.pathProperty().set(at);
        }
    }
}
