package dev.mockbell.mock;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contracts;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.expression.Expressions;
import dev.mockbell.wire.Connect;
import dev.mockbell.wire.EventLoops;
import dev.mockbell.wire.jms.Broker;
import dev.mockbell.wire.jms.JmsServer;
import dev.mockbell.wire.jms.ProviderJars;
import jakarta.jms.BytesMessage;
import jakarta.jms.Connection;
import jakarta.jms.Message;
import jakarta.jms.MessageConsumer;
import jakarta.jms.Queue;
import jakarta.jms.Session;
import jakarta.jms.TextMessage;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.function.Consumer;
import org.apache.activemq.artemis.jms.client.ActiveMQConnectionFactory;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** A mock on a queue, asked by a client of the broker's own make. */
class QueueMockTest {
    private static final String REQUEST =
            "<e:Envelope xmlns:e=\"http://schemas.xmlsoap.org/soap/envelope/\"><e:Body><t:Root xmlns:t=\"urn:t\">%s</t:Root></e:Body></e:Envelope>";

    private static Broker broker;
    private static ActiveMQConnectionFactory factory;

    private final EventLoops loops = new EventLoops("mock", 1);
    private final List<Exchange> kept = Collections.synchronizedList(new ArrayList<>());
    private final List<String> told = Collections.synchronizedList(new ArrayList<>());

    @BeforeAll
    static void start() throws Exception {
        broker = new Broker();
        factory = new ActiveMQConnectionFactory(broker.tcp());
    }

    @AfterAll
    static void stop() {
        factory.close();
        broker.close();
    }

    @AfterEach
    void close() {
        loops.close();
    }

    private static Contract contract(String queue) {
        return Contracts.of(
                "a.wsdl",
                Contracts.wsdl(Contracts.schema("<xs:element name='Root' type='xs:int'/>"))
                        .replace("http://schemas.xmlsoap.org/soap/http", "http://www.w3.org/2010/soapjms/")
                        .replace("http://127.0.0.1:1/t", "jms:queue:" + queue + "?jndiURL=" + broker.amqp()));
    }

    private QueueMock mock(Contract contract, MockPlan plan) {
        return QueueMock.start(
                contract,
                plan,
                MockSurroundings.alone(loops, new Expressions(), made -> kept.add(made.get()), e -> {}),
                QueueMock.addresses(contract, plan, port -> Optional.empty()),
                new JmsServer.Reach(Connect.USUAL, ProviderJars.NONE, told::add));
    }

    private static Message properties(Message message, Consumer<Message> more) throws Exception {
        message.setStringProperty("SOAPJMS_bindingVersion", "1.0");
        message.setStringProperty("SOAPJMS_contentType", "text/xml; charset=utf-8");
        message.setStringProperty("SOAPJMS_requestURI", "jms:queue:huts");
        message.setStringProperty("SOAPJMS_soapAction", "do");
        more.accept(message);
        return message;
    }

    /** Sends a message and gives the answer; null when none comes. */
    private static Message asked(String queue, boolean text, String body, Consumer<Message> more) throws Exception {
        return asked(factory, queue, text, body, more);
    }

    private static Message asked(
            ActiveMQConnectionFactory by, String queue, boolean text, String body, Consumer<Message> more)
            throws Exception {
        try (Connection connection = by.createConnection();
                Session session = connection.createSession()) {
            connection.start();
            Message message;
            if (text) {
                message = session.createTextMessage(body);
            } else {
                BytesMessage bytes = session.createBytesMessage();
                bytes.writeBytes(body.getBytes(StandardCharsets.UTF_8));
                message = bytes;
            }
            Queue reply = session.createTemporaryQueue();
            MessageConsumer consumer = session.createConsumer(reply);
            properties(message, more).setJMSReplyTo(reply);
            session.createProducer(session.createQueue(queue)).send(message);
            Message answer = consumer.receive(3_000);
            if (answer != null) {
                assertThat(answer.getJMSCorrelationID()).isEqualTo(message.getJMSMessageID());
            }
            return answer;
        }
    }

