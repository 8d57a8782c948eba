package dev.mockbell.desktop.view.contract;

import dev.mockbell.contract.Finding;
import dev.mockbell.contract.SourceDocument;
import dev.mockbell.desktop.model.ChangesModel;
import dev.mockbell.desktop.model.ContractsModel;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.Models;
import dev.mockbell.desktop.model.Moments;
import dev.mockbell.desktop.model.OperationPlace;
import dev.mockbell.desktop.model.Station;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Asking;
import dev.mockbell.desktop.view.shared.Copying;
import dev.mockbell.desktop.view.shared.Form;
import dev.mockbell.desktop.view.shared.Overlay;
import dev.mockbell.desktop.view.shared.StationView;
import dev.mockbell.problem.Counted;
import dev.mockbell.project.KeptContract;
import java.util.List;
import javafx.application.Platform;
import javafx.beans.InvalidationListener;
import javafx.geometry.Insets;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.control.TextInputControl;
import javafx.scene.input.Clipboard;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/** What the contracts offer: the operation board, and the anatomy of the operation chosen on it. */
public final class ContractView extends StackPane implements StationView {
    private final Desk desk;
    private final ContractsModel contracts;
    private final ChangesModel changes;
    private final Models models;
    private final OperationBoard board;
    private final AnatomyPane anatomy;
    private final TextField filter = new TextField();
    private final HBox foot = Parts.foot();
    private final HBox progress = new HBox();
    private final Label title = Parts.text("", "title");
    private final Label subtitle = Parts.text("", "second");
    private final VBox right;
    private OperationPlace shown;
    private List<KeptContract> asShown = List.of();

    public ContractView(Models models) {
        this.desk = models.desk();
        this.contracts = desk.contracts();
        this.changes = models.changes();
        this.models = models;
        setId("contract-station");
        board = new OperationBoard(models, this::choose, p -> desk.go(Station.CALL), this::manage);
        models.written().openProperty().addListener((o, was, now) -> {
            asShown = List.of();
            getChildren().clear();
            closeOverlay();
            show();
        });
        changes.shownProperty().addListener((o, was, now) -> {
            asShown = List.of();
            closeOverlay();
            show();
        });
        anatomy = new AnatomyPane(desk, this::copy, models.taps()::tap);
        right = Parts.panel(anatomy);
        VBox.setVgrow(anatomy, Priority.ALWAYS);
        anatomy.wideProperty().addListener((o, was, now) -> widen(now));
        widen(false);
        filter.setPromptText("Filter operations");
        filter.setPrefWidth(190);
        filter.setId("board-filter");
        filter.textProperty().addListener((o, was, now) -> {
            board.show(now);
            board.select(shown);
        });
        filter.setOnKeyPressed(e -> {
            if (e.getCode() == KeyCode.DOWN || e.getCode() == KeyCode.ENTER) {
                board.focus();
            }
        });
        desk.projectProperty().addListener((InvalidationListener) o -> show());
        desk.placeProperty().addListener((o, was, now) -> showPlace(now));
        contracts.progressProperty().addListener((InvalidationListener) o -> showProgress());
        contracts.questionProperty().addListener((o, was, now) -> ask(now));
        InvalidationListener results = o -> {
            if (desk.stationProperty().get() == Station.CONTRACT) {
                board.refresh();
            }
        };
        models.traffic().versionProperty().addListener(results);
        models.mocks().versionProperty().addListener(results);
        desk.stationProperty().addListener(results);
        contracts.setOnAdded(this::closeOverlay);
        acceptDrops();
        addEventFilter(KeyEvent.KEY_PRESSED, this::keys);
        showPlace(desk.placeProperty().get());
        show();
    }

    @Override
    public Parent node() {
        return this;
    }

    @Override
    public void act() {
        if (changes.shownProperty().get() != null) {
            changes.takeOver();
            return;
        }
        desk.go(Station.CALL);
    }

    @Override
    public boolean undo(boolean redo, boolean typing) {
        return !getChildren().isEmpty() && getChildren().get(0) instanceof WrittenPane pane && pane.undo(redo);
    }

    @Override
    public String acts() {
        return changes.shownProperty().get() != null ? "take it over" : "call the operation";
    }

    private void keys(KeyEvent e) {
        boolean elsewhere = anatomy.isShowingSource();
        if (e.isShortcutDown() && e.getCode() == KeyCode.F && !elsewhere) {
            filter.requestFocus();
            e.consume();
        } else if (e.isShortcutDown() && e.getCode() == KeyCode.V && !(e.getTarget() instanceof TextInputControl)) {
            paste(Clipboard.getSystemClipboard());
            e.consume();
        }
    }

    /** An address, a file or the text of a WSDL itself, copied elsewhere. */
    private void paste(Clipboard clipboard) {
        if (clipboard.hasFiles()) {
            clipboard.getFiles().forEach(f -> desk.importContract(f.getPath()));
        } else if (clipboard.hasString()) {
            contracts.paste(clipboard.getString().strip());
        }
    }

    private void widen(boolean wide) {
        right.setMinWidth(wide ? 620 : 400);
        right.setMaxWidth(wide ? 620 : 400);
    }

    private void show() {
        List<KeptContract> now = desk.project().contracts();
        boolean empty = now.isEmpty();
        if (models.written().openProperty().get() != null) {
            if (getChildren().isEmpty() || !(getChildren().get(0) instanceof WrittenPane)) {
                getChildren().setAll(new WrittenPane(models.written(), desk, models.mocks()));
            }
            return;
        }
        if (changes.shownProperty().get() != null) {
            if (getChildren().isEmpty() || !(getChildren().get(0) instanceof ChangesPane)) {
                ChangesPane pane = new ChangesPane(changes);
                getChildren().setAll(pane);
                // once it is laid out: a node that is not yet cannot have the keyboard
                Platform.runLater(pane::focus);
            }
            return;
        }
        if (getChildren().isEmpty() || !now.equals(asShown)) {
            asShown = now;
            getChildren().setAll(empty ? emptyProject() : full());
        }
        if (!empty) {
            board.show(filter.getText());
            board.select(shown);
            showFindings();
        }
        showProgress();
    }

