package dev.mockbell.contract;

import dev.mockbell.contract.Finding.Severity;
import dev.mockbell.profile.BasicProfile;
import dev.mockbell.profile.Breach;
import dev.mockbell.profile.Description;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.schema.Schemas;
import dev.mockbell.schema.UnfilledWildcards;
import dev.mockbell.task.StopSignal;
import dev.mockbell.xml.Place;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import javax.xml.namespace.QName;

/** Holds a contract that was read against the Basic Profile, and its messages against what can be made of them. */
final class Judgement {
    /** Smallest instances above this are not built. */
    private static final long LARGE = 50_000;

    private final Findings findings;
    private final StopSignal stop;

    Judgement(Findings findings, StopSignal stop) {
        this.findings = findings;
        this.stop = stop;
    }

    void judge(DocumentSet documents, Schemas schemas, ReadServices read) {
        List<Description.Source> sources = new ArrayList<>();
        for (SourceDocument d : documents.documents()) {
            sources.add(new Description.Source(d.uri(), d.bytes(), d.contentType()));
        }
        Description description = new Description(documents.definitions(), documents.schemas(), sources, schemas);
        for (Breach breach : BasicProfile.judge(description, stop)) {
            findings.add(
                    breach.must() ? Severity.WARNING : Severity.NOTE,
                    breach.rule(),
                    breach.text(),
                    breach.advice(),
                    breach.place());
        }
        UnfilledWildcards wildcards = new UnfilledWildcards(schemas);
        Stream.concat(
                        read.services().stream()
                                .flatMap(s -> s.ports().stream())
                                .map(Port::binding),
                        read.unusedBindings().stream())
                .filter(b -> b.protocol().soap())
                .flatMap(b -> b.operations().stream())
                .forEach(o -> {
                    stop.check();
                    messages(o, schemas, wildcards);
                });
    }

    private void messages(Operation operation, Schemas schemas, UnfilledWildcards wildcards) {
        Stream<MessagePart> parts = Stream.of(operation.input().stream(), operation.output().stream())
                .flatMap(s -> s)
                .flatMap(m ->
                        Stream.concat(m.body().stream(), m.headers().stream().map(HeaderDef::part)));
        Stream<MessagePart> faults = operation.faults().stream().flatMap(f -> f.part().stream());
        Stream.concat(parts, faults).forEach(part -> {
            declared(part, schemas).ifPresent(e -> wildcards.in(e).forEach(u -> unfilled(u, part)));
            long size = part.element()
                    .flatMap(schemas::element)
                    .map(schemas::smallest)
                    .or(() -> part.type().flatMap(schemas::type).map(schemas::smallest))
                    .orElse(0L);
            if (size >= Schemas.ENDLESS) {
                none(part, schemas);
            } else if (size >= LARGE) {
                large(part, schemas, size);
            }
        });
    }

    private static Optional<ElementDecl> declared(MessagePart part, Schemas schemas) {
        return part.element()
                .flatMap(schemas::element)
                .or(() -> part.type()
                        .flatMap(schemas::type)
                        .map(type -> ElementDecl.implied(new QName(part.name()), type)));
    }

    private void unfilled(UnfilledWildcards.Unfilled wildcard, MessagePart part) {
        findings.add(
                Severity.WARNING,
                "unfilled-wildcard",
                wildcard.within() + " requires an element that a schema declares (namespace " + wildcard.namespaces()
                        + "), and no schema of the contract declares one",
                "Import the schema that has it. Samples hold a placeholder there, and say so.",
                wildcard.place().orElse(part.place()));
    }

    private static String nameOf(MessagePart part) {
        return part.element().or(part::type).orElseThrow().toString();
    }

    private static Place placeOf(MessagePart part, Schemas schemas) {
        return part.element()
                .flatMap(schemas::element)
                .flatMap(ElementDecl::place)
                .orElse(part.place());
    }

    private void none(MessagePart part, Schemas schemas) {
        String what = nameOf(part);
        Optional<String> why = part.element()
                .flatMap(schemas::element)
                .map(schemas::whyNone)
                .orElseGet(() -> part.type().flatMap(schemas::type).flatMap(t -> schemas.whyNone(t, what)));
        findings.add(
                Severity.ERROR,
                why.isPresent() ? "no-instance" : "endless-type",
                what
                        + (why.isPresent()
                                ? " has no valid instance: "
                                        + why.get().replaceFirst("^(element )?" + Pattern.quote(what) + " ", "it ")
                                : " has no finite instance: it requires itself"),
                "Make a part on the way optional, or give it another type. Samples of it are cut short or not valid, and"
                        + " say so.",
                placeOf(part, schemas));
    }

    private void large(MessagePart part, Schemas schemas, long size) {
        findings.add(
                Severity.WARNING,
                "large-sample",
                "The smallest instance of " + nameOf(part) + " has " + size + " elements",
                "Samples of it are cut short and not valid, and say so.",
                placeOf(part, schemas));
    }
}
