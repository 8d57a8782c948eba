package dev.mockbell.desktop.view.frame;

import dev.mockbell.desktop.model.Station;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Overlay;
import dev.mockbell.expression.FunctionDoc;
import java.util.ArrayList;
import java.util.List;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/** What F1 shows: keys in groups, those of the station beside those that work everywhere. */
final class HelpBox {
    private record Group(String title, List<String[]> lines) {}

    private HelpBox() {}

    static void show(StackPane over, Station station, String mainThing) {
        VBox left = new VBox(16, group(everywhere(mainThing)));
        VBox right = new VBox(16);
        List<Group> here = of(station);
        for (int i = 0; i < here.size(); i++) {
            (i == 0 || here.size() == 1 ? left : right).getChildren().add(group(here.get(i)));
        }
        HBox columns = new HBox(36, left);
        if (!right.getChildren().isEmpty()) {
            columns.getChildren().add(right);
        }
        List.of(left, right).forEach(c -> HBox.setHgrow(c, Priority.ALWAYS));
        ScrollPane scroll = new ScrollPane(columns);
        scroll.setFitToWidth(true);
        scroll.setMaxHeight(560);
        scroll.setMinHeight(Region.USE_PREF_SIZE);
        VBox box = new VBox(12, Parts.text("What can be done in " + station.title(), "title"), scroll);
        Overlay.show(over, box, right.getChildren().isEmpty() ? 560 : 1_010);
    }

    private static VBox group(Group group) {
        VBox box = new VBox(5, Parts.text(group.title(), "strong"));
        for (String[] line : group.lines()) {
            Label key = Parts.text(line[0], "mono");
            key.setMinWidth(172);
            key.setMaxWidth(172);
            key.setWrapText(true);
            Label words = Parts.text(line[1], "table-text");
            words.setWrapText(true);
            words.setMinHeight(Region.USE_PREF_SIZE);
            HBox.setHgrow(words, Priority.ALWAYS);
            box.getChildren().add(new HBox(10, key, words));
        }
        return box;
    }

    private static Group everywhere(String mainThing) {
        return new Group(
                "Everywhere",
                List.of(
                        new String[] {"Alt+1 … Alt+6", "go to a station"},
                        new String[] {"Ctrl+K", "find operations, cases, suites, exchanges and actions"},
                        new String[] {"Ctrl+Enter", "here: " + mainThing},
                        new String[] {"Ctrl+O", "open another project"},
                        new String[] {"Ctrl+J", "show or hide the tape"},
                        new String[] {"Esc", "leave or stop"}));
    }

    private static List<Group> of(Station station) {
        return switch (station) {
            case CALL -> call();
            case TRAFFIC ->
                List.of(new Group("Traffic", List.of(new String[] {"Ctrl+F", "filter"}, new String[] {
                    "Enter", "edit the exchange and send it again"
                })));
            default -> List.of();
        };
    }

    private static List<Group> call() {
        List<String[]> functions = new ArrayList<>();
        functions.add(new String[] {"{$name}", "an expression: XPath 3.1 in braces; doubled braces are braces"});
        FunctionDoc.ALL.forEach(f -> functions.add(new String[] {f.signature(), f.text()}));
        return List.of(
                new Group(
                        "In the sheet",
                        List.of(
                                new String[] {"Left, Right", "fold and go out, open and go in"},
                                new String[] {"Space", "put the row in or leave it out"},
                                new String[] {"Enter, F4, Delete", "edit the row, edit it in full, take it out"},
                                new String[] {"Insert, Ctrl+D", "one more of the row, a copy of it"},
                                new String[] {"Alt+Up, Alt+Down", "move one of several"},
                                new String[] {"Ctrl+C, Ctrl+V", "copy the row; paste XML, or rows of a table"},
                                new String[] {"Ctrl+F", "find rows, go to a path"},
                                new String[] {"F1 on a row", "what the contract says of it"})),
                new Group(
                        "In the request",
                        List.of(
                                new String[] {"Ctrl+Z, Ctrl+Shift+Z", "undo and redo"},
                                new String[] {"Ctrl+F in XML", "find and replace"},
                                new String[] {"Ctrl+Space in XML", "what can be written here"},
                                new String[] {"Ctrl+Shift+F in XML", "lay the message out"})),
                new Group("In expressions", functions));
    }
}
