package dev.mockbell.load;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.load.RequestTemplate.Cost;
import dev.mockbell.problem.Problem;
import dev.mockbell.soap.SoapVersion;
import java.nio.charset.StandardCharsets;
import java.util.Map;
import org.junit.jupiter.api.Test;

class RequestTemplateTest {
    private static RequestTemplate template(String body) {
        return new RequestTemplate(
                "POST / HTTP/1.1\r\n", SoapVersion.V11, body, Scope.EMPTY.with("nights", "2"), new Expressions());
    }

    private static String text(byte[] bytes) {
        return new String(bytes, StandardCharsets.UTF_8);
    }

    @Test
    void aConstantBodyIsMadeOnce() {
        RequestTemplate template = template("<a>ø {{x}}</a>");
        assertThat(template.cost()).isEqualTo(Cost.CONSTANT);
        assertThat(template.bytes(Map.of())).isSameAs(template.bytes(Map.of()));
        String request = text(template.bytes(Map.of()));
        int length = request.substring(request.indexOf("\r\n\r\n") + 4).getBytes(StandardCharsets.UTF_8).length;
        assertThat(request).contains("Content-Length: " + length + "\r\n\r\n").contains("<a>ø {x}</a>");
    }

    @Test
    void plainVariablesNeedNoExpressionEngine() {
        RequestTemplate template = template("<a>{$nights} {$code}</a>");
        assertThat(template.cost()).isEqualTo(Cost.PLAIN_VARIABLES);
        assertThat(text(template.bytes(Map.of("code", "R-1")))).contains("<a>2 R-1</a>");
        assertThatThrownBy(() -> template.bytes(Map.of()))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("$code");
    }

    @Test
    void anythingElseIsEvaluated() {
        RequestTemplate template = template("<a>{$nights + 1}</a>");
        assertThat(template.cost()).isEqualTo(Cost.EXPRESSIONS);
        assertThat(text(template.bytes(Map.of("nights", "5")))).contains("<a>6</a>");
    }
}
