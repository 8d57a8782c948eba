package dev.mockbell.desktop.view.call;

import dev.mockbell.access.Profile;
import dev.mockbell.desktop.model.SecurityModel;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Form;
import dev.mockbell.project.ProjectBench;
import dev.mockbell.security.Token;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/** By which security profile a case is called, and what is in it. */
final class SecurityFace extends VBox {
    private final SecurityModel model;
    private final FlowPane picks = new FlowPane(7, 6);
    private final Form rows = new Form();
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
                model.current().map(Profile::trusted));
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
        if (!model.demanded().isEmpty()) {
            Button demanded = Parts.button(
                    "+ As the contract demands",
                    "Make a profile of what its policy asks for: " + String.join(", ", model.demanded()),
                    () -> act(model::addDemanded),
                    "quiet");
            demanded.setId("add-demanded");
            picks.getChildren().add(demanded);
        }
        rows.clear();
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
        rows.heading("The profile");
        TextField name = Form.field("profile-name", profile.name(), "Name");
        Form.onEnd(name, () -> {
            if (model.rename(profile, name.getText())) {
                show();
            } else {
                name.setText(profile.name());
            }
        });
        rows.row("Name", name, Form.link("Remove", "Take this profile away", () -> act(() -> model.remove(profile))));
        usedBy(profile);
        login(profile);
        new ProtectionRows(rows, profile, (named, change) -> edit(named, p -> p.with(change.apply(p.message()))))
                .show();
        own(profile);
        rows.heading("Which servers are trusted, beside those that this machine trusts");
        trusted(profile);
        via(profile);
    }

    private void usedBy(Profile profile) {
        boolean usual = model.byEnvironment().equals(profile.name());
        Label where = Parts.text(
                usual ? "all calls to this endpoint in " + model.environment() : "the cases that pick it",
                "table-text");
        Button other = usual
                ? Form.link("Cases alone", "Take it from the endpoint", () -> act(() -> model.pickForEnvironment("")))
                : Form.link(
                        "The endpoint too",
                        "Whatever goes to this endpoint in " + model.environment() + " goes by it",
                        () -> act(() -> model.pickForEnvironment(profile.name())));
        rows.row("Used by", where, other);
    }

    /** Changes the profile of a name, and shows it anew. */
    private void edit(String name, UnaryOperator<Profile> change) {
        act(() -> model.edit(name, change));
    }

    private Consumer<String> keeping(Profile profile, java.util.function.BiFunction<Profile, String, Profile> change) {
        return text -> model.edit(profile.name(), p -> change.apply(p, text));
    }

    private void login(Profile profile) {
        rows.heading("Who calls");
        Profile.Who login = profile.login();
        rows.choice(
                "Login",
                "profile-way",
                Profile.Way.values(),
                login.way(),
                way -> edit(
                        profile.name(),
                        p -> p.with(
                                new Profile.Who(way, p.login().user(), p.login().secret()))));
        boolean token = profile.message().token() != Token.NONE;
        boolean named = token || login.way() == Profile.Way.WHEN_ASKED || login.way() == Profile.Way.BASIC;
        if (named) {
            rows.text(
                    "User",
                    "profile-user",
                    login.user(),
                    "anna",
                    keeping(
                            profile,
                            (p, t) -> p.with(new Profile.Who(
                                    p.login().way(), t, p.login().secret()))));
        }
        if (token || login.way() != Profile.Way.NONE) {
            rows.secret(named ? "Password" : "Token", "profile-secret", login.secret(), typed -> {
                String kept = model.secret(profile, named ? "password" : "token", typed);
                edit(
                        profile.name(),
                        p -> p.with(new Profile.Who(p.login().way(), p.login().user(), kept)));
            });
        }
    }

    private void own(Profile profile) {
        rows.heading("Own certificate (TLS, signature, decryption)");
        rows.file(
                "File",
                "profile-client",
                profile.own().file(),
                "PKCS#12, JKS or PEM; a file of this machine is kept as a secret",
                keeping(profile, (p, t) -> p.with(new Profile.Own(t, p.own().password()))),
                f -> {
                    String kept = model.secret(profile, "certificate", f.getAbsolutePath());
                    edit(
                            profile.name(),
                            p -> p.with(new Profile.Own(kept, p.own().password())));
                });
        if (!profile.own().file().isEmpty()) {
            rows.secret("Password", "profile-client-password", profile.own().password(), typed -> {
                String kept = model.secret(profile, "certificate-password", typed);
                edit(profile.name(), p -> p.with(new Profile.Own(p.own().file(), kept)));
            });
        }
    }

    private void trusted(Profile profile) {
        for (String fingerprint : profile.trusted().fingerprints()) {
            Label value = Parts.text(fingerprint, "mono", "table-text");
            Parts.tip(value, fingerprint);
            rows.row(
                    "Certificate",
                    value,
                    Form.link(
                            "Remove",
                            "Trust it no more",
                            () -> edit(profile.name(), p -> {
                                List<String> left = without(p.trusted().fingerprints(), fingerprint);
                                return p.with(
                                        new Profile.Trusted(left, p.trusted().authorities()));
                            })));
        }
        TextField one = Form.field("profile-trust", "", "SHA-256 of a certificate");
        one.setOnAction(e -> {
            if (!one.getText().isBlank() && model.trust(profile, one.getText())) {
                show();
            }
        });
        rows.row("+ Certificate", one);
        for (String authority : profile.trusted().authorities()) {
            rows.row(
                    "Authority",
                    Parts.text(authority, "mono", "table-text"),
                    Form.link(
                            "Remove",
                            "Trust it no more",
                            () -> edit(profile.name(), p -> {
                                List<String> left = without(p.trusted().authorities(), authority);
                                return p.with(new Profile.Trusted(p.trusted().fingerprints(), left));
                            })));
        }
        TextField authority = Form.field("profile-authority", "", "File of the project, PEM or DER");
        authority.setOnAction(e -> {
            if (!authority.getText().isBlank()) {
                String file = authority.getText().strip();
                edit(profile.name(), p -> {
                    List<String> more = new ArrayList<>(p.trusted().authorities());
                    more.add(file);
                    return p.with(new Profile.Trusted(p.trusted().fingerprints(), more));
                });
            }
        });
        rows.row("+ Authority", authority);
    }

    private static List<String> without(List<String> all, String one) {
        List<String> left = new ArrayList<>(all);
        left.remove(one);
        return left;
    }

    private void via(Profile profile) {
        rows.heading("The proxy on the way");
        Profile.Via via = profile.via();
        rows.text(
                "Address",
                "profile-proxy",
                via.address(),
                "as usual; host:port or socks://host:port",
                t -> edit(
                        profile.name(),
                        p -> p.with(new Profile.Via(t, p.via().user(), p.via().secret()))));
        if (!via.address().isEmpty()) {
            rows.text(
                    "User",
                    "profile-proxy-user",
                    via.user(),
                    "nobody logs in",
                    t -> edit(
                            profile.name(),
                            p -> p.with(new Profile.Via(
                                    p.via().address(), t, p.via().secret()))));
        }
        if (!via.address().isEmpty() && !via.user().isEmpty()) {
            rows.secret("Password", "profile-proxy-secret", via.secret(), typed -> {
                String kept = model.secret(profile, "proxy-password", typed);
                edit(
                        profile.name(),
                        p -> p.with(new Profile.Via(p.via().address(), p.via().user(), kept)));
            });
        }
    }
}
