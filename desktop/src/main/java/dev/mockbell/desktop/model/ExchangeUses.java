package dev.mockbell.desktop.model;

import dev.mockbell.compare.Baseline;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.problem.Problem;
import dev.mockbell.redact.Redactor;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.KnownRow;
import dev.mockbell.suite.KnownValues;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.StepPath;
import dev.mockbell.suite.Suite;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;

/** What an exchange of the ledger can be kept as, beside a case: the baseline of one, or a row of known values. */
public final class ExchangeUses {
    private final Desk desk;
    private final CallModel call;
    private final CheckModel check;

    ExchangeUses(Desk desk, CallModel call, CheckModel check) {
        this.desk = desk;
        this.call = call;
        this.check = check;
    }

    /** A table of known values that an exchange fits, because its step calls the same operation. */
    public record Table(Suite suite, StepPath path, Step.Call step) {
        /** As people find it: suite, step and file. */
        public String words() {
            return suite.title() + ", step " + path.text() + " " + step.name();
        }
    }

    /** The cases of the operation of an exchange. */
    public List<Case> cases(Exchange exchange) {
        return desk.project().cases(exchange.contract(), exchange.operation());
    }

    /** The tables that an exchange fits. */
    public List<Table> tables(Exchange exchange) {
        List<Table> found = new ArrayList<>();
        for (Suite suite : desk.project().suites()) {
            suite.each((path, step) -> {
                if (step instanceof Step.Call one
                        && one.known()
                                .filter(k -> k.table().trouble().isEmpty())
                                .isPresent()
                        && ofOperation(one, exchange)) {
                    found.add(new Table(suite, path, one));
                }
            });
        }
        return found;
    }

    private boolean ofOperation(Step.Call step, Exchange exchange) {
        return desk.project()
                .kept(step.caseReference())
                .filter(c -> c.contract().equals(exchange.contract())
                        && c.operation().equals(exchange.operation()))
                .isPresent();
    }

    /** Makes its answer the baseline of a case; what was left out of one before stays so. It can be taken back. */
    public void baseline(Case of, Exchange exchange) {
        Redactor redactor = desk.redactor();
        List<String> leftOut = of.baseline().map(Baseline::leftOut).orElse(List.of());
        desk.tasks()
                .run(
                        () -> {
                            SoapMessage answer = SoapMessage.of(
                                    exchange.response()
                                            .orElseThrow(() -> Problem.input("The exchange has no answer", null, null)),
                                    "answer");
                            return Baseline.of(
                                    answer.payloadDocument()
                                            .orElseThrow(() -> Problem.input("The answer’s body is empty", null, null)),
                                    exchange.started(),
                                    leftOut,
                                    redactor);
                        },
                        made -> {
                            call.change(of, c -> c.withBaseline(Optional.of(made)));
                            desk.tell(new Notice(
                                    "Number " + exchange.id() + " is the baseline of “" + of.title() + "” now.",
                                    false,
                                    Optional.of(new Notice.Action(
                                            "Take it back",
                                            () -> call.change(of, c -> c.withBaseline(of.baseline()))))));
                        },
                        desk::tell);
    }

    /** Puts it into a table of known values as a row; it can be taken back. */
    public void row(Table table, Exchange exchange) {
        KnownValues known = table.step().known().orElseThrow();
        KnownRow rows = new KnownRow(desk.expressions(), desk.redactor());
        desk.tasks()
                .run(
                        () -> rows.of(known, exchange),
                        cells -> {
                            change(table, k -> {
                                List<List<String>> more =
                                        new ArrayList<>(k.table().rows());
                                more.add(cells);
                                return k.with(k.table().with(more));
                            });
                            desk.tell(new Notice(
                                    "Number " + exchange.id() + " is row "
                                            + (known.table().rows().size() + 1) + " of " + table.words() + ".",
                                    false,
                                    Optional.of(new Notice.Action(
                                            "Take it back",
                                            () -> change(
                                                    table, k -> k.with(k.table().with(without(k, cells))))))));
                        },
                        desk::tell);
    }

    private static List<List<String>> without(KnownValues known, List<String> cells) {
        List<List<String>> rows = new ArrayList<>(known.table().rows());
        int at = rows.lastIndexOf(cells);
        if (at >= 0) {
            rows.remove(at);
        }
        return rows;
    }

    private void change(Table table, UnaryOperator<KnownValues> change) {
        Suite shown = check.suiteProperty().get();
        if (shown != null && shown.id().equals(table.suite().id())) {
            check.edits().known(table.path(), change);
            return;
        }
        desk.change(p -> p.suite(table.suite().id())
                .filter(s ->
                        s.at(table.path()).filter(Step.Call.class::isInstance).isPresent())
                .map(s -> p.withSuite(changed(s, table.path(), change)))
                .orElse(p));
    }

    private static Suite changed(Suite suite, StepPath path, UnaryOperator<KnownValues> change) {
        Step.Call step = (Step.Call) suite.at(path).orElseThrow();
        return suite.replacing(path, List.of(step.with(step.known().map(change))));
    }
}
