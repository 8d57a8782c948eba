package dev.mockbell.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.desktop.model.Undo;
import org.junit.jupiter.api.Test;

class UndoTest {
    private final Undo undo = new Undo();

    @Test
    void changesGoBackAndForth() {
        undo.changed("a", "ab", "");
        undo.changed("ab", "xb", "");
        assertThat(undo.undo("xb")).contains("ab");
        assertThat(undo.undo("ab")).contains("a");
        assertThat(undo.undo("a")).isEmpty();
        assertThat(undo.redo("a")).contains("ab");
        assertThat(undo.redo("ab")).contains("xb");
        assertThat(undo.redo("xb")).isEmpty();
    }

    @Test
    void typingInOnePlaceIsOneStep() {
        undo.changed("<>", "<h>", "type x");
        undo.changed("<h>", "<hu>", "type x");
        undo.changed("<hu>", "<hut>", "type x");
        undo.changed("<hut>", "<hut>!", "type y");
        assertThat(undo.undo("<hut>!")).contains("<hut>");
        assertThat(undo.undo("<hut>")).contains("<>");
        assertThat(undo.redo("<>")).contains("<hut>");
    }

    @Test
    void aNewChangeForgetsWhatWasUndone() {
        undo.changed("a", "b", "");
        undo.undo("b");
        undo.changed("a", "c", "");
        assertThat(undo.redo("c")).isEmpty();
    }

    @Test
    void thousandsOfEditsOfALargeTextGoBackToTheFirst() {
        String text = "x".repeat(100_000);
        String now = text;
        for (int i = 0; i < 1_000; i++) {
            String next = now.substring(0, i * 90) + i + now.substring(i * 90 + 1);
            undo.changed(now, next, "");
            now = next;
        }
        for (int i = 0; i < 1_000; i++) {
            now = undo.undo(now).orElseThrow();
        }
        assertThat(now.equals(text)).isTrue();
        assertThat(undo.undo(now)).isEmpty();
    }
}
