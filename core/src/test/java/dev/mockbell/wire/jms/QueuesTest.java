package dev.mockbell.wire.jms;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.exchange.JmsMessage;
import dev.mockbell.problem.Problem;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.CallRequest;
import dev.mockbell.wire.CallResult;
import dev.mockbell.wire.Certificates;
import dev.mockbell.wire.Connect;
import dev.mockbell.wire.Login;
import jakarta.jms.BytesMessage;
import jakarta.jms.Connection;
import jakarta.jms.Message;
import jakarta.jms.MessageConsumer;
import jakarta.jms.Session;
import jakarta.jms.TextMessage;
import java.net.ServerSocket;
import java.net.SocketTimeoutException;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicReference;
import java.util.jar.JarEntry;
import java.util.jar.JarOutputStream;
import java.util.stream.Stream;
import javax.tools.ToolProvider;
import org.apache.activemq.artemis.jms.client.ActiveMQConnectionFactory;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Requests and answers by way of a real broker, by its own protocol and by AMQP 1.0. */
class QueuesTest {
    private static final String ENVELOPE =
            "<e:Envelope xmlns:e=\"http://schemas.xmlsoap.org/soap/envelope/\"><e:Body><Ping xmlns=\"urn:n\">ü</Ping></e:Body></e:Envelope>";
    private static final Connect SOON = Connect.USUAL.with(
            new Connect.Timeouts(Duration.ofSeconds(5), Duration.ofSeconds(10), Duration.ofSeconds(20)));

    private static Broker broker;

    @TempDir
    Path folder;

    private final ProviderJars jars = ProviderJars.NONE;
    private final JmsCaller caller = new JmsCaller(jars);

    @BeforeAll
    static void start() throws Exception {
        broker = new Broker();
    }

    @AfterAll
    static void stop() {
        broker.close();
    }

    @AfterEach
    void close() {
        caller.close();
    }

    private static String at(String destination, String url, String more) {
        return "jms:" + destination + "?jndiURL=" + url + more;
    }

    private CallResult call(String address, boolean answered) {
        CallRequest request = new CallRequest(
                "POST",
                URI.create(address),
                List.of(
                        new Header("Content-Type", "text/xml; charset=utf-8"),
                        new Header("SOAPAction", "\"urn:ping\""),
                        new Header("X-Ticket", "7"),
                        new Header("JMS-Bad", "1")),
                Content.of(ENVELOPE.getBytes(StandardCharsets.UTF_8)),
                Duration.ofSeconds(20));
        return caller.call(request, answered, SOON, new StopSignal());
    }

    /** Answers with what it was sent. */
    private JmsServer echo(String address, AtomicReference<JmsMessage> seen) {
        return JmsServer.listen(
                JmsAddress.of(address), new JmsServer.Reach(SOON, jars, told -> {}), (request, envelope) -> {
                    seen.set(request);
                    return Optional.of(
                            new JmsServer.Reply(request.body(), "text/xml; charset=utf-8", false, sent -> {}));
                });
    }

    @ParameterizedTest
    @ValueSource(strings = {"tcp", "amqp"})
    void aRequestToAQueueIsAnsweredByCorrelationWithThePropertiesOfTheBinding(String protocol) {
        String url = protocol.equals("tcp") ? broker.tcp() : broker.amqp();
        String address = at("queue:trails." + protocol, url, "&priority=7&timeToLive=60000&targetService=trails");
        AtomicReference<JmsMessage> seen = new AtomicReference<>();
        try (JmsServer server = echo(address, seen)) {
            assertThat(server.address().destination()).isNotEmpty();
            CallResult result = call(address, true);
            assertThat(result.failure()).isEmpty();
            assertThat(result.response().orElseThrow().text()).isEqualTo(ENVELOPE);
            assertThat(result.response().orElseThrow().header("JMSCorrelationID"))
                    .isEqualTo(result.request().header("JMSMessageID"));
            JmsMessage request = seen.get();
            assertThat(request.header("SOAPJMS_bindingVersion")).contains("1.0");
            assertThat(request.header("SOAPJMS_requestURI")).contains("jms:queue:trails." + protocol);
            assertThat(request.header("SOAPJMS_soapAction")).contains("urn:ping");
            assertThat(request.header("SOAPJMS_targetService")).contains("trails");
            assertThat(request.header("Content-Type")).contains("text/xml; charset=utf-8");
            assertThat(request.header("JMSPriority")).contains("7");
            assertThat(request.header("JMSExpiration")).isPresent();
            assertThat(request.header("X_Ticket")).contains("7");
            assertThat(request.header("JMS_Bad")).isEmpty();
            assertThat(result.timing().await()).isPositive();
        }
    }

