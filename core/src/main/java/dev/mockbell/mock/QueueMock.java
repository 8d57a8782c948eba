package dev.mockbell.mock;

import dev.mockbell.content.Content;
import dev.mockbell.content.MediaType;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Port;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import dev.mockbell.exchange.JmsMessage;
import dev.mockbell.exchange.Message;
import dev.mockbell.exchange.Timing;
import dev.mockbell.problem.Problem;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapFault;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.wire.jms.JmsAddress;
import dev.mockbell.wire.jms.JmsServer;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.Function;

/**
 * Stands in for the ports of a contract that are spoken over queues: requests are taken from each port's destination and
 * answered by the same plan as over HTTP.
 */
public final class QueueMock implements AutoCloseable {
    /** The namespace of the binding's own faults (SOAP over Java Message Service 1.0 §2.7). */
    static final String BINDING = "http://www.w3.org/2010/soapjms/";

    private final Contract contract;
    private final MockSurroundings around;
    private final Map<String, String> paths;
    private final MockState state;
    private final Gate gate;
    private volatile MockPlan plan;
    private volatile Responder responder;
    private final List<JmsServer> servers = new ArrayList<>();
    private final AtomicLong answered = new AtomicLong();

    /** Says whether a request may be answered, by whatever way others come. */
    interface Gate {
        /** Lets in everybody. */
        Gate OPEN = new Gate() {
            @Override
            public boolean begin() {
                return true;
            }

            @Override
            public String noMore() {
                return "";
            }

            @Override
            public void end() {
                // nobody counts
            }
        };

        /** A request is going to be answered; whether it may be. */
        boolean begin();

        /** Why it may not, a sentence. */
        String noMore();

        /** The answer to one that was begun is out. */
        void end();
    }

    private QueueMock(
            Contract contract,
            MockPlan plan,
            MockSurroundings around,
            Map<String, String> paths,
            MockState state,
            Gate gate) {
        this.gate = gate;
        this.contract = contract;
        this.around = around;
        this.paths = paths;
        this.state = state;
        replace(plan);
    }

    /** Answers by another plan from now on; counts and what is remembered stay. */
    void replace(MockPlan other) {
        Responder next = new Responder(contract, other, paths, around, state);
        next.begin();
        responder = next;
        plan = other;
    }

    /** How often an operation was asked for, by whatever way the counts are for. */
    long hits(String operation) {
        return responder.hits(operation);
    }

    /** How often each answer of an operation was given, in the plan's order. */
    List<Long> answerHits(String operation) {
        return responder.answerHits(operation);
    }

    /** Whether a contract has ports that are spoken over queues. */
    public static boolean isFor(Contract contract) {
        return !ports(contract).isEmpty();
    }

    /** The ports of a contract that are spoken over queues. */
    public static List<Port> ports(Contract contract) {
        return contract.ports().stream().filter(QueueMock::isQueued).toList();
    }

    private static boolean isQueued(Port port) {
        return port.binding().protocol().soap() && port.binding().transport().byQueue();
    }

    /**
     * Where the ports of a contract that are spoken over queues are, by their names: where the plan says, else where calls go.
     *
     * @param elsewhere where calls of a port go in place of what the contract says, by its name
     * @throws Problem when a port has no address, or one that cannot be
     */
    public static Map<String, JmsAddress> addresses(
            Contract contract, MockPlan plan, Function<String, Optional<String>> elsewhere) {
        Map<String, JmsAddress> found = new LinkedHashMap<>();
        for (Port port : ports(contract)) {
            String address = Optional.ofNullable(plan.conduct().paths().get(port.name()))
                    .filter(a -> a.startsWith(JmsAddress.SCHEME + ":"))
                    .or(() -> elsewhere.apply(port.name()))
                    .or(port::address)
                    .orElseThrow(() -> Problem.input(
                            "Port " + port.name() + " has no address",
                            contract.source(),
                            "Give its queue in the environment, such as jms:queue:NAME?jndiURL=tcp://HOST:61616."));
            found.put(port.name(), JmsAddress.of(address));
        }
        return found;
    }

    /**
     * Begins to answer.
     *
     * @param listened where each port is, as {@link #addresses} gives it
     * @param reach how the brokers are reached
     * @throws Problem when the broker is not there, or does not let messages be taken
     */
    public static QueueMock start(
            Contract contract,
            MockPlan plan,
            MockSurroundings around,
            Map<String, JmsAddress> listened,
            JmsServer.Reach reach) {
        return start(contract, plan, around, listened, reach, new MockState(), Gate.OPEN);
    }

