package dev.mockbell.validation;

import dev.mockbell.expression.Braces;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.sample.SampleBuilder;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.sheet.HeaderBlocks;
import dev.mockbell.sheet.Placement;
import dev.mockbell.sheet.Sheet;
import dev.mockbell.sheet.SheetRow;
import dev.mockbell.sheet.SheetRow.Kind;
import dev.mockbell.sheet.SheetRow.State;
import dev.mockbell.task.StopSignal;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.w3c.dom.Document;
import org.w3c.dom.Element;

/**
 * Makes messages at and beyond the limits of a contract, each a full sample with one thing changed. Whether one should be
 * accepted is not guessed from how it was made: the schema's own validator decides.
 */
public final class BoundaryCases {
    /** How many are made at most. */
    public static final int MOST = 1_000;

    private static final int MOST_REPEATS = 60;

    /**
     * One message.
     *
     * @param title what is changed and how
     * @param path the element or attribute that it is about
     * @param accepted whether the contract allows the message
     * @param reason why not, in words of the validator; empty when it is allowed
     * @param body the payload, braces doubled so that they mean themselves
     * @param soapHeaders the blocks of the SOAP header, likewise, where the message is about them; empty where it is about its
     *     body
     */
    public record Boundary(
            String title, String path, boolean accepted, String reason, String body, Optional<String> soapHeaders) {}

    private final MessageOutline outline;
    private final StopSignal stop;
    private final MessageValidator validator;
    private final String base;
    private final List<Boundary> made = new ArrayList<>();
    private final Set<String> seen = new HashSet<>();

    private BoundaryCases(MessageOutline outline, StopSignal stop) {
        this.outline = outline;
        this.stop = stop;
        this.validator = new MessageValidator(outline.schemas());
        this.base = SampleBuilder.text(outline, Detail.FULL);
    }

    /**
     * The cases of a message, in the order of its elements; empty for an empty body. At most {@link #MOST}.
     *
     * @throws Problem when stopped
     */
    public static List<Boundary> of(MessageOutline outline, StopSignal stop) {
        List<Boundary> all =
                new ArrayList<>(outline.root().isEmpty() ? List.of() : new BoundaryCases(outline, stop).make());
        outline.headers().forEach(h -> all.addAll(ofHeader(outline, h, stop)));
        return List.copyOf(all);
    }

    /** Cases of a block of the SOAP header, beside a body that is in order. */
    private static List<Boundary> ofHeader(MessageOutline outline, ElementDecl header, StopSignal stop) {
        String name = header.name().getLocalPart();
        String body = Braces.literally(SampleBuilder.text(outline, Detail.STARTING));
        HeaderBlocks blocks =
                HeaderBlocks.of(outline, Braces.literally(SampleBuilder.headers(outline, Detail.STARTING)));
        List<Boundary> made = new ArrayList<>();
        made.add(new Boundary(
                "Header " + name + " missing",
                "header::" + name,
                false,
                "The binding of the operation has the header " + name + " (WS-I Basic Profile 1.1 R2738)",
                body,
                Optional.of(blocks.without(header).text())));
        for (Boundary b : of(blocks.outlineOf(header), stop)) {
            made.add(new Boundary(
                    "Header " + name + ": " + b.title(),
                    "header::" + b.path().replaceFirst("^/", ""),
                    b.accepted(),
                    b.reason(),
                    body,
                    Optional.of(blocks.with(header, b.body()).text())));
        }
        return made;
    }

    private List<Boundary> make() {
        add("Everything in", "/", base);
        add("Required only", "/", SampleBuilder.text(outline, Detail.REQUIRED));
        Set<String> done = new HashSet<>();
        Sheet.openReceived(outline, base).root().ifPresent(r -> row(r, done));
        Sheet.openReceived(outline, base)
                .root()
                .filter(r -> r.kind() == Kind.GROUP)
                .ifPresent(r -> unknown(r.path(), r.label()));
        return List.copyOf(made);
    }

    private void row(SheetRow row, Set<String> done) {
        if (made.size() >= MOST || stop.isStopped()) {
            stop.check();
            return;
        }
        String path = row.path();
        // of several of a kind the first stands for all
        boolean first = row.index() <= 1;
        if (first && row.state() == State.PRESENT && done.add(path)) {
            values(row, path);
            structure(row, path);
        }
        if (first) {
            row.children().forEach(c -> row(c, done));
        }
    }

