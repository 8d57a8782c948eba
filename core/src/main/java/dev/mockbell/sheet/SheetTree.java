package dev.mockbell.sheet;

import dev.mockbell.message.ElementMatch;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.sample.SampleBuilder;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.xml.WrittenXml;
import dev.mockbell.xml.Xml;
import java.util.List;
import java.util.Optional;
import org.w3c.dom.Document;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

/**
 * The XML tree of a message with its rows and its text, which follow every change that is told here. What edits it goes
 * through this.
 */
final class SheetTree {
    private static final int FEW = 1 << 14;

    private final MessageOutline outline;
    private final Document document;
    private final RowIds ids;
    private final SheetRows rows;
    private final WrittenXml written;
    private final int elements;
    private Optional<SheetRow> root;

    /** @param elements about how many there are */
    SheetTree(MessageOutline outline, Document document, boolean templated, int elements) {
        this.outline = outline;
        this.document = document;
        this.elements = elements;
        this.written = new WrittenXml(document);
        // of a message that is looked at, few are remembered
        int expected = templated ? elements : Math.min(elements, FEW);
        this.ids = new RowIds(expected);
        this.rows = new SheetRows(outline.schemas(), ids, expected, templated);
    }

    MessageOutline outline() {
        return outline;
    }

    int elements() {
        return elements;
    }

    Document document() {
        return document;
    }

    RowIds ids() {
        return ids;
    }

    /** The message as XML, exactly as the tree holds it. */
    String text() {
        return document.getDocumentElement() == null ? "" : written.text();
    }

    WrittenXml written() {
        return written;
    }

    /** The row of the message's root; empty when the body is empty. */
    Optional<SheetRow> root() {
        if (root == null) {
            root = Optional.ofNullable(document.getDocumentElement())
                    .flatMap(this::payload)
                    .map(e -> {
                        ElementDecl declared = outline.root()
                                .filter(d -> ElementMatch.matches(d, e))
                                .or(() -> outline.schemas().element(ElementMatch.nameOf(e)))
                                .orElse(null);
                        return rows.row(declared, e);
                    });
        }
        return root;
    }

    /** The element itself, or of a whole envelope the first in its body. */
    private Optional<Element> payload(Element element) {
        boolean envelope = "Envelope".equals(element.getLocalName())
                && SoapVersion.ofNamespace(element.getNamespaceURI()).isPresent();
        if (!envelope) {
            return Optional.of(element);
        }
        Optional<Element> body = Xml.children(element, element.getNamespaceURI(), "Body").stream()
                .findFirst();
        return outline.isWholeBody()
                ? body
                : body.flatMap(b -> Xml.children(b).stream().findFirst());
    }

    /** The row as it is now; laid out by its parent alone, so that many edits in a row cost what they touch. */
    SheetRow now(SheetRow row) {
        return standing(row).orElse(row);
    }

    /** A row given earlier, as it is now; empty when there is no such row any more. Costs what its parent holds, at most. */
    Optional<SheetRow> standing(SheetRow row) {
        Element parent = row.target().parent();
        Optional<SheetRow> holder = parent == null ? root() : rows.again(parent);
        return holder.map(h -> parent == null ? h : RowSearch.direct(h, row.id()));
    }

    /** The row that holds this one as it is now. */
    Optional<SheetRow> holder(SheetRow row) {
        return Optional.ofNullable(row.target().parent()).flatMap(rows::again);
    }

    /** Says that an element has changed: its attributes, its text, or which nodes are right in it. */
    void touched(Element element) {
        rows.forget(element);
        written.changed(element);
        root = null;
    }

    void insert(Element parent, Node node, Node before) {
        Placement.insert(parent, node, before);
        written.placed(node);
    }

    void insertAll(Element parent, List<ElementDecl> declared, Node before) {
        declared.forEach(d -> insert(parent, sample(d, parent), before));
    }

    /** An element with what the contract requires in it, as it would stand in a parent. */
    Element sample(ElementDecl declared, Element parent) {
        return new SampleBuilder(outline, Detail.REQUIRED).buildFor(declared, parent);
    }

    /** Puts the root in when the body is empty. */
    void ensureRoot() {
        if (document.getDocumentElement() == null) {
            outline.root().ifPresent(declared -> {
                Element fresh = new SampleBuilder(outline, Detail.REQUIRED).build(declared);
                document.appendChild(document.importNode(fresh, true));
                root = null;
            });
        }
    }
}
