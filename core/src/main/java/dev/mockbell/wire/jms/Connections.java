package dev.mockbell.wire.jms;

import dev.mockbell.problem.Problem;
import dev.mockbell.wire.Connect;
import dev.mockbell.wire.Login;
import jakarta.jms.Connection;
import jakarta.jms.ConnectionFactory;
import jakarta.jms.Destination;
import jakarta.jms.JMSException;
import jakarta.jms.Session;
import java.net.URI;
import java.util.Hashtable;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import javax.naming.Context;

/** Opens connections to brokers, by the two clients that are in the program or by a provider of the user's own. */
final class Connections {
    /** Context factories that look nothing up over the network by themselves: what a project says may name them. */
    private static final Set<String> OWN = Set.of(
            "org.apache.activemq.artemis.jndi.ActiveMQInitialContextFactory",
            "org.apache.qpid.jms.jndi.JmsInitialContextFactory");

    /** Parameters of a broker's address that only say how much, how long, and that it speaks TLS. */
    private static final Set<String> TAKEN = Set.of(
            "sslEnabled",
            "consumerWindowSize",
            "producerWindowSize",
            "minLargeMessageSize",
            "compressLargeMessages",
            "callTimeout",
            "connectionTTL",
            "tcpNoDelay",
            "tcpSendBufferSize",
            "tcpReceiveBufferSize",
            "amqp.vhost",
            "amqp.idleTimeout",
            "amqp.maxFrameSize",
            "amqp.saslMechanisms",
            "jms.clientID",
            "jms.prefetchPolicy.all",
            "transport.tcpNoDelay");

    private static final String USUAL = "org.apache.activemq.artemis.jndi.ActiveMQInitialContextFactory";

    private final ProviderJars jars;

    Connections(ProviderJars jars) {
        this.jars = jars;
    }

    /** A connection that delivers, with what its destination is found by. */
    record Opened(Connection connection, Optional<Names> names) {
        /** The destination of an address, or another by its name in the same way. */
        Destination destination(Session session, JmsAddress.Variant variant, String name) throws JMSException {
            return switch (variant) {
                case QUEUE -> session.createQueue(name);
                case TOPIC -> session.createTopic(name);
                case JNDI ->
                    names.orElseThrow()
                            .found(
                                    name,
                                    Destination.class,
                                    "destination",
                                    "Check the name, or give it by a parameter such as jndi-queue." + name + ".");
            };
        }

        void close() {
            try {
                connection.close();
            } catch (JMSException gone) {
                // there is nothing left to close
                return;
            }
        }
    }

    /**
     * Opens a connection.
     *
     * @throws Problem when there is no broker, it cannot be reached, or it refuses the login
     */
    Opened open(JmsAddress address, Connect by) {
        String user = by.login().map(Connections::user).orElse(null);
        String password = by.login().map(Connections::password).orElse(null);
        Optional<Names> names = address.isLookedUp() ? Optional.of(names(address)) : Optional.empty();
        try {
            if (names.isEmpty()) {
                return opened(known(address, by), user, password, names);
            }
            ConnectionFactory found = names.get()
                    .found(
                            address.parameter("jndiConnectionFactoryName").orElse("ConnectionFactory"),
                            ConnectionFactory.class,
                            "connection factory",
                            "Give the right one by jndiConnectionFactoryName.");
            // one of the program's is settled as it always is
            ConnectionFactory factory = OWN.contains(provider(address)) ? known(address, by) : found;
            return names.get().within(() -> opened(factory, user, password, names));
        } catch (JMSException e) {
            throw refused(address, e);
        }
    }

    private static Opened opened(ConnectionFactory factory, String user, String password, Optional<Names> names)
            throws JMSException {
        Connection connection = user == null ? factory.createConnection() : factory.createConnection(user, password);
        connection.start();
        return new Opened(connection, names);
    }

    private static String user(Login login) {
        return login instanceof Login.Basic b ? b.user() : login instanceof Login.WhenAsked w ? w.user() : null;
    }

    private static String password(Login login) {
        return login instanceof Login.Basic b ? b.password() : login instanceof Login.WhenAsked w ? w.password() : null;
    }

