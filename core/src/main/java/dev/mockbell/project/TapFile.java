package dev.mockbell.project;

import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.tap.TapPlan;
import java.net.URI;
import java.util.Optional;

/** A tap or a forward proxy as a YAML tree. */
final class TapFile {
    private TapFile() {}

    /** @throws dev.mockbell.problem.Problem when what it leads to is no address */
    static KeptTap read(String id, ObjectNode node) {
        Optional<URI> target = Optional.of(node.path("forward").asText(""))
                .filter(t -> !t.isBlank())
                .map(TapPlan::target);
        int usual = target.isPresent() ? TapPlan.USUAL_PORT : TapPlan.USUAL_PROXY_PORT;
        return new KeptTap(
                id,
                new TapPlan(
                        node.path("host").asText(TapPlan.LOOPBACK),
                        node.path("port").asInt(usual),
                        target,
                        node.path("tls").asBoolean(false),
                        node.path("opensTls").asBoolean(false)));
    }

    static void write(TapPlan plan, ObjectNode node) {
        plan.target().ifPresent(t -> node.put("forward", t.toString()));
        node.put("host", plan.host());
        node.put("port", plan.port());
        if (plan.tls()) {
            node.put("tls", true);
        }
        if (plan.opens()) {
            node.put("opensTls", true);
        }
    }
}
