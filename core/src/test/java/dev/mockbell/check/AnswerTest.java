package dev.mockbell.check;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.content.Content;
import dev.mockbell.contract.Contracts;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.Message;
import dev.mockbell.exchange.Timing;
import dev.mockbell.expression.Expressions;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.redact.Redactor;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapFault;
import dev.mockbell.soap.SoapVersion;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class AnswerTest {
    private static final Optional<MessageOutline> DUE = MessageOutline.ofAnswer(
            Contracts.stay(),
            Contracts.stay().operation("Book", null).orElseThrow().operation());

    private static Exchange exchange(Message response, String note) {
        HttpMessage request = new HttpMessage("POST /s HTTP/1.1", List.of(), Content.NONE, Content.NONE);
        return new Exchange(
                0,
                Instant.EPOCH,
                Exchange.Way.CALLED,
                "stay",
                "Book",
                "http://h/s",
                "a case",
                request,
                Optional.ofNullable(response),
                new Timing(1, 2, 3, 4),
                response == null ? Outcome.FAILED : Outcome.FINE,
                note);
    }

    private static Answer answer(int status, String body, Optional<MessageOutline> outline) {
        Message response = new HttpMessage(
                "HTTP/1.1 " + status + " X",
                List.of(),
                Content.of(body.getBytes(StandardCharsets.UTF_8)),
                Content.NONE);
        return Answer.of(exchange(response, ""), outline, new Expressions());
    }

    @ParameterizedTest
    @CsvSource({
        "200, FINE, ''",
        "202, FINE, ''",
        "404, FAILED, status 404",
        "500, FAILED, status 500",
    })
    void anEnvelopeIsAsGoodAsItsStatus(int status, Outcome outcome, String note) {
        Answer answer = answer(status, Envelope.around(SoapVersion.V11, "<r/>", List.of()), DUE);
        assertThat(answer.exchange().outcome()).isEqualTo(outcome);
        assertThat(answer.exchange().note()).isEqualTo(note);
        assertThat(answer.payload()).isPresent();
        assertThat(answer.flaw()).isEmpty();
    }

    @ParameterizedTest
    @CsvSource({"200", "500", "400"})
    void aFaultIsAFaultWhateverTheStatus(int status) {
        String fault = SoapFault.xml(SoapVersion.V12, true, "no bunk", "<HutFull xmlns='urn:x'/>");
        Answer answer = answer(status, Envelope.around(SoapVersion.V12, fault, List.of()), DUE);
        assertThat(answer.exchange().outcome()).isEqualTo(Outcome.FAULT);
        assertThat(answer.exchange().note())
                .isEqualTo(answer.fault().orElseThrow().title());
    }

    @ParameterizedTest
    @CsvSource({
        "200, true, FAILED, status 200 without a body, true",
        "202, true, FINE, '', false",
        "200, false, FINE, '', false",
        "204, false, FINE, '', false",
        "500, false, FAILED, status 500 without a body, false",
    })
    void nothingIsRightWhereNothingIsDue(int status, boolean due, Outcome outcome, String note, boolean flaw) {
        Answer answer = answer(status, "", due ? DUE : Optional.empty());
        assertThat(answer.exchange().outcome()).isEqualTo(outcome);
        assertThat(answer.exchange().note()).isEqualTo(note);
        assertThat(answer.flaw().isPresent()).isEqualTo(flaw);
    }

    @Test
    void whatIsNoEnvelopeIsSaidWithItsStatus() {
        Answer answer = answer(502, "<html><body>down</body></html>", DUE);
        assertThat(answer.exchange().outcome()).isEqualTo(Outcome.FAILED);
        assertThat(answer.exchange().note()).isEqualTo("status 502, this is <html>, not a SOAP envelope");
        assertThat(answer.flaw()).hasValueSatisfying(f -> assertThat(f).startsWith("status 502; This is <html>"));
    }

    @Test
    void withoutAResponseItIsAsItWasJudged() {
        Answer answer = Answer.of(exchange(null, "nobody there"), DUE, new Expressions());
        assertThat(answer.exchange().outcome()).isEqualTo(Outcome.FAILED);
        assertThat(answer.flaw()).contains("nobody there");
    }

    @Test
    void aSecretInANoteIsNotListed() {
        Answer answer = answer(502, "<hush-hush/>", DUE).masked(Redactor.of(Map.of("key", "hush-hush")));
        assertThat(answer.exchange().note()).startsWith("status 502, this is <").doesNotContain("hush-hush");
    }
}
