package dev.mockbell.desktop.view.frame;

import dev.mockbell.desktop.model.Desk;
import java.io.File;
import java.nio.file.Path;
import javafx.geometry.Side;
import javafx.scene.Node;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.MenuItem;
import javafx.scene.control.SeparatorMenuItem;
import javafx.stage.DirectoryChooser;

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
        menu.getItems().addAll(open, make, new SeparatorMenuItem());
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
        choose(near, "Open the project in a folder");
    }

    void make(Node near) {
        choose(near, "Choose or make an empty folder for the new project");
    }

    private void choose(Node near, String title) {
        DirectoryChooser chooser = new DirectoryChooser();
        chooser.setTitle(title);
        File start = desk.project().folder().toFile().getParentFile();
        if (start != null && start.isDirectory()) {
            chooser.setInitialDirectory(start);
        }
        File chosen = chooser.showDialog(near.getScene().getWindow());
        if (chosen != null) {
            desk.openProject(chosen.toPath());
        }
    }
}