    private static String text(Message message) throws Exception {
        if (message instanceof TextMessage text) {
            return text.getText();
        }
        BytesMessage bytes = (BytesMessage) message;
        byte[] body = new byte[(int) bytes.getBodyLength()];
        bytes.readBytes(body);
        return new String(body, StandardCharsets.UTF_8);
    }

    @Test
    void itAnswersByItsPlanInTheKindThatItWasAskedIn() throws Exception {
        MockPlan plan = MockPlan.sampling("huts", 0)
                .withAnswers(
                        "Do",
                        List.of(
                                MockAnswer.fault(
                                        ". = '13'", "unlucky", "No such hut", "<t:Root xmlns:t='urn:t'>13</t:Root>"),
                                MockAnswer.otherwise("twice", "<t:Root xmlns:t='urn:t'>{$request * 2}</t:Root>")));
        try (QueueMock mock = mock(contract("plan"), plan)) {
            Message bytes = asked("plan", false, REQUEST.formatted("21"), m -> {});
            assertThat(bytes).isInstanceOf(BytesMessage.class);
            assertThat(text(bytes)).contains(">42<");
            assertThat(bytes.getStringProperty("SOAPJMS_bindingVersion")).isEqualTo("1.0");
            assertThat(bytes.getStringProperty("SOAPJMS_contentType")).startsWith("text/xml");
            assertThat(bytes.propertyExists("SOAPJMS_isFault")).isFalse();
            Message text = asked("plan", true, REQUEST.formatted("4"), m -> {});
            assertThat(text).isInstanceOf(TextMessage.class);
            assertThat(text(text)).contains(">8<");
            Message fault = asked("plan", false, REQUEST.formatted("13"), m -> {});
            assertThat(text(fault)).contains("No such hut");
            assertThat(fault.getBooleanProperty("SOAPJMS_isFault")).isTrue();
            assertThat(mock.answered()).isEqualTo(3);
        }
        assertThat(kept).hasSize(3).allSatisfy(e -> {
            assertThat(e.way()).isEqualTo(Exchange.Way.ANSWERED);
            assertThat(e.operation()).isEqualTo("Do");
            assertThat(e.response()).isPresent();
        });
    }

    @ParameterizedTest
    @CsvSource({
        "SOAPJMS_bindingVersion, 2.0, unrecognizedBindingVersion",
        "SOAPJMS_contentType, '', missingContentType",
        "SOAPJMS_contentType, image/png, contentTypeMismatch",
        "SOAPJMS_requestURI, nonsense, malformedRequestURI",
        "SOAPJMS_requestURI, jms:queue:huts?targetService=x, targetServiceNotAllowedInRequestURI"
    })
    void whatBreaksARuleOfTheBindingIsAnsweredByItsFault(String property, String value, String fault) throws Exception {
        try (QueueMock mock = mock(contract("rules"), MockPlan.sampling("huts", 0))) {
            Message answer = asked("rules", false, REQUEST.formatted("1"), m -> {
                try {
                    m.setStringProperty(property, value);
                } catch (jakarta.jms.JMSException e) {
                    throw new IllegalStateException(e);
                }
            });
            assertThat(text(answer))
                    .contains("<faultcode>j:" + fault + "</faultcode>")
                    .contains("soapjms");
            assertThat(mock.answered()).isEqualTo(1);
        }
    }

    @Test
    void nonsenseIsAnsweredByAFaultAndDoesNotEndTheMock() throws Exception {
        try (QueueMock mock = mock(contract("nonsense"), MockPlan.sampling("huts", 0))) {
            for (String body : List.of("", "<", "no xml at all", "<!DOCTYPE a [<!ENTITY x 'y'>]><a>&x;</a>", "<a/>")) {
                Message answer = asked("nonsense", true, body, m -> {});
                assertThat(text(answer)).as(body).contains("Fault");
            }
            assertThat(text(asked("nonsense", false, REQUEST.formatted("1"), m -> {})))
                    .contains("Root");
            assertThat(mock.answered()).isEqualTo(6);
        }
    }

