package dev.mockbell.change;

import dev.mockbell.change.ContractChange.Kind;
import dev.mockbell.contract.Attachment;
import dev.mockbell.contract.MessageDef;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.schema.Occurs;
import dev.mockbell.xml.Place;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;

/** In what a message became another: its body, its header blocks, its attachments. */
final class MessageChanges {
    private final TypeChanges types;
    private final String operation;
    private final Half half;
    private final List<ContractChange> found = new ArrayList<>();
    private final Set<String> namespaces = new HashSet<>();

    MessageChanges(TypeChanges types, String operation, Half half) {
        this.types = types;
        this.operation = operation;
        this.half = half;
    }

    List<ContractChange> found() {
        return found;
    }

    void message(MessageDef was, MessageDef is, MessageOutline before, MessageOutline after) {
        root(before.root(), after.root(), Optional.of(was.place()), Optional.of(is.place()), "");
        if (!Objects.equals(before.encoding(), after.encoding())) {
            add("", Kind.CHANGED, encoding(before), encoding(after), Relation.OTHER, was.place(), is.place());
        }
        blocks(was, is, before, after);
        attachments(was, is);
    }

    private static String encoding(MessageOutline outline) {
        return outline.encoding().map(e -> "encoded").orElse("literal");
    }

    /** @param path where the root stands: the name of a fault or a block; empty for the body */
    void root(
            Optional<ElementDecl> before,
            Optional<ElementDecl> after,
            Optional<Place> was,
            Optional<Place> is,
            String path) {
        if (before.isEmpty() || after.isEmpty()) {
            if (before.isPresent() != after.isPresent()) {
                String old = before.map(e -> e.name().getLocalPart()).orElse("nothing");
                String now = after.map(e -> e.name().getLocalPart()).orElse("nothing");
                found.add(change(path, Kind.CHANGED, old, now, Relation.OTHER, was, is));
            }
            return;
        }
        ElementDecl old = before.get();
        ElementDecl now = after.get();
        Optional<Place> oldPlace = old.place().or(() -> was);
        Optional<Place> nowPlace = now.place().or(() -> is);
        boolean bodies = MessageOutline.isBody(old) && MessageOutline.isBody(now);
        if (!bodies && !old.name().getLocalPart().equals(now.name().getLocalPart())) {
            found.add(change(
                    path,
                    Kind.CHANGED,
                    old.name().getLocalPart(),
                    now.name().getLocalPart(),
                    Relation.OTHER,
                    oldPlace,
                    nowPlace));
        }
        if (!bodies && !old.name().getNamespaceURI().equals(now.name().getNamespaceURI())) {
            String from = Words.namespace(old.name());
            String to = Words.namespace(now.name());
            namespaces.add(from + to);
            found.add(change(path, Kind.CHANGED, from, to, Relation.OTHER, oldPlace, nowPlace));
        }
        for (Detail d : types.of(old, now, Occurs.ONCE, Occurs.ONCE)) {
            // a namespace that changed is told once, where it is met first
            boolean moved = d.kind() == Kind.CHANGED
                    && d.before().startsWith("namespace ")
                    && d.after().startsWith("namespace ");
            if (!moved || namespaces.add(d.before() + d.after())) {
                String at = path.isEmpty() ? d.path() : d.path().isEmpty() ? path : path + "/" + d.path();
                found.add(change(
                        at,
                        d.kind(),
                        d.before(),
                        d.after(),
                        d.relation(),
                        d.was().or(() -> oldPlace),
                        d.is().or(() -> nowPlace)));
            }
        }
    }

    private void blocks(MessageDef was, MessageDef is, MessageOutline before, MessageOutline after) {
        Map<String, ElementDecl> old = named(before);
        Map<String, ElementDecl> now = named(after);
        old.forEach((name, block) -> {
            if (now.containsKey(name)) {
                root(
                        Optional.of(block),
                        Optional.of(now.get(name)),
                        Optional.of(was.place()),
                        Optional.of(is.place()),
                        "header " + name);
            } else {
                add(
                        "header " + name,
                        Kind.GONE,
                        "a header block",
                        ContractChange.NOT_THERE,
                        Relation.UNKNOWN,
                        was.place(),
                        is.place());
            }
        });
        now.forEach((name, block) -> {
            if (!old.containsKey(name)) {
                // WSDL 1.1 §3.7 does not say whether a block must be there
                add(
                        "header " + name,
                        Kind.ADDED,
                        ContractChange.NOT_THERE,
                        "a header block",
                        Relation.UNKNOWN,
                        was.place(),
                        is.place());
            }
        });
    }

    private static Map<String, ElementDecl> named(MessageOutline outline) {
        Map<String, ElementDecl> found = new LinkedHashMap<>();
        outline.headers().forEach(h -> found.putIfAbsent(h.name().getLocalPart(), h));
        return found;
    }

    private void attachments(MessageDef was, MessageDef is) {
        Map<String, Attachment> old = byPart(was.attachments());
        Map<String, Attachment> now = byPart(is.attachments());
        old.forEach((part, attachment) -> {
            Attachment fresh = now.get(part);
            String path = "part " + part;
            if (fresh == null) {
                add(
                        path,
                        Kind.GONE,
                        attachment.words(),
                        ContractChange.NOT_THERE,
                        Relation.OTHER,
                        was.place(),
                        is.place());
            } else if (!Set.copyOf(fresh.types()).equals(Set.copyOf(attachment.types()))) {
                Relation relation = Relation.of(
                        !attachment.types().isEmpty()
                                ? attachment.types().stream().allMatch(fresh::mayBe)
                                : fresh.types().isEmpty(),
                        !fresh.types().isEmpty()
                                ? fresh.types().stream().allMatch(attachment::mayBe)
                                : attachment.types().isEmpty());
                add(path, Kind.CHANGED, attachment.words(), fresh.words(), relation, was.place(), is.place());
            }
        });
        now.forEach((part, attachment) -> {
            if (!old.containsKey(part)) {
                add(
                        "part " + part,
                        Kind.ADDED,
                        ContractChange.NOT_THERE,
                        attachment.words(),
                        Relation.OTHER,
                        was.place(),
                        is.place());
            }
        });
    }

    private static Map<String, Attachment> byPart(List<Attachment> attachments) {
        Map<String, Attachment> found = new LinkedHashMap<>();
        attachments.forEach(a -> found.put(a.part(), a));
        return found;
    }

    private void add(String path, Kind kind, String before, String after, Relation relation, Place was, Place is) {
        found.add(change(path, kind, before, after, relation, Optional.of(was), Optional.of(is)));
    }

    private ContractChange change(
            String path,
            Kind kind,
            String before,
            String after,
            Relation relation,
            Optional<Place> was,
            Optional<Place> is) {
        return ContractChange.of(operation, half, path, kind, before, after, relation, was, is);
    }
}
