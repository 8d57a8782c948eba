package dev.mockbell.desktop.view.contract;

import dev.mockbell.contract.Export.Form;
import dev.mockbell.contract.Readdress;
import dev.mockbell.contract.Rewriting;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.file.FileName;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.KeptContract;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** Writes a contract out: where, in what form, and with which address and names. */
final class ExportForm extends VBox {
    private final Desk desk;
    private final KeptContract contract;
    private final Runnable done;
    private final TextField out = new TextField();
    private final TextField protocol = new TextField();
    private final TextField host = new TextField();
    private final TextField number = new TextField();
    private final TextField path = new TextField();
    private final TextField namespace = new TextField();
    private final TextField service = new TextField();
    private final VBox rewriting;
    private Form form = Form.REWRITTEN;

    /** @param done closes what shows this */
    ExportForm(Desk desk, KeptContract contract, Runnable done) {
        super(8);
        this.desk = desk;
        this.contract = contract;
        this.done = done;
        out.setId("export-path");
        out.setText(Path.of(System.getProperty("user.home", "."))
                .resolve(FileName.of(contract.name()))
                .toString());
        HBox forms = Parts.segments(List.of(Target.values()), t -> t.words, Target.FOLDER, this::choose);
        Button write = Parts.button("Write out", "Write it there", this::write);
        write.setId("contract-export");
        HBox head = new HBox(8, Parts.text("Write it out", "strong"), Parts.spring(), forms);
        head.setAlignment(Pos.CENTER_LEFT);
        HBox where = ContractAdder.row("To", out);
        where.getChildren().add(write);
        named(protocol, "export-protocol", "http", 64);
        named(host, "export-host", "host", 0);
        named(number, "export-port", "port", 64);
        named(path, "export-file", "/path", 0);
        named(namespace, "export-namespace", "as it is; or OLD=NEW", 0);
        named(service, "export-service", "as it is", 150);
        HBox address = line("Addresses", protocol, Parts.wide(host), number, Parts.wide(path));
        HBox names = line("Namespace", Parts.wide(namespace), Parts.text("Service", "second"), service);
        rewriting = new VBox(8, address, names);
        getChildren().addAll(head, where, rewriting);
    }

    private static void named(TextField field, String id, String prompt, double width) {
        field.setId(id);
        field.setPromptText(prompt);
        if (width > 0) {
            field.setPrefWidth(width);
            field.setMinWidth(width);
        }
    }

    private static HBox line(String name, javafx.scene.Node... fields) {
        HBox line = new HBox(8, ContractAdder.label(name));
        line.getChildren().addAll(fields);
        line.setAlignment(Pos.CENTER_LEFT);
        return line;
    }

    /** What it becomes. */
    private enum Target {
        FOLDER("Folder", Form.REWRITTEN, ""),
        ZIP("Zip", Form.REWRITTEN, ".zip"),
        ONE_WSDL("One WSDL", Form.SINGLE, ".wsdl"),
        AS_FETCHED("As fetched", Form.AS_FETCHED, "");

        private final String words;
        private final Form form;
        private final String ending;

        Target(String words, Form form, String ending) {
            this.words = words;
            this.form = form;
            this.ending = ending;
        }
    }

    private void choose(Target target) {
        form = target.form;
        out.setText(out.getText().replaceAll("\\.(zip|wsdl)$", "") + target.ending);
        // byte for byte means that nothing becomes another
        rewriting.setDisable(form == Form.AS_FETCHED);
    }

    private void write() {
        if (out.getText().isBlank()) {
            return;
        }
        try {
            Rewriting chosen = form == Form.AS_FETCHED
                    ? Rewriting.of(a -> a)
                    : Rewriting.of(contract.contract(), readdress(), List.of(namespace.getText()), service.getText());
            desk.contracts().export(contract, Path.of(out.getText().strip()), form, chosen);
            done.run();
        } catch (Problem problem) {
            desk.tell(problem);
        }
    }

    /** @throws Problem when the port is no number of one, or the protocol none of an address */
    private Readdress readdress() {
        Optional<Integer> port = given(number).map(digits -> {
            if (!digits.matches("\\d{1,5}") || Integer.parseInt(digits) > 65_535) {
                throw Problem.input("“" + digits + "” is no port", null, "Give a number up to 65535.");
            }
            return Integer.valueOf(digits);
        });
        Optional<String> scheme = given(protocol);
        if (scheme.filter(s -> !s.matches("https?")).isPresent()) {
            throw Problem.input(
                    "“" + scheme.get() + "” is no protocol of an address here", null, "Give http or https.");
        }
        return new Readdress(given(host), port, given(path), scheme);
    }

    private static Optional<String> given(TextField field) {
        return Optional.of(field.getText().strip()).filter(t -> !t.isEmpty());
    }
}
