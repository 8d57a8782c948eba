package dev.mockbell.desktop.model;

import dev.mockbell.check.Answer;
import dev.mockbell.check.Check;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.contract.Port;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.expression.Scope;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.project.Names;
import dev.mockbell.request.PartText;
import dev.mockbell.request.RequestRecipe;
import dev.mockbell.sample.SampleBuilder;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.sheet.RowPaths;
import dev.mockbell.sheet.SheetRow;
import dev.mockbell.soap.Addressing;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.StepResult;
import dev.mockbell.suite.SuiteRunner;
import dev.mockbell.task.StopSignal;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;

/** The call station: the cases of an operation, the request being edited, and what came back. */
public final class CallModel {
    private static final long REST = 400;

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
    private final SecurityModel security;
    private final HeadersModel headers;
    private final PartsModel parts;
    private final Flaws flaws;
    private final EarlierResults earlier;
    private final CalledEndpoint endpoint;
    private final AnswerFaces faces;
    private final RequestPreview preview;
    private final CheckEdits checks;
    private final List<Runnable> settling = new ArrayList<>();
    private String unsettled;
    private StopSignal sending = new StopSignal();
    private Case removed;

    public CallModel(Desk desk, MocksModel mocks) {
        this.desk = desk;
        this.request = MessageModel.edited(desk.tasks());
        this.response = MessageModel.received(desk.tasks());
        this.values = new ExpressionValues(desk.tasks(), desk.expressions().looking(), this::scope);
        this.actions = new CaseActions(desk, this);
        this.security = new SecurityModel(desk, this);
        this.headers = new HeadersModel(desk, this);
        this.parts = new PartsModel(desk, this);
        this.flaws =
                new Flaws(desk.tasks(), desk.expressions().looking(), request::outline, this::scope, this::partIds);
        this.earlier = new EarlierResults(desk);
        this.endpoint = new CalledEndpoint(desk, this, mocks);
        this.faces = new AnswerFaces(desk, this);
        this.preview = new RequestPreview(desk, this);
        this.checks = new CheckEdits(desk, this);
        request.onEdited(this::keepBody);
        request.onPart(parts::add);
        request.xmlProperty().addListener((o, was, now) -> flaws.look(now));
        desk.onClose(this::settle);
        desk.stationProperty().addListener((o, was, now) -> settle());
        desk.placeProperty().addListener((o, was, now) -> show(now));
        show(desk.placeProperty().get());
    }

    private Set<String> partIds() {
        return parts.going().stream().map(PartText::id).collect(Collectors.toSet());
    }

    /** The request that is edited. */
    public MessageModel request() {
        return request;
    }

    /** The answer, which is only looked at. */
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

    /** Who calls, and whom it trusts. */
    public SecurityModel security() {
        return security;
    }

    /** The blocks of the SOAP header. */
    public HeadersModel headers() {
        return headers;
    }

    /** The files that go with the request, and what came beside the answer. */
    public PartsModel parts() {
        return parts;
    }

    /** What can be done with the cases of the operation beyond calling them. */
    public CaseActions actions() {
        return actions;
    }

    /** How cases went before this session. */
    public EarlierResults earlier() {
        return earlier;
    }

    /** Where the current case goes. */
    public CalledEndpoint endpoint() {
        return endpoint;
    }

    /** What came back, besides its sheet. */
    public AnswerFaces faces() {
        return faces;
    }

    /** The request as it would be sent. */
    public RequestPreview preview() {
        return preview;
    }

    /** What the current case asks of its answers. */
    public CheckEdits checks() {
        return checks;
    }

    /** The cases of the operation, the one being made included. */
    public ObservableList<Case> cases() {
        return cases;
    }

    /** The case that is shown; null without an operation. */
    public ObjectProperty<Case> currentProperty() {
        return current;
    }

    /** What came back last for the current case; null before the first call. */
    public ObjectProperty<SuiteRunner.Called> calledProperty() {
        return called;
    }

    /** Whether an answer is being waited for. */
    public BooleanProperty waitingProperty() {
        return waiting;
    }

    /** The last result of a case in this session. */
    public Optional<StepResult> lastResult(Case kept) {
        return Optional.ofNullable(lastOf.get(kept.reference())).map(SuiteRunner.Called::result);
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
        earlier.look(place);
        actions.forget();
        actions.lookAt(kept, requestOutline(place));
    }

    private static Case sample(OperationPlace place) {
        BoundOperation bound = place.at("");
        String contract = place.contract().name();
        Contract read = place.contract().contract();
        return Case.ofSample("sample", "Sample", contract, read, bound, Detail.STARTING)
                .withChecks(List.of(new Check.Valid(), new Check.NoFault()));
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
        headers.refresh();
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

    /** Which WS-Addressing the current case speaks. */
    public Addressing addressing() {
        return bound().map(b -> RequestRecipe.spoken(b, current.get().delivery()))
                .orElse(Addressing.NONE);
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
            if (!response.lines().isEmpty()) {
                RowPaths.of(response.lines().get(0).row()).each((row, path) -> {
                    if (row.children().isEmpty()) {
                        previous.put(path, row.value());
                    }
                });
            }
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

    /** A value that the expressions of the case can refer to from now on. */
    void captured(String name, String value) {
        captured.put(name, value);
    }

    /** Takes an answer's new verdict over, and shows it where the answer is still shown. */
    void judged(Case kept, SuiteRunner.Called before, SuiteRunner.Called now) {
        lastOf.put(kept.reference(), now);
        if (called.get() != null && called.get().answer() == before.answer()) {
            called.set(now);
        }
    }
}
