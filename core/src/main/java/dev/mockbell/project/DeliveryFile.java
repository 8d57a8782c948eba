package dev.mockbell.project;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.choice.Choice;
import dev.mockbell.request.Delivery;
import dev.mockbell.request.PartText;
import dev.mockbell.soap.Addressing;
import dev.mockbell.wire.Framing;
import java.util.ArrayList;
import java.util.List;

/** How a case is delivered, and the files that go with it, as YAML; what is as usual is left out. */
final class DeliveryFile {
    private DeliveryFile() {}

    static Delivery read(JsonNode d) {
        Delivery usual = Delivery.USUAL;
        return new Delivery(
                d.path("endpoint").asText(""),
                Choice.of(Addressing.class, d.path("addressing").asText(""), usual.addressing()),
                d.path("replyTo").asText(""),
                d.path("charset").asText(usual.charset()),
                Choice.of(Delivery.Compression.class, d.path("compress").asText(""), usual.compression()),
                new Framing(
                        d.path("chunked").asBoolean(false),
                        d.path("expectContinue").asBoolean(false)),
                d.path("follow").asBoolean(false),
                d.path("ownConnection").asBoolean(false),
                d.path("inlineKilobytes").asInt(0),
                new Delivery.Waiting(
                        d.path("connectSeconds").asDouble(0),
                        d.path("answerSeconds").asDouble(0),
                        d.path("wholeSeconds").asDouble(0)));
    }

    static void write(Delivery delivery, ObjectNode node) {
        if (delivery.equals(Delivery.USUAL)) {
            return;
        }
        ObjectNode d = node.putObject("delivery");
        Delivery usual = Delivery.USUAL;
        text(d, "endpoint", delivery.endpoint(), usual.endpoint());
        text(d, "addressing", delivery.addressing().code(), usual.addressing().code());
        text(d, "replyTo", delivery.replyTo(), usual.replyTo());
        text(d, "charset", delivery.charset(), usual.charset());
        text(d, "compress", delivery.compression().code(), usual.compression().code());
        flag(d, "chunked", delivery.framing().chunked());
        flag(d, "expectContinue", delivery.framing().expectsContinue());
        flag(d, "follow", delivery.follows());
        flag(d, "ownConnection", delivery.ownConnection());
        if (delivery.inlineKilobytes() > 0) {
            d.put("inlineKilobytes", delivery.inlineKilobytes());
        }
        seconds(d, "connectSeconds", delivery.waiting().connect());
        seconds(d, "answerSeconds", delivery.waiting().answer());
        seconds(d, "wholeSeconds", delivery.waiting().whole());
    }

    private static void seconds(ObjectNode node, String key, double value) {
        if (value > 0) {
            node.put(key, value);
        }
    }

    private static void text(ObjectNode node, String key, String value, String usual) {
        if (!value.equals(usual)) {
            node.put(key, value);
        }
    }

    private static void flag(ObjectNode node, String key, boolean value) {
        if (value) {
            node.put(key, true);
        }
    }

    static List<PartText> parts(JsonNode list) {
        List<PartText> parts = new ArrayList<>();
        list.forEach(p -> parts.add(new PartText(
                p.path("id").asText(), p.path("file").asText(), p.path("type").asText(""))));
        return List.copyOf(parts);
    }

    static void write(List<PartText> parts, ObjectNode node) {
        if (parts.isEmpty()) {
            return;
        }
        ArrayNode list = node.putArray("parts");
        for (PartText part : parts) {
            ObjectNode one = list.addObject();
            one.put("id", part.id());
            one.put("file", part.file());
            text(one, "type", part.type(), "");
        }
    }
}
