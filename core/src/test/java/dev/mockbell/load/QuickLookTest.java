package dev.mockbell.load;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.check.Capture;
import dev.mockbell.check.Check;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contracts;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Stays;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class QuickLookTest {
    private static final String HEAD = "HTTP/1.1 200 OK\r\nContent-Type: text/xml; charset=utf-8\r\n\r\n";
    private static final String GOOD = Stays.answer("R-7", "184.50");

    private static Optional<QuickLook> look(List<Check> checks, Capture... captures) {
        Case kept = Stays.book("c", Stays.BODY, checks, captures);
        Contract contract = Contracts.stay();
        Optional<MessageOutline> outline = MessageOutline.ofAnswer(
                contract, contract.operation("Book", null).orElseThrow().operation());
        return QuickLook.of(
                kept, outline, Scope.EMPTY.with("wanted", "R-7"), new Expressions(), Set.of("code", "before"));
    }

    private static boolean isGood(QuickLook look, String answer, Map<String, String> values) {
        return look.isGood(200, HEAD, answer.getBytes(StandardCharsets.UTF_8), 5_000_000, values);
    }

    @Test
    void conditionsValuesAndCapturesGoQuickly() {
        QuickLook look = look(
                        List.of(
                                new Check.NoFault(),
                                new Check.Condition("//*:code = $wanted and $status = 200 and $millis = 5"),
                                new Check.Condition("$before = 'x'"),
                                new Check.Value("//*:code", "R-7")),
                        new Capture("code", "//*:code"))
                .orElseThrow();
        Map<String, String> values = new HashMap<>(Map.of("before", "x"));
        assertThat(isGood(look, GOOD, values)).isTrue();
        assertThat(values).containsEntry("code", "R-7");
        assertThat(isGood(look, GOOD.replace("R-7", "R-8"), new HashMap<>(Map.of("before", "x"))))
                .isFalse();
        assertThat(isGood(look, GOOD, new HashMap<>()))
                .as("$before has no value")
                .isFalse();
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "<a/>",
                "<e:Envelope xmlns:e='http://schemas.xmlsoap.org/soap/envelope/'><e:Body><e:Fault/></e:Body></e:Envelope>",
                "<e:Envelope xmlns:e='http://schemas.xmlsoap.org/soap/envelope/'><e:Body/></e:Envelope>",
                "<e:Envelope xmlns:e='http://schemas.xmlsoap.org/soap/envelope/'><e:Body><a/><b/></e:Body></e:Envelope>",
                "<e:Envelope xmlns:e='http://schemas.xmlsoap.org/soap/envelope/'><e:Body><a>",
                "<!DOCTYPE a><e:Envelope xmlns:e='http://schemas.xmlsoap.org/soap/envelope/'><e:Body><a/></e:Body></e:Envelope>",
                "<e:Envelope xmlns:e='urn:other'><e:Body><a/></e:Body></e:Envelope>",
                ""
            })
    void whatIsNotSurelyGoodIsLeftToTheFullLook(String answer) {
        assertThat(isGood(look(List.of(new Check.NoFault())).orElseThrow(), answer, new HashMap<>()))
                .isFalse();
    }

    @Test
    void otherChecksAndCapturesHaveNoQuickWay() {
        assertThat(look(List.of(new Check.Valid()))).isEmpty();
        assertThat(look(List.of(new Check.FaultIs("")))).isEmpty();
        assertThat(look(List.of(new Check.Value("//*:code", "{$wanted}")))).isEmpty();
        assertThat(look(List.of(new Check.Condition("//*:code[")))).isEmpty();
        assertThat(look(List.of(new Check.Within(200)))).isPresent();
    }

    @Test
    void anAnswerInAnotherFormGoesTheLongWay() {
        QuickLook look = look(List.of(new Check.NoFault())).orElseThrow();
        byte[] body = GOOD.getBytes(StandardCharsets.UTF_8);
        assertThat(look.isGood(200, HEAD, body, 1, new HashMap<>())).isTrue();
        for (String field : List.of("charset=utf-16", "charset=iso-8859-1")) {
            assertThat(look.isGood(200, HEAD.replace("charset=utf-8", field), body, 1, new HashMap<>()))
                    .isFalse();
        }
        assertThat(look.isGood(200, HEAD.replace("text/xml", "multipart/related"), body, 1, new HashMap<>()))
                .isFalse();
    }
}
