package dev.mockbell.mock;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.content.MediaType;
import dev.mockbell.content.Multipart;
import dev.mockbell.content.Part;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Operation;
import dev.mockbell.contract.Port;
import dev.mockbell.contract.Protocol;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Expressions.Effort;
import dev.mockbell.expression.Expressions.MoreEffort;
import dev.mockbell.expression.Scope;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.sample.RandomValues;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.soap.References;
import dev.mockbell.soap.SoapFault;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.xml.TextEncoding;
import java.time.Instant;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import javax.xml.namespace.QName;
import org.codehaus.stax2.XMLInputFactory2;

/** Decides what a request is answered with. It knows nothing of connections; safe for many threads. */
final class Responder {
    /** A request of so many bytes is read where it came in; a larger one elsewhere, so that it holds up nobody. */
    private static final int SMALL = 32 * 1024;

    /** Header blocks of these are taken, whatever they ask for: what they say is for whoever stands before the service. */
    private static final Set<String> TAKEN = Set.of(
            "http://docs.oasis-open.org/wss/2004/01/oasis-200401-wss-wssecurity-secext-1.0.xsd",
            "http://www.w3.org/2005/08/addressing",
            "http://schemas.xmlsoap.org/ws/2004/08/addressing");

    /**
     * What to send back.
     *
     * @param contentType empty when there is no body
     */
    record Reply(
            int status, String contentType, byte[] body, long delayMillis, MockEvent event, Optional<String> fault) {}

    /** What is called at one path: the operations of the ports there, and the versions that they speak. */
    private static final class Place {
        private final Set<SoapVersion> spoken = EnumSet.noneOf(SoapVersion.class);
        private final Map<QName, Target> byPayload = new HashMap<>();
        private final Map<String, Target> byAction = new HashMap<>();
        private final Set<Target> named = new HashSet<>();
        private final Set<QName> headers = new HashSet<>();

        /** The version for who does not say one that is spoken here. */
        SoapVersion usual() {
            return spoken.iterator().next();
        }

        void add(Contract contract, Port port, Target target, Operation operation) {
            spoken.add(port.binding().protocol() == Protocol.SOAP12 ? SoapVersion.V12 : SoapVersion.V11);
            operation.input().map(i -> MessageOutline.of(contract, i)).ifPresent(outline -> {
                outline.firstName().ifPresent(name -> {
                    byPayload.putIfAbsent(name, target);
                    named.add(target);
                });
                outline.headers().stream().map(ElementDecl::name).forEach(headers::add);
            });
            operation.soapAction().filter(a -> !a.isEmpty()).ifPresent(a -> byAction.putIfAbsent(a, target));
        }
    }

    private final Scope ground;
    private final Map<String, Place> places = new HashMap<>();
    private final Map<String, Target> byKey = new LinkedHashMap<>();
    private final Expressions expressions;
    private final XMLInputFactory2 xml = RequestReading.factory();
    private final boolean looksAtHeaders;

