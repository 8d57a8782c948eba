package dev.mockbell.desktop.view.call;

import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Overlay;
import dev.mockbell.expression.FunctionDoc;
import dev.mockbell.expression.Variable;
import dev.mockbell.project.Environment;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.PasswordField;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** The variables of the case, the environment and the project, and the functions that expressions can use. */
final class VariablesWindow {
    private final Node within;
    private final CallModel model;
    private final Desk desk;
    private final List<Table> tables = new ArrayList<>();
    private final Label wrong = Parts.text("", "failed", "table-text");

    private VariablesWindow(Node within, CallModel model, Desk desk) {
        this.within = within;
        this.model = model;
        this.desk = desk;
    }

    static void show(Node within, CallModel model, Desk desk) {
        new VariablesWindow(within, model, desk).open();
    }

    /** One table of variables. */
    private static final class Table extends VBox {
        private final List<Row> rows = new ArrayList<>();
        private final VBox list = new VBox(3);
        private final String key;

        private final Predicate<String> inKeyring;
        private final Predicate<String> known;
        private final boolean keyring;

        /** @param desk knows which secrets have a value here, and where */
        Table(String key, String title, List<Variable> variables, Desk desk) {
            super(3);
            this.key = key;
            this.keyring = desk.hasKeyring();
            this.inKeyring = desk::isInKeyring;
            this.known = desk::hasSecret;
            getChildren().add(Parts.text(title, "strong"));
            getChildren().add(list);
            variables.forEach(this::add);
            var more = Parts.button(
                    "+ Variable",
                    "",
                    () -> add(new Variable("", "", false)).name.requestFocus(),
                    "quiet");
            more.setId("add-variable-" + key);
            getChildren().add(more);
        }

        Row add(Variable variable) {
            Row row = new Row(this, variable);
            rows.add(row);
            list.getChildren().add(row);
            return row;
        }
    }

    private static final class Row extends HBox {
        private final TextField name = new TextField();
        private final TextField value = new TextField();
        private final PasswordField hidden = new PasswordField();
        private final CheckBox secret = new CheckBox("secret");
        private final CheckBox ring = new CheckBox("keyring");
        private final boolean keyring;

        Row(Table table, Variable variable) {
            super(6);
            setAlignment(Pos.CENTER_LEFT);
            int number = table.rows.size();
            name.setText(variable.name());
            name.setPromptText("name");
            name.setPrefWidth(150);
            name.setId("variable-name-" + table.key + "-" + number);
            value.setText(variable.value());
            value.setPromptText("value");
            value.setId("variable-value-" + table.key + "-" + number);
            boolean kept = variable.secret() && table.known.test(variable.name());
            hidden.setPromptText(
                    kept
                            ? "••• kept on this machine; type to change it"
                            : variable.secret() ? "no value on this machine; type one" : "value");
            secret.setSelected(variable.secret());
            secret.setMinWidth(USE_PREF_SIZE);
            keyring = table.keyring;
            ring.setId("variable-keyring-" + table.key + "-" + number);
            ring.setSelected(keyring && variable.secret() && table.inKeyring.test(variable.name()));
            ring.setMinWidth(USE_PREF_SIZE);
            Parts.tip(ring, "Its value is kept in the desktop's keyring, and not in your own file of secrets");
            for (TextField field : List.of(name, value, hidden)) {
                field.getStyleClass().add("value");
            }
            Parts.wide(value);
            Parts.wide(hidden);
            // a value of the case travels with the project, so a secret cannot be one
            secret.setVisible(!"case".equals(table.key));
            show();
            secret.setOnAction(e -> {
                if (secret.isSelected()) {
                    hidden.setText(value.getText());
                    value.clear();
                }
                show();
            });
            getChildren()
                    .addAll(
                            name,
                            value,
                            hidden,
                            secret,
                            ring,
                            Parts.button(
                                    "×",
                                    "Take it away",
                                    () -> {
                                        table.rows.remove(this);
                                        table.list.getChildren().remove(this);
                                    },
                                    "tiny"));
        }

