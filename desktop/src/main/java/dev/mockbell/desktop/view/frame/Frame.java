package dev.mockbell.desktop.view.frame;

import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.FinderModel;
import dev.mockbell.desktop.model.FinderModel.Hit;
import dev.mockbell.desktop.model.Models;
import dev.mockbell.desktop.model.Notice;
import dev.mockbell.desktop.model.Station;
import dev.mockbell.desktop.part.Icon;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.call.CallView;
import dev.mockbell.desktop.view.call.CaseBar;
import dev.mockbell.desktop.view.check.CheckView;
import dev.mockbell.desktop.view.contract.ContractView;
import dev.mockbell.desktop.view.load.LoadView;
import dev.mockbell.desktop.view.mock.MockView;
import dev.mockbell.desktop.view.shared.Overlay;
import dev.mockbell.desktop.view.traffic.TapeView;
import dev.mockbell.desktop.view.traffic.TrafficView;
import dev.mockbell.project.Environment;
import dev.mockbell.suite.CopyOut;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import javafx.beans.InvalidationListener;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.geometry.Side;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.Label;
import javafx.scene.control.MenuItem;
import javafx.scene.control.TextInputControl;
import javafx.scene.control.Tooltip;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/** The whole window: top bar, rail, the station, the tape; notices and the finder lie over it. */
public final class Frame extends StackPane {
    private final Models models;
    private final Desk desk;
    private final ProjectMenu projects;
    private final FinderModel finder;
    private final Map<Station, Node> stations = new EnumMap<>(Station.class);
    private final Map<Station, Button> rail = new EnumMap<>(Station.class);
    private final StackPane center = new StackPane();
    private final HBox pills = new HBox(8);
    private final Label project = Parts.text("");
    private final Label environment = Parts.text("");
    private final VBox notices = new VBox(8);
    private final BorderPane frame = new BorderPane();
    private final TapeView tape;
    private TrafficView traffic;
    private CallView call;

    /** @param models the view models that it shows */
    public Frame(Models models) {
        this.models = models;
        this.desk = models.desk();
        setFocusTraversable(true);
        this.projects = new ProjectMenu(desk);
        this.finder = new FinderModel(desk, models.call(), models.check(), models.traffic(), this::actions);
        this.tape = new TapeView(models.traffic(), () -> desk.go(Station.TRAFFIC), desk.clock());
        frame.setTop(topBar());
        frame.setLeft(rail());
        frame.setCenter(center);
        frame.setBottom(tape);
        notices.setPickOnBounds(false);
        notices.setAlignment(Pos.BOTTOM_RIGHT);
        notices.setPadding(new Insets(0, 16, 100, 16));
        notices.setId("notices");
        getChildren().addAll(frame, notices);
        desk.stationProperty().addListener((o, was, now) -> show(now));
        desk.notices().addListener((InvalidationListener) o -> showNotices());
        desk.projectProperty().addListener((InvalidationListener) o -> showTop());
        models.mocks().versionProperty().addListener((InvalidationListener) o -> showTop());
        models.load().runningProperty().addListener((InvalidationListener) o -> showTop());
        // on the scene, not on this node: while nothing has the focus, keys go to the scene alone
        sceneProperty().addListener((o, was, scene) -> {
            if (scene != null) {
                scene.addEventFilter(KeyEvent.KEY_PRESSED, this::key);
            }
        });
        showTop();
        showNotices();
        show(desk.stationProperty().get());
    }

    /** What it shows, for drivers and tests. */
    public Models models() {
        return models;
    }

    private Node topBar() {
        HBox bar = new HBox();
        bar.getStyleClass().add("top-bar");
        HBox projectBox = inkBox("Project", project);
        projectBox.setId("project");
        Tooltip.install(projectBox, new Tooltip(desk.project().folder().toString()));
        pressable(projectBox, () -> projects.show(projectBox));
        HBox environmentBox = inkBox("Environment", environment);
        environmentBox.setId("environment");
        pressable(environmentBox, () -> environments().show(environmentBox, Side.BOTTOM, 0, 4));
        HBox find = new HBox(
                Parts.text("Find an operation, case or exchange", "second"),
                Parts.spring(),
                Parts.text("Ctrl K", "second"));
        find.getStyleClass().add("ink-box");
        find.setMinWidth(160);
        find.setPrefWidth(420);
        find.setMaxWidth(420);
        find.setId("find");
        pressable(find, () -> FinderView.show(this, finder));
        pills.setAlignment(Pos.CENTER_RIGHT);
        bar.getChildren()
                .addAll(
                        Icon.MOCK.node(20),
                        own(Parts.text("Mock Bell", "name")),
                        projectBox,
                        environmentBox,
                        Parts.spring(),
                        find,
                        Parts.spring(),
                        pills);
        return bar;
    }

    /** The program's own name is never cut. */
    private static Label own(Label name) {
        name.setMinWidth(Region.USE_PREF_SIZE);
        return name;
    }

