package dev.mockbell.desktop.view.contract;

import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.contract.Operation;
import dev.mockbell.contract.Port;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.OperationPlace;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.soap.SoapVersion;
import java.util.Locale;
import java.util.function.Consumer;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** The recipe of an operation's HTTP call for each binding, piece by piece, each copied by one click. */
final class WirePane extends ScrollPane {
    private final Desk desk;
    private final Consumer<String> copy;
    private final VBox box = new VBox(4);

    WirePane(Desk desk, OperationPlace place, Consumer<String> copy) {
        this.desk = desk;
        this.copy = copy;
        box.setPadding(new Insets(10, 12, 10, 12));
        for (Port port : place.ports()) {
            if (port.binding().protocol().soap()) {
                soap(place, port);
            } else {
                other(place, port);
            }
        }
        setContent(box);
        setFitToWidth(true);
        setId("wire-pane");
    }

    /** Style and use of an operation in the words of the trade: {@code document/literal}. */
    static String style(Operation operation) {
        return operation.style().map(s -> s.name().toLowerCase(Locale.ROOT)).orElse("no style") + "/"
                + operation.use().map(u -> u.name().toLowerCase(Locale.ROOT)).orElse("literal");
    }

    private void soap(OperationPlace place, Port port) {
        BoundOperation bound = place.at(port.name());
        Operation operation = bound.operation();
        SoapVersion version = SoapVersion.of(bound);
        String action = operation.soapAction().orElse("");
        String address = desk.endpoint(place.contract(), port);
        String body = desk.contracts().sampleRequest(place, port).orElse("making a sample…");
        if (!port.binding().transport().byHttp()) {
            carried(port, address, action, operation, body, version);
            return;
        }
        StringBuilder whole = new StringBuilder("POST ").append(address).append(" HTTP/1.1\n");
        head(port, () -> copy.accept(whole + "\n" + body));
        piece("Method", "POST");
        piece("Address", address.isEmpty() ? "none; set the endpoint under Manage" : address);
        String type = version.contentType(action);
        piece("Content-Type", type);
        whole.append("Content-Type: ").append(type).append('\n');
        if (version == SoapVersion.V11) {
            piece("SOAPAction", "\"" + action + "\"");
            whole.append("SOAPAction: \"").append(action).append("\"\n");
        }
        operation.input().map(m -> m.action()).filter(a -> !a.isEmpty()).ifPresent(a -> piece("wsa:Action", a));
        rest(port, operation, body);
    }

    /** SOAP that something else than HTTP carries. */
    private void carried(
            Port port, String address, String action, Operation operation, String body, SoapVersion version) {
        String carrier = port.binding().transport().name();
        head(port, () -> copy.accept(body));
        boolean queued = port.binding().transport().byQueue();
        words("These messages go by " + carrier + ". "
                + (queued
                        ? "A bytes message with these properties, answered to JMSReplyTo (SOAP over JMS 1.0)."
                        : "They can be made, filled in and checked here; sending is by HTTP and JMS."));
        piece("Address", address.isEmpty() ? "none; set the endpoint under Manage" : address);
        if (queued) {
            piece("SOAPJMS_bindingVersion", "1.0");
            piece("SOAPJMS_contentType", version.contentType(action));
        }
        if (!action.isEmpty()) {
            piece(queued ? "SOAPJMS_soapAction" : "Action", action);
        }
        rest(port, operation, body);
    }

    private void rest(Port port, Operation operation, String body) {
        if (!operation.needs().isEmpty()) {
            piece("Needs", String.join(", ", operation.needs()));
        }
        piece("Style", style(operation));
        port.binding().transport().uri().ifPresent(t -> piece("Transport", t));
        piece("Body", body);
    }

    private void other(OperationPlace place, Port port) {
        head(port, () -> copy.accept(desk.endpoint(place.contract(), port)));
        piece("Address", desk.endpoint(place.contract(), port));
        port.binding().transport().uri().ifPresent(t -> piece("Transport", t));
        words("Bindings of this kind are listed; they cannot be called from here.");
    }

    private void words(String text) {
        Label words = Parts.text(text, "second");
        words.setWrapText(true);
        words.setMinHeight(USE_PREF_SIZE);
        box.getChildren().add(words);
    }

    private void head(Port port, Runnable copyAll) {
        Label name = Parts.text(port.name() + " · " + port.binding().title(), "strong");
        Button all = Parts.button("Copy all", "Copy the whole request", copyAll);
        HBox head = new HBox(8, name, Parts.spring(), all);
        head.setAlignment(Pos.CENTER_LEFT);
        head.setPadding(new Insets(6, 0, 2, 0));
        box.getChildren().add(head);
    }

    private void piece(String name, String value) {
        Label key = Parts.text(name, "second", "table-text");
        key.setMinWidth(92);
        Label text = Parts.text(value, "mono");
        text.setWrapText(true);
        text.setMinHeight(USE_PREF_SIZE);
        text.setMinWidth(0);
        var one = Parts.link("Copy", "Copy " + name, () -> copy.accept(value));
        one.setMinWidth(USE_PREF_SIZE);
        one.setPadding(new Insets(0, 6, 0, 6));
        one.setId("copy-" + name.toLowerCase(Locale.ROOT).replace(':', '-'));
        HBox row = new HBox(8, key, text, Parts.spring(), one);
        row.setAlignment(Pos.TOP_LEFT);
        box.getChildren().add(row);
    }
}
