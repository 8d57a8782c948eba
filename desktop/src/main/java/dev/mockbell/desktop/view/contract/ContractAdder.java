package dev.mockbell.desktop.view.contract;

import dev.mockbell.desktop.model.ContractsModel;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.wire.Login;
import java.io.File;
import java.util.List;
import java.util.Optional;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.PasswordField;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;
import javafx.stage.Window;

/** Where a contract is added: an address or a file, one read before, a proxy; and the login that an address asks for. */
final class ContractAdder extends VBox {
    private static final double NAMES = 134;

    private final ContractsModel model;
    private final TextField address = new TextField();
    private final TextField proxy = new TextField();

    /** @param large for the middle of an empty project */
    ContractAdder(ContractsModel model, boolean large) {
        super(12);
        this.model = model;
        setAlignment(large ? Pos.CENTER_LEFT : Pos.TOP_LEFT);
        setMaxWidth(large ? 980 : 720);
        address.setId("contract-address");
        address.setPromptText("http://…?wsdl, a page that lists services, or a file");
        address.setOnAction(e -> add());
        Button file = Parts.button("Choose a file", "Pick a WSDL on this machine", this::chooseFile);
        Button read = Parts.button("Look", "Read what is there (Enter)", this::add, "primary");
        read.setId("contract-add");
        HBox line = new HBox(8, Parts.wide(address), file, read);
        line.setAlignment(Pos.CENTER_LEFT);
        proxy.setId("contract-proxy");
        proxy.setPromptText("as the environment says");
        proxy.setPrefWidth(220);
        HBox way = new HBox(8, Parts.text("Proxy", "second"), proxy, Parts.text("host:port", "third", "small"));
        way.setAlignment(Pos.CENTER_LEFT);
        getChildren().addAll(line, way);
        recent();
        if (!large) {
            HBox under = new HBox();
            getChildren().add(under);
            model.progressProperty()
                    .addListener((o, was, now) -> under.getChildren().setAll(progress(model)));
        }
        model.found().shownProperty().addListener((o, was, now) -> showFound());
        showFound();
    }

    private void showFound() {
        getChildren().removeIf(n -> n instanceof FoundPane);
        if (model.found().shownProperty().get() != null) {
            // under the field, before what was read at other times
            getChildren().add(2, new FoundPane(model.found(), model.project()));
        }
    }

    private void recent() {
        List<String> addresses = model.recent();
        if (addresses.isEmpty()) {
            return;
        }
        VBox list = new VBox(2, Parts.text("Read before", "second", "small"));
        addresses.stream().limit(6).forEach(a -> {
            var link = Parts.link(a, "Read it again", () -> {
                address.setText(a);
                add();
            });
            list.getChildren().add(link);
        });
        getChildren().add(list);
    }

    private void add() {
        if (!address.getText().isBlank()) {
            model.read(address.getText().strip(), proxy.getText().strip());
        }
    }

    private void chooseFile() {
        File chosen = choose(getScene().getWindow());
        if (chosen != null) {
            model.read(chosen.getPath(), "");
        }
    }

    /** Asks for a WSDL on this machine; null for none. */
    static File choose(Window window) {
        FileChooser chooser = new FileChooser();
        chooser.setTitle("Choose a WSDL");
        chooser.getExtensionFilters()
                .addAll(
                        new FileChooser.ExtensionFilter("WSDL", "*.wsdl", "*.xml"),
                        new FileChooser.ExtensionFilter("All files", "*"));
        return chooser.showOpenDialog(window);
    }

    /** What is being read, with the way to stop it; empty while nothing is. */
    static Node progress(ContractsModel model) {
        HBox box = new HBox(10);
        box.setAlignment(Pos.CENTER_LEFT);
        if (!model.progressProperty().get().isEmpty()) {
            Label words = Parts.text(model.progressProperty().get(), "second");
            words.setMinWidth(0);
            Button stop = Parts.button("Stop", "Give up reading", model::stop);
            stop.setMinWidth(USE_PREF_SIZE);
            box.getChildren().addAll(words, stop);
        }
        return box;
    }

    /** Asks for the login that an address wants. */
    static VBox login(ContractsModel model, ContractsModel.LoginQuestion question) {
        TextField user = new TextField();
        user.setId("login-user");
        user.setPromptText("name");
        PasswordField password = new PasswordField();
        password.setId("login-password");
        password.setPromptText("password");
        PasswordField token = new PasswordField();
        token.setId("login-token");
        token.setPromptText("instead of name and password");
        Runnable send = () -> model.answer(Optional.of(
                token.getText().isBlank()
                        ? new Login.WhenAsked(user.getText(), password.getText())
                        : new Login.Bearer(token.getText().strip())));
        List.of(user, password, token).forEach(f -> f.setOnAction(e -> send.run()));
        Button ok = Parts.button("Log in", "Send it to this server alone (Enter)", send, "primary");
        ok.setId("login-send");
        Button no = Parts.button("Give up", "Leave the address", () -> model.answer(Optional.empty()));
        String words = question.again() ? "It refused that login." : "It asks for a login.";
        Label host = Parts.text(
                question.address().getScheme() + "://" + question.address().getAuthority(), "mono");
        VBox box = new VBox(
                10,
                Parts.text(words, "title"),
                host,
                row("Name", user),
                row("Password", password),
                row("Bearer token", token),
                Parts.text("Kept in memory while this contract is read, and nowhere else.", "second", "small"),
                new HBox(8, ok, no));
        box.setPadding(new Insets(16));
        box.setId("login");
        return box;
    }

    /** The name of a row; as wide as all others, so that the fields stand in line. */
    static Label label(String name) {
        Label label = Parts.text(name, "second");
        label.setMinWidth(NAMES);
        label.setMaxWidth(NAMES);
        Parts.tip(label, name);
        return label;
    }

    static HBox row(String name, TextField field) {
        Label label = label(name);
        HBox row = new HBox(8, label, Parts.wide(field));
        row.setAlignment(Pos.CENTER_LEFT);
        return row;
    }
}
