package dev.mockbell.suite;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.check.Capture;
import dev.mockbell.check.Check;
import dev.mockbell.content.Header;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;

class VariableUseTest {
    private final Case kept = Stays.book(
                    "a",
                    "<Book note='{$code}'><hut>{concat($code, $code2, '$coder')}</hut><plain>$code {{$code}}</plain></Book>",
                    List.of(
                            new Check.Value("//x[. = $code]", "{$code} $code"),
                            new Check.Not(new Check.Stopping(new Check.Condition("$code = 'a'"))),
                            new Check.MessageText(Check.Match.MATCHES, "$code")),
                    new Capture("other", "//y[@id = $code]"))
            .withHeaders(List.of(new Header("X-Code", "{$code}")));

    @Test
    void aVariableIsFoundWhereItIsUsedAndNowhereElse() {
        assertThat(VariableUse.in(kept, "code")).isTrue();
        assertThat(VariableUse.in(kept, "code2")).isTrue();
        assertThat(VariableUse.in(kept, "cod")).isFalse();
        assertThat(VariableUse.in(Stays.book("b", "<Book>$code {{$code}}</Book>", List.of()), "code"))
                .as("what stands outside an expression means itself")
                .isFalse();
    }

    @Test
    void anotherNameIsPutWhereverItIsUsed() {
        Case renamed = VariableUse.renamed(kept, "code", "booking");
        assertThat(renamed.body())
                .isEqualTo(
                        "<Book note='{$booking}'><hut>{concat($booking, $code2, '$coder')}</hut><plain>$code {{$code}}</plain></Book>");
        assertThat(renamed.headers().get(0).value()).isEqualTo("{$booking}");
        assertThat(renamed.checks())
                .containsExactly(
                        new Check.Value("//x[. = $booking]", "{$booking} $code"),
                        new Check.Not(new Check.Stopping(new Check.Condition("$booking = 'a'"))),
                        new Check.MessageText(Check.Match.MATCHES, "$code"));
        assertThat(renamed.captures()).containsExactly(new Capture("other", "//y[@id = $booking]"));
    }

    @Test
    void stepsUseVariablesInConditionsNodesValuesAndCells() {
        DataTable table = new DataTable("t.csv", List.of("a", "$code"), List.of(List.of("{$code}", "$code {{$code}}")));
        Step call = new Step.Call("C", true, "x/y/z", Optional.of(new KnownValues(table, List.of())));
        Step.Group group = new Step.Group("G", true, List.of(call));
        Suite suite = new Suite(
                "s",
                "S",
                List.of(new Step.Choose("Ch", true, "$code = '1' and $codes", group, group)),
                List.of(
                        new Step.Until("U", true, "$code = 'x'", 3, 0, List.of(call)),
                        new Step.RunSuite("R", true, "other", Map.of("code", "{$code}-1"))),
                List.of(new Step.ForEach("F", false, Optional.empty(), "//a[. = $code]", "each", List.of())));
        assertThat(VariableUse.in(suite, "code")).isTrue();
        assertThat(VariableUse.in(suite, "cod")).isFalse();
        Suite renamed = VariableUse.renamed(suite, "code", "ref");
        DataTable named = new DataTable("t.csv", List.of("a", "$code"), List.of(List.of("{$ref}", "$code {{$code}}")));
        Step called = new Step.Call("C", true, "x/y/z", Optional.of(new KnownValues(named, List.of())));
        Step.Group inner = new Step.Group("G", true, List.of(called));
        assertThat(renamed)
                .isEqualTo(new Suite(
                        "s",
                        "S",
                        List.of(new Step.Choose("Ch", true, "$ref = '1' and $codes", inner, inner)),
                        List.of(
                                new Step.Until("U", true, "$ref = 'x'", 3, 0, List.of(called)),
                                new Step.RunSuite("R", true, "other", Map.of("code", "{$ref}-1"))),
                        List.of(new Step.ForEach("F", false, Optional.empty(), "//a[. = $ref]", "each", List.of()))));
    }
}
