package dev.mockbell.desktop.view;

import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.contract.FaultDef;
import dev.mockbell.contract.Finding;
import dev.mockbell.contract.HeaderDef;
import dev.mockbell.contract.Operation;
import dev.mockbell.contract.Port;
import dev.mockbell.contract.SourceDocument;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.Place;
import dev.mockbell.desktop.model.Station;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.XmlArea;
import dev.mockbell.mock.MockAnswer;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.project.KeptContract;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.suite.Case;
import java.io.File;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import javafx.beans.InvalidationListener;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.control.Tooltip;
import javafx.scene.input.KeyCode;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;

/** What the contracts offer: the operation board, and the anatomy of the operation chosen on it. */
final class ContractView extends StackPane {
    private sealed interface BoardRow {
        record Heading(KeptContract contract) implements BoardRow {}

        record OperationRow(Place place) implements BoardRow {}
    }

    private final Models models;
    private final Desk desk;
    private final ObservableList<BoardRow> rows = FXCollections.observableArrayList();
    private final Grid<BoardRow> board = new Grid<>(26);
    private final TextField filter = new TextField();
    private final StackPane anatomy = new StackPane();
    private final HBox foot = Parts.foot();
    private final Label title = Parts.text("", "title");
    private final Label subtitle = Parts.text("", "second");
    private String side = "Anatomy";
    private int goToLine;
    private String goToDocument;
    private boolean choosing;

    ContractView(Models models) {
        this.models = models;
        this.desk = models.desk();
        setId("contract-station");
        build();
        desk.projectProperty().addListener((InvalidationListener) o -> show());
        desk.placeProperty().addListener((o, was, now) -> showPlace());
        desk.progressProperty().addListener((InvalidationListener) o -> show());
        InvalidationListener results = o -> {
            if (desk.stationProperty().get() == Station.CONTRACT) {
                board.list().refresh();
            }
        };
        models.traffic().versionProperty().addListener(results);
        models.mocks().versionProperty().addListener(results);
        desk.stationProperty().addListener(results);
        acceptDrops();
        show();
    }

    private void build() {
        board.column("Operation", 178, r -> operation(((BoardRow.OperationRow) r).place()))
                .growing("Takes → gives", r -> takesGives(((BoardRow.OperationRow) r).place()))
                .column("Bindings", 72, r -> bindings(((BoardRow.OperationRow) r).place()))
                .number(
                        "Cases",
                        50,
                        r -> Parts.text(
                                String.valueOf(cases(((BoardRow.OperationRow) r).place())
                                        .size()),
                                "table-text"))
                .number(
                        "Checks",
                        56,
                        r -> Parts.text(
                                String.valueOf(cases(((BoardRow.OperationRow) r).place()).stream()
                                        .mapToInt(c -> c.checks().size())
                                        .sum()),
                                "table-text"))
                .column("Mock", 78, r -> mock(((BoardRow.OperationRow) r).place()))
                .column("Last result", 108, r -> last(((BoardRow.OperationRow) r).place()))
                .grouped(r -> r instanceof BoardRow.Heading, r -> heading(((BoardRow.Heading) r).contract()));
        board.setId("board");
        board.setItems(rows);
        board.list().getSelectionModel().selectedItemProperty().addListener((o, was, now) -> {
            if (now instanceof BoardRow.OperationRow row && !choosing) {
                desk.placeProperty().set(row.place());
            }
        });
        board.list().setOnKeyPressed(e -> {
            if (e.getCode() == KeyCode.ENTER) {
                desk.go(Station.CALL);
            }
        });
        board.list().setOnMouseClicked(e -> {
            if (e.getClickCount() == 2) {
                desk.go(Station.CALL);
            }
        });
        filter.setPromptText("Filter operations");
        filter.setPrefWidth(190);
        filter.setId("board-filter");
        filter.textProperty().addListener((InvalidationListener) o -> showRows());
    }

    private void show() {
        boolean empty = desk.project().contracts().isEmpty();
        getChildren().setAll(empty ? emptyProject() : full());
        if (!empty) {
            showRows();
            showPlace();
            showFindings();
        }
    }

    private Node emptyProject() {
        Label words = Parts.text("Paste the address of a WSDL, or drop a file here", "title");
        Node field = addressField();
        VBox box = new VBox(
                14,
                words,
                field,
                progress(),
                Parts.text(
                        "The WSDL and all that it imports are kept in the project, so it opens without a network.",
                        "second"));
        box.setAlignment(Pos.CENTER);
        box.setMaxWidth(620);
        return box;
    }

