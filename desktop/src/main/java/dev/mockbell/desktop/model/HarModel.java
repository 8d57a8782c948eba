package dev.mockbell.desktop.model;

import dev.mockbell.assembly.Core;
import dev.mockbell.contract.Contract;
import dev.mockbell.file.AtomicFile;
import dev.mockbell.har.HarReader;
import dev.mockbell.har.HarWriter;
import dev.mockbell.ledger.LedgerFilter;
import dev.mockbell.ledger.Order;
import dev.mockbell.message.OperationFinder;
import dev.mockbell.problem.Problem;
import dev.mockbell.redact.Redactor;
import dev.mockbell.task.StopSignal;
import java.io.BufferedInputStream;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Semaphore;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;

/** Hands what the ledger has to other tools as HAR, and takes what they have. */
public final class HarModel {
    /** With more on the way than this, bodies would be left out. */
    private static final int ON_THE_WAY = 1_000;

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
                        count -> ended("Wrote " + count + (count == 1 ? " exchange to " : " exchanges to ") + to + "."),
                        this::failed);
    }

    private long written(LedgerFilter filter, Path to, Redactor redactor, StopSignal own) throws IOException {
        Path beside = to.resolveSibling(to.getFileName() + ".part");
        long[] count = {0};
        try {
            AtomicFile.privateFile(beside);
            try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(beside), 1 << 16);
                    HarWriter writer = new HarWriter(out, Core.VERSION, Optional.of(redactor), Long.MAX_VALUE)) {
                Order oldest = new Order(Order.Column.NUMBER, false);
                desk.ledger().search(filter, oldest, Long.MAX_VALUE, desk.expressions(), own, line -> {
                    desk.ledger().get(line.id()).ifPresent(e -> {
                        try {
                            writer.write(e);
                        } catch (IOException io) {
                            throw new UncheckedIOException(io);
                        }
                        tell("Writing: ", ++count[0]);
                    });
                    return true;
                });
            }
            Files.move(beside, to, StandardCopyOption.REPLACE_EXISTING);
            return count[0];
        } catch (UncheckedIOException e) {
            throw e.getCause();
        } finally {
            Files.deleteIfExists(beside);
        }
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
                            HarReader reader = new HarReader(new OperationFinder(contracts), remark -> passed[0]++);
                            Semaphore way = new Semaphore(ON_THE_WAY);
                            long[] seen = {0};
                            try (InputStream in = new BufferedInputStream(Files.newInputStream(from), 1 << 16)) {
                                long count = reader.read(in, from.toString(), own, e -> {
                                    way.acquireUninterruptibly();
                                    desk.ledger().offer(e, numbered -> way.release());
                                    tell("Reading: ", ++seen[0]);
                                });
                                desk.ledger().settle();
                                return new long[] {count, passed[0]};
                            }
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
