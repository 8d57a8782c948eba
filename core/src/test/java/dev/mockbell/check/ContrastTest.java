package dev.mockbell.check;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

class ContrastTest {
    @Test
    void whatIsAlikeAtBothEndsStandsApartFromWhatIsNot() {
        assertThat(Contrast.of("2024-07-12T10:00Z", "2024-08-12T10:00Z"))
                .isEqualTo(new Contrast("2024-0", "7", "8", "-12T10:00Z"));
        assertThat(Contrast.of("R-1", "R-12")).isEqualTo(new Contrast("R-1", "", "2", ""));
        assertThat(Contrast.of("aa", "aaa")).isEqualTo(new Contrast("aa", "", "a", ""));
        assertThat(Contrast.of("", "x")).isEqualTo(new Contrast("", "", "x", ""));
        assertThat(Contrast.of("x", "y").ofFound()).isEqualTo(new Contrast.Side("y", "", ""));
        assertThat(Contrast.of("184.5", "92.25").ofFound()).isEqualTo(new Contrast.Side("92.25", "", ""));
        assertThat(Contrast.of("x", "xy").ofFound()).isEqualTo(new Contrast.Side("x", "y", ""));
    }

    @Test
    void aCharacterOfTwoHalvesIsNotCut() {
        // both share their first half, and the last two their second
        assertThat(Contrast.of("a\uD83D\uDE00", "a\uD83D\uDE01"))
                .isEqualTo(new Contrast("a", "\uD83D\uDE00", "\uD83D\uDE01", ""));
        assertThat(Contrast.of("\uD83D\uDE00!", "\uD83E\uDE00!"))
                .isEqualTo(new Contrast("", "\uD83D\uDE00", "\uD83E\uDE00", "!"));
    }

    @Test
    void whiteSpaceThatIsAllTheDifferenceIsMadeVisible() {
        assertThat(Contrast.of("a b", "a  b").ofFound()).isEqualTo(new Contrast.Side("a ", "\u2423", "b"));
        assertThat(Contrast.of("ab", "a\t\u00A0b").ofFound().different()).isEqualTo("\u21E5\u237D");
        assertThat(Contrast.of("ab", "ax yb").ofFound().different()).isEqualTo("x y");
    }

    @Test
    void ofAVeryLongTextWhatIsDifferentStaysInSight() {
        String alike = "x".repeat(5_000) + "0123456789";
        Contrast contrast =
                Contrast.of(alike + "a".repeat(400) + "9876543210" + alike, alike + "b" + "9876543210" + alike);
        assertThat(contrast.ofExpected().within(10))
                .isEqualTo(new Contrast.Side("…0123456789", "a".repeat(10) + "…", "9876543210…"));
        assertThat(contrast.ofFound().within(10)).isEqualTo(new Contrast.Side("…0123456789", "b", "9876543210…"));
        assertThat(Contrast.of("12345678901234567890", "abc").ofExpected().within(6))
                .as("alone")
                .isEqualTo(new Contrast.Side("123…890", "", ""));
        assertThat(Contrast.of("abcd", "abxd").ofFound().within(10))
                .as("what is short stays as it is")
                .isEqualTo(Contrast.of("abcd", "abxd").ofFound());
        assertThat(new Contrast.Side("\uD83D\uDE00a", "\uD83D\uDE00a", "").within(1))
                .as("no half of a character")
                .isEqualTo(new Contrast.Side("…a", "…", ""));
    }
}
