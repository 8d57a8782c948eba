package dev.mockbell.desktop.view.call;

import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.Models;
import dev.mockbell.desktop.model.Station;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Face;
import dev.mockbell.desktop.view.shared.Masking;
import dev.mockbell.sheet.SheetRow;
import dev.mockbell.suite.SuiteRunner;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import javafx.beans.InvalidationListener;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/** What came back: its status, its faces, and what can be made of the row that is pointed at. */
final class ResponsePane extends VBox {
    /** Turns of practice that a face is given to grow in. */
    private static final int GROWING = 5;

    private static final String VIEW = "call.response";
    private static final List<Face> KEPT = List.of(Face.SHEET, Face.XML, Face.WIRE);
    private static final List<Face> FACES = List.of(Face.SHEET, Face.XML, Face.TABLE, Face.PARTS, Face.WIRE);

    private final CallModel model;
    private final StackPane body = new StackPane();
    /** Where a face that is not shown yet gets its style. */
    private final StackPane backstage = new StackPane();

    private final HBox foot = Parts.foot();
    private final Node spring = Parts.spring();
    private final Label hint = Parts.text("Point at a row to check or capture it", "third");
    private final Label path = Parts.text("", "mono", "second");
    private final Button check = Parts.button("Check this", "Keep the value as a check", this::checkPointed);
    private final Button capture = Parts.button("Capture", "Keep the value for later steps", this::capturePointed);
    private final HBox faces;
    private final ResponseSheet sheet;
    private final ReceivedXml xml;
    private final TableFace table;
    private final AnswerParts parts;
    private final WireFace wire;
    private final OtherAnswer other;
    private final Node masking;
    private final ObjectProperty<Face> face = new SimpleObjectProperty<>(Face.SHEET);

    /**
     * @param edit lets the user change where requests go
     * @param login lets the user say who calls
     */
    ResponsePane(Models models, Runnable edit, Runnable login) {
        this.model = models.call();
        // a table is of one answer; another one may have nothing that repeats
        var views = models.desk().views();
        KEPT.stream().filter(f -> f.name().equals(views.get(VIEW))).findFirst().ifPresent(face::set);
        face.addListener((o, was, now) -> views.put(VIEW, now.name()));
        this.sheet = new ResponseSheet(model, () -> show(Face.TABLE));
        this.xml = new ReceivedXml(model, models.desk().tasks()::run);
        this.table = new TableFace(model);
        this.parts = new AnswerParts(model.parts());
        this.wire = new WireFace(model.faces(), model.checks());
        this.masking = Masking.toggle(models.desk());
        this.other = new OtherAnswer(
                model, body, sheet, edit, login, this::show, address -> importFrom(models.desk(), address));
        this.faces = Parts.segments(FACES, Face::words, face.get(), face::set);
        faces.getStyleClass().add("faces");
        faces.setId("response-faces");
        getStyleClass().add("panel");
        getChildren()
                .addAll(
                        Parts.head("Response", Parts.spring(), masking, faces),
                        new AnswerStrip(model, this::show, this::reveal),
                        Parts.tall(new StackPane(backstage, body)),
                        foot);
        backstage.setVisible(false);
        path.setMinWidth(0);
        check.setId("check-this");
        capture.setId("capture-this");
        sheet.onPointed(this::showFoot);
        table.onPointed(this::showFoot);
        face.addListener((InvalidationListener) o -> showFace());
        model.calledProperty().addListener((InvalidationListener) o -> showFace());
        model.faces().changesProperty().addListener((InvalidationListener) o -> refreshFace());
        model.table().changesProperty().addListener((InvalidationListener) o -> showFoot());
        models.desk().maskedProperty().addListener((InvalidationListener) o -> showFace());
        showFace();
    }

    /** Where contracts are read one sees how far it is. */
    private static void importFrom(Desk desk, String address) {
        desk.stationProperty().set(Station.CONTRACT);
        desk.contracts().read(address, "");
    }

    /** Shows what the current case checks and captures. */
    void refresh() {
        sheet.refresh();
    }

