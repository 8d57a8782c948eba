package dev.mockbell.desktop.model;

import dev.mockbell.check.Answer;
import dev.mockbell.check.Capture;
import dev.mockbell.check.Check;
import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.contract.Port;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.LedgerFilter;
import dev.mockbell.exchange.MessageText;
import dev.mockbell.expression.Scope;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.Names;
import dev.mockbell.redact.Redactor;
import dev.mockbell.sample.SampleBuilder;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.sheet.SheetRow;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.StepResult;
import dev.mockbell.suite.SuiteRunner;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.WireHead;
import dev.mockbell.xml.XmlText;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.IntegerProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.ReadOnlyStringWrapper;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleIntegerProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;

/** The call station: the cases of an operation, the request being edited, and what came back. */
public final class CallModel {
    private static final long REST = 400;
    private static final int LOOK_BACK = 300;

    private final Desk desk;
    private final MessageModel request;
    private final MessageModel response;
    private final ObservableList<Case> cases = FXCollections.observableArrayList();
    private final ObjectProperty<Case> current = new SimpleObjectProperty<>();
    private final ObjectProperty<SuiteRunner.Called> called = new SimpleObjectProperty<>();
    private final BooleanProperty waiting = new SimpleBooleanProperty();
    private final Map<String, SuiteRunner.Called> lastOf = new HashMap<>();
    private final Map<String, Integer> calls = new HashMap<>();
    private final Map<String, String> previous = new HashMap<>();
    private final Map<String, String> captured = new HashMap<>();
    private final ExpressionValues values;
    private final CaseActions actions;
    private final Flaws flaws;
    private final Map<String, Outcome> earlier = new HashMap<>();
    private final IntegerProperty earlierTurns = new SimpleIntegerProperty();
    private final List<Runnable> settling = new ArrayList<>();
    private final IntegerProperty faces = new SimpleIntegerProperty();
    private final ReadOnlyStringWrapper preview = new ReadOnlyStringWrapper("");
    private final Derived<Same<SuiteRunner.Called>, String> laidOut;
    private final Derived<Wire, String> wires;
    private final Derived<Same<Exchange>, Boolean> masking;
    private int previewed;
    private String unsettled;
    private StopSignal sending = new StopSignal();
    private Case removed;
    private long judgings;

    public CallModel(Desk desk) {
        this.desk = desk;
        this.request = MessageModel.edited(desk.tasks());
        this.response = MessageModel.received(desk.tasks());
        this.values = new ExpressionValues(desk.tasks(), desk.expressions().looking(), this::scope);
        this.actions = new CaseActions(desk, this);
        this.flaws = new Flaws(desk.tasks(), desk.expressions().looking(), request::outline, this::scope);
        this.laidOut = new Derived<>(desk.tasks(), 4, c -> laidOut(c.thing()), desk::tell);
        this.wires = new Derived<>(desk.tasks(), 4, Wire::text, desk::tell);
        this.masking = new Derived<>(desk.tasks(), 4, e -> isMasking(e.thing()), desk::tell);
        for (Derived<?, ?> face : List.of(laidOut, wires, masking)) {
            face.changesProperty().addListener((o, was, now) -> faces.set(faces.get() + 1));
        }
        request.onEdited(this::keepBody);
        request.xmlProperty().addListener((o, was, now) -> flaws.look(now));
        desk.onClose(this::settle);
        desk.stationProperty().addListener((o, was, now) -> settle());
        desk.placeProperty().addListener((o, was, now) -> show(now));
        show(desk.placeProperty().get());
    }

    public MessageModel request() {
        return request;
    }

    public MessageModel response() {
        return response;
    }

    /** What expressions of the request give now. */
    public ExpressionValues values() {
        return values;
    }

    /** What is wrong with the request as it would be sent. */
    public Flaws flaws() {
        return flaws;
    }

    /** What can be done with the cases of the operation beyond calling them. */
    public CaseActions actions() {
        return actions;
    }

    /** The cases of the operation, the one being made included. */
    public ObservableList<Case> cases() {
        return cases;
    }

    public ObjectProperty<Case> currentProperty() {
        return current;
    }

    /** What came back last for the current case; null before the first call. */
    public ObjectProperty<SuiteRunner.Called> calledProperty() {
        return called;
    }

    public BooleanProperty waitingProperty() {
        return waiting;
    }

    /** The last result of a case in this session. */
    public Optional<StepResult> lastResult(Case kept) {
        return Optional.ofNullable(lastOf.get(kept.reference())).map(SuiteRunner.Called::result);
    }

