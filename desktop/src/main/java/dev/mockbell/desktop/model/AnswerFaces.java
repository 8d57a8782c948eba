package dev.mockbell.desktop.model;

import dev.mockbell.check.Answer;
import dev.mockbell.check.Remarks;
import dev.mockbell.content.Content;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.MessageText;
import dev.mockbell.exchange.PartFiles;
import dev.mockbell.exchange.WireBytes;
import dev.mockbell.exchange.WireText;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.problem.Problem;
import dev.mockbell.redact.Redactor;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.beans.property.IntegerProperty;
import javafx.beans.property.SimpleIntegerProperty;
import org.w3c.dom.Attr;
import org.w3c.dom.Document;
import org.w3c.dom.Node;

/** The faces of the last answer besides its sheet, worked out when they are looked at. */
public final class AnswerFaces {
    private final Desk desk;
    private final CallModel call;
    private final IntegerProperty changes = new SimpleIntegerProperty();
    private final Derived<Of, String> laidOut;
    private final Derived<Wanted, Wire> wires;
    private final Derived<Of, Remarks> remarks;

    /** An answer, known by the message that came: what is made of that stays when the answer is judged, or judged anew. */
    private record Of(Answer answer) {
        private Object message() {
            return answer.exchange().response().<Object>map(r -> r).orElse(answer.exchange());
        }

        @Override
        public boolean equals(Object other) {
            return other instanceof Of of && of.message() == message();
        }

        @Override
        public int hashCode() {
            return System.identityHashCode(message());
        }
    }

    AnswerFaces(Desk desk, CallModel call) {
        this.desk = desk;
        this.call = call;
        this.laidOut = new Derived<>(desk.tasks(), 4, o -> laidOut(o.answer().exchange()), desk::tell);
        this.wires = new Derived<>(
                desk.tasks(), 4, w -> Wire.of(w.of().answer().exchange(), desk.redactor(), w.masked()), desk::tell);
        this.remarks = new Derived<>(desk.tasks(), 4, o -> Remarks.of(o.answer()), desk::tell);
        for (Derived<?, ?> face : List.of(laidOut, wires, remarks)) {
            face.changesProperty().addListener((o, was, now) -> changes.set(changes.get() + 1));
        }
    }

    private Optional<Of> shown() {
        return Optional.ofNullable(call.calledProperty().get()).map(c -> new Of(c.answer()));
    }

    /** What is wrong with the answer that came; empty while that is being found out, and without an answer. */
    public Optional<Remarks> remarks() {
        return shown().flatMap(remarks::of);
    }

    /** Where in a text of XML an XPath leads to. A path from the root may begin at the envelope or at its payload. */
    public void find(String text, String xpath, Consumer<List<Integer>> lines, Consumer<Problem> failed) {
        Scope scope = call.lookingScope();
        desk.tasks()
                .run(
                        () -> {
                            Document document = Xml.parse(text, "answer", XmlLimits.MESSAGE);
                            Expressions expressions = desk.expressions().looking();
                            Scope looking = scope.on(expressions.wrap(document));
                            List<Node> found = expressions.nodes(xpath, looking);
                            boolean fromRoot = xpath.startsWith("/") && !xpath.startsWith("//");
                            if (found.isEmpty() && fromRoot) {
                                found = expressions.nodes("/*:Envelope/*:Body" + xpath, looking);
                            }
                            return found.stream()
                                    .map(n -> Xml.placeOf(n instanceof Attr a ? a.getOwnerElement() : n)
                                            .line())
                                    .toList();
                        },
                        lines,
                        failed);
    }

    /** Lets go of the faces of an answer that is not shown any more. */
    void forget() {
        laidOut.forget();
        wires.forget();
        remarks.forget();
    }

    /** The whole envelope of the last answer, laid out; empty while that is being done. */
    public String xml() {
        return shown().flatMap(laidOut::of).orElse("");
    }

    private static String laidOut(Exchange exchange) {
        return exchange.response()
                .map(r -> MessageText.toLookAt(Optional.empty()).body(r))
                .orElse(exchange.note());
    }

    /**
     * Both sides as they went over the connection.
     *
     * @param bytes of the answer, then of the request, in hex where they are no text
     * @param decoded what they came to where that is something else; empty when it is not
     * @param how what was undone of the answer, or of the request; empty for nothing
     * @param masks whether there is something to mask
     */
    public record Wire(String bytes, String decoded, String how, boolean masks) {
        private static final Wire NONE = new Wire("", "", "", false);

        static Wire of(Exchange exchange, Redactor redactor, boolean masked) {
            Optional<Redactor> masking = masked ? Optional.of(redactor) : Optional.empty();
            WireText sent = WireText.of(exchange.request(), masking, MessageText.TO_LOOK_AT);
            Optional<WireText> came = exchange.response().map(r -> WireText.of(r, masking, MessageText.TO_LOOK_AT));
            String hidden = redactor.text(exchange.note());
            boolean masks = !hidden.equals(exchange.note())
                    || (masked
                            ? sent.masked() || came.filter(WireText::masked).isPresent()
                            : masks(exchange, redactor));
            // what came is looked for, what was sent is known
            String first = came.map(WireText::bytes)
                    .orElse("(no answer: " + (masked ? hidden : exchange.note()) + ")")
                    .stripTrailing();
            Optional<WireText> coded = came.filter(c -> !c.how().isEmpty());
            // what was asked is seen in Request; only what is coded of it is not
            return new Wire(
                    first + "\n\n" + sent.bytes(),
                    coded.map(WireText::decoded).orElse(sent.decoded()),
                    coded.map(WireText::how).orElse(sent.how().isEmpty() ? "" : "the request, " + sent.how()),
                    masks);
        }

        private static boolean masks(Exchange exchange, Redactor redactor) {
            return WireText.masks(exchange.request(), redactor, MessageText.TO_LOOK_AT)
                    || exchange.response()
                            .filter(r -> WireText.masks(r, redactor, MessageText.TO_LOOK_AT))
                            .isPresent();
        }
    }

    private record Wanted(Of of, boolean masked) {}

    /** The bytes of both sides; nothing while that is being made, and without an answer. */
    public Wire wire() {
        return shown().flatMap(o -> wires.of(new Wanted(o, desk.maskedProperty().get())))
                .orElse(Wire.NONE);
    }

    /** Writes the very bytes that came to a file, in place of one that is there; masked while the window masks. */
    public void saveWire(Path file) {
        Exchange exchange = call.exchange().orElseThrow();
        Optional<Redactor> redactor = desk.maskedProperty().get() ? Optional.of(desk.redactor()) : Optional.empty();
        desk.tasks()
                .run(
                        () -> {
                            Content bytes = exchange.response()
                                    .map(r -> new WireBytes(redactor).of(r))
                                    .orElse(Content.NONE);
                            PartFiles.write(bytes, file);
                            return bytes.size();
                        },
                        size -> desk.tell(Notice.good("Wrote " + size + " bytes to " + file.getFileName() + ".")),
                        desk::tell);
    }

    /** Grows when one of the faces of the answer has come. */
    public IntegerProperty changesProperty() {
        return changes;
    }
}
