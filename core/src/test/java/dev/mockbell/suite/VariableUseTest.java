package dev.mockbell.suite;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.check.Capture;
import dev.mockbell.check.Check;
import dev.mockbell.content.Header;
import java.util.List;
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
}
