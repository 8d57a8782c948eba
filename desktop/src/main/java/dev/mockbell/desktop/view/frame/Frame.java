package dev.mockbell.desktop.view.frame;

import dev.mockbell.desktop.model.Appearance;
import dev.mockbell.desktop.model.Appearance.Theme;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.EnvironmentsModel;
import dev.mockbell.desktop.model.FinderModel;
import dev.mockbell.desktop.model.FinderModel.Hit;
import dev.mockbell.desktop.model.Models;
import dev.mockbell.desktop.model.ProjectSteps;
import dev.mockbell.desktop.model.Station;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.call.CallView;
import dev.mockbell.desktop.view.call.CaseBar;
import dev.mockbell.desktop.view.check.CheckView;
import dev.mockbell.desktop.view.contract.ContractView;
import dev.mockbell.desktop.view.load.LoadView;
import dev.mockbell.desktop.view.mock.MockView;
import dev.mockbell.desktop.view.shared.Overlay;
import dev.mockbell.desktop.view.shared.StationView;
import dev.mockbell.desktop.view.traffic.TapeView;
import dev.mockbell.desktop.view.traffic.TrafficView;
import dev.mockbell.project.Environment;
import dev.mockbell.project.KeptContract;
import dev.mockbell.suite.CopyOut;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Consumer;
import javafx.application.Platform;
import javafx.scene.Node;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextInputControl;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.StackPane;

/** The whole window: top bar, rail, the station, the tape; notices and the finder lie over it. */
public final class Frame extends StackPane {
    private final Models models;
    private final Desk desk;
    private final ProjectMenu projects;
    private final FinderModel finder;
    private final Map<Station, StationView> stations = new EnumMap<>(Station.class);
    private Consumer<StationView> stationMade = view -> {};
    /** What the stations are laid out for; where there is less they are moved through. */
    public static final double LEAST_WIDTH = 1_020;

    public static final double LEAST_HEIGHT = 640;
    private static final double RAIL = 78;
    private static final double BARS = 132;

    private final StackPane center = new StackPane() {
        @Override
        protected double computeMinWidth(double height) {
            return Math.max(LEAST_WIDTH - RAIL, super.computeMinWidth(height));
        }

        @Override
        protected double computeMinHeight(double width) {
            return Math.max(LEAST_HEIGHT - BARS, super.computeMinHeight(width));
        }
    };
    private final ScrollPane moved = new ScrollPane();
    private boolean little;
    private boolean tapeHidden;
    private final BorderPane frame = new BorderPane();
    private final TapeView tape;

    /** @param models the view models that it shows */
    public Frame(Models models) {
        this.models = models;
        this.desk = models.desk();
        setFocusTraversable(true);
        // it has the keyboard while nothing of it has
        setAccessibleText("Mock Bell");
        this.projects = new ProjectMenu(desk);
        this.finder = new FinderModel(desk, models.call(), models.check(), models.traffic(), this::actions);
        this.tape = new TapeView(models.traffic(), () -> desk.go(Station.TRAFFIC), desk.clock());
        frame.setTop(new TopBar(models, projects, this::find, this::environments));
        frame.setLeft(new Rail(desk, this::settings));
        frame.setCenter(center);
        moved.setFitToWidth(true);
        moved.setFitToHeight(true);
        moved.getStyleClass().add("moved");
        widthProperty().addListener((o, was, now) -> fit());
        heightProperty().addListener((o, was, now) -> fit());
        frame.setBottom(tape);
        getChildren().addAll(frame, new Notices(desk));
        desk.stationProperty().addListener((o, was, now) -> show(now));
        // on the scene, not on this node: while nothing has the focus, keys go to the scene alone
        sceneProperty().addListener((o, was, scene) -> {
            if (scene != null) {
                scene.addEventFilter(KeyEvent.KEY_PRESSED, this::key);
            }
        });
        show(desk.stationProperty().get());
        desk.appearance().darkProperty().addListener((o, was, now) -> dress(now));
        dress(desk.appearance().darkProperty().get());
        desk.elsewhere().chosenProperty().addListener((o, was, versions) -> {
            if (versions != null) {
                VersionsBox.show(this, desk.elsewhere(), versions);
            }
        });
    }

    /** What it shows, for drivers and tests. */
    public Models models() {
        return models;
    }

