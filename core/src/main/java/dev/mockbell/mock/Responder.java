package dev.mockbell.mock;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.content.MediaType;
import dev.mockbell.content.Multipart;
import dev.mockbell.content.Part;
import dev.mockbell.content.TransferEncoding;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.MessageDef;
import dev.mockbell.contract.Operation;
import dev.mockbell.contract.Port;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Expressions.Effort;
import dev.mockbell.expression.Expressions.MoreEffort;
import dev.mockbell.expression.Scope;
import dev.mockbell.problem.Problem;
import dev.mockbell.sample.RandomValues;
import dev.mockbell.sample.SampleBuilder;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.References;
import dev.mockbell.soap.SoapFault;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.xml.TextEncoding;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.codehaus.stax2.XMLInputFactory2;

/** Decides what a request is answered with. It knows nothing of connections; safe for many threads. */
final class Responder {
    /** A request of so many bytes is read where it came in; a larger one elsewhere, so that it holds up nobody. */
    private static final int SMALL = 32 * 1024;

    /** A larger request is not kept for a second look. */
    private static final int MOST_KEPT = 64 * 1024;

    private static final String ONE_WAY = "202, no answer is due";
    private static final byte[] NOTHING = {};

    /**
     * What to send back.
     *
     * @param contentType empty when there is no body
     * @param fields of HTTP beside what follows from the body
     * @param trouble what is made wrong with it
     * @param fault what the fault is called; empty when it is none
     * @param calls those that were made to have it
     */
    record Reply(
            int status,
            String contentType,
            List<Header> fields,
            byte[] body,
            long delayMillis,
            Trouble trouble,
            MockEvent event,
            Optional<String> fault,
            List<Forwarding.Call> calls) {
        /** One that is sent at once, as it should be. */
        Reply(int status, String contentType, byte[] body, MockEvent event, Optional<String> fault) {
            this(status, contentType, List.of(), body, 0, Trouble.NONE, event, fault, List.of());
        }
    }

    private final MockPlan plan;
    private final Contract contract;
    private final MockState state;
    private final Ground ground;
    private final Map<String, Place> places = new LinkedHashMap<>();
    private final Map<String, Target> byKey = new LinkedHashMap<>();
    private final Expressions expressions;
    private final XMLInputFactory2 xml;
    private final Callers callers;
    private final Forwarding forwarding;
    private final boolean looksAtHeaders;
    private final RequestJudge judge;

    /** @param paths where each port is, by its name */
    Responder(Contract contract, MockPlan plan, Map<String, String> paths, MockSurroundings around, MockState state) {
        this.plan = plan;
        this.contract = contract;
        this.state = state;
        this.expressions = around.expressions();
        this.xml = RequestReading.factory(plan.conduct().limits());
        this.forwarding = new Forwarding(around);
        MockFiles files = new MockFiles(around.files(), plan.contract());
        List<String> names = new ArrayList<>(Slot.NAMES);
        names.addAll(state.names(plan.remembered()));
        Scope scope =
                Scope.EMPTY.with(RandomValues.of(List.of(contract))).with(files).withPrefixes(contract.prefixes());
        this.ground = new Ground(expressions, scope, List.copyOf(names), files, List.of());
        this.judge = new RequestJudge(plan.conduct().rules(), contract, xml, around, files, state);
        this.callers = new Callers(plan.conduct().caller(), ground);
        state.seed(plan.conduct().seed());
        contract.httpOperations().forEach((key, ports) -> {
            if (plan.conduct().concealed().contains(key)) {
                return;
            }
            Operation operation = ports.get(0).binding().operation(key).orElseThrow();
            Target target = new Target(contract, key, operation, plan, ground, state.of(key));
            byKey.put(key, target);
            for (Port port : ports) {
                places.computeIfAbsent(paths.get(port.name()), p -> new Place())
                        .add(
                                contract,
                                port,
                                target,
                                port.binding().operation(key).orElseThrow());
            }
        });
        this.looksAtHeaders = byKey.values().stream()
                .anyMatch(t -> t.looksAt(Slot.HEADERS) || t.looksAtCaller() && callers.looksAt(Slot.HEADERS));
    }

