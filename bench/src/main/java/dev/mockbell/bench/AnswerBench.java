package dev.mockbell.bench;

import dev.mockbell.check.Check;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.ContractReader;
import dev.mockbell.contract.DocumentFetcher;
import dev.mockbell.desktop.MockBellWindow;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.model.AnswerTable;
import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.model.CalledEndpoint;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.Station;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.SuiteRunner;
import dev.mockbell.table.Column;
import dev.mockbell.table.Table;
import dev.mockbell.table.TableWriter;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.PrintStream;
import java.lang.management.ManagementFactory;
import java.lang.management.MemoryPoolMXBean;
import java.lang.management.MemoryType;
import java.net.ServerSocket;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.BooleanSupplier;
import java.util.stream.Collectors;
import javafx.scene.control.ListView;
import javafx.scene.control.skin.VirtualFlow;

/**
 * Large answers in the real window, drawn offscreen, each in a process of its own with the heap that it may have: how long
 * until it is on the screen, for how long the interface thread is held meanwhile, and what it takes of the heap. Beside it
 * what the library's parser takes to read the same text.
 */
final class AnswerBench {
    private static final int SMALL_HEAP = 400;
    private static final int LARGE_HEAP = 1_024;
    private static final String WSDL = """
            <definitions targetNamespace="urn:n:s" xmlns="http://schemas.xmlsoap.org/wsdl/" xmlns:tns="urn:n:s" xmlns:n="urn:n"
              xmlns:soap="http://schemas.xmlsoap.org/wsdl/soap/" xmlns:xs="http://www.w3.org/2001/XMLSchema">
              <types><xs:schema targetNamespace="urn:n" elementFormDefault="qualified"><xs:element name="List" type="xs:string"/>
                <xs:element name="Closures"><xs:complexType><xs:sequence><xs:element name="closure" maxOccurs="unbounded"><xs:complexType><xs:sequence>
                  <xs:element name="trail" type="xs:string"/><xs:element name="from" type="xs:date"/>
                  <xs:element name="grade" type="xs:int"/></xs:sequence></xs:complexType></xs:element></xs:sequence></xs:complexType></xs:element>
              </xs:schema></types>
              <message name="In"><part name="p" element="n:List"/></message><message name="Out"><part name="p" element="n:Closures"/></message>
              <portType name="P"><operation name="List"><input message="tns:In"/><output message="tns:Out"/></operation></portType>
              <binding name="B" type="tns:P"><soap:binding transport="http://schemas.xmlsoap.org/soap/http"/><operation name="List"><input><soap:body use="literal"/></input><output><soap:body use="literal"/></output></operation></binding>
              <service name="S"><port name="Q" binding="tns:B"><soap:address location="http://127.0.0.1:1/"/></port></service>
            </definitions>""";

    private final PrintStream out;

    AnswerBench(PrintStream out) {
        this.out = out;
    }

    void run() throws IOException, InterruptedException {
        // what a screenful takes that is drawn for the first time, whatever the answer
        child(20, SMALL_HEAP);
        child(90_000, SMALL_HEAP);
        parsed(90_000);
        child(1_800_000, LARGE_HEAP);
    }

    private void child(int rows, int heap) throws IOException, InterruptedException {
        out.printf("An answer of %,d rows in a window with %d MB of heap:%n", rows, heap);
        List<String> command = new ArrayList<>(
                List.of(Path.of(System.getProperty("java.home"), "bin", "java").toString()));
        ManagementFactory.getRuntimeMXBean().getInputArguments().stream()
                .filter(a -> a.startsWith("-XX:") || a.startsWith("-D"))
                .forEach(command::add);
        command.addAll(List.of(
                "-Xmx" + heap + "m",
                "-cp",
                System.getProperty("java.class.path"),
                InWindow.class.getName(),
                String.valueOf(rows)));
        Process process = new ProcessBuilder(command).inheritIO().start();
        if (process.waitFor() != 0) {
            out.println("  it ended with " + process.exitValue());
        }
    }

    private static byte[] answer(int rows) {
        StringBuilder text = new StringBuilder(rows * 116)
                .append(
                        "<e:Envelope xmlns:e=\"http://schemas.xmlsoap.org/soap/envelope/\"><e:Body><n:Closures xmlns:n=\"urn:n\">");
        for (int i = 0; i < rows; i++) {
            text.append("<n:closure><n:trail>Trail ")
                    .append(i)
                    .append("</n:trail><n:from>2027-0")
                    .append(1 + i % 9)
                    .append("-11</n:from><n:grade>")
                    .append(i % 6)
                    .append("</n:grade></n:closure>\n");
        }
        text.append("</n:Closures></e:Body></e:Envelope>");
        return text.toString().getBytes(StandardCharsets.UTF_8);
    }

