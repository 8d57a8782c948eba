package dev.mockbell.desktop;

import dev.mockbell.desktop.part.Look;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.problem.Problem;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import javafx.application.Platform;
import javafx.geometry.Pos;
import javafx.scene.Scene;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import javafx.stage.Stage;

/**
 * A window while its project is read: it is there at once, where and as it will be, and says what is opened, or why that could
 * not be. On the interface thread.
 */
final class OpeningWindow {
    private static final int MOST_RECENT = 5;

    private final Stage stage;
    private final VBox shown;
    private final String name;
    private final CompletableFuture<Void> closed = new CompletableFuture<>();

    private OpeningWindow(Stage stage, VBox shown, String name) {
        this.stage = stage;
        this.shown = shown;
        this.name = name;
    }

    /**
     * Shows it.
     *
     * @param project the folder that is opened
     * @param dark whether it begins dark
     */
    static OpeningWindow show(Path project, WindowPlace place, boolean dark) {
        String name = String.valueOf(project.getFileName() == null ? project : project.getFileName());
        VBox shown = Parts.empty("Opening “" + name + "”…");
        Parts.classed(shown, "dark", dark);
        Stage stage = new Stage();
        stage.setTitle("Mock Bell");
        MockBellWindow.dress(stage, shown, place);
        OpeningWindow window = new OpeningWindow(stage, shown, name);
        stage.setOnHidden(e -> window.closed.complete(null));
        painted(stage.getScene(), Look::prepare);
        stage.show();
        return window;
    }

    /** What can wait until the window is seen. */
    private static void painted(Scene scene, Runnable then) {
        scene.addPostLayoutPulseListener(new Runnable() {
            @Override
            public void run() {
                scene.removePostLayoutPulseListener(this);
                Platform.runLater(then);
            }
        });
    }

    Stage stage() {
        return stage;
    }

    /** Done when the user has closed it, which may be before the project is read. */
    CompletableFuture<Void> closed() {
        return closed;
    }

    /** Takes it away: its project is not opened. */
    void hide() {
        stage.hide();
    }

    /**
     * Says why the project could not be opened, until another one is chosen or it is closed. Whoever began from a menu has no
     * terminal to read it on, and no other window.
     *
     * @param recent projects that were open before
     * @return the one that is opened in its place; empty when the window was closed
     */
    CompletableFuture<Optional<Path>> tell(Problem problem, List<Path> recent) {
        CompletableFuture<Optional<Path>> other = new CompletableFuture<>();
        closed.thenRun(() -> other.complete(Optional.empty()));
        Label what = Parts.text(problem.getMessage());
        what.setId("not-opened");
        what.setMaxWidth(640);
        Button close = Parts.button("Close", "Close this window; nothing was changed", this::hide);
        close.setId("not-opened-close");
        Button choose = Parts.button(
                "Open another project…",
                "Choose the folder of another project",
                () -> Parts.folder(stage, "Open the project in a folder", null)
                        .ifPresent(chosen -> other.complete(Optional.of(chosen))),
                "primary");
        choose.setId("open-another");
        choose.setDefaultButton(true);
        HBox buttons = new HBox(8, choose, close);
        buttons.setAlignment(Pos.CENTER);
        Label title = Parts.text("“" + name + "” cannot be opened", "title");
        shown.getChildren().setAll(title, what, buttons);
        for (Path project : recent.subList(0, Math.min(MOST_RECENT, recent.size()))) {
            shown.getChildren()
                    .add(Parts.link(
                            project.getFileName() + "  –  " + project.getParent(),
                            "Open this project",
                            () -> other.complete(Optional.of(project))));
        }
        shown.setOnKeyPressed(e -> {
            if (e.getCode() == KeyCode.ESCAPE) {
                hide();
            }
        });
        choose.requestFocus();
        return other;
    }
}