    private static Problem refused(JmsAddress address, JMSException e) {
        String broker = address.broker().map(URI::toString).orElse(address.requestUri());
        boolean login = e instanceof jakarta.jms.JMSSecurityException
                || String.valueOf(e.getMessage())
                        .matches("(?is).*(AMQ229031|unable to validate user|sasl|unauthori).*");
        return Problem.of(
                Problem.Kind.NO_ANSWER,
                login ? "The broker refuses the login" : "The broker cannot be reached: " + Problem.reason(e),
                broker,
                login ? "Give name and password in the security profile." : "Check that it runs and listens there.",
                e);
    }

    /** The provider and the broker are told by parameters of their own, which are looked at; not by the context's names for them. */
    private static void refuseOther(String factory, String key) {
        boolean broker = OWN.contains(factory) && key.toLowerCase(Locale.ROOT).startsWith("connectionfactory");
        if (broker || key.startsWith("java.naming.")) {
            throw Problem.input(
                    "The parameter jndi-" + key + " is not taken",
                    factory,
                    "Say the provider by jndiInitialContextFactory and the broker by jndiURL.");
        }
    }

    private static ConnectionFactory known(JmsAddress address, Connect by) {
        URI broker = known(address);
        long millis = by.timeouts().connect().toMillis();
        return "tcp".equalsIgnoreCase(broker.getScheme())
                ? Brokers.core(broker, millis)
                : Brokers.amqp(broker, millis, by.tls());
    }

    private static URI known(JmsAddress address) {
        URI broker = address.broker()
                .orElseThrow(() -> Problem.input(
                        "The address does not say where the broker is",
                        address.requestUri(),
                        "Put ?jndiURL=tcp://HOST:61616 or ?jndiURL=amqp://HOST:5672 behind it."));
        if (!address.isKnownBroker() || broker.getHost() == null) {
            throw Problem.input(
                    "A broker is not reached by “" + broker.getScheme() + "”",
                    broker.toString(),
                    "Write tcp://HOST:PORT, amqp://HOST:PORT or amqps://HOST:PORT, or name the provider's"
                            + " jndiInitialContextFactory.");
        }
        refuseOthers(broker);
        return broker;
    }

    /** A project says where a broker is and how much goes to it; not what classes, files and certificates are used for that. */
    private static void refuseOthers(URI broker) {
        String query = broker.getRawQuery();
        for (String pair : query == null ? new String[0] : query.split("[&;]")) {
            String name = pair.replaceAll("=.*", "");
            if (!TAKEN.contains(name)) {
                throw Problem.input(
                        "The broker's parameter " + name + " is not taken",
                        broker.toString(),
                        "Those that are: " + String.join(", ", new TreeSet<>(TAKEN)) + ".");
            }
        }
    }

    private static String provider(JmsAddress address) {
        return address.parameter("jndiInitialContextFactory").orElse(USUAL);
    }

    private Names names(JmsAddress address) {
        String name = provider(address);
        Hashtable<String, String> environment = new Hashtable<>();
        for (Map.Entry<String, String> parameter : address.parameters().entrySet()) {
            // RFC 6167 §4.1.4: what begins so is for the context
            if (parameter.getKey().startsWith("jndi-")) {
                String key = parameter.getKey().substring("jndi-".length());
                refuseOther(name, key);
                environment.put(key, parameter.getValue());
            }
        }
        if (OWN.contains(name)) {
            // secrets are given for the host of this broker, and so it is this one that is reached
            known(address);
        }
        environment.put(Context.INITIAL_CONTEXT_FACTORY, name);
        address.parameter("jndiURL").ifPresent(url -> {
            environment.put(Context.PROVIDER_URL, url);
            if (OWN.contains(name)) {
                environment.put("connectionFactory.ConnectionFactory", url);
                environment.put("connectionfactory.ConnectionFactory", url);
            }
        });
        // a provider may be one of the user's own jars and nothing else: a context of the JDK itself fetches what it
        // is told
        return Names.of(
                name, environment, OWN.contains(name) ? Connections.class.getClassLoader() : jars.loaderOf(name));
    }
}
