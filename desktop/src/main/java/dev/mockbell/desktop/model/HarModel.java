package dev.mockbell.desktop.model;

import dev.mockbell.assembly.Core;
import dev.mockbell.contract.Contract;
import dev.mockbell.file.AtomicFile;
import dev.mockbell.har.HarTransfer;
import dev.mockbell.har.HarWriter;
import dev.mockbell.ledger.LedgerFilter;
import dev.mockbell.problem.Problem;
import dev.mockbell.redact.Redactor;
import dev.mockbell.task.StopSignal;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;

/** Hands what the ledger has to other tools as HAR, and takes what they have. */
public final class HarModel {
    private static final int TOLD = 500;

    private final Desk desk;
    private final StringProperty progress = new SimpleStringProperty("");
    private StopSignal stop = new StopSignal();

    public HarModel(Desk desk) {
        this.desk = desk;
        desk.onClose(() -> stop.stop());
    }

    /** What is under way, in words; empty for nothing. */
    public StringProperty progressProperty() {
        return progress;
    }

    /** Stops what is under way; what was taken in stays, and no half file is left. */
    public void stop() {
        stop.stop();
    }

    /** Writes all that pass a filter to a file, the oldest first, credentials and secrets masked. */
    public void write(LedgerFilter filter, Path to) {
        Redactor redactor = desk.redactor();
        begin("Writing " + to.getFileName());
        StopSignal own = stop;
        desk.tasks()
                .run(
                        () -> written(filter, to, redactor, own),
                        written -> ended("Wrote " + written.words() + " to " + to + "."),
                        this::failed);
    }

    private HarTransfer.Written written(LedgerFilter filter, Path to, Redactor redactor, StopSignal own) {
        HarTransfer.Written[] written = {null};
        AtomicFile.write(to, out -> {
            try (HarWriter writer = new HarWriter(out, Core.VERSION, Optional.of(redactor), Long.MAX_VALUE)) {
                written[0] = new HarTransfer(desk.ledger(), own, n -> tell("Writing: ", n))
                        .write(filter, desk.expressions(), writer);
            }
        });
        return written[0];
    }

    /** Takes the entries of a file onto the ledger. */
    public void read(Path from) {
        Map<String, Contract> contracts = new LinkedHashMap<>();
        desk.project().contracts().forEach(k -> contracts.put(k.name(), k.contract()));
        begin("Reading " + from.getFileName());
        StopSignal own = stop;
        desk.tasks()
                .run(
                        () -> {
                            long[] passed = {0};
                            long count = new HarTransfer(desk.ledger(), own, n -> tell("Reading: ", n))
                                    .read(from, contracts, remark -> passed[0]++);
                            return new long[] {count, passed[0]};
                        },
                        counts -> ended("Took in " + counts[0]
                                + (counts[0] == 1 ? " exchange" : " exchanges") + " of " + from.getFileName()
                                + (counts[1] == 0 ? "." : "; " + counts[1] + " entries have no request.")),
                        this::failed);
    }

    private void tell(String what, long count) {
        if (count % TOLD == 0) {
            desk.tasks().later(() -> progress.set(progress.get().isEmpty() ? "" : what + count));
        }
    }

    private void begin(String words) {
        stop.stop();
        stop = new StopSignal();
        progress.set(words);
    }

    private void ended(String words) {
        progress.set("");
        desk.tell(Notice.good(words));
    }

    private void failed(Problem problem) {
        progress.set("");
        desk.tell(problem);
    }
}
