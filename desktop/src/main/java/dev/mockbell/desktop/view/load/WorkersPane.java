package dev.mockbell.desktop.view.load;

import dev.mockbell.desktop.model.LoadModel;
import dev.mockbell.desktop.model.WorkersModel;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.fleet.WorkerNow;
import dev.mockbell.load.Health;
import dev.mockbell.load.LoadRun;
import dev.mockbell.load.WorkerRun;
import dev.mockbell.load.WorkerRun.State;
import java.util.List;
import java.util.Locale;
import javafx.scene.control.Label;
import javafx.scene.layout.VBox;

/** A row for each worker: as it stands now, or as it was in the run looked at. */
final class WorkersPane extends VBox {
    private final Grid<Row> rows = new Grid<>(25);

    /**
     * What is shown of one.
     *
     * @param words what it does, or how it ended
     */
    private record Row(
            String name,
            String address,
            int cores,
            double clockError,
            Mark mark,
            String words,
            String told,
            long done,
            long failed,
            double p99,
            Health health) {}

    WorkersPane() {
        setId("load-workers");
        rows.column("Worker", 78, r -> Parts.text(r.name(), "table-text"))
                .growing("", WorkersPane::state)
                .column("Address", 132, r -> Parts.text(r.address(), "mono", "third"))
                .number("Cores", 54, r -> Parts.text(String.valueOf(r.cores()), "mono"))
                .number("Clock ±", 58, r -> Parts.text(Numbers.millis(r.clockError()), "mono"))
                .number("Done", 58, r -> Parts.text(Numbers.whole(r.done()), "mono"))
                .number("p99", 54, r -> Parts.text(r.done() == 0 ? "–" : Numbers.millis(r.p99()), "mono"))
                .number(
                        "Failed",
                        54,
                        r -> Parts.text(Numbers.whole(r.failed()), "mono", r.failed() > 0 ? "failed" : "mono"))
                .number("Late", 50, r -> figure(r, r.health().lateStarts(), 0))
                .number("CPU", 46, r -> {
                    double cpu = r.health().cpu();
                    return Parts.text(
                            cpu < 0 ? "–" : String.format(Locale.ROOT, "%.0f %%", cpu * 100),
                            "mono",
                            cpu > 0.9 ? "fault" : "mono");
                })
                .number("Loop", 50, r -> figure(r, r.health().loopDelayMillis(), 20));
        rows.list().setId("load-worker-rows");
        rows.setPlaceholder(Parts.empty("No worker has joined yet."));
        getChildren().add(Parts.tall(rows));
    }

    private static Label figure(Row row, double value, double bound) {
        boolean known = !row.health().equals(Health.UNKNOWN);
        return Parts.text(
                !known ? "–" : value == Math.rint(value) ? Numbers.whole((long) value) : Numbers.millis(value),
                "mono",
                known && value > bound ? "fault" : "mono");
    }

    private static Label state(Row row) {
        Label label = row.mark() == null
                ? Parts.text(row.words(), "table-text", "second")
                : Parts.marked(row.mark(), row.words(), "table-text");
        label.setMinWidth(0);
        if (!row.told().isEmpty()) {
            Parts.tip(label, row.told());
        }
        return label;
    }

    /** Shows those of the run looked at, or those that are there. */
    void show(LoadModel model, WorkersModel workers) {
        LoadRun done = model.resultProperty().get();
        List<Row> all = done != null && !done.workers().isEmpty()
                ? done.workers().stream().map(WorkersPane::row).toList()
                : workers.workers().stream().map(WorkersPane::row).toList();
        if (!rows.items().equals(all)) {
            rows.items().setAll(all);
        }
    }

    private static Row row(WorkerNow w) {
        return new Row(
                w.name(),
                w.address(),
                w.cores(),
                Math.max(0, w.clockError()),
                w.state() == State.SLOW ? Mark.FAULT : null,
                w.state() == State.SLOW ? "says nothing" : w.doing(),
                "",
                w.done(),
                w.failed(),
                w.p99(),
                w.health());
    }

    private static Row row(WorkerRun w) {
        boolean lost = w.state() == State.LOST;
        return new Row(
                w.name(),
                w.address(),
                w.cores(),
                Math.max(0, w.clockError()),
                lost ? Mark.FAILED : w.told().isEmpty() ? Mark.PASSED : Mark.FAULT,
                w.told().isEmpty() ? "did its part" : w.told(),
                w.told(),
                w.total().done(),
                w.total().failed(),
                w.total().p99(),
                w.health());
    }
}
