package dev.mockbell.mock;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Operation;
import dev.mockbell.contract.Port;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.sample.RandomValues;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapFault;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.soap.SoapVersion;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.atomic.LongAdder;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import javax.xml.namespace.QName;
import javax.xml.stream.XMLInputFactory;
import net.sf.saxon.s9api.XdmNode;

/** Decides what a request is answered with. It knows nothing of connections; safe for many threads. */
final class Responder {
    /** What to send back. */
    record Reply(
            int status, SoapVersion version, byte[] body, long delayMillis, MockEvent event, Optional<String> fault) {}

    /** An operation with its answers, ready to be given. */
    private final class Target {
        private final String key;
        private final Operation operation;
        private final MockState.Counts counts;
        private final Supplier<List<MockAnswer>> given;
        private volatile List<Prepared> prepared;

        /** @param given gives the answers; asked once, when the first request comes */
        Target(String key, Operation operation, Supplier<List<MockAnswer>> given, MockState.Counts counts) {
            this.key = key;
            this.operation = operation;
            this.given = given;
            this.counts = counts;
        }

        /** Its answers, prepared; samples are made here, which may be work. */
        List<Prepared> answers() {
            List<Prepared> ready = prepared;
            if (ready == null) {
                synchronized (this) {
                    ready = prepared == null ? prepare() : prepared;
                    prepared = ready;
                }
            }
            return ready;
        }

        private List<Prepared> prepare() {
            List<MockAnswer> all = given.get();
            List<LongAdder> each = counts.of(all);
            List<Prepared> made = new ArrayList<>();
            for (int i = 0; i < all.size(); i++) {
                made.add(new Prepared(all.get(i), each.get(i)));
            }
            return List.copyOf(made);
        }

        /** Those that are prepared so far. */
        List<Prepared> ready() {
            List<Prepared> ready = prepared;
            return ready == null ? List.of() : ready;
        }

        /** Whether an answer can be given at once, on the event loop. */
        boolean simple() {
            List<Prepared> ready = prepared;
            return ready != null && (ready.isEmpty() || !ready.get(0).answer.conditional() && ready.get(0).constant);
        }
    }

    /** An answer whose bytes are made once where they do not depend on the request. */
    private static final class Prepared {
        private final MockAnswer answer;
        private final boolean constant;
        private final LongAdder hits;
        private final Map<SoapVersion, byte[]> bytes = new EnumMap<>(SoapVersion.class);

        Prepared(MockAnswer answer, LongAdder hits) {
            this.answer = answer;
            this.hits = hits;
            this.constant = answer.content().accept(new ContentText.Constant());
            if (constant) {
                for (SoapVersion version : SoapVersion.values()) {
                    bytes.put(version, encode(answer, ContentText.asItStands(version)));
                }
            }
        }
    }

    private static byte[] encode(MockAnswer answer, ContentText text) {
        return Envelope.around(text.version(), answer.content().accept(text), List.of())
                .getBytes(StandardCharsets.UTF_8);
    }

    private final Scope ground;
    private final Map<String, Target> byKey = new HashMap<>();
    private final Map<QName, Target> byPayload = new HashMap<>();
    private final Map<String, Target> byAction = new HashMap<>();
    private final Expressions expressions;
    private final XMLInputFactory xml = RequestReading.factory();

    Responder(Contract contract, MockPlan plan, Expressions expressions, MockState state) {
        this.expressions = expressions;
        this.ground = Scope.EMPTY.with(RandomValues.of(List.of(contract))).withPrefixes(contract.prefixes());
        for (Map.Entry<String, List<Port>> entry : contract.httpOperations().entrySet()) {
            Operation operation =
                    entry.getValue().get(0).binding().operation(entry.getKey()).orElseThrow();
            String key = entry.getKey();
            boolean decided = plan.decides(key);
            Target target = new Target(
                    key,
                    operation,
                    decided ? () -> plan.of(key) : () -> MockPlan.samples(contract, key),
                    state.of(key));
            if (decided) {
                target.answers();
            }
            byKey.put(entry.getKey(), target);
            operation
                    .input()
                    .flatMap(i -> MessageOutline.of(contract, i).firstName())
                    .ifPresent(name -> byPayload.putIfAbsent(name, target));
            operation.soapAction().filter(a -> !a.isEmpty()).ifPresent(a -> byAction.putIfAbsent(a, target));
        }
    }

    /** The request, in UTF-8, with what was found out about it at once. */
    record Found(RequestReading reading, Optional<String> operation, boolean quick) {}