    private void values(SheetRow row, String path) {
        boolean value = row.kind() == Kind.VALUE || row.kind() == Kind.ATTRIBUTE;
        if (!value || row.simple().isEmpty()) {
            return;
        }
        Optional<String> fixed = row.target()
                .element()
                .flatMap(ElementDecl::fixed)
                .or(() -> row.target().attribute().flatMap(a -> a.fixed()));
        if (fixed.isPresent()) {
            change(row.label() + " is not the fixed value", path, (s, r) -> s.setValue(r, fixed.get() + "x"));
            return;
        }
        for (BoundaryValue v : BoundaryValue.of(row.simple().get(), row.value())) {
            String shown = v.value().length() > 24 ? v.value().substring(0, 21) + "…" : v.value();
            String what = v.value().isEmpty() ? row.label() : row.label() + " = " + shown;
            change(what + ", " + v.why(), path, (s, r) -> s.setValue(r, v.value()));
        }
    }

    private void structure(SheetRow row, String path) {
        if (row.kind() == Kind.ATTRIBUTE) {
            change(row.label() + (row.optional() ? " left out" : " missing"), path, Sheet::remove);
            return;
        }
        if (row.target().node() == null || row.target().parent() == null || row.kind() == Kind.TEXT) {
            return;
        }
        change(row.label() + (row.occurs().optional() ? " left out" : " missing"), path, (s, r) -> {
            SheetRow at = r;
            for (int i = 0; i < row.count(); i++) {
                s.remove(at);
                at = s.at(path).orElse(at);
            }
        });
        if (row.occurs().repeats()) {
            int min = row.occurs().min();
            int max = row.occurs().max();
            if (min > 1) {
                times(row, path, min, "as few as are allowed");
                times(row, path, min - 1, "one too few");
            }
            if (max > 0 && max <= MOST_REPEATS) {
                times(row, path, max, "as many as are allowed");
                times(row, path, max + 1, "one too many");
            }
        } else {
            times(row, path, 2, "one too many");
        }
        if (row.canBeNil()) {
            change(row.label() + " nil", path, (s, r) -> s.setNil(r, true));
        }
    }

    private void times(SheetRow row, String path, int wanted, String why) {
        change(row.label() + " × " + wanted + ", " + why, path, (s, r) -> {
            for (int i = row.count(); i < wanted; i++) {
                s.duplicate(r);
            }
            for (int i = row.count(); i > wanted; i--) {
                s.at(path).ifPresent(s::remove);
            }
        });
    }

    private void unknown(String path, String label) {
        Document document = Xml.parse(base, "sample", XmlLimits.MESSAGE);
        Element root = document.getDocumentElement();
        Placement.insert(root, document.createElementNS("urn:northfell:notes", "n:unknown"), null);
        ((Element) root.getElementsByTagNameNS("urn:northfell:notes", "unknown").item(0))
                .setAttributeNS("http://www.w3.org/2000/xmlns/", "xmlns:n", "urn:northfell:notes");
        add("An element that the contract does not know in " + label, path, dev.mockbell.xml.XmlText.exact(document));
    }

    /** In the words of the sheet where it sees the flaw too, else in those of the validator. */
    private String why(String text, MessageValidator.Breach breach) {
        String seen = Sheet.openReceived(outline, text)
                .root()
                .map(r -> r.tally().first())
                .orElse("");
        return seen.isEmpty() ? breach.text() : seen;
    }

    private interface Edit {
        void of(Sheet sheet, SheetRow row);
    }

    private void change(String title, String path, Edit edit) {
        if (made.size() >= MOST) {
            return;
        }
        Sheet sheet = Sheet.openReceived(outline, base);
        Optional<SheetRow> row = sheet.at(path);
        if (row.isPresent()) {
            edit.of(sheet, row.get());
            add(title, path, sheet.text());
        }
    }

    private void add(String title, String path, String text) {
        if (!seen.add(text)) {
            return;
        }
        List<MessageValidator.Breach> breaches =
                validator.validate(outline, Xml.parse(text, "boundary case", XmlLimits.MESSAGE));
        made.add(new Boundary(
                title,
                path,
                breaches.isEmpty(),
                breaches.isEmpty() ? "" : why(text, breaches.get(0)),
                Braces.literally(text),
                Optional.empty()));
    }
}