    /** Why a request is refused, also by what only a look at the whole of it shows; empty when it is not. Work. */
    private Optional<Refusal> refused(Found found) {
        return found.refusal().isPresent() || !judge.looksAtAll()
                ? found.refusal()
                : judge.refuses(found.request(), found.target().orElseThrow());
    }

    /** Remembers what there is from the start, as far as it is not known already. */
    void begin() {
        synchronized (state) {
            plan.conduct().remembered().forEach((name, initial) -> {
                boolean apart = plan.conduct().apart().contains(name);
                if (!initial.isBlank() && (apart || !state.memory().knows(name, ""))) {
                    try {
                        MockMemory.Kept kept =
                                MockMemory.kept(expressions.evaluate(initial, ground.scope()), expressions);
                        if (apart) {
                            state.initial(name, kept.value());
                        } else {
                            state.memory().remember(name, "", "", kept);
                        }
                    } catch (Problem toldElsewhere) {
                        // it is nothing until it is mended
                        return;
                    }
                }
            });
        }
    }

    Ground ground() {
        return ground;
    }

    /**
     * A request with what was found out about it.
     *
     * @param request whose body has been read when there is a reading
     * @param target empty when it is refused, or has yet to be read
     * @param hit the number of this call of its operation
     */
    record Found(
            MockRequest request,
            Optional<RequestReading> reading,
            Optional<Target> target,
            Optional<Refusal> refusal,
            long hit) {
        /** One that is refused, or has yet to be read. */
        Found(MockRequest request, Optional<RequestReading> reading, Optional<Refusal> refusal) {
            this(request, reading, Optional.empty(), refusal, 0);
        }

        Found with(RequestReading other) {
            return new Found(request, Optional.of(other), target, refusal, hit);
        }

        /** Whether answering is no work and may happen right here. */
        boolean isQuick() {
            return refusal.isPresent() || target.filter(Target::isSimple).isPresent();
        }

        /** Whether the live endpoint may have to be asked. */
        boolean isOnward() {
            return target.filter(Target::isOnward).isPresent();
        }
    }

    /** Looks at a request; one that is large or in parts is not read yet. */
    Found find(MockRequest request) {
        Place place = places.get(request.path());
        Optional<Refusal> stranger = judge.stranger(request);
        Optional<Refusal> unfit =
                stranger.isPresent() || place == null || !plan.conduct().rules().contentType()
                        ? stranger
                        : place.unfit(request);
        if (unfit.isPresent()) {
            return new Found(request, Optional.empty(), unfit);
        }
        boolean later = request.body().length > SMALL || request.type().inParts();
        return later ? new Found(request, Optional.empty(), Optional.empty()) : read(request);
    }

    private Found read(MockRequest request) {
        Place place = places.get(request.path());
        if (place == null) {
            Refusal nowhere = Refusal.fault(
                    SoapVersion.V11, SoapFault.Code.SENDER, "No operation is called at " + request.path() + ".");
            return new Found(request, Optional.empty(), Optional.of(nowhere));
        }
        Target[] looked = new Target[1];
        boolean callersLook = callers.looksAt(Slot.REQUEST);
        RequestReading reading = RequestReading.of(xml, request.body(), expressions::building, name -> {
            if (name == null) {
                return looksAtHeaders;
            }
            looked[0] = place.by(name);
            // by its action, perhaps, which is found out when all is read
            return looked[0] == null || looked[0].looksAtContent() || callersLook;
        });
        RequestRules rules = plan.conduct().rules();
        Optional<Refusal> refusal = place.refusal(request, reading, rules);
        Optional<Target> target = refusal.isPresent() ? Optional.empty() : place.target(request, reading);
        if (refusal.isEmpty() && target.isEmpty()) {
            refusal = Optional.of(place.noOperation(reading));
        } else if (refusal.isEmpty() && rules.action()) {
            refusal = place.otherAction(
                    target.orElseThrow(), request, reading.version().orElseThrow());
            target = refusal.isPresent() ? Optional.empty() : target;
        }
        // what its conditions see is this request's own count, however many come at once
        long hit = target.map(t -> t.counts().hit()).orElse(0L);
        return new Found(request, Optional.of(reading), target, refusal, hit);
    }

