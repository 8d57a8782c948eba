package dev.mockbell.wire.jms;

import dev.mockbell.problem.Problem;
import jakarta.jms.ConnectionFactory;
import jakarta.jms.JMSException;
import jakarta.jms.Message;
import java.net.URI;
import javax.net.ssl.SSLContext;
import org.apache.activemq.artemis.jms.client.ActiveMQConnectionFactory;
import org.apache.qpid.jms.JmsConnectionFactory;

/** The clients of brokers that are in the program. A message that was not taken is not tried again for ever. */
final class Brokers {
    private Brokers() {}

    /** By the broker's own protocol. */
    static ConnectionFactory core(URI broker, long connectMillis) {
        ActiveMQConnectionFactory factory = new ActiveMQConnectionFactory(broker.toString());
        try {
            factory.setReconnectAttempts(0);
            factory.setInitialConnectAttempts(1);
            factory.setConnectionTTL(60_000);
            factory.setCallTimeout(Math.max(1_000, connectMillis));
            factory.setBlockOnDurableSend(true);
            // objects in messages are nothing that a SOAP message is
            factory.setDeserializationAllowList("none");
        } catch (RuntimeException e) {
            factory.close();
            throw e;
        }
        return factory;
    }

    /**
     * By AMQP 1.0.
     *
     * @param tls whom to trust and as whom to come, for {@code amqps}
     */
    static ConnectionFactory amqp(URI broker, long connectMillis, SSLContext tls) {
        JmsConnectionFactory factory = new JmsConnectionFactory(broker.toString());
        factory.setConnectTimeout(Math.max(1_000, connectMillis));
        factory.setForceSyncSend(true);
        if ("amqps".equalsIgnoreCase(broker.getScheme())) {
            factory.setSslContext(tls);
        }
        return factory;
    }

    /**
     * The identifier by which its sender knows a message. Artemis gives one that came by AMQP and is taken by its own protocol
     * another, and keeps the sender's beside it.
     */
    static String id(Message message) throws JMSException {
        String sent = message.getStringProperty("NATIVE_MESSAGE_ID");
        return sent == null ? message.getJMSMessageID() : sent;
    }

    /** What a client says of a connection that it could not use. */
    static Problem lost(JMSException e, String where) {
        return Problem.of(Problem.Kind.NO_ANSWER, "The broker broke off: " + Problem.reason(e), where, "Try again.", e);
    }
}
