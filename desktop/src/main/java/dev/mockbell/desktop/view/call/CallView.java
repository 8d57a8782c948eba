package dev.mockbell.desktop.view.call;

import dev.mockbell.contract.Port;
import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.Line;
import dev.mockbell.desktop.model.Models;
import dev.mockbell.desktop.model.OperationPlace;
import dev.mockbell.desktop.model.Station;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.Icon;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.ValueField;
import dev.mockbell.desktop.part.XmlArea;
import dev.mockbell.desktop.view.message.MessageEditor;
import dev.mockbell.desktop.view.message.SheetGrid;
import dev.mockbell.desktop.view.shared.Face;
import dev.mockbell.desktop.view.shared.Masking;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.desktop.view.shared.Overlay;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.sheet.SheetRow;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.SuiteRunner;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javafx.beans.InvalidationListener;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.scene.text.TextAlignment;

/** Request, hinge, response, checks. */
public final class CallView extends VBox {
    private static final double IN_USE = 90;

    /** Of a value in a row. */
    private static final int MOST_SHOWN = 300;

    private final CallModel model;
    private final Desk desk;
    private final HBox head = new HBox();
    private final CaseBar cases;
    private final StackPane requestBody = new StackPane();
    private final StackPane responseBody = new StackPane();
    private final RequestFoot requestFoot;
    private final HBox status = new HBox(14);
    private final HBox responseFoot = Parts.foot();
    private final VBox hinge = new VBox(2);
    private final ChecksPane side;
    private final Button send = Parts.button("Send", "Send the request (Ctrl+Enter)", () -> {}, "send");
    private final SheetGrid sheet;
    private final Grid<Line> answer = new Grid<>(26);
    private final MessageEditor editor;
    private final RequestHeaders headers;
    private final EndpointField endpoint;
    private final XmlArea responseXml = new XmlArea(false);
    private final XmlArea wire = new XmlArea(false);
    private final XmlArea preview = new XmlArea(false);
    private Node masking;
    private Face requestTab = Face.SHEET;
    private Face responseTab = Face.SHEET;

    public CallView(Models models) {
        this.model = models.call();
        this.desk = models.desk();
        this.sheet = new SheetGrid("request-sheet", model.request(), Optional.of(model.values()), this::tell);
        this.editor = new MessageEditor(model.request(), model.flaws(), model.values(), this::tell);
        this.headers = new RequestHeaders(model);
        this.endpoint = new EndpointField(model, desk);
        this.cases = new CaseBar(this, model, desk);
        this.requestFoot = new RequestFoot(model, this::fromFile, editor::format, cases::mend);
        this.side = new ChecksPane(model, desk, this::ask, this::pointed);
        setId("call-station");
        getStyleClass().add("station");
        build();
        model.currentProperty().addListener((InvalidationListener) o -> showCase());
        model.calledProperty().addListener((InvalidationListener) o -> showAnswer());
        model.waitingProperty().addListener((InvalidationListener) o -> showWaiting());
        desk.projectProperty().addListener((InvalidationListener) o -> showHead());
        model.request().troubleProperty().addListener((InvalidationListener) o -> showFoot());
        model.request().xmlProperty().addListener((InvalidationListener) o -> {
            if (requestTab == Face.WIRE) {
                model.preview().refresh();
            }
        });
        model.preview().textProperty().addListener((o, was, now) -> preview.show(now));
        model.faces().changesProperty().addListener((InvalidationListener) o -> showResponse());
        desk.maskedProperty().addListener((InvalidationListener) o -> showResponse());
        model.earlier().changesProperty().addListener((InvalidationListener) o -> cases.show());
        model.request().changesProperty().addListener((InvalidationListener) o -> showFoot());
        model.response().changesProperty().addListener((InvalidationListener) o -> answer.refresh());
        model.flaws().found().addListener((InvalidationListener) o -> showFoot());
        model.actions().misfits().addListener((InvalidationListener) o -> {
            cases.show();
            showFoot();
        });
        showCase();
        showAnswer();
    }

    /** Shows or hides what the contract says of the sheet's row; whether the keyboard is in the sheet at all. */
    public boolean explain() {
        if (isInSheet()) {
            sheet.toggleNote();
            return true;
        }
        return false;
    }

