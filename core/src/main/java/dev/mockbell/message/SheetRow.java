package dev.mockbell.message;

import dev.mockbell.schema.AttributeDecl;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.schema.Occurs;
import dev.mockbell.schema.Particle;
import java.util.List;
import java.util.Optional;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

/**
 * One row of a sheet: a place in the message, filled or left out. A row is a picture of the message at one moment; after
 * an edit the sheet gives new ones, which keep their {@link #id()} where the place is the same.
 *
 * @param id the path of the row within the sheet, also of parts that are left out
 * @param label the element's or attribute's local name
 * @param state whether and how the place is filled
 * @param value the text of a row without children; empty otherwise
 * @param type a short text on the type and its facets
 * @param index which of its like it is, from 1; 0 when it stands alone
 * @param count how many of its like there are
 * @param problem why the value is not valid, a sentence; empty when it is or when that is only known on sending
 * @param options values to choose from: of an enumeration, or the branches of a choice
 */
public record SheetRow(
        String id,
        Kind kind,
        String label,
        State state,
        String value,
        String type,
        Occurs occurs,
        int index,
        int count,
        Optional<String> problem,
        List<String> options,
        String documentation,
        List<SheetRow> children,
        Target target) {
    /** What the row stands for. */
    public enum Kind {
        /** An element with other elements inside. */
        GROUP,
        /** An element with text. */
        VALUE,
        ATTRIBUTE,
        /** The place where one of several branches stands. */
        CHOICE,
        /** An element that the contract does not know here. */
        UNKNOWN
    }

    /** How the place is filled. */
    public enum State {
        PRESENT,
        /** Present and {@code xsi:nil}. */
        NIL,
        LEFT_OUT
    }

    /** Where in the document an edit of the row takes place; for the sheet alone. */
    record Target(
            Element parent,
            Node before,
            Node node,
            Optional<ElementDecl> element,
            Optional<AttributeDecl> attribute,
            List<Node> nodes,
            List<Particle> branches) {
        Target(
                Element parent,
                Node before,
                Node node,
                Optional<ElementDecl> element,
                Optional<AttributeDecl> attribute) {
            this(parent, before, node, element, attribute, List.of(), List.of());
        }
    }

    /** Whether a switch belongs on the row: it may be there or not. */
    public boolean optional() {
        return occurs.optional() && kind != Kind.UNKNOWN;
    }

    /** Whether text can be typed into it. */
    public boolean editable() {
        return state == State.PRESENT && (kind == Kind.VALUE || kind == Kind.ATTRIBUTE);
    }

    /** Whether one more of it may stand. */
    public boolean canRepeat() {
        return occurs.repeats() && kind != Kind.ATTRIBUTE && state != State.LEFT_OUT && occurs.allows(count);
    }

    /** Whether it may be marked as having no value. */
    public boolean canBeNil() {
        return target.element().map(ElementDecl::nillable).orElse(false) && state != State.LEFT_OUT;
    }

    /** The names on the way to the element, as an XPath over the message; empty for a part that is left out. */
    public String path() {
        return target.node() == null ? "" : MessagePath.of(target.node());
    }

    /** The values of the first few fields below, for a row that is folded. */
    public String gist() {
        StringBuilder text = new StringBuilder();
        for (SheetRow child : children) {
            if (child.kind == Kind.VALUE && child.state == State.PRESENT && !child.value.isEmpty()) {
                if (text.length() > 0) {
                    text.append(", ");
                }
                text.append(child.value);
            }
            if (text.length() > 40) {
                break;
            }
        }
        return text.toString();
    }
}
