package dev.mockbell.pattern;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Random;
import java.util.regex.Pattern;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * Expressions made at random of what both dialects read alike, held against the matcher of the platform: it is another's
 * work, so that a mistake of ours is not made twice.
 */
class RandomPatternsTest {
    private static final String LETTERS = "abc01";

    private static String atom(Random random, int depth) {
        return switch (random.nextInt(depth > 0 ? 6 : 4)) {
            case 0 -> String.valueOf(LETTERS.charAt(random.nextInt(LETTERS.length())));
            case 1 -> "[ab]";
            case 2 -> "[^a]";
            case 3 -> "[0-1a]";
            case 4 -> "(" + expression(random, depth - 1) + ")";
            default -> "(" + expression(random, depth - 1) + "|" + expression(random, depth - 1) + ")";
        };
    }

    private static String expression(Random random, int depth) {
        StringBuilder text = new StringBuilder();
        for (int i = 0, n = 1 + random.nextInt(3); i < n; i++) {
            text.append(atom(random, depth));
            text.append(
                    List.of("", "", "", "?", "*", "+", "{2}", "{1,2}", "{0,3}").get(random.nextInt(9)));
        }
        return text.toString();
    }

    private static String word(Random random) {
        StringBuilder text = new StringBuilder();
        for (int i = random.nextInt(7); i > 0; i--) {
            text.append(LETTERS.charAt(random.nextInt(LETTERS.length())));
        }
        return text.toString();
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5, 6})
    void theSameTextsMatch(long seed) {
        Random random = new Random(seed);
        for (int i = 0; i < 150; i++) {
            String source = expression(random, 2);
            XsPattern ours = XsPattern.parse(source).orElseThrow();
            Pattern theirs = Pattern.compile(source);
            for (int j = 0; j < 40; j++) {
                String word = word(random);
                assertThat(ours.matches(word))
                        .as("%s against “%s”, seed %d", source, word, seed)
                        .isEqualTo(theirs.matcher(word).matches());
            }
        }
    }

    @ParameterizedTest
    @ValueSource(longs = {11, 12, 13})
    void whatIsFoundForSeveralMatchesEachAndNothingIsFoundOnlyWhereNothingMatches(long seed) {
        Random random = new Random(seed);
        for (int i = 0; i < 60; i++) {
            String one = expression(random, 1);
            String two = expression(random, 1);
            List<XsPattern> both = List.of(
                    XsPattern.parse(one).orElseThrow(), XsPattern.parse(two).orElseThrow());
            List<String> samples = XsPattern.samples(both, 0, 8, 5);
            assertThat(samples).allMatch(s -> Pattern.matches(one, s) && Pattern.matches(two, s) && s.length() <= 8);
            for (int j = 0; samples.isEmpty() && j < 300; j++) {
                String word = word(random);
                assertThat(Pattern.matches(one, word) && Pattern.matches(two, word))
                        .as("%s and %s both match “%s”, seed %d", one, two, word, seed)
                        .isFalse();
            }
        }
    }
}
