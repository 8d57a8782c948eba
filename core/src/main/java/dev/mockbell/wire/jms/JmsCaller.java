package dev.mockbell.wire.jms;

import dev.mockbell.content.Content;
import dev.mockbell.exchange.JmsMessage;
import dev.mockbell.exchange.Timing;
import dev.mockbell.problem.Problem;
import dev.mockbell.problem.Took;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.CallRequest;
import dev.mockbell.wire.CallResult;
import dev.mockbell.wire.Connect;
import dev.mockbell.wire.Login;
import dev.mockbell.wire.Trust;
import jakarta.jms.Destination;
import jakarta.jms.JMSException;
import jakarta.jms.Message;
import jakarta.jms.MessageConsumer;
import jakarta.jms.MessageProducer;
import jakarta.jms.Queue;
import jakarta.jms.Session;
import jakarta.jms.TemporaryQueue;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import javax.net.ssl.SSLContext;

/**
 * Sends requests by SOAP over Java Message Service 1.0: a request to a queue or topic, its answer by correlation. A connection
 * to a broker is kept for the next call.
 */
public final class JmsCaller implements AutoCloseable {
    private static final long STEP_MILLIS = 250;

    private final Connections connections;
    private final Map<Key, Connections.Opened> open = new HashMap<>();
    private boolean closed;

    /** Whose connection it is, and whom it trusts. */
    private record Key(
            String broker,
            Map<String, String> names,
            Optional<Login> login,
            Optional<SSLContext> context,
            Trust trust) {}

    /** @param jars providers of the user's own */
    public JmsCaller(ProviderJars jars) {
        this.connections = new Connections(jars);
    }

    /**
     * Sends a request and waits for its answer, where one is to come.
     *
     * @param request with the head that HTTP would have; what of it the binding has goes by its properties
     * @param answered whether an answer is to come; a one-way message is sent and that is all
     * @throws Problem when nothing was sent: the address cannot be, the broker is not there or refuses
     */
    public CallResult call(CallRequest request, boolean answered, Connect usual, StopSignal stop) {
        Connect by = usual.with(usual.timeouts().within(request.timeout()));
        JmsAddress address = JmsAddress.of(request.address());
        return call(RequestProperties.shown(request, address, request.body()), address, answered, by, stop);
    }

    /** As {@link #call(CallRequest, boolean, Connect, StopSignal)}, of what was made of it. */
    CallResult call(JmsMessage request, JmsAddress address, boolean answered, Connect by, StopSignal stop) {
        Instant started = Instant.now();
        long begun = System.nanoTime();
        Ready ready = ready(address, by);
        long connected = System.nanoTime();
        try (Session session = ready.session()) {
            return conversed(request, address, answered, by, stop, ready.opened(), session, started, begun, connected);
        } catch (JMSException e) {
            forget(key(address, by), ready.opened());
            if (stop.isStopped()) {
                throw Problem.stopped();
            }
            throw lost(e, address);
        }
    }

    private static Problem lost(JMSException e, JmsAddress address) {
        return Brokers.lost(e, address.broker().map(Object::toString).orElse(address.requestUri()));
    }

    /** A session, and the connection that it is of. */
    private record Ready(Connections.Opened opened, Session session) {}

    /** A connection that was kept may have broken since. Nothing has been sent by it yet, so it is made anew, once. */
    private Ready ready(JmsAddress address, Connect by) {
        JMSException broke = null;
        for (int i = 0; i < 2; i++) {
            Connections.Opened there = opened(address, by);
            try {
                return new Ready(there, there.connection().createSession(false, Session.AUTO_ACKNOWLEDGE));
            } catch (JMSException e) {
                forget(key(address, by), there);
                broke = e;
            }
        }
        throw lost(broke, address);
    }

