package dev.mockbell.desktop.view.check;

import dev.mockbell.check.Check;
import dev.mockbell.desktop.model.CheckModel;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.Moments;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.SmallLine;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.KnownValues;
import dev.mockbell.suite.Run;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.StepPath;
import dev.mockbell.suite.StepResult;
import dev.mockbell.suite.Suite;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.BiConsumer;
import java.util.stream.Collectors;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.input.ClipboardContent;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;

/** The steps of a suite down, its runs across, newest first. */
final class Register {
    private static final double INDENT = 16;
    private static final double RUN = 54;
    /** So many columns stand before those of the runs. */
    private static final int FIXED = 5;

    /**
     * A row of the register.
     *
     * @param path null for a heading
     */
    record Row(StepPath path, Step step, String heading) {
        int depth() {
            return path.at().size() - 1;
        }
    }

    private final CheckModel model;
    private final Desk desk;
    private final Grid<Row> grid = new Grid<>(27);
    private final ObservableList<Row> rows = FXCollections.observableArrayList();
    /** How many columns of runs there are, which stay while the runs in them change. */
    private int across;

    private boolean made;

    private boolean choosing;
    private boolean durations;
    private Suite laid;

    /** @param menu shows what can be done with a row at a node */
    Register(CheckModel model, Desk desk, BiConsumer<Row, Node> menu) {
        this.model = model;
        this.desk = desk;
        grid.setId("register");
        grid.setItems(rows);
        grid.grouped(r -> r.path() == null, r -> Parts.text(r.heading(), "third", "table-text"));
        grid.list().getSelectionModel().selectedItemProperty().addListener((o, was, now) -> {
            if (now != null && now.path() != null && !choosing) {
                model.pathProperty().set(now.path());
            }
        });
        grid.list().setOnContextMenuRequested(e -> {
            Row row = grid.list().getSelectionModel().getSelectedItem();
            if (row != null && row.path() != null) {
                menu.accept(row, grid);
            }
        });
    }

    Grid<Row> grid() {
        return grid;
    }

    /** Shows how long steps took in place of how they ended. */
    void showDurations(boolean on) {
        durations = on;
        grid.refresh();
    }

    /** What a node of a row shows, so that it is made anew only when that becomes another. */
    private record Told(Row row, Object what) {}

    private static Node telling(Told told, Node node) {
        node.setUserData(told);
        return node;
    }

    private static boolean tells(Node node, Told told) {
        return told.equals(node.getUserData());
    }

    /** Shows a suite anew. */
    void show(Suite suite) {
        choosing = true;
        columns();
        if (suite == laid) {
            grid.refresh();
        } else {
            laid = suite;
            rows.setAll(rows(suite));
        }
        choosing = false;
        choose();
    }

    private static List<Row> rows(Suite suite) {
        List<Row> rows = new ArrayList<>();
        boolean parts = !suite.setUp().isEmpty() || !suite.cleanUp().isEmpty();
        StepPath.Part[] last = {null};
        suite.each((path, step) -> {
            if (parts && path.part() != last[0]) {
                last[0] = path.part();
                rows.add(new Row(null, null, heading(path.part())));
            }
            rows.add(new Row(path, step, ""));
        });
        return rows;
    }

    private static String heading(StepPath.Part part) {
        return switch (part) {
            case SET_UP -> "Set-up, before the steps";
            case STEPS -> "Steps";
            case CLEAN_UP -> "Clean-up, whatever came of them";
        };
    }

    /** Marks the row of the step that is looked at. */
    void choose() {
        StepPath path = model.pathProperty().get();
        for (int i = 0; i < rows.size(); i++) {
            if (path != null && path.equals(rows.get(i).path())) {
                if (grid.list().getSelectionModel().getSelectedIndex() != i) {
                    grid.list().getSelectionModel().select(i);
                }
                return;
            }
        }
    }

    /** Columns of runs are added and given other titles; made anew, they would cost all rows in view all their cells. */
    private void columns() {
        int runs = model.runs().size();
        if (!made || across > runs) {
            made = true;
            grid.clearColumns();
            across = 0;
            fixedColumns();
        }
        for (; across < runs; across++) {
            int index = across;
            grid.centred("", RUN, r -> new RunCell(index).show(r))
                    .again((node, r) -> node instanceof RunCell cell && cell.show(r) == cell);
        }
        for (int run = 0; run < runs; run++) {
            grid.retitle(FIXED + run, Moments.narrow(model.runs().get(run).started()));
        }
    }

