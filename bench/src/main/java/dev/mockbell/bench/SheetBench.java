package dev.mockbell.bench;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.ContractReader;
import dev.mockbell.contract.DocumentFetcher;
import dev.mockbell.desktop.MockBellWindow;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.MessageModel;
import dev.mockbell.desktop.model.Station;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.suite.Case;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import dev.mockbell.validation.MessageValidator;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.io.IOException;
import java.io.PrintStream;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.atomic.AtomicBoolean;
import javafx.scene.control.ListView;
import javafx.scene.control.skin.VirtualFlow;
import org.fxmisc.richtext.CodeArea;

/**
 * A message of 20,000 rows in the real window, drawn offscreen: opened, then 200 values edited one by one, each judged again
 * and drawn before the next. Beside it the plain cost of reading the same text with the same parser.
 */
final class SheetBench {
    private static final int GUESTS = 6_666;
    private static final int EDITS = 200;
    private static final int TURNS = 7;
    private static final int REPEATS = 40;
    private static final int SCROLLS = 300;
    private static final int PAGES = 60;
    private static final int KEYS = 40;
    private static final String WSDL = """
            <definitions targetNamespace="urn:n:s" xmlns="http://schemas.xmlsoap.org/wsdl/" xmlns:tns="urn:n:s" xmlns:n="urn:n"
              xmlns:soap="http://schemas.xmlsoap.org/wsdl/soap/" xmlns:xs="http://www.w3.org/2001/XMLSchema">
              <types><xs:schema targetNamespace="urn:n" elementFormDefault="qualified">
                <xs:element name="Party"><xs:complexType><xs:sequence><xs:element name="guest" maxOccurs="unbounded"><xs:complexType><xs:sequence>
                  <xs:element name="name"><xs:simpleType><xs:restriction base="xs:string"><xs:maxLength value="60"/></xs:restriction></xs:simpleType></xs:element>
                  <xs:element name="age" type="xs:int"/></xs:sequence></xs:complexType></xs:element></xs:sequence></xs:complexType></xs:element>
              </xs:schema></types>
              <message name="M"><part name="p" element="n:Party"/></message>
              <portType name="P"><operation name="Go"><input message="tns:M"/></operation></portType>
              <binding name="B" type="tns:P"><soap:binding transport="http://schemas.xmlsoap.org/soap/http"/><operation name="Go"><input><soap:body use="literal"/></input></operation></binding>
              <service name="S"><port name="Q" binding="tns:B"><soap:address location="http://127.0.0.1:1/"/></port></service>
            </definitions>""";

    private final PrintStream out;

    SheetBench(PrintStream out) {
        this.out = out;
    }

    void run() throws IOException {
        Path folder = Scratch.folder().resolve("project");
        Contract contract = new ContractReader((DocumentFetcher)
                        (uri, stop) -> new DocumentFetcher.Fetched(uri, WSDL.getBytes(StandardCharsets.UTF_8), ""))
                .read("party", URI.create("mem:/party"), Progress.NONE, new StopSignal());
        MessageOutline outline = MessageOutline.ofRequest(
                contract, contract.operation("Go", null).orElseThrow().operation());
        String message = message();
        ProjectStore store = new ProjectStore();
        store.create(folder, "bench");
        store.saveContract(folder, "party", "Party", contract, Instant.EPOCH);
        Case large = new Case("a", "Large", "", "party", "Go", "", message, List.of(), List.of(), List.of());
        Case small = new Case("b", "Small", "", "party", "Go", "", "", List.of(), List.of(), List.of());
        store.saveCase(folder, large);
        store.saveCase(folder, small);
        MockBellWindow window = BenchWindow.open(folder);
        Desk desk = window.models().desk();
        Hand hand = new Hand(window.stage());
        MessageModel request = window.models().call().request();
        Hand.run(() -> desk.go(Station.CALL));
        opening(window, hand, request, large, small, message);
        Frames frames = new Frames(window.stage().getScene());
        out.println("On the interface thread, change and layout together:");
        edits(request, frames);
        scrolling(hand, frames);
        judging(outline, message);
        text(window, hand, frames);
        Hand.run(() -> {
            window.stage().hide();
        });
    }

    private static String message() {
        StringBuilder text = new StringBuilder("<n:Party xmlns:n=\"urn:n\">\n");
        for (int i = 0; i < GUESTS; i++) {
            text.append("  <n:guest>\n    <n:name>Guest ")
                    .append(i)
                    .append("</n:name>\n    <n:age>")
                    .append(i % 90)
                    .append("</n:age>\n  </n:guest>\n");
        }
        return text.append("</n:Party>").toString();
    }

    private void opening(
            MockBellWindow window, Hand hand, MessageModel request, Case large, Case small, String message) {
        List<Double> opens = new ArrayList<>();
        List<Double> parses = new ArrayList<>();
        for (int i = 0; i < TURNS; i++) {
            Hand.run(() -> window.models().call().open(small));
            long from = System.nanoTime();
            Hand.run(() -> window.models().call().open(large));
            hand.await(
                    "the rows",
                    () -> !request.readingProperty().get() && !request.lines().isEmpty());
            Hand.run(() -> draw(window));
            opens.add((System.nanoTime() - from) / 1e6);
            long start = System.nanoTime();
            Xml.parse(message, "message", XmlLimits.MESSAGE);
            parses.add((System.nanoTime() - start) / 1e6);
        }
        Hand.run(() -> {
            request.foldAll(false);
            draw(window);
        });
        out.printf(
                "Sheet: %,d rows, %.1f MB of XML%n",
                Hand.on(() -> request.lines().size()), message.length() / 1e6);
        out.printf(
                "  open until laid out: first %5.0f ms, median %5.0f ms; parsing the text alone %5.0f ms%n",
                opens.get(0), median(opens), median(parses));
    }

