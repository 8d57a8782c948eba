package dev.mockbell.har;

import dev.mockbell.contract.Contract;
import dev.mockbell.exchange.JmsMessage;
import dev.mockbell.expression.Expressions;
import dev.mockbell.ledger.Ledger;
import dev.mockbell.ledger.LedgerFilter;
import dev.mockbell.ledger.Order;
import dev.mockbell.message.OperationFinder;
import dev.mockbell.problem.Problem;
import dev.mockbell.task.StopSignal;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.concurrent.Semaphore;
import java.util.function.Consumer;
import java.util.function.LongConsumer;

/** Takes exchanges from a ledger to HAR and back, one after the other. */
public final class HarTransfer {
    /** With more on the way to a ledger than this, bodies would be left out. */
    private static final int ON_THE_WAY = 1_000;

    private final Ledger ledger;
    private final StopSignal stop;
    private final LongConsumer progress;

    /** @param progress hears how many have gone so far, on the calling thread */
    public HarTransfer(Ledger ledger, StopSignal stop, LongConsumer progress) {
        this.ledger = ledger;
        this.stop = stop;
        this.progress = progress;
    }

    /**
     * Writes all that pass a filter, the oldest first; those by way of queues are left out, since HAR is of HTTP.
     */
    public Written write(LedgerFilter filter, Expressions looking, HarWriter writer) throws IOException {
        long[] count = {0, 0};
        Order oldest = new Order(Order.Column.NUMBER, false);
        try {
            ledger.search(filter, oldest, Long.MAX_VALUE, looking, stop, line -> {
                ledger.get(line.id()).ifPresent(e -> {
                    if (e.request() instanceof JmsMessage) {
                        count[1]++;
                        return;
                    }
                    try {
                        writer.write(e);
                    } catch (IOException io) {
                        throw new UncheckedIOException(io);
                    }
                    progress.accept(++count[0]);
                });
                return true;
            });
        } catch (UncheckedIOException e) {
            throw e.getCause();
        }
        return new Written(count[0], count[1]);
    }

    /**
     * What was written.
     *
     * @param queued how many were left out because they went by way of a queue
     */
    public record Written(long count, long queued) {
        /** For people: {@code 12 exchanges}, and what is not among them. */
        public String words() {
            String all = count + (count == 1 ? " exchange" : " exchanges");
            return queued == 0 ? all : all + " (without " + queued + " by way of queues: HAR is of HTTP alone)";
        }
    }

    /**
     * Takes the entries of a file onto the ledger; they are there when it returns.
     *
     * @param contracts by the name that they have in the project
     * @param remark hears of entries that are passed over, a sentence each
     * @return how many were taken in
     * @throws Problem when the file cannot be read, or is no HAR; what came before that is on the ledger
     */
    public long read(Path file, Map<String, Contract> contracts, Consumer<String> remark) {
        Semaphore way = new Semaphore(ON_THE_WAY);
        long[] count = {0};
        try (InputStream in = new BufferedInputStream(Files.newInputStream(file), 1 << 16)) {
            return new HarReader(new OperationFinder(contracts), remark).read(in, file.toString(), stop, e -> {
                way.acquireUninterruptibly();
                if (!ledger.offer(e, numbered -> way.release())) {
                    way.release();
                }
                progress.accept(++count[0]);
            });
        } catch (IOException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The file cannot be read: " + Problem.reason(e),
                    file.toString(),
                    "Check the path.",
                    e);
        } finally {
            ledger.settle();
        }
    }
}