    private boolean isInSheet() {
        for (Node n = getScene().getFocusOwner(); n != null; n = n.getParent()) {
            if (n == sheet) {
                return true;
            }
        }
        return false;
    }

    /** Whether the keyboard is in a value of the message. */
    public boolean isInValue() {
        return isInSheet() && getScene().getFocusOwner().getParent() instanceof ValueField;
    }

    public CaseBar cases() {
        return cases;
    }

    /** Finds in what of the request is shown. */
    public void find() {
        if (requestTab == Face.XML) {
            editor.find();
        } else if (requestTab == Face.SHEET) {
            sheet.showFilter();
        }
    }

    private void tell(String words) {
        desk.tell(dev.mockbell.desktop.model.Notice.bad(words));
    }

    private void build() {
        head.getStyleClass().add("station-head");
        head.setSpacing(16);
        answer.growing("Element", this::answerElement)
                .again((node, line) -> showElement((Label) node, line))
                .growing("Value", this::answerValue)
                .again((node, line) -> showValue((HBox) node, line))
                .column("Previous", 92, this::answerBefore)
                .again((node, line) -> showBefore((Label) node, line));
        answer.setId("response-sheet");
        answer.setItems(model.response().lines());
        answer.list().getSelectionModel().selectedItemProperty().addListener((o, was, now) -> showPath());
        send.setGraphic(Icon.CALL.node(20));
        send.setId("send");
        send.setOnAction(e -> model.sendOrStop());
        VBox request = Parts.panel(
                Parts.head(
                        "Request",
                        Parts.spring(),
                        Parts.segments(List.of(Face.values()), Face::words, requestTab, t -> {
                            requestTab = t;
                            showRequest();
                        })),
                Parts.tall(requestBody),
                requestFoot);
        status.setAlignment(Pos.CENTER_LEFT);
        status.setPadding(new Insets(0, 12, 0, 12));
        status.setMinHeight(30);
        masking = Masking.toggle(desk);
        VBox response = Parts.panel(
                Parts.head(
                        "Response",
                        Parts.spring(),
                        masking,
                        Parts.segments(List.of(Face.SHEET, Face.XML, Face.WIRE), Face::words, responseTab, t -> {
                            responseTab = t;
                            showResponse();
                        })),
                status,
                Parts.tall(responseBody),
                responseFoot);
        for (Region column : List.of(request, response)) {
            column.setMinWidth(280);
            column.setPrefWidth(300);
            HBox.setHgrow(column, Priority.ALWAYS);
        }
        request.setPrefWidth(300 + IN_USE);
        widenInUse(request, response);
        hinge.setAlignment(Pos.TOP_CENTER);
        hinge.setMinWidth(70);
        hinge.setMaxWidth(70);
        ScrollPane scroll = new ScrollPane(side);
        scroll.setFitToWidth(true);
        VBox checks = Parts.panel(Parts.tall(scroll));
        checks.setMinWidth(206);
        checks.setMaxWidth(206);
        HBox columns = new HBox(4, request, hinge, response, gap(), checks);
        VBox.setVgrow(columns, Priority.ALWAYS);
        getChildren().addAll(head, cases, columns);
        showRequest();
        showResponse();
    }

    /** The column that is worked in gets more of the room. */
    private void widenInUse(Region request, Region response) {
        sceneProperty().addListener((o, was, scene) -> {
            if (scene != null) {
                scene.focusOwnerProperty().addListener((x, before, now) -> {
                    for (Node n = now; n != null; n = n.getParent()) {
                        if (n == request || n == response) {
                            request.setPrefWidth(300 + (n == request ? IN_USE : 0));
                            response.setPrefWidth(300 + (n == response ? IN_USE : 0));
                        }
                    }
                });
            }
        });
    }

    private static Region gap() {
        Region region = new Region();
        region.setMinWidth(2);
        return region;
    }

    private Case current() {
        return model.currentProperty().get();
    }