    private static void pressable(Node box, Runnable action) {
        box.setFocusTraversable(true);
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
            MenuItem item = new MenuItem(e.name());
            item.setOnAction(x -> desk.use(e.name()));
            menu.getItems().add(item);
        }
        if (menu.getItems().isEmpty()) {
            MenuItem none = new MenuItem("The project has no environments: addresses are as in the contract");
            none.setDisable(true);
            menu.getItems().add(none);
        }
        return menu;
    }

    private void showTop() {
        project.setText(desk.project().name() + " ▾");
        environment.setText(
                desk.project().current().name() + (desk.project().environments().isEmpty() ? "" : " ▾"));
        int up = models.mocks().running();
        Button mocks = pill(
                up == 0 ? "Mocks down" : up + (up == 1 ? " mock up" : " mocks up"),
                Station.MOCK,
                up > 0 ? "up" : "down");
        mocks.setId("pill-mocks");
        pills.getChildren().setAll(mocks);
        if (models.load().runningProperty().get()) {
            pills.getChildren().add(pill("▲ load running", Station.LOAD, "warn"));
        }
    }

    private Button pill(String words, Station to, String kind) {
        Button pill = Parts.button(("up".equals(kind) ? "● " : "") + words, "Go to " + to.title(), () -> desk.go(to));
        pill.getStyleClass().setAll("pill", kind);
        return pill;
    }

    private Node rail() {
        VBox box = new VBox();
        box.getStyleClass().add("rail");
        for (Station station : Station.values()) {
            VBox inside = new VBox(
                    4,
                    Icon.valueOf(station.name()).node(20),
                    Parts.text(station.title()),
                    Parts.text("Alt " + station.digit(), "small"));
            inside.setAlignment(Pos.CENTER);
            Button button = new Button();
            button.setGraphic(inside);
            button.getStyleClass().setAll("rail-item");
            button.setId("rail-" + station.title().toLowerCase(java.util.Locale.ROOT));
            button.setTooltip(new Tooltip(station.title() + " (Alt+" + station.digit() + ")"));
            button.setOnAction(e -> desk.go(station));
            rail.put(station, button);
            box.getChildren().add(button);
        }
        Button theme = Parts.button("Light / dark", "Change the theme", this::theme, "quiet");
        theme.setId("theme");
        theme.setStyle("-fx-font-size: 11px; -fx-padding: 4 2 4 2");
        theme.setMaxWidth(Double.MAX_VALUE);
        box.getChildren().addAll(Parts.spring(), theme);
        return box;
    }

    private void theme() {
        if (!getStyleClass().remove("dark")) {
            getStyleClass().add("dark");
        }
    }

    private void show(Station station) {
        Node view = stations.computeIfAbsent(station, this::make);
        if (getScene() != null) {
            // what is being typed is kept while it is still here, and the keyboard is not left to the first thing of
            // the bar
            requestFocus();
        }
        center.getChildren().setAll(view);
        rail.forEach((s, button) -> {
            button.getStyleClass().remove("here");
            if (s == station) {
                button.getStyleClass().add("here");
            }
        });
    }

    private Node make(Station station) {
        return switch (station) {
            case CONTRACT -> new ContractView(models);
            case CALL -> {
                call = new CallView(models);
                yield call;
            }
            case CHECK -> new CheckView(models);
            case MOCK -> new MockView(models);
            case TRAFFIC -> {
                traffic = new TrafficView(models);
                yield traffic;
            }
            case LOAD -> new LoadView(models);
        };
    }

    private void showNotices() {
        notices.getChildren().clear();
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
            notices.getChildren().add(box);
            if (!notice.bad()) {
                javafx.animation.PauseTransition fade =
                        new javafx.animation.PauseTransition(javafx.util.Duration.seconds(8));
                fade.setOnFinished(e -> desk.notices().remove(notice));
                fade.play();
            }
        }
    }

    private void key(KeyEvent e) {
        if (e.isAltDown() && e.getCode().isDigitKey()) {
            int digit = e.getCode().ordinal() - KeyCode.DIGIT0.ordinal();
            if (digit >= 1 && digit <= Station.values().length) {
                desk.go(Station.values()[digit - 1]);
                e.consume();
            }
            return;
        }
        if (e.getCode() == KeyCode.ESCAPE) {
            escape(e);
            return;
        }
        if (e.getCode() == KeyCode.F1) {
            boolean onRow = desk.stationProperty().get() == Station.CALL && call != null && call.explain();
            if (!onRow) {
                help();
            }
            e.consume();
            return;
        }
        if (!e.isShortcutDown()) {
            return;
        }
        boolean typing = getScene().getFocusOwner() instanceof TextInputControl;
        switch (e.getCode()) {
            case K -> FinderView.show(this, finder);
            case J -> toggleTape();
            case O -> projects.open(this);
            case ENTER -> mainThing();
            case F -> {
                if (e.isShiftDown()) {
                    return;
                }
                if (desk.stationProperty().get() == Station.TRAFFIC) {
                    traffic.filterField().requestFocus();
                } else if (desk.stationProperty().get() == Station.CALL) {
                    call.find();
                } else {
                    return;
                }
            }
            case Z -> {
                // a field beside the message has a history of its own
                if (desk.stationProperty().get() != Station.CALL || typing && !call.isInValue()) {
                    return;
                }
                if (e.isShiftDown()) {
                    models.call().request().redo();
                } else {
                    models.call().request().undo();
                }
            }
            default -> {
                return;
            }
        }
        if (typing || e.getCode() != KeyCode.UNDEFINED) {
            e.consume();
        }
    }

    private void escape(KeyEvent e) {
        boolean over = getChildren().stream().anyMatch(n -> n instanceof Overlay);
        if (over) {
            Overlay.close(this);
            e.consume();
        } else if (models.call().waitingProperty().get()
                && desk.stationProperty().get() == Station.CALL) {
            models.call().sendOrStop();
        } else if (!desk.notices().isEmpty()) {
            desk.notices().clear();
        }
    }

    private void toggleTape() {
        frame.setBottom(frame.getBottom() == null ? tape : null);
    }

    /** Ctrl+Enter: what the station is for. */
    private void mainThing() {
        switch (desk.stationProperty().get()) {
            case CONTRACT -> desk.go(Station.CALL);
            case CALL -> models.call().sendOrStop();
            case CHECK -> models.check().runOrStop();
            case MOCK -> models.mocks().startOrStop();
            case LOAD -> models.load().startOrStop();
            case TRAFFIC -> {
                if (models.traffic().selectedProperty().get() != null) {
                    models.call()
                            .actions()
                            .open(models.traffic().selectedProperty().get());
                }
            }
        }
    }

    private List<Hit> actions() {
        List<Hit> all = new ArrayList<>();
        for (Station station : Station.values()) {
            all.add(new Hit("action", "Go to " + station.title(), "Alt+" + station.digit(), () -> desk.go(station)));
        }
        all.add(new Hit("action", "Send the request", "Ctrl+Enter in Call", () -> {
            desk.go(Station.CALL);
            models.call().sendOrStop();
        }));
        Map<String, Consumer<CaseBar>> ofCases = new LinkedHashMap<>();
        ofCases.put("Variables, secrets and functions", CaseBar::variables);
        ofCases.put("Boundary cases", CaseBar::boundary);
        ofCases.put("Name and describe the case", CaseBar::describe);
        ofCases.put("Copy the request as a curl command", b -> b.copy(CopyOut.Form.CURL, "curl command"));
        ofCases.put("Copy the request as raw HTTP", b -> b.copy(CopyOut.Form.RAW, "HTTP request"));
        ofCases.put("Copy the request as a Java program", b -> b.copy(CopyOut.Form.JAVA, "Java program"));
        ofCases.forEach((words, action) -> all.add(new Hit("action", words, "in Call", () -> {
            desk.go(Station.CALL);
            action.accept(call.cases());
        })));
        all.add(new Hit("action", "Run the suite", "Ctrl+Enter in Check", () -> {
            desk.go(Station.CHECK);
            models.check().runOrStop();
        }));
        all.add(new Hit("action", "Start or stop the mock", "Ctrl+Enter in Mock", () -> {
            desk.go(Station.MOCK);
            models.mocks().startOrStop();
        }));
        all.add(new Hit("action", "Start or stop the load", "Ctrl+Enter in Load", () -> {
            desk.go(Station.LOAD);
            models.load().startOrStop();
        }));
        all.add(new Hit("action", "Write check reports", "JUnit XML and HTML", models.check()::report));
        all.add(new Hit("action", "Write the load report", "CSV and HTML", models.load()::report));
        all.add(new Hit("action", "Open a project", "Ctrl+O", () -> projects.open(this)));
        all.add(new Hit("action", "New project", "", () -> projects.make(this)));
        all.add(new Hit("action", "Show or hide the tape", "Ctrl+J", this::toggleTape));
        all.add(new Hit("action", "Change the theme", "light or dark", this::theme));
        all.add(new Hit("action", "What can be done here", "F1", this::help));
        for (Environment e : desk.project().environments()) {
            all.add(new Hit("action", "Use environment " + e.name(), "", () -> desk.use(e.name())));
        }
        return all;
    }

    private void help() {
        HelpBox.show(this, desk.stationProperty().get(), mainWords());
    }

    private String mainWords() {
        return switch (desk.stationProperty().get()) {
            case CONTRACT -> "call the operation";
            case CALL -> "send, or stop waiting";
            case CHECK -> "run the suite, or stop it";
            case MOCK -> "start or stop the mock";
            case TRAFFIC -> "edit and send again";
            case LOAD -> "start or stop the load";
        };
    }
}
