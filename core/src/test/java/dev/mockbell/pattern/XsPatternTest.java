package dev.mockbell.pattern;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class XsPatternTest {
    private static XsPattern pattern(String source) {
        return XsPattern.parse(source).orElseThrow();
    }

    private static List<String> samples(int least, int most, String... sources) {
        return XsPattern.samples(
                java.util.Arrays.stream(sources).map(XsPatternTest::pattern).toList(), least, most, 12);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = ' ',
            quoteCharacter = '^',
            value = {
                "[A-Z]{2}[0-9]{4} 0 10",
                "(ab|cd)+ 5 8",
                "a?b*c+ 3 3",
                "[^0-9]{3} 3 3",
                "\\d{2}:\\d{2} 5 5",
                "x{0,3}y 1 4",
                "((a|b)(c|d)){2} 4 4",
                "[\\-+]?\\d+(\\.\\d+)? 6 9",
                "\\p{Lu}\\p{Ll}+ 4 4",
                "(a|bb|ccc){2,3} 8 8",
                "[a-z]* 500 500"
            })
    void somethingThatMatchesIsFoundWithinTheLengths(String source, int least, int most) {
        assertThat(samples(least, most, source))
                .isNotEmpty()
                .allMatch(s -> Pattern.matches(source, s) && s.length() >= least && s.length() <= most);
    }

    @Test
    void stringsOfSeveralPatternsMatchThemAll() {
        assertThat(samples(0, 20, "[A-Z]+[0-9]+", ".{6}", "[^AB]*7"))
                .isNotEmpty()
                .allMatch(s -> s.matches("[A-Z]+[0-9]+") && s.length() == 6 && s.matches("[^AB]*7"));
        assertThat(samples(0, 20, "[A-Z]+", "[0-9]+")).isEmpty();
        assertThat(samples(0, 20, "[a-z]{2}-[A-Z]{2}", "([a-zA-Z]{1,8})(-[a-zA-Z0-9]{1,8})*"))
                .isNotEmpty()
                .allMatch(s -> s.matches("[a-z]{2}-[A-Z]{2}"));
    }

    @Test
    void theSameComesEveryTime() {
        assertThat(samples(4, 9, "[a-z]{3,9}(x|y)*")).isEqualTo(samples(4, 9, "[a-z]{3,9}(x|y)*"));
    }

    @ParameterizedTest
    @ValueSource(strings = {"[a-", "a{x}", "(a", "a)", "*a", "a{3,2}", "\\q", "\\p{Nonsense}", "[z-a]"})
    void whatIsNotWellFormedIsNotRead(String source) {
        assertThat(XsPattern.parse(source)).isEmpty();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = ' ',
            quoteCharacter = '"',
            value = {
                "[a-z-[aeiou]]+ xyz true",
                "[a-z-[aeiou]]+ xaz false",
                "\\i\\c* ns:na-me.1 true",
                "\\i\\c* 1name false",
                "\\w+ _ false",
                "\\w+ a1é true",
                "\\d+ ٣ true",
                "^a$ a false",
                "^a$ ^a$ true",
                "\\p{IsBasicLatin}+ abc true",
                "\\p{IsGreek}+ abc false",
                "\\P{L}+ 12 true",
                "[\\s\\S]{3} a|b true",
                "[-a]+ -a true",
                "[a-]+ -a true",
                "(\\+|00)\\d{2} 0047 true"
            })
    void matchingFollowsXmlSchemaNotOtherDialects(String source, String text, boolean matches) {
        assertThat(pattern(source).matches(text)).isEqualTo(matches);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "(a+)+",
                "(a*)*b",
                "(a|a)*",
                "(a|aa)+$",
                "([a-zA-Z]+)*",
                "(.*)*x",
                "(x+x+)+y",
                "([a-zA-Z0-9]+[ ]?)*",
                "(a{1,100}){1,100}"
            })
    void expressionsThatCanTakeExponentialTimeAreTold(String source) {
        assertThat(pattern(source).isRisky()).isTrue();
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "[A-Z]{2}\\d{4}",
                "\\d+(\\.\\d+)?",
                "[\\w\\-\\.]+@([\\w\\-]+\\.)+[a-zA-Z]{2,6}",
                "(AF|AL|DZ|NO|SE)",
                "[0-9a-fA-F]{8}(-[0-9a-fA-F]{4}){3}-[0-9a-fA-F]{12}",
                "([01]\\d|2[0-3]):[0-5]\\d",
                ".*",
                "(ab)*",
                "a.*b.*c"
            })
    void usualOnesAreNot(String source) {
        assertThat(pattern(source).isRisky()).isFalse();
    }

    @Test
    void aCatastrophicPatternIsMatchedAtOnce() {
        assertThat(pattern("(a+)+b").matches("a".repeat(5_000))).isFalse();
        assertThat(pattern("(a+)+b").matches("a".repeat(5_000) + "b")).isTrue();
    }

    @Test
    void hugeCountsAreTooLargeNotAHang() {
        assertThat(XsPattern.isTooLarge("((a{1000}){1000}){1000}")).isTrue();
        assertThat(XsPattern.isTooLarge("a{1000000000}")).isTrue();
        assertThat(XsPattern.isTooLarge("[a-z]{0,4000}")).isFalse();
        assertThat(XsPattern.parse("((a{1000}){1000}){1000}")).isEmpty();
    }
}
