package dev.mockbell.desktop.model;

import dev.mockbell.contract.Contract;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.message.MessagePath;
import dev.mockbell.project.ProjectBench;
import dev.mockbell.sample.SampleBuilder;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Step;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.function.Consumer;
import org.w3c.dom.Attr;

/** Where columns of known values can be bound to. */
public final class KnownPaths {
    private final Desk desk;

    public KnownPaths(Desk desk) {
        this.desk = desk;
    }

    /** The paths of the values that the request and the answer of an operation can have, as its contract says. */
    public record Paths(List<String> request, List<String> answer) {}

    /** Hears where columns of known values of a step can be bound to. */
    public void of(Step.Call call, Consumer<Paths> then) {
        ProjectBench bench = desk.bench();
        desk.tasks()
                .run(
                        () -> {
                            Case kept = bench.kept(call.caseReference());
                            Contract contract = bench.contract(kept.contract());
                            var operation = kept.in(contract).operation();
                            return new Paths(
                                    leaves(MessageOutline.ofRequest(contract, operation)),
                                    MessageOutline.ofAnswer(contract, operation)
                                            .map(KnownPaths::leaves)
                                            .orElse(List.of()));
                        },
                        then,
                        problem -> then.accept(new Paths(List.of(), List.of())));
    }

    private static List<String> leaves(MessageOutline outline) {
        String sample = SampleBuilder.text(outline, SampleBuilder.Detail.FULL);
        if (sample.isBlank()) {
            return List.of();
        }
        List<String> paths = new ArrayList<>();
        MessagePath.all(Xml.parse(sample, "sample", XmlLimits.MESSAGE).getDocumentElement())
                .forEach((node, at) -> {
                    boolean value = node instanceof Attr attr
                            ? !"http://www.w3.org/2000/xmlns/".equals(attr.getNamespaceURI())
                            : Xml.children(node).isEmpty();
                    if (value) {
                        paths.add(at);
                    }
                });
        Collections.sort(paths);
        return paths;
    }
}
