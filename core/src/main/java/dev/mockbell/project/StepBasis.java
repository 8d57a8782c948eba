package dev.mockbell.project;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.compare.Baseline;
import dev.mockbell.contract.SourceDocument;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Step;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.function.Function;

/**
 * What the result of a step rests upon, in a few characters that become others when the step, its case or the contract do. Two
 * results with the same basis that are not alike are the service's doing.
 */
final class StepBasis implements Function<Step, String> {
    private static final int LENGTH = 16;

    private final Project project;
    private final ObjectMapper json = new ObjectMapper();
    /** Contracts are large and cases share them. */
    private final Map<String, String> contracts = new HashMap<>();

    StepBasis(Project project) {
        this.project = project;
    }

    /** Empty for a step that calls nothing that is there. */
    @Override
    public String apply(Step step) {
        return step.sends().flatMap(project::kept).map(kept -> of(step, kept)).orElse("");
    }

    private String of(Step step, Case kept) {
        ObjectNode node = json.createObjectNode();
        StepFile.write(List.of(step), node.putArray("step"));
        // the rows stand in a file of their own
        if (step instanceof Step.Call call) {
            call.known().ifPresent(k -> node.put("rows", k.table().rows().toString()));
        }
        CaseFile.write(kept, node.putObject("case"));
        node.put("body", kept.body());
        node.put("baseline", kept.baseline().map(Baseline::xml).orElse(""));
        node.put("contract", contracts.computeIfAbsent(kept.contract(), this::contract));
        return digest(node.toString());
    }

    private String contract(String name) {
        return project.contract(name)
                .map(k -> String.join(
                        " ",
                        k.contract().documents().stream()
                                .map(SourceDocument::sha256)
                                .toList()))
                .orElse("");
    }

    private static String digest(String text) {
        try {
            byte[] bytes = MessageDigest.getInstance("SHA-256").digest(text.getBytes(StandardCharsets.UTF_8));
            return HexFormat.of().formatHex(bytes).substring(0, LENGTH);
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java has SHA-256", e);
        }
    }
}
