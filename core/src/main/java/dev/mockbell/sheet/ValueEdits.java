package dev.mockbell.sheet;

import dev.mockbell.message.Fragments;
import java.util.ArrayList;
import java.util.List;
import org.w3c.dom.Attr;
import org.w3c.dom.CDATASection;
import org.w3c.dom.CharacterData;
import org.w3c.dom.Element;
import org.w3c.dom.Node;
import org.w3c.dom.Text;

/** Edits of what elements and attributes hold. */
final class ValueEdits {
    private final SheetTree tree;

    ValueEdits(SheetTree tree) {
        this.tree = tree;
    }

    void setValue(SheetRow row, String value) {
        Node node = row.target().node();
        if (node instanceof Attr attr) {
            attr.setValue(value);
            tree.touched(attr.getOwnerElement());
        } else if (node instanceof CharacterData text) {
            text.setData(value);
            tree.touched((Element) text.getParentNode());
        } else if (node instanceof Element element) {
            setText(element, value);
            element.removeAttributeNS(Sheet.XSI, "nil");
            tree.touched(element);
        }
    }

    private void setText(Element element, String value) {
        List<Node> old = new ArrayList<>();
        CDATASection marked = null;
        for (Node n = element.getFirstChild(); n != null; n = n.getNextSibling()) {
            if (n instanceof CharacterData && n instanceof Text) {
                old.add(n);
                marked = n instanceof CDATASection c ? c : marked;
            }
        }
        Node anchor = old.isEmpty() ? null : old.get(old.size() - 1).getNextSibling();
        old.forEach(element::removeChild);
        boolean stays = marked != null && !value.contains("]]>");
        if (!value.isEmpty()) {
            element.insertBefore(
                    stays
                            ? tree.document().createCDATASection(value)
                            : tree.document().createTextNode(value),
                    anchor);
        }
    }

    void addText(SheetRow given, String text) {
        if (given.target().node() instanceof Element element) {
            element.appendChild(tree.document().createTextNode(text));
            tree.touched(element);
        }
    }

    void addAttributes(SheetRow given, String text) {
        if (!(given.target().node() instanceof Element element)) {
            return;
        }
        List<Attr> read = Fragments.attributes(text, element);
        for (Attr attr : read) {
            element.setAttributeNodeNS((Attr) tree.document().importNode(attr, true));
        }
        tree.touched(element);
    }
}
