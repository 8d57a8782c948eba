package dev.mockbell.desktop.view.frame;

import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.Models;
import dev.mockbell.desktop.model.Station;
import dev.mockbell.desktop.part.Icon;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.project.Environment;
import java.util.List;
import javafx.beans.InvalidationListener;
import javafx.css.PseudoClass;
import javafx.geometry.Pos;
import javafx.geometry.Side;
import javafx.scene.AccessibleRole;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Label;
import javafx.scene.control.MenuItem;
import javafx.scene.control.SeparatorMenuItem;
import javafx.scene.control.Tooltip;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;

/** The bar on top: project, environment, finding, what is up. */
final class TopBar extends HBox {
    /** What is done in the environment in use is real to others. */
    private static final PseudoClass LIVE = PseudoClass.getPseudoClass("live");

    private final Models models;
    private final Desk desk;
    private final Runnable edit;
    private final HBox projectBox;
    private final HBox environmentBox;
    private final Label project = Parts.text("");
    private final Label environment = Parts.text("");
    private final HBox pills = new HBox(8);

    /**
     * @param find opens the finder
     * @param edit opens the table of environments
     */
    TopBar(Models models, ProjectMenu projects, Runnable find, Runnable edit) {
        this.models = models;
        this.edit = edit;
        this.desk = models.desk();
        getStyleClass().add("top-bar");
        projectBox = inkBox("Project", project);
        projectBox.setId("project");
        Tooltip.install(projectBox, new Tooltip(desk.project().folder().toString()));
        pressable(projectBox, "Project", () -> projects.show(projectBox));
        environmentBox = inkBox("Environment", environment);
        environmentBox.setId("environment");
        pressable(environmentBox, "Environment", () -> environments().show(environmentBox, Side.BOTTOM, 0, 4));
        HBox finder = new HBox(
                Parts.text("Find an operation, case or exchange", "second"),
                Parts.spring(),
                Parts.text("Ctrl K", "second"));
        finder.getStyleClass().add("ink-box");
        finder.setMinWidth(160);
        finder.setPrefWidth(420);
        finder.setMaxWidth(420);
        finder.setId("find");
        pressable(finder, "Find an operation, case, exchange or action", find);
        pills.setAlignment(Pos.CENTER_RIGHT);
        getChildren()
                .addAll(
                        Icon.MOCK.node(20),
                        own(Parts.text("Mock Bell", "name")),
                        projectBox,
                        environmentBox,
                        Parts.spring(),
                        finder,
                        Parts.spring(),
                        pills);
        desk.projectProperty().addListener((InvalidationListener) o -> show());
        models.mocks().versionProperty().addListener((InvalidationListener) o -> show());
        models.taps().up().addListener((InvalidationListener) o -> show());
        models.taps().waiting().addListener((InvalidationListener) o -> show());
        models.load().runningProperty().addListener((InvalidationListener) o -> show());
        show();
    }

    /** The program's own name is never cut. */
    private static Label own(Label name) {
        name.setMinWidth(Region.USE_PREF_SIZE);
        return name;
    }

    private static void pressable(Node box, String says, Runnable action) {
        box.setFocusTraversable(true);
        box.setAccessibleRole(AccessibleRole.BUTTON);
        box.setAccessibleText(says);
        box.setOnMouseClicked(e -> action.run());
        box.setOnKeyPressed(e -> {
            if (e.getCode() == KeyCode.SPACE || e.getCode() == KeyCode.ENTER) {
                action.run();
            }
        });
    }

    private static HBox inkBox(String name, Label value) {
        HBox box = new HBox(Parts.text(name, "second"), value);
        box.getStyleClass().add("ink-box");
        value.setMinWidth(Region.USE_PREF_SIZE);
        return box;
    }

    private ContextMenu environments() {
        ContextMenu menu = new ContextMenu();
        for (Environment e : desk.project().environments()) {
            MenuItem item = new MenuItem((e.name().equals(desk.project().environment()) ? "● " : "")
                    + e.name()
                    + (e.live() ? "   live" : ""));
            item.setMnemonicParsing(false);
            item.setOnAction(x -> desk.use(e.name()));
            menu.getItems().add(item);
        }
        if (menu.getItems().isEmpty()) {
            MenuItem none = new MenuItem("The project has no environments: addresses are as in the contract");
            none.setDisable(true);
            menu.getItems().add(none);
        }
        MenuItem table = new MenuItem("Environments…");
        table.setId("environments");
        table.setOnAction(x -> edit.run());
        menu.getItems().addAll(new SeparatorMenuItem(), table);
        return menu;
    }

    private void show() {
        project.setText(desk.project().name() + " ▾");
        environment.setText((desk.project().current().live() ? "◆ live: " : "")
                + desk.project().current().name() + " ▾");
        projectBox.setAccessibleText("Project " + desk.project().name());
        environmentBox.setAccessibleText("Environment "
                + desk.project().current().name() + (desk.project().current().live() ? ", live" : ""));
        environmentBox.pseudoClassStateChanged(LIVE, desk.project().current().live());
        showPills();
    }

    private void showPills() {
        int up = models.mocks().running();
        int taps = models.taps().up().size();
        int held = models.taps().waiting().size();
        boolean load = models.load().runningProperty().get();
        // a mock that answers tells of it all the time
        if (!Parts.isNews(pills, List.of(up, taps, held, load))) {
            return;
        }
        Button mocks = pill(
                up == 0 ? "Mocks down" : up + (up == 1 ? " mock up" : " mocks up"),
                Station.MOCK,
                up > 0 ? "up" : "down");
        mocks.setId("pill-mocks");
        pills.getChildren().setAll(mocks);
        if (taps > 0) {
            pills.getChildren().add(pill(taps == 1 ? "tap on" : taps + " taps on", Station.TRAFFIC, "up"));
        }
        if (held > 0) {
            Button waiting = pill("◆ " + held + " held", Station.TRAFFIC, "warn");
            waiting.setId("pill-held");
            pills.getChildren().add(waiting);
        }
        if (load) {
            pills.getChildren().add(pill("▲ load running", Station.LOAD, "warn"));
        }
    }

    private Button pill(String words, Station to, String kind) {
        Button pill = Parts.button(("up".equals(kind) ? "● " : "") + words, "Go to " + to.title(), () -> desk.go(to));
        pill.getStyleClass().setAll("pill", kind);
        return pill;
    }
}
