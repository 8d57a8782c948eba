package dev.mockbell.desktop.view.traffic;

import dev.mockbell.desktop.model.MockLearning;
import dev.mockbell.desktop.view.shared.Asking;
import dev.mockbell.desktop.view.shared.Form;
import java.util.List;
import javafx.scene.Node;
import javafx.scene.control.CheckBox;

/** Asks how exchanges are to become answers of a mock. */
final class LearnForm {
    private LearnForm() {}

    static void ask(Node within, MockLearning learning, List<Long> ids) {
        Form form = new Form();
        int count = ids.size();
        form.note((count == 1 ? "The exchange becomes an answer" : "The " + count + " exchanges become answers")
                + " of the mock of their contract. Requests are told apart by the fields that differ, as few as do it; those"
                + " that are alike and were answered otherwise, by their order.");
        CheckBox inTime = new CheckBox("after as long as they took");
        inTime.setId("learn-in-time");
        CheckBox instead = new CheckBox("in place of what the operations answer now");
        instead.setId("learn-instead");
        instead.setSelected(count > 1);
        form.row("Given", inTime);
        form.row("", instead);
        Asking.ask(
                within,
                "Answers from traffic",
                form,
                "learn",
                "Make answers",
                () -> new MockLearning.Wish(inTime.isSelected(), instead.isSelected()),
                wish -> learning.learn(ids, wish));
    }
}