    /** The reply, where it can be made with so little work that nobody else is held up; empty otherwise. */
    Optional<Reply> replyAtOnce(Found found) {
        if (found.refusal().isEmpty() && judge.looksAtAll()) {
            return Optional.empty();
        }
        if (found.isQuick()) {
            return Optional.of(reply(found));
        }
        if (found.target().filter(Target::isReady).isEmpty()) {
            return Optional.empty();
        }
        try {
            return Optional.of(answered(found, Effort.LITTLE));
        } catch (MoreEffort elsewhere) {
            return Optional.empty();
        }
    }

    /** A request that was found, read now if it was not before; work. */
    Found read(Found found) {
        if (found.reading().isPresent() || found.refusal().isPresent()) {
            return found;
        }
        try {
            return read(unpacked(found.request()));
        } catch (Problem problem) {
            return new Found(
                    found.request(),
                    Optional.empty(),
                    Optional.of(Refusal.fault(SoapVersion.V11, SoapFault.Code.SENDER, problem.getMessage())));
        }
    }

    /** The reply to a request that was found before; one that was not read yet is read now. */
    Reply reply(Found found) {
        Found read = read(found);
        try {
            Optional<Refusal> refusal = refused(read);
            return refusal.isPresent() ? refused(refusal.get(), "", read.request()) : answered(read, Effort.USUAL);
        } catch (Problem problem) {
            return refused(
                    Refusal.fault(SoapVersion.V11, SoapFault.Code.SENDER, problem.getMessage()), "", found.request());
        }
    }

    /** The root of a request in parts, as if it had come alone (RFC 2387; MTOM §3). */
    private static MockRequest unpacked(MockRequest request) {
        if (!request.type().inParts()) {
            return request;
        }
        Part root = TransferEncoding.undone(
                Multipart.of(Content.of(request.body()), request.type().type()).root());
        String own = Header.first(root.headers(), "Content-Type").orElse("");
        MediaType type = new MediaType(own);
        // XOP says within what the envelope's own type is
        String inner = type.name().equalsIgnoreCase("application/xop+xml")
                ? type.parameter("type").orElse("")
                : own;
        byte[] bytes = TextEncoding.inUtf8(root.content().bytes(), own);
        return request.withBody(bytes, RequestType.of(inner));
    }

    private Reply answered(Found found, Effort effort) {
        SoapVersion version = found.reading().flatMap(RequestReading::version).orElseThrow();
        Target target = found.target().orElseThrow();
        try {
            return answer(target, version, found, effort);
        } catch (MoreEffort elsewhere) {
            throw elsewhere;
        } catch (Problem problem) {
            return failed(version, target.key(), problem.getMessage(), found.request());
        } catch (RuntimeException | StackOverflowError e) {
            // a client that waits gets an answer, whatever went wrong here
            return failed(
                    version, target.key(), "The answer could not be made: " + Problem.reason(e) + ".", found.request());
        }
    }

