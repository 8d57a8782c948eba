package dev.mockbell.suite;

import dev.mockbell.message.DeclaredPath;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.sheet.EncodedItems;
import dev.mockbell.sheet.HeaderBlocks;
import dev.mockbell.sheet.Sheet;
import dev.mockbell.sheet.SheetRow;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import dev.mockbell.xml.XmlText;
import java.util.List;
import java.util.Optional;
import org.w3c.dom.Document;
import org.w3c.dom.Element;

/** Sets values in what a case sends, by their paths. */
public final class CaseValues {
    private static final String HEADER = "header::";

    private CaseValues() {}

    /**
     * The case with the values in it, in its body and, for a path that starts with {@code header::}, in a block of its SOAP
     * header: {@code header::NAME/part}. A block that the contract names and that is left out is put in first.
     */
    public static Case set(MessageOutline outline, Case kept, List<String> settings) {
        Case changed = kept;
        for (String setting : settings) {
            changed = setting.startsWith(HEADER)
                    ? changed.withSoapHeaders(inHeader(outline, changed.soapHeaders(), setting))
                    : changed.withBody(set(outline, changed.body(), List.of(setting)));
        }
        return changed;
    }

    private static String inHeader(MessageOutline outline, String blocks, String setting) {
        String rest = setting.substring(HEADER.length());
        int equals = splitAt(rest);
        String path = rest.substring(0, equals).strip().replaceFirst("^/", "");
        String name = path.replaceFirst("[/@\\[].*", "").replaceFirst("^.*:", "");
        HeaderBlocks all = HeaderBlocks.of(outline, blocks);
        ElementDecl declared = all.declared(name)
                .orElseThrow(() -> Problem.input(
                        "The contract names no header " + name,
                        setting,
                        outline.headers().isEmpty() ? "It names none." : "It names " + all.names() + "."));
        HeaderBlocks there = all.with(declared);
        String text = there.block(declared).orElseThrow();
        return there.with(declared, set(all.outlineOf(declared), text, "/" + path, rest.substring(equals + 1), setting))
                .text();
    }

    /**
     * The body with the values in it. A part that the contract has at the path but the body does not is put in first.
     *
     * @param settings each {@code PATH=VALUE}, the path an element's names from the root, with positions where needed; or any XPath
     *     that leads to one element or attribute
     */
    public static String set(MessageOutline outline, String body, List<String> settings) {
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
            throw Problem.input(
                    "The operation has an empty body, so nothing can be set", setting, "Leave that value away.");
        }
        Document document = Xml.parse(body, "request", XmlLimits.MESSAGE);
        if (apply(document, path, value, setting)) {
            return XmlText.exact(document);
        }
        String full = path.startsWith("/")
                ? path
                : "/" + document.getDocumentElement().getLocalName() + "/" + path;
        if (EncodedItems.reach(document.getDocumentElement(), full) && apply(document, full, value, setting)) {
            return XmlText.exact(document);
        }
        Sheet sheet = Sheet.open(outline, body);
        Optional<SheetRow> row = (full.startsWith("//") ? Optional.<SheetRow>empty() : sheet.ensure(full))
                .or(() -> anywhere(outline, path).flatMap(sheet::ensure));
        if (row.filter(SheetRow::editable).isEmpty()) {
            throw Problem.input(
                    "Nothing in the request is at that path, and the contract has no value there",
                    setting,
                    "See “mockbell contract sample --full” for the paths there are.");
        }
        sheet.setValue(row.get(), value);
        return sheet.text();
    }

    /** Where the contract has a path that starts anywhere: {@code //name/part}, or a name alone. */
    private static Optional<String> anywhere(MessageOutline outline, String path) {
        if (path.startsWith("/") && !path.startsWith("//")) {
            return Optional.empty();
        }
        String[] steps = path.replaceFirst("^//", "").split("/", 2);
        String first = steps[0].replaceFirst("\\[.*", "").replaceFirst("^(@?)[^:]*:", "$1");
        String position = steps[0].contains("[") ? steps[0].substring(steps[0].indexOf('[')) : "";
        return outline.root()
                .flatMap(root -> DeclaredPath.to(root, first))
                .map(found -> found + position + (steps.length > 1 ? "/" + steps[1] : ""));
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
