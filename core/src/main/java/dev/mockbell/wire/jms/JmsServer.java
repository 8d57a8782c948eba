package dev.mockbell.wire.jms;

import dev.mockbell.content.Content;
import dev.mockbell.exchange.JmsMessage;
import dev.mockbell.problem.Problem;
import dev.mockbell.wire.Connect;
import jakarta.jms.DeliveryMode;
import jakarta.jms.Destination;
import jakarta.jms.JMSException;
import jakarta.jms.Message;
import jakarta.jms.MessageConsumer;
import jakarta.jms.MessageProducer;
import jakarta.jms.Session;
import jakarta.jms.TextMessage;
import java.time.Duration;
import java.util.Optional;
import java.util.function.Consumer;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** Takes requests from a queue or topic and sends what is answered to where they ask for it. */
public final class JmsServer implements AutoCloseable {
    private static final Logger LOG = LoggerFactory.getLogger(JmsServer.class);

    /** Requests of a queue that are answered at once; a topic brings each to all that listen, so there is one. */
    private static final int AT_ONCE = 4;

    private static final Duration BETWEEN_TRIES = Duration.ofSeconds(1);

    private final JmsAddress address;
    private final Reach reach;
    private final Connections connections;
    private final Handler handler;
    private Optional<Connections.Opened> opened = Optional.empty();
    private Optional<Connections.Opened> stillborn = Optional.empty();
    private Thread returning;
    private boolean closed;

    /**
     * How a broker is reached by one who stays there.
     *
     * @param by who logs in
     * @param told hears when the broker is lost and when it is back, a sentence each, on any thread
     */
    public record Reach(Connect by, ProviderJars jars, Consumer<String> told) {}

    /** Answers requests. Called from several threads at once. */
    @FunctionalInterface
    public interface Handler {
        /**
         * Answers a request.
         *
         * @param envelope whether it is a text or a bytes message, which alone may hold an envelope
         * @return what to send; empty to send nothing
         */
        Optional<Reply> answer(JmsMessage request, boolean envelope);
    }

    /**
     * An answer.
     *
     * @param fault whether it is a fault, which the binding says of it (SOAP over JMS §2.2.3, isFault)
     * @param heard hears of it once it is sent, as it was
     * @param over is run when it is sent, or cannot be
     */
    public record Reply(Content body, String contentType, boolean fault, Consumer<JmsMessage> heard, Runnable over) {
        /** One after which nothing is done. */
        public Reply(Content body, String contentType, boolean fault, Consumer<JmsMessage> heard) {
            this(body, contentType, fault, heard, () -> {});
        }
    }

    private JmsServer(JmsAddress address, Reach reach, Handler handler) {
        this.address = address;
        this.reach = reach;
        this.connections = new Connections(reach.jars());
        this.handler = handler;
    }

    /**
     * Begins to take requests. When the broker goes, it is gone back to as soon as it is there again.
     *
     * @throws Problem when the broker is not there, refuses, or does not have the destination
     */
    public static JmsServer listen(JmsAddress address, Reach reach, Handler handler) {
        JmsServer server = new JmsServer(address, reach, handler);
        server.begin();
        return server;
    }

