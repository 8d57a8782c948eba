package dev.mockbell.load;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.content.Header;
import dev.mockbell.contract.Contracts;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Expressions.Effort;
import dev.mockbell.expression.Scope;
import dev.mockbell.load.RequestTemplate.Cost;
import dev.mockbell.problem.Problem;
import dev.mockbell.request.Filler;
import dev.mockbell.request.RequestRecipe;
import dev.mockbell.request.RequestText;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;

class RequestTemplateTest {
    private static RequestTemplate template(String body, Header... headers) {
        Expressions expressions = new Expressions();
        Scope scope = Scope.EMPTY.with("nights", "2");
        Set<String> captured = Set.of("nights", "code");
        RequestText text = new RequestText(body, "", List.of(headers));
        RequestRecipe recipe = RequestRecipe.of(
                        Contracts.stay().operation("Book", null).orElseThrow(), text, Optional.of("http://h.example/x"))
                .settled(Filler.of(expressions, scope), captured);
        return new RequestTemplate(recipe, new Way.Http("", null), scope, expressions, captured);
    }

    private static String text(byte[] bytes) {
        return new String(bytes, StandardCharsets.UTF_8);
    }

    @Test
    void aConstantBodyIsMadeOnce() {
        RequestTemplate template = template("<a>ø {{x}}</a>");
        assertThat(template.cost()).isEqualTo(Cost.CONSTANT);
        assertThat(template.bytes(Map.of(), Effort.USUAL)).isSameAs(template.bytes(Map.of(), Effort.USUAL));
        String request = text(template.bytes(Map.of(), Effort.USUAL));
        int length = request.substring(request.indexOf("\r\n\r\n") + 4).getBytes(StandardCharsets.UTF_8).length;
        assertThat(request).contains("Content-Length: " + length + "\r\n\r\n").contains("<a>ø {x}</a>");
    }

    @Test
    void plainVariablesNeedNoExpressionEngine() {
        RequestTemplate template = template("<a>{$nights} {$code}</a>");
        assertThat(template.cost()).isEqualTo(Cost.SLOTS);
        assertThat(text(template.bytes(Map.of("code", "R-1"), Effort.USUAL))).contains("<a>2 R-1</a>");
        assertThatThrownBy(() -> template.bytes(Map.of(), Effort.USUAL))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("$code");
    }

    @Test
    void anExpressionWithoutAValueIsToldAndNothingElseHappens() {
        RequestTemplate template = template("<a>{concat($nights, $code)}</a>");
        assertThat(text(template.bytes(Map.of("code", "R-1"), Effort.LITTLE))).contains("<a>2R-1</a>");
        assertThatThrownBy(() -> template.bytes(Map.of(), Effort.LITTLE))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("$code");
    }

    @Test
    void anythingElseIsEvaluated() {
        RequestTemplate template = template("<a>{$nights + 1}</a>");
        assertThat(template.cost()).isEqualTo(Cost.SLOTS);
        assertThat(text(template.bytes(Map.of("nights", "5"), Effort.USUAL))).contains("<a>6</a>");
    }

    @Test
    void whatNoStepCapturesIsWorkedOutOnce() {
        RequestTemplate template = template("<a>{1 + 1} {upper-case('x')}</a>");
        assertThat(template.cost()).isEqualTo(Cost.CONSTANT);
        assertThat(text(template.bytes(Map.of(), Effort.USUAL))).contains("<a>2 X</a>");
    }

    @Test
    void whatIsAnotherEachTimeIsWorkedOutEachTime() {
        RequestTemplate template = template("<a>{bell:counter('n')}</a>");
        assertThat(template.cost()).isEqualTo(Cost.SLOTS);
        assertThat(text(template.bytes(Map.of(), Effort.USUAL))).contains("<a>1</a>");
        assertThat(text(template.bytes(Map.of(), Effort.USUAL))).contains("<a>2</a>");
    }

    @Test
    void aHeaderOfTheCaseTakesThePlaceOfTheOneThatWouldBeMade() {
        String request = text(template("<a/>", new Header("SoapAction", "mine")).bytes(Map.of(), Effort.USUAL));
        assertThat(request).contains("SoapAction: mine\r\n").doesNotContain("SOAPAction:");
    }

    @Test
    void headersSeeWhatWasCaptured() {
        RequestTemplate template = template("<a/>", new Header("X-Code", "{$code}"));
        assertThat(text(template.bytes(Map.of("code", "R-7"), Effort.USUAL))).contains("X-Code: R-7\r\n");
    }

    @Test
    void noValueBringsASecondHeader() {
        RequestTemplate template = template("<a/>", new Header("X-Code", "{$code}"));
        assertThatThrownBy(() -> template.bytes(Map.of("code", "1\r\nX-Evil: 2"), Effort.USUAL))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("X-Code");
    }
}
