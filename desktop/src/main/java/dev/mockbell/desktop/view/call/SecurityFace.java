package dev.mockbell.desktop.view.call;

import dev.mockbell.access.Profile;
import dev.mockbell.desktop.model.SecurityModel;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.project.ProjectBench;
import dev.mockbell.security.MessageSecurity.KeyName;
import dev.mockbell.security.MessageSecurity.Token;
import java.io.File;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Function;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.PasswordField;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;
import javafx.util.StringConverter;

/** By which security profile a case is called, and what is in it. */
final class SecurityFace extends VBox {
    private static final double KEY = 150;

    private final SecurityModel model;
    private final FlowPane picks = new FlowPane(7, 6);
    private final VBox rows = new VBox();
    private List<Object> shown = List.of();

    SecurityFace(SecurityModel model) {
        this.model = model;
        setId("security-face");
        picks.setPadding(new Insets(10, 12, 10, 12));
        picks.setAlignment(Pos.CENTER_LEFT);
        ScrollPane scroll = new ScrollPane(rows);
        scroll.setFitToWidth(true);
        VBox.setVgrow(scroll, Priority.ALWAYS);
        getChildren().addAll(picks, scroll);
        model.onChange(this::keepUp);
    }

    /** Profiles are made, picked and trusted elsewhere too; a value that is typed here does not lay the face out anew. */
    private void keepUp() {
        if (!shown.equals(seen())) {
            show();
        }
    }

    private List<Object> seen() {
        return List.of(
                model.picked(),
                model.byEnvironment(),
                model.environment(),
                model.profiles().stream().map(Profile::name).toList(),
                model.current().map(Profile::fingerprints),
                model.current().map(Profile::authorities));
    }

    /** Shows what is so now. */
    void show() {
        shown = seen();
        picks.getChildren().setAll(Parts.text("this case uses", "second", "table-text"));
        String usual = model.byEnvironment();
        chip(
                "",
                "as in " + model.environment() + (usual.isEmpty() ? " (nobody)" : " (" + usual + ")"),
                "What the environment says for this endpoint");
        model.profiles().forEach(p -> chip(p.name(), p.name(), "Call by this profile"));
        chip(ProjectBench.NOBODY, "nobody", "Log in nowhere, prove nothing");
        Button more = Parts.button(
                "+ New profile", "Make a profile and call this case by it", () -> act(model::add), "quiet");
        more.setId("add-profile");
        picks.getChildren().add(more);
        rows.getChildren().clear();
        Optional<Profile> current = model.current();
        if (current.isEmpty()) {
            rows.getChildren()
                    .add(Parts.empty(
                            "Nobody logs in, and the certificates that this machine trusts are trusted. A profile says"
                                    + " otherwise."));
        }
        current.ifPresent(this::rows);
    }

    private void act(Runnable action) {
        action.run();
        show();
    }

    private void chip(String name, String words, String tip) {
        Button chip = Parts.button(words, tip, () -> act(() -> model.pick(name)), "chip");
        chip.getStyleClass().remove("button");
        chip.setId("profile-" + (name.isEmpty() ? "environment" : name));
        Parts.classed(chip, "here", model.picked().equals(name));
        picks.getChildren().add(chip);
    }

