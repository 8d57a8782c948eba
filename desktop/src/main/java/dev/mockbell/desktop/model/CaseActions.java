package dev.mockbell.desktop.model;

import dev.mockbell.check.Check;
import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.contract.Port;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.expression.Braces;
import dev.mockbell.expression.Scope;
import dev.mockbell.expression.Variable;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Counted;
import dev.mockbell.project.Names;
import dev.mockbell.redact.Redactor;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.CopyOut;
import dev.mockbell.task.StopSignal;
import dev.mockbell.validation.BoundaryCases;
import dev.mockbell.validation.BoundaryCases.Boundary;
import dev.mockbell.validation.Fit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.collections.FXCollections;
import javafx.collections.ObservableMap;

/** What can be done with cases beyond calling them: order, boundary cases, mending, variables, copying out. */
public final class CaseActions {
    private final Desk desk;
    private final CallModel call;
    private final ObservableMap<String, Fit> misfits = FXCollections.observableHashMap();
    private final Map<String, String> looked = new HashMap<>();

    CaseActions(Desk desk, CallModel call) {
        this.desk = desk;
        this.call = call;
    }

    /** Cases that do not fit the contract, by reference. Filled in the background by {@link #lookAt}. */
    public ObservableMap<String, Fit> misfits() {
        return misfits;
    }

    /** Holds cases against the contract as it is now. One that expects a fault may be wrong on purpose. */
    void lookAt(List<Case> cases, MessageOutline outline) {
        for (Case kept : cases) {
            String body = kept.body();
            boolean meant = kept.checks().stream().anyMatch(Check::wantsFault);
            if (meant || body.equals(looked.put(kept.reference(), body))) {
                if (meant) {
                    misfits.remove(kept.reference());
                }
                continue;
            }
            desk.tasks()
                    .run(
                            () -> Fit.of(outline, body),
                            fit -> {
                                if (fit.isGood()) {
                                    misfits.remove(kept.reference());
                                } else {
                                    misfits.put(kept.reference(), fit);
                                }
                            },
                            desk::tell);
        }
    }

    /** Forgets what was found, because the contract may be another. */
    void forget() {
        looked.clear();
        misfits.clear();
    }

    /** Takes the mended body of the current case; undo brings the old one back. */
    public void mend(Fit fit) {
        call.request().replaceXml(fit.proposal());
    }

    /** Moves the current case left, by -1, or right, by 1. */
    public void move(int by) {
        int at = call.cases().indexOf(call.currentProperty().get());
        moveTo(at, at + by);
    }

    /** Gives the case at one place another place. */
    public void moveTo(int from, int to) {
        int last = call.cases().size() - 1;
        if (from < 0 || to < 0 || from > last || to > last || from == to) {
            return;
        }
        List<Case> order = new ArrayList<>(call.cases());
        order.add(to, order.remove(from));
        call.cases().setAll(order);
        keepOrder();
        call.currentProperty().set(call.currentProperty().get());
    }

    /** Writes the order down where the names of the files would give another. */
    void keepOrder() {
        if (call.cases().isEmpty()) {
            return;
        }
        Case any = call.cases().get(0);
        List<String> ids = call.cases().stream().map(Case::id).toList();
        List<String> known =
                desk.project().settings().caseOrder().getOrDefault(any.contract() + "/" + any.operation(), List.of());
        List<String> read = new ArrayList<>(ids);
        read.sort(Comparator.<String>comparingInt(id -> known.contains(id) ? known.indexOf(id) : known.size())
                .thenComparing(Comparator.naturalOrder()));
        if (!read.equals(ids)) {
            desk.steps().does("Moved a case.", p -> p.withCaseOrder(any.contract(), any.operation(), ids));
        }
    }

    /** Says what the current case is about. */
    public void describe(String title, String description) {
        Case now = call.currentProperty().get();
        call.keep(now.withName(now.id(), title.isBlank() ? now.title() : title.strip())
                .withDescription(description.strip()));
    }

    /** Makes the boundary cases of the operation in the background. */
    public void boundary(StopSignal stop, Consumer<List<Boundary>> done) {
        MessageOutline outline = call.requestOutline(desk.placeProperty().get());
        desk.tasks().run(() -> BoundaryCases.of(outline, stop), done, desk::tell);
    }