    private Node emptyProject() {
        return new StartPage(desk, progress, this::write);
    }

    private void showProgress() {
        progress.getChildren().setAll(ContractAdder.progress(contracts));
    }

    private void ask(ContractsModel.LoginQuestion question) {
        if (getScene() == null) {
            return;
        }
        if (question == null) {
            Overlay.close(this);
        } else {
            // left in whatever way, the reading must not wait for an answer for ever
            Overlay.show(this, ContractAdder.login(contracts, question), 520, () -> contracts.giveUp(question));
        }
    }

    /** What lies over the window; none does while another station is shown. */
    private void closeOverlay() {
        if (getScene() != null) {
            Overlay.close(this);
        }
    }

    private void acceptDrops() {
        setOnDragOver(e -> {
            if (e.getDragboard().hasFiles() || e.getDragboard().hasString()) {
                e.acceptTransferModes(TransferMode.COPY);
            }
        });
        setOnDragDropped(e -> {
            if (e.getDragboard().hasFiles()) {
                e.getDragboard().getFiles().forEach(f -> desk.importContract(f.getPath()));
            } else if (e.getDragboard().hasString()) {
                contracts.paste(e.getDragboard().getString().strip());
            }
            e.setDropCompleted(true);
        });
    }

    private Node full() {
        title.setText(desk.project().name());
        subtitle.setText(Counted.of(desk.project().contracts().size(), "contract") + " · "
                + Counted.of(desk.places().size(), "operation")
                + " · fetched "
                + Moments.toTheMinute(desk.project().contracts().get(0).fetched()));
        subtitle.setMinWidth(USE_PREF_SIZE);
        Button add = Parts.button("Add a contract", "Read another WSDL", this::askAddress);
        add.setId("add-contract");
        add.setMinWidth(USE_PREF_SIZE);
        HBox head = new HBox(title, subtitle, progress, Parts.spring(), add);
        head.getStyleClass().add("station-head");
        VBox left = Parts.panel(Parts.head("Operation board", Parts.spring(), filter), Parts.tall(board), foot);
        left.setMinWidth(0);
        HBox.setHgrow(left, Priority.ALWAYS);
        HBox panels = new HBox(10, left, right);
        VBox.setVgrow(panels, Priority.ALWAYS);
        VBox station = new VBox(head, panels);
        station.getStyleClass().add("station");
        return station;
    }

    /** Asks what a contract that is written by hand is called. */
    private void write() {
        Form form = new Form();
        TextField named = Form.field("write-title", "", "Lost and found");
        form.row("Title", named);
        form.note("A table of operations and fields; the WSDL and its schema are made of it as you write.");
        Asking.ask(
                this,
                "Write a contract",
                form,
                "write",
                "Begin",
                () -> Asking.needed(named.getText(), "The title"),
                models.written()::begin);
    }

    private void askAddress() {
        VBox box = new VBox(
                10,
                Parts.text("Add a contract", "title"),
                new ContractAdder(contracts, false),
                Parts.link("Write one by hand", "For a service that does not exist yet", this::write));
        box.setPadding(new Insets(16));
        Overlay.show(this, box, 760, contracts.found()::forget);
    }

    private void manage(KeptContract contract) {
        Overlay.show(this, new ContractActions(desk, changes, contract, () -> Overlay.close(this)), 660);
    }

    private void choose(OperationPlace place) {
        if (desk.place(place.contract().name(), place.key())
                // by identity: ports hold their bindings whole, so comparing them compares all operations
                .filter(p -> p.ports().get(0) == place.ports().get(0))
                .isPresent()) {
            desk.placeProperty().set(place);
        }
        showPlace(place);
    }

    private void showPlace(OperationPlace place) {
        shown = place;
        board.select(place);
        anatomy.show(place);
    }

    private void showFindings() {
        List<Finding> findings = desk.project().contracts().stream()
                .flatMap(c -> c.contract().findings().stream())
                .toList();
        foot.getChildren().clear();
        if (findings.isEmpty()) {
            foot.getChildren().add(Parts.marked(Mark.PASSED, "No findings", "fine"));
            return;
        }
        Finding gravest = findings.stream()
                .min(java.util.Comparator.comparing(Finding::severity))
                .orElseThrow();
        Label count =
                Parts.marked(FindingsList.mark(gravest.severity()), Counted.of(findings.size(), "finding"), "strong");
        count.setMinWidth(USE_PREF_SIZE);
        Label first = Parts.text("· " + gravest.text(), "second");
        first.setMinWidth(0);
        var list = Parts.link("Show", "List the findings", () -> listFindings(findings));
        list.setId("show-findings");
        list.setMinWidth(USE_PREF_SIZE);
        foot.getChildren().addAll(count, first, Parts.spring(), list);
    }

    private void listFindings(List<Finding> findings) {
        Overlay.show(this, new FindingsList(findings, this::goTo), 940);
    }

    private void goTo(Finding finding) {
        Overlay.close(this);
        for (KeptContract contract : desk.project().contracts()) {
            List<SourceDocument> documents = contract.contract().documents();
            if (documents.stream().anyMatch(d -> d.uri().equals(finding.place().document()))) {
                anatomy.source(contract, finding.place());
                return;
            }
        }
    }

    private void copy(String text) {
        Copying.text(text);
        desk.tell(dev.mockbell.desktop.model.Notice.plain("Copied."));
    }
}
