package dev.mockbell.suite;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.Message;
import dev.mockbell.exchange.Timing;
import dev.mockbell.expression.Expressions;
import dev.mockbell.problem.Problem;
import dev.mockbell.redact.Redactor;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapFault;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.suite.KnownValues.Column;
import dev.mockbell.suite.KnownValues.Use;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;

class KnownRowTest {
    private static final KnownValues KNOWN = new KnownValues(
            new DataTable("t.csv", List.of("code", "remark", "nights", "price"), List.of()),
            List.of(
                    new Column("nights", Use.SETS, "/Book/nights"),
                    new Column("code", Use.IS, "/Booked/code"),
                    new Column("price", Use.IS, "/Booked/price")));
    private static final String ASKED = "<b:Book xmlns:b='urn:b'><b:nights>2</b:nights></b:Book>";

    private final KnownRow rows = new KnownRow(new Expressions(), Redactor.of(Map.of("guest", "s3cret!")));

    private static Message message(String title, String payload) {
        Content body =
                Content.of(Envelope.around(SoapVersion.V11, payload, List.of()).getBytes(StandardCharsets.UTF_8));
        return new HttpMessage(title, List.of(new Header("Content-Type", "text/xml; charset=utf-8")), body, body);
    }

    private static Exchange exchange(Optional<String> answer) {
        return new Exchange(
                7,
                Instant.EPOCH,
                Way.TAPPED,
                "stay",
                "Book",
                "http://h/s",
                "",
                message("POST /s HTTP/1.1", ASKED),
                answer.map(a -> message("HTTP/1.1 200 OK", a)),
                new Timing(0, 0, 1, 0),
                Outcome.FINE,
                "");
    }

    @Test
    void cellsAreWhatWasAskedAndWhatCameInTheOrderOfTheColumns() {
        String booked = "<Booked xmlns='urn:b'><code>{R-1}</code></Booked>";
        assertThat(rows.of(KNOWN, exchange(Optional.of(booked)))).containsExactly("{{R-1}}", "", "2", "");
    }

    @Test
    void aFaultIsNamedOnceWhereSomethingIsExpected() {
        String fault = SoapFault.xml(SoapVersion.V11, SoapFault.Code.SENDER, "No room", "<Full xmlns='urn:b'/>");
        assertThat(rows.of(KNOWN, exchange(Optional.of(fault)))).containsExactly("fault Full", "", "2", "");
        String plain = SoapFault.xml(SoapVersion.V11, SoapFault.Code.SENDER, "No room", "");
        assertThat(rows.of(KNOWN, exchange(Optional.of(plain)))).containsExactly("fault Client", "", "2", "");
    }

    @Test
    void secretsAreNotKnownValuesAndAnAnswerIsNeeded() {
        String booked = "<Booked xmlns='urn:b'><code>s3cret!</code></Booked>";
        assertThat(rows.of(KNOWN, exchange(Optional.of(booked))).get(0)).doesNotContain("s3cret!");
        assertThatThrownBy(() -> rows.of(KNOWN, exchange(Optional.empty())))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("no answer");
    }
}