    /** How the last call of a case before this session went, by what the ledger tells. */
    public Optional<Outcome> earlier(Case kept) {
        Outcome outcome = earlier.get(kept.title());
        boolean wanted = outcome == Outcome.FAULT && kept.checks().stream().anyMatch(Check::wantsFault);
        return Optional.ofNullable(wanted ? Outcome.FINE : outcome);
    }

    /** Counts up when earlier results have come. */
    public IntegerProperty earlierProperty() {
        return earlierTurns;
    }

    private void lookBack(OperationPlace place) {
        earlier.clear();
        LedgerFilter calls = LedgerFilter.ALL.withWay(Exchange.Way.CALLED).withOperation(place.key());
        desk.tasks()
                .run(
                        () -> desk.ledger().list(calls, LOOK_BACK),
                        found -> {
                            if (place.equals(desk.placeProperty().get())) {
                                found.stream()
                                        .filter(l -> l.contract()
                                                .equals(place.contract().name()))
                                        .forEach(l -> earlier.putIfAbsent(l.origin(), l.outcome()));
                                earlierTurns.set(earlierTurns.get() + 1);
                            }
                        },
                        desk::tell);
    }

    private void show(OperationPlace place) {
        settle();
        if (place == null) {
            current.set(null);
            cases.clear();
            request.clear();
            response.clear();
            return;
        }
        List<Case> kept = desk.project().cases(place.contract().name(), place.key());
        cases.setAll(kept.isEmpty() ? List.of(sample(place)) : kept);
        open(cases.get(0));
        lookBack(place);
        actions.forget();
        actions.lookAt(kept, requestOutline(place));
    }

    private static Case sample(OperationPlace place) {
        BoundOperation bound = place.at("");
        String body = SampleBuilder.text(
                MessageOutline.ofRequest(place.contract().contract(), bound.operation()), Detail.REQUIRED);
        return new Case(
                "required-only",
                "Required only",
                "",
                place.contract().name(),
                place.key(),
                bound.port().name(),
                body,
                List.of(),
                List.of(new Check.Valid(), new Check.NoFault()),
                List.of());
    }

    /** Shows a case, with its last answer. */
    public void open(Case opened) {
        settle();
        Case kept = cases.stream()
                .filter(c -> c.reference().equals(opened.reference()))
                .findFirst()
                .orElse(opened);
        OperationPlace place = desk.placeProperty().get();
        current.set(kept);
        values.forget();
        request.open(requestOutline(place), kept.body());
        show(lastOf.get(kept.reference()));
    }

    MessageOutline requestOutline(OperationPlace place) {
        return MessageOutline.ofRequest(place.contract().contract(), place.operation());
    }

    /** The port that the current case calls. */
    public Optional<BoundOperation> bound() {
        OperationPlace place = desk.placeProperty().get();
        return place == null || current.get() == null
                ? Optional.empty()
                : Optional.of(place.at(current.get().port()));
    }

    /** Where the current case goes. */
    public String endpoint() {
        return bound().map(b -> desk.endpoint(desk.placeProperty().get().contract(), b.port()))
                .orElse("");
    }

    /** Where the address comes from, in words. */
    public String endpointFrom() {
        OperationPlace place = desk.placeProperty().get();
        if (place == null || bound().isEmpty()) {
            return "";
        }
        String port = bound().get().port().name();
        boolean set =
                desk.project().current().endpoint(place.contract().name(), port).isPresent();
        return set ? "from environment " + desk.project().current().name() : "from the contract";
    }

    /**
     * Sends the port's requests to another address, in the environment in use, from now on; an empty one goes by the contract.
     *
     * @return whether it is one; otherwise the user is told why not
     */
    public boolean keepEndpoint(String address) {
        OperationPlace place = desk.placeProperty().get();
        if (place == null || bound().isEmpty()) {
            return false;
        }
        Port port = bound().get().port();
        boolean same = address.equals(port.address().orElse(""))
                && desk.project()
                        .current()
                        .endpoint(place.contract().name(), port.name())
                        .isEmpty();
        return same || desk.contracts().endpoint(place.contract(), port, address);
    }

    /** Calls by another port from now on. */
    public void usePort(Port port) {
        keep(current.get().withPort(port.name()));
    }

    /** Typing is kept when it rests, not at each key; whoever needs the case before that calls {@link #settle}. */
    private void keepBody(String text) {
        unsettled = text;
        desk.tasks().after(REST, this, this::settle);
    }