    private Reply answer(Target target, SoapVersion version, Found found, Effort effort) {
        List<PreparedAnswer> answers = target.answers();
        if (answers.isEmpty() && target.isOneWay()) {
            return new Reply(202, "", NOTHING, event(target.key(), 0, ONE_WAY, "", found.request()), Optional.empty());
        }
        if (!answers.isEmpty() && answers.get(0).isSimple()) {
            return reply(target, 0, answers.get(0), answers.get(0).body(version), null, version, found);
        }
        Deciding deciding =
                new Deciding(target, state, plan.conduct(), expressions, xml, values(target, found, effort));
        List<Forwarding.Call> calls = new ArrayList<>();
        int from = 0;
        while (true) {
            Deciding.Choice choice = deciding.next(from, version, found.request());
            if (choice == null) {
                return failed(
                        version,
                        target.key(),
                        "No answer of " + target.key() + " applies to this request; add one without a condition.",
                        found.request());
            }
            if (choice.body() != null) {
                return reply(target, choice.index(), choice.answer(), choice.body(), deciding.values(), version, found);
            }
            AnswerContent.PassOn content =
                    (AnswerContent.PassOn) choice.answer().answer().content();
            Forwarding.Live live = forwarding.ask(
                    content, choice.answer().content(), declared(target), found.request(), deciding.values(), ground);
            calls.add(live.call());
            if (live.failed().isEmpty()) {
                deciding.remember(choice.answer(), live.body());
                return passedOn(target, choice, live, calls, deciding.values(), found.request());
            }
            if (!content.elseNext()) {
                Reply failed = failed(
                        version, target.key(), "The live endpoint did not answer: " + live.failed(), found.request());
                return with(failed, calls);
            }
            from = choice.index() + 1;
        }
    }

    /** The address that the contract has for an operation; a mock's own is none. */
    private Optional<String> declared(Target target) {
        return contract.httpOperations().getOrDefault(target.key(), List.of()).stream()
                .flatMap(port -> port.address().stream())
                .findFirst();
    }

    private RequestValues values(Target target, Found found, Effort effort) {
        RequestReading reading = looked(target, found);
        RequestValues values = RequestValues.of(
                reading, target.name(), found.hit(), ground.names().size(), effort);
        if (target.looksAt(Slot.HTTP) || target.looksAtCaller() && callers.looksAt(Slot.HTTP)) {
            values = values.with(found.request().http().get());
        }
        return target.looksAtCaller() ? values.calledBy(callers.of(found.request(), reading, values)) : values;
    }

    private Reply reply(
            Target target,
            int index,
            PreparedAnswer prepared,
            PreparedBody.Body body,
            RequestValues values,
            SoapVersion version,
            Found found) {
        MockRequest request = found.request();
        MockAnswer answer = prepared.answer();
        boolean silent = target.isOneWay() && answer.content() instanceof AnswerContent.Message;
        int status = silent && answer.head().status() == 0 ? 202 : prepared.status(version);
        List<Header> fields = prepared.fields(values);
        prepared.hits().increment();
        return new Reply(
                status,
                silent ? "" : body.type(),
                fields,
                silent ? NOTHING : addressed(target, prepared, body, found),
                state.millis(answer.pause()),
                answer.trouble(),
                event(target.key(), index, silent ? ONE_WAY : title(index, answer), "", request),
                prepared.isFault() ? Optional.of(answer.title()) : Optional.empty(),
                List.of());
    }

    /** An answer to a request that WS-Addressing gives an id says which request it is to. */
    private static byte[] addressed(Target target, PreparedAnswer prepared, PreparedBody.Body body, Found found) {
        Optional<RequestReading.Addressed> asked = found.reading().flatMap(RequestReading::addressed);
        if (asked.isEmpty()) {
            return body.bytes();
        }
        String action = prepared.isFault()
                ? ""
                : target.operation().output().map(MessageDef::action).orElse("");
        return Related.to(asked.get(), action, body.bytes());
    }

    private static String title(int index, MockAnswer answer) {
        return (answer.conditional() ? (index + 1) + " " : "") + answer.title();
    }