    /** Keeps boundary cases as cases: those that are allowed must be answered, the others refused with a fault. */
    public void keep(List<Boundary> chosen) {
        Case like = call.currentProperty().get();
        List<Case> made = new ArrayList<>();
        for (Boundary b : chosen) {
            String id = Names.free(
                    b.title(),
                    n -> call.cases().stream().anyMatch(c -> c.id().equals(n))
                            || made.stream().anyMatch(c -> c.id().equals(n)));
            List<Check> checks =
                    b.accepted() ? List.of(new Check.Valid(), new Check.NoFault()) : List.of(new Check.FaultIs(""));
            String why = b.accepted()
                    ? "Allowed by the contract, so it must be answered."
                    : "Not allowed by the contract, so it must be refused with a fault: " + b.reason();
            made.add(like.withName(id, b.title())
                    .withDescription(why)
                    .withBody(b.body())
                    .withSoapHeaders(b.soapHeaders().orElse(like.soapHeaders()))
                    .withChecks(checks)
                    .withCaptures(List.of()));
        }
        call.cases().addAll(made);
        desk.change(p -> {
            var all = p;
            for (Case c : made) {
                all = all.withCase(c);
            }
            return all;
        });
        if (!made.isEmpty()) {
            call.keepSample(made.get(0));
            keepOrder();
            call.open(made.get(0));
        }
        desk.tell(new Notice(
                "Kept " + Counted.of(made.size(), "case") + ".",
                false,
                made.isEmpty()
                        ? Optional.empty()
                        : Optional.of(new Notice.Action("Take them back", () -> takeBack(made)))));
    }

    private void takeBack(List<Case> made) {
        call.takeAway(made);
        desk.change(p -> {
            var all = p;
            for (Case c : made) {
                all = all.withoutCase(c.reference());
            }
            return all;
        });
    }

    /** Gives the three tables of variables other values; secrets by name, with whether each is to be in the desktop's keyring. */
    public void keepVariables(
            List<Variable> ofCase,
            List<Variable> ofEnvironment,
            List<Variable> ofProject,
            Map<String, String> newSecrets,
            Map<String, Boolean> places) {
        Case now = call.currentProperty().get();
        if (now != null && !now.variables().equals(ofCase)) {
            call.keep(now.withVariables(ofCase));
        }
        desk.keepVariables(ofProject, ofEnvironment, newSecrets, places);
        call.values().forget();
    }

    /**
     * Makes of the current request something to paste elsewhere, off the interface thread, since what
     * an expression asks for may take its time; tells of what is in the way instead.
     */
    public void copyOut(CopyOut.Form form, Consumer<String> then) {
        call.settle();
        Optional<BoundOperation> bound = call.bound();
        Case now = call.currentProperty().get();
        if (bound.isEmpty() || now == null) {
            return;
        }
        CopyOut out = new CopyOut(desk.expressions());
        Scope scope = call.scope();
        Optional<String> endpoint = Optional.of(call.endpoint().address()).filter(e -> !e.isEmpty());
        boolean protectedOne = call.security().current().isPresent();
        desk.tasks()
                .run(
                        () -> out.of(form, bound.get(), now, endpoint, scope),
                        text -> {
                            then.accept(text);
                            if (protectedOne) {
                                desk.tell(Notice.plain(CopyOut.WITHOUT_PROFILE));
                            }
                        },
                        desk::tell);
    }

    /** Opens an exchange of the ledger as a new case, to be edited and sent again. */
    public void open(Exchange exchange) {
        Optional<OperationPlace> place = desk.place(exchange.contract(), exchange.operation());
        if (place.isEmpty()) {
            desk.tell(
                    Notice.bad(
                            "No contract of the project knows the operation of this exchange, so it cannot be sent again from here."));
            return;
        }
        Redactor redactor = desk.redactor();
        desk.tasks()
                .run(
                        () -> {
                            SoapMessage soap = SoapMessage.of(exchange.request(), "request");
                            return redactor.unfilled(Braces.literally(soap.payloadText()));
                        },
                        body -> open(exchange, place.get(), body),
                        desk::tell);
    }

    private void open(Exchange exchange, OperationPlace place, String body) {
        desk.placeProperty().set(place);
        // a case is kept for longer than the day
        String title = "From " + Moments.withDay(exchange.started());
        String id = Names.free(title, n -> call.cases().stream().anyMatch(c -> c.id().equals(n)));
        String port = place.ports().stream()
                .filter(p -> exchange.endpoint().equals(desk.redactor().text(desk.endpoint(place.contract(), p))))
                .map(Port::name)
                .findFirst()
                .orElse(call.currentProperty().get().port());
        call.keep(new Case(
                id,
                title,
                "",
                exchange.contract(),
                exchange.operation(),
                port,
                body,
                List.of(),
                List.of(new Check.Valid(), new Check.NoFault()),
                List.of()));
        call.open(call.currentProperty().get());
        desk.go(Station.CALL);
    }
}