    @ParameterizedTest
    @ValueSource(booleans = {true, false})
    void whoAsksAndWhoAnswersMayReachTheBrokerByDifferentProtocols(boolean amqpAsks) {
        String asks = amqpAsks ? broker.amqp() : broker.tcp();
        String answers = amqpAsks ? broker.tcp() : broker.amqp();
        AtomicReference<JmsMessage> seen = new AtomicReference<>();
        try (JmsServer server = echo(at("queue:across." + amqpAsks, answers, ""), seen)) {
            assertThat(server.address().destination()).isNotEmpty();
            CallResult result = call(at("queue:across." + amqpAsks, asks, ""), true);
            assertThat(result.failure()).isEmpty();
            assertThat(result.response().orElseThrow().text()).isEqualTo(ENVELOPE);
            assertThat(result.response().orElseThrow().header("JMSCorrelationID"))
                    .isEqualTo(result.request().header("JMSMessageID"));
        }
    }

    @Test
    void anAnswerThatIsNotCorrelatedIsTakenWhereNoOtherCanComeAndThatIsTold() throws Exception {
        try (ActiveMQConnectionFactory factory = new ActiveMQConnectionFactory(broker.tcp());
                Connection connection = factory.createConnection();
                Session session = connection.createSession()) {
            session.createConsumer(session.createQueue("loose")).setMessageListener(request -> {
                try {
                    TextMessage answer = session.createTextMessage(ENVELOPE);
                    answer.setJMSCorrelationID("something else");
                    session.createProducer(request.getJMSReplyTo()).send(answer);
                } catch (jakarta.jms.JMSException e) {
                    throw new IllegalStateException(e);
                }
            });
            connection.start();
            CallResult result = call(at("queue:loose", broker.tcp(), ""), true);
            assertThat(result.response().orElseThrow().title())
                    .isEqualTo("FROM a queue of its own, not correlated by its sender");
            assertThat(result.response().orElseThrow().text()).isEqualTo(ENVELOPE);
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "text/xml; charset=ISO-8859-1",
                "text/xml; charset=utf-16",
                "text/xml; charset=utf-8",
                "text/xml",
                "application/soap+xml"
            })
    void aTextIsReadAsItIsWhateverItSaysOfItsEncoding(String contentType) throws Exception {
        String declared = "<?xml version='1.0' encoding='ISO-8859-1'?>" + ENVELOPE;
        try (ActiveMQConnectionFactory factory = new ActiveMQConnectionFactory(broker.tcp());
                Connection connection = factory.createConnection();
                Session session = connection.createSession()) {
            for (String text : List.of(ENVELOPE, declared)) {
                TextMessage message = session.createTextMessage(text);
                message.setStringProperty("SOAPJMS_contentType", contentType);
                assertThat(Envelopes.read(message, "FROM test").text()).isEqualTo(text);
            }
        }
    }