    private void parsed(int rows) {
        String text = new String(answer(rows), StandardCharsets.UTF_8);
        double best = Double.MAX_VALUE;
        for (int i = 0; i < 5; i++) {
            long from = System.nanoTime();
            Xml.parse(text, "answer", XmlLimits.MESSAGE);
            best = Math.min(best, (System.nanoTime() - from) / 1e6);
        }
        out.printf("  beside it: the text parsed into a tree, %.0f ms%n", best);
    }

    /** One process: a window, its answer, and what it took. */
    static final class InWindow {
        private final int rows;
        private final long size;
        private final PrintStream out = new PrintStream(System.out, true, StandardCharsets.UTF_8);
        private final MockBellWindow window;
        private final Hand hand;
        private final CallModel call;
        private Optional<Grid<?>> sheet = Optional.empty();

        private InWindow(int rows, long size, MockBellWindow window) {
            this.rows = rows;
            this.size = size;
            this.window = window;
            this.hand = new Hand(window.stage());
            this.call = window.models().call();
        }

        public static void main(String[] args) {
            try {
                answered(args);
                System.exit(0);
            } catch (Exception | OutOfMemoryError e) {
                // the window's threads would keep the process
                e.printStackTrace();
                System.exit(1);
            }
        }

        private static void answered(String[] args) throws IOException {
            int rows = Integer.parseInt(args[0]);
            Path body = Scratch.folder().resolve("answer.xml");
            Files.write(body, answer(rows));
            long size = Files.size(body);
            try (ServerSocket server = FilePeer.serve(body)) {
                Path folder = Scratch.folder().resolve("project");
                Contract contract = new ContractReader((DocumentFetcher) (uri, stop) ->
                                new DocumentFetcher.Fetched(uri, WSDL.getBytes(StandardCharsets.UTF_8), ""))
                        .read("closures", URI.create("mem:/closures"), Progress.NONE, new StopSignal());
                ProjectStore store = new ProjectStore();
                store.create(folder, "bench");
                store.saveContract(folder, "closures", "Closures", contract, Instant.EPOCH);
                store.saveCase(
                        folder,
                        new Case(
                                "a",
                                "All",
                                "",
                                "closures",
                                "List",
                                "",
                                "<n:List xmlns:n='urn:n'>x</n:List>",
                                List.of(),
                                List.of(new Check.Valid(), new Check.NoFault()),
                                List.of()));
                MockBellWindow window = BenchWindow.open(folder);
                Desk desk = window.models().desk();
                Hand.run(() -> desk.go(Station.CALL));
                InWindow bench = new InWindow(rows, size, window);
                Hand.run(() -> bench.call
                        .endpoint()
                        .keep("http://127.0.0.1:" + server.getLocalPort() + "/", CalledEndpoint.For.CASE));
                bench.measure();
            }
        }

        private void measure() throws IOException {
            out.printf("  %.1f MB%n", size / 1e6);
            BenchWindow.settle();
            shown("the first time");
            if (rows > 500_000) {
                out.printf("  live heap afterwards %d MB, largest %d MB%n", live(), largest());
                hand.click("#response-faces #segment-xml");
                hand.await("the text", () -> !call.faces().xml().isEmpty());
                hand.click("#response-faces #segment-wire");
                hand.await("the bytes", () -> !call.faces().wire().bytes().isEmpty());
                out.printf("  with its start as XML and Wire: live %d MB, largest %d MB%n", live(), largest());
                return;
            }
            shown("the second time");
            shown("the third time");
            out.printf("  live heap afterwards %d MB, largest %d MB%n", live(), largest());
            if (rows > 1_000) {
                scrolling();
            }
            held(
                    "XML",
                    "#response-faces #segment-xml",
                    () -> !call.faces().xml().isEmpty());
            held(
                    "Wire",
                    "#response-faces #segment-wire",
                    () -> !call.faces().wire().bytes().isEmpty());
            held(
                    "Table",
                    "#response-faces #segment-table",
                    () -> call.table().table().isPresent());
            exported();
            out.printf("  all of them open: live heap %d MB, largest %d MB%n", live(), largest());
        }

        /** From the press on Send until the rows, or why there are none, are laid out. */
        private void shown(String which) {
            int before = Hand.on(call::calls);
            SuiteRunner.Called was = Hand.on(() -> call.calledProperty().get());
            AtomicLong whole = new AtomicLong();
            Runnable laidOut = () -> {
                if (call.calledProperty().get() != was && areRowsThere()) {
                    whole.compareAndSet(0, System.nanoTime());
                }
            };
            Hand.run(() -> window.stage().getScene().addPostLayoutPulseListener(laidOut));
            Beat beat = Beat.start();
            long from = System.nanoTime();
            Hand.run(call::sendOrStop);
            hand.await("the rows", () -> whole.get() > 0);
            Hand.run(() -> window.stage().getScene().removePostLayoutPulseListener(laidOut));
            hand.await("the verdict", () -> call.calls() > before);
            double judged = (System.nanoTime() - from) / 1e6;
            double service =
                    Hand.on(() -> call.exchange().orElseThrow().timing().total()) / 1e6;
            hand.await(
                    "it is judged",
                    () -> call.faces().remarks().isPresent()
                            || call.calledProperty().get().answer().soap().isEmpty());
            pause();
            out.printf(
                    "  on the screen %s %.0f ms after Send, judged and on the ledger after %.0f ms; the service took %.0f ms of it;"
                            + " %s%n",
                    which, (whole.get() - from) / 1e6, judged, service, beat.stop());
        }

