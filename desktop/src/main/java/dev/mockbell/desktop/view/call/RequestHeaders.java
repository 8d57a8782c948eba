package dev.mockbell.desktop.view.call;

import dev.mockbell.content.Header;
import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.model.HeadersModel;
import dev.mockbell.desktop.model.MessageModel;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.Toggle;
import dev.mockbell.desktop.part.XmlArea;
import dev.mockbell.desktop.view.message.SheetGrid;
import dev.mockbell.suite.Case;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.animation.PauseTransition;
import javafx.beans.InvalidationListener;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import javafx.util.Duration;

/** The HTTP headers of a case, the blocks of its SOAP header, and how it is delivered. */
final class RequestHeaders extends VBox {
    private static final double ROW = 28;
    private static final int MOST_ROWS = 9;

    private final CallModel model;
    private final HeadersModel headers;
    private final Consumer<String> tell;
    private final VBox list = new VBox(4);
    private final VBox declared = new VBox();
    private final XmlArea blocks = new XmlArea(true);
    private final DeliveryRows delivery;
    private final Map<String, SheetGrid> sheets = new LinkedHashMap<>();
    private final PauseTransition rest = new PauseTransition(Duration.millis(400));
    private List<Header> shown = List.of();
    private Map<String, Boolean> shownBlocks = Map.of();
    private String reference = "";

    RequestHeaders(CallModel model, Consumer<String> tell) {
        this.model = model;
        this.headers = model.headers();
        this.tell = tell;
        this.delivery = new DeliveryRows(model);
        blocks.area().setId("soap-headers");
        blocks.getStyleClass().add("boxed");
        blocks.setMinHeight(110);
        blocks.setPrefHeight(130);
        blocks.onChange(() -> {
            if (blocks.typing().get()) {
                rest.playFromStart();
            }
        });
        model.onSettle(this::keepBlocks);
        rest.setOnFinished(e -> keepBlocks());
        blocks.typing().addListener((o, was, now) -> {
            if (was && !now) {
                rest.stop();
                keepBlocks();
            }
        });
        list.setPadding(new Insets(4, 12, 8, 12));
        VBox free = new VBox(4, Parts.text("Other blocks, as XML", "second", "table-text"), blocks);
        free.setPadding(new Insets(6, 12, 8, 12));
        VBox all = new VBox(
                heading("HTTP headers, beside Content-Type and SOAPAction"),
                list,
                heading("SOAP header"),
                declared,
                free,
                heading("Delivery"),
                delivery.node());
        ScrollPane scroll = new ScrollPane(all);
        scroll.setFitToWidth(true);
        VBox.setVgrow(scroll, Priority.ALWAYS);
        getChildren().add(scroll);
    }

    private static HBox heading(String words) {
        HBox head = new HBox(Parts.text(words, "strong", "table-text", "second"));
        head.getStyleClass().addAll("panel-head", "inner");
        head.setPadding(new Insets(7, 12, 5, 12));
        return head;
    }

    private Case now() {
        return model.currentProperty().get();
    }

    private void keepBlocks() {
        Case kept = now();
        if (kept != null && kept.reference().equals(reference) && !blocks.text().equals(headers.free())) {
            rest.stop();
            headers.keepFree(blocks.text());
        }
    }

    void show() {
        Case kept = now();
        if (kept == null) {
            return;
        }
        headers.refresh();
        boolean other = !kept.reference().equals(reference);
        if (other || !kept.headers().equals(named(shown))) {
            shown = kept.headers();
            showList();
        }
        reference = kept.reference();
        if (other || !shownBlocks.equals(headers.declared())) {
            showDeclared();
        }
        if (!blocks.typing().get()) {
            blocks.show(headers.free());
        }
        delivery.show();
    }

    private void showList() {
        list.getChildren().clear();
        for (int i = 0; i < shown.size(); i++) {
            list.getChildren().add(row(i, shown.get(i)));
        }
        var add = Parts.button(
                "+ Header", "Send one more HTTP header", () -> put(shown.size(), new Header("", "")), "quiet");
        add.setId("add-header");
        list.getChildren().add(add);
    }

    private void showDeclared() {
        shownBlocks = headers.declared();
        declared.getChildren().clear();
        if (shownBlocks.isEmpty()) {
            declared.getChildren().add(said("The contract names no header blocks; what stands below is sent."));
        } else if (headers.isBroken()) {
            declared.getChildren().add(said("The blocks are not well-formed XML. Mend them below."));
            return;
        }
        shownBlocks.forEach((name, in) -> {
            declared.getChildren().add(switchOf(name, in));
            if (in) {
                declared.getChildren().add(sheetOf(name));
            }
        });
    }

    private static Label said(String words) {
        Label label = Parts.text(words, "third", "table-text");
        label.setPadding(new Insets(6, 12, 4, 12));
        label.setWrapText(true);
        return label;
    }

    private HBox switchOf(String name, boolean in) {
        Toggle toggle = new Toggle(() -> {
            headers.flip(name);
            showDeclared();
            blocks.show(headers.free());
        });
        toggle.setId("header-block-" + name);
        toggle.show(in, in ? "Leave " + name + " out" : "Put " + name + " in");
        HBox row = new HBox(
                8,
                toggle,
                Parts.text(name, in ? "strong" : "third"),
                Parts.text(
                        in ? "declared by the contract" : "left out, though the contract declares it",
                        "third",
                        "table-text"));
        row.setAlignment(Pos.CENTER_LEFT);
        row.setPadding(new Insets(6, 12, 4, 12));
        return row;
    }

    private SheetGrid sheetOf(String name) {
        return sheets.computeIfAbsent(name, n -> {
            SheetGrid grid = new SheetGrid("header-sheet-" + n, headers.sheet(n), Optional.of(model.values()), tell);
            InvalidationListener sized = o -> {
                double height =
                        ROW * (1 + Math.min(MOST_ROWS, headers.sheet(n).lines().size())) + 4;
                grid.setMinHeight(height);
                grid.setPrefHeight(height);
            };
            headers.sheet(n).lines().addListener(sized);
            sized.invalidated(null);
            return grid;
        });
    }

    /** The block that the keyboard is in; empty when it is elsewhere. */
    Optional<MessageModel> edited() {
        Node at = getScene() == null ? null : getScene().getFocusOwner();
        for (; at != null; at = at.getParent()) {
            for (Map.Entry<String, SheetGrid> sheet : sheets.entrySet()) {
                if (sheet.getValue() == at) {
                    return Optional.of(headers.sheet(sheet.getKey()));
                }
            }
        }
        return Optional.empty();
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
        shown = List.copyOf(changed);
        model.settle();
        // one without a name yet is not sent, and cannot be kept
        model.keep(now().withHeaders(named(changed)));
        if (rebuild) {
            showList();
        }
    }

    private static List<Header> named(List<Header> all) {
        return all.stream().filter(h -> !h.name().isEmpty()).toList();
    }
}