    @Test
    void anAnswerGoesToTheQueueThatIsNamedForItAndComesToTheOneWhoWaits() {
        String address = at("queue:shared", broker.tcp(), "&replyToName=answers");
        try (JmsServer server = echo(address, new AtomicReference<>())) {
            assertThat(server.address().destination()).isNotEmpty();
            CallResult first = call(address, true);
            CallResult second = call(address, true);
            assertThat(second.response().orElseThrow().header("JMSCorrelationID"))
                    .isEqualTo(second.request().header("JMSMessageID"))
                    .isNotEqualTo(first.request().header("JMSMessageID"));
            assertThat(broker.waiting("answers")).isZero();
        }
    }

    @Test
    void aTopicCarriesRequestsAndAnswers() {
        String address = at("topic:huts", broker.tcp(), "&topicReplyToName=answers-of-huts");
        try (JmsServer server = echo(address, new AtomicReference<>())) {
            assertThat(server.address().destination()).isNotEmpty();
            assertThat(call(address, true).response().orElseThrow().text()).isEqualTo(ENVELOPE);
        }
    }

    @Test
    void textAndBytesMessagesAreSentAndTheAnswerIsOfTheSameKind() throws Exception {
        String address = at("queue:kinds", broker.tcp(), "");
        call(address, false);
        call(address + "&messageType=text", false);
        try (ActiveMQConnectionFactory factory = new ActiveMQConnectionFactory(broker.tcp());
                Connection connection = factory.createConnection();
                Session session = connection.createSession()) {
            connection.start();
            MessageConsumer consumer = session.createConsumer(session.createQueue("kinds"));
            Message first = consumer.receive(5_000);
            assertThat(first).isInstanceOf(BytesMessage.class);
            assertThat(first.getJMSReplyTo()).isNull();
            TextMessage second = (TextMessage) consumer.receive(5_000);
            assertThat(second.getText()).isEqualTo(ENVELOPE);
        }
    }

    @Test
    void aOneWayMessageIsTakenByTheBrokerAndThatIsAll() {
        CallResult result = call(at("queue:one-way", broker.amqp(), ""), false);
        assertThat(result.failure()).isEmpty();
        assertThat(result.response().orElseThrow().body().isEmpty()).isTrue();
        assertThat(broker.waiting("one-way")).isEqualTo(1);
    }

    @Test
    void namesAreLookedUpByTheProvidersOfTheProgram() {
        String jndi = "jms:jndi:trails?jndiURL=" + broker.tcp()
                + "&jndiConnectionFactoryName=ConnectionFactory&jndi-queue.trails=looked.up";
        AtomicReference<JmsMessage> seen = new AtomicReference<>();
        try (JmsServer server = echo(at("queue:looked.up", broker.tcp(), ""), seen)) {
            assertThat(server.address().destination()).isNotEmpty();
            assertThat(call(jndi, true).response().orElseThrow().text()).isEqualTo(ENVELOPE);
            assertThat(seen.get().header("SOAPJMS_requestURI")).contains("jms:jndi:trails");
        }
        assertThatThrownBy(() -> call(jndi.replace("jms:jndi:trails", "jms:jndi:none"), true))
                .hasMessageContaining("no destination of that name");
    }

