package dev.mockbell.desktop.view.call;

import dev.mockbell.desktop.model.AnswerTable;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Form;
import dev.mockbell.desktop.view.shared.Overlay;
import dev.mockbell.table.DatabaseTable;
import java.nio.file.Path;
import java.util.Optional;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.PasswordField;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** Asks for the table of a database that rows are to go into. */
final class DatabaseForm {
    private final TextField address = new TextField();
    private final TextField table = new TextField("rows");
    private final TextField user = new TextField();
    private final PasswordField password = new PasswordField();
    private final TextField driver = new TextField();
    private final CheckBox replace = new CheckBox("in place of the rows that are there");

    private DatabaseForm() {}

    static void ask(Node within, AnswerTable model) {
        DatabaseForm asked = new DatabaseForm();
        asked.address.setPromptText("trails.db, or jdbc:postgresql://host/database");
        asked.address.setId("database-address");
        asked.table.setId("database-table");
        asked.driver.setPromptText("the driver's jar; SQLite needs none");
        asked.replace.setId("database-replace");
        Form form = new Form();
        form.row("database", asked.address);
        form.row("table", asked.table);
        form.row("", asked.replace);
        form.row("user", asked.user);
        form.row("password", asked.password);
        form.row("driver", asked.driver);
        Button write = Parts.button(
                "Write the rows",
                "All of them, or nothing is changed",
                () -> {
                    if (!asked.address.getText().isBlank()
                            && !asked.table.getText().isBlank()) {
                        Overlay.close(within);
                        model.write(asked.made());
                    }
                },
                "primary");
        write.setId("database-write");
        HBox foot = new HBox(Parts.spring(), write);
        Overlay.show(
                within, new VBox(8, Parts.text("Put the rows into a table of a database", "strong"), form, foot), 560);
        asked.address.requestFocus();
    }

    private DatabaseTable made() {
        String url = address.getText().strip();
        String name = table.getText().strip();
        if (!url.startsWith("jdbc:")) {
            return DatabaseTable.sqlite(Path.of(url), name, replace.isSelected());
        }
        return new DatabaseTable(
                url,
                name,
                replace.isSelected(),
                Optional.of(user.getText().strip()).filter(u -> !u.isEmpty()),
                password.getText(),
                Optional.of(driver.getText().strip()).filter(d -> !d.isEmpty()).map(Path::of));
    }
}
