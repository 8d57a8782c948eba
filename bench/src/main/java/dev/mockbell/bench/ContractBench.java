package dev.mockbell.bench;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.ContractReader;
import dev.mockbell.contract.Operation;
import dev.mockbell.contract.Port;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.sample.SampleEnvelope;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.function.Supplier;
import org.apache.xerces.impl.xs.XMLSchemaLoader;
import org.apache.xerces.impl.xs.util.XSGrammarPool;
import org.apache.xerces.xni.parser.XMLInputSource;

/**
 * Reads a large contract beside the schema library compiling the same schemas alone; then samples all of it, and looks at
 * the memory that it keeps.
 */
final class ContractBench {
    private static final int TURNS = 7;

    private final PrintStream out;
    private final LargeContract large = new LargeContract();

    ContractBench(PrintStream out) {
        this.out = out;
    }

    void run() throws IOException {
        out.printf(
                "Contract: %d operations, %d types, %.1f MB%n",
                LargeContract.OPERATIONS, LargeContract.TYPES, large.bytes() / 1e6);
        List<Long> ours = new ArrayList<>();
        List<Long> plain = new ArrayList<>();
        for (int turn = 0; turn < TURNS + 2; turn++) {
            long alone = time(this::library);
            long whole = time(this::read);
            if (turn >= 2) {
                plain.add(alone);
                ours.add(whole);
            }
        }
        Collections.sort(ours);
        Collections.sort(plain);
        double library = plain.get(TURNS / 2) / 1e6;
        double whole = ours.get(TURNS / 2) / 1e6;
        out.printf("  schema library alone %7.0f ms%n", library);
        out.printf("  whole import         %7.0f ms   %.2f times the library%n", whole, whole / library);
        samples("samples             ", this::read, LargeContract.OPERATIONS * 3);
        PatternContract hedged = new PatternContract();
        samples(
                "samples of patterns ",
                () -> new ContractReader(hedged.fetcher())
                        .read(PatternContract.ROOT, PatternContract.root(), Progress.NONE, new StopSignal()),
                PatternContract.OPERATIONS * 2);
        memory();
    }

    private static long time(IoTask task) throws IOException {
        long from = System.nanoTime();
        task.run();
        return System.nanoTime() - from;
    }

    /** Work that reads. */
    private interface IoTask {
        void run() throws IOException;
    }

    private Contract read() {
        return new ContractReader(large.fetcher())
                .read(LargeContract.ROOT, LargeContract.root(), Progress.NONE, new StopSignal());
    }

    private void library() throws IOException {
        XMLSchemaLoader loader = new XMLSchemaLoader();
        loader.setProperty("http://apache.org/xml/properties/internal/grammar-pool", new XSGrammarPool());
        loader.setEntityResolver(id -> source(id.getExpandedSystemId()));
        if (loader.loadGrammar(source(LargeContract.schemaUri(0))) == null) {
            throw new IOException("the library gave no grammar");
        }
    }

    private XMLInputSource source(String uri) {
        return new XMLInputSource(null, uri, null, new ByteArrayInputStream(large.document(uri)), "UTF-8");
    }

    private void samples(String name, Supplier<Contract> reader, int messages) {
        Contract contract = reader.get();
        long total = 0;
        List<Double> rates = new ArrayList<>();
        for (int turn = 0; turn < TURNS; turn++) {
            long from = System.nanoTime();
            int count = 0;
            for (Port port : contract.soapPorts()) {
                for (Operation operation : port.binding().operations()) {
                    for (Detail detail : Detail.values()) {
                        for (SampleEnvelope sample : SampleEnvelope.of(contract, port.binding(), operation, detail)) {
                            count++;
                            total += sample.text().length();
                        }
                    }
                }
            }
            double rate = count / ((System.nanoTime() - from) / 1e9);
            rates.add(rate);
        }
        double first = rates.get(0);
        Collections.sort(rates);
        out.printf(
                "  %s %7.0f a second, the first pass %.0f, %.1f KB each%n",
                name, rates.get(TURNS / 2), first, total / 1e3 / (TURNS * 2.0 * messages));
    }

    private void memory() {
        long before = used();
        Contract kept = read();
        long after = used();
        out.printf(
                "  live heap after it   %7.0f MB for %d operations%n",
                (after - before) / 1e6, kept.operations().size());
    }

    private static long used() {
        for (int i = 0; i < 4; i++) {
            System.gc();
        }
        Runtime runtime = Runtime.getRuntime();
        return runtime.totalMemory() - runtime.freeMemory();
    }
}
