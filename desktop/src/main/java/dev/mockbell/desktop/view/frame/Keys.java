package dev.mockbell.desktop.view.frame;

import dev.mockbell.desktop.model.Station;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.expression.FunctionDoc;
import java.util.ArrayList;
import java.util.List;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** The keys in groups: those of a station before those that work everywhere. */
final class Keys {
    private static final double KEY = 128;

    private record Group(String title, List<String[]> lines) {}

    private Keys() {}

    /** @param mainThing what Ctrl+Enter does there */
    static VBox of(Station station, String mainThing) {
        VBox box = new VBox(16);
        groups(station).forEach(g -> box.getChildren().add(group(g)));
        box.getChildren().add(group(everywhere(mainThing)));
        return box;
    }

    private static VBox group(Group group) {
        VBox box = new VBox(5, Parts.text(group.title(), "strong"));
        for (String[] line : group.lines()) {
            Label key = Parts.text(line[0], "mono");
            key.setMinWidth(KEY);
            key.setMaxWidth(KEY);
            key.setWrapText(true);
            Label words = Parts.text(line[1], "table-text");
            words.setWrapText(true);
            words.setMinHeight(Region.USE_PREF_SIZE);
            HBox.setHgrow(words, Priority.ALWAYS);
            box.getChildren().add(new HBox(8, key, words));
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
                        new String[] {"Ctrl+Z, Ctrl+Shift+Z", "take back what was done last, and do it again"},
                        new String[] {"Ctrl+O, Ctrl+W", "open another project, close this window"},
                        new String[] {"Ctrl+J", "show or hide the tape"},
                        new String[] {"Esc", "leave or stop"}));
    }

    private static Group group(String title, String... lines) {
        List<String[]> pairs = new ArrayList<>();
        for (int i = 0; i < lines.length; i += 2) {
            pairs.add(new String[] {lines[i], lines[i + 1]});
        }
        return new Group(title, pairs);
    }

    private static List<Group> groups(Station station) {
        return switch (station) {
            case CONTRACT ->
                List.of(
                        group(
                                "On the board",
                                "Enter",
                                "call the operation",
                                "Ctrl+F",
                                "find operations",
                                "Ctrl+V",
                                "read what is on the clipboard: an address, a WSDL"),
                        group(
                                "In the source",
                                "Ctrl+F",
                                "find",
                                "Ctrl+B",
                                "go to what the caret is on",
                                "Alt+Left",
                                "go back"),
                        group(
                                "In a table that is written",
                                "Enter, Ctrl+D",
                                "one more row, a copy of it",
                                "Tab, Shift+Tab",
                                "further in, further out",
                                "Ctrl+Up, Ctrl+Down",
                                "move it",
                                "Ctrl+Delete",
                                "take it out",
                                "Ctrl+Shift+O",
                                "one more operation"));
            case CALL -> call();
            case CHECK ->
                List.of(group(
                        "In the register",
                        "F2",
                        "edit the step",
                        "Delete, Ctrl+D",
                        "take it out, a copy of it",
                        "Alt+Up, Alt+Down",
                        "move it"));
            case MOCK ->
                List.of(
                        group(
                                "In the answers",
                                "Delete, Ctrl+D",
                                "take one out, a copy of it",
                                "Alt+Up, Alt+Down",
                                "try it earlier, later"),
                        group(
                                "Beside them",
                                "Space on an operation",
                                "serve it, or leave it out",
                                "Enter on a request",
                                "try what is answered to it",
                                "F2, Delete",
                                "change what is remembered, forget it"));
            case TRAFFIC ->
                List.of(group(
                        "In the ledger",
                        "Ctrl+F",
                        "filter",
                        "Enter",
                        "edit the exchange and send it again",
                        "P",
                        "pin it, or no longer",
                        "C",
                        "compare those that are chosen"));
            case LOAD ->
                List.of(group(
                        "In the curve",
                        "Left, Right",
                        "the point before, the next",
                        "Alt and arrows",
                        "move the point",
                        "Delete",
                        "take it out"));
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