    /** Has something that is typed elsewhere taken over before {@link #settle} looks; it must not settle in turn. */
    public void onSettle(Runnable takeOver) {
        settling.add(takeOver);
    }

    /** Takes over what has been typed so far. */
    public void settle() {
        settling.forEach(Runnable::run);
        request.settle();
        String text = unsettled;
        unsettled = null;
        if (text != null && current.get() != null && !text.equals(current.get().body())) {
            keep(current.get().withBody(text));
        }
    }

    /** Takes a changed case over into the project and saves it. */
    public void keep(Case changed) {
        keepSample(changed);
        int index = indexOf(changed);
        if (index >= 0) {
            cases.set(index, changed);
        } else {
            cases.add(changed);
        }
        current.set(changed);
        actions.lookAt(List.of(changed), requestOutline(desk.placeProperty().get()));
        desk.change(p -> p.withCase(changed));
        if (index < 0) {
            actions.keepOrder();
        }
    }

    /** The sample that an operation without cases starts with is kept as soon as it gets company, so that it stays. */
    void keepSample(Case beside) {
        cases.stream()
                .filter(c -> !c.reference().equals(beside.reference()))
                .filter(c -> desk.project().kept(c.reference()).isEmpty())
                .forEach(c -> desk.change(p -> p.withCase(c)));
    }

    private int indexOf(Case kept) {
        for (int i = 0; i < cases.size(); i++) {
            if (cases.get(i).reference().equals(kept.reference())) {
                return i;
            }
        }
        return -1;
    }

    /** A new case, as a copy of the current one or from the sample with everything in. */
    public void add(String title, boolean copy) {
        settle();
        Case from = current.get();
        OperationPlace place = desk.placeProperty().get();
        String id = Names.free(title, n -> cases.stream().anyMatch(c -> c.id().equals(n)));
        String body = copy ? request.xml() : SampleBuilder.text(requestOutline(place), Detail.FULL);
        Case made = from.withName(id, title).withBody(body);
        // known values belong to the request they were seen with, so a fresh one starts without them
        keep(
                copy
                        ? made
                        : made.withChecks(List.of(new Check.Valid(), new Check.NoFault()))
                                .withCaptures(List.of()));
        open(current.get());
    }

    /** Takes cases out of the list that is shown. */
    void takeAway(List<Case> gone) {
        settle();
        cases.removeIf(c -> gone.stream().anyMatch(g -> g.reference().equals(c.reference())));
        if (cases.isEmpty()) {
            cases.add(sample(desk.placeProperty().get()));
        }
        open(cases.get(0));
    }

    /** Gives the current case another title; its file keeps its name. */
    public void rename(String title) {
        if (!title.isBlank()) {
            keep(current.get().withName(current.get().id(), title.strip()));
        }
    }

    /** Deletes the current case; the last one can be brought back. */
    public void delete() {
        settle();
        Case gone = current.get();
        removed = gone;
        cases.remove(indexOf(gone));
        desk.change(p -> p.withoutCase(gone.reference()));
        if (cases.isEmpty()) {
            cases.add(sample(desk.placeProperty().get()));
        }
        open(cases.get(0));
        desk.tell(new Notice(
                "Deleted the case “" + gone.title() + "”.",
                false,
                Optional.of(new Notice.Action("Bring it back", this::bringBack))));
    }

    private void bringBack() {
        if (removed != null) {
            keep(removed);
            open(removed);
            removed = null;
        }
    }

    /** Sends the current case; stops the one under way instead when there is one. */
    public void sendOrStop() {
        if (waiting.get()) {
            sending.stop();
        } else if (current.get() != null) {
            send();
        }
    }

    private void send() {
        settle();
        Case kept = current.get();
        StopSignal stop = new StopSignal();
        sending = stop;
        waiting.set(true);
        SuiteRunner runner = desk.runner();
        Scope scope = scope();
        desk.tasks()
                .run(
                        () -> runner.call(kept, kept.title(), kept.title(), scope, stop),
                        result -> {
                            waiting.set(false);
                            remember(kept);
                            lastOf.put(kept.reference(), result);
                            calls.merge(kept.reference(), 1, Integer::sum);
                            captured.putAll(result.captured());
                            values.forget();
                            if (current.get() != null
                                    && current.get().reference().equals(kept.reference())) {
                                show(result);
                            }
                        },
                        problem -> {
                            waiting.set(false);
                            desk.tell(problem, this::sendOrStop);
                        });
    }

    /** How often the current case has been called in this session. */
    public int calls() {
        return current.get() == null ? 0 : calls.getOrDefault(current.get().reference(), 0);
    }