    private Node progress() {
        HBox box = new HBox(10);
        box.setAlignment(Pos.CENTER_LEFT);
        if (!desk.progressProperty().get().isEmpty()) {
            box.getChildren()
                    .addAll(
                            Parts.text(desk.progressProperty().get(), "second"),
                            Parts.button("Stop", "Give up reading", desk::stopImport));
        }
        return box;
    }

    private Node addressField() {
        TextField address = new TextField();
        address.setId("contract-address");
        address.setPromptText("http://…?wsdl, or a file");
        Runnable add = () -> {
            if (!address.getText().isBlank()) {
                desk.importContract(address.getText().strip());
            }
        };
        address.setOnAction(e -> add.run());
        Button file = Parts.button("Choose a file", "Pick a WSDL on this machine", this::chooseFile);
        Button read = Parts.button("Add", "Read it (Enter)", add, "primary");
        read.setId("contract-add");
        HBox box = new HBox(8, Parts.wide(address), file, read);
        box.setAlignment(Pos.CENTER_LEFT);
        return box;
    }

    private void chooseFile() {
        FileChooser chooser = new FileChooser();
        chooser.setTitle("Choose a WSDL");
        chooser.getExtensionFilters()
                .addAll(
                        new FileChooser.ExtensionFilter("WSDL", "*.wsdl", "*.xml"),
                        new FileChooser.ExtensionFilter("All files", "*"));
        File chosen = chooser.showOpenDialog(getScene().getWindow());
        if (chosen != null) {
            desk.importContract(chosen.getPath());
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
                desk.importContract(e.getDragboard().getString().strip());
            }
            e.setDropCompleted(true);
        });
    }

    private Node full() {
        title.setText(desk.project().name());
        int contracts = desk.project().contracts().size();
        int operations = desk.places().size();
        subtitle.setText(
                contracts + (contracts == 1 ? " contract · " : " contracts · ") + operations + " operations · fetched "
                        + Numbers.clockShort(desk.project().contracts().get(0).fetched()));
        Button add = Parts.button("Add a contract", "Read another WSDL", this::askAddress, "primary");
        add.setId("add-contract");
        HBox head = new HBox(title, subtitle, progress(), Parts.spring(), add);
        head.getStyleClass().add("station-head");
        VBox left = Parts.panel(Parts.head("Operation board", Parts.spring(), filter), Parts.tall(board), foot);
        HBox.setHgrow(left, Priority.ALWAYS);
        VBox right = Parts.panel(anatomy);
        VBox.setVgrow(anatomy, Priority.ALWAYS);
        right.setMinWidth(400);
        right.setMaxWidth(400);
        HBox panels = new HBox(10, left, right);
        VBox.setVgrow(panels, Priority.ALWAYS);
        VBox station = new VBox(head, panels);
        station.getStyleClass().add("station");
        return station;
    }

    private void askAddress() {
        Node field = addressField();
        VBox box = new VBox(10, Parts.text("Add a contract", "title"), field);
        box.setPadding(new Insets(16));
        Overlay.show(this, box, 620);
    }

    private void showRows() {
        String wanted = filter.getText().toLowerCase(Locale.ROOT).strip();
        List<BoardRow> shown = new ArrayList<>();
        KeptContract last = null;
        for (Place place : desk.places()) {
            boolean match = wanted.isEmpty()
                    || place.key().toLowerCase(Locale.ROOT).contains(wanted)
                    || place.contract().title().toLowerCase(Locale.ROOT).contains(wanted);
            if (match) {
                if (place.contract() != last) {
                    last = place.contract();
                    shown.add(new BoardRow.Heading(last));
                }
                shown.add(new BoardRow.OperationRow(place));
            }
        }
        choosing = true;
        rows.setAll(shown);
        choosing = false;
        board.setPlaceholder(Parts.empty("No operation has “" + filter.getText() + "” in its name."));
        selectPlace();
    }

    private void selectPlace() {
        Place now = desk.placeProperty().get();
        for (BoardRow row : rows) {
            if (row instanceof BoardRow.OperationRow o
                    && now != null
                    && o.place().key().equals(now.key())
                    && o.place().contract().name().equals(now.contract().name())) {
                choosing = true;
                board.list().getSelectionModel().select(row);
                choosing = false;
            }
        }
    }

    private Node heading(KeptContract contract) {
        String style = contract.contract().operations().values().stream()
                .findFirst()
                .flatMap(p -> p.get(0).binding().operations().stream().findFirst())
                .map(o -> o.style().map(s -> s.name().toLowerCase(Locale.ROOT)).orElse("") + "/"
                        + o.use().map(u -> u.name().toLowerCase(Locale.ROOT)).orElse(""))
                .orElse("");
        return new HBox(
                4,
                Parts.text(contract.title(), "strong", "table-text", "second"),
                Parts.text("· " + contract.contract().source() + " · " + style, "third", "small"));
    }

    private Node operation(Place place) {
        Label name = Parts.text(place.key(), "strong", "table-text");
        if (place.operation().pattern() == Operation.Pattern.ONE_WAY) {
            HBox box = new HBox(6, name, Parts.text("one-way", "tag", "bronze"));
            box.setAlignment(Pos.CENTER_LEFT);
            return box;
        }
        return name;
    }

    private Node takesGives(Place place) {
        Operation o = place.operation();
        Label label = Parts.text(OutlineWords.takes(place) + " → " + OutlineWords.gives(place), "second", "table-text");
        HBox box = new HBox(6, label);
        box.setAlignment(Pos.CENTER_LEFT);
        box.setMinWidth(0);
        if (!o.faults().isEmpty()) {
            Label faults = Parts.text(
                    "◇ " + o.faults().size() + (o.faults().size() == 1 ? " fault" : " faults"), "fault", "table-text");
            faults.setMinWidth(USE_PREF_SIZE);
            box.getChildren().add(faults);
        }
        return box;
    }

    private static Node bindings(Place place) {
        HBox box = new HBox(4);
        box.setAlignment(Pos.CENTER_LEFT);
        place.ports().stream()
                .map(p -> p.binding().protocol().title().replace("SOAP ", ""))
                .distinct()
                .sorted()
                .forEach(v -> box.getChildren().add(Parts.text(v, "tag")));
        return box;
    }

    private List<Case> cases(Place place) {
        return desk.project().cases(place.contract().name(), place.key());
    }

    private Node mock(Place place) {
        boolean up = models.mocks().host(place.contract().name()).isPresent();
        Optional<MockPlan> plan = desk.project().mock(place.contract().name());
        if (!up) {
            return Parts.marked(Mark.NOT_RUN, "off", "table-text");
        }
        long rules = plan.map(p -> p.of(place.key()).stream()
                        .filter(MockAnswer::conditional)
                        .count())
                .orElse(0L);
        String words = rules > 0
                ? rules + (rules == 1 ? " rule" : " rules")
                : place.operation().pattern() == Operation.Pattern.ONE_WAY ? "202" : "sample";
        return Parts.marked(Mark.PASSED, words, "table-text");
    }

    private Node last(Place place) {
        return models.traffic()
                .last(place.contract().name(), place.key())
                .map(l -> (Node) Parts.marked(
                        Numbers.mark(l.outcome()),
                        l.outcome() == dev.mockbell.exchange.Exchange.Outcome.FINE ? l.millis() + " ms" : l.note(),
                        "table-text"))
                .orElseGet(() -> Parts.text("not called", "third", "table-text"));
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
        boolean errors = findings.stream().anyMatch(f -> f.severity() == Finding.Severity.ERROR);
        Label count = Parts.marked(
                errors ? Mark.FAILED : Mark.FAULT,
                findings.size() + (findings.size() == 1 ? " finding" : " findings"),
                "strong");
        count.setMinWidth(USE_PREF_SIZE);
        Label first = Parts.text("· " + findings.get(0).text(), "second");
        foot.getChildren()
                .addAll(
                        count,
                        first,
                        Parts.spring(),
                        Parts.link("Show", "List the findings", () -> listFindings(findings)));
    }

    private void listFindings(List<Finding> findings) {
        Grid<Finding> grid = new Grid<>(40);
        grid.column("", 30, f -> (f.severity() == Finding.Severity.ERROR ? Mark.FAILED : Mark.FAULT).node())
                .column("Rule", 130, f -> Parts.text(f.rule(), "mono"))
                .growing("Finding", f -> {
                    Label text = Parts.text(f.text() + (f.advice().isEmpty() ? "" : " " + f.advice()), "table-text");
                    text.setWrapText(true);
                    return text;
                })
                .column(
                        "Line",
                        60,
                        f -> Parts.text(
                                f.place().line() > 0 ? String.valueOf(f.place().line()) : "", "table-text"));
        grid.items()
                .setAll(findings.stream()
                        .sorted(java.util.Comparator.comparing(Finding::severity))
                        .toList());
        grid.list().setOnMouseClicked(e -> goTo(grid.list().getSelectionModel().getSelectedItem()));
        grid.list().setOnKeyPressed(e -> {
            if (e.getCode() == KeyCode.ENTER) {
                goTo(grid.list().getSelectionModel().getSelectedItem());
            }
        });
        grid.setPrefHeight(420);
        VBox box = Parts.panel(
                Parts.head("Findings", Parts.text("a click goes to the place", "second")), Parts.tall(grid));
        Overlay.show(this, box, 860);
    }

    private void goTo(Finding finding) {
        if (finding != null) {
            Overlay.close(this);
            goToDocument = finding.place().document();
            goToLine = finding.place().line();
            side = "Source";
            showPlace();
        }
    }

    private void showPlace() {
        Place place = desk.placeProperty().get();
        anatomy.getChildren().clear();
        if (place == null) {
            return;
        }
        selectPlace();
        HBox tabs = Parts.segments(List.of("Anatomy", "Source", "On the wire"), side, name -> {
            side = name;
            showPlace();
        });
        Node content = switch (side) {
            case "Source" -> source(place);
            case "On the wire" -> wire(place);
            default -> parts(place);
        };
        VBox.setVgrow(content, Priority.ALWAYS);
        Label name = Parts.text(place.key(), "heading");
        name.setMinWidth(60);
        HBox head = new HBox(name, Parts.spring(), tabs);
        head.getStyleClass().add("panel-head");
        Button call = Parts.button("Call it", "Go to the call station (Enter)", () -> desk.go(Station.CALL), "primary");
        Button mock = Parts.button("Mock it", "Go to the mock station", () -> desk.go(Station.MOCK));
        Button copy = Parts.button("Copy sample", "Copy a request as XML", () -> copy(sample(place)));
        anatomy.getChildren().add(new VBox(head, content, Parts.foot(call, mock, copy)));
    }

    private static String sample(Place place) {
        return dev.mockbell.message.SampleBuilder.text(
                dev.mockbell.suite.CaseCaller.requestOutline(place.contract().contract(), place.operation()),
                dev.mockbell.message.SampleBuilder.Detail.FULL);
    }

    private void copy(String text) {
        Copying.text(text);
        desk.tell(dev.mockbell.desktop.model.Notice.plain("Copied."));
    }

    private Node parts(Place place) {
        VBox box = new VBox();
        Operation o = place.operation();
        if (!o.documentation().isEmpty()) {
            Label words = Parts.text(o.documentation(), "second");
            words.setWrapText(true);
            words.setMinHeight(USE_PREF_SIZE);
            words.setPadding(new Insets(10, 12, 2, 12));
            box.getChildren().add(words);
        }
        String style = o.style().map(s -> s.name().toLowerCase(Locale.ROOT)).orElse("") + "/"
                + o.use().map(u -> u.name().toLowerCase(Locale.ROOT)).orElse("");
        Label technical = Parts.text(
                o.soapAction().map(a -> "SOAPAction \"" + a + "\" · ").orElse("") + style, "mono", "second");
        technical.setWrapText(true);
        technical.setMinHeight(USE_PREF_SIZE);
        technical.setPadding(new Insets(6, 12, 8, 12));
        box.getChildren().add(technical);
        var schemas = place.contract().contract().schemas();
        section(
                box,
                "Takes",
                OutlineWords.input(place),
                place,
                o.input().map(m -> m.headers()).orElse(List.of()));
        section(
                box,
                "Gives",
                OutlineWords.output(place),
                place,
                o.output().map(m -> m.headers()).orElse(List.of()));
        if (!o.faults().isEmpty()) {
            box.getChildren().add(Parts.innerHead("Faults"));
            for (FaultDef fault : o.faults()) {
                Optional<ElementDecl> element = fault.element().flatMap(schemas::element);
                Label name = Parts.marked(
                        Mark.FAULT,
                        fault.element().map(e -> e.getLocalPart()).orElse(fault.name()),
                        "table-text",
                        "fault");
                Label fields = Parts.text(element.map(OutlineWords::fields).orElse(""), "second", "table-text");
                HBox row = new HBox(name, Parts.spring(), fields);
                row.setPadding(new Insets(5, 10, 5, 10));
                box.getChildren().add(row);
            }
        }
        ScrollPane scroll = new ScrollPane(box);
        scroll.setFitToWidth(true);
        return scroll;
    }

    private static void section(
            VBox box, String name, Optional<ElementDecl> root, Place place, List<HeaderDef> headers) {
        String of = root.map(r -> " · " + r.name().getLocalPart()).orElse("");
        box.getChildren().add(Parts.innerHead(name + of));
        if (root.isEmpty()) {
            Label nothing = Parts.text("nothing", "third", "table-text");
            nothing.setPadding(new Insets(5, 10, 5, 10));
            box.getChildren().add(nothing);
        } else {
            box.getChildren().add(new AnatomyTree(root.get()));
        }
        for (HeaderDef header : headers) {
            Label words = Parts.text(
                    "header "
                            + header.part()
                                    .element()
                                    .map(e -> e.getLocalPart())
                                    .orElse(header.part().name()),
                    "second",
                    "table-text");
            words.setPadding(new Insets(5, 10, 5, 10));
            box.getChildren().add(words);
        }
    }

    private Node source(Place place) {
        XmlArea area = new XmlArea(false);
        ComboBox<String> documents = new ComboBox<>();
        List<SourceDocument> all = place.contract().contract().documents();
        for (SourceDocument document : all) {
            documents.getItems().add(shortName(document));
        }
        documents.setMaxWidth(Double.MAX_VALUE);
        String wanted = goToDocument == null ? place.operation().place().document() : goToDocument;
        int line = goToDocument == null ? place.operation().place().line() : goToLine;
        goToDocument = null;
        int index = 0;
        for (int i = 0; i < all.size(); i++) {
            if (all.get(i).uri().equals(wanted)) {
                index = i;
            }
        }
        documents.getSelectionModel().select(index);
        area.show(all.get(index).text());
        area.goTo(line);
        documents
                .valueProperty()
                .addListener((o, was, now) ->
                        area.show(all.get(documents.getSelectionModel().getSelectedIndex())
                                .text()));
        HBox.setHgrow(documents, Priority.ALWAYS);
        HBox bar = new HBox(
                8,
                documents,
                Parts.button(
                        "Element",
                        "Go to the request's element in its schema",
                        () -> OutlineWords.input(place)
                                .flatMap(ElementDecl::place)
                                .ifPresent(p -> {
                                    goToDocument = p.document();
                                    goToLine = p.line();
                                    showPlace();
                                })));
        bar.setPadding(new Insets(6, 10, 6, 10));
        VBox box = new VBox(bar, Parts.tall(area));
        return box;
    }

    private static String shortName(SourceDocument document) {
        String uri = document.uri();
        return uri.substring(uri.lastIndexOf('/') + 1) + " · "
                + document.kind().name().toLowerCase(Locale.ROOT) + " · " + Numbers.bytes(document.bytes().length);
    }

    private Node wire(Place place) {
        VBox box = new VBox(8);
        box.setPadding(new Insets(10, 12, 10, 12));
        for (Port port : place.ports()) {
            BoundOperation bound = place.at(port.name());
            String recipe = recipe(place, bound);
            Label name =
                    Parts.text(port.name() + " · " + port.binding().protocol().title(), "strong");
            Button copy = Parts.button("Copy", "Copy the whole request", () -> copy(recipe));
            HBox head = new HBox(8, name, Parts.spring(), copy);
            head.setAlignment(Pos.CENTER_LEFT);
            Label text = Parts.text(recipe, "mono");
            text.setWrapText(true);
            text.setMinHeight(USE_PREF_SIZE);
            box.getChildren().addAll(head, text);
        }
        ScrollPane scroll = new ScrollPane(box);
        scroll.setFitToWidth(true);
        return scroll;
    }

    private String recipe(Place place, BoundOperation bound) {
        var version = dev.mockbell.suite.CaseCaller.version(bound);
        String action = bound.operation().soapAction().orElse("");
        StringBuilder text = new StringBuilder("POST ")
                .append(desk.endpoint(place.contract(), bound.port()))
                .append('\n');
        text.append("Content-Type: ").append(version.contentType(action)).append('\n');
        if (version == dev.mockbell.soap.SoapVersion.V11) {
            text.append("SOAPAction: \"").append(action).append("\"\n");
        }
        return text.append('\n')
                .append(dev.mockbell.soap.Envelope.around(version, sample(place), List.of()))
                .toString();
    }

    /** Says what a node is, for people who point at it. */
    static void tip(Node node, String words) {
        if (!words.isEmpty()) {
            Tooltip tip = new Tooltip(words);
            tip.setWrapText(true);
            tip.setMaxWidth(360);
            Tooltip.install(node, tip);
        }
    }
}