    /** As {@link #start}, with the counts, the memory and the bounds of a mock that is there already. */
    static QueueMock start(
            Contract contract,
            MockPlan plan,
            MockSurroundings around,
            Map<String, JmsAddress> listened,
            JmsServer.Reach reach,
            MockState state,
            Gate gate) {
        Map<String, String> paths = new LinkedHashMap<>();
        listened.keySet().forEach(port -> paths.put(port, path(port)));
        QueueMock mock = new QueueMock(contract.queuesAsHttp(), plan, around, paths, state, gate);
        try {
            listened.forEach((port, address) -> mock.servers.add(JmsServer.listen(
                    address, reach, (request, envelope) -> mock.answer(path(port), address, request, envelope))));
            return mock;
        } catch (RuntimeException e) {
            mock.close();
            throw e;
        }
    }

    /** What stands for a path where a request came by a port's queue. */
    static String path(String port) {
        return "/" + port;
    }

    /** Where it takes requests from. */
    public List<JmsAddress> addresses() {
        return servers.stream().map(JmsServer::address).toList();
    }

    /** How many requests it has answered. */
    public long answered() {
        return answered.get();
    }

    private Optional<JmsServer.Reply> answer(String path, JmsAddress address, JmsMessage request, boolean envelope) {
        if (!gate.begin()) {
            return Optional.of(refused(address, request));
        }
        Optional<JmsServer.Reply> reply = Optional.empty();
        try {
            reply = begun(path, address, request, envelope);
            return reply;
        } finally {
            if (reply.isEmpty()) {
                gate.end();
            }
        }
    }

    private JmsServer.Reply refused(JmsAddress address, JmsMessage request) {
        Instant started = Instant.now();
        long begun = System.nanoTime();
        String why = gate.noMore();
        SoapVersion version = version(request);
        String fault = Envelope.around(version, SoapFault.xml(version, SoapFault.Code.RECEIVER, why, ""), List.of());
        return new JmsServer.Reply(
                Content.of(fault.getBytes(StandardCharsets.UTF_8)),
                version.contentType(""),
                true,
                sent -> record(address, request, Optional.of(sent), started, begun, "", "refused", Outcome.FAULT, why));
    }

    private Optional<JmsServer.Reply> begun(String path, JmsAddress address, JmsMessage request, boolean envelope) {
        Instant started = Instant.now();
        long begun = System.nanoTime();
        Optional<String> breach = breach(request, envelope);
        Responder by = responder;
        Responder.Reply reply = breach.isPresent() ? null : by.reply(by.find(asked(path, request)));
        if (reply != null && reply.delayMillis() > 0) {
            pause(reply.delayMillis());
        }
        answered.incrementAndGet();
        byte[] body = reply == null ? fault(request, breach.get()) : reply.body();
        String type = reply == null ? version(request).contentType("") : reply.contentType();
        boolean fault = reply == null || reply.fault().isPresent() || reply.status() >= 400;
        String note = reply == null ? breach.get() : reply.fault().orElse("");
        String operation = reply == null ? "" : reply.event().operation();
        String origin = reply == null ? "refused by the binding" : reply.event().title();
        around.listener()
                .answered(
                        reply == null
                                ? new MockEvent(started, "", -1, breach.get(), broken(breach.get()))
                                : reply.event());
        if (reply != null) {
            body = spoilt(body, reply.trouble());
            type = reply.trouble().kind() == Trouble.Kind.WRONG_TYPE ? "text/html" : type;
        }
        if (body.length == 0) {
            record(address, request, Optional.empty(), started, begun, operation, origin, Outcome.FINE, note);
            return Optional.empty();
        }
        Outcome outcome = fault ? Outcome.FAULT : Outcome.FINE;
        Content content = Content.of(body);
        return Optional.of(new JmsServer.Reply(
                content,
                type,
                fault,
                sent -> record(address, request, Optional.of(sent), started, begun, operation, origin, outcome, note),
                gate::end));
    }

    private static String broken(String code) {
        return "The request breaks a rule of SOAP over JMS: " + code + ".";
    }