    private void fixedColumns() {
        grid.column("Step", 210, r -> telling(named(r), name(r)))
                .again((node, r) -> tells(node, named(r)))
                .column("Does", 200, r -> telling(does(r), quiet(r, (String) does(r).what())))
                .again((node, r) -> tells(node, does(r)))
                .growing("Checks", r -> telling(checked(r), trouble(r).orElseGet(() -> quiet(r, checks(r)))))
                .again((node, r) -> tells(node, checked(r)))
                .column(
                        "Captures",
                        110,
                        r -> telling(captured(r), captures((String) captured(r).what())))
                .again((node, r) -> tells(node, captured(r)))
                .number("ms", 104, r -> new Took().show(r))
                .again((node, r) -> node instanceof Took took && took.show(r) == took);
    }

    /** How long a step took in the newest run, and a line of how long in those that are shown. */
    private final class Took extends HBox {
        private final SmallLine line = new SmallLine();
        private final Label newest = Parts.text("", "mono");

        Took() {
            super(6);
            newest.setMinWidth(Region.USE_PREF_SIZE);
            setAlignment(Pos.CENTER_LEFT);
            getChildren().addAll(line, Parts.spring(), newest);
        }

        Took show(Row row) {
            List<Double> all = new ArrayList<>();
            for (int run = model.runs().size() - 1; run >= 0; run--) {
                model.cell(run, row.path())
                        .map(StepResult::millis)
                        .filter(m -> m > 0)
                        .ifPresent(all::add);
            }
            line.show(all);
            newest.setText(millis(0, row));
            return this;
        }
    }

    private Told named(Row row) {
        return new Told(row, model.turns(row.path()));
    }

    private Told does(Row row) {
        return new Told(row, row.step().accept(new StepWords(desk.project()::kept)));
    }

    private Told checked(Row row) {
        return new Told(row, List.of(model.trouble(row.path()), checks(row)));
    }

    private Told captured(Row row) {
        return new Told(
                row,
                kept(row)
                        .map(c -> c.captures().stream().map(x -> "$" + x.name()).collect(Collectors.joining(", ")))
                        .orElse(""));
    }

    private static Label captures(String names) {
        return Parts.text(names.isEmpty() ? "–" : names, names.isEmpty() ? "third" : "mono");
    }

    private Node name(Row row) {
        Label number = Parts.text(row.path().text().replaceFirst("^\\D+", ""), "third", "table-text");
        number.setMinWidth(Region.USE_PREF_SIZE);
        Label name = Parts.text(row.step().name(), row.step().on() ? "strong" : "third", "table-text");
        HBox box = new HBox(8, number, name);
        box.setAlignment(Pos.CENTER_LEFT);
        box.setPadding(new Insets(0, 0, 0, row.depth() * INDENT));
        if (row.step() instanceof Step.Call call && call.known().isPresent()) {
            KnownValues known = call.known().get();
            int count = known.table().rows().size();
            Label rowsTag = Parts.text(count == 1 ? "1 row" : count + " rows", "tag", "bronze");
            rowsTag.setMinWidth(Region.USE_PREF_SIZE);
            box.getChildren().add(rowsTag);
        }
        if (!row.step().on()) {
            box.getChildren().add(Parts.text("off", "tag"));
        }
        int turns = model.turns(row.path());
        if (turns > 1) {
            Label unsteady = Parts.text("unsteady", "tag", "fault");
            Parts.tip(
                    unsteady,
                    "It changed between passed and failed " + turns
                            + " times in the runs that are shown, and nothing was changed in it, its case, the contract or the environment.");
            unsteady.setMinWidth(Region.USE_PREF_SIZE);
            box.getChildren().add(unsteady);
        }
        dragged(box, row);
        return box;
    }

