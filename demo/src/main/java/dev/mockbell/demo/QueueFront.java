package dev.mockbell.demo;

import dev.mockbell.content.Content;
import dev.mockbell.exchange.JmsMessage;
import dev.mockbell.wire.Connect;
import dev.mockbell.wire.EventLoops;
import dev.mockbell.wire.jms.JmsAddress;
import dev.mockbell.wire.jms.JmsServer;
import dev.mockbell.wire.jms.ProviderJars;
import java.io.IOException;
import java.io.InputStream;
import java.net.HttpURLConnection;
import java.net.URI;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import org.apache.activemq.artemis.core.config.impl.ConfigurationImpl;
import org.apache.activemq.artemis.core.server.embedded.EmbeddedActiveMQ;
import org.apache.activemq.artemis.core.settings.impl.AddressSettings;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * The trail conditions by way of a queue: a broker on the loopback address that others wrote, and behind it the same service. It
 * starts beside the rest, which does not wait for it.
 */
final class QueueFront implements AutoCloseable {
    static final String QUEUE = "trail-conditions";

    private static final Logger LOG = LoggerFactory.getLogger(QueueFront.class);

    private final int port;
    private final String service;
    private final EmbeddedActiveMQ broker = new EmbeddedActiveMQ();
    private final CompletableFuture<Optional<JmsServer>> started = new CompletableFuture<>();

    /**
     * @param wanted where it listens, or on the next free port
     * @param service the address of the service behind it
     */
    QueueFront(int wanted, String service) {
        this.port = EventLoops.freePort(wanted);
        this.service = service;
        Thread starting = new Thread(this::start, "queue-front");
        starting.setDaemon(true);
        starting.start();
    }

    /** The address of its queue. */
    String address() {
        return "jms:queue:" + QUEUE + "?jndiURL=tcp://127.0.0.1:" + port;
    }

    private void start() {
        try {
            ConfigurationImpl configuration = new ConfigurationImpl();
            configuration.setPersistenceEnabled(false);
            configuration.setSecurityEnabled(false);
            configuration.setJMXManagementEnabled(false);
            configuration.addAcceptorConfiguration("tcp", "tcp://127.0.0.1:" + port + "?protocols=CORE,AMQP");
            configuration.addAddressSetting("#", new AddressSettings().setAutoDeleteQueues(false));
            broker.setConfiguration(configuration);
            broker.start();
            started.complete(Optional.of(JmsServer.listen(
                    JmsAddress.of(address()),
                    new JmsServer.Reach(Connect.USUAL, ProviderJars.NONE, LOG::info),
                    this::asked)));
        } catch (Exception e) {
            // the rest of the stand-in is as good without it
            LOG.warn("the queue of the stand-in does not work", e);
            started.complete(Optional.empty());
        }
    }

    /** Whether it takes messages; waits until that is known. */
    boolean isUp() {
        return started.join().isPresent();
    }

    private Optional<JmsServer.Reply> asked(JmsMessage request, boolean envelope) {
        try {
            HttpURLConnection connection =
                    (HttpURLConnection) URI.create(service).toURL().openConnection();
            connection.setDoOutput(true);
            connection.setRequestProperty(
                    "Content-Type", request.header("Content-Type").orElse("text/xml; charset=utf-8"));
            connection.setRequestProperty(
                    "SOAPAction", "\"" + request.header("SOAPJMS_soapAction").orElse("") + "\"");
            connection.getOutputStream().write(request.body().bytes());
            boolean fault = connection.getResponseCode() >= 400;
            try (InputStream in = fault ? connection.getErrorStream() : connection.getInputStream()) {
                return Optional.of(new JmsServer.Reply(
                        Content.of(in.readAllBytes()), connection.getContentType(), fault, sent -> {}));
            }
        } catch (IOException e) {
            LOG.warn("the service behind the queue does not answer", e);
            return Optional.empty();
        }
    }

    @Override
    public void close() {
        started.join().ifPresent(JmsServer::close);
        try {
            broker.stop();
        } catch (Exception e) {
            LOG.warn("the broker did not end in order", e);
        }
    }
}
