package dev.mockbell.suite;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.content.Header;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contracts;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.redact.Redactor;
import dev.mockbell.suite.CopyOut.Form;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.HttpCaller;
import dev.mockbell.wire.jms.Broker;
import dev.mockbell.wire.jms.JmsCaller;
import dev.mockbell.wire.jms.ProviderJars;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** A case whose endpoint is a queue, in all that is made of a request besides sending it. */
class ToQueueTest {
    private final Contract stay = Contracts.stay();
    private final Expressions expressions = new Expressions();
    private final Scope scope = Scope.EMPTY.with(Map.of("who", "Ines")).withSecret("token", "t0p");
    private final Case kept = Stays.book("c", Stays.BODY.replace("Ines Okafor", "{$who}"), List.of())
            .withHeaders(List.of(new Header("X-Token", "{$secret:token}"), new Header("X-Trip", "2")));

    private CallSetup setup(String broker) {
        return new CallSetup(
                stay,
                kept.in(stay),
                kept,
                Optional.of("jms:queue:stay?priority=7&jndiURL=" + broker),
                scope,
                Optional.empty(),
                Path.of(""),
                List.of(),
                Duration.ofMillis(500));
    }

    @Test
    void whatIsShownBeforehandIsWhatIsSent() throws Exception {
        try (Broker broker = new Broker();
                HttpCaller http = new HttpCaller();
                JmsCaller jms = new JmsCaller(ProviderJars.NONE)) {
            CaseCaller caller = new CaseCaller(http, () -> jms, expressions);
            CallSetup setup = setup(broker.tcp());
            String shown = caller.preview(setup, 1 << 20);
            assertThat(shown)
                    .startsWith("TO queue stay\n")
                    .contains("SOAPJMS_requestURI: jms:queue:stay\n", "JMSPriority: 7\n", "Ines")
                    .doesNotContain("HTTP/1.1", "Content-Length", "t0p");
            Exchange sent =
                    caller.send(caller.prepare(setup), "test", new StopSignal()).last();
            // nobody takes it, and the time that all may take is short
            assertThat(sent.note()).startsWith("No answer came within 500 ms");
            String was = scope.redactor().wire(sent.request().head());
            assertThat(was.lines().filter(l -> !l.startsWith("JMSMessageID") && !l.startsWith("JMSReplyTo")))
                    .containsExactlyElementsOf(shown.lines()
                            .limit(shown.lines().takeWhile(l -> !l.isEmpty()).count() + 1)
                            .toList());
            assertThat(sent.request().body().bytes()).asString().isEqualTo(shown.substring(shown.indexOf("\n\n") + 2));
        }
    }

    @Test
    void withoutABrokerTheExchangeHoldsWhatWasToBeSent() {
        try (HttpCaller http = new HttpCaller();
                JmsCaller jms = new JmsCaller(ProviderJars.NONE)) {
            CaseCaller caller = new CaseCaller(http, () -> jms, expressions);
            Exchange failed = caller.send(caller.prepare(setup("tcp://127.0.0.1:1")), "test", new StopSignal())
                    .last();
            assertThat(failed.outcome()).isEqualTo(Exchange.Outcome.FAILED);
            assertThat(failed.request().head()).contains("SOAPJMS_requestURI: jms:queue:stay", "X_Trip: 2");
            assertThatThrownBy(() -> CopyOut.sent(Form.CURL, failed, Redactor.USUAL))
                    .hasMessageContaining("goes to a queue");
        }
    }

    @ParameterizedTest
    @EnumSource(Form.class)
    void nothingThatGoesByHttpIsMadeOfIt(Form form) {
        assertThatThrownBy(() -> new CopyOut(expressions)
                        .of(form, kept.in(stay), kept, Optional.of("jms:queue:stay?jndiURL=tcp://127.0.0.1:1"), scope))
                .hasMessageContaining("goes to a queue")
                .hasMessageContaining("Copy the message as XML");
    }
}
