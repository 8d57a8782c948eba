package dev.mockbell.expression;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.problem.Problem;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class ExpressionsTest {
    private final Expressions expressions = new Expressions();
    private final Scope scope = Scope.EMPTY.with(Map.of("nights", "2", "code", "R-1"));

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "plain|plain",
                "{$nights}|2",
                "{$nights + 1} nights|3 nights",
                "a {{literal}} b|a {literal} b",
                "{concat('}', $code, \"{\")}|}R-1{",
                "{1}{2}|12",
                "{(: with a } comment :) 5}|5",
                "{92.25 * $nights}|184.5"
            })
    void bracesAreFilled(String text, String filled) {
        assertThat(expressions.fill(text, scope)).isEqualTo(filled);
    }

    @ParameterizedTest
    @ValueSource(strings = {"{1", "1}", "{'a}", "{(: x}"})
    void bracesThatDoNotMatchAreToldWithTheirColumn(String text) {
        assertThatThrownBy(() -> expressions.fill(text, scope))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("column");
    }

    @Test
    void namesWithoutPrefixMatchAnyNamespace() {
        var document = expressions.read("<a xmlns='urn:x'><b>1</b><b>2</b></a>");
        assertThat(expressions.text("/a/b[2]", Scope.EMPTY.on(document))).isEqualTo("2");
        assertThat(expressions.holds("count(//b) = 2", Scope.EMPTY.on(document)))
                .isTrue();
    }

    @Test
    void anUnknownVariableIsNamedWithTheKnownOnes() {
        assertThatThrownBy(() -> expressions.fill("{$nihgts}", scope))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("nihgts")
                .hasMessageContaining("$nights");
    }

    @Test
    void aMistakeIsAProblemOfItsOwnKind() {
        assertThatThrownBy(() -> expressions.check("1 +", java.util.Set.of()))
                .isInstanceOf(Problem.class)
                .extracting(p -> ((Problem) p).kind())
                .isEqualTo(Problem.Kind.EXPRESSION);
    }

    @ParameterizedTest
    @ValueSource(strings = {"doc('%s')", "unparsed-text('%s')", "collection('%s')"})
    void filesAreOutOfReach(String expression, @TempDir Path folder) throws Exception {
        Path file = Files.writeString(folder.resolve("s.xml"), "<secret/>");
        assertThatThrownBy(() -> expressions.text(expression.formatted(file.toUri()), Scope.EMPTY))
                .isInstanceOf(Problem.class);
    }

    @Test
    void environmentVariablesAreOutOfReach() {
        assertThatThrownBy(() -> expressions.text("count(available-environment-variables())", Scope.EMPTY))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("may not use");
    }

    @Test
    void onlySingleBracesCountAsExpressions() {
        assertThat(Braces.hasExpression("{{x}}")).isFalse();
        assertThat(Braces.hasExpression("{x}")).isTrue();
        assertThat(Braces.parse("{{x}}").constant()).isTrue();
    }

    @Test
    void prefixesOfTheContractWorkInPathsAndOursCannotBeTaken() {
        var document = expressions.read("<a xmlns='urn:x'><b>1</b><b xmlns='urn:y'>2</b></a>");
        Scope with = Scope.EMPTY
                .on(document)
                .withPrefixes(Map.of("urn:x", "x", "urn:y", "y", "urn:z", "bell", "urn:none", ""));
        assertThat(expressions.text("/x:a/y:b", with)).isEqualTo("2");
        assertThat(expressions.text("bell:base64('x')", with)).isEqualTo("eA==");
        assertThatThrownBy(() -> expressions.text("/x:a", Scope.EMPTY.on(document)))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("x");
    }
}
