package dev.mockbell.desktop.view.frame;

import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.part.Parts;
import java.nio.file.Path;
import java.util.Optional;
import javafx.geometry.Side;
import javafx.scene.Node;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.MenuItem;
import javafx.scene.control.SeparatorMenuItem;

/** What the project's name in the bar opens: another project, a new one, those that were open before. */
final class ProjectMenu {
    private final Desk desk;

    ProjectMenu(Desk desk) {
        this.desk = desk;
    }

    void show(Node under) {
        ContextMenu menu = new ContextMenu();
        menu.setId("project-menu");
        MenuItem open = item("Open a project… (Ctrl+O)", () -> open(under));
        open.setId("open-project");
        MenuItem make = item("New project…", () -> make(under));
        make.setId("new-project");
        MenuItem copy = item("Duplicate this project…", () -> duplicate(under));
        copy.setId("duplicate-project");
        MenuItem close = item("Close this window (Ctrl+W)", () -> close(under));
        close.setId("close-window");
        menu.getItems().addAll(open, make, copy, close, new SeparatorMenuItem());
        for (Path project : desk.recent().projects()) {
            menu.getItems().add(item(project.getFileName() + "   " + parent(project), () -> desk.openProject(project)));
        }
        if (desk.recent().projects().isEmpty()) {
            MenuItem none = new MenuItem("Projects that were open before are found here");
            none.setDisable(true);
            menu.getItems().add(none);
        }
        menu.show(under, Side.BOTTOM, 0, 4);
    }

    private static String parent(Path project) {
        String text = String.valueOf(project.getParent());
        return text.length() > 60 ? "…" + text.substring(text.length() - 60) : text;
    }

    private static MenuItem item(String words, Runnable action) {
        MenuItem item = new MenuItem(words);
        // names of folders may have underscores, which would be taken for the letters of the keyboard
        item.setMnemonicParsing(false);
        item.setOnAction(e -> action.run());
        return item;
    }

    void open(Node near) {
        choose(near, "Open the project in a folder").ifPresent(desk::openProject);
    }

    void make(Node near) {
        choose(near, "Choose or make an empty folder for the new project").ifPresent(desk::openProject);
    }

    void duplicate(Node near) {
        choose(near, "Choose or make an empty folder for the copy").ifPresent(desk::duplicate);
    }

    /** Closes the window; everything is saved. */
    void close(Node near) {
        near.getScene().getWindow().hide();
    }

    private Optional<Path> choose(Node near, String title) {
        return Parts.folder(
                near.getScene().getWindow(), title, desk.project().folder().getParent());
    }
}