    /** What of the troubles there is without a connection: nothing comes, or the body is not what it should be. */
    private static byte[] spoilt(byte[] body, Trouble trouble) {
        return switch (trouble.kind()) {
            case CLOSED, RESET -> new byte[0];
            case CUT -> Arrays.copyOf(body, (int) ((long) body.length * trouble.amount() / 100));
            case MALFORMED -> ReplyWriter.malformed(body);
            default -> body;
        };
    }

    private static void pause(long millis) {
        try {
            Thread.sleep(millis);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    private static MockRequest asked(String path, JmsMessage request) {
        String contentType = request.header("Content-Type").orElse("");
        RequestType type = RequestType.of(contentType);
        byte[] body = request.body().bytes();
        Map<String, String> fields = new LinkedHashMap<>();
        request.headers().forEach(h -> fields.put(h.name().toLowerCase(java.util.Locale.ROOT), h.value()));
        fields.put("content-type", contentType);
        String action = request.header("SOAPJMS_soapAction").orElse(type.action());
        return new MockRequest(
                path, type, action, type.inUtf8(body), body, () -> fields, () -> fields.getOrDefault("jmsreplyto", ""));
    }

    /** What of the binding a request breaks, by the name that it has there (§2.7); empty for nothing. */
    private static Optional<String> breach(JmsMessage request, boolean envelope) {
        if (!envelope) {
            return Optional.of("unsupportedJMSMessageFormat");
        }
        Optional<String> version = request.header("SOAPJMS_bindingVersion");
        if (version.isPresent() && !"1.0".equals(version.get())) {
            return Optional.of("unrecognizedBindingVersion");
        }
        if (request.header(JmsMessage.CONTENT_TYPE).filter(t -> !t.isBlank()).isEmpty()) {
            return Optional.of("missingContentType");
        }
        Optional<String> uri = request.header("SOAPJMS_requestURI");
        if (uri.isEmpty()) {
            return Optional.of("missingRequestURI");
        }
        try {
            if (JmsAddress.of(uri.get()).parameters().containsKey("targetService")) {
                return Optional.of("targetServiceNotAllowedInRequestURI");
            }
        } catch (Problem malformed) {
            return Optional.of("malformedRequestURI");
        }
        MediaType type = request.type();
        boolean known =
                type.name().matches("(?i)text/xml|application/soap\\+xml|multipart/related|application/xop\\+xml");
        return known ? Optional.empty() : Optional.of("contentTypeMismatch");
    }

    private static SoapVersion version(JmsMessage request) {
        return request.type().name().equalsIgnoreCase("application/soap+xml") ? SoapVersion.V12 : SoapVersion.V11;
    }

    private static byte[] fault(JmsMessage request, String code) {
        String reason = broken(code);
        SoapVersion version = version(request);
        String text = version == SoapVersion.V12
                ? "<e:Envelope xmlns:e=\"" + version.namespace() + "\" xmlns:j=\"" + BINDING
                        + "\"><e:Body><e:Fault><e:Code><e:Value>e:Sender</e:Value><e:Subcode><e:Value>j:" + code
                        + "</e:Value></e:Subcode></e:Code><e:Reason><e:Text xml:lang=\"en\">" + reason
                        + "</e:Text></e:Reason></e:Fault></e:Body></e:Envelope>"
                : "<e:Envelope xmlns:e=\"" + version.namespace() + "\" xmlns:j=\"" + BINDING
                        + "\"><e:Body><e:Fault><faultcode>j:" + code + "</faultcode><faultstring>" + reason
                        + "</faultstring></e:Fault></e:Body></e:Envelope>";
        return text.getBytes(StandardCharsets.UTF_8);
    }

    private void record(
            JmsAddress address,
            JmsMessage request,
            Optional<Message> response,
            Instant started,
            long begun,
            String operation,
            String origin,
            Outcome outcome,
            String note) {
        if (around.recorder() == null) {
            return;
        }
        long nanos = System.nanoTime() - begun;
        around.recorder()
                .offer(() -> new Exchange(
                        0,
                        started,
                        Way.ANSWERED,
                        plan.contract(),
                        operation,
                        address.requestUri(),
                        origin,
                        request,
                        response,
                        new Timing(0, 0, nanos, 0),
                        outcome,
                        note));
    }

    @Override
    public void close() {
        servers.forEach(JmsServer::close);
    }
}
