package dev.mockbell.project;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.access.Profile;
import dev.mockbell.security.MessageSecurity;
import java.util.ArrayList;
import java.util.List;

/** Security profiles as YAML. */
final class ProfileFile {
    private ProfileFile() {}

    static List<Profile> read(JsonNode list) {
        List<Profile> found = new ArrayList<>();
        list.forEach(p -> found.add(new Profile(
                p.path("name").asText(),
                Profile.Way.of(p.path("login").asText("none")),
                p.path("user").asText(""),
                p.path("secret").asText(""),
                texts(p.path("trust")),
                texts(p.path("authorities")),
                p.path("clientCertificate").asText(""),
                p.path("clientPassword").asText(""),
                MessageSecurity.Token.of(p.path("usernameToken").asText("none")),
                p.path("timestampSeconds").asInt(0),
                MessageSecurity.KeyName.of(p.path("signature").asText("none")))));
        return List.copyOf(found);
    }

    static void write(List<Profile> profiles, ArrayNode into) {
        for (Profile profile : profiles) {
            ObjectNode node = into.addObject();
            node.put("name", profile.name());
            node.put("login", profile.way().code());
            put(node, "user", profile.user());
            put(node, "secret", profile.secret());
            put(node, "trust", profile.fingerprints());
            put(node, "authorities", profile.authorities());
            put(node, "clientCertificate", profile.clientCertificate());
            put(node, "clientPassword", profile.clientPassword());
            if (profile.token() != MessageSecurity.Token.NONE) {
                node.put("usernameToken", profile.token().code());
            }
            if (profile.life() > 0) {
                node.put("timestampSeconds", profile.life());
            }
            if (profile.signed() != MessageSecurity.KeyName.NONE) {
                node.put("signature", profile.signed().code());
            }
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
