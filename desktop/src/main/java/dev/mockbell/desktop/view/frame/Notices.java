package dev.mockbell.desktop.view.frame;

import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.Notice;
import dev.mockbell.desktop.part.Parts;
import javafx.animation.PauseTransition;
import javafx.beans.InvalidationListener;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.util.Duration;

/** What there is to tell, over the lower right corner: bad news stays until it is closed, good news goes by itself. */
final class Notices extends VBox {
    private static final Duration READ = Duration.seconds(8);

    private final Desk desk;

    Notices(Desk desk) {
        super(8);
        this.desk = desk;
        setPickOnBounds(false);
        setAlignment(Pos.BOTTOM_RIGHT);
        setPadding(new Insets(0, 16, 100, 16));
        setId("notices");
        desk.notices().addListener((InvalidationListener) o -> show());
        show();
    }

    private void show() {
        getChildren().clear();
        for (Notice notice : desk.notices()) {
            Label words = Parts.text(notice.text());
            words.setWrapText(true);
            words.setMaxWidth(520);
            HBox box = new HBox(words);
            box.getStyleClass().addAll("notice", notice.bad() ? "failed" : "plain");
            box.setMaxWidth(Region.USE_PREF_SIZE);
            HBox.setHgrow(words, Priority.ALWAYS);
            notice.action()
                    .ifPresent(a -> box.getChildren().add(Parts.button(a.words(), "", () -> {
                        desk.notices().remove(notice);
                        a.run().run();
                    })));
            box.getChildren()
                    .add(Parts.button("×", "Close (Esc)", () -> desk.notices().remove(notice), "tiny"));
            getChildren().add(box);
            if (!notice.bad()) {
                PauseTransition fade = new PauseTransition(READ);
                fade.setOnFinished(e -> desk.notices().remove(notice));
                fade.play();
            }
        }
    }
}
