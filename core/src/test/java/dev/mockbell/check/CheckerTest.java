package dev.mockbell.check;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.content.Content;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contracts;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.Timing;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapFault;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.suite.Stays;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class CheckerTest {
    private static final String GOOD = Stays.answer("R-1", "184.50");
    private static final String FAULT = Envelope.around(
            SoapVersion.V11,
            SoapFault.xml(SoapVersion.V11, SoapFault.Code.RECEIVER, "no bunk", "<x:Full xmlns:x='urn:x'/>"),
            List.of());

    private final Expressions expressions = new Expressions();
    private final Checker checker = new Checker(expressions);

    private Answer answer(int status, String body, long millis) {
        Contract stay = Contracts.stay();
        HttpMessage request = new HttpMessage("POST /s HTTP/1.1", List.of(), Content.NONE, Content.NONE);
        Optional<dev.mockbell.exchange.Message> response = body == null
                ? Optional.empty()
                : Optional.of(new HttpMessage(
                        "HTTP/1.1 " + status + " X",
                        List.of(),
                        Content.of(body.getBytes(StandardCharsets.UTF_8)),
                        Content.NONE));
        Exchange exchange = new Exchange(
                0,
                Instant.EPOCH,
                Exchange.Way.CALLED,
                "stay",
                "Book",
                "http://h/s",
                "a case",
                request,
                response,
                new Timing(0, 0, millis * 1_000_000, 0),
                body == null ? Outcome.FAILED : Outcome.FINE,
                body == null ? "nobody answers" : "");
        Optional<MessageOutline> outline = MessageOutline.ofAnswer(
                stay, stay.operation("Book", null).orElseThrow().operation());
        return Answer.of(exchange, outline, expressions);
    }

    private CheckResult result(Check check, Answer answer) {
        return checker.check(List.of(check), answer, Scope.EMPTY.with(Map.of("due", "184.5")), Optional.empty())
                .get(0);
    }

    @Test
    void validityIsTheContracts() {
        assertThat(result(new Check.Valid(), answer(200, GOOD, 5)).passed()).isTrue();
        CheckResult bad = result(new Check.Valid(), answer(200, GOOD.replace("184.50", "much"), 5));
        assertThat(bad.passed()).isFalse();
        assertThat(bad.finding()).contains("much").contains("/BookResponse/total");
    }

    @Test
    void aFaultIsNotWantedUnlessItIs() {
        assertThat(result(new Check.NoFault(), answer(200, GOOD, 5)).passed()).isTrue();
        assertThat(result(new Check.NoFault(), answer(500, FAULT, 5)).found()).isEqualTo("Full: no bunk");
        assertThat(result(new Check.NoFault(), answer(404, GOOD, 5)).finding())
                .isEqualTo("should be status 2xx, found status 404");
        assertThat(result(new Check.FaultIs(""), answer(200, GOOD, 5)).finding())
                .isEqualTo("should be a fault, found no fault, status 200");
    }

    @ParameterizedTest
    @CsvSource({"'', true", "Full, true", "Server, true", "Other, false"})
    void aFaultIsKnownByItsDetailOrItsCode(String name, boolean passed) {
        assertThat(result(new Check.FaultIs(name), answer(500, FAULT, 5)).passed())
                .isEqualTo(passed);
    }

    @ParameterizedTest
    @CsvSource({
        "/BookResponse/total, 184.50, true",
        "/BookResponse/total, 184.5, true",
        "/BookResponse/total, ' 1845e-1 ', true",
        "/BookResponse/total, {$due}, true",
        "/BookResponse/total, 184.51, false",
        "/BookResponse/code, R-1, true",
        "/BookResponse/code, r-1, false",
        "/BookResponse/none, x, false"
    })
    void aValueIsComparedAsANumberWhereBothAre(String path, String expected, boolean passed) {
        assertThat(result(new Check.Value(path, expected), answer(200, GOOD, 5)).passed())
                .isEqualTo(passed);
    }

    @Test
    void whatIsNotThereIsSaid() {
        assertThat(result(new Check.Value("/BookResponse/none", "x"), answer(200, GOOD, 5))
                        .finding())
                .isEqualTo("should be x, found nothing at that path (/BookResponse/none)");
    }

    @ParameterizedTest
    @CsvSource({"$status = 200, true", "//*:total > 100, true", "$millis < 5, false", "count(//*:code) = 2, false"})
    void aConditionSeesTheAnswerItsStatusAndItsTime(String xpath, boolean passed) {
        assertThat(result(new Check.Condition(xpath), answer(200, GOOD, 40)).passed())
                .isEqualTo(passed);
    }

    @Test
    void theTimeIsThatOfTheWholeAnswer() {
        assertThat(result(new Check.Within(40), answer(200, GOOD, 40)).passed()).isTrue();
        assertThat(result(new Check.Within(39), answer(200, GOOD, 40)).finding())
                .isEqualTo("should be at most 39 ms, found 40 ms");
    }

    @Test
    void withoutAnAnswerEveryCheckFailsWithTheReason() {
        Answer none = answer(0, null, 3);
        List<Check> all = List.of(
                new Check.Valid(),
                new Check.NoFault(),
                new Check.FaultIs("x"),
                new Check.Value("/a", "1"),
                new Check.Condition("true()"),
                new Check.Within(9_999));
        assertThat(checker.check(all, none, Scope.EMPTY, Optional.empty()))
                .hasSize(all.size())
                .allSatisfy(r -> assertThat(r.passed()).as(r.title()).isFalse())
                .allSatisfy(r -> assertThat(r.sentence()).contains("nobody answers"));
    }

    @ParameterizedTest
    @ValueSource(strings = {"/a[", "$none", "doc('file:///etc/passwd')"})
    void aCheckThatIsWrongItselfFailsWithTheReason(String xpath) {
        CheckResult result = result(new Check.Condition(xpath), answer(200, GOOD, 5));
        assertThat(result.passed()).isFalse();
        assertThat(result.found()).isNotEmpty();
    }

    @Test
    void capturesAreTakenInOrderOrNotAtAll() {
        Answer good = answer(200, GOOD, 5);
        var taken = checker.capture(
                List.of(new Capture("total", "//*:total"), new Capture("code", "//*:code")), good, Scope.EMPTY);
        assertThat(taken.keySet()).containsExactly("total", "code");
        assertThat(taken.values()).extracting(Expressions::text).containsExactly("184.50", "R-1");
        assertThatThrownBy(() -> checker.capture(List.of(new Capture("x", "//*:none")), good, Scope.EMPTY))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("The capture $x found nothing");
        assertThatThrownBy(
                        () -> checker.capture(List.of(new Capture("x", "//*:code")), answer(0, null, 1), Scope.EMPTY))
                .hasMessageContaining("nobody answers");
    }
}