    @Test
    void troubleMeansThatNothingComesOrNoXml() throws Exception {
        MockAnswer sample = MockAnswer.otherwise("one", "<t:Root xmlns:t='urn:t'>1</t:Root>");
        MockPlan silent = MockPlan.sampling("huts", 0)
                .withAnswers("Do", List.of(sample.with(new Trouble(Trouble.Kind.CLOSED, 0))));
        try (QueueMock mock = mock(contract("silent"), silent)) {
            assertThat(asked("silent", false, REQUEST.formatted("1"), m -> {})).isNull();
            assertThat(mock.answered()).isEqualTo(1);
        }
        MockPlan cut =
                MockPlan.sampling("huts", 0).withAnswers("Do", List.of(sample.with(new Trouble(Trouble.Kind.CUT, 50))));
        try (QueueMock mock = mock(contract("cut"), cut)) {
            assertThat(text(asked("cut", false, REQUEST.formatted("1"), m -> {})))
                    .doesNotContain("</");
            assertThat(mock.addresses()).hasSize(1);
        }
    }

    @Test
    void onAMocksQueuesItsAnswersCountsAndMemoryAreTheSame() throws Exception {
        Contract contract = contract("shared");
        MockAnswer first = MockAnswer.otherwise("first", "<t:Root xmlns:t='urn:t'>1</t:Root>");
        MockPlan plan = MockPlan.sampling("huts", 0).withAnswers("Do", List.of(first));
        List<MockEvent> heard = Collections.synchronizedList(new ArrayList<>());
        try (MockHost host =
                MockHost.start(contract, plan, MockSurroundings.alone(loops, new Expressions(), null, heard::add))) {
            QueueMock queue = host.answerQueues(
                    QueueMock.addresses(contract, plan, port -> Optional.empty()),
                    new JmsServer.Reach(Connect.USUAL, ProviderJars.NONE, told::add));
            assertThat(host.queues()).containsSame(queue);
            assertThat(text(asked("shared", false, REQUEST.formatted("1"), m -> {})))
                    .contains(">1<");
            host.replace(plan.withAnswers(
                    "Do", List.of(MockAnswer.otherwise("second", "<t:Root xmlns:t='urn:t'>2</t:Root>"))));
            assertThat(text(asked("shared", false, REQUEST.formatted("1"), m -> {})))
                    .contains(">2<");
            assertThat(host.answered()).isEqualTo(2);
            assertThat(host.hits("Do")).isEqualTo(2);
            assertThat(host.latest()).hasSize(2).allMatch(MockEvent::matched);
            assertThat(heard).hasSize(2);
        }
        assertThat(asked("shared", false, REQUEST.formatted("1"), m -> {})).isNull();
    }

    @Test
    void afterSoManyAnswersByWhateverWayTheMockIsOver() throws Exception {
        Contract contract = contract("counted");
        MockPlan sampling = MockPlan.sampling("huts", 0);
        MockPlan plan = sampling.with(sampling.conduct().stoppingAfter(2));
        CountDownLatch over = new CountDownLatch(1);
        try (MockHost host =
                MockHost.start(contract, plan, MockSurroundings.alone(loops, new Expressions(), null, e -> {}))) {
            host.onOver(over::countDown);
            host.answerQueues(
                    QueueMock.addresses(contract, plan, port -> Optional.empty()),
                    new JmsServer.Reach(Connect.USUAL, ProviderJars.NONE, told::add));
            assertThat(text(asked("counted", false, REQUEST.formatted("1"), m -> {})))
                    .contains("Root");
            assertThat(over.getCount()).isEqualTo(1);
            assertThat(text(asked("counted", false, REQUEST.formatted("1"), m -> {})))
                    .contains("Root");
            assertThat(over.await(20, TimeUnit.SECONDS)).isTrue();
            assertThat(asked("counted", false, REQUEST.formatted("1"), m -> {})).isNull();
        }
    }

