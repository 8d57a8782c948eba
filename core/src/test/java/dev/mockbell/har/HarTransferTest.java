package dev.mockbell.har;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.JmsMessage;
import dev.mockbell.exchange.Message;
import dev.mockbell.exchange.Timing;
import dev.mockbell.expression.Expressions;
import dev.mockbell.ledger.Ledger;
import dev.mockbell.ledger.LedgerFilter;
import dev.mockbell.redact.Redactor;
import dev.mockbell.task.StopSignal;
import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** HAR is of HTTP: what went by way of a queue is left out, and that is said. */
class HarTransferTest {
    @TempDir
    Path folder;

    private static final Content BODY = Content.of("<a/>".getBytes(StandardCharsets.UTF_8));

    private static Exchange exchange(String endpoint, Message request) {
        return new Exchange(
                0,
                Instant.parse("2026-11-23T08:00:00Z"),
                Way.CALLED,
                "trail",
                "Ping",
                endpoint,
                "a case",
                request,
                Optional.empty(),
                Timing.NONE,
                Outcome.FAILED,
                "no answer");
    }

    @Test
    void exchangesOfQueuesAreLeftOutAndCounted() throws Exception {
        try (Ledger ledger = Ledger.open(folder.resolve("l.db"))) {
            ledger.offer(exchange(
                    "jms:queue:trail",
                    new JmsMessage("TO queue trail", List.of(new Header("JMSPriority", "4")), BODY)));
            ledger.offer(exchange("http://h/s", new HttpMessage("POST /s HTTP/1.1", List.of(), BODY, BODY)));
            ledger.settle();
            ByteArrayOutputStream out = new ByteArrayOutputStream();
            HarTransfer.Written written;
            try (HarWriter writer = new HarWriter(out, "1", Optional.of(Redactor.USUAL), Long.MAX_VALUE)) {
                written = new HarTransfer(
                                ledger, new StopSignal(), n -> assertThat(n).isEqualTo(1))
                        .write(LedgerFilter.ALL, new Expressions(), writer);
            }
            assertThat(written).isEqualTo(new HarTransfer.Written(1, 1));
            assertThat(written.words()).isEqualTo("1 exchange (without 1 by way of queues: HAR is of HTTP alone)");
            assertThat(new HarTransfer.Written(2, 0).words()).isEqualTo("2 exchanges");
            assertThat(out.toString(StandardCharsets.UTF_8))
                    .contains("http://h/s")
                    .doesNotContain("jms:", "TO queue");
        }
    }
}
