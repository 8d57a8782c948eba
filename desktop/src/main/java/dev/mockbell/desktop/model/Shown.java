package dev.mockbell.desktop.model;

import dev.mockbell.check.Answer;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.sheet.Sheet;
import java.util.Optional;

/**
 * An answer laid out for the window; made off the interface thread.
 *
 * @param sheet its payload, or what XML came in place of one; empty when there is none
 * @param trouble why there is no sheet of the XML that there is; empty for nothing
 */
record Shown(Optional<Sheet> sheet, String trouble) {
    static Shown of(Answer answer, MessageOutline nothingDue) {
        if (answer.content().isEmpty()) {
            return new Shown(Optional.empty(), "");
        }
        try {
            Sheet sheet = Sheet.openReceived(
                    answer.outline().orElse(nothingDue), answer.content().get());
            sheet.root();
            return new Shown(Optional.of(sheet), "");
        } catch (Problem problem) {
            return new Shown(Optional.empty(), problem.getMessage());
        }
    }
}