    Optional<SheetRow> pointed() {
        return sheet.pointed();
    }

    /** Which face is shown. */
    ObjectProperty<Face> faceProperty() {
        return face;
    }

    /** Each face is laid out once where nobody sees it, until an answer shows it. */
    List<Runnable> practice() {
        List<Runnable> steps = new ArrayList<>();
        List<Node> all = new ArrayList<>(List.of(AnswerStrip.sample(), sheet.node(), xml, table, wire));
        all.addAll(other.samples());
        for (Node each : all) {
            steps.add(() -> {
                if (each.getScene() == null) {
                    backstage.getChildren().setAll(each);
                }
            });
            // until all of it has grown
            steps.addAll(Collections.nCopies(GROWING, () -> {}));
        }
        steps.add(backstage.getChildren()::clear);
        return steps;
    }

    private void show(Face wanted) {
        Parts.choose(faces, wanted.words());
        face.set(wanted);
    }

    /** Shows the row at a path. */
    void reveal(String path) {
        show(Face.SHEET);
        sheet.reveal(path);
    }

    boolean hasKeyboard() {
        return Parts.holdsKeyboard(this);
    }

    /** Finds in what of the answer is shown; whether there is a way to. */
    boolean find() {
        boolean can = face.get() == Face.XML;
        if (can) {
            xml.find();
        }
        return can;
    }

    private void showFace() {
        masking.setVisible(face.get() == Face.WIRE && model.faces().wire().masks());
        switch (face.get()) {
            case XML -> {
                xml.show();
                lay(xml);
            }
            case TABLE -> {
                table.show();
                lay(table);
            }
            case PARTS -> {
                parts.show();
                lay(parts);
            }
            case WIRE -> {
                wire.show();
                lay(wire);
            }
            default -> lay(rows());
        }
        showFoot();
    }

    /** Something of the answer has been worked out; a question that stands in the place of its rows is not disturbed. */
    private void refreshFace() {
        switch (face.get()) {
            case XML, WIRE -> showFace();
            case SHEET -> other.refresh();
            default -> {
                // tables and parts come by themselves
            }
        }
    }

    /** What stands already is not taken out and put in again, which would take the keyboard from it. */
    private void lay(Node node) {
        if (body.getChildren().size() != 1 || body.getChildren().get(0) != node) {
            body.getChildren().setAll(node);
        }
    }

    private Node rows() {
        SuiteRunner.Called called = model.calledProperty().get();
        if (called == null) {
            return Parts.empty("The answer appears here. Send the request with Ctrl+Enter.");
        }
        if (called.answer().flaw().isPresent()) {
            return other.node(called);
        }
        if (!model.response().trouble().isEmpty()) {
            return Parts.empty(model.response().trouble());
        }
        if (model.response().lines().isEmpty()) {
            return Parts.empty(
                    called.answer().soap().isPresent()
                            ? "The envelope's Body holds no element."
                            : "The answer has no body, as a one-way call should not.");
        }
        return sheet.node();
    }

    /** What stands there already stays, for it may just be pressed. */
    private void showFoot() {
        Optional<SheetRow> row =
                sheet.pointed().filter(r -> model.calledProperty().get() != null);
        row.ifPresent(r -> {
            path.setText(r.path());
            boolean value = r.children().isEmpty();
            check.setDisable(!value);
            capture.setDisable(!value);
        });
        List<Node> wanted = new ArrayList<>();
        if (face.get() == Face.TABLE) {
            wanted.add(spring);
            wanted.addAll(table.actions());
        } else if (face.get() == Face.WIRE) {
            wanted.addAll(wire.actions());
        } else if (row.isPresent()) {
            wanted.addAll(List.of(path, spring, check, capture));
        } else if (face.get() == Face.SHEET && !model.response().lines().isEmpty()) {
            wanted.add(hint);
        }
        Parts.keep(foot, wanted);
    }

    private void checkPointed() {
        sheet.pointed().ifPresent(model.checks()::addValue);
    }

    private void capturePointed() {
        sheet.pointed().ifPresent(model.checks()::capture);
    }
}
