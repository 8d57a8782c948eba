package dev.mockbell.desktop.model;

import dev.mockbell.check.Answer;
import dev.mockbell.check.Check;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.contract.Port;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.project.ChangedPart;
import dev.mockbell.project.Names;
import dev.mockbell.project.Settings;
import dev.mockbell.request.PartText;
import dev.mockbell.request.RequestRecipe;
import dev.mockbell.sample.SampleBuilder;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.soap.Addressing;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.StepResult;
import dev.mockbell.suite.SuiteRunner;
import dev.mockbell.task.StopSignal;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import org.w3c.dom.Document;

/** The call station: the cases of an operation, the request being edited, and what came back. */
public final class CallModel {
    private static final long REST = 400;

    /** Bytes of answers whose trees are held; each takes some twenty of memory. */
    private static final long MOST_HELD = 16 << 20;

    /**
     * An answer as it is shown.
     *
     * @param before the one before it
     */
    private record Came(SuiteRunner.Called called, Shown shown, Optional<Earlier> before) {
        long size() {
            return CallModel.size(called.answer());
        }
    }

    /**
     * An answer to hold one against.
     *
     * @param which tells it from others
     * @param payload its payload; that of a large one is read again, for its tree takes more room than anything else
     */
    record Earlier(Object which, Supplier<Document> payload) {}

    /** Judging a larger one takes as long as reading it, and more. */
    private static final long SHOWN_AT_ONCE = 256 << 10;

    private final Desk desk;
    private final MessageModel request;
    private final ReceivedModel response;
    private final ObservableList<Case> cases = FXCollections.observableArrayList();
    private final ObjectProperty<Case> current = new SimpleObjectProperty<>();
    private final ObjectProperty<SuiteRunner.Called> called = new SimpleObjectProperty<>();
    private final BooleanProperty waiting = new SimpleBooleanProperty();
    private final Map<String, Came> lastOf = new LinkedHashMap<>(16, 0.75f, true);
    private final Map<String, Integer> calls = new HashMap<>();
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
    private final AnswerTable table;
    private final InsideModel inside;
    private final ComparedModel compared;
    private final RequestPreview preview;
    private final CheckEdits checks;
    private final List<Runnable> settling = new ArrayList<>();
    private String unsettled;
    private Came early;
    private StopSignal sending = new StopSignal();

