package dev.mockbell.xml;

import java.util.ArrayList;
import java.util.List;
import org.w3c.dom.Attr;
import org.w3c.dom.CDATASection;
import org.w3c.dom.Comment;
import org.w3c.dom.Element;
import org.w3c.dom.NamedNodeMap;
import org.w3c.dom.Node;
import org.w3c.dom.ProcessingInstruction;
import org.w3c.dom.Text;

/** Writes a DOM as text: as it stands, or laid out with two spaces a level. Namespace declarations are written as held. */
public final class XmlText {
    private static final int USUAL_LENGTH = 1_024;

    private final StringBuilder out;
    private final boolean indent;
    private final Kept kept;

    private XmlText(boolean indent, Kept kept, StringBuilder out) {
        this.indent = indent;
        this.kept = kept;
        this.out = out;
    }

    /** Takes over what was written of elements before; told of all that is written, in the order of the text. */
    interface Kept {
        Kept NOTHING = new Kept() {
            @Override
            public boolean takeOver(Element element, StringBuilder out) {
                return false;
            }

            @Override
            public void begins(Element element, int at) {}

            @Override
            public void ends(Element element, int at) {}
        };

        /** Appends the element as it was written before; false when it has to be written anew. */
        boolean takeOver(Element element, StringBuilder out);

        void begins(Element element, int at);

        void ends(Element element, int at);
    }

    /** The node exactly as the tree holds it, white space included. */
    public static String exact(Node node) {
        StringBuilder into = new StringBuilder(USUAL_LENGTH);
        write(node, Kept.NOTHING, into);
        return into.toString();
    }

    /** Appends {@link #exact(Node)}. */
    static void write(Node node, Kept kept, StringBuilder into) {
        new XmlText(false, kept, into).write(node, 0);
    }

    /** The node laid out for reading. Text content is left as it is; only white space between elements changes. */
    public static String laidOut(Node node) {
        StringBuilder into = new StringBuilder(USUAL_LENGTH);
        new XmlText(true, Kept.NOTHING, into).write(node, 0);
        return into.toString();
    }

    private void write(Node node, int level) {
        // by number, because asking for one interface after another takes half of the time
        switch (node.getNodeType()) {
            case Node.ELEMENT_NODE -> {
                Element element = (Element) node;
                if (!kept.takeOver(element, out)) {
                    kept.begins(element, out.length());
                    element(element, level);
                    kept.ends(element, out.length());
                }
            }
            case Node.TEXT_NODE -> Markup.text(((Text) node).getData(), out);
            case Node.CDATA_SECTION_NODE ->
                out.append("<![CDATA[").append(((CDATASection) node).getData()).append("]]>");
            case Node.COMMENT_NODE ->
                out.append("<!--").append(((Comment) node).getData()).append("-->");
            case Node.PROCESSING_INSTRUCTION_NODE -> instruction((ProcessingInstruction) node);
            case Node.DOCUMENT_NODE -> {
                for (Node n = node.getFirstChild(); n != null; n = n.getNextSibling()) {
                    write(n, level);
                    if (n.getNextSibling() != null) {
                        out.append('\n');
                    }
                }
            }
            default -> {
                // a document type, which is refused on reading
            }
        }
    }

    private void instruction(ProcessingInstruction pi) {
        out.append("<?").append(pi.getTarget());
        if (pi.getData() != null && !pi.getData().isEmpty()) {
            out.append(' ').append(pi.getData());
        }
        out.append("?>");
    }

    private void element(Element element, int level) {
        out.append('<').append(element.getTagName());
        for (Attr attr : attributes(element)) {
            out.append(' ').append(attr.getName()).append("=\"");
            Markup.attribute(attr.getValue(), out);
            out.append('"');
        }
        if (!element.hasChildNodes()) {
            out.append("/>");
            return;
        }
        out.append('>');
        boolean spread = indent && hasOnlyMarkup(element);
        for (Node n = element.getFirstChild(); n != null; n = n.getNextSibling()) {
            if (spread && n instanceof Text) {
                continue;
            }
            if (spread) {
                newLine(level + 1);
            }
            write(n, level + 1);
        }
        if (spread) {
            newLine(level);
        }
        out.append("</").append(element.getTagName()).append('>');
    }

    /** In the order in which they stood in the source, which the tree itself does not keep; new ones behind. */
    private static List<Attr> attributes(Element element) {
        if (!element.hasAttributes()) {
            return List.of();
        }
        NamedNodeMap all = element.getAttributes();
        List<Attr> ordered = new ArrayList<>();
        if (element instanceof PlacedDocument.PlacedElement placed) {
            for (String name : placed.order()) {
                if (all.getNamedItem(name) instanceof Attr attr) {
                    ordered.add(attr);
                }
            }
        }
        for (boolean declarations : new boolean[] {true, false}) {
            for (int i = 0; i < all.getLength(); i++) {
                Attr attr = (Attr) all.item(i);
                if (attr.getName().startsWith("xmlns") == declarations && !ordered.contains(attr)) {
                    ordered.add(attr);
                }
            }
        }
        return ordered;
    }

    private void newLine(int level) {
        out.append('\n');
        out.append("  ".repeat(level));
    }

    private static boolean hasOnlyMarkup(Element element) {
        boolean child = false;
        for (Node n = element.getFirstChild(); n != null; n = n.getNextSibling()) {
            if (n instanceof Text text && !text.getData().isBlank()) {
                return false;
            }
            child |= !(n instanceof Text);
        }
        return child;
    }
}
