package dev.mockbell.xml;

import java.util.ArrayList;
import java.util.List;
import org.w3c.dom.Attr;
import org.w3c.dom.CDATASection;
import org.w3c.dom.Comment;
import org.w3c.dom.Document;
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

    private XmlText(boolean indent, Kept kept, int length) {
        this.indent = indent;
        this.kept = kept;
        this.out = new StringBuilder(length);
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
        return exact(node, Kept.NOTHING, USUAL_LENGTH);
    }

    /** As {@link #exact(Node)}, with room made beforehand for about so many characters. */
    static String exact(Node node, Kept kept, int length) {
        XmlText text = new XmlText(false, kept, length);
        text.write(node, 0);
        return text.out.toString();
    }

    /** The node laid out for reading. Text content is left as it is; only white space between elements changes. */
    public static String laidOut(Node node) {
        XmlText text = new XmlText(true, Kept.NOTHING, USUAL_LENGTH);
        text.write(node, 0);
        return text.out.toString();
    }

    private void write(Node node, int level) {
        if (node instanceof Document document) {
            for (Node n = document.getFirstChild(); n != null; n = n.getNextSibling()) {
                write(n, level);
                if (n.getNextSibling() != null) {
                    out.append('\n');
                }
            }
        } else if (node instanceof Element element) {
            if (!kept.takeOver(element, out)) {
                kept.begins(element, out.length());
                element(element, level);
                kept.ends(element, out.length());
            }
        } else if (node instanceof CDATASection cdata) {
            out.append("<![CDATA[").append(cdata.getData()).append("]]>");
        } else if (node instanceof Text text) {
            escape(text.getData(), false);
        } else if (node instanceof Comment comment) {
            out.append("<!--").append(comment.getData()).append("-->");
        } else if (node instanceof ProcessingInstruction pi) {
            out.append("<?").append(pi.getTarget());
            if (pi.getData() != null && !pi.getData().isEmpty()) {
                out.append(' ').append(pi.getData());
            }
            out.append("?>");
        }
    }

    private void element(Element element, int level) {
        out.append('<').append(element.getTagName());
        for (Attr attr : attributes(element)) {
            out.append(' ').append(attr.getName()).append("=\"");
            escape(attr.getValue(), true);
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

    private void escape(String text, boolean attribute) {
        int from = 0;
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            // nearly all of a message is plain, so it is taken over in stretches
            String entity = c > '>' ? null : entity(c, attribute);
            if (entity != null) {
                out.append(text, from, i).append(entity);
                from = i + 1;
            }
        }
        out.append(text, from, text.length());
    }

    private static String entity(char c, boolean attribute) {
        return switch (c) {
            case '&' -> "&amp;";
            case '<' -> "&lt;";
            case '>' -> "&gt;";
            case '\r' -> "&#13;";
            case '"' -> attribute ? "&quot;" : null;
            case '\n' -> attribute ? "&#10;" : null;
            case '\t' -> attribute ? "&#9;" : null;
            default -> null;
        };
    }
}
