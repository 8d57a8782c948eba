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
    private final Consumer<Runnable> there;
    private final Set<String> known;
    private final List<Hit> found = new ArrayList<>();

    /**
     * @param there goes to the station, then does something
     * @param known words that are in the finder already; those that are found are added
     */
    StationActions(Station station, Consumer<Runnable> there, Set<String> known) {
        this.station = station;
        this.there = there;
        this.known = known;
    }

    /** What can be pressed in its nodes; rows of tables, which are found by what they are, are left out. */
    List<Hit> in(Parent nodes) {
        look(nodes);
        return found;
    }

    private void look(Node node) {
        if (!node.isVisible() || node.isDisabled() || node instanceof IndexedCell || node instanceof TextInputControl) {
            return;
        }
        if (node instanceof Button || node instanceof ToggleButton) {
            add((ButtonBase) node);
        } else if (node instanceof Parent parent) {
            parent.getChildrenUnmodifiable().forEach(this::look);
        }
    }

    private void add(ButtonBase button) {
        // what stands behind two blanks is its shortcut
        String words = button.getText() == null
                ? ""
                : button.getText().replaceFirst(" {2,}.*$", "").replace("▾", "").strip();
        boolean says = words.codePoints().filter(Character::isLetter).count() > 1;
        if (says && known.add(station + words)) {
            String help = button.getAccessibleHelp() == null ? "" : button.getAccessibleHelp();
            String where = "in " + station.title();
            found.add(new Hit(
                    "action",
                    button instanceof ToggleButton ? "Show " + words : words,
                    help.isEmpty() ? where : help + " · " + where,
                    () -> there.accept(button::fire)));
        }
    }
}
