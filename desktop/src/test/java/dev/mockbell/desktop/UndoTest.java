package dev.mockbell.desktop;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.desktop.model.Undo;
import org.junit.jupiter.api.Test;

class UndoTest {
    private final Undo undo = new Undo();

    @Test
    void changesGoBackAndForth() {
        undo.before("a", "");
        undo.before("b", "");
        assertThat(undo.undo("c")).contains("b");
        assertThat(undo.undo("b")).contains("a");
        assertThat(undo.undo("a")).isEmpty();
        assertThat(undo.redo("a")).contains("b");
        assertThat(undo.redo("b")).contains("c");
        assertThat(undo.redo("c")).isEmpty();
    }

    @Test
    void typingInOnePlaceIsOneStep() {
        undo.before("", "type x");
        undo.before("h", "type x");
        undo.before("hu", "type x");
        assertThat(undo.undo("hut")).contains("");
    }

    @Test
    void aNewChangeForgetsWhatWasUndone() {
        undo.before("a", "");
        undo.undo("b");
        undo.before("a", "");
        assertThat(undo.redo("x")).isEmpty();
    }
}