    @ParameterizedTest
    @ValueSource(strings = {"ldap", "rmi", "dns"})
    void aNameThatIsAnAddressReachesNobody(String scheme) throws Exception {
        try (ServerSocket elsewhere = new ServerSocket(0)) {
            elsewhere.setSoTimeout(300);
            String name = scheme + "%3A%2F%2F127.0.0.1%3A" + elsewhere.getLocalPort() + "%2Fx";
            for (String address : List.of(
                    at("jndi:" + name, broker.tcp(), ""),
                    at("jndi:x", broker.tcp(), "&jndiConnectionFactoryName=" + name),
                    at(
                            "jndi:x",
                            broker.amqp(),
                            "&jndiInitialContextFactory=org.apache.qpid.jms.jndi."
                                    + "JmsInitialContextFactory&jndiConnectionFactoryName=" + name),
                    at(
                            "queue:x",
                            broker.tcp(),
                            "&jndiInitialContextFactory=org.apache.activemq.artemis.jndi."
                                    + "ActiveMQInitialContextFactory&jndiConnectionFactoryName=" + name),
                    at("jndi:x", broker.tcp(), "&jndi-queue.x=x&replyToName=" + name))) {
                assertThatThrownBy(() -> call(address, true))
                        .as(address)
                        .isInstanceOf(Problem.class)
                        .hasMessageContaining("is an address");
                assertThatThrownBy(elsewhere::accept).as(address).isInstanceOf(SocketTimeoutException.class);
            }
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "loadBalancingPolicyClassName=evil.Class",
                "outgoingInterceptorList=evil.Class",
                "sslEnabled=true%26keyStorePath=/etc/passwd",
                "verifyHost=false",
                "transport.trustAll=true",
                "transport.keyStoreLocation=/etc/passwd",
                "jms.password=x"
            })
    void ofABrokersOwnParametersNoneReachesFilesClassesOrItsTrust(String parameter) {
        for (String broker : List.of("tcp://127.0.0.1:1", "amqp://127.0.0.1:1")) {
            assertThatThrownBy(() -> call(at("queue:x", broker + "%3F" + parameter, ""), true))
                    .isInstanceOf(Problem.class)
                    .hasMessageContaining("is not taken")
                    .hasMessageNotContaining("cannot be reached");
        }
    }

    @Test
    void aBrokersCertificateIsOfItsHostAndTrustedAsAServersIs() throws Exception {
        Certificates own = Certificates.of("localhost", folder);
        try (Broker secure = Broker.secure(folder.resolve("localhost.p12"));
                JmsServer server = JmsServer.listen(
                        JmsAddress.of(at("queue:safe", secure.amqps("localhost"), "")),
                        new JmsServer.Reach(SOON.withTrust(own.client()), jars, told -> {}),
                        (request, envelope) ->
                                Optional.of(new JmsServer.Reply(request.body(), "text/xml", false, sent -> {})))) {
            assertThat(server.address().destination()).isEqualTo("safe");
            CallRequest request = new CallRequest(
                    "POST",
                    URI.create(at("queue:safe", secure.amqps("localhost"), "")),
                    List.of(),
                    Content.of(ENVELOPE.getBytes(StandardCharsets.UTF_8)),
                    Duration.ofSeconds(20));
            Connect trusting = SOON.withTrust(own.client());
            assertThat(caller.call(request, true, trusting, new StopSignal()).response())
                    .isPresent();
            // nobody who trusts less goes by the connection of one who trusts more
            assertThatThrownBy(() -> caller.call(request, true, SOON, new StopSignal()))
                    .hasMessageContaining("The broker cannot be reached");
            URI other = URI.create(at("queue:safe", secure.amqps("127.0.0.1"), ""));
            assertThatThrownBy(() -> caller.call(request.to(other), true, trusting, new StopSignal()))
                    .hasMessageContaining("The broker cannot be reached");
        }
    }

    @Test
    void whatOnlySaysHowMuchIsTaken() {
        AtomicReference<JmsMessage> seen = new AtomicReference<>();
        try (JmsServer server = echo(at("queue:tuned", broker.tcp(), ""), seen)) {
            assertThat(server.address().destination()).isNotEmpty();
            assertThat(call(at("queue:tuned", broker.tcp() + "%3FconsumerWindowSize=0", ""), true)
                            .failure())
                    .isEmpty();
            assertThat(call(at("queue:tuned", broker.amqp() + "%3Famqp.idleTimeout=5000", ""), true)
                            .failure())
                    .isEmpty();
        }
    }

