package dev.mockbell.desktop.view.contract;

import dev.mockbell.contract.Port;
import dev.mockbell.desktop.model.ChangesModel;
import dev.mockbell.desktop.model.ContractsModel;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.project.KeptContract;
import java.io.File;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** What can be done with a contract as a whole: its title, its endpoints, export, removal. */
final class ContractActions extends VBox {
    private final Desk desk;
    private final ContractsModel model;
    private final KeptContract contract;
    private final Runnable done;

    /** @param done closes what shows this */
    ContractActions(Desk desk, ChangesModel changes, KeptContract contract, Runnable done) {
        super(10);
        this.desk = desk;
        this.model = desk.contracts();
        this.contract = contract;
        this.done = done;
        setId("contract-actions");
        setPadding(new Insets(16));
        Label source = Parts.text(
                contract.isWritten() ? "written here" : contract.contract().source(),
                contract.isWritten() ? "second" : "mono",
                "second");
        Label kept = Parts.text(
                contract.contract().documents().size()
                        + (contract.contract().documents().size() == 1 ? " document" : " documents") + ", fetched "
                        + contract.fetched().toString().replace('T', ' ').replaceAll("(\\.\\d+)?Z$", " UTC"),
                "second");
        getChildren().addAll(Parts.text("Manage " + contract.title(), "title"), source, kept);
        compare(changes);
        title();
        endpoints();
        getChildren().add(new ExportForm(desk, contract, done));
        Button remove = Parts.button("Remove from the project", "Its snapshot is set aside; this can be undone", () -> {
            model.remove(contract);
            done.run();
        });
        remove.setId("contract-remove");
        getChildren().add(new HBox(8, remove, Parts.spring(), Parts.button("Close", "Back to the board (Esc)", done)));
    }

    private void compare(ChangesModel changes) {
        Button source =
                Parts.button("Compare with its source", "Read the address once more and show what changed", () -> {
                    done.run();
                    changes.compare(contract);
                });
        source.setId("contract-compare");
        // what is written here has no source but its table
        source.setDisable(contract.isWritten());
        TextField other = new TextField();
        other.setId("contract-compare-with");
        other.setPromptText("another address or file (Enter)");
        other.setOnAction(e -> {
            if (!other.getText().isBlank()) {
                done.run();
                changes.compare(contract, other.getText().strip());
            }
        });
        Button file = Parts.button("With a file", "Pick a WSDL on this machine", () -> {
            File chosen = ContractAdder.choose(getScene().getWindow());
            if (chosen != null) {
                done.run();
                changes.compare(contract, chosen.getPath());
            }
        });
        HBox row = new HBox(8, source, Parts.wide(other), file);
        row.setAlignment(Pos.CENTER_LEFT);
        getChildren().add(row);
    }

    private void title() {
        TextField title = new TextField(contract.title());
        title.setId("contract-title");
        Runnable rename = () -> {
            if (!title.getText().isBlank()) {
                model.rename(contract, title.getText().strip());
                done.run();
            }
        };
        title.setOnAction(e -> rename.run());
        HBox row = ContractAdder.row("Title", title);
        Button button = Parts.button("Rename", "Give it this title (Enter)", rename);
        button.setId("contract-rename");
        row.getChildren().add(button);
        getChildren().add(row);
    }

    private void endpoints() {
        String environment = desk.project().current().name();
        getChildren()
                .add(Parts.text(
                        environment.isEmpty() || desk.project().environments().isEmpty()
                                ? "Endpoints"
                                : "Endpoints in " + environment,
                        "strong"));
        getChildren()
                .add(Parts.text(
                        "Enter keeps an address; an empty one goes by the contract again.", "second", "table-text"));
        for (Port port : contract.contract().ports()) {
            TextField address = new TextField(desk.endpoint(contract, port));
            address.setPromptText("no address in the contract");
            address.setId("endpoint-of-" + port.name());
            Runnable set = () -> {
                String now = desk.endpoint(contract, port);
                if (!address.getText().strip().equals(now)) {
                    boolean same =
                            address.getText().strip().equals(port.address().orElse(""));
                    if (model.endpoint(
                            contract, port, same ? "" : address.getText().strip())) {
                        address.setText(desk.endpoint(contract, port));
                    }
                }
            };
            address.setOnAction(e -> set.run());
            address.focusedProperty().addListener((o, was, now) -> {
                if (!now) {
                    set.run();
                }
            });
            getChildren().add(ContractAdder.row(port.name(), address));
        }
    }
}
