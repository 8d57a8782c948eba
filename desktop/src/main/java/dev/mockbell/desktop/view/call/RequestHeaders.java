package dev.mockbell.desktop.view.call;

import dev.mockbell.content.Header;
import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.XmlArea;
import dev.mockbell.suite.Case;
import java.util.ArrayList;
import java.util.List;
import javafx.animation.PauseTransition;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import javafx.util.Duration;

/** The HTTP headers of a case and the blocks of its SOAP header. */
final class RequestHeaders extends VBox {
    private final CallModel model;
    private final VBox list = new VBox(4);
    private final XmlArea blocks = new XmlArea(true);
    private final HBox offers = new HBox(6);
    private final PauseTransition rest = new PauseTransition(Duration.millis(400));
    private List<Header> shown = List.of();
    private String reference = "";

    RequestHeaders(CallModel model) {
        super(6);
        this.model = model;
        setPadding(new Insets(8, 10, 8, 10));
        ScrollPane scroll = new ScrollPane(list);
        scroll.setFitToWidth(true);
        // as high as what is in it, up to a bound
        list.heightProperty().addListener((o, was, now) -> {
            double wanted = Math.min(220, now.doubleValue() + 4);
            scroll.setMinHeight(Math.min(90, wanted));
            scroll.setPrefHeight(wanted);
        });
        scroll.setMaxHeight(220);
        blocks.area().setId("soap-headers");
        blocks.onChange(() -> {
            if (blocks.typing().get()) {
                rest.playFromStart();
            }
        });
        model.onSettle(this::keepBlocks);
        model.actions().headerSamplesProperty().addListener((o, was, now) -> show());
        rest.setOnFinished(e -> keepBlocks());
        blocks.typing().addListener((o, was, now) -> {
            if (was && !now) {
                rest.stop();
                keepBlocks();
            }
        });
        offers.setAlignment(Pos.CENTER_LEFT);
        getChildren()
                .addAll(
                        Parts.text("HTTP headers, beside Content-Type and SOAPAction", "second", "table-text"),
                        scroll,
                        Parts.text("Blocks of the SOAP header", "second", "table-text"),
                        offers,
                        Parts.tall(blocks));
    }

    private Case now() {
        return model.currentProperty().get();
    }

    private void keepBlocks() {
        Case kept = now();
        if (kept != null
                && kept.reference().equals(reference)
                && !kept.soapHeaders().equals(blocks.text())) {
            rest.stop();
            model.keep(now().withSoapHeaders(blocks.text()));
        }
    }

    void show() {
        Case kept = now();
        if (kept == null) {
            return;
        }
        if (!kept.reference().equals(reference) || !kept.headers().equals(shown)) {
            shown = kept.headers();
            list.getChildren().clear();
            for (int i = 0; i < shown.size(); i++) {
                list.getChildren().add(row(i, shown.get(i)));
            }
            var add = Parts.button(
                    "+ Header", "Send one more HTTP header", () -> put(shown.size(), new Header("", "")), "quiet");
            add.setId("add-header");
            list.getChildren().add(add);
        }
        reference = kept.reference();
        if (!blocks.typing().get()) {
            blocks.show(kept.soapHeaders());
        }
        offers.getChildren().clear();
        model.actions()
                .headerSamples()
                .forEach((name, xml) -> offers.getChildren()
                        .add(Parts.button(
                                "+ " + name,
                                "Put in the block that the contract names",
                                () -> {
                                    model.settle();
                                    String before = now().soapHeaders();
                                    model.keep(now().withSoapHeaders(
                                                    before.isBlank() ? xml : before.stripTrailing() + "\n" + xml));
                                    blocks.show(now().soapHeaders());
                                },
                                "quiet")));
        if (offers.getChildren().isEmpty()) {
            offers.getChildren()
                    .add(Parts.text("The contract names none; what stands here is sent.", "third", "table-text"));
        }
    }

    private HBox row(int index, Header header) {
        TextField name = new TextField(header.name());
        name.getStyleClass().add("value");
        name.setPromptText("Name");
        name.setPrefWidth(120);
        name.setMinWidth(80);
        name.setId("header-name-" + index);
        TextField value = new TextField(header.value());
        value.getStyleClass().add("value");
        value.setPromptText("Value, or {$secret:token}");
        value.setId("header-value-" + index);
        name.textProperty().addListener((o, was, text) -> put(index, new Header(text.strip(), value.getText())));
        value.textProperty()
                .addListener(
                        (o, was, text) -> put(index, new Header(name.getText().strip(), text)));
        HBox row = new HBox(
                4,
                name,
                Parts.wide(value),
                Parts.button("×", "Do not send this header", () -> put(index, null), "tiny"));
        row.setAlignment(Pos.CENTER_LEFT);
        return row;
    }

    private void put(int index, Header header) {
        List<Header> changed = new ArrayList<>(shown);
        boolean more = index == changed.size();
        if (header == null) {
            changed.remove(index);
        } else if (more) {
            changed.add(header);
        } else {
            changed.set(index, header);
        }
        boolean rebuild = more || header == null;
        if (!rebuild) {
            shown = List.copyOf(changed);
        }
        model.settle();
        model.keep(now().withHeaders(changed));
        if (rebuild) {
            show();
        }
    }
}
