package dev.mockbell.cli;

import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.sheet.Sheet;
import dev.mockbell.sheet.SheetRow;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import dev.mockbell.xml.XmlText;
import java.util.List;
import java.util.Optional;
import org.w3c.dom.Document;
import org.w3c.dom.Element;

/** Sets values in a body by path, as {@code --set} asks. */
final class Values {
    private Values() {}

    /**
     * The body with the values in it. A part that the contract has at the path but the body does not is put in first.
     *
     * @param settings each {@code PATH=VALUE}, the path an element's names from the root, with positions where needed; or any XPath
     *     that leads to one element or attribute
     */
    static String set(MessageOutline outline, String body, List<String> settings) {
        String text = body;
        for (String setting : settings) {
            int equals = splitAt(setting);
            String path = setting.substring(0, equals).strip();
            String value = setting.substring(equals + 1);
            text = set(outline, text, path, value, setting);
        }
        return text;
    }

    private static String set(MessageOutline outline, String body, String path, String value, String setting) {
        if (body.isBlank()) {
            throw Problem.input("The operation has an empty body, so nothing can be set", setting, "Leave --set away.");
        }
        Document document = Xml.parse(body, "request", XmlLimits.MESSAGE);
        if (apply(document, path, value, setting)) {
            return XmlText.exact(document);
        }
        Sheet sheet = Sheet.open(outline, body);
        String root = document.getDocumentElement().getLocalName();
        Optional<SheetRow> row = sheet.ensure(path.startsWith("/") ? path : "/" + root + "/" + path);
        if (row.filter(SheetRow::editable).isEmpty()) {
            throw Problem.input(
                    "Nothing in the request is at that path, and the contract has no value there",
                    setting,
                    "See “mockbell contract sample --full” for the paths there are.");
        }
        sheet.setValue(row.get(), value);
        return sheet.text();
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

    /** Whether the path led to something. */
    private static boolean apply(Document document, String path, String value, String setting) {
        dev.mockbell.expression.Expressions expressions = new dev.mockbell.expression.Expressions();
        String full = path.startsWith("/") ? path : "//" + path;
        var found = expressions.evaluate(full, dev.mockbell.expression.Scope.EMPTY.on(expressions.wrap(document)));
        if (found.size() == 0) {
            return false;
        }
        if (found.size() > 1) {
            throw Problem.input(found.size() + " elements are at that path", setting, "Add a position, such as [1].");
        }
        Object node = ((net.sf.saxon.s9api.XdmNode) found.itemAt(0)).getExternalNode();
        if (node instanceof Element element) {
            if (!Xml.children(element).isEmpty()) {
                throw Problem.input(
                        "The element at that path has others inside, which would be lost",
                        setting,
                        "Go on to one of them.");
            }
            element.setTextContent(value);
        } else if (node instanceof org.w3c.dom.Attr attr) {
            attr.setValue(value);
        } else {
            throw Problem.input("The path leads to no element or attribute", setting, "Point at an element.");
        }
        return true;
    }
}
