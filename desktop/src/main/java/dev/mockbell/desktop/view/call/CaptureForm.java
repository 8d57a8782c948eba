package dev.mockbell.desktop.view.call;

import dev.mockbell.check.Capture;
import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.view.shared.Asking;
import dev.mockbell.desktop.view.shared.Form;
import dev.mockbell.problem.Problem;
import dev.mockbell.suite.Case;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import javafx.scene.Node;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.TextField;

/**
 * Asks for a capture's name, path and what it takes; says from where on it has a value and who uses it. Another name is taken over
 * where the old one is used, on request.
 */
final class CaptureForm {
    private static final int MOST_NAMED = 5;

    private CaptureForm() {}

    static void ask(Node within, Capture capture, CallModel model) {
        Form form = new Form();
        TextField name = Form.field("capture-name", capture.name(), "a name");
        TextField path = Form.field("capture-path", capture.path(), "a path");
        ComboBox<String> takes = new ComboBox<>();
        for (Capture.Takes one : Capture.Takes.values()) {
            takes.getItems().add(one.title());
        }
        takes.setValue(capture.takes().title());
        takes.setId("capture-takes");
        CheckBox request = new CheckBox("of the request as it was sent");
        request.setSelected(capture.fromRequest());
        request.setId("capture-request");
        form.row("$", name);
        form.row("at", path);
        form.row("takes", takes);
        form.row("", request);
        form.note(scope(capture, model));
        List<String> users = Stream.concat(
                        model.checks().users(capture.name()).stream().map(Case::title),
                        model.checks().suites(capture.name()).stream().map(s -> "the suite " + s.title()))
                .toList();
        CheckBox uses = new CheckBox("there too");
        uses.setSelected(true);
        if (users.isEmpty()) {
            form.note("Nothing uses $" + capture.name() + " yet. Later steps of a suite can.");
        } else {
            form.note("$" + capture.name() + " is used by " + named(users) + ". Another name is put");
            form.row("", uses);
        }
        Asking.ask(
                within,
                "Capture",
                form,
                "capture",
                () -> {
                    String typed = name.getText().strip().replaceFirst("^\\$", "");
                    if (!typed.matches("[\\p{L}_][\\p{L}\\p{N}_.-]*")) {
                        throw Problem.input(
                                "“" + typed + "” is no name of a variable: letters, digits, _ . and -, a letter first",
                                null,
                                null);
                    }
                    Capture.Takes what =
                            Capture.Takes.values()[takes.getSelectionModel().getSelectedIndex()];
                    return new Capture(typed, Asking.needed(path.getText(), "The path"), what, request.isSelected());
                },
                changed -> {
                    model.checks().replace(capture, changed);
                    if (uses.isSelected() && !users.isEmpty() && !changed.name().equals(capture.name())) {
                        model.checks().rename(capture.name(), changed.name());
                    }
                });
    }

    private static String scope(Capture capture, CallModel model) {
        List<String> places = model.checks().callers().entrySet().stream()
                .map(e -> "step " + e.getValue().text() + " of “" + e.getKey().title() + "”")
                .toList();
        return places.isEmpty()
                ? "No suite calls this case yet: $" + capture.name() + " has a value from the step on that does."
                : "$" + capture.name() + " has a value from " + named(places)
                        + " on, to the end of the run, and in the suites that are run from there.";
    }

    private static String named(List<String> all) {
        return all.stream().limit(MOST_NAMED).collect(Collectors.joining(", "))
                + (all.size() > MOST_NAMED ? " and " + (all.size() - MOST_NAMED) + " more" : "");
    }
}