    void ask(String words, String proposal, java.util.function.Consumer<String> then) {
        if (current() == null) {
            return;
        }
        TextField field = new TextField(proposal);
        field.setId("ask-name");
        Runnable done = () -> {
            if (!field.getText().isBlank()) {
                Overlay.close(this);
                then.accept(field.getText().strip());
            }
        };
        field.setOnAction(e -> done.run());
        VBox box = new VBox(10, Parts.text(words, "strong"), field, Parts.button("Keep", "Enter", done, "primary"));
        Overlay.show(this, box, 420);
        field.selectAll();
    }

    private void showHead() {
        head.getChildren().clear();
        OperationPlace place = desk.placeProperty().get();
        if (place == null || current() == null) {
            head.getChildren().add(Parts.text("Nothing to call yet: add a contract first.", "second"));
            return;
        }
        Optional<Port> port = model.bound().map(b -> b.port());
        Label quiet = Parts.text(
                place.contract().title() + " · port " + port.map(Port::name).orElse(""), "third", "small");
        Label name = Parts.text(place.key(), "title");
        VBox title = new VBox(quiet, name);
        title.setMinWidth(Region.USE_PREF_SIZE);
        HBox ports = Parts.segments(place.ports(), p -> portTitle(place, p), port.orElse(null), model::usePort);
        ports.getStyleClass().add("boxed-segments");
        endpoint.show();
        Label goes = Parts.text("goes to", "third");
        goes.setMinWidth(Region.USE_PREF_SIZE);
        HBox.setHgrow(endpoint, Priority.ALWAYS);
        head.getChildren().addAll(title, ports, goes, endpoint);
    }

    private static String portTitle(OperationPlace place, Port port) {
        String version = port.binding().protocol().title();
        long same = place.ports().stream()
                .filter(p -> p.binding().protocol() == port.binding().protocol())
                .count();
        return same > 1 ? version + " " + port.name() : version;
    }

    private void showCase() {
        showHead();
        cases.show();
        side.show();
        headers.show();
        showFoot();
        answer.refresh();
        if (requestTab == Face.WIRE) {
            model.preview().refresh();
        }
    }

    private void showRequest() {
        showFoot();
        switch (requestTab) {
            case XML -> {
                editor.show();
                requestBody.getChildren().setAll(editor);
            }
            case HEADERS -> {
                headers.show();
                requestBody.getChildren().setAll(headers);
            }
            case WIRE -> {
                model.preview().refresh();
                requestBody.getChildren().setAll(preview);
            }
            default -> requestBody.getChildren().setAll(sheet);
        }
    }

    private void showFoot() {
        requestFoot.show(requestTab);
    }

    private void fromFile() {
        java.io.File file =
                new javafx.stage.FileChooser().showOpenDialog(getScene().getWindow());
        if (file != null) {
            editor.open(file);
        }
    }

    private void showResponse() {
        masking.setVisible(false);
        switch (responseTab) {
            case XML -> {
                responseXml.show(model.faces().xml());
                responseBody.getChildren().setAll(responseXml);
            }
            case WIRE -> {
                wire.show(model.faces().wire());
                responseBody.getChildren().setAll(wire);
                masking.setVisible(model.faces().isMasking());
            }
            default -> {
                SuiteRunner.Called called = model.calledProperty().get();
                if (called == null) {
                    responseBody
                            .getChildren()
                            .setAll(Parts.empty("The answer appears here. Send the request with Ctrl+Enter."));
                } else if (called.answer().flaw().isPresent()) {
                    responseBody.getChildren().setAll(unusable(called));
                } else if (model.response().lines().isEmpty()) {
                    responseBody
                            .getChildren()
                            .setAll(Parts.empty("The answer has no body, as a one-way call should not."));
                } else {
                    responseBody.getChildren().setAll(answer);
                }
            }
        }
    }

