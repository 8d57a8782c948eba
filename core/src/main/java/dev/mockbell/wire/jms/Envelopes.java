package dev.mockbell.wire.jms;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.exchange.JmsMessage;
import dev.mockbell.problem.Problem;
import dev.mockbell.xml.TextEncoding;
import jakarta.jms.BytesMessage;
import jakarta.jms.DeliveryMode;
import jakarta.jms.Destination;
import jakarta.jms.JMSException;
import jakarta.jms.Message;
import jakarta.jms.MessageProducer;
import jakarta.jms.Queue;
import jakarta.jms.Session;
import jakarta.jms.TextMessage;
import jakarta.jms.Topic;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Enumeration;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.TreeSet;

/** SOAP envelopes in messages of JMS and back (SOAP over Java Message Service 1.0 §2.2, §2.4). */
final class Envelopes {
    static final String VERSION = "SOAPJMS_bindingVersion";
    static final String REQUEST_URI = "SOAPJMS_requestURI";
    static final String ACTION = "SOAPJMS_soapAction";
    static final String TARGET = "SOAPJMS_targetService";
    static final String FAULT = "SOAPJMS_isFault";
    static final String ENCODING = "SOAPJMS_contentEncoding";

    /** What a body may have; a message of a queue is held whole by its nature. */
    private static final long MOST_BYTES = 256L << 20;

    private Envelopes() {}

    /** A message with a body, as text where that is wanted. */
    static Message made(Session session, Content body, String contentType, boolean text) throws JMSException {
        byte[] bytes = body.bytes();
        Message message;
        if (text) {
            TextEncoding encoding = TextEncoding.of(bytes, contentType);
            message = session.createTextMessage(encoding.decode(bytes));
        } else {
            BytesMessage made = session.createBytesMessage();
            made.writeBytes(bytes);
            message = made;
        }
        message.setStringProperty(VERSION, "1.0");
        message.setStringProperty(JmsMessage.CONTENT_TYPE, contentType);
        return message;
    }

    /**
     * A request with the properties that it is shown with.
     *
     * @throws Problem when the provider does not take one of them
     */
    static Message request(Session session, JmsMessage shown, boolean text) throws JMSException {
        Message message = made(
                session, shown.body(), shown.header(JmsMessage.CONTENT_TYPE).orElse(""), text);
        for (Header header : shown.headers()) {
            // what begins so are the fields of JMS, which are the producer's to set
            if (!header.name().startsWith("JMS")) {
                set(message, header.name(), header.value());
            }
        }
        return message;
    }

    private static void set(Message message, String name, String value) {
        try {
            message.setStringProperty(name, value);
        } catch (JMSException e) {
            throw Problem.of(
                    Problem.Kind.INPUT, "The message takes no property " + name, value, "Leave the header out.", e);
        }
    }

    /** Has a producer send as an address says (RFC 6167 §4.1). */
    static void settle(MessageProducer producer, JmsAddress address) throws JMSException {
        producer.setDeliveryMode(address.isPersistent() ? DeliveryMode.PERSISTENT : DeliveryMode.NON_PERSISTENT);
        producer.setPriority(address.priority().orElse(Message.DEFAULT_PRIORITY));
        producer.setTimeToLive(address.timeToLive().orElse(Message.DEFAULT_TIME_TO_LIVE));
    }

    /** A property whose name JMS allows (Jakarta Messaging 3.1 §3.8.1.1); empty for one that it does not. */
    static Optional<String> property(String header) {
        String name = header.replace('-', '_');
        boolean allowed = name.matches("[A-Za-z_$][A-Za-z0-9_$]*")
                && !name.toUpperCase(Locale.ROOT).startsWith("JMS");
        return allowed ? Optional.of(name) : Optional.empty();
    }

    /** What a message says, with its body. */
    static JmsMessage read(Message message, String title) throws JMSException {
        return new JmsMessage(title, headers(message), body(message));
    }

    /** The header fields of a message that were set, and its properties. */
    static List<Header> headers(Message message) throws JMSException {
        List<Header> headers = new ArrayList<>();
        add(headers, "JMSMessageID", message.getJMSMessageID());
        add(headers, "JMSCorrelationID", message.getJMSCorrelationID());
        add(headers, "JMSReplyTo", message.getJMSReplyTo() == null ? null : name(message.getJMSReplyTo()));
        add(headers, "JMSDeliveryMode", message.getJMSDeliveryMode() == 1 ? "NON_PERSISTENT" : "PERSISTENT");
        add(headers, "JMSPriority", String.valueOf(message.getJMSPriority()));
        if (message.getJMSExpiration() > 0) {
            add(headers, "JMSExpiration", String.valueOf(message.getJMSExpiration()));
        }
        add(headers, "JMSType", message.getJMSType());
        TreeSet<String> names = new TreeSet<>();
        for (Enumeration<?> all = message.getPropertyNames(); all.hasMoreElements(); ) {
            names.add(String.valueOf(all.nextElement()));
        }
        for (String name : names) {
            if (!name.startsWith("JMSX") && !name.startsWith("JMS_")) {
                add(headers, name, String.valueOf(message.getObjectProperty(name)));
            }
        }
        return headers;
    }

    private static void add(List<Header> headers, String name, String value) {
        if (value != null) {
            // one line each, whatever a client put there
            headers.add(new Header(name, value.replaceAll("[\\r\\n]+", " ")));
        }
    }

    static String name(Destination destination) throws JMSException {
        return destination instanceof Queue q
                ? "queue " + q.getQueueName()
                : destination instanceof Topic t ? "topic " + t.getTopicName() : String.valueOf(destination);
    }

    /** Whether a message is of a kind that may hold an envelope (§2.4: text and bytes). */
    static boolean holdsEnvelope(Message message) {
        return message instanceof TextMessage || message instanceof BytesMessage;
    }

    /** Text has no bytes of its own: they are such that it is read from them again, by what it says of its encoding. */
    private static byte[] bytes(TextMessage message) throws JMSException {
        String text = message.getText();
        byte[] utf8 = text.getBytes(StandardCharsets.UTF_8);
        Charset read = TextEncoding.of(utf8, String.valueOf(message.getStringProperty(JmsMessage.CONTENT_TYPE)))
                .charset();
        boolean differs =
                !read.equals(StandardCharsets.UTF_8) && read.newEncoder().canEncode(text);
        return differs ? text.getBytes(read) : utf8;
    }

    private static Content body(Message message) throws JMSException {
        if (message instanceof TextMessage text) {
            return text.getText() == null ? Content.NONE : Content.of(bytes(text));
        }
        if (message instanceof BytesMessage bytes) {
            bytes.reset();
            long length = bytes.getBodyLength();
            if (length > MOST_BYTES) {
                throw new JMSException("the message has " + length + " bytes, more than are taken");
            }
            byte[] body = new byte[(int) length];
            int read = bytes.readBytes(body);
            return Content.of(read < body.length ? java.util.Arrays.copyOf(body, Math.max(0, read)) : body);
        }
        return Content.NONE;
    }
}