    private void rows(Profile profile) {
        heading("The profile");
        TextField name = field("profile-name", profile.name(), "Name");
        onEnd(name, () -> {
            if (model.rename(profile, name.getText())) {
                show();
            } else {
                name.setText(profile.name());
            }
        });
        row("Name", name, link("Remove", "Take this profile away", () -> act(() -> model.remove(profile))));
        boolean usual = model.byEnvironment().equals(profile.name());
        Label where = Parts.text(
                usual ? "all calls to this endpoint in " + model.environment() : "the cases that pick it",
                "table-text");
        row(
                "Used by",
                where,
                usual
                        ? link(
                                "Cases alone",
                                "Take it from the endpoint",
                                () -> act(() -> model.pickForEnvironment("")))
                        : link(
                                "The endpoint too",
                                "Whatever goes to this endpoint in " + model.environment() + " goes by it",
                                () -> act(() -> model.pickForEnvironment(profile.name()))));
        heading("Who calls");
        choice(
                "Login",
                "profile-way",
                Profile.Way.values(),
                Profile.Way::title,
                profile.way(),
                way -> model.edit(profile.name(), p -> p.with(way, p.user(), p.secret())));
        boolean token = profile.token() != Token.NONE;
        boolean named = token || profile.way() == Profile.Way.WHEN_ASKED || profile.way() == Profile.Way.BASIC;
        if (named) {
            text(
                    "User",
                    "profile-user",
                    profile.user(),
                    "anna",
                    t -> model.edit(profile.name(), p -> p.with(p.way(), t, p.secret())));
        }
        if (token || profile.way() != Profile.Way.NONE) {
            secret(named ? "Password" : "Token", "profile-secret", profile.secret(), typed -> {
                String kept = model.secret(profile, named ? "password" : "token", typed);
                model.edit(profile.name(), p -> p.with(p.way(), p.user(), kept));
            });
        }
        heading("What the message carries (WS-Security)");
        choice(
                "UsernameToken",
                "profile-token",
                Token.values(),
                Token::title,
                profile.token(),
                kind -> model.edit(profile.name(), p -> p.carrying(kind, p.life(), p.signed())));
        text(
                "Timestamp",
                "profile-life",
                profile.life() > 0 ? String.valueOf(profile.life()) : "",
                "left out; seconds that it lives",
                t -> {
                    boolean number = t.matches("[0-9]{1,7}");
                    if (number || t.isEmpty()) {
                        model.edit(
                                profile.name(),
                                p -> p.carrying(p.token(), number ? Integer.parseInt(t) : 0, p.signed()));
                    }
                    show();
                });
        choice(
                "Signature",
                "profile-signature",
                KeyName.values(),
                KeyName::title,
                profile.signed(),
                kind -> model.edit(profile.name(), p -> p.carrying(p.token(), p.life(), kind)));
        if (profile.signed() != KeyName.NONE) {
            row(
                    "signs",
                    Parts.text(
                            (profile.life() > 0 ? "body and timestamp" : "body") + ", by the own certificate below",
                            "table-text"));
        }
        heading("Own certificate (TLS, signature)");
        file(
                "File",
                "profile-client",
                profile.clientCertificate(),
                "PKCS#12, JKS or PEM; a file of this machine is kept as a secret",
                t -> model.edit(profile.name(), p -> p.withClient(t, p.clientPassword())),
                f -> {
                    String kept = model.secret(profile, "certificate", f.getAbsolutePath());
                    model.edit(profile.name(), p -> p.withClient(kept, p.clientPassword()));
                });
        if (!profile.clientCertificate().isEmpty()) {
            secret("Password", "profile-client-password", profile.clientPassword(), typed -> {
                String kept = model.secret(profile, "certificate-password", typed);
                model.edit(profile.name(), p -> p.withClient(p.clientCertificate(), kept));
            });
        }
        heading("Which servers are trusted, beside those that this machine trusts");
        trusted(profile);
    }

    private void trusted(Profile profile) {
        for (String fingerprint : profile.fingerprints()) {
            List<String> left = new ArrayList<>(profile.fingerprints());
            left.remove(fingerprint);
            Label value = Parts.text(fingerprint, "mono", "table-text");
            Parts.tip(value, fingerprint);
            row(
                    "Certificate",
                    value,
                    link(
                            "Remove",
                            "Trust it no more",
                            () -> act(() -> model.edit(profile.name(), p -> p.withTrust(left, p.authorities())))));
        }
        TextField one = field("profile-trust", "", "SHA-256 of a certificate");
        one.setOnAction(e -> {
            if (!one.getText().isBlank() && model.trust(profile, one.getText())) {
                show();
            }
        });
        row("+ Certificate", one);
        for (String authority : profile.authorities()) {
            List<String> left = new ArrayList<>(profile.authorities());
            left.remove(authority);
            row(
                    "Authority",
                    Parts.text(authority, "mono", "table-text"),
                    link(
                            "Remove",
                            "Trust it no more",
                            () -> act(() -> model.edit(profile.name(), p -> p.withTrust(p.fingerprints(), left)))));
        }
        TextField authority = field("profile-authority", "", "File of the project, PEM or DER");
        authority.setOnAction(e -> {
            if (!authority.getText().isBlank()) {
                List<String> more = new ArrayList<>(profile.authorities());
                more.add(authority.getText().strip());
                act(() -> model.edit(profile.name(), p -> p.withTrust(p.fingerprints(), more)));
            }
        });
        row("+ Authority", authority);
    }

