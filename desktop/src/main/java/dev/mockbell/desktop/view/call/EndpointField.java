package dev.mockbell.desktop.view.call;

import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.redact.Redactor;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.control.Tooltip;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;

/**
 * Where the request goes: typed over, it becomes the environment's address of the port; empty, the contract's counts again.
 * Enter keeps, Esc takes back, and so does leaving the field keep.
 */
final class EndpointField extends HBox {
    private final CallModel model;
    private final TextField field = new TextField();
    private final Label from = Parts.text("", "third");

    EndpointField(CallModel model, Desk desk) {
        super(8);
        this.model = model;
        setAlignment(Pos.CENTER_LEFT);
        field.setId("endpoint");
        field.getStyleClass().add("mono");
        field.setPromptText("http://…");
        field.setTooltip(new Tooltip("Type another address: Enter keeps it in the environment, Esc takes it back;\n"
                + "an empty one goes by the contract again"));
        field.setOnAction(e -> keep());
        field.focusedProperty().addListener((o, was, now) -> {
            if (was && !now) {
                keep();
                show();
            } else if (now) {
                // while it is edited a login in the address is there to be edited too
                field.setText(model.endpoint().address());
            }
        });
        field.setOnKeyPressed(e -> {
            if (e.getCode() == KeyCode.ESCAPE
                    && !field.getText().equals(model.endpoint().address())) {
                field.setText(model.endpoint().address());
                e.consume();
            }
        });
        from.setId("endpoint-from");
        from.setMinWidth(Region.USE_PREF_SIZE);
        getChildren().addAll(Parts.wide(field), from);
    }

    /** Shows where the request goes now; what is being typed stays. */
    void show() {
        if (!field.isFocused()) {
            field.setText(Redactor.USUAL.text(model.endpoint().address()));
        }
        from.setText(model.endpoint().from());
    }

    /** Puts the keyboard here. */
    void edit() {
        field.requestFocus();
        field.selectAll();
    }

    private void keep() {
        String typed = field.getText().strip();
        boolean masked = typed.equals(Redactor.USUAL.text(model.endpoint().address()));
        if (!typed.equals(model.endpoint().address())
                && !masked
                && !model.endpoint().keep(typed)) {
            field.setText(model.endpoint().address());
        }
    }
}