        /** Or why there are none. */
        private boolean areRowsThere() {
            return call.response().lines().isEmpty()
                    || sheet().filter(Grid::isWhole).isPresent();
        }

        /** Looked for until it is there: that goes through all nodes of the window, on its thread. */
        private Optional<Grid<?>> sheet() {
            if (sheet.isEmpty() && window.stage().getScene().lookup("#response-sheet") instanceof Grid<?> found) {
                sheet = Optional.of(found);
            }
            return sheet;
        }

        /** What follows an answer, as the comparison with the one before, is to be over too. */
        private static void pause() {
            try {
                Thread.sleep(2_500);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        }

        private void held(String face, String segment, BooleanSupplier there) {
            Beat beat = Beat.start();
            long from = System.nanoTime();
            hand.click(segment);
            hand.await(face, there);
            double whole = (System.nanoTime() - from) / 1e6;
            pause();
            out.printf("  %s: there after %.0f ms; %s%n", face, whole, beat.stop());
        }

        private void scrolling() {
            unfolded("the ninety thousand unfolded", () -> {
                var many = call.response().lines().get(1).row();
                call.response().fold(many);
            });
            unfolded("everything unfolded", () -> call.response().foldAll(false));
            Frames frames = new Frames(window.stage().getScene());
            ListView<?> list =
                    (ListView<?>) hand.find("#response-sheet .list-view").orElseThrow();
            VirtualFlow<?> flow =
                    (VirtualFlow<?>) hand.find("#response-sheet .virtual-flow").orElseThrow();
            List<Double> steps = new ArrayList<>();
            for (int i = 0; i < 200; i++) {
                steps.add(frames.millis(() -> flow.scrollPixels(3 * list.getFixedCellSize())));
            }
            for (int i = 0; i < 50; i++) {
                int to = i * 30_011 % Hand.on(() -> list.getItems().size());
                steps.add(frames.millis(() -> list.scrollTo(to)));
            }
            Collections.sort(steps);
            out.printf(
                    "  scrolled in %,d rows: median %.1f ms, worst %.1f ms of %d%n",
                    Hand.on(() -> list.getItems().size()),
                    steps.get(steps.size() / 2),
                    steps.get(steps.size() - 1),
                    steps.size());
        }

        private void unfolded(String what, Runnable how) {
            int before = Hand.on(() -> call.response().lines().size());
            Beat beat = Beat.start();
            long from = System.nanoTime();
            Hand.run(how);
            hand.await(what, () -> call.response().lines().size() > before);
            double whole = (System.nanoTime() - from) / 1e6;
            pause();
            out.printf(
                    "  %s: %,d rows after %.0f ms; %s%n",
                    what, Hand.on(() -> call.response().lines().size()), whole, beat.stop());
        }

        private void exported() throws IOException {
            AnswerTable tables = call.table();
            Table table = Hand.on(() -> tables.table().orElseThrow());
            Path csv = Scratch.folder().resolve("rows.csv");
            Path plain = Scratch.folder().resolve("plain.csv");
            List<Column> columns = table.columns();
            double ours = Double.MAX_VALUE;
            double theirs = Double.MAX_VALUE;
            for (int i = 0; i < 5; i++) {
                long from = System.nanoTime();
                TableWriter.write(table, TableWriter.Form.CSV, csv);
                ours = Math.min(ours, (System.nanoTime() - from) / 1e6);
                from = System.nanoTime();
                try (BufferedWriter to = Files.newBufferedWriter(plain)) {
                    for (Table.Row row : table.rows()) {
                        to.write(columns.stream().map(row::value).collect(Collectors.joining(",")));
                        to.write("\r\n");
                    }
                }
                theirs = Math.min(theirs, (System.nanoTime() - from) / 1e6);
            }
            out.printf(
                    "  %,d rows written as CSV in %.0f ms; the same values joined and written plainly %.0f ms, ratio %.1f%n",
                    table.rows().size(), ours, theirs, ours / theirs);
        }

        private static long live() {
            System.gc();
            System.gc();
            return ManagementFactory.getMemoryMXBean().getHeapMemoryUsage().getUsed() >> 20;
        }

        private static long largest() {
            return ManagementFactory.getMemoryPoolMXBeans().stream()
                            .filter(p -> p.getType() == MemoryType.HEAP)
                            .map(MemoryPoolMXBean::getPeakUsage)
                            .mapToLong(u -> u.getUsed())
                            .sum()
                    >> 20;
        }
    }
}
