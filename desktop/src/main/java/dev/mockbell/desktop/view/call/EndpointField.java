package dev.mockbell.desktop.view.call;

import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.model.CalledEndpoint;
import dev.mockbell.desktop.model.CalledEndpoint.For;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.redact.Redactor;
import java.util.List;
import java.util.function.Consumer;
import javafx.geometry.Pos;
import javafx.geometry.Side;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ContextMenu;
import javafx.scene.control.CustomMenuItem;
import javafx.scene.control.Label;
import javafx.scene.control.MenuItem;
import javafx.scene.control.SeparatorMenuItem;
import javafx.scene.control.TextField;
import javafx.scene.control.Tooltip;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;

/**
 * Where the request goes: typed over or chosen, for this case or for the environment; empty, what counts without it counts
 * again. Enter keeps, Esc takes back, and so does leaving the field keep.
 */
final class EndpointField extends HBox {
    private final CallModel model;
    private final TextField field = new TextField();
    private final Button more = Parts.button("▾", "Addresses to choose from (Alt+Down)", this::offer, "tiny");
    private final Label from = Parts.text("", "third");
    private final HBox whom;
    private final Consumer<String> tap;
    private For chosen = For.ENVIRONMENT;

    /** @param tap taps an address */
    EndpointField(CallModel model, Consumer<String> tap) {
        super(8);
        this.model = model;
        this.tap = tap;
        setAlignment(Pos.CENTER_LEFT);
        field.setId("endpoint");
        field.getStyleClass().add("mono");
        field.setPromptText("http://…");
        field.setTooltip(
                new Tooltip("Type another address, or choose one: Enter keeps it for what is chosen beside it,\n"
                        + "Esc takes it back; an empty one goes by the environment or the contract again"));
        more.setId("endpoint-more");
        whom = Parts.segments(List.of(For.values()), For::words, chosen, w -> chosen = w);
        whom.setId("endpoint-for");
        // the keyboard stays in the field while it is said whom the address is for
        whom.getChildren().forEach(n -> n.setFocusTraversable(false));
        more.setFocusTraversable(false);
        field.setOnAction(e -> keep());
        field.focusedProperty().addListener((o, was, now) -> {
            if (was && !now) {
                keep();
                show();
            } else if (now) {
                // while it is edited a login in the address is there to be edited too
                field.setText(model.endpoint().address());
                chosen = model.endpoint().counts();
                Parts.choose(whom, chosen.words());
                showWhom();
            }
        });
        field.textProperty().addListener((o, was, now) -> showWhom());
        field.setOnKeyPressed(e -> {
            if (e.getCode() == KeyCode.ESCAPE
                    && !field.getText().equals(model.endpoint().address())) {
                field.setText(model.endpoint().address());
                e.consume();
            } else if (e.getCode() == KeyCode.DOWN && e.isAltDown()) {
                offer();
                e.consume();
            }
        });
        from.setId("endpoint-from");
        from.setMinWidth(Region.USE_PREF_SIZE);
        getChildren().addAll(Parts.wide(field), more, from, whom);
        showWhom();
    }

    /** Whom it is for is asked while another address stands there. */
    private void showWhom() {
        boolean other = field.isFocused()
                && !field.getText().strip().equals(model.endpoint().address());
        shown(whom, other);
        shown(from, !other);
    }

    private static void shown(Node node, boolean on) {
        Parts.shown(node, on);
    }

    /** Shows where the request goes now; what is being typed stays. */
    void show() {
        if (!field.isFocused()) {
            field.setText(Redactor.USUAL.text(model.endpoint().address()));
        }
        from.setText(model.endpoint().from());
        showWhom();
    }

    /** Puts the keyboard here. */
    void edit() {
        field.requestFocus();
        field.selectAll();
    }

    private void offer() {
        model.endpoint().choices(all -> {
            ContextMenu menu = new ContextMenu();
            menu.setId("endpoint-choices");
            for (CalledEndpoint.Choice choice : all) {
                Label address = Parts.text(Redactor.USUAL.text(choice.address()), "mono");
                Label of = Parts.text(choice.from(), "third", "table-text");
                HBox words = new HBox(18, address, Parts.spring(), of);
                words.setAlignment(Pos.CENTER_LEFT);
                words.setMinWidth(460);
                CustomMenuItem item = new CustomMenuItem(words);
                item.setOnAction(e -> take(choice.address()));
                menu.getItems().add(item);
            }
            if (all.isEmpty()) {
                menu.getItems().add(new CustomMenuItem(Parts.text("There is none yet; type one.", "third"), false));
            }
            String now = model.endpoint().address();
            if (!now.isEmpty()) {
                MenuItem through = new MenuItem("Tap this address, to record what other clients send there");
                through.setOnAction(e -> tap.accept(now));
                menu.getItems().addAll(new SeparatorMenuItem(), through);
            }
            menu.show(field, Side.BOTTOM, 0, 2);
        });
    }

    /** A chosen address stands in the field as if typed: whom it is for is still to say. */
    private void take(String address) {
        field.requestFocus();
        field.setText(address);
        field.end();
    }

    private void keep() {
        String typed = field.getText().strip();
        boolean masked = typed.equals(Redactor.USUAL.text(model.endpoint().address()));
        if (!typed.equals(model.endpoint().address())
                && !masked
                && !model.endpoint().keep(typed, chosen)) {
            field.setText(model.endpoint().address());
        }
        showWhom();
    }
}
