package dev.mockbell.desktop.view.frame;

import dev.mockbell.desktop.model.Appearance;
import dev.mockbell.desktop.model.Appearance.Theme;
import javafx.geometry.Side;
import javafx.scene.Node;
import javafx.scene.control.CheckMenuItem;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.MenuItem;
import javafx.scene.control.RadioMenuItem;
import javafx.scene.control.SeparatorMenuItem;

/** How the window looks, as a menu. */
final class SettingsMenu extends ContextMenu {
    /** @param tape whether it is shown now */
    SettingsMenu(Appearance appearance, boolean tape, Runnable toggleTape) {
        setId("settings-menu");
        getItems().add(heading("Theme"));
        for (Theme theme : Theme.values()) {
            getItems().add(choice(theme.title(), appearance.theme() == theme, () -> appearance.choose(theme)));
        }
        getItems().addAll(new SeparatorMenuItem(), heading("Size, with the next start"));
        getItems().add(choice("As the system says", appearance.size() == 0, () -> appearance.size(0)));
        for (int size : Appearance.SIZES) {
            getItems().add(choice(size + " %", appearance.size() == size, () -> appearance.size(size)));
        }
        CheckMenuItem shown = new CheckMenuItem("The tape (Ctrl+J)");
        shown.setSelected(tape);
        shown.setOnAction(e -> toggleTape.run());
        getItems().addAll(new SeparatorMenuItem(), shown);
    }

    private static MenuItem heading(String words) {
        MenuItem item = new MenuItem(words);
        item.setDisable(true);
        return item;
    }

    private static MenuItem choice(String words, boolean chosen, Runnable choose) {
        RadioMenuItem item = new RadioMenuItem(words);
        item.setSelected(chosen);
        item.setOnAction(e -> choose.run());
        return item;
    }

    void show(Node under) {
        show(under, Side.RIGHT, 4, -220);
    }
}