    /** What the expressions of the current case can refer to. */
    public Scope scope() {
        return desk.bench().variables(current.get()).with(captured);
    }

    private void remember(Case kept) {
        boolean shown = current.get() != null && current.get().reference().equals(kept.reference());
        if (shown && lastOf.containsKey(kept.reference())) {
            previous.clear();
            response.lines().forEach(l -> {
                if (l.row().children().isEmpty()) {
                    previous.put(l.row().path(), l.row().value());
                }
            });
        }
    }

    /** What stood in the row's place in the answer before this one; empty when nothing did. */
    public Optional<String> previous(SheetRow row) {
        return Optional.ofNullable(previous.get(row.path()));
    }

    /** The rows are there before anybody hears of the answer. */
    private void show(SuiteRunner.Called last) {
        showRows(last);
        called.set(last);
    }

    private void showRows(SuiteRunner.Called last) {
        if (last == null) {
            response.clear();
            return;
        }
        Answer answer = last.answer();
        String text = answer.soap().map(SoapMessage::payloadText).orElse("");
        MessageOutline outline = answer.outline()
                .orElseGet(() -> MessageOutline.empty(
                        desk.placeProperty().get().contract().contract()));
        if (text.isEmpty()) {
            response.clear();
        } else {
            response.open(outline, text);
        }
    }

    /** The last answer's exchange. */
    public Optional<Exchange> exchange() {
        return Optional.ofNullable(called.get()).map(c -> c.answer().exchange());
    }

    /** The whole envelope of the last answer, laid out; empty while that is being done. */
    public String responseXml() {
        return Optional.ofNullable(called.get())
                .flatMap(c -> laidOut.of(new Same<>(c)))
                .orElse("");
    }

    private static String laidOut(SuiteRunner.Called of) {
        Answer answer = of.answer();
        return answer.soap()
                .map(s -> XmlText.laidOut(s.document()))
                .orElseGet(() -> answer.exchange()
                        .response()
                        .map(r -> MessageText.toLookAt(Optional.empty()).body(r))
                        .orElse(answer.exchange().note()));
    }

    /** The bytes of both sides, as text; empty while it is being made. */
    public String wire() {
        return exchange().flatMap(e -> wires.of(wireOf(e))).orElse("");
    }

    /** Whether what {@link #wire} shows has something to mask. */
    public boolean isMasking() {
        return exchange().flatMap(e -> masking.of(new Same<>(e))).orElse(false);
    }

    private boolean isMasking(Exchange e) {
        String shown = MessageText.toLookAt(Optional.of(desk.redactor())).wires(e);
        return !shown.equals(MessageText.toLookAt(Optional.empty()).wires(e));
    }

    private Wire wireOf(Exchange e) {
        return new Wire(new Same<>(e), desk.maskedProperty().get() ? Optional.of(desk.redactor()) : Optional.empty());
    }

    /** A thing by itself, not by what it holds: equality of whole messages would cost more than what is asked for. */
    private record Same<T>(T thing) {
        @Override
        public boolean equals(Object other) {
            return other instanceof Same<?> same && same.thing == thing;
        }

        @Override
        public int hashCode() {
            return System.identityHashCode(thing);
        }
    }

    private record Wire(Same<Exchange> exchange, Optional<Redactor> redactor) {
        String text() {
            return MessageText.toLookAt(redactor).wires(exchange.thing());
        }
    }

    /** Grows when one of the faces of the answer has come. */
    public IntegerProperty facesProperty() {
        return faces;
    }

    /** The request as it would be sent, with its expressions filled and its secrets masked. */
    public ReadOnlyStringProperty previewProperty() {
        return preview.getReadOnlyProperty();
    }

    /** Works out the preview anew. */
    public void lookAhead() {
        settle();
        Optional<BoundOperation> bound = bound();
        if (bound.isEmpty()) {
            preview.set("");
            return;
        }
        Case kept = current.get();
        Scope scope = scope();
        Optional<String> to = Optional.of(endpoint()).filter(e -> !e.isEmpty());
        int asked = ++previewed;
        desk.tasks()
                .run(
                        () -> preview(bound.get(), kept, to, scope),
                        text -> {
                            if (asked == previewed) {
                                preview.set(text);
                            }
                        },
                        desk::tell);
    }

