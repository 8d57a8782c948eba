package dev.mockbell.cli;

import dev.mockbell.problem.Problem;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import dev.mockbell.xml.XmlText;
import java.util.List;
import org.w3c.dom.Document;
import org.w3c.dom.Element;

/** Sets values in a body by path, as {@code --set} asks. */
final class Values {
    private Values() {}

    /** @param settings each {@code PATH=VALUE}, the path an element's names from the root, with positions where needed */
    static String set(String body, List<String> settings) {
        if (settings.isEmpty()) {
            return body;
        }
        Document document = Xml.parse(body, "request", XmlLimits.MESSAGE);
        for (String setting : settings) {
            int equals = splitAt(setting);
            String path = setting.substring(0, equals).strip();
            String value = setting.substring(equals + 1);
            apply(document, path, value, setting);
        }
        return XmlText.exact(document);
    }

    private static int splitAt(String setting) {
        int depth = 0;
        for (int i = 0; i < setting.length(); i++) {
            char c = setting.charAt(i);
            depth += c == '[' ? 1 : c == ']' ? -1 : 0;
            if (c == '=' && depth == 0) {
                return i;
            }
        }
        throw Problem.input("“" + setting + "” has no equals sign", null, "Write --set PATH=VALUE.");
    }

    private static void apply(Document document, String path, String value, String setting) {
        dev.mockbell.expression.Expressions expressions = new dev.mockbell.expression.Expressions();
        String full = path.startsWith("/") ? path : "//" + path;
        var found = expressions.evaluate(full, dev.mockbell.expression.Scope.EMPTY.on(expressions.wrap(document)));
        if (found.size() != 1) {
            throw Problem.input(
                    found.size() == 0
                            ? "Nothing in the request is at that path"
                            : found.size() + " elements are at that path",
                    setting,
                    found.size() == 0
                            ? "See the request with --wire, or send the --full sample."
                            : "Add a position, such as [1].");
        }
        Object node = ((net.sf.saxon.s9api.XdmNode) found.itemAt(0)).getExternalNode();
        if (node instanceof Element element) {
            element.setTextContent(value);
        } else if (node instanceof org.w3c.dom.Attr attr) {
            attr.setValue(value);
        } else {
            throw Problem.input("The path leads to no element or attribute", setting, "Point at an element.");
        }
    }
}