    private Reply passedOn(
            Target target,
            Deciding.Choice choice,
            Forwarding.Live live,
            List<Forwarding.Call> calls,
            RequestValues values,
            MockRequest request) {
        PreparedAnswer prepared = choice.answer();
        List<Header> own = prepared.fields(values);
        List<Header> fields = new ArrayList<>(live.fields());
        own.forEach(o -> fields.removeIf(f -> f.name().equalsIgnoreCase(o.name())));
        fields.addAll(own);
        prepared.hits().increment();
        int status = prepared.answer().head().status();
        return new Reply(
                status == 0 ? live.status() : status,
                live.contentType(),
                fields,
                live.body(),
                state.millis(prepared.answer().pause()),
                prepared.answer().trouble(),
                event(target.key(), choice.index(), title(choice.index(), prepared.answer()), "", request),
                live.status() >= 400 ? Optional.of("live fault") : Optional.empty(),
                List.copyOf(calls));
    }

    private static Reply with(Reply reply, List<Forwarding.Call> calls) {
        return new Reply(
                reply.status(),
                reply.contentType(),
                reply.fields(),
                reply.body(),
                reply.delayMillis(),
                reply.trouble(),
                reply.event(),
                reply.fault(),
                List.copyOf(calls));
    }

    /** The reading with what its expressions look at: what is encoded has its values put where they are referred to. */
    private RequestReading looked(Target target, Found found) {
        RequestReading reading = found.reading().orElseThrow();
        if (!target.isEncoded()) {
            return reading;
        }
        SoapMessage message = SoapMessage.parse(found.request().body(), "request");
        References.inPlace(message);
        return reading.with(message.payloadDocument().map(expressions::wrap));
    }

    /** There are more requests than can be answered. */
    static Reply overrun() {
        return refused(
                new Refusal(503, SoapVersion.V11, null, "More requests than the mock can take.", List.of()), "", null);
    }

    private static Reply failed(SoapVersion version, String operation, String why, MockRequest request) {
        return refused(Refusal.fault(version, SoapFault.Code.RECEIVER, why), operation, request);
    }

    private static Reply refused(Refusal refusal, String operation, MockRequest request) {
        return new Reply(
                refusal.status(),
                refusal.byHttpAlone()
                        ? "text/plain; charset=utf-8"
                        : refusal.version().contentType(""),
                refusal.fields(),
                refusal.body(),
                0,
                Trouble.NONE,
                event(operation, -1, "unmatched", refusal.why(), request),
                Optional.of(refusal.why()),
                List.of());
    }

    private static MockEvent event(String operation, int answer, String title, String why, MockRequest request) {
        return new MockEvent(
                Instant.now(),
                operation,
                answer,
                title,
                why,
                request == null || request.body().length > MOST_KEPT
                        ? MockEvent.Kept.NONE
                        : new MockEvent.Kept(
                                request.path(),
                                request.type().type().text(),
                                request.action(),
                                Content.of(request.body())));
    }

    boolean servesEarlier(String operation, int answer) {
        Target target = byKey.get(operation);
        return target != null && target.isEarlier(answer);
    }

    Optional<Target> target(String key) {
        return Optional.ofNullable(byKey.get(key));
    }

    /** Samples of requests, of not more than so many operations. */
    List<MockRequest> samples(int most) {
        List<MockRequest> samples = new ArrayList<>();
        places.forEach((path, place) -> place.targets().stream()
                .limit(Math.max(0, most - samples.size()))
                .forEach(target -> {
                    SoapVersion version = place.usual();
                    String payload = target.input()
                            .map(o -> SampleBuilder.text(o, SampleBuilder.Detail.FULL))
                            .orElse("");
                    byte[] body = Envelope.around(version, payload, List.of()).getBytes(StandardCharsets.UTF_8);
                    RequestType type = RequestType.of(version.contentType(""));
                    Map<String, String> fields = Map.of("content-type", version.contentType(""));
                    samples.add(new MockRequest(path, type, "", body, body, () -> fields, () -> ""));
                }));
        return samples;
    }

    /** The path of a port that speaks the version of a media type, or else of the first. */
    String pathFor(String mediaType) {
        return places.entrySet().stream()
                .filter(e -> e.getValue().speaks(mediaType))
                .map(Map.Entry::getKey)
                .findFirst()
                .or(() -> places.keySet().stream().findFirst())
                .orElse("/");
    }

