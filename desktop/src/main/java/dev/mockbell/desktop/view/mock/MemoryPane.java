package dev.mockbell.desktop.view.mock;

import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.MocksModel;
import dev.mockbell.desktop.model.Models;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Asking;
import dev.mockbell.desktop.view.shared.Form;
import dev.mockbell.mock.MockHost;
import dev.mockbell.mock.RememberedValue;
import java.util.List;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** What the running mock remembers: seen, changed and forgotten. */
final class MemoryPane extends VBox {
    private static final int MOST = 200;
    private static final double HIGH = 104;

    private final MocksModel model;
    private final Desk desk;
    private final Grid<RememberedValue> values = new Grid<>(24);
    private final HBox head = Parts.innerHead("Remembered values");

    MemoryPane(Models models) {
        this.model = models.mocks();
        this.desk = models.desk();
        values.growing("Name", MemoryPane::name).column("Value", 128, v -> Parts.text(v.text(), "mono", "table-text"));
        values.setId("mock-remembered");
        values.setMinHeight(HIGH);
        values.setMaxHeight(HIGH);
        values.list().setOnMouseClicked(e -> {
            if (e.getClickCount() == 2) {
                edit();
            }
        });
        values.list().setOnKeyPressed(e -> {
            if (e.getCode() == KeyCode.ENTER || e.getCode() == KeyCode.F2) {
                edit();
            } else if (e.getCode() == KeyCode.DELETE) {
                forget();
            }
        });
        Button all = Form.link(
                "Forget all",
                "Begin again with what it remembers from the start",
                () -> model.host().ifPresent(h -> {
                    h.forgetAll();
                    show();
                }));
        all.setId("mock-forget-all");
        Button set = Form.link("Set…", "Remember a value", () -> ask(new RememberedValue("", "", "", "")));
        set.setId("mock-set");
        head.getChildren().addAll(Parts.spring(), set, all);
        getChildren().setAll(head, values);
    }

    private static Label name(RememberedValue value) {
        Label label = Parts.text(
                "$" + value.name() + (value.key().isEmpty() ? "" : "?" + value.key())
                        + (value.caller().isEmpty() ? "" : " of " + value.caller()),
                "mono",
                "table-text");
        Parts.tip(label, value.text());
        return label;
    }

    void show() {
        List<RememberedValue> now = model.host().map(h -> h.remembered(MOST)).orElse(List.of());
        if (!List.copyOf(values.items()).equals(now)) {
            values.items().setAll(now);
        }
        boolean any = model.plan().filter(p -> !p.remembered().isEmpty()).isPresent() || !now.isEmpty();
        Parts.shown(this, any && model.host().isPresent());
    }

    private void edit() {
        RememberedValue chosen = values.list().getSelectionModel().getSelectedItem();
        if (chosen != null) {
            ask(chosen);
        }
    }

    private void forget() {
        RememberedValue chosen = values.list().getSelectionModel().getSelectedItem();
        if (chosen != null) {
            model.host().ifPresent(h -> h.forget(chosen));
            show();
        }
    }

    private void ask(RememberedValue value) {
        Form form = new Form();
        TextField name = Form.field("remembered-name", value.name(), "a name");
        TextField key = Form.field("remembered-key", value.key(), "nothing for a single value");
        TextField text = Form.field("remembered-value", literal(value.text()), "an XPath: 'a text', 12, map {}");
        form.row("$", name);
        form.row("under", key);
        form.row("is", text);
        form.note("The mock has it from the next request on; it is not kept in the project.");
        Asking.ask(
                this,
                "Remembered value",
                form,
                "remembered",
                () -> new RememberedValue(
                        Asking.needed(name.getText(), "The name").replaceFirst("^\\$", ""),
                        value.caller(),
                        key.getText().strip(),
                        Asking.needed(text.getText(), "The value")),
                changed -> model.host().ifPresent(h -> set(h, changed)));
    }

    private static String literal(String text) {
        return text.isEmpty() || text.matches("-?[0-9]+(\\.[0-9]+)?") ? text : "'" + text.replace("'", "''") + "'";
    }

    private void set(MockHost host, RememberedValue changed) {
        desk.tasks()
                .run(
                        () -> {
                            host.remember(changed.name(), changed.caller(), changed.key(), changed.text());
                            return null;
                        },
                        nothing -> show(),
                        desk::tell);
    }
}