    private String preview(BoundOperation bound, Case kept, Optional<String> to, Scope scope) {
        try {
            var prepared = desk.caller().prepare(bound, kept, to, scope);
            byte[] bytes = WireHead.encoded(prepared);
            return scope.redactor()
                    .wire(new String(bytes, java.nio.charset.StandardCharsets.UTF_8).replace("\r\n", "\n"));
        } catch (Problem problem) {
            return problem.getMessage();
        }
    }

    /** Adds a check to the current case and applies the checks to the answer that is shown. */
    public void addCheck(Check check) {
        List<Check> checks = new ArrayList<>(current.get().checks());
        if (!checks.contains(check)) {
            checks.add(check);
            keep(current.get().withChecks(checks));
            judge();
        }
    }

    /** Lets a check take the place of another; nothing, when the case has it already. */
    public void replaceCheck(Check old, Check edited) {
        List<Check> checks = new ArrayList<>(current.get().checks());
        int at = checks.indexOf(old);
        if (at >= 0 && !checks.contains(edited)) {
            checks.set(at, edited);
            keep(current.get().withChecks(checks));
            judge();
        }
    }

    public void removeCheck(Check check) {
        keep(current.get()
                .withChecks(current.get().checks().stream()
                        .filter(c -> !c.equals(check))
                        .toList()));
        judge();
    }

    /** Makes a check of the value in a row. */
    public void checkRow(SheetRow row) {
        String value = row.value().replace("{", "{{").replace("}", "}}");
        addCheck(new Check.Value(row.path(), desk.redactor().unfilled(value)));
    }

    /** Makes a capture of the value in a row, under a free name like the row's. */
    public void captureRow(SheetRow row) {
        List<Capture> captures = new ArrayList<>(current.get().captures());
        if (captures.stream().anyMatch(c -> c.path().equals(row.path()))) {
            return;
        }
        String wanted = row.label().replaceAll("[^A-Za-z0-9_.-]", "").replaceAll("^[0-9.-]+", "");
        String base = wanted.isEmpty() ? "value" : wanted;
        String name = base;
        for (int i = 2; taken(captures, name); i++) {
            name = base + i;
        }
        captures.add(new Capture(name, row.path()));
        keep(current.get().withCaptures(captures));
        captured.put(name, row.value());
    }

    private static boolean taken(List<Capture> captures, String name) {
        return captures.stream().anyMatch(c -> c.name().equals(name));
    }

    public void removeCapture(Capture capture) {
        keep(current.get()
                .withCaptures(current.get().captures().stream()
                        .filter(c -> !c.equals(capture))
                        .toList()));
    }

    /** Weighs the answer that is shown anew; of several at once the last counts, whichever ends first. */
    private void judge() {
        SuiteRunner.Called last = called.get();
        if (last == null) {
            return;
        }
        Case kept = current.get();
        Scope scope = scope();
        SuiteRunner runner = desk.runner();
        long own = ++judgings;
        desk.tasks()
                .run(
                        () -> runner.judge(kept, last, scope),
                        judged -> {
                            if (own != judgings) {
                                // the checks have changed once more, and are weighed by one that follows
                                return;
                            }
                            lastOf.put(kept.reference(), judged);
                            boolean shown = called.get() != null && called.get().answer() == last.answer();
                            if (shown) {
                                called.set(judged);
                            }
                        },
                        desk::tell);
    }

    /** Opens an exchange of the ledger as a new case, to be edited and sent again. */
    public void openExchange(Exchange exchange) {
        Optional<OperationPlace> place = desk.place(exchange.contract(), exchange.operation());
        if (place.isEmpty()) {
            desk.tell(
                    Notice.bad(
                            "No contract of the project knows the operation of this exchange, so it cannot be sent again from here."));
            return;
        }
        String body;
        try {
            SoapMessage soap = SoapMessage.of(exchange.request(), "request");
            body = desk.redactor()
                    .unfilled(soap.payloadText().replace("{", "{{").replace("}", "}}"));
        } catch (Problem problem) {
            desk.tell(problem);
            return;
        }
        desk.placeProperty().set(place.get());
        String title = "From "
                + java.time.format.DateTimeFormatter.ofPattern("HH:mm:ss")
                        .withZone(java.time.ZoneId.systemDefault())
                        .format(exchange.started());
        String id = Names.free(title, n -> cases.stream().anyMatch(c -> c.id().equals(n)));
        String port = place.get().ports().stream()
                .filter(p -> exchange.endpoint()
                        .equals(desk.redactor().text(desk.endpoint(place.get().contract(), p))))
                .map(Port::name)
                .findFirst()
                .orElse(current.get().port());
        keep(new Case(
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
        open(current.get());
        desk.go(Station.CALL);
    }
}
