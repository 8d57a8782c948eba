package dev.mockbell.project;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.choice.Choice;
import dev.mockbell.mock.AskedLogin;
import dev.mockbell.mock.Conduct;
import dev.mockbell.mock.MockLimits;
import dev.mockbell.mock.MockTls;
import dev.mockbell.mock.RequestRules;
import java.time.Duration;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/** How a mock behaves beside its answers, in its file; what is as usual is left out. */
final class ConductFile {
    private ConductFile() {}

    static Conduct read(JsonNode node) {
        Conduct usual = Conduct.USUAL;
        return new Conduct(
                texts(node.path("remembered")),
                names(node.path("apart")),
                node.path("caller").asText(""),
                node.path("seed").asLong(usual.seed()),
                names(node.path("concealed")),
                texts(node.path("paths")),
                node.path("forwardedHost").asBoolean(false),
                rules(node.path("checks")),
                limits(node.path("limits")),
                tls(node.path("tls")),
                node.path("stopAfter").asLong(0));
    }

    private static Map<String, String> texts(JsonNode node) {
        Map<String, String> all = new LinkedHashMap<>();
        node.properties().forEach(e -> all.put(e.getKey(), e.getValue().asText()));
        return all;
    }

    private static Set<String> names(JsonNode node) {
        Set<String> all = new TreeSet<>();
        node.forEach(n -> all.add(n.asText()));
        return all;
    }

    private static RequestRules rules(JsonNode node) {
        RequestRules usual = RequestRules.USUAL;
        return new RequestRules(
                node.path("contentType").asBoolean(usual.contentType()),
                node.path("action").asBoolean(usual.action()),
                node.path("mustUnderstand").asBoolean(usual.mustUnderstand()),
                node.path("schema").asBoolean(usual.schema()),
                login(node.path("login")));
    }

    private static AskedLogin login(JsonNode node) {
        return new AskedLogin(
                Choice.of(AskedLogin.Way.class, node.path("way").asText(""), AskedLogin.Way.NONE),
                node.path("user").asText(""),
                node.path("password").asText(""),
                node.path("signed").asBoolean(false),
                node.path("signers").asText(""));
    }

    private static MockTls tls(JsonNode node) {
        return new MockTls(
                node.path("on").asBoolean(false),
                node.path("key").asText(""),
                node.path("password").asText(""),
                node.path("asksClients").asBoolean(false),
                node.path("authorities").asText(""));
    }

    private static MockLimits limits(JsonNode node) {
        MockLimits usual = MockLimits.USUAL;
        return new MockLimits(
                node.path("bodyBytes").asLong(usual.body()),
                node.path("depth").asInt(usual.depth()),
                node.path("attributes").asInt(usual.attributes()),
                node.path("connections").asInt(usual.connections()),
                node.path("requests").asInt(usual.requests()),
                node.path("heldBytes").asLong(usual.held()),
                Duration.ofMillis(node.path("idleMillis").asLong(usual.idle().toMillis())),
                Duration.ofMillis(node.path("wholeMillis").asLong(usual.whole().toMillis())));
    }

    static void write(Conduct conduct, ObjectNode node) {
        Conduct usual = Conduct.USUAL;
        texts(node, "remembered", conduct.remembered());
        names(node, "apart", conduct.apart());
        if (!conduct.caller().isBlank()) {
            node.put("caller", conduct.caller());
        }
        if (conduct.seed() != usual.seed()) {
            node.put("seed", conduct.seed());
        }
        names(node, "concealed", conduct.concealed());
        texts(node, "paths", conduct.paths());
        if (conduct.byForwarded()) {
            node.put("forwardedHost", true);
        }
        RequestRules rules = conduct.rules();
        if (!rules.equals(usual.rules())) {
            ObjectNode checks = node.putObject("checks");
            flag(checks, "contentType", rules.contentType(), usual.rules().contentType());
            flag(checks, "action", rules.action(), usual.rules().action());
            flag(checks, "mustUnderstand", rules.mustUnderstand(), usual.rules().mustUnderstand());
            flag(checks, "schema", rules.schema(), usual.rules().schema());
            write(rules.login(), checks);
        }
        write(conduct.tls(), node);
        number(node, "stopAfter", conduct.stopAfter(), 0);
        MockLimits limits = conduct.limits();
        if (!limits.equals(usual.limits())) {
            ObjectNode form = node.putObject("limits");
            number(form, "bodyBytes", limits.body(), usual.limits().body());
            number(form, "depth", limits.depth(), usual.limits().depth());
            number(form, "attributes", limits.attributes(), usual.limits().attributes());
            number(form, "connections", limits.connections(), usual.limits().connections());
            number(form, "requests", limits.requests(), usual.limits().requests());
            number(form, "heldBytes", limits.held(), usual.limits().held());
            number(
                    form,
                    "idleMillis",
                    limits.idle().toMillis(),
                    usual.limits().idle().toMillis());
            number(
                    form,
                    "wholeMillis",
                    limits.whole().toMillis(),
                    usual.limits().whole().toMillis());
        }
    }

    private static void write(AskedLogin login, ObjectNode checks) {
        if (login.equals(AskedLogin.NONE)) {
            return;
        }
        ObjectNode form = checks.putObject("login");
        form.put("way", login.way().code());
        text(form, "user", login.user());
        text(form, "password", login.password());
        flag(form, "signed", login.signed(), false);
        text(form, "signers", login.signers());
    }

    private static void write(MockTls tls, ObjectNode node) {
        if (tls.equals(MockTls.OFF)) {
            return;
        }
        ObjectNode form = node.putObject("tls");
        form.put("on", tls.on());
        text(form, "key", tls.file());
        text(form, "password", tls.password());
        flag(form, "asksClients", tls.asksClients(), false);
        text(form, "authorities", tls.authorities());
    }

    private static void text(ObjectNode node, String key, String value) {
        if (!value.isBlank()) {
            node.put(key, value);
        }
    }

    private static void texts(ObjectNode node, String key, Map<String, String> values) {
        if (!values.isEmpty()) {
            ObjectNode form = node.putObject(key);
            values.forEach(form::put);
        }
    }

    private static void names(ObjectNode node, String key, Set<String> values) {
        if (!values.isEmpty()) {
            ArrayNode form = node.putArray(key);
            values.forEach(form::add);
        }
    }

    private static void flag(ObjectNode node, String key, boolean value, boolean usual) {
        if (value != usual) {
            node.put(key, value);
        }
    }

    private static void number(ObjectNode node, String key, long value, long usual) {
        if (value != usual) {
            node.put(key, value);
        }
    }
}
