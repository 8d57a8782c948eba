package dev.mockbell.desktop.view.call;

import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.wire.ShownCertificate;
import java.net.URI;
import javafx.geometry.Insets;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/** A server's certificate, whole, and whether to trust it for the endpoint. */
final class CertificateQuestion extends VBox {
    private final CallModel model;
    private final FlowPane next = new FlowPane(8, 8);

    CertificateQuestion(CallModel model, URI address, ShownCertificate shown) {
        super(8);
        this.model = model;
        setPadding(new Insets(14));
        String host = address.getHost();
        getChildren()
                .add(wrapped(
                        shown.flaw()
                                .map(f -> "The certificate of " + host + " is not trusted: " + f + ".")
                                .orElse("The certificate of " + host + " is trusted."),
                        "strong"));
        fact("for", shown.subject());
        fact("names", shown.names().isEmpty() ? "none" : shown.names());
        fact("issued by", shown.issuer());
        fact("valid", "from " + shown.validFrom() + " until " + shown.validUntil());
        fact("SHA-256", shown.fingerprint());
        for (String issuer : shown.issuers()) {
            fact("then", issuer);
        }
        if (shown.flaw().isPresent()) {
            Button trust = Parts.button(
                    "Trust this certificate for this endpoint",
                    "Kept by its fingerprint in the security profile; another certificate is asked about again",
                    () -> trusted(model.security().trustForEndpoint(address, shown)));
            trust.setId("trust-certificate");
            next.getChildren().add(trust);
        }
        next.getChildren().add(Parts.button("Send again", "Ctrl+Enter", model::sendOrStop));
        getChildren().add(next);
    }

    private void trusted(String profile) {
        next.getChildren().remove(0);
        getChildren().add(getChildren().size() - 1, wrapped("The profile " + profile + " trusts it now.", "fine"));
        next.getChildren().get(0).requestFocus();
    }

    private void fact(String name, String value) {
        Label of = Parts.text(name, "third");
        of.setMinWidth(70);
        Label is = wrapped(value, "mono");
        HBox.setHgrow(is, Priority.ALWAYS);
        getChildren().add(new HBox(8, of, is));
    }

    private static Label wrapped(String words, String kind) {
        Label label = Parts.text(words, kind);
        label.setWrapText(true);
        label.setMinWidth(0);
        return label;
    }
}
