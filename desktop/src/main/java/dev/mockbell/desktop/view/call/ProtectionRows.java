package dev.mockbell.desktop.view.call;

import dev.mockbell.access.Profile;
import dev.mockbell.access.Protection;
import dev.mockbell.desktop.view.shared.Form;
import dev.mockbell.security.Cipher;
import dev.mockbell.security.KeyName;
import dev.mockbell.security.MessageSecurity.Addressee;
import dev.mockbell.security.Token;
import java.util.Arrays;
import java.util.List;
import java.util.function.BiConsumer;
import java.util.function.UnaryOperator;

/** What a profile has messages carry by WS-Security, as rows of a form. */
final class ProtectionRows {
    private final Form form;
    private final Profile profile;
    private final BiConsumer<String, UnaryOperator<Protection>> edit;

    /** @param edit changes the protection of the profile of a name, and shows it anew */
    ProtectionRows(Form form, Profile profile, BiConsumer<String, UnaryOperator<Protection>> edit) {
        this.form = form;
        this.profile = profile;
        this.edit = edit;
    }

    private void change(UnaryOperator<Protection> change) {
        edit.accept(profile.name(), change);
    }

    void show() {
        Protection message = profile.message();
        form.heading("What the message carries (WS-Security)");
        form.choice("UsernameToken", "profile-token", Token.values(), message.token(), t -> change(p -> p.with(t)));
        form.number(
                "Timestamp",
                "profile-life",
                message.life(),
                "left out; seconds that it lives",
                seconds -> change(p -> p.living(seconds)));
        signature(message);
        encryption(message);
        if (message.isOnRequests()) {
            Addressee addressee = message.addressee();
            form.text(
                    "For (actor, role)",
                    "profile-actor",
                    addressee.actor(),
                    "the one that the message comes to last",
                    t -> change(p -> p.with(new Addressee(t, addressee.mustUnderstand()))));
            form.toggle(
                    "Must understand",
                    "profile-must-understand",
                    "who cannot use it must refuse the message",
                    addressee.mustUnderstand(),
                    on -> change(p -> p.with(new Addressee(addressee.actor(), on))));
        }
        form.heading("What the answer must carry");
        form.toggle(
                "Answers",
                "profile-check-answers",
                "signed by the service; decrypted by the own certificate",
                message.checksAnswers(),
                on -> change(p -> p.facing(p.serviceCertificate(), on)));
        if (message.checksAnswers() || message.encryption().name() != KeyName.NONE) {
            form.text(
                    "Service's certificate",
                    "profile-service",
                    message.serviceCertificate(),
                    "File of the project, PEM or DER",
                    t -> change(p -> p.facing(t, p.checksAnswers())));
        }
    }

    private void signature(Protection message) {
        Protection.Signature now = message.signature();
        form.choice(
                "Signature",
                "profile-signature",
                KeyName.values(),
                now.name(),
                name -> change(p -> p.with(new Protection.Signature(name, now.headers()))));
        if (now.name() != KeyName.NONE) {
            form.text(
                    "signs " + (message.life() > 0 ? "body, timestamp" : "the body") + ", and",
                    "profile-signed-headers",
                    String.join(" ", now.headers()),
                    "names of header blocks, * for all",
                    t -> change(p -> p.with(new Protection.Signature(now.name(), words(t)))));
        }
    }

    private static List<String> words(String text) {
        return Arrays.stream(text.split("[\\s,]+")).filter(w -> !w.isEmpty()).toList();
    }

    private void encryption(Protection message) {
        Protection.Encryption now = message.encryption();
        form.choice(
                "Encryption",
                "profile-encryption",
                KeyName.values(),
                now.name(),
                name -> change(p -> p.with(new Protection.Encryption(name, now.cipher()))));
        if (now.name() != KeyName.NONE) {
            form.choice(
                    "Cipher",
                    "profile-cipher",
                    Cipher.values(),
                    now.cipher(),
                    cipher -> change(p -> p.with(new Protection.Encryption(now.name(), cipher))));
        }
    }
}
