package dev.mockbell.wire.jms;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.problem.Problem;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class JmsAddressTest {
    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            jms:queue:trails?jndiURL=tcp://127.0.0.1:61616 | QUEUE | trails | 127.0.0.1 | jms:queue:trails
            JMS:topic:huts/a%20b | TOPIC | huts/a b | '' | jms:topic:huts/a b
            jms:jndi:dynamicQueues/x?jndiConnectionFactoryName=CF&jndi-queue.x=y | JNDI | dynamicQueues/x | '' | jms:jndi:dynamicQueues/x
            jms:queue:a:b::c?jndiURL=amqps://broker.example:5671?x%3D1 | QUEUE | a:b::c | broker.example | jms:queue:a:b::c
            """)
    void theThreeVariantsAreRead(String text, JmsAddress.Variant variant, String destination, String host, String uri) {
        JmsAddress address = JmsAddress.of(text.strip());
        assertThat(address.variant()).isEqualTo(variant);
        assertThat(address.destination()).isEqualTo(destination);
        assertThat(address.host()).isEqualTo(host);
        assertThat(address.requestUri()).isEqualTo(uri);
    }

    @Test
    void parametersSayHowMessagesGo() {
        JmsAddress address = JmsAddress.of(
                "jms:queue:q?deliveryMode=NON_PERSISTENT&priority=7&timeToLive=1500&replyToName=r&messageType=text&jndi-a.b=c+d");
        assertThat(address.isPersistent()).isFalse();
        assertThat(address.priority()).hasValue(7);
        assertThat(address.timeToLive()).hasValue(1_500);
        assertThat(address.goesAsText()).isTrue();
        assertThat(address.parameter("jndi-a.b")).contains("c+d");
        assertThat(JmsAddress.of("jms:queue:q").isPersistent()).isTrue();
        assertThat(JmsAddress.of("jms:queue:q?priority=").priority()).isEmpty();
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            jms:trails | neither a queue nor a topic
            jms:queue: | has no name
            jms:queue:q?priority=10 | no priority 10
            jms:queue:q?priority=high | no number
            jms:queue:q?timeToLive=-1 | less than nothing
            jms:queue:q?deliveryMode=fast | delivery mode
            """)
    void whatCannotBeIsSaid(String text, String said) {
        assertThatThrownBy(() -> JmsAddress.of(text.strip()))
                .isInstanceOf(Problem.class)
                .hasMessageContaining(said);
    }
}