    /** Finds the operation; {@code quick} says that answering needs no expression and may happen right here. */
    Found find(byte[] body, String action) {
        RequestReading reading = RequestReading.of(xml, body);
        Target target = reading.payload().map(byPayload::get).orElse(null);
        if (target == null && reading.flaw().isEmpty() && !action.isEmpty()) {
            Target named = byAction.get(action);
            boolean free = named != null
                    && (reading.payload().isEmpty()
                            || byPayload.values().stream().noneMatch(t -> t == named));
            target = free ? named : null;
        }
        return new Found(reading, Optional.ofNullable(target).map(t -> t.key), target == null || target.simple());
    }

    /** The reply to a request that was found before. */
    Reply reply(Found found, byte[] body) {
        SoapVersion version = found.reading().version().orElse(SoapVersion.V11);
        if (found.operation().isEmpty()) {
            String why = found.reading().flaw().isEmpty()
                    ? noOperation(found.reading())
                    : found.reading().flaw();
            return problem(version, "", why);
        }
        Target target = byKey.get(found.operation().get());
        // what its conditions see is this request's own count, however many come at once
        long hit = target.counts.hit();
        if (target.operation.pattern() == Operation.Pattern.ONE_WAY) {
            countFirst(target);
            return new Reply(
                    202, version, new byte[0], 0, event(target.key, 0, "202, no answer is due", ""), Optional.empty());
        }
        try {
            return answer(target, version, body, hit);
        } catch (Problem problem) {
            return problem(version, target.key, problem.getMessage());
        } catch (RuntimeException | StackOverflowError e) {
            // a client that waits gets an answer, whatever went wrong here
            return problem(version, target.key, "The answer could not be made: " + Problem.reason(e) + ".");
        }
    }

    private static void countFirst(Target target) {
        if (!target.answers().isEmpty()) {
            target.answers().get(0).hits.increment();
        }
    }

    private Reply answer(Target target, SoapVersion version, byte[] body, long hit) {
        Scope scope = null;
        List<Prepared> answers = target.answers();
        for (int i = 0; i < answers.size(); i++) {
            Prepared prepared = answers.get(i);
            if (scope == null && (prepared.answer.conditional() || !prepared.constant)) {
                scope = scope(body, hit);
            }
            if (prepared.answer.conditional() && !expressions.holds(prepared.answer.when(), scope)) {
                continue;
            }
            prepared.hits.increment();
            byte[] bytes = prepared.constant
                    ? prepared.bytes.get(version)
                    : encode(prepared.answer, ContentText.filled(version, expressions, scope));
            boolean fault = prepared.answer.content().isFault();
            String title = (prepared.answer.conditional() ? (i + 1) + " " : "") + prepared.answer.title();
            return new Reply(
                    fault ? 500 : 200,
                    version,
                    bytes,
                    prepared.answer.delayMillis(),
                    event(target.key, i, title, ""),
                    fault ? Optional.of(prepared.answer.title()) : Optional.empty());
        }
        return problem(
                version,
                target.key,
                "No answer of " + target.key + " applies to this request; add one without a condition.");
    }

    private Scope scope(byte[] body, long hit) {
        SoapMessage message = SoapMessage.parse(body, "request");
        Optional<XdmNode> request = message.payloadDocument().map(expressions::wrap);
        Scope scope = ground.with("hits", hit);
        return request.map(r -> scope.with("request", r).on(r)).orElse(scope);
    }

    private String noOperation(RequestReading reading) {
        String known =
                byPayload.keySet().stream().map(QName::getLocalPart).sorted().collect(Collectors.joining(", "));
        return reading.payload()
                .map(p -> "No operation of this contract takes " + p + ". It knows " + known + ".")
                .orElse("The body is empty and no SOAPAction names an operation. It knows " + known + ".");
    }

    private static Reply problem(SoapVersion version, String operation, String why) {
        byte[] bytes = Envelope.around(version, SoapFault.xml(version, false, why, ""), List.of())
                .getBytes(StandardCharsets.UTF_8);
        return new Reply(500, version, bytes, 0, event(operation, -1, "unmatched", why), Optional.of(why));
    }

    private static MockEvent event(String operation, int answer, String title, String why) {
        return new MockEvent(java.time.Instant.now(), operation, answer, title, why);
    }

    /** How often an operation was called. */
    long hits(String operation) {
        Target target = byKey.get(operation);
        return target == null ? 0 : target.counts.hits();
    }

    /** How often each answer of an operation was given. */
    List<Long> answerHits(String operation) {
        Target target = byKey.get(operation);
        return target == null
                ? List.of()
                : target.ready().stream().map(a -> a.hits.sum()).toList();
    }
}
