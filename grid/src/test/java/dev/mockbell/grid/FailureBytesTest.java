package dev.mockbell.grid;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.JmsMessage;
import dev.mockbell.exchange.Message;
import dev.mockbell.exchange.Timing;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Failures come from a worker as they were there, whatever carried them. */
class FailureBytesTest {
    private static final Content BODY = Content.of("<a>ü</a>".getBytes(StandardCharsets.UTF_8));

    static Stream<Message> messages() {
        return Stream.of(
                new HttpMessage("POST /stay HTTP/1.1", List.of(new Header("X-A", "1: 2")), BODY, BODY),
                new JmsMessage("TO queue stay", List.of(new Header("SOAPJMS_requestURI", "jms:queue:stay")), BODY));
    }

    private static Exchange failed(Message request, Optional<Message> answer) {
        return new Exchange(
                0,
                Instant.ofEpochMilli(7),
                Exchange.Way.CALLED,
                "stay",
                "Book",
                "jms:queue:stay",
                "load P",
                request,
                answer,
                new Timing(0, 0, 42, 0),
                Exchange.Outcome.FAILED,
                "why");
    }

    @ParameterizedTest
    @MethodSource("messages")
    void aFailureIsReadAsItWas(Message message) throws IOException {
        Exchange read = FailureBytes.read(FailureBytes.of(failed(message, Optional.of(message))));
        assertThat(read.request()).hasSameClassAs(message);
        assertThat(read.response().orElseThrow()).hasSameClassAs(message);
        assertThat(read.request().head()).isEqualTo(message.head());
        assertThat(read.request().text()).isEqualTo(message.text());
        assertThat(read.request().wire().bytes()).isEqualTo(message.wire().bytes());
        assertThat(read.note()).isEqualTo("why");
        assertThat(read.timing().total()).isEqualTo(42);
    }

    @Test
    void whatIsNoneIsRefused() {
        assertThatThrownBy(() -> FailureBytes.read(new byte[] {1, 2, 3})).isInstanceOf(IOException.class);
    }
}
