package dev.mockbell.wire.jms;

import dev.mockbell.wire.EventLoops;
import java.nio.file.Path;
import java.util.Set;
import org.apache.activemq.artemis.core.config.impl.ConfigurationImpl;
import org.apache.activemq.artemis.core.security.CheckType;
import org.apache.activemq.artemis.core.security.Role;
import org.apache.activemq.artemis.core.server.embedded.EmbeddedActiveMQ;
import org.apache.activemq.artemis.core.settings.impl.AddressSettings;
import org.apache.activemq.artemis.spi.core.security.ActiveMQSecurityManager;

/** A real broker within the test, on the loopback address, that speaks its own protocol and AMQP 1.0. */
public final class Broker implements AutoCloseable {
    private final EmbeddedActiveMQ broker = new EmbeddedActiveMQ();
    private final int port;

    public Broker() throws Exception {
        this(null, null);
    }

    /** One that asks for a login. */
    public Broker(String user, String password) throws Exception {
        this(EventLoops.freePort(20_000 + (int) (System.nanoTime() % 20_000)), user, password);
    }

    private Broker(int port, String user, String password) throws Exception {
        this(port, user, password, "");
    }

    private Broker(int port, String user, String password, String more) throws Exception {
        this.port = port;
        ConfigurationImpl configuration = new ConfigurationImpl();
        configuration.setPersistenceEnabled(false);
        configuration.setSecurityEnabled(user != null);
        configuration.setJMXManagementEnabled(false);
        configuration.addAcceptorConfiguration("tcp", "tcp://127.0.0.1:" + port + "?protocols=CORE,AMQP" + more);
        configuration.addAddressSetting(
                "#",
                new AddressSettings()
                        .setAutoCreateQueues(true)
                        .setAutoCreateAddresses(true)
                        .setAutoDeleteQueues(false));
        if (user != null) {
            configuration.putSecurityRoles(
                    "#",
                    Set.of(new Role("all", true, true, true, true, true, true, true, true, true, true, true, true)));
            broker.setSecurityManager(new One(user, password));
        }
        broker.setConfiguration(configuration);
        broker.start();
    }

    /** One that speaks TLS, with a key of the test's. */
    static Broker secure(Path keys) throws Exception {
        int port = EventLoops.freePort(20_000 + (int) (System.nanoTime() % 20_000));
        return new Broker(
                port,
                null,
                null,
                "&sslEnabled=true&keyStorePath=" + keys + "&keyStorePassword=changeit&keyStoreType=PKCS12");
    }

    /** Another in the place of this one, which is closed. */
    public Broker again() throws Exception {
        return new Broker(port, null, null);
    }

    /** Where it is by its own protocol. */
    public String tcp() {
        return "tcp://127.0.0.1:" + port;
    }

    /** Where it is by AMQP. */
    public String amqp() {
        return "amqp://127.0.0.1:" + port;
    }

    /** Where one that speaks TLS is, by a name. */
    String amqps(String host) {
        return "amqps://" + host + ":" + port;
    }

    /** How many messages wait in a queue. */
    public long waiting(String queue) {
        var found = broker.getActiveMQServer().locateQueue(queue);
        return found == null ? 0 : found.getMessageCount();
    }

    /** How many queues there are, temporary ones too. */
    public int queues() {
        return (int) broker.getActiveMQServer().getPostOffice().getAllBindings().count();
    }

    @Override
    public void close() {
        try {
            broker.stop();
        } catch (Exception e) {
            throw new IllegalStateException(e);
        }
    }

    /** Lets one user in. */
    private record One(String user, String password) implements ActiveMQSecurityManager {
        @Override
        public boolean validateUser(String name, String word) {
            return user.equals(name) && password.equals(word);
        }

        @Override
        public boolean validateUserAndRole(String name, String word, Set<Role> roles, CheckType type) {
            return validateUser(name, word);
        }
    }
}
