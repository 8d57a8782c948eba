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
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** Takes requests from a queue or topic and sends what is answered to where they ask for it. */
public final class JmsServer implements AutoCloseable {
    private static final Logger LOG = LoggerFactory.getLogger(JmsServer.class);

    /** Requests of a queue that are answered at once; a topic brings each to all that listen, so there is one. */
    private static final int AT_ONCE = 4;

    private final Connections.Opened opened;
    private final JmsAddress address;
    private final Handler handler;

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
     */
    public record Reply(
            Content body, String contentType, boolean fault, java.util.function.Consumer<JmsMessage> heard) {}

    private JmsServer(Connections.Opened opened, JmsAddress address, Handler handler) {
        this.opened = opened;
        this.address = address;
        this.handler = handler;
    }

    /**
     * Begins to take requests.
     *
     * @throws Problem when the broker is not there, refuses, or does not have the destination
     */
    public static JmsServer listen(JmsAddress address, Connect by, ProviderJars jars, Handler handler) {
        Connections.Opened opened = new Connections(jars).open(address, by);
        JmsServer server = new JmsServer(opened, address, handler);
        try {
            int count = address.variant() == JmsAddress.Variant.TOPIC ? 1 : AT_ONCE;
            for (int i = 0; i < count; i++) {
                server.consume();
            }
            return server;
        } catch (JMSException e) {
            opened.close();
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The broker does not let messages be taken from " + address.title() + ": " + Problem.reason(e),
                    address.requestUri(),
                    "Check its name and the rights of the login.",
                    e);
        }
    }

    private void consume() throws JMSException {
        Session session = opened.connection().createSession(false, Session.AUTO_ACKNOWLEDGE);
        Destination from = opened.destination(session, address.variant(), address.destination());
        MessageConsumer consumer = session.createConsumer(from);
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
        if (reply.isEmpty()) {
            return;
        }
        Destination to = message.getJMSReplyTo();
        if (to == null) {
            // nobody waits for it, and so it is told as it would have been
            reply.get()
                    .heard()
                    .accept(new JmsMessage(
                            "NOT SENT, no JMSReplyTo",
                            java.util.List.of(),
                            reply.get().body()));
            return;
        }
        Message made =
                Envelopes.made(session, reply.get().body(), reply.get().contentType(), message instanceof TextMessage);
        made.setJMSCorrelationID(message.getJMSMessageID());
        request.header(Envelopes.REQUEST_URI).ifPresent(uri -> set(made, Envelopes.REQUEST_URI, uri));
        if (reply.get().fault()) {
            made.setBooleanProperty(Envelopes.FAULT, true);
        }
        producer.setPriority(message.getJMSPriority());
        producer.send(to, made);
        reply.get()
                .heard()
                .accept(new JmsMessage(
                        "TO " + Envelopes.name(to),
                        Envelopes.headers(made),
                        reply.get().body()));
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
        opened.close();
    }
}