    private void environments() {
        EnvironmentsBox.show(this, new EnvironmentsModel(desk));
    }

    private void find() {
        FinderView.show(this, finder);
    }

    private void settings(Node under) {
        new SettingsMenu(desk.appearance(), frame.getBottom() != null, this::toggleTape).show(under);
    }

    private void dress(boolean dark) {
        Parts.classed(this, "dark", dark);
    }

    private void show(Station station) {
        if (getScene() != null) {
            // what is being typed is kept while it is still here, and the keyboard is not left to the first thing of
            // the bar
            requestFocus();
        }
        center.getChildren().setAll(view(station).node());
        moved.setHvalue(0);
        moved.setVvalue(0);
    }

    private StationView view(Station station) {
        return stations.computeIfAbsent(station, this::make);
    }

    private StationView here() {
        return view(desk.stationProperty().get());
    }

    /** Hears of each station when it is made, and now of those that are. */
    public void onStation(Consumer<StationView> listener) {
        stations.values().forEach(listener);
        stationMade = listener;
    }

    private StationView make(Station station) {
        StationView view = viewOf(station, models);
        stationMade.accept(view);
        return view;
    }

    private static StationView viewOf(Station station, Models models) {
        return switch (station) {
            case CONTRACT -> new ContractView(models);
            case CALL -> new CallView(models);
            case CHECK -> new CheckView(models);
            case MOCK -> new MockView(models);
            case TRAFFIC -> new TrafficView(models);
            case LOAD -> new LoadView(models);
        };
    }

    private void key(KeyEvent e) {
        boolean taken = e.isAltDown() && e.getCode().isDigitKey()
                ? goTo(e.getCode())
                : e.isShortcutDown()
                        ? shortcut(e)
                        : switch (e.getCode()) {
                            case ESCAPE -> escape();
                            case F1 -> help();
                            default -> false;
                        };
        if (taken) {
            e.consume();
        }
    }

    private boolean goTo(KeyCode digit) {
        int number = digit.ordinal() - KeyCode.DIGIT0.ordinal();
        boolean known = number >= 1 && number <= Station.values().length;
        if (known) {
            desk.go(Station.values()[number - 1]);
        }
        return known;
    }

    private boolean shortcut(KeyEvent e) {
        boolean typing = getScene().getFocusOwner() instanceof TextInputControl;
        switch (e.getCode()) {
            case K -> find();
            case J -> toggleTape();
            case O -> projects.open(this);
            case W -> projects.close(this);
            case ENTER -> here().act();
            case F -> {
                return !e.isShiftDown() && here().find();
            }
            case Z -> {
                return undo(e.isShiftDown(), typing);
            }
            default -> {
                return false;
            }
        }
        return true;
    }

    /** What was done last is taken back first: an edit where one is, or something of the project as a whole. */
    private boolean undo(boolean redo, boolean typing) {
        ProjectSteps steps = desk.steps();
        if (!typing && steps.isLatest(redo) && steps.turn(redo)) {
            return true;
        }
        return here().undo(redo, typing) || !typing && steps.turn(redo);
    }

    private boolean escape() {
        boolean over = getChildren().stream().anyMatch(n -> n instanceof Overlay);
        if (over) {
            Overlay.close(this);
        } else if (models.call().waitingProperty().get()
                && desk.stationProperty().get() == Station.CALL) {
            models.call().sendOrStop();
        } else if (!desk.notices().isEmpty()) {
            desk.notices().clear();
        }
        return over;
    }

    /** On a screen where everything is shown twice as large there may be less room than a station needs. */
    private void fit() {
        boolean now = getWidth() > 0 && (getWidth() < LEAST_WIDTH || getHeight() < LEAST_HEIGHT);
        if (now == little) {
            return;
        }
        little = now;
        frame.setCenter(null);
        moved.setContent(null);
        if (now) {
            moved.setContent(center);
            frame.setCenter(moved);
            frame.setBottom(null);
        } else {
            frame.setCenter(center);
            frame.setBottom(tapeHidden ? null : tape);
        }
    }

    private void toggleTape() {
        tapeHidden = frame.getBottom() != null;
        frame.setBottom(tapeHidden ? null : tape);
    }

    private boolean help() {
        if (!here().explain()) {
            showHelp();
        }
        return true;
    }

    private void showHelp() {
        HelpBox.show(this, models.guide(), desk.stationProperty().get(), here().acts());
    }