    private void heading(String words) {
        HBox head = new HBox(Parts.text(words, "strong", "table-text", "second"));
        head.getStyleClass().addAll("panel-head", "inner");
        head.setPadding(new Insets(7, 12, 5, 12));
        rows.getChildren().add(head);
    }

    private void row(String key, Node value, Node... more) {
        Label name = Parts.text(key, "second", "table-text");
        name.setMinWidth(KEY);
        HBox row = new HBox(8, name, value);
        if (value instanceof TextField) {
            HBox.setHgrow(value, Priority.ALWAYS);
        }
        if (more.length > 0 && !(value instanceof TextField)) {
            row.getChildren().add(Parts.spring());
        }
        row.getChildren().addAll(more);
        row.setAlignment(Pos.CENTER_LEFT);
        row.setPadding(new Insets(4, 12, 4, 12));
        rows.getChildren().add(row);
    }

    private static TextField field(String id, String text, String prompt) {
        TextField field = new TextField(text);
        field.setId(id);
        field.setPromptText(prompt);
        field.getStyleClass().add("value");
        return field;
    }

    private static Button link(String words, String tip, Runnable action) {
        Button link = Parts.link(words, tip, action);
        link.getStyleClass().add("table-text");
        link.setMinWidth(USE_PREF_SIZE);
        return link;
    }

    /** What is typed counts on Enter, and when the keyboard goes elsewhere. */
    private static void onEnd(TextField field, Runnable action) {
        String[] last = {field.getText()};
        Runnable once = () -> {
            if (!field.getText().equals(last[0])) {
                last[0] = field.getText();
                action.run();
            }
        };
        field.setOnAction(e -> once.run());
        field.focusedProperty().addListener((o, was, now) -> {
            if (was && !now) {
                once.run();
            }
        });
    }

    private void text(String key, String id, String value, String prompt, Consumer<String> keep) {
        TextField field = field(id, value, prompt);
        onEnd(field, () -> keep.accept(field.getText().strip()));
        row(key, field);
    }

    /** What is typed is kept on this machine; the profile holds the name that stands for it. */
    private void secret(String key, String id, String standing, Consumer<String> keep) {
        PasswordField field = new PasswordField();
        field.setId(id);
        field.getStyleClass().add("value");
        field.setPromptText(standing.isEmpty() ? "kept on this machine alone" : standing + "; type to change it");
        onEnd(field, () -> {
            if (!field.getText().isEmpty()) {
                String typed = field.getText();
                field.clear();
                keep.accept(typed);
                show();
            }
        });
        row(key, field);
    }

    private void file(
            String key, String id, String value, String prompt, Consumer<String> typed, Consumer<File> chosen) {
        TextField field = field(id, value, prompt);
        onEnd(field, () -> typed.accept(field.getText().strip()));
        row(key, field, link("Choose…", "Choose a file of this machine", () -> {
            File file = new FileChooser().showOpenDialog(getScene().getWindow());
            if (file != null) {
                act(() -> chosen.accept(file));
            }
        }));
    }

    private <T> void choice(String key, String id, T[] all, Function<T, String> title, T now, Consumer<T> choose) {
        ComboBox<T> box = new ComboBox<>();
        box.getItems().setAll(List.of(all));
        box.setConverter(new StringConverter<>() {
            @Override
            public String toString(T value) {
                return value == null ? "" : title.apply(value);
            }

            @Override
            public T fromString(String text) {
                return null;
            }
        });
        box.setValue(now);
        box.setId(id);
        box.setOnAction(e -> act(() -> choose.accept(box.getValue())));
        row(key, box);
    }
}
