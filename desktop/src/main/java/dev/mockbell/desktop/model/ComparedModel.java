package dev.mockbell.desktop.model;

import dev.mockbell.check.Answer;
import dev.mockbell.compare.Baseline;
import dev.mockbell.compare.Comparison;
import dev.mockbell.compare.LeftOut;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.ledger.LedgerFilter;
import dev.mockbell.ledger.Listing;
import dev.mockbell.problem.Problem;
import dev.mockbell.redact.Redactor;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.SuiteRunner;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Supplier;
import javafx.beans.property.IntegerProperty;
import javafx.beans.property.SimpleIntegerProperty;
import org.w3c.dom.Document;

/** The last answer held against the one before it, against the baseline of its case, and against any other exchange. */
public final class ComparedModel {
    private static final int LOOKED_AT = 200;
    private static final int MOST_OFFERED = 12;

    private final Desk desk;
    private final CallModel call;
    private final Derived<Pair, Comparison> compared;
    private final IntegerProperty changes = new SimpleIntegerProperty();
    private Optional<Other> other = Optional.empty();

    /** Another answer that this one is held against, with what it is called. */
    private record Other(String title, Document document) {}

    /** Two trees by themselves, not by what they hold. */
    private record Pair(Same<Object> before, Same<Document> now, List<String> leftOut, Supplier<Document> read) {
        @Override
        public boolean equals(Object other) {
            return other instanceof Pair p && before.equals(p.before) && now.equals(p.now) && leftOut.equals(p.leftOut);
        }

        @Override
        public int hashCode() {
            return before.hashCode() * 31 + now.hashCode();
        }
    }

    ComparedModel(Desk desk, CallModel call) {
        this.desk = desk;
        this.call = call;
        Expressions expressions = desk.expressions().looking();
        this.compared = new Derived<>(desk.tasks(), 6, p -> compare(p, expressions), desk::tell);
        compared.changesProperty().addListener((o, was, now) -> changed());
    }

    /** Lets go of what an answer that is not shown any more was held against. */
    void forget() {
        compared.forget();
        other = Optional.empty();
    }

    void changed() {
        changes.set(changes.get() + 1);
        call.response().touched();
    }

    /** Grows when a comparison has come, or another one is wanted. */
    public IntegerProperty changesProperty() {
        return changes;
    }

    private static Comparison compare(Pair pair, Expressions expressions) {
        return LeftOut.without(pair.read().get(), pair.now().thing(), pair.leftOut(), expressions, Scope.EMPTY);
    }

    private Optional<Document> now() {
        return Optional.ofNullable(call.calledProperty().get())
                .flatMap(c -> c.answer().content())
                .filter(d -> d.getDocumentElement() != null);
    }

    private Optional<Comparison> with(Object key, List<String> leftOut, Supplier<Document> read) {
        return now().flatMap(n -> compared.of(new Pair(new Same<>(key), new Same<>(n), leftOut, read)));
    }

    /** What is another than in the answer before; empty when there is none, and while it is being found out. */
    public Optional<Comparison> previous() {
        return call.before().flatMap(b -> with(b.which(), List.of(), b.payload()));
    }

    /** The current case's baseline. */
    public Optional<Baseline> baseline() {
        return Optional.ofNullable(call.currentProperty().get())
                .flatMap(Case::baseline)
                .filter(b -> !b.xml().isEmpty());
    }

    /** What is another than in the baseline. */
    public Optional<Comparison> withBaseline() {
        return baseline()
                .flatMap(b -> with(b.xml(), b.leftOut(), () -> Xml.parse(b.xml(), "the baseline", XmlLimits.MESSAGE)));
    }

    /** Keeps the answer that is shown as the case's baseline; what was left out of one before stays so. */
    public void keepBaseline() {
        Case kept = call.currentProperty().get();
        Optional<Document> now = now();
        if (kept == null || now.isEmpty()) {
            return;
        }
        List<String> leftOut = baseline().map(Baseline::leftOut).orElse(List.of());
        var taken = call.exchange().orElseThrow().started();
        Redactor redactor = desk.redactor();
        desk.tasks()
                .run(
                        () -> Baseline.of(now.get(), taken, leftOut, redactor),
                        made -> change(kept, Optional.of(made)),
                        desk::tell);
    }

    private void change(Case of, Optional<Baseline> baseline) {
        Case now = call.currentProperty().get();
        if (now != null && now.reference().equals(of.reference())) {
            call.keep(now.withBaseline(baseline));
            changed();
        }
    }

    /** Forgets the baseline; it can be brought back. */
    public void dropBaseline() {
        Case kept = call.currentProperty().get();
        Optional<Baseline> gone = kept.baseline();
        change(kept, Optional.empty());
        desk.tell(new Notice(
                "The baseline of “" + kept.title() + "” is gone.",
                false,
                Optional.of(new Notice.Action("Bring it back", () -> change(kept, gone)))));
    }

    /** Leaves what is at a path out of the comparison with the baseline. */
    public void leaveOut(String path) {
        baseline().filter(b -> !b.leftOut().contains(path)).ifPresent(b -> {
            List<String> more = new ArrayList<>(b.leftOut());
            more.add(path);
            change(call.currentProperty().get(), Optional.of(b.leaving(more)));
        });
    }

    /** Compares what is at a path again. */
    public void takeIn(String path) {
        baseline()
                .ifPresent(b -> change(
                        call.currentProperty().get(),
                        Optional.of(b.leaving(b.leftOut().stream()
                                .filter(p -> !p.equals(path))
                                .toList()))));
    }

    /** Exchanges of the operation that had an answer, the newest first, without the one that is shown. */
    public void choices(Consumer<List<Listing>> then) {
        Case kept = call.currentProperty().get();
        long own = call.exchange().map(Exchange::id).orElse(0L);
        desk.tasks()
                .run(
                        () -> desk.ledger().list(LedgerFilter.ALL.withOperation(kept.operation()), LOOKED_AT).stream()
                                .filter(l -> l.contract().equals(kept.contract()))
                                .filter(l -> l.id() != own && l.status() > 0 && l.received() > 0)
                                .limit(MOST_OFFERED)
                                .toList(),
                        then,
                        desk::tell);
    }

    /** Holds the answer against that of an exchange of the ledger. */
    public void with(Listing listing) {
        Expressions expressions = desk.expressions().looking();
        SuiteRunner.Called asked = call.calledProperty().get();
        desk.tasks()
                .run(
                        () -> desk.ledger()
                                .get(listing.id())
                                .flatMap(e -> Answer.of(e, Optional.empty(), expressions)
                                        .content())
                                .orElseThrow(() -> Problem.input(
                                        "Exchange " + listing.id() + " has no answer that can be compared",
                                        null,
                                        "Take another one.")),
                        document -> {
                            if (call.calledProperty().get() == asked) {
                                with("exchange " + listing.id(), document);
                            }
                        },
                        desk::tell);
    }

    /** Holds the answer against that of another exchange, until there is another answer. */
    public void with(String title, Document document) {
        other = Optional.of(new Other(title, document));
        changed();
    }

    /** Holds it against no other exchange any more. */
    public void withoutOther() {
        other = Optional.empty();
        changed();
    }

    /** What the other exchange is called; empty when there is none. */
    public Optional<String> otherTitle() {
        return other.map(Other::title);
    }

    /** What is another than in the other exchange. */
    public Optional<Comparison> withOther() {
        return other.flatMap(o -> with(o.document(), List.of(), o::document));
    }
}