    private CallResult conversed(
            JmsMessage request,
            JmsAddress address,
            boolean answered,
            Connect by,
            StopSignal stop,
            Connections.Opened opened,
            Session session,
            Instant started,
            long begun,
            long connected)
            throws JMSException {
        Destination to = opened.destination(session, address.variant(), address.destination());
        Message message = Envelopes.request(session, request, address.goesAsText());
        Optional<Destination> replyTo = answered ? Optional.of(replyTo(address, opened, session)) : Optional.empty();
        // an answer to a topic is missed by who comes later, one in a queue is not
        MessageConsumer replies = null;
        if (replyTo.isPresent()) {
            message.setJMSReplyTo(replyTo.get());
            replies = isShared(replyTo.get()) ? null : session.createConsumer(replyTo.get());
        }
        try (MessageProducer producer = session.createProducer(to)) {
            Envelopes.settle(producer, address);
            producer.send(message);
        }
        long sent = System.nanoTime();
        JmsMessage asSent = new JmsMessage("TO " + address.title(), Envelopes.headers(message), request.body());
        if (replyTo.isEmpty()) {
            return new CallResult(
                    started,
                    asSent,
                    Optional.of(accepted()),
                    new Timing(connected - begun, sent - connected, 0, 0),
                    Optional.empty(),
                    Optional.empty(),
                    "");
        }
        String id = message.getJMSMessageID();
        if (replies == null) {
            replies = session.createConsumer(replyTo.get(), "JMSCorrelationID = '" + id.replace("'", "''") + "'");
        }
        boolean own = replyTo.get() instanceof TemporaryQueue;
        Message reply = awaited(replies, own ? Optional.empty() : Optional.of(id), by, stop);
        long came = System.nanoTime();
        replies.close();
        if (own) {
            ((TemporaryQueue) replyTo.get()).delete();
        }
        Timing timing = new Timing(connected - begun, sent - connected, came - sent, 0);
        if (reply == null) {
            return new CallResult(
                    started,
                    asSent,
                    Optional.empty(),
                    timing,
                    Optional.empty(),
                    Optional.of(stop.isStopped() ? "Stopped" : "No answer came within " + Took.words(patience(by))),
                    stop.isStopped() ? "" : "Check that something takes messages from " + address.title() + ".");
        }
        String from = own ? "a queue of its own" : Envelopes.name(reply.getJMSDestination());
        boolean correlated = id.equals(reply.getJMSCorrelationID());
        JmsMessage answer =
                Envelopes.read(reply, "FROM " + from + (correlated ? "" : ", not correlated by its sender"));
        boolean readable = Envelopes.holdsEnvelope(reply);
        return new CallResult(
                started,
                asSent,
                Optional.of(answer),
                timing,
                Optional.empty(),
                readable ? Optional.empty() : Optional.of("The answer is neither a text nor a bytes message"),
                readable ? "" : "SOAP over JMS has no other kinds (§2.4).");
    }

    /** That a one-way message was taken, as an answer without a body. */
    static JmsMessage accepted() {
        return new JmsMessage("ACCEPTED by the broker", java.util.List.of(), Content.NONE);
    }

    /** What became of a request that could not be sent: nothing. */
    public static CallResult unsent(CallRequest request, Problem problem) {
        return new CallResult(
                Instant.now(),
                RequestProperties.shown(request, request.body()),
                Optional.empty(),
                Timing.NONE,
                Optional.empty(),
                Optional.of(problem.what()),
                problem.advice().orElse(""));
    }

    private static Destination replyTo(JmsAddress address, Connections.Opened opened, Session session)
            throws JMSException {
        Optional<String> topic = address.parameter("topicReplyToName");
        if (topic.isPresent()) {
            return opened.destination(session, JmsAddress.Variant.TOPIC, topic.get());
        }
        Optional<String> name = address.parameter("replyToName");
        if (name.isPresent()) {
            JmsAddress.Variant variant =
                    address.variant() == JmsAddress.Variant.TOPIC ? JmsAddress.Variant.QUEUE : address.variant();
            return opened.destination(session, variant, name.get());
        }
        return session.createTemporaryQueue();
    }

    private static boolean isShared(Destination replyTo) {
        return replyTo instanceof Queue && !(replyTo instanceof TemporaryQueue);
    }

    /** There is no silence within an answer that comes whole: how long it may take and how long all may, are one. */
    private static Duration patience(Connect by) {
        Connect.Timeouts timeouts = by.timeouts();
        return timeouts.answer().compareTo(timeouts.whole()) < 0 ? timeouts.answer() : timeouts.whole();
    }

    /** @param id with which an answer must be correlated; empty where only this one's can come */
    private static Message awaited(MessageConsumer replies, Optional<String> id, Connect by, StopSignal stop)
            throws JMSException {
        long until = System.nanoTime() + patience(by).toNanos();
        while (System.nanoTime() < until && !stop.isStopped()) {
            long left = Math.max(1, Math.min(STEP_MILLIS, (until - System.nanoTime()) / 1_000_000));
            Message reply = replies.receive(left);
            // to a topic, answers to others come too; a service that says nothing of whose it is means the one who
            // waits
            if (reply != null
                    && (id.isEmpty()
                            || reply.getJMSCorrelationID() == null
                            || id.get().equals(reply.getJMSCorrelationID()))) {
                return reply;
            }
        }
        return null;
    }

    private Connections.Opened opened(JmsAddress address, Connect by) {
        Key key = key(address, by);
        synchronized (open) {
            if (closed) {
                throw Problem.stopped();
            }
            Connections.Opened there = open.get(key);
            if (there != null) {
                return there;
            }
        }
        Connections.Opened made = connections.open(address, by);
        synchronized (open) {
            Connections.Opened first = open.putIfAbsent(key, made);
            if (first != null) {
                made.close();
                return first;
            }
            return made;
        }
    }

    private void forget(Key key, Connections.Opened lost) {
        synchronized (open) {
            // another call may have put a good one in its place
            open.remove(key, lost);
        }
        lost.close();
    }

    private static Key key(JmsAddress address, Connect by) {
        Map<String, String> names = new HashMap<>(address.parameters());
        names.keySet().removeIf(n -> !n.startsWith("jndi"));
        return new Key(
                address.parameter("jndiURL").orElse(""), Map.copyOf(names), by.login(), by.context(), by.trust());
    }

    @Override
    public void close() {
        synchronized (open) {
            closed = true;
            open.values().forEach(Connections.Opened::close);
            open.clear();
        }
    }
}