    @Test
    void whatBreaksTheBindingIsCountedAsWhatMatchesNothing() throws Exception {
        Contract contract = contract("broken");
        MockPlan plan = MockPlan.sampling("huts", 0);
        try (MockHost host =
                MockHost.start(contract, plan, MockSurroundings.alone(loops, new Expressions(), null, e -> {}))) {
            host.answerQueues(
                    QueueMock.addresses(contract, plan, port -> Optional.empty()),
                    new JmsServer.Reach(Connect.USUAL, ProviderJars.NONE, told::add));
            Message answer = asked("broken", false, REQUEST.formatted("1"), m -> {
                try {
                    m.setStringProperty("SOAPJMS_bindingVersion", "9");
                } catch (jakarta.jms.JMSException e) {
                    throw new IllegalStateException(e);
                }
            });
            assertThat(text(answer)).contains("unrecognizedBindingVersion");
            assertThat(host.answered()).isEqualTo(1);
            assertThat(host.latest()).singleElement().satisfies(e -> {
                assertThat(e.matched()).isFalse();
                assertThat(e.why())
                        .isEqualTo("The request breaks a rule of SOAP over JMS: unrecognizedBindingVersion.");
            });
        }
    }

    @Test
    void aBrokerThatWentIsGoneBackToOnceItIsThere() throws Exception {
        Broker passing = new Broker();
        Contract contract = Contracts.of(
                "a.wsdl",
                Contracts.wsdl(Contracts.schema("<xs:element name='Root' type='xs:int'/>"))
                        .replace("http://schemas.xmlsoap.org/soap/http", "http://www.w3.org/2010/soapjms/")
                        .replace("http://127.0.0.1:1/t", "jms:queue:passing?jndiURL=" + passing.tcp()));
        try (QueueMock mock = mock(contract, MockPlan.sampling("huts", 0));
                ActiveMQConnectionFactory there = new ActiveMQConnectionFactory(passing.tcp())) {
            assertThat(text(asked(there, "passing", false, REQUEST.formatted("1"), m -> {})))
                    .contains("Root");
            passing.close();
            await("The broker of queue passing broke off");
            try (Broker again = passing.again()) {
                await("Requests are taken from queue passing again.");
                assertThat(text(asked(there, "passing", false, REQUEST.formatted("1"), m -> {})))
                        .contains("Root");
                assertThat(mock.answered()).isEqualTo(2);
                assertThat(again.waiting("passing")).isZero();
            }
        }
    }

    private void await(String words) throws InterruptedException {
        for (int i = 0; i < 300 && told.stream().noneMatch(t -> t.startsWith(words)); i++) {
            Thread.sleep(100);
        }
        assertThat(told).anyMatch(t -> t.startsWith(words));
    }

    @Test
    void aPortWithoutAnAddressOrABrokerIsToldOf() {
        Contract nowhere = contract("x");
        assertThatThrownBy(() -> QueueMock.start(
                        nowhere,
                        MockPlan.sampling("huts", 0),
                        MockSurroundings.alone(loops, new Expressions(), null, e -> {}),
                        QueueMock.addresses(
                                nowhere,
                                MockPlan.sampling("huts", 0),
                                port -> Optional.of("jms:queue:x?jndiURL=tcp://127.0.0.1:1")),
                        new JmsServer.Reach(Connect.USUAL, ProviderJars.NONE, told::add)))
                .hasMessageContaining("cannot be reached");
        assertThat(QueueMock.isFor(nowhere)).isTrue();
        assertThat(QueueMock.isFor(Contracts.stay())).isFalse();
        assertThat(QueueMock.addresses(Contracts.stay(), MockPlan.sampling("huts", 0), port -> Optional.empty()))
                .isEqualTo(Map.of());
    }
}
