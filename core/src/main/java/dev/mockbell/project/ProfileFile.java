package dev.mockbell.project;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.access.Profile;
import dev.mockbell.access.Protection;
import dev.mockbell.choice.Choice;
import dev.mockbell.security.Cipher;
import dev.mockbell.security.KeyName;
import dev.mockbell.security.MessageSecurity.Addressee;
import dev.mockbell.security.Token;
import java.util.ArrayList;
import java.util.List;

/** Security profiles as YAML. */
final class ProfileFile {
    private ProfileFile() {}

    static List<Profile> read(JsonNode list) {
        List<Profile> found = new ArrayList<>();
        list.forEach(p -> found.add(new Profile(
                p.path("name").asText(),
                new Profile.Who(
                        one(p, "login", Profile.Way.NONE),
                        p.path("user").asText(""),
                        p.path("secret").asText("")),
                new Profile.Trusted(texts(p.path("trust")), texts(p.path("authorities"))),
                new Profile.Own(
                        p.path("clientCertificate").asText(""),
                        p.path("clientPassword").asText("")),
                new Profile.Via(
                        p.path("proxy").asText(""),
                        p.path("proxyUser").asText(""),
                        p.path("proxySecret").asText("")),
                message(p))));
        return List.copyOf(found);
    }

    private static Protection message(JsonNode p) {
        return new Protection(
                new Addressee(
                        p.path("actor").asText(""), p.path("mustUnderstand").asBoolean(true)),
                one(p, "usernameToken", Token.NONE),
                p.path("timestampSeconds").asInt(0),
                new Protection.Signature(one(p, "signature", KeyName.NONE), texts(p.path("signedHeaders"))),
                new Protection.Encryption(one(p, "encryption", KeyName.NONE), one(p, "cipher", Cipher.AES256_GCM)),
                p.path("serviceCertificate").asText(""),
                p.path("checkAnswers").asBoolean(false));
    }

    private static <E extends Enum<E> & Choice> E one(JsonNode p, String key, E usual) {
        return Choice.of(usual.getDeclaringClass(), p.path(key).asText(""), usual);
    }

    private static <E extends Enum<E> & Choice> void put(ObjectNode node, String key, E value, E usual) {
        if (value != usual) {
            node.put(key, value.code());
        }
    }

    static void write(List<Profile> profiles, ArrayNode into) {
        for (Profile profile : profiles) {
            ObjectNode node = into.addObject();
            node.put("name", profile.name());
            node.put("login", profile.login().way().code());
            put(node, "user", profile.login().user());
            put(node, "secret", profile.login().secret());
            put(node, "trust", profile.trusted().fingerprints());
            put(node, "authorities", profile.trusted().authorities());
            put(node, "clientCertificate", profile.own().file());
            put(node, "clientPassword", profile.own().password());
            put(node, "proxy", profile.via().address());
            put(node, "proxyUser", profile.via().user());
            put(node, "proxySecret", profile.via().secret());
            write(profile.message(), node);
        }
    }

    private static void write(Protection message, ObjectNode node) {
        put(node, "actor", message.addressee().actor());
        if (!message.addressee().mustUnderstand()) {
            node.put("mustUnderstand", false);
        }
        put(node, "usernameToken", message.token(), Token.NONE);
        if (message.life() > 0) {
            node.put("timestampSeconds", message.life());
        }
        put(node, "signature", message.signature().name(), KeyName.NONE);
        put(node, "signedHeaders", message.signature().headers());
        put(node, "encryption", message.encryption().name(), KeyName.NONE);
        put(node, "cipher", message.encryption().cipher(), Cipher.AES256_GCM);
        put(node, "serviceCertificate", message.serviceCertificate());
        if (message.checksAnswers()) {
            node.put("checkAnswers", true);
        }
    }

    private static void put(ObjectNode node, String key, String value) {
        if (!value.isEmpty()) {
            node.put(key, value);
        }
    }

    private static void put(ObjectNode node, String key, List<String> values) {
        if (!values.isEmpty()) {
            ArrayNode list = node.putArray(key);
            values.forEach(list::add);
        }
    }

    private static List<String> texts(JsonNode list) {
        List<String> found = new ArrayList<>();
        list.forEach(t -> found.add(t.asText()));
        return found;
    }
}