    public CallModel(Desk desk, MocksModel mocks) {
        this.desk = desk;
        this.request = MessageModel.edited(desk.tasks());
        this.response = new ReceivedModel(desk.tasks(), desk::tell);
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
        this.table = new AnswerTable(desk, this);
        this.inside = new InsideModel(desk);
        this.compared = new ComparedModel(desk, this);
        inside.chipsProperty().addListener((o, was, now) -> response.touched());
        this.preview = new RequestPreview(desk, this);
        this.checks = new CheckEdits(desk, this);
        request.onEdited(this::keepBody);
        request.onPart(parts::add);
        request.xmlProperty().addListener((o, was, now) -> flaws.look(now));
        desk.onClose(this::settle);
        desk.elsewhere().onBefore(this::settle);
        desk.onTook(this::changedElsewhere);
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
    public ReceivedModel response() {
        return response;
    }

    /** Repeated elements of the answer as a table. */
    public AnswerTable table() {
        return table;
    }

    /** What values of the answer hold of their own. */
    public InsideModel inside() {
        return inside;
    }

    /** The answer held against others. */
    public ComparedModel compared() {
        return compared;
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
        return Optional.ofNullable(lastOf.get(kept.reference()))
                .map(Came::called)
                .map(SuiteRunner.Called::result);
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

    /** Goes to a case, wherever one is. */
    public void goTo(Case kept) {
        desk.place(kept.contract(), kept.operation()).ifPresent(place -> {
            desk.placeProperty().set(place);
            open(kept);
            desk.go(Station.CALL);
        });
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
        show(lastOf.get(kept.reference()), false);
    }

    /** Shows the cases as they are now; who looks at another than those that changed goes on looking at it. */
    private void changedElsewhere(List<ChangedPart> changed) {
        OperationPlace place = desk.placeProperty().get();
        List<Case> here = changed.stream()
                .map(c -> c.part().value())
                .filter(Case.class::isInstance)
                .map(Case.class::cast)
                .filter(c -> place != null
                        && place.contract().name().equals(c.contract())
                        && place.key().equals(c.operation()))
                .toList();
        // which say in what order they are
        boolean settings = changed.stream().anyMatch(c -> c.part().value() instanceof Settings);
        if (here.isEmpty() && (!settings || place == null)) {
            return;
        }
        Case looked = current.get();
        List<Case> kept = desk.project().cases(place.contract().name(), place.key());
        if (here.isEmpty() && kept.size() != cases.size()) {
            return;
        }
        cases.setAll(kept.isEmpty() ? List.of(sample(place)) : kept);
        actions.lookAt(kept, requestOutline(place));
        boolean gone = looked == null || indexOf(looked) < 0;
        if (gone || here.stream().anyMatch(c -> c.reference().equals(looked.reference()))) {
            open(gone ? cases.get(0) : cases.get(indexOf(looked)));
        } else if (settings) {
            // the chips are drawn anew for it
            current.set(looked);
        }
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
        desk.steps().edited();
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

    /** Changes a case from elsewhere, whichever is looked at; one that is gone by now stays so. */
    void change(Case of, UnaryOperator<Case> change) {
        Case now = current.get();
        if (now != null && now.reference().equals(of.reference())) {
            settle();
            keep(change.apply(current.get()));
            compared.changed();
            return;
        }
        desk.project().kept(of.reference()).map(change).ifPresent(changed -> {
            int index = indexOf(changed);
            if (index >= 0) {
                cases.set(index, changed);
            }
            desk.change(p -> p.withCase(changed));
        });
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

    /** Deletes the current case; it can be brought back. */
    public void delete() {
        settle();
        Case gone = current.get();
        cases.remove(indexOf(gone));
        desk.steps().tells("Deleted the case “" + gone.title() + "”.", p -> p.withoutCase(gone.reference()));
        if (cases.isEmpty()) {
            cases.add(sample(desk.placeProperty().get()));
        }
        open(cases.get(0));
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
        MessageOutline nothingDue =
                MessageOutline.empty(desk.placeProperty().get().contract().contract());
        desk.tasks()
                .run(
                        () -> called(runner, kept, scope, stop, nothingDue),
                        came -> {
                            waiting.set(false);
                            took(kept, came);
                        },
                        problem -> {
                            waiting.set(false);
                            desk.tell(problem, this::sendOrStop);
                        });
    }

    /** An answer with its rows, which are laid out before it is judged; a large one is shown before that, too. */
    private Came called(SuiteRunner runner, Case kept, Scope scope, StopSignal stop, MessageOutline nothingDue) {
        List<Shown> laid = new ArrayList<>();
        SuiteRunner.Called called =
                runner.call(kept, kept.title(), kept.title(), Optional.empty(), scope, stop, answer -> {
                    Shown shown = Shown.of(answer, nothingDue);
                    laid.add(shown);
                    if (size(answer) > SHOWN_AT_ONCE) {
                        SuiteRunner.Called unjudged =
                                new SuiteRunner.Called(StepResult.notRun(kept.title(), ""), answer, Map.of(), false);
                        desk.tasks().later(() -> arrived(kept, new Came(unjudged, shown, Optional.empty())));
                    }
                });
        return new Came(called, laid.get(0), Optional.empty());
    }

    private static long size(Answer answer) {
        return answer.exchange().response().map(r -> r.body().size()).orElse(0L);
    }

    private Came withBefore(Case kept, Came came) {
        Optional<Earlier> before = Optional.ofNullable(lastOf.get(kept.reference()))
                .filter(c -> came.size() < MOST_HELD)
                .map(c -> c.called().answer())
                .flatMap(this::earlier);
        return new Came(came.called(), came.shown(), before);
    }

    private Optional<Earlier> earlier(Answer answer) {
        Optional<Document> content = answer.content().filter(d -> d.getDocumentElement() != null);
        if (size(answer) <= SHOWN_AT_ONCE) {
            return content.map(d -> new Earlier(d, () -> d));
        }
        Exchange exchange = answer.exchange();
        Optional<MessageOutline> outline = answer.outline();
        Expressions expressions = desk.expressions().looking();
        return content.map(d -> new Earlier(
                exchange,
                () -> Answer.of(exchange, outline, expressions).content().orElseThrow()));
    }

    private boolean isCurrent(Case kept) {
        return current.get() != null && current.get().reference().equals(kept.reference());
    }

    private boolean isShown(Answer answer) {
        return called.get() != null && called.get().answer() == answer;
    }

    /** Shows an answer that is not judged yet. */
    private void arrived(Case kept, Came came) {
        if (waiting.get() && isCurrent(kept)) {
            early = withBefore(kept, came);
            show(early, true);
        }
    }

    private void took(Case kept, Came came) {
        String reference = kept.reference();
        // its rows stand already, and something may have been done with them
        boolean there = early != null
                && early.shown() == came.shown()
                && isShown(early.called().answer());
        lastOf.put(reference, withBefore(kept, came));
        early = null;
        letGo(reference);
        calls.merge(reference, 1, Integer::sum);
        captured.putAll(came.called().texts());
        values.forget();
        if (there) {
            called.set(came.called());
        } else if (isCurrent(kept)) {
            show(lastOf.get(reference), true);
        }
    }

    /** Trees of answers take much room, so that those of cases which were looked at long ago go; the ledger has the answers. */
    private void letGo(String newest) {
        long held = 0;
        List<String> names = new ArrayList<>(lastOf.keySet());
        Collections.reverse(names);
        for (String name : names) {
            held += lastOf.get(name).size();
            if (held > MOST_HELD && !name.equals(newest)) {
                lastOf.remove(name);
            }
        }
    }

    /** How often the current case has been called in this session. */
    public int calls() {
        return current.get() == null ? 0 : calls.getOrDefault(current.get().reference(), 0);
    }

    /** What the expressions of the current case can refer to. */
    public Scope scope() {
        return desk.bench().variables(current.get()).with(captured);
    }

    /** What is needed of the contract for an XPath over the answer. */
    Scope lookingScope() {
        OperationPlace place = desk.placeProperty().get();
        return place == null
                ? Scope.EMPTY
                : Scope.EMPTY.withPrefixes(place.contract().contract().prefixes());
    }

    /** The answer before the last one of the current case; empty when there is none. */
    Optional<Earlier> before() {
        boolean unjudged = early != null && isShown(early.called().answer());
        return Optional.ofNullable(current.get())
                .map(c -> unjudged ? early : lastOf.get(c.reference()))
                .flatMap(Came::before);
    }

    /** The rows are there before anybody hears of the answer. */
    private void show(Came last, boolean like) {
        inside.forget();
        if (last == null) {
            response.clear();
        } else {
            response.show(last.shown(), like);
        }
        // behind the rows, which have just asked for what belongs to the answer before: that would be kept
        faces.forget();
        table.forget();
        compared.forget();
        called.set(last == null ? null : last.called());
        // they ask again
        response.touched();
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
        // one that is not judged yet for the first time is not the last one so far
        lastOf.computeIfPresent(
                kept.reference(),
                (name, was) ->
                        was.called().answer() == before.answer() ? new Came(now, was.shown(), was.before()) : was);
        if (isShown(before.answer())) {
            called.set(now);
        }
    }
}