    /** Rows are put elsewhere by dragging them: before the one that they are let go on, or into it when it holds steps. */
    private void dragged(Node node, Row row) {
        node.setOnDragDetected(e -> {
            ClipboardContent content = new ClipboardContent();
            content.putString(row.path().text());
            node.startDragAndDrop(TransferMode.MOVE).setContent(content);
            e.consume();
        });
        node.setOnDragOver(e -> {
            if (e.getGestureSource() != node && e.getDragboard().hasString()) {
                e.acceptTransferModes(TransferMode.MOVE);
            }
            e.consume();
        });
        node.setOnDragDropped(e -> {
            StepPath from = StepPath.parse(e.getDragboard().getString());
            model.edits().moveTo(from, row.path(), row.step().holds());
            e.setDropCompleted(true);
            e.consume();
        });
    }

    private Optional<Node> trouble(Row row) {
        String trouble = model.trouble(row.path());
        if (trouble.isEmpty()) {
            return Optional.empty();
        }
        Label label = Parts.text(trouble, "failed", "table-text");
        label.setMinWidth(0);
        Parts.tip(label, trouble);
        return Optional.of(label);
    }

    private String checks(Row row) {
        String own = kept(row)
                .map(c -> c.checks().stream().map(Check::brief).collect(Collectors.joining(" · ")))
                .orElse("");
        if (row.step() instanceof Step.Call call && call.known().isPresent()) {
            String known = call.known().get().columns().stream()
                    .filter(c -> c.use() == KnownValues.Use.IS)
                    .map(c -> c.name() + " = known value")
                    .collect(Collectors.joining(" · "));
            return own.isEmpty() ? known : known.isEmpty() ? own : own + " · " + known;
        }
        return own;
    }

    private Optional<Case> kept(Row row) {
        return row.step().sends().flatMap(desk.project()::kept);
    }

    private static Label quiet(Row row, String words) {
        Label label = Parts.text(words, row.step().on() ? "second" : "third", "table-text");
        label.setMinWidth(0);
        Parts.tip(label, words);
        return label;
    }

    private String millis(int run, Row row) {
        return model.cell(run, row.path())
                .map(StepResult::millis)
                .filter(m -> m > 0)
                .map(m -> Numbers.whole(Math.round(m)))
                .orElse("");
    }

    /**
     * What a run has of a step. Each mark is made once and then only shown or not: a mark put in anew is styled anew, and a run
     * that starts changes the marks of all rows in view at once.
     */
    private final class RunCell extends StackPane {
        private final int run;
        private final Map<Mark, Node> marks = new EnumMap<>(Mark.class);
        private final Label took = Parts.text("", "mono", "table-text");
        private Row row;

        RunCell(int run) {
            this.run = run;
            took.setMouseTransparent(true);
            setOnMousePressed(e -> {
                model.runProperty().set(run);
                model.pathProperty().set(row.path());
            });
            Parts.tip(this, this::words);
        }

        RunCell show(Row shown) {
            row = shown;
            Node now = durations
                    ? took
                    : marks.computeIfAbsent(mark(), m -> {
                        Node made = m.node();
                        made.setMouseTransparent(true);
                        return made;
                    });
            took.setText(durations ? millis(run, row) : "");
            if (!getChildren().contains(now)) {
                getChildren().add(now);
            }
            getChildren().forEach(n -> n.setVisible(n == now));
            return this;
        }

        private Mark mark() {
            return model.cell(run, row.path())
                    .map(r -> Numbers.mark(r.verdict()))
                    .orElse(run == 0 && model.isUnder(row.path()) ? Mark.NOT_RUN : Mark.STALE);
        }

        private String words() {
            boolean under = run == 0 && model.isUnder(row.path());
            return model.cell(run, row.path()).map(StepResult::failures).stream()
                    .flatMap(List::stream)
                    .findFirst()
                    .orElse(under ? "under way" : mark().words());
        }
    }

    /** Puts the sums of all runs into a line, each to stand under its column. */
    void showSums(HBox line) {
        List<Run> runs = model.runs();
        if (line.getChildren().size() > runs.size()) {
            line.getChildren().clear();
        }
        for (int i = 0; i < runs.size(); i++) {
            if (i == line.getChildren().size()) {
                Label sum = Parts.text("", "second", "table-text");
                sum.setMinWidth(RUN);
                sum.setAlignment(Pos.CENTER);
                line.getChildren().add(sum);
            }
            ((Label) line.getChildren().get(i))
                    .setText(model.tally(runs.get(i))
                            .map(t -> t.passed() + "/" + t.checks())
                            .orElse(""));
        }
    }
}
