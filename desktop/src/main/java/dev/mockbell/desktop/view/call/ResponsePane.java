package dev.mockbell.desktop.view.call;

import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.XmlArea;
import dev.mockbell.desktop.view.shared.Face;
import dev.mockbell.desktop.view.shared.Masking;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.sheet.SheetRow;
import dev.mockbell.suite.SuiteRunner;
import dev.mockbell.task.StopSignal;
import java.net.URI;
import java.net.URISyntaxException;
import java.util.List;
import java.util.Optional;
import javafx.beans.InvalidationListener;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.scene.text.TextAlignment;

/** What came back: its status, its faces, and what can be made of the row that is pointed at. */
final class ResponsePane extends VBox {
    private final CallModel model;
    private final Desk desk;
    private final Runnable edit;
    private final StackPane body = new StackPane();
    private final HBox status = new HBox(14);
    private final HBox foot = Parts.foot();
    private final ResponseSheet sheet;
    private final XmlArea xml = new XmlArea(false);
    private final XmlArea wire = new XmlArea(false);
    private final Node masking;
    private final AnswerParts parts;
    private Face tab = Face.SHEET;

    /** @param edit lets the user change where requests go */
    ResponsePane(CallModel model, Desk desk, Runnable edit) {
        this.model = model;
        this.desk = desk;
        this.edit = edit;
        this.sheet = new ResponseSheet(model);
        this.masking = Masking.toggle(desk);
        this.parts = new AnswerParts(model.parts());
        status.setAlignment(Pos.CENTER_LEFT);
        status.setPadding(new Insets(0, 12, 0, 12));
        status.setMinHeight(30);
        HBox faces = Parts.segments(List.of(Face.SHEET, Face.XML, Face.PARTS, Face.WIRE), Face::words, tab, t -> {
            tab = t;
            showFace();
        });
        faces.getStyleClass().add("faces");
        getStyleClass().add("panel");
        getChildren().addAll(Parts.head("Response", Parts.spring(), masking, faces), status, Parts.tall(body), foot);
        sheet.onPointed(this::showPath);
        model.calledProperty().addListener((InvalidationListener) o -> showAnswer());
        model.faces().changesProperty().addListener((InvalidationListener) o -> showFace());
        desk.maskedProperty().addListener((InvalidationListener) o -> showFace());
        showAnswer();
    }

    /** Shows what the current case checks and captures. */
    void refresh() {
        sheet.refresh();
    }

    Optional<SheetRow> pointed() {
        return sheet.pointed();
    }

    private void showAnswer() {
        status.getChildren().clear();
        model.exchange().ifPresent(e -> {
            boolean whole = model.calledProperty().get().answer().whole();
            String line = e.response()
                    .map(r -> whole ? r.title().replaceFirst("^HTTP/\\S+ ", "") : "no whole answer")
                    .orElse("no answer");
            Label code = Parts.text(
                    line,
                    "strong",
                    e.outcome() == Exchange.Outcome.FINE
                            ? "fine"
                            : e.outcome() == Exchange.Outcome.FAULT
                                    ? "fault"
                                    : whole && e.status() / 100 == 2 ? "fine" : "failed");
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
            if (e.outcome() == Exchange.Outcome.FINE && !e.note().isEmpty()
                    || e.outcome() == Exchange.Outcome.FAILED && whole) {
                Label note = Parts.text(e.note(), "second", "table-text");
                note.setId("answer-note");
                note.setMinWidth(0);
                Parts.tip(note, e.note());
                status.getChildren().add(note);
            }
            status.getChildren().addAll(Parts.spring(), whole(Parts.text(Numbers.clock(e.started()), "third")));
        });
        showFace();
        showPath();
    }

    /** Not to be cut where room is short. */
    private static Label whole(Label label) {
        label.setMinWidth(Region.USE_PREF_SIZE);
        return label;
    }

