package dev.mockbell.desktop.view.frame;

import dev.mockbell.desktop.model.FinderModel.Hit;
import dev.mockbell.desktop.model.Station;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.function.Consumer;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.control.Button;
import javafx.scene.control.ButtonBase;
import javafx.scene.control.IndexedCell;
import javafx.scene.control.TextInputControl;
import javafx.scene.control.ToggleButton;

/** All that can be pressed in a station, for the finder: what has a button there needs no entry of its own. */
final class StationActions {
    private final Station station;
    private final Parent nodes;
    private final Consumer<Runnable> there;
    private final Set<String> known;
    private final List<Hit> found = new ArrayList<>();

    /**
     * @param nodes its own
     * @param there goes to the station, then does something
     * @param known words that are in the finder already; those that are found are added
     */
    StationActions(Station station, Parent nodes, Consumer<Runnable> there, Set<String> known) {
        this.station = station;
        this.nodes = nodes;
        this.there = there;
        this.known = known;
    }

    /** What can be pressed; rows of tables, which are found by what they are, are left out. */
    List<Hit> all() {
        look(nodes);
        return found;
    }

    private void look(Node node) {
        if (isButton(node)) {
            add((ButtonBase) node);
        } else {
            within(node).forEach(this::look);
        }
    }

    private static boolean isButton(Node node) {
        return (node instanceof Button || node instanceof ToggleButton) && node.isVisible() && !node.isDisabled();
    }

    private static List<Node> within(Node node) {
        boolean passed = !node.isVisible()
                || node.isDisabled()
                || node instanceof IndexedCell
                || node instanceof TextInputControl;
        return !passed && node instanceof Parent parent ? parent.getChildrenUnmodifiable() : List.of();
    }

    /** What stands behind two blanks is its shortcut. */
    private static String words(ButtonBase button) {
        return button.getText() == null
                ? ""
                : button.getText().replaceFirst(" {2,}.*$", "").replace("▾", "").strip();
    }

    private void add(ButtonBase button) {
        String words = words(button);
        boolean says = words.codePoints().filter(Character::isLetter).count() > 1;
        if (says && known.add(station + words)) {
            String help = button.getAccessibleHelp() == null ? "" : button.getAccessibleHelp();
            String where = "in " + station.title();
            found.add(new Hit(
                    "action",
                    button instanceof ToggleButton ? "Show " + words : words,
                    help.isEmpty() ? where : help + " · " + where,
                    () -> there.accept(() -> press(nodes, words))));
        }
    }

    /** The button of these words as the station has it by then: heads are made anew. */
    private static boolean press(Node node, String words) {
        if (isButton(node)) {
            boolean same = words(((ButtonBase) node)).equals(words);
            if (same) {
                ((ButtonBase) node).fire();
            }
            return same;
        }
        return within(node).stream().anyMatch(n -> press(n, words));
    }
}