    /** @param paths where each port is, by its name */
    Responder(Contract contract, MockPlan plan, Map<String, String> paths, Expressions expressions, MockState state) {
        this.expressions = expressions;
        this.ground = Scope.EMPTY.with(RandomValues.of(List.of(contract))).withPrefixes(contract.prefixes());
        contract.httpOperations().forEach((key, ports) -> {
            Operation operation = ports.get(0).binding().operation(key).orElseThrow();
            Target target = new Target(contract, key, operation, plan, expressions, ground, state.of(key));
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
        this.looksAtHeaders = byKey.values().stream().anyMatch(Target::looksAtHeaders);
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

        /** Whether answering is no work and may happen right here. */
        boolean isQuick() {
            return refusal.isPresent() || target.filter(Target::isSimple).isPresent();
        }
    }

    /** Looks at a request; one that is large or in parts is not read yet. */
    Found find(MockRequest request) {
        Optional<Refusal> unfit = unfit(request);
        if (unfit.isPresent()) {
            return new Found(request, Optional.empty(), unfit);
        }
        boolean later = request.body().length > SMALL || request.type().inParts();
        return later ? new Found(request, Optional.empty(), Optional.empty()) : read(request);
    }

    /** Whether the media type is one that is spoken here; in parts, that of the root is looked at once it is found. */
    private Optional<Refusal> unfit(MockRequest request) {
        Place place = places.get(request.path());
        String type = request.type().name();
        if (place == null || request.type().inParts()) {
            return Optional.empty();
        }
        for (SoapVersion version : place.spoken) {
            if (version.mediaType().equals(type)) {
                return Optional.empty();
            }
        }
        // who asks in a version that is not spoken here is told so, and not of the media type
        for (SoapVersion version : SoapVersion.values()) {
            if (version.mediaType().equals(type)) {
                return Optional.empty();
            }
        }
        String taken = place.spoken.stream().map(SoapVersion::mediaType).collect(Collectors.joining(" or "));
        return Optional.of(Refusal.mediaType(
                place.usual(),
                (type.isEmpty() ? "The request has no Content-Type" : "The Content-Type is " + type) + "; it should be "
                        + taken + "."));
    }

    private Found read(MockRequest request) {
        Place place = places.get(request.path());
        if (place == null) {
            Refusal nowhere = Refusal.fault(
                    SoapVersion.V11, SoapFault.Code.SENDER, "No operation is called at " + request.path() + ".");
            return new Found(request, Optional.empty(), Optional.of(nowhere));
        }
        Target[] looked = new Target[1];
        RequestReading reading = RequestReading.of(xml, request.body(), expressions::building, name -> {
            if (name == null) {
                return looksAtHeaders;
            }
            looked[0] = place.byPayload.get(name);
            // by its action, perhaps, which is found out when all is read
            return looked[0] == null || looked[0].looksAtContent();
        });
        Optional<Refusal> refusal = refusal(request, reading, place);
        Optional<Target> target = refusal.isPresent() ? Optional.empty() : target(request, reading, place);
        if (refusal.isEmpty() && target.isEmpty()) {
            refusal = Optional.of(Refusal.fault(
                    reading.version().orElse(place.usual()), SoapFault.Code.SENDER, noOperation(reading, place)));
        }
        // what its conditions see is this request's own count, however many come at once
        long hit = target.map(t -> t.counts().hit()).orElse(0L);
        return new Found(request, Optional.of(reading), target, refusal, hit);
    }

    private static Optional<Target> target(MockRequest request, RequestReading reading, Place place) {
        Target target = reading.payload().map(place.byPayload::get).orElse(null);
        if (target == null && !request.action().isEmpty()) {
            Target named = place.byAction.get(request.action());
            boolean free = named != null && (reading.payload().isEmpty() || !place.named.contains(named));
            target = free ? named : null;
        }
        return Optional.ofNullable(target);
    }

    private static Optional<Refusal> refusal(MockRequest request, RequestReading reading, Place place) {
        SoapVersion said = "application/soap+xml".equals(request.type().name()) ? SoapVersion.V12 : place.usual();
        if (reading.envelope().isPresent() && reading.version().isEmpty()) {
            QName name = reading.envelope().get();
            String why = "The request is " + name + ", not a SOAP envelope.";
            SoapVersion told = place.spoken.contains(said) ? said : place.usual();
            boolean other = "Envelope".equals(name.getLocalPart()) || told == SoapVersion.V12;
            return Optional.of(
                    other ? Refusal.version(told, place.spoken, why) : Refusal.fault(told, SoapFault.Code.SENDER, why));
        }
        SoapVersion version = reading.version().orElse(said);
        if (reading.version().isPresent() && !place.spoken.contains(version)) {
            String spoken = place.spoken.stream().map(SoapVersion::title).collect(Collectors.joining(" and "));
            String why = "The request is in " + version.title() + "; " + spoken + " is spoken here.";
            // a node of SOAP 1.1 is told in what it can read, and so is one that speaks to a node of it (part 1,
            // appendix A)
            return Optional.of(Refusal.version(SoapVersion.V11, place.spoken, why));
        }
        if (!reading.flaw().isEmpty()) {
            return Optional.of(Refusal.fault(version, SoapFault.Code.SENDER, reading.flaw()));
        }
        if (reading.version().isPresent()
                && !version.mediaType().equals(request.type().name())) {
            return Optional.of(Refusal.mediaType(
                    version,
                    "The Content-Type is " + request.type().name() + " for an envelope of " + version.title()
                            + "; it should be " + version.mediaType() + "."));
        }
        List<QName> foreign = reading.mustUnderstand().stream()
                .filter(h -> !place.headers.contains(h) && !TAKEN.contains(h.getNamespaceURI()))
                .toList();
        return foreign.isEmpty() ? Optional.empty() : Optional.of(Refusal.notUnderstood(version, foreign));
    }

    /** The reply, where it can be made with so little work that nobody else is held up; empty otherwise. */
    Optional<Reply> replyAtOnce(Found found) {
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

    /** The reply to a request that was found before; one that was not read yet is read now. */
    Reply reply(Found found) {
        try {
            Found read = found.reading().isPresent() || found.refusal().isPresent()
                    ? found
                    : read(unpacked(found.request()));
            return read.refusal().isPresent() ? refused(read.refusal().get(), "") : answered(read, Effort.USUAL);
        } catch (Problem problem) {
            return refused(Refusal.fault(SoapVersion.V11, SoapFault.Code.SENDER, problem.getMessage()), "");
        }
    }

    /** The root of a request in parts, as if it had come alone (RFC 2387; MTOM §3). */
    private static MockRequest unpacked(MockRequest request) {
        if (!request.type().inParts()) {
            return request;
        }
        List<Part> parts =
                Multipart.parts(Content.of(request.body()), request.type().type());
        Part root = Multipart.root(parts, request.type().type());
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
        if (target.isOneWay()) {
            target.countFirst();
            return new Reply(
                    202, "", new byte[0], 0, event(target.key(), 0, "202, no answer is due", ""), Optional.empty());
        }
        try {
            return answer(target, version, found, effort);
        } catch (MoreEffort elsewhere) {
            throw elsewhere;
        } catch (Problem problem) {
            return failed(version, target.key(), problem.getMessage());
        } catch (RuntimeException | StackOverflowError e) {
            // a client that waits gets an answer, whatever went wrong here
            return failed(version, target.key(), "The answer could not be made: " + Problem.reason(e) + ".");
        }
    }

    private Reply answer(Target target, SoapVersion version, Found found, Effort effort) {
        RequestValues values = null;
        List<PreparedAnswer> answers = target.answers();
        for (int i = 0; i < answers.size(); i++) {
            PreparedAnswer prepared = answers.get(i);
            if (values == null && !prepared.isSimple()) {
                values = RequestValues.of(
                        looked(target, found),
                        found.request(),
                        target.key(),
                        found.hit(),
                        target.looksAtHttp(),
                        effort);
            }
            if (!prepared.isSimple() && !prepared.applies(values)) {
                continue;
            }
            byte[] body = prepared.isSimple() ? prepared.body(version) : prepared.body(version, values);
            prepared.hits().increment();
            MockAnswer answer = prepared.answer();
            String title = (answer.conditional() ? (i + 1) + " " : "") + answer.title();
            return new Reply(
                    prepared.isFault() ? SoapFault.Code.RECEIVER.status(version) : 200,
                    version.contentType(""),
                    body,
                    answer.delayMillis(),
                    event(target.key(), i, title, ""),
                    prepared.isFault() ? Optional.of(answer.title()) : Optional.empty());
        }
        return failed(
                version,
                target.key(),
                "No answer of " + target.key() + " applies to this request; add one without a condition.");
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

    private static String noOperation(RequestReading reading, Place place) {
        String known = place.byPayload.keySet().stream()
                .map(QName::getLocalPart)
                .sorted()
                .collect(Collectors.joining(", "));
        return reading.payload()
                .map(p -> "No operation of this contract takes " + p + ". It knows " + known + ".")
                .orElse("The body is empty and no SOAPAction names an operation. It knows " + known + ".");
    }

    /** There are more requests than can be answered. */
    static Reply overrun() {
        return refused(new Refusal(503, SoapVersion.V11, null, "More requests than the mock can take.", List.of()), "");
    }

    private static Reply failed(SoapVersion version, String operation, String why) {
        return refused(Refusal.fault(version, SoapFault.Code.RECEIVER, why), operation);
    }

    private static Reply refused(Refusal refusal, String operation) {
        return new Reply(
                refusal.status(),
                refusal.byHttpAlone()
                        ? "text/plain; charset=utf-8"
                        : refusal.version().contentType(""),
                refusal.body(),
                0,
                event(operation, -1, "unmatched", refusal.why()),
                Optional.of(refusal.why()));
    }

    private static MockEvent event(String operation, int answer, String title, String why) {
        return new MockEvent(Instant.now(), operation, answer, title, why);
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