    private void edits(MessageModel request, Frames frames) {
        List<Double> edits = new ArrayList<>();
        for (int i = 0; i < EDITS; i++) {
            int at = 2 + 3 * ((i * 97) % GUESTS) + 1;
            String value = "Ines " + i;
            edits.add(frames.millis(() -> request.type(request.lines().get(at).row(), value)));
        }
        out.printf("  an edit of one value, judged and laid out again: %s%n", spread(edits));
        List<Double> repeats = new ArrayList<>();
        for (int i = 0; i < REPEATS; i++) {
            repeats.add(frames.millis(
                    () -> request.edits().repeat(request.lines().get(2).row())));
        }
        out.printf("  one more element at the start: %s%n", spread(repeats));
    }

    /** Rows come into view: by the wheel, three at a time, and by pages to places all over. */
    private void scrolling(Hand hand, Frames frames) {
        ListView<?> list = (ListView<?>) hand.find("#request-sheet .list-view").orElseThrow();
        VirtualFlow<?> flow =
                (VirtualFlow<?>) hand.find("#request-sheet .virtual-flow").orElseThrow();
        Hand.run(() -> list.scrollTo(100));
        List<Double> steps = new ArrayList<>();
        for (int i = 0; i < SCROLLS; i++) {
            steps.add(frames.millis(() -> flow.scrollPixels(3 * list.getFixedCellSize())));
        }
        out.printf("  scrolled by three rows, laid out: %s%n", spread(steps));
        List<Double> pages = new ArrayList<>();
        for (int i = 0; i < PAGES; i++) {
            int to = i * 3_001 % Hand.on(() -> list.getItems().size());
            pages.add(frames.millis(() -> list.scrollTo(to)));
        }
        out.printf("  to a page elsewhere, laid out: %s%n", spread(pages));
    }

    private static String spread(List<Double> taken) {
        List<Double> all = new ArrayList<>(taken);
        Collections.sort(all);
        int turns = all.size();
        return String.format(
                Locale.ROOT,
                "median %.1f ms, 95 in 100 under %.1f ms, worst %.1f and %.1f ms of %d, the first %.1f ms",
                median(all),
                all.get(turns * 95 / 100),
                all.get(turns - 2),
                all.get(turns - 1),
                turns,
                taken.get(0));
    }

    /** The XML face of 5 MB: how long the interface thread is held at most while it opens, and by a key. */
    private void text(MockBellWindow window, Hand hand, Frames frames) {
        StringBuilder large = new StringBuilder();
        while (large.length() < 4_700_000) {
            large.append("  <n:guest>\n    <n:name>Guest</n:name>\n    <n:age>30</n:age>\n  </n:guest>\n");
        }
        String message = "<n:Party xmlns:n=\"urn:n\">\n" + large + "</n:Party>";
        Case kept = new Case("c", "Text", "", "party", "Go", "", message, List.of(), List.of(), List.of());
        hand.click("#segment-xml");
        CodeArea area = (CodeArea) hand.find("#request-xml").orElseThrow();
        AtomicBoolean over = new AtomicBoolean();
        double[] held = {0};
        Thread beating = new Thread(() -> {
            while (!over.get()) {
                long from = System.nanoTime();
                Hand.run(() -> {});
                held[0] = Math.max(held[0], (System.nanoTime() - from) / 1e6);
            }
        });
        beating.start();
        long from = System.nanoTime();
        Hand.run(() -> window.models().call().open(kept));
        hand.await("the text", () -> area.getLength() >= message.length());
        double opened = (System.nanoTime() - from) / 1e6;
        hand.await(
                "the sheet",
                () -> !window.models().call().request().readingProperty().get());
        over.set(true);
        try {
            beating.join();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
        out.printf(
                "XML face of %.1f MB: shown after %.0f ms, the interface thread held for %.0f ms at most%n",
                message.length() / 1e6, opened, held[0]);
        List<Double> keys = new ArrayList<>();
        for (int i = 0; i < KEYS; i++) {
            int at = 60_000 + i;
            keys.add(frames.millis(() -> area.insertText(at, "x")));
        }
        out.printf("  a key: %s%n", spread(keys));
    }

    private void judging(MessageOutline outline, String message) {
        List<Double> whole = new ArrayList<>();
        for (int i = 0; i < TURNS; i++) {
            long from = System.nanoTime();
            new MessageValidator(outline.schemas()).validate(outline, Xml.parse(message, "message", XmlLimits.MESSAGE));
            whole.add((System.nanoTime() - from) / 1e6);
        }
        out.printf(
                "Beside it, off that thread: reading and validating the whole message anew, median %.0f ms%n",
                median(whole));
    }

    private static void draw(MockBellWindow window) {
        window.stage().getScene().getRoot().applyCss();
        window.stage().getScene().getRoot().layout();
    }

    private static double median(List<Double> values) {
        List<Double> sorted = new ArrayList<>(values);
        Collections.sort(sorted);
        return sorted.get(sorted.size() / 2);
    }
}