    @Test
    void aProviderInAJarOfTheUsersOwnIsAskedWithItsClassesAtHand() throws Exception {
        jar("""
                package own;

                import java.util.Hashtable;
                import javax.naming.*;
                import javax.naming.spi.InitialContextFactory;
                import org.apache.activemq.artemis.jms.client.*;

                public class Provider implements InitialContextFactory {
                    public Context getInitialContext(Hashtable<?, ?> told) throws NamingException {
                        return new InitialContext(true) {
                            public Object lookup(String name) throws NamingException {
                                try {
                                    // as the objects of a provider are made: by the classes that the thread has
                                    Thread.currentThread().getContextClassLoader().loadClass("own.Provider");
                                } catch (ClassNotFoundException e) {
                                    throw new NamingException("its own classes are not at hand");
                                }
                                if (name.equals("factory of " + told.get("house"))) {
                                    return new ActiveMQConnectionFactory((String) told.get(Context.PROVIDER_URL));
                                }
                                if (name.equals("java:/trails")) {
                                    return new ActiveMQQueue("of.its.own");
                                }
                                throw new NameNotFoundException(name);
                            }
                        };
                    }
                }
                """);
        String address = "jms:jndi:java%3A%2Ftrails?jndiInitialContextFactory=own.Provider&jndiURL=" + broker.tcp()
                + "&jndi-house=ours&jndiConnectionFactoryName=factory%20of%20ours";
        try (JmsServer server = echo(at("queue:of.its.own", broker.tcp(), ""), new AtomicReference<>());
                JmsCaller own = new JmsCaller(new ProviderJars(folder))) {
            assertThat(server.address().destination()).isNotEmpty();
            CallRequest request = new CallRequest(
                    "POST",
                    URI.create(address),
                    List.of(),
                    Content.of(ENVELOPE.getBytes(StandardCharsets.UTF_8)),
                    Duration.ofSeconds(20));
            CallResult result = own.call(request, true, SOON, new StopSignal());
            assertThat(result.response().orElseThrow().text()).isEqualTo(ENVELOPE);
            CallRequest wrong = request.to(URI.create(address.replace("trails", "none")));
            assertThatThrownBy(() -> own.call(wrong, true, SOON, new StopSignal()))
                    .hasMessageContaining("The provider knows no destination of that name");
        }
    }

    /** Puts the class own.Provider into a jar of the folder. */
    private void jar(String source) throws Exception {
        Path file = Files.writeString(
                Files.createDirectories(folder.resolve("src/own")).resolve("Provider.java"), source);
        int failed = ToolProvider.getSystemJavaCompiler()
                .run(
                        null,
                        null,
                        null,
                        "-cp",
                        System.getProperty("java.class.path"),
                        "-d",
                        folder.resolve("made").toString(),
                        file.toString());
        assertThat(failed).isZero();
        try (JarOutputStream jar = new JarOutputStream(Files.newOutputStream(folder.resolve("own.jar")))) {
            try (Stream<Path> made = Files.walk(folder.resolve("made"))) {
                for (Path each : made.filter(Files::isRegularFile).toList()) {
                    jar.putNextEntry(
                            new JarEntry(folder.resolve("made").relativize(each).toString()));
                    jar.write(Files.readAllBytes(each));
                }
            }
        }
    }

    @Test
    void aProjectCannotNameAProviderThatTheUserDoesNotHave() {
        assertThatThrownBy(() -> call(
                        "jms:jndi:x?jndiInitialContextFactory=com.sun.jndi.ldap.LdapCtxFactory&jndiURL=ldap://127.0.0.1:1/x",
                        true))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("No jar of yours has the provider");
        for (String other : List.of(
                "jndi-java.naming.factory.initial=com.sun.jndi.ldap.LdapCtxFactory",
                "jndi-java.naming.provider.url=ldap://127.0.0.1:1/x",
                "jndi-connectionFactory.Other=tcp://elsewhere.example:61616&jndiConnectionFactoryName=Other")) {
            assertThatThrownBy(() -> call("jms:jndi:x?jndiURL=" + broker.tcp() + "&" + other, true))
                    .as(other)
                    .hasMessageContaining("is not taken");
        }
        assertThatThrownBy(() -> call("jms:jndi:x?jndi-queue.x=x", true)).hasMessageContaining("where the broker is");
        assertThatThrownBy(() -> call("jms:jndi:x?jndiURL=rmi://127.0.0.1:1/x", true))
                .hasMessageContaining("not reached by “rmi”");
        assertThatThrownBy(() -> call("jms:queue:x?jndiURL=ldap://127.0.0.1:1/x", true))
                .hasMessageContaining("not reached by “ldap”");
        assertThatThrownBy(() -> call("jms:queue:x", true)).hasMessageContaining("does not say where the broker is");
    }

