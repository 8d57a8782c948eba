package dev.mockbell.desktop.view.traffic;

import dev.mockbell.desktop.model.TapsModel;
import dev.mockbell.desktop.view.shared.Asking;
import dev.mockbell.desktop.view.shared.Form;
import dev.mockbell.tap.Held;
import dev.mockbell.tap.Holds;
import dev.mockbell.tap.Holds.Side;
import dev.mockbell.tap.TapHost;
import java.util.Locale;
import java.util.Optional;
import javafx.scene.Node;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.TextField;

/** Asks what is to wait, and for what goes on in the place of a message. */
final class HoldForm {
    private HoldForm() {}

    static String words(Holds.Rule rule) {
        return (rule.next() ? "the next of " : "")
                + (rule.side() == Side.BOTH
                        ? "requests and answers"
                        : rule.side().name().toLowerCase(Locale.ROOT))
                + (rule.condition().isBlank() ? "." : " where " + rule.condition());
    }

    static void ask(Node within, TapsModel model, TapHost host) {
        Form form = new Form();
        form.note(
                "What is held waits until you let it through, change it, answer it from here or drop it. When the tap is"
                        + " stopped or the window is closed, it goes on as it is.");
        ComboBox<String> side = new ComboBox<>();
        side.getItems().setAll("requests", "answers", "requests and answers");
        side.setValue("requests");
        side.setId("hold-side");
        form.row("Hold", side);
        TextField where = Form.field("hold-where", "", "any; or $request//nights > 3, $operation = 'ReserveBunks'");
        form.row("Where", where);
        CheckBox next = new CheckBox("only the next one");
        next.setId("hold-next");
        form.row("", next);
        Asking.ask(
                within,
                "Hold messages",
                form,
                "hold",
                "Hold",
                () -> {
                    Side of = Side.values()[side.getSelectionModel().getSelectedIndex()];
                    Holds.Rule rule = new Holds.Rule(of, where.getText().strip(), next.isSelected());
                    // here, so that a condition that does not parse is said in the form
                    model.hold(host, Optional.of(rule));
                    return rule;
                },
                rule -> {});
    }

    /** What goes on in the place of a message that waits. */
    static void change(Node within, TapsModel model, Held held) {
        model.text(
                held,
                text -> new HeldForm(
                                model.edit(held, held.isAnswer()),
                                withoutFraming(held.message().head()),
                                text)
                        .ask(
                                within,
                                held.isAnswer() ? "Change the answer" : "Change the request",
                                "Let it through",
                                held::letThrough));
    }

    /** What the client gets from here. */
    static void answer(Node within, TapsModel model, Held held) {
        model.mocked(
                held,
                start -> new HeldForm(model.edit(held, true), start.head(), start.body())
                        .ask(within, "Answer from here", "Answer", held::answer));
    }

    private static String withoutFraming(String head) {
        return head.strip()
                .replace("\r\n", "\n")
                .replaceAll("(?im)^(content-length|transfer-encoding|content-encoding|trailer):.*\n?", "")
                .strip();
    }
}
