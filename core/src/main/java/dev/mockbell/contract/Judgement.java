package dev.mockbell.contract;

import dev.mockbell.contract.Finding.Severity;
import dev.mockbell.profile.BasicProfile;
import dev.mockbell.profile.Breach;
import dev.mockbell.profile.Description;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.schema.Schemas;
import dev.mockbell.xml.Place;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;

/** Holds a contract that was read against the Basic Profile, and its messages against what can be made of them. */
final class Judgement {
    /** Smallest instances above this are not built. */
    private static final long LARGE = 50_000;

    private final Findings findings;

    Judgement(Findings findings) {
        this.findings = findings;
    }

    void judge(DocumentSet documents, Schemas schemas, ReadServices read) {
        List<Description.Source> sources = new ArrayList<>();
        for (SourceDocument d : documents.documents()) {
            sources.add(new Description.Source(d.uri(), d.bytes(), d.contentType()));
        }
        Description description = new Description(documents.definitions(), documents.schemas(), sources, schemas);
        for (Breach breach : BasicProfile.judge(description)) {
            findings.add(
                    breach.must() ? Severity.WARNING : Severity.NOTE,
                    breach.rule(),
                    breach.text(),
                    breach.advice(),
                    breach.place());
        }
        Stream.concat(
                        read.services().stream()
                                .flatMap(s -> s.ports().stream())
                                .map(Port::binding),
                        read.unusedBindings().stream())
                .filter(b -> b.protocol().soap())
                .flatMap(b -> b.operations().stream())
                .forEach(o -> messages(o, schemas));
    }

    private void messages(Operation operation, Schemas schemas) {
        Stream<MessagePart> parts = Stream.of(operation.input().stream(), operation.output().stream())
                .flatMap(s -> s)
                .flatMap(m ->
                        Stream.concat(m.body().stream(), m.headers().stream().map(HeaderDef::part)));
        Stream<MessagePart> faults = operation.faults().stream().flatMap(f -> f.part().stream());
        Stream.concat(parts, faults).forEach(part -> {
            long size = part.element()
                    .flatMap(schemas::element)
                    .map(schemas::smallest)
                    .or(() -> part.type().flatMap(schemas::type).map(schemas::smallest))
                    .orElse(0L);
            if (size >= LARGE) {
                large(part, schemas, size);
            }
        });
    }

    private void large(MessagePart part, Schemas schemas, long size) {
        String what = part.element().or(part::type).orElseThrow().toString();
        Place place = part.element()
                .flatMap(schemas::element)
                .flatMap(ElementDecl::place)
                .orElse(part.place());
        if (size >= Schemas.ENDLESS) {
            findings.add(
                    Severity.ERROR,
                    "endless-type",
                    what + " has no finite instance: it requires itself, or something abstract that nothing stands for",
                    "Make a part on the way optional. Samples of it are cut short and not valid.",
                    place);
        } else {
            findings.add(
                    Severity.WARNING,
                    "large-sample",
                    "The smallest instance of " + what + " has " + size + " elements",
                    "Samples of it are cut short and not valid.",
                    place);
        }
    }
}