    /** A menu needs its button to be in the window. */
    private void press(Station station, Runnable action) {
        desk.go(station);
        Platform.runLater(action);
    }

    /** Goes to a station and does what it is for. */
    private void actIn(Station station) {
        desk.go(station);
        here().act();
    }

    private List<Hit> actions() {
        List<Hit> all = new ArrayList<>();
        for (Station station : Station.values()) {
            all.add(new Hit("action", "Go to " + station.title(), "Alt+" + station.digit(), () -> desk.go(station)));
        }
        for (KeptContract contract : desk.project().contracts()) {
            if (contract.isWritten()) {
                all.add(new Hit(
                        "action",
                        "Edit " + contract.title(),
                        "in Contract",
                        () -> models.written().edit(contract)));
                continue;
            }
            all.add(new Hit(
                    "action",
                    "Compare " + contract.title() + " with its source",
                    "in Contract",
                    () -> models.changes().compare(contract)));
        }
        all.add(new Hit("action", "Send the request", "Ctrl+Enter in Call", () -> actIn(Station.CALL)));
        Map<String, Consumer<CaseBar>> ofCases = new LinkedHashMap<>();
        ofCases.put("Variables, secrets and functions", CaseBar::variables);
        ofCases.put("Boundary cases", CaseBar::boundary);
        ofCases.put("Name and describe the case", CaseBar::describe);
        ofCases.put("Copy the request as a curl command", b -> b.copy(CopyOut.Form.CURL, "curl command"));
        ofCases.put("Copy the request as raw HTTP", b -> b.copy(CopyOut.Form.RAW, "HTTP request"));
        ofCases.put("Copy the request as a Java program", b -> b.copy(CopyOut.Form.JAVA, "Java program"));
        ofCases.forEach((words, action) -> all.add(new Hit("action", words, "in Call", () -> {
            desk.go(Station.CALL);
            action.accept(((CallView) here()).cases());
        })));
        String endpoint = models.call().endpoint().address();
        if (endpoint.startsWith("http")) {
            all.add(new Hit(
                    "action",
                    "Tap where the request goes",
                    "in Traffic",
                    () -> models.taps().tap(endpoint)));
        }
        all.add(new Hit("action", "Run the suite", "Ctrl+Enter in Check", () -> actIn(Station.CHECK)));
        all.add(new Hit("action", "Start or stop the mock", "Ctrl+Enter in Mock", () -> actIn(Station.MOCK)));
        all.add(new Hit("action", "Start or stop the load", "Ctrl+Enter in Load", () -> actIn(Station.LOAD)));
        all.add(new Hit(
                "action",
                "Write check reports",
                "JUnit XML and HTML",
                models.check().details()::report));
        all.add(new Hit("action", "Write the load report", "CSV and HTML", models.load()::report));
        all.add(new Hit("action", "Open a project", "Ctrl+O", () -> projects.open(this)));
        all.add(new Hit("action", "New project", "", () -> projects.make(this)));
        all.add(new Hit("action", "Duplicate this project", "", () -> projects.duplicate(this)));
        all.add(new Hit("action", "Close this window", "Ctrl+W", () -> projects.close(this)));
        all.add(new Hit(
                "action", "Environments", "values, addresses and profiles beside each other", this::environments));
        all.add(new Hit("action", "Show or hide the tape", "Ctrl+J", this::toggleTape));
        all.add(new Hit("action", "Change the theme", "light or dark", desk.appearance()::turn));
        all.add(new Hit("action", "What can be done here", "F1: the guide, and the keys", this::showHelp));
        for (Theme theme : Theme.values()) {
            all.add(new Hit(
                    "action",
                    "Theme: " + theme.title(),
                    "",
                    () -> desk.appearance().choose(theme)));
        }
        for (int size : Appearance.SIZES) {
            all.add(new Hit(
                    "action",
                    "Everything at " + size + " %",
                    "with the next start",
                    () -> desk.appearance().size(size)));
        }
        for (Environment e : desk.project().environments()) {
            all.add(new Hit("action", "Use environment " + e.name(), "", () -> desk.use(e.name())));
        }
        Set<String> known = new HashSet<>();
        stations.forEach((station, view) ->
                all.addAll(new StationActions(station, view.node(), action -> press(station, action), known).all()));
        return all;
    }
}