    @Test
    void whereNobodyAnswersItIsSaidAndNothingIsLeftBehind() {
        Connect brief =
                SOON.with(new Connect.Timeouts(Duration.ofSeconds(5), Duration.ofMillis(400), Duration.ofSeconds(5)));
        CallRequest request = new CallRequest(
                "POST",
                URI.create(at("queue:silent", broker.tcp(), "")),
                List.of(),
                Content.of(ENVELOPE.getBytes(StandardCharsets.UTF_8)),
                Duration.ofSeconds(5));
        CallResult result = caller.call(request, true, brief, new StopSignal());
        assertThat(result.failure().orElseThrow()).contains("No answer came within");
        int before = broker.queues();
        for (int i = 0; i < 3; i++) {
            caller.call(request, true, brief, new StopSignal());
        }
        assertThat(broker.queues()).as("queues for answers are taken away").isEqualTo(before);
    }

    @Test
    void aBrokerThatIsNotThereOrRefusesTheLoginIsToldOf() throws Exception {
        assertThatThrownBy(() -> call(at("queue:x", "tcp://127.0.0.1:1", ""), true))
                .isInstanceOfSatisfying(Problem.class, p -> assertThat(p.kind()).isEqualTo(Problem.Kind.NO_ANSWER));
        try (Broker guarded = new Broker("anna", "s3cret-word")) {
            for (String url : List.of(guarded.tcp(), guarded.amqp())) {
                String address = at("queue:guarded", url, "");
                assertThatThrownBy(() -> call(address, false)).hasMessageContaining("refuses the login");
                CallRequest request = new CallRequest(
                        "POST", URI.create(address), List.of(), Content.of(new byte[] {'<'}), Duration.ofSeconds(60));
                Connect known = SOON.withLogin(Optional.of(new Login.Basic("anna", "s3cret-word")));
                assertThat(caller.call(request, false, known, new StopSignal()).failure())
                        .isEmpty();
            }
        }
    }

    @Test
    void aConnectionThatBrokeIsMadeAnewForTheNextCall() throws Exception {
        Broker first = new Broker();
        String url = first.tcp();
        assertThat(call(at("queue:again", url, ""), false).failure()).isEmpty();
        first.close();
        assertThatThrownBy(() -> call(at("queue:again", url, ""), false))
                .isInstanceOfSatisfying(Problem.class, p -> assertThat(p.kind()).isEqualTo(Problem.Kind.NO_ANSWER));
        assertThat(call(at("queue:again", broker.tcp(), ""), false).failure()).isEmpty();
        Broker second = first.again();
        assertThat(call(at("queue:again", url, ""), false).failure()).isEmpty();
        assertThat(call(at("queue:again", second.amqp(), ""), false).failure()).isEmpty();
        second.close();
        try (Broker third = first.again()) {
            // nobody looked at the connections since: the first call finds that they broke
            assertThat(call(at("queue:again", url, ""), false).failure()).isEmpty();
            assertThat(call(at("queue:again", second.amqp(), ""), false).failure())
                    .isEmpty();
            assertThat(third.waiting("again")).isEqualTo(2);
        }
    }
}