    private void showFace() {
        masking.setVisible(false);
        switch (tab) {
            case XML -> {
                xml.show(model.faces().xml());
                body.getChildren().setAll(xml);
            }
            case PARTS -> {
                parts.show();
                body.getChildren().setAll(parts);
            }
            case WIRE -> {
                wire.show(model.faces().wire());
                body.getChildren().setAll(wire);
                masking.setVisible(model.faces().isMasking());
            }
            default -> {
                SuiteRunner.Called called = model.calledProperty().get();
                if (called == null) {
                    body.getChildren()
                            .setAll(Parts.empty("The answer appears here. Send the request with Ctrl+Enter."));
                } else if (called.answer().flaw().isPresent()) {
                    body.getChildren().setAll(unusable(called));
                } else if (model.response().lines().isEmpty()) {
                    body.getChildren().setAll(Parts.empty("The answer has no body, as a one-way call should not."));
                } else {
                    body.getChildren().setAll(sheet.node());
                }
            }
        }
    }

    /** Why there is nothing to show, and what helps when nobody answered. */
    private Node unusable(SuiteRunner.Called called) {
        String flaw = called.answer().flaw().orElse("");
        if (called.answer().whole()) {
            return Parts.empty(flaw);
        }
        Button other = Parts.button("Change the endpoint", "Type where to send instead", edit);
        other.setId("change-endpoint");
        boolean runs = model.endpoint().mock().isPresent();
        Button mock = Parts.button(
                runs ? "Call the mock" : "Start the mock and call it",
                "It stands in for the service, for this case alone",
                () -> model.endpoint().callMock(model::sendOrStop));
        mock.setId("call-mock");
        Button again = Parts.button("Send again", "Ctrl+Enter", model::sendOrStop);
        FlowPane next = new FlowPane(8, 8, other, mock, again);
        next.setAlignment(Pos.CENTER);
        secure(called.answer().exchange()).ifPresent(address -> {
            Button look =
                    Parts.button("Look at the certificate", "Asks the server for it, and sends nothing", () -> {});
            look.setOnAction(e -> look(called, address, look));
            look.setId("look-at-certificate");
            next.getChildren().add(0, look);
        });
        // what happened first, then all that is to be known of it
        int first = flaw.indexOf(". ") + 1;
        VBox box = first == 0
                ? new VBox(12, centred(flaw, "strong"), next)
                : new VBox(
                        12,
                        centred(flaw.substring(0, first), "strong"),
                        centred(flaw.substring(first).strip(), "second"),
                        next);
        box.setPadding(new Insets(12));
        box.setAlignment(Pos.CENTER);
        box.setMaxHeight(Region.USE_PREF_SIZE);
        return box;
    }

    /** Asks once at a time; what comes when another answer stands there is not shown. */
    private void look(SuiteRunner.Called called, URI address, Button asked) {
        String words = asked.getText();
        StopSignal stop = model.security()
                .look(
                        address,
                        shown -> {
                            if (model.calledProperty().get() == called) {
                                body.getChildren().setAll(new CertificateQuestion(model, address, shown));
                            }
                        },
                        () -> {
                            asked.setText(words);
                            asked.setOnAction(e -> look(called, address, asked));
                        });
        asked.setText("Stop asking");
        asked.setOnAction(e -> stop.stop());
    }

    /** Where TLS was to be spoken. */
    private static Optional<URI> secure(Exchange exchange) {
        try {
            return Optional.of(new URI(exchange.endpoint()))
                    .filter(a -> "https".equalsIgnoreCase(a.getScheme()) && a.getHost() != null);
        } catch (URISyntaxException noAddress) {
            return Optional.empty();
        }
    }

    private static Label centred(String words, String kind) {
        Label label = Parts.text(words, kind);
        label.setWrapText(true);
        label.setTextAlignment(TextAlignment.CENTER);
        return label;
    }

    private void showPath() {
        foot.getChildren().clear();
        Optional<SheetRow> row =
                sheet.pointed().filter(r -> model.calledProperty().get() != null);
        if (row.isEmpty()) {
            foot.getChildren().add(Parts.text("Point at a row to check or capture it", "third"));
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
        foot.getChildren().addAll(path, Parts.spring(), check, capture);
    }
}