    /** Why there is nothing to show, and what helps when nobody answered. */
    private Node unusable(SuiteRunner.Called called) {
        String flaw = called.answer().flaw().orElse("");
        if (called.answer().exchange().response().isPresent()) {
            return Parts.empty(flaw);
        }
        Button other = Parts.button("Change the endpoint", "Type where to send instead", endpoint::edit);
        other.setId("change-endpoint");
        Button mock = Parts.button("Go to the mock", "It can stand in for the service", () -> desk.go(Station.MOCK));
        Button again = Parts.button("Send again", "Ctrl+Enter", model::sendOrStop);
        FlowPane next = new FlowPane(8, 8, other, mock, again);
        next.setAlignment(Pos.CENTER);
        VBox box = new VBox(
                12, centred(flaw, "strong"), centred("Is the service up, and is the address right?", "second"), next);
        box.setPadding(new Insets(12));
        box.setAlignment(Pos.CENTER);
        box.setMaxHeight(Region.USE_PREF_SIZE);
        return box;
    }

    private static Label centred(String words, String kind) {
        Label label = Parts.text(words, kind);
        label.setWrapText(true);
        label.setTextAlignment(TextAlignment.CENTER);
        return label;
    }

    private void showAnswer() {
        status.getChildren().clear();
        model.exchange().ifPresent(e -> {
            String line = e.response()
                    .map(r -> r.title().replaceFirst("^HTTP/\\S+ ", ""))
                    .orElse("no answer");
            Label code = Parts.text(
                    line,
                    "strong",
                    e.outcome() == Exchange.Outcome.FINE
                            ? "fine"
                            : e.outcome() == Exchange.Outcome.FAULT
                                    ? "fault"
                                    : e.status() / 100 == 2 ? "fine" : "failed");
            code.setId("status");
            status.getChildren()
                    .addAll(
                            code,
                            whole(Parts.text(
                                    Numbers.bytes(e.response()
                                            .map(r -> r.body().size())
                                            .orElse(0L)),
                                    "second")));
            if (e.outcome() == Exchange.Outcome.FAULT) {
                status.getChildren().add(Parts.marked(Mark.FAULT, e.note(), "fault"));
            }
            status.getChildren().addAll(Parts.spring(), whole(Parts.text(Numbers.clock(e.started()), "third")));
        });
        showHinge();
        showResponse();
        side.show();
        cases.show();
        showPath();
    }

    /** Not to be cut where room is short. */
    private static Label whole(Label label) {
        label.setMinWidth(Region.USE_PREF_SIZE);
        return label;
    }

    private void showWaiting() {
        boolean waiting = model.waitingProperty().get();
        send.setText(waiting ? "Stop" : "Send");
        send.getStyleClass().remove("waiting");
        if (waiting) {
            send.getStyleClass().add("waiting");
        }
    }

    private void showHinge() {
        hinge.getChildren().setAll(send, Parts.text("Ctrl ↵", "third", "small"), tick());
        model.exchange().ifPresent(e -> {
            var t = e.timing();
            for (Map.Entry<String, Long> part : List.of(
                    Map.entry("connect", t.connect()),
                    Map.entry("send", t.send()),
                    Map.entry("wait", t.await()),
                    Map.entry("receive", t.receive()))) {
                // without an answer, a stage that took no time was not come to
                boolean reached = part.getValue() > 0 || e.response().isPresent();
                hinge.getChildren()
                        .addAll(
                                Parts.text(part.getKey(), "third", "table-text"),
                                Parts.text(reached ? Numbers.millis(part.getValue() / 1e6) : "–", "mono"));
            }
            Label total = Parts.text(
                    Numbers.millis(t.total() / 1e6),
                    "title",
                    e.outcome() == Exchange.Outcome.FAILED ? "failed" : "fine");
            total.setId("total-time");
            hinge.getChildren()
                    .addAll(
                            tick(),
                            total,
                            Parts.text("ms", "third", "small"),
                            Parts.spring(),
                            Parts.text("run " + model.calls(), "third", "small"));
        });
    }

    private static Region tick() {
        Region line = new Region();
        line.setMinSize(1, 14);
        line.setMaxSize(1, 14);
        line.setStyle("-fx-background-color: -mb-line");
        return line;
    }

    private Node answerElement(Line line) {
        Label name = Parts.text("", "table-text");
        name.setOnMouseClicked(e -> {
            SheetRow row = ((Line) name.getUserData()).row();
            if (!row.children().isEmpty()) {
                model.response().fold(row);
            }
        });
        Parts.tip(name, () -> ((Line) name.getUserData()).row().documentation());
        showElement(name, line);
        return name;
    }

