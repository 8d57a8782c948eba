package dev.mockbell.load;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.check.Capture;
import dev.mockbell.check.Check;
import dev.mockbell.content.Content;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.JmsMessage;
import dev.mockbell.expression.Expressions;
import dev.mockbell.load.Spent.Stage;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Stays;
import dev.mockbell.suite.Workbench;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.Connect;
import dev.mockbell.wire.EventLoops;
import dev.mockbell.wire.jms.Broker;
import dev.mockbell.wire.jms.JmsAddress;
import dev.mockbell.wire.jms.JmsServer;
import dev.mockbell.wire.jms.ProviderJars;
import jakarta.jms.Connection;
import jakarta.jms.MessageProducer;
import jakarta.jms.Session;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.BooleanSupplier;
import java.util.function.Function;
import org.apache.activemq.artemis.jms.client.ActiveMQConnectionFactory;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Load by way of a real broker: the same plan, figures and failures as over HTTP. */
class LoadByQueueTest {
    private static final String FAULT =
            "<e:Envelope xmlns:e=\"http://schemas.xmlsoap.org/soap/envelope/\"><e:Body><e:Fault><faultcode>e:Server</faultcode>"
                    + "<faultstring>the hut is shut</faultstring></e:Fault></e:Body></e:Envelope>";

    private final EventLoops loops = new EventLoops("test", 2);
    private final LoadEngine engine = new LoadEngine(loops, new Expressions(), Connect.USUAL, ProviderJars.NONE, false);
    private final List<Exchange> failures = new CopyOnWriteArrayList<>();
    private final List<JmsMessage> asked = new CopyOnWriteArrayList<>();
    private Broker broker;

    @BeforeEach
    void start() throws Exception {
        broker = new Broker();
    }

    @AfterEach
    void close() {
        broker.close();
        loops.close();
    }

    private JmsServer answering(String destination, Function<JmsMessage, String> answer) {
        JmsServer.Reach reach = new JmsServer.Reach(Connect.USUAL, ProviderJars.NONE, told -> {});
        return JmsServer.listen(
                JmsAddress.of("jms:" + destination + "?jndiURL=" + broker.tcp()), reach, (request, envelope) -> {
                    asked.add(request);
                    Content body = Content.of(answer.apply(request).getBytes(StandardCharsets.UTF_8));
                    return Optional.of(new JmsServer.Reply(body, "text/xml; charset=utf-8", false, sent -> {}));
                });
    }

    private static String booked(JmsMessage request) {
        return Stays.answer("R-7", "1");
    }

    private LoadRun run(LoadEngine by, LoadPlan plan, String address, Case... cases) {
        Workbench bench = Stays.bench(address, Map.of(), cases);
        LoadListener listener = new LoadListener() {
            @Override
            public void failure(Exchange exchange) {
                failures.add(exchange);
            }
        };
        return by.run(plan, bench, host -> host.equals("127.0.0.1"), listener, new LoadControl(new StopSignal()));
    }

    private LoadRun run(LoadPlan plan, String address, Case... cases) {
        return run(engine, plan, address, cases);
    }

    private static LoadPlan plan(double rate) {
        return LoadPlan.of("p", "P", "s", LoadShape.arrivals(rate, 1)).with(Conduct.USUAL.withTimeout(3_000));
    }

    private static Case booking(Capture... captures) {
        return Stays.book("first", Stays.BODY, List.of(new Check.NoFault()), captures);
    }

    @ParameterizedTest
    @ValueSource(strings = {"tcp", "amqp"})
    void aPlanGoesByQueueWithItsCapturesChecksAndFigures(String protocol) {
        String url = protocol.equals("tcp") ? broker.tcp() : broker.amqp();
        Case first = booking(new Capture("code", "//*:code"));
        Case second = Stays.book(
                "second", Stays.BODY.replace("Ines Okafor", "{$code}"), List.of(new Check.Condition("//*:total = 1")));
        try (JmsServer server = answering("queue:stays", LoadByQueueTest::booked)) {
            LoadRun run = run(plan(40), "jms:queue:stays?priority=7&jndiURL=" + url, first, second);
            assertThat(failures).isEmpty();
            assertThat(run.steps()).extracting(StepFigures::done).containsExactly(40L, 40L);
            assertThat(run.steps()).extracting(StepFigures::failed).containsExactly(0L, 0L);
            assertThat(server.address().destination()).isEqualTo("stays");
        }
        assertThat(asked).hasSize(80);
        assertThat(asked).filteredOn(m -> m.text().contains(">R-7<")).hasSize(40);
        assertThat(asked).allSatisfy(m -> {
            assertThat(m.header("SOAPJMS_requestURI")).contains("jms:queue:stays");
            assertThat(m.header("SOAPJMS_contentType"))
                    .hasValueSatisfying(t -> assertThat(t).startsWith("text/xml"));
            assertThat(m.header("JMSPriority")).contains("7");
            assertThat(m.header("User_Agent")).isEmpty();
            assertThat(m.header("Content_Length")).isEmpty();
        });
    }