    /** What an answer says to a request; empty when it is not for it, or cannot be made for it. */
    Optional<byte[]> said(Target target, PreparedAnswer prepared, String envelope) {
        try {
            byte[] body = envelope.getBytes(StandardCharsets.UTF_8);
            SoapMessage message = SoapMessage.parse(body, "sample");
            MockRequest request =
                    new MockRequest(pathFor("text/xml"), RequestType.of("text/xml"), "", body, body, Map::of, () -> "");
            RequestReading reading = new RequestReading(
                    Optional.of(SoapVersion.V11),
                    Optional.empty(),
                    Optional.empty(),
                    List.of(),
                    "",
                    message.payloadDocument().map(expressions::wrap),
                    List.of(),
                    Optional.empty());
            RequestValues values = RequestValues.of(
                            reading, target.name(), 1, ground.names().size(), Effort.USUAL)
                    .with(Map.of());
            return prepared.isConstant() || prepared.applies(values)
                    ? Optional.of(
                            prepared.body(SoapVersion.V11, values, request).bytes())
                    : Optional.empty();
        } catch (Problem onlyForOthers) {
            return Optional.empty();
        }
    }

    /** What would be answered, with a verdict on each answer. */
    Trial tried(MockRequest request) {
        Found found = read(find(request));
        Optional<Refusal> refused = refused(found);
        if (refused.isPresent()) {
            found = new Found(request, found.reading(), refused);
        }
        if (found.refusal().isPresent()) {
            Refusal refusal = found.refusal().get();
            return new Trial(
                    "",
                    -1,
                    refusal.status(),
                    new String(refusal.body(), StandardCharsets.UTF_8),
                    refusal.why(),
                    List.of());
        }
        Target target = found.target().orElseThrow();
        SoapVersion version = found.reading().flatMap(RequestReading::version).orElseThrow();
        RequestValues values = values(target, found.with(forced(found)), Effort.USUAL)
                .with(request.http().get());
        Deciding deciding = new Deciding(target, state, plan.conduct(), expressions, xml, values);
        List<Trial.Verdict> verdicts = deciding.verdicts(ground);
        try {
            Deciding.Choice choice = deciding.next(0, version, request);
            if (choice == null) {
                return new Trial(target.key(), -1, 500, "", "No answer applies to this request.", verdicts);
            }
            MockAnswer answer = choice.answer().answer();
            if (choice.body() == null) {
                String onward = "The live endpoint would be asked.";
                return new Trial(target.key(), choice.index(), 0, "", onward, verdicts);
            }
            List<String> breaches = answer.content() instanceof AnswerContent.Message
                            && !target.isOneWay()
                            && answer.head().parts().isEmpty()
                    ? Trial.breaches(contract, target, choice.body().bytes())
                    : List.of();
            return new Trial(
                    target.key(),
                    choice.index(),
                    choice.answer().status(version),
                    new String(choice.body().bytes(), StandardCharsets.UTF_8),
                    breaches.isEmpty() ? "" : "It is not valid by the contract: " + breaches.get(0) + ".",
                    verdicts);
        } catch (Problem problem) {
            return new Trial(target.key(), -1, 500, "", problem.getMessage(), verdicts);
        }
    }

    /** A reading with what is in the body, also where no answer looks at it. */
    private RequestReading forced(Found found) {
        SoapMessage message = SoapMessage.parse(found.request().body(), "request");
        RequestReading reading = found.reading().orElseThrow();
        return reading.content().isPresent()
                ? reading
                : reading.with(message.payloadDocument().map(expressions::wrap));
    }

    /** How often an operation was called. */
    long hits(String operation) {
        Target target = byKey.get(operation);
        return target == null ? 0 : target.counts().hits();
    }

    /** How often each answer of an operation was given. */
    List<Long> answerHits(String operation) {
        Target target = byKey.get(operation);
        return target == null ? List.of() : target.given();
    }
}