    private static boolean showElement(Label name, Line line) {
        SheetRow row = line.row();
        name.setUserData(line);
        String fold = row.children().isEmpty() ? "" : line.open() ? "▾ " : "▸ ";
        String which = row.index() > 0 ? "  " + row.index() + " of " + row.count() : "";
        name.setText(fold + row.label() + which);
        name.setPadding(new Insets(0, 0, 0, line.depth() * 14.0));
        Parts.classed(name, "strong", line.depth() == 0);
        return true;
    }

    private Node answerValue(Line line) {
        Label value = new Label();
        value.setMinWidth(0);
        HBox box = new HBox(6, value);
        box.setAlignment(Pos.CENTER_LEFT);
        showValue(box, line);
        return box;
    }

    private boolean showValue(HBox box, Line line) {
        SheetRow row = line.row();
        boolean out = row.state() == SheetRow.State.LEFT_OUT;
        boolean folded = !row.children().isEmpty() && !line.open();
        Label value = (Label) box.getChildren().get(0);
        value.setText(
                out
                        ? "left out"
                        : row.state() == SheetRow.State.NIL ? "nil" : onOneLine(folded ? row.gist() : row.value()));
        Parts.classed(value, "mono", !out);
        Parts.classed(value, "third", out);
        Parts.classed(value, "italic", out);
        Parts.classed(value, "table-text", out);
        box.getChildren().remove(1, box.getChildren().size());
        boolean noted = current() != null
                && !(current().captures().isEmpty() && current().checks().isEmpty());
        String path = noted ? row.path() : "";
        if (!path.isEmpty()) {
            current().captures().stream()
                    .filter(c -> c.path().equals(path))
                    .forEach(c -> box.getChildren().add(tag("→ $" + c.name(), "link")));
            if (current().checks().stream()
                    .anyMatch(c -> c.judgedPath().filter(path::equals).isPresent())) {
                box.getChildren().add(tag("check", "fine"));
            }
        }
        return true;
    }

    private static String onOneLine(String value) {
        String part = value.length() > MOST_SHOWN ? value.substring(0, MOST_SHOWN) + "…" : value;
        return part.strip().replaceAll("\\s+", " ");
    }

    private static Label tag(String words, String kind) {
        Label label = Parts.text(words, "tag", kind);
        label.setMinWidth(Region.USE_PREF_SIZE);
        return label;
    }

    private Node answerBefore(Line line) {
        Label label = new Label();
        label.setMinWidth(0);
        showBefore(label, line);
        return label;
    }

    private boolean showBefore(Label label, Line line) {
        SheetRow row = line.row();
        Optional<String> before = row.children().isEmpty() ? model.previous(row) : Optional.empty();
        boolean same = before.filter(row.value()::equals).isPresent();
        label.setText(same ? "same" : before.map(CallView::onOneLine).orElse(""));
        Parts.classed(label, "third", same);
        Parts.classed(label, "table-text", same);
        Parts.classed(label, "mono", !same);
        Parts.classed(label, "fault", !same);
        return true;
    }

    private Optional<SheetRow> pointed() {
        return Optional.ofNullable(answer.list().getSelectionModel().getSelectedItem())
                .map(Line::row)
                .filter(r -> !r.path().isEmpty());
    }

    private void showPath() {
        responseFoot.getChildren().clear();
        Optional<SheetRow> row = pointed().filter(r -> model.calledProperty().get() != null);
        if (row.isEmpty()) {
            responseFoot.getChildren().add(Parts.text("Point at a row to check or capture it", "third"));
            return;
        }
        Label path = Parts.text(row.get().path(), "mono", "second");
        path.setMinWidth(0);
        Button check = Parts.button(
                "Check this", "Keep the value as a check", () -> model.checks().addValue(row.get()));
        check.setId("check-this");
        Button capture = Parts.button(
                "Capture",
                "Keep the value for later steps",
                () -> model.checks().capture(row.get()));
        capture.setId("capture-this");
        boolean value = row.get().children().isEmpty();
        check.setDisable(!value);
        capture.setDisable(!value);
        responseFoot.getChildren().addAll(path, Parts.spring(), check, capture);
    }
}
