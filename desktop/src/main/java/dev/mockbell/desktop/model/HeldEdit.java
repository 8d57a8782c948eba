package dev.mockbell.desktop.model;

import dev.mockbell.expression.Braces;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.soap.SoapMessage;
import java.nio.charset.StandardCharsets;
import java.util.function.Consumer;

/**
 * A message that waits, edited as a sheet: the sheet holds its payload, and what is around that stays as it is. Of sheet and
 * text the one that was looked at last counts. Used on the interface thread.
 */
public final class HeldEdit {
    /** A larger one is edited as text, since going over to a sheet and back takes too long. */
    private static final int MOST = 512 << 10;

    private final MessageOutline outline;
    private final Tasks tasks;
    private final Expressions expressions;
    private final MessageModel sheet;
    private SoapMessage around;

    HeldEdit(MessageOutline outline, Tasks tasks, Expressions expressions) {
        this.outline = outline;
        this.tasks = tasks;
        this.expressions = expressions;
        this.sheet = MessageModel.edited(tasks);
    }

    /** The payload. */
    public MessageModel sheet() {
        return sheet;
    }

    /**
     * Lays an envelope out as a sheet.
     *
     * @param done hears when it is
     * @param failed hears why it cannot be
     */
    public void layOut(String envelope, Runnable done, Consumer<Problem> failed) {
        if (envelope.length() > MOST) {
            failed.accept(Problem.input("The message is too large for a sheet here", null, "Change it as XML."));
            return;
        }
        record Parsed(SoapMessage message, String payload) {}
        tasks.run(
                () -> {
                    SoapMessage read = SoapMessage.parse(envelope.getBytes(StandardCharsets.UTF_8), "message");
                    if (read.fault().isPresent()) {
                        throw Problem.input("A fault has no sheet here", null, "Change it as XML.");
                    }
                    return new Parsed(read, Braces.literally(read.payloadText()));
                },
                parsed -> {
                    around = parsed.message();
                    sheet.open(outline, parsed.payload());
                    done.run();
                },
                failed);
    }

    /**
     * The envelope with what the sheet holds in it; expressions in braces have their values.
     *
     * @throws Problem when an expression has none
     */
    public String text() {
        sheet.settle();
        return around.textWith(expressions.fillXml(sheet.xml(), Scope.EMPTY));
    }
}
