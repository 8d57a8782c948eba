package dev.mockbell.desktop.view.check;

import dev.mockbell.desktop.model.CheckModel;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Asking;
import dev.mockbell.desktop.view.shared.Form;
import dev.mockbell.problem.Problem;
import dev.mockbell.suite.Suite;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import javafx.scene.Node;
import javafx.scene.control.CheckBox;
import javafx.scene.layout.HBox;

/** Asks which suites are to be run, and how many of them side by side. */
final class SeveralForm {
    private static final List<Integer> AT_A_TIME = List.of(1, 2, 4, 8);

    private SeveralForm() {}

    static void ask(Node within, CheckModel model, Desk desk) {
        Map<Suite, CheckBox> all = new LinkedHashMap<>();
        Form form = new Form();
        for (Suite suite : desk.project().suites()) {
            CheckBox box = new CheckBox(suite.title());
            box.setId("several-" + suite.id());
            boolean able = !model.isRunning(suite) && suite.all().findAny().isPresent();
            box.setSelected(able);
            box.setDisable(!able);
            form.row(all.isEmpty() ? "Suites" : "", box, Parts.text(able ? "" : why(model, suite), "third"));
            all.put(suite, box);
        }
        int[] most = {1};
        HBox counts = Parts.segments(
                AT_A_TIME, n -> n == 1 ? "one after the other" : n + " side by side", 1, n -> most[0] = n);
        form.row("How", counts);
        form.note("Suites that do not need each other can run side by side; each keeps its own register.");
        Asking.ask(
                within,
                "Run several suites",
                form,
                "several",
                "Run",
                () -> {
                    List<Suite> chosen = all.entrySet().stream()
                            .filter(e -> e.getValue().isSelected())
                            .map(Map.Entry::getKey)
                            .toList();
                    if (chosen.isEmpty()) {
                        throw Problem.input("No suite is chosen", null, null);
                    }
                    return chosen;
                },
                chosen -> model.runSeveral(chosen, most[0]));
    }

    private static String why(CheckModel model, Suite suite) {
        return model.isRunning(suite) ? "is running" : "has no steps";
    }
}