    private static Spent spent(LoadRun run, Stage stage) {
        return run.spent().get(stage.ordinal());
    }

    @Test
    void theTimeIsThatFromSendingToTheAnswerAndWhatTheBrokerTookIsToldApart() {
        try (JmsServer server = answering("queue:slow", request -> {
            pause(80);
            return booked(request);
        })) {
            LoadRun run = run(plan(10), "jms:queue:slow?jndiURL=" + broker.tcp(), booking());
            assertThat(server.address().destination()).isEqualTo("slow");
            assertThat(spent(run, Stage.SERVER).count()).isEqualTo(10);
            assertThat(spent(run, Stage.SERVER).p50()).isBetween(79.0, 400.0);
            assertThat(spent(run, Stage.GIVEN).count()).isEqualTo(10);
            assertThat(spent(run, Stage.GIVEN).p50()).isLessThan(80);
            assertThat(run.steps().get(0).p50()).isBetween(79.0, 400.0);
        }
    }

    private static void pause(long millis) {
        try {
            Thread.sleep(millis);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    @Test
    void aFaultFailsAndIsKeptWholeWithItsProperties() {
        try (JmsServer server = answering("queue:faulty", request -> FAULT)) {
            LoadRun run = run(plan(10), "jms:queue:faulty?jndiURL=" + broker.tcp(), booking());
            assertThat(server.address().destination()).isEqualTo("faulty");
            assertThat(run.steps().get(0).failed()).isEqualTo(10);
            assertThat(run.reasons()).containsKey("fault e:Server");
        }
        Exchange kept = failures.get(0);
        assertThat(kept.request()).isInstanceOf(JmsMessage.class);
        assertThat(kept.request().head()).startsWith("TO queue faulty\r\n").contains("SOAPJMS_requestURI");
        assertThat(kept.request().text()).isEqualTo(asked.get(0).text());
        assertThat(kept.response().orElseThrow().text()).isEqualTo(FAULT);
    }

    @Test
    void whatNobodyAnswersFailsInTimeAndWithoutABrokerSoDoesAll() {
        LoadPlan soon = plan(5).with(Conduct.USUAL.withTimeout(300));
        LoadRun silent = run(soon, "jms:queue:silent?jndiURL=" + broker.tcp(), booking());
        assertThat(silent.reasons()).containsExactlyEntriesOf(Map.of("no answer in 300 ms", 5L));
        LoadRun nowhere = run(soon, "jms:queue:silent?jndiURL=tcp://127.0.0.1:1", booking());
        assertThat(nowhere.steps().get(0).failed()).isEqualTo(5);
        assertThat(nowhere.reasons().keySet()).singleElement().asString().startsWith("The broker cannot be reached");
    }

    @Test
    void anAnswerThatDoesNotSayWhoseItIsIsToldOf() throws Exception {
        try (ActiveMQConnectionFactory factory = new ActiveMQConnectionFactory(broker.tcp());
                Connection connection = factory.createConnection();
                Session session = connection.createSession()) {
            MessageProducer producer = session.createProducer(null);
            session.createConsumer(session.createQueue("loose")).setMessageListener(request -> {
                try {
                    producer.send(request.getJMSReplyTo(), session.createTextMessage(Stays.answer("R", "1")));
                } catch (jakarta.jms.JMSException e) {
                    throw new IllegalStateException(e);
                }
            });
            connection.start();
            LoadPlan soon = plan(5).with(Conduct.USUAL.withTimeout(300));
            LoadRun run = run(soon, "jms:queue:loose?jndiURL=" + broker.tcp(), booking());
            assertThat(run.reasons())
                    .containsExactlyEntriesOf(
                            Map.of("no answer in 300 ms; some came whose JMSCorrelationID is of no request", 5L));
        }
    }

    @Test
    void aBrokerThatGoesAndComesBackLosesOnlyWhatWasUnderWay() throws Exception {
        AtomicInteger answered = new AtomicInteger();
        // what is answered too late counts for nothing
        AtomicLong goodSince = new AtomicLong();
        AtomicBoolean back = new AtomicBoolean();
        JmsServer first = answering("queue:back", request -> {
            answered.incrementAndGet();
            return booked(request);
        });
        LoadListener listener = new LoadListener() {
            @Override
            public void second(LoadSecond second) {
                goodSince.addAndGet(back.get() ? second.done() - second.failed() : 0);
            }
        };
        Thread interlude = new Thread(() -> {
            awaited(() -> answered.get() > 10);
            broker.close();
            pause(300);
            try {
                broker = broker.again();
            } catch (Exception e) {
                throw new IllegalStateException(e);
            }
            back.set(true);
        });
        interlude.start();
        LoadPlan lasting =
                LoadPlan.of("p", "P", "s", LoadShape.arrivals(50, 60)).with(Conduct.USUAL.withTimeout(1_500));
        Workbench bench = Stays.bench("jms:queue:back?jndiURL=" + broker.tcp(), Map.of(), booking());
        LoadControl control = new LoadControl(new StopSignal());
        Thread ending = new Thread(() -> {
            awaited(() -> goodSince.get() > 20);
            control.stopGently();
        });
        ending.start();
        LoadRun run = engine.run(lasting, bench, host -> true, listener, control);
        interlude.join();
        ending.join();
        first.close();
        assertThat(goodSince.get()).isGreaterThan(20);
        assertThat(run.steps().get(0).done() - run.steps().get(0).failed()).isGreaterThan(20);
        assertThat(run.steps().get(0).failed()).isPositive();
        assertThat(run.reasons().keySet())
                .allMatch(r -> r.startsWith("The broker") || r.startsWith("no answer in 1500 ms"));
    }

    private static void awaited(BooleanSupplier condition) {
        for (int i = 0; i < 1_200 && !condition.getAsBoolean(); i++) {
            pause(50);
        }
    }

    @Test
    void aOneWayMessageIsDoneWhenTheBrokerHasIt() {
        Case tell = new Case("t", "t", "", "stay", "Tell", "StaySoap11", "<a/>", List.of(), List.of(), List.of());
        LoadRun run = run(plan(20), "jms:queue:told?jndiURL=" + broker.tcp(), tell);
        assertThat(run.steps().get(0).failed()).isZero();
        assertThat(broker.waiting("told")).isEqualTo(20);
        assertThat(spent(run, Stage.SERVER).count()).isZero();
        assertThat(spent(run, Stage.GIVEN).count()).isEqualTo(20);
    }

    @Test
    void aNamedQueueForAnswersKeepsWhatIsForOthers() throws Exception {
        try (ActiveMQConnectionFactory factory = new ActiveMQConnectionFactory(broker.tcp());
                Connection connection = factory.createConnection();
                Session session = connection.createSession();
                JmsServer server = answering("queue:shared", LoadByQueueTest::booked)) {
            MessageProducer producer = session.createProducer(session.createQueue("answers"));
            producer.send(session.createTextMessage("for somebody else"));
            LoadRun run = run(plan(20), "jms:queue:shared?replyToName=answers&jndiURL=" + broker.tcp(), booking());
            assertThat(server.address().destination()).isEqualTo("shared");
            assertThat(run.steps().get(0).done()).isEqualTo(20);
            assertThat(run.reasons()).isEmpty();
            assertThat(broker.waiting("answers")).isEqualTo(1);
        }
    }

    @Test
    void answersMayComeByATopic() {
        try (JmsServer server = answering("queue:by-topic", LoadByQueueTest::booked)) {
            LoadRun run =
                    run(plan(20), "jms:queue:by-topic?topicReplyToName=all-answers&jndiURL=" + broker.tcp(), booking());
            assertThat(server.address().destination()).isEqualTo("by-topic");
            assertThat(run.steps().get(0).done()).isEqualTo(20);
            assertThat(run.reasons()).isEmpty();
        }
    }

    @Test
    void eachRequestMayHaveAConnectionOfItsOwn() {
        try (JmsServer server = answering("queue:single", LoadByQueueTest::booked)) {
            LoadPlan single = plan(20).with(Conduct.USUAL.withTimeout(3_000).withConnections(false, 50));
            LoadRun run = run(single, "jms:queue:single?jndiURL=" + broker.tcp(), booking());
            assertThat(server.address().destination()).isEqualTo("single");
            assertThat(run.steps().get(0).done()).isEqualTo(20);
            assertThat(run.reasons()).isEmpty();
        }
    }

    @Test
    void gettingUpToSpeedSendsNothingToTheServiceAndLeavesNoQueueBehind() throws Exception {
        LoadEngine readying = new LoadEngine(loops, new Expressions(), ProviderJars.NONE);
        try (JmsServer server = answering("queue:warm", LoadByQueueTest::booked)) {
            int before = broker.queues();
            LoadRun run = run(readying, plan(30), "jms:queue:warm?jndiURL=" + broker.tcp(), booking());
            assertThat(server.address().destination()).isEqualTo("warm");
            assertThat(run.steps().get(0).done()).isEqualTo(30);
            assertThat(run.reasons()).isEmpty();
            assertThat(asked).hasSize(30);
            for (int i = 0; i < 100 && broker.queues() > before; i++) {
                pause(50);
            }
            assertThat(broker.queues()).isEqualTo(before);
        }
    }

    @Test
    void aBrokerThatNobodyConfirmedIsNotPutUnderLoad() {
        assertThatThrownBy(() -> run(plan(60), "jms:queue:far?jndiURL=tcp://broker.example:61616", booking()))
                .hasMessageContaining("The plan puts broker.example under more than 50 requests a second");
    }
}