    private void begin() {
        Connections.Opened fresh = connections.open(address, reach.by());
        try {
            fresh.connection().setExceptionListener(e -> lost(fresh, e));
            int count = address.variant() == JmsAddress.Variant.TOPIC ? 1 : AT_ONCE;
            for (int i = 0; i < count; i++) {
                consume(fresh);
            }
        } catch (JMSException e) {
            fresh.close();
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The broker does not let messages be taken from " + address.title() + ": " + Problem.reason(e),
                    address.requestUri(),
                    "Check its name and the rights of the login.",
                    e);
        } catch (RuntimeException e) {
            fresh.close();
            throw e;
        }
        adopt(fresh);
    }

    private synchronized void adopt(Connections.Opened fresh) {
        boolean broke = stillborn.filter(s -> s == fresh).isPresent();
        stillborn = Optional.empty();
        if (!closed && !broke) {
            opened = Optional.of(fresh);
            return;
        }
        fresh.close();
        if (broke) {
            throw Problem.of(Problem.Kind.NO_ANSWER, "The broker broke off", address.requestUri(), "Try again.", null);
        }
    }

    private synchronized void lost(Connections.Opened broken, JMSException why) {
        if (closed || opened.filter(o -> o == broken).isEmpty()) {
            // one that broke before it was taken into use, or is no longer
            stillborn = Optional.of(broken);
            return;
        }
        opened = Optional.empty();
        returning = new Thread(() -> comeBack(broken), "queue-" + address.destination());
        returning.setDaemon(true);
        returning.start();
        reach.told()
                .accept("The broker of " + address.title() + " broke off: " + Problem.reason(why)
                        + ". It is gone back to as soon as it is there.");
    }

    private void comeBack(Connections.Opened broken) {
        broken.close();
        while (!isClosed()) {
            try {
                Thread.sleep(BETWEEN_TRIES.toMillis());
                begin();
                reach.told().accept("Requests are taken from " + address.title() + " again.");
                return;
            } catch (InterruptedException e) {
                return;
            } catch (Problem notYet) {
                LOG.debug("{} is not there yet", address.title(), notYet);
            }
        }
    }

    private synchronized boolean isClosed() {
        return closed;
    }

    private void consume(Connections.Opened from) throws JMSException {
        Session session = from.connection().createSession(false, Session.AUTO_ACKNOWLEDGE);
        MessageConsumer consumer =
                session.createConsumer(from.destination(session, address.variant(), address.destination()));
        MessageProducer producer = session.createProducer(null);
        producer.setDeliveryMode(address.isPersistent() ? DeliveryMode.PERSISTENT : DeliveryMode.NON_PERSISTENT);
        consumer.setMessageListener(message -> {
            try {
                answer(session, producer, message);
            } catch (JMSException | RuntimeException e) {
                // one request that cannot be answered must not end the taking of others
                LOG.warn("a request of {} could not be answered", address.title(), e);
            }
        });
    }

    private void answer(Session session, MessageProducer producer, Message message) throws JMSException {
        JmsMessage request = Envelopes.read(message, "FROM " + address.title());
        Optional<Reply> reply = handler.answer(request, Envelopes.holdsEnvelope(message));
        if (reply.isPresent()) {
            try {
                send(session, producer, message, request, reply.get());
            } finally {
                reply.get().over().run();
            }
        }
    }

    private void send(Session session, MessageProducer producer, Message message, JmsMessage request, Reply reply)
            throws JMSException {
        Destination to = message.getJMSReplyTo();
        if (to == null) {
            // nobody waits for it, and so it is told as it would have been
            reply.heard().accept(new JmsMessage("NOT SENT, no JMSReplyTo", java.util.List.of(), reply.body()));
            return;
        }
        Message made = Envelopes.made(session, reply.body(), reply.contentType(), message instanceof TextMessage);
        made.setJMSCorrelationID(Brokers.id(message));
        request.header(Envelopes.REQUEST_URI).ifPresent(uri -> set(made, Envelopes.REQUEST_URI, uri));
        if (reply.fault()) {
            made.setBooleanProperty(Envelopes.FAULT, true);
        }
        producer.setPriority(message.getJMSPriority());
        producer.send(to, made);
        reply.heard().accept(new JmsMessage("TO " + Envelopes.name(to), Envelopes.headers(made), reply.body()));
    }

    private static void set(Message message, String name, String value) {
        try {
            message.setStringProperty(name, value);
        } catch (JMSException e) {
            LOG.debug("the answer goes without {}", name, e);
        }
    }

    /** Where it takes them from. */
    public JmsAddress address() {
        return address;
    }

    @Override
    public void close() {
        Optional<Connections.Opened> last;
        synchronized (this) {
            closed = true;
            last = opened;
            if (returning != null) {
                returning.interrupt();
            }
        }
        last.ifPresent(Connections.Opened::close);
    }
}
