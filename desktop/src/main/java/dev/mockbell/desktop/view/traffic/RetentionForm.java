package dev.mockbell.desktop.view.traffic;

import dev.mockbell.desktop.model.TrafficModel;
import dev.mockbell.desktop.view.shared.Asking;
import dev.mockbell.desktop.view.shared.Form;
import dev.mockbell.ledger.Retention;
import dev.mockbell.problem.Problem;
import java.time.Duration;
import java.util.Optional;
import javafx.scene.Node;
import javafx.scene.control.TextField;

/** Asks how much the ledger keeps. */
final class RetentionForm {
    private RetentionForm() {}

    static void ask(Node within, TrafficModel model) {
        Retention now = model.retention();
        Form form = new Form();
        form.note(
                "What is over goes by and by, the oldest first. What is pinned, or belongs to a run that is kept, stays.");
        TextField count = Form.field("keep-count", String.valueOf(now.count()), "1000000");
        TextField megabytes = Form.field("keep-megabytes", String.valueOf(now.bytes() >> 20), "8192");
        TextField days = Form.field(
                "keep-days", now.age().map(a -> String.valueOf(a.toDays())).orElse(""), "any age");
        form.row("So many exchanges", count);
        form.row("So many megabytes", megabytes);
        form.row("So many days", days);
        Asking.ask(
                within,
                "How much the ledger keeps",
                form,
                "kept-much",
                () -> new Retention(
                        number(count, 1_000_000),
                        number(megabytes, 8_192) << 20,
                        days.getText().isBlank() ? Optional.empty() : Optional.of(Duration.ofDays(number(days, 1)))),
                model::retain);
    }

    private static long number(TextField field, long usual) {
        String typed = field.getText().strip();
        if (typed.isEmpty()) {
            return usual;
        }
        if (!typed.matches("[1-9][0-9]{0,8}")) {
            throw Problem.input("“" + typed + "” is no number that can be kept", null, "Give one of 1 or more.");
        }
        return Long.parseLong(typed);
    }
}
