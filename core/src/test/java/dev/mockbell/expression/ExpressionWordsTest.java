package dev.mockbell.expression;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class ExpressionWordsTest {
    private final Scope scope =
            Scope.EMPTY.with(Map.of("nights", "2", "night", "1")).withSecret("token", "x");

    private List<String> at(String text) {
        int caret = text.indexOf('|');
        return ExpressionWords.at(text.replace("|", ""), caret, scope).words();
    }

    @Test
    void variablesAndSecretsFollowADollar() {
        assertThat(at("{$|}")).containsExactly("$night", "$nights", "$secret:token");
        assertThat(at("{1 + $ni|")).containsExactly("$night", "$nights");
    }

    @Test
    void functionsFollowTheirFirstLetters() {
        assertThat(at("a {bell:c|}")).containsExactly("bell:counter(");
        assertThat(at("{uu|}")).containsExactly("bell:uuid()");
        assertThat(at("{current-d|}")).contains("current-date()");
    }

    @Test
    void outsideOfBracesAndInDoubledOnesThereIsNothing() {
        assertThat(at("$ni|")).isEmpty();
        assertThat(at("{{$ni|")).isEmpty();
        assertThat(at("{1} $ni|")).isEmpty();
    }

    @Test
    void whatIsWrittenOutIsNotProposedAgain() {
        assertThat(at("{$nights|}")).isEmpty();
    }

    @Test
    void inXmlTheBracesOfTheTextOrTagThatTheCaretIsInCount() {
        Scope scope = Scope.EMPTY.with(java.util.Map.of("nights", "2"));
        for (String xml : new String[] {
            "<a><!-- { --><b>{$ni|", "<a><b>{1 > $ni|", "<a k=\"{$ni|\"/>", "{$ni|", "<a>{1}</a><b>x {$ni|</b>"
        }) {
            int caret = xml.indexOf('|');
            ExpressionWords.At at = ExpressionWords.inXml(xml.replace("|", ""), caret, scope);
            assertThat(at.words()).as(xml).containsExactly("$nights");
            assertThat(at.from()).as(xml).isEqualTo(xml.indexOf("$ni|"));
        }
        String after = "<a>{1}</a><b>";
        assertThat(ExpressionWords.inXml(after, after.length(), scope).words()).isEmpty();
    }
}