        private void show() {
            Parts.shown(value, !secret.isSelected());
            Parts.shown(hidden, secret.isSelected());
            Parts.shown(ring, keyring && secret.isSelected());
        }

        Variable variable() {
            boolean masked = secret.isSelected();
            return new Variable(name.getText().strip(), masked ? "" : value.getText(), masked);
        }
    }

    private void open() {
        Environment environment = desk.project().current();
        add("case", "Of this case", model.currentProperty().get().variables());
        add(
                "environment",
                environment == Environment.NONE
                        ? "Of an environment “Local”"
                        : "Of the environment " + environment.name(),
                environment.variables());
        add("project", "Of the project", desk.project().settings().variables());
        VBox body = new VBox(12);
        body.getChildren().addAll(tables);
        body.getChildren().add(functions());
        ScrollPane scroll = new ScrollPane(body);
        scroll.setFitToWidth(true);
        scroll.setPrefHeight(440);
        wrong.setWrapText(true);
        var keep = Parts.button("Keep", "", this::keep, "primary");
        keep.setId("variables-keep");
        HBox foot = new HBox(8, wrong, Parts.spring(), keep);
        foot.setAlignment(Pos.CENTER_LEFT);
        Label hint = Parts.text(
                "Written {$name}; a secret {$secret:name}, whose value stays on this machine. The case's come before the environment's, these before the project's.",
                "second",
                "table-text");
        hint.setWrapText(true);
        Overlay.show(within, new VBox(8, Parts.text("Variables", "title"), hint, scroll, foot), 720);
    }

    private void add(String key, String title, List<Variable> variables) {
        tables.add(new Table(key, title, variables, desk));
    }

    private static Node functions() {
        VBox box = new VBox(3, Parts.text("Functions, beside those of XPath 3.1", "strong"));
        for (FunctionDoc doc : FunctionDoc.ALL) {
            Label example = Parts.text(doc.example(), "mono");
            example.setMinWidth(270);
            Label text = Parts.text(doc.text(), "second", "table-text");
            text.setMinWidth(0);
            Parts.tip(text, doc.signature() + "\n" + doc.text());
            box.getChildren().add(new HBox(8, example, text));
        }
        return box;
    }

    private void keep() {
        Map<String, String> secrets = new HashMap<>();
        Map<String, Boolean> places = new HashMap<>();
        List<List<Variable>> kept = new ArrayList<>();
        for (Table table : tables) {
            Optional<String> flaw = collect(table, kept, secrets, places);
            if (flaw.isPresent()) {
                wrong.setText(flaw.get());
                return;
            }
        }
        Overlay.close(within);
        model.actions().keepVariables(kept.get(0), kept.get(1), kept.get(2), secrets, places);
    }

    private static Optional<String> collect(
            Table table, List<List<Variable>> into, Map<String, String> secrets, Map<String, Boolean> places) {
        List<Variable> variables = new ArrayList<>();
        Set<String> names = new HashSet<>();
        for (Row row : table.rows) {
            Variable v = row.variable();
            if (v.name().isEmpty()
                    && v.value().isEmpty()
                    && row.hidden.getText().isEmpty()) {
                continue;
            }
            if (!Variable.isName(v.name())) {
                return Optional.of("“" + v.name()
                        + "” cannot be a name: begin with a letter, go on with letters, digits, - and _.");
            }
            if (!names.add(v.name())) {
                return Optional.of("There are two variables " + v.name() + " in one table.");
            }
            if (v.secret() && !row.hidden.getText().isEmpty()) {
                secrets.put(v.name(), row.hidden.getText());
            }
            if (v.secret() && table.keyring) {
                places.put(v.name(), row.ring.isSelected());
            }
            variables.add(v);
        }
        into.add(variables);
        return Optional.empty();
    }
}
