package dev.mockbell.schema;

import dev.mockbell.problem.Problem;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.util.ArrayList;
import java.util.List;
import org.apache.xerces.xs.XSAnnotation;
import org.apache.xerces.xs.XSObjectList;
import org.w3c.dom.Element;

/** The words within annotations. */
final class Documentation {
    private Documentation() {}

    /** The text of all documentation elements, white space folded; empty when there is none. */
    static String of(XSObjectList annotations) {
        List<String> found = new ArrayList<>();
        for (int i = 0; annotations != null && i < annotations.getLength(); i++) {
            String text = ((XSAnnotation) annotations.item(i)).getAnnotationString();
            try {
                Element root = Xml.parse(text, "annotation", XmlLimits.CONTRACT).getDocumentElement();
                for (Element e : Xml.children(root, SchemaReplay.XSD, "documentation")) {
                    String words = e.getTextContent().strip().replaceAll("\\s+", " ");
                    if (!words.isEmpty()) {
                        found.add(words);
                    }
                }
            } catch (Problem unreadable) {
                // an annotation is decoration: one that cannot be read is as good as none
                continue;
            }
        }
        return String.join(" ", found);
    }
}
