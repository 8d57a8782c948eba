package dev.mockbell.written;

import dev.mockbell.written.TypeBlocks.Line;
import dev.mockbell.written.WrittenPart.Kind;
import dev.mockbell.xml.Markup;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;

/** Writes the WSDL and the schema of one contract. */
final class DocumentWriter {
    private static final String SOAP_HTTP = "http://schemas.xmlsoap.org/soap/http";

    private final WrittenContract contract;
    private final List<Flaw> flaws = new ArrayList<>();
    private final Map<WrittenField, Integer> rows = new IdentityHashMap<>();
    private final Map<WrittenPart, Integer> partRows = new IdentityHashMap<>();
    private final Map<WrittenOperation, Integer> operationRows = new IdentityHashMap<>();
    private final TypeBlocks types;
    private final Map<String, List<Line>> elements = new LinkedHashMap<>();
    private final Map<String, List<WrittenField>> faults = new LinkedHashMap<>();

    DocumentWriter(WrittenContract contract) {
        this.contract = contract;
        int row = 0;
        List<WrittenField> all = new ArrayList<>();
        for (WrittenOperation operation : contract.operations()) {
            operationRows.put(operation, row++);
            for (WrittenPart part : operation.parts()) {
                partRows.put(part, row++);
                for (WrittenField field : part.fields()) {
                    row = number(field, row);
                    all.add(field);
                }
            }
        }
        Set<String> groups = WrittenDocuments.groups(all);
        types = new TypeBlocks(f -> rows.getOrDefault(f, -1), groups, this::flaw);
    }

    private int number(WrittenField field, int row) {
        rows.put(field, row);
        int next = row + 1;
        for (WrittenField inner : field.inner()) {
            next = number(inner, next);
        }
        return next;
    }

    private void flaw(int row, String text) {
        flaws.add(new Flaw(row, text));
    }

    WrittenDocuments written() {
        if (contract.namespace().isBlank() || contract.namespace().matches(".*\\s.*")) {
            flaw(-1, "The namespace is no URI. Write one such as urn:northfell:huts.");
        }
        if (!Names.isName(contract.service())) {
            flaw(-1, Names.whyNot(contract.service(), "service"));
        }
        if (!contract.soap11() && !contract.soap12()) {
            flaw(-1, "It speaks neither SOAP 1.1 nor 1.2. Choose one.");
        }
        List<WrittenOperation> operations = operations();
        operations.forEach(this::elements);
        Map<Integer, List<Integer>> lines = new HashMap<>();
        String name = fileName();
        String xsd = schema(lines);
        String wsdl = wsdl(operations, name);
        return new WrittenDocuments(name, wsdl, xsd, flaws, lines);
    }

    private String fileName() {
        String name = contract.service()
                .replaceAll("([a-z0-9])([A-Z])", "$1-$2")
                .toLowerCase(Locale.ROOT)
                .replaceAll("[^a-z0-9.-]+", "-");
        return name.isBlank() || name.equals("-") ? "contract" : name;
    }

    /** Those that have a name of their own. */
    private List<WrittenOperation> operations() {
        Map<String, WrittenOperation> named = new LinkedHashMap<>();
        for (WrittenOperation operation : contract.operations()) {
            int row = operationRows.get(operation);
            String name = operation.name().strip();
            if (!Names.isName(name)) {
                flaw(row, Names.whyNot(name, "operation"));
            } else if (named.putIfAbsent(name, operation) != null) {
                flaw(row, "There are two operations " + name + ". Name one another way (WS-I Basic Profile R2304).");
            } else if (operation.oneWay() && operation.parts().stream().anyMatch(DocumentWriter::isOfAnswer)) {
                flaw(
                        row,
                        "A one-way operation gives nothing and has no faults. Take them out, or let it have an answer.");
            }
        }
        if (named.isEmpty()) {
            flaw(-1, "There is no operation yet.");
        }
        return List.copyOf(named.values());
    }

    private static boolean isOfAnswer(WrittenPart part) {
        return part.kind() != Kind.TAKES && part.kind() != Kind.HEADER;
    }

    private static String name(WrittenOperation operation) {
        return operation.name().strip();
    }

    private void elements(WrittenOperation operation) {
        int row = operationRows.get(operation);
        element(name(operation), operation.fields(Kind.TAKES), operation.means(), row);
        if (!operation.oneWay()) {
            element(name(operation) + "Response", operation.fields(Kind.GIVES), "", row);
        }
        for (WrittenPart part : operation.parts()) {
            if (part.kind() == Kind.FAILS && !operation.oneWay()) {
                fault(part);
            } else if (part.kind() == Kind.HEADER || part.kind() == Kind.ANSWER_HEADER && !operation.oneWay()) {
                part.fields().forEach(this::header);
            }
        }
    }

    private void element(String name, List<WrittenField> fields, String means, int row) {
        List<Line> lines = new ArrayList<>();
        lines.add(new Line("<xs:element name=\"" + name + "\">", List.of(row)));
        if (!means.isBlank()) {
            lines.add(new Line("  " + TypeBlocks.documentation(means), List.of(row)));
        }
        lines.add(new Line("  <xs:complexType>", List.of()));
        types.content(fields).forEach(l -> lines.add(l.inward().inward()));
        lines.add(new Line("  </xs:complexType>", List.of()));
        lines.add(new Line("</xs:element>", List.of()));
        if (elements.putIfAbsent(name, lines) != null) {
            flaw(row, "Two messages would be called " + name + ". Name an operation or a fault another way.");
        }
    }

    /** A fault of several operations has its fields where it is written with some; elsewhere its name is enough. */
    private void fault(WrittenPart part) {
        int row = partRows.get(part);
        String name = part.name().strip();
        if (!Names.isName(name)) {
            flaw(row, Names.whyNot(name, "fault"));
            return;
        }
        List<WrittenField> known = faults.get(name);
        if (known == null) {
            faults.put(name, fieldsOfFault(name, part));
            element(name, faults.get(name), "", row);
        } else if (!part.fields().isEmpty() && !part.fields().equals(known)) {
            flaw(row, "The fault " + name + " has other fields elsewhere. Give it the same, or another name.");
        }
    }

    private List<WrittenField> fieldsOfFault(String name, WrittenPart first) {
        if (!first.fields().isEmpty()) {
            return first.fields();
        }
        return contract.operations().stream()
                .flatMap(o -> o.parts().stream())
                .filter(p -> p.kind() == Kind.FAILS
                        && p.name().strip().equals(name)
                        && !p.fields().isEmpty())
                .map(WrittenPart::fields)
                .findFirst()
                .orElse(List.of());
    }

    private void header(WrittenField field) {
        String name = field.name().strip();
        if (!Names.isName(name)) {
            flaw(rows.get(field), Names.whyNot(name, "header block"));
            return;
        }
        List<Line> lines = types.element(field, false);
        List<Line> known = elements.putIfAbsent(name, lines);
        if (known != null && !text(known).equals(text(lines))) {
            flaw(
                    rows.get(field),
                    "The block " + name + " is another elsewhere. Give it the same type, or another name.");
        }
    }

    private static List<String> text(List<Line> lines) {
        return lines.stream().map(Line::text).toList();
    }

    private String schema(Map<Integer, List<Integer>> lines) {
        StringBuilder out = new StringBuilder("<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n");
        out.append("<xs:schema xmlns:xs=\"http://www.w3.org/2001/XMLSchema\" xmlns:tns=\"")
                .append(namespace());
        if (types.hasMedia()) {
            out.append("\" xmlns:xmime=\"http://www.w3.org/2005/05/xmlmime");
        }
        out.append("\"\n           targetNamespace=\"")
                .append(namespace())
                .append("\" elementFormDefault=\"qualified\">\n");
        int line = 4;
        List<List<Line>> all = new ArrayList<>(elements.values());
        all.addAll(types.types().values());
        for (List<Line> block : all) {
            for (Line one : block) {
                out.append("  ").append(one.text()).append('\n');
                for (int row : one.rows()) {
                    lines.computeIfAbsent(row, r -> new ArrayList<>()).add(line);
                }
                line++;
            }
        }
        return out.append("</xs:schema>\n").toString();
    }

    private String namespace() {
        return attribute(contract.namespace().strip());
    }

    private static String attribute(String text) {
        StringBuilder out = new StringBuilder();
        Markup.attribute(Markup.legal(text), out);
        return out.toString();
    }

    private String wsdl(List<WrittenOperation> operations, String name) {
        StringBuilder out = new StringBuilder("<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n");
        out.append("<wsdl:definitions name=\"")
                .append(attribute(contract.service()))
                .append("\"\n");
        out.append("    targetNamespace=\"")
                .append(namespace())
                .append("\" xmlns:tns=\"")
                .append(namespace())
                .append("\"\n");
        out.append(
                "    xmlns:wsdl=\"http://schemas.xmlsoap.org/wsdl/\" xmlns:xs=\"http://www.w3.org/2001/XMLSchema\"\n");
        out.append(
                "    xmlns:soap=\"http://schemas.xmlsoap.org/wsdl/soap/\" xmlns:soap12=\"http://schemas.xmlsoap.org/wsdl/soap12/\">\n");
        out.append("  <wsdl:types>\n    <xs:schema>\n      <xs:import namespace=\"")
                .append(namespace());
        out.append("\" schemaLocation=\"")
                .append(attribute(name))
                .append(".xsd\"/>\n    </xs:schema>\n  </wsdl:types>\n");
        operations.forEach(o -> messages(o, out));
        faults.keySet().forEach(f -> message(f, "fault", f, out));
        out.append("  <wsdl:portType name=\"")
                .append(attribute(contract.service()))
                .append("\">\n");
        operations.forEach(o -> operation(o, out));
        out.append("  </wsdl:portType>\n");
        if (contract.soap11()) {
            binding(operations, "soap", "Soap11", out);
        }
        if (contract.soap12()) {
            binding(operations, "soap12", "Soap12", out);
        }
        out.append("  <wsdl:service name=\"")
                .append(attribute(contract.service()))
                .append("\">\n");
        if (contract.soap11()) {
            port("soap", "Soap11", contract.address(), out);
        }
        if (contract.soap12()) {
            port("soap12", "Soap12", contract.address() + (contract.soap11() ? "-12" : ""), out);
        }
        return out.append("  </wsdl:service>\n</wsdl:definitions>\n").toString();
    }

    private void messages(WrittenOperation o, StringBuilder out) {
        message(name(o) + "Request", "parameters", name(o), out);
        if (!o.oneWay()) {
            message(name(o) + "Response", "parameters", name(o) + "Response", out);
        }
        headers(o, Kind.HEADER, out);
        headers(o, Kind.ANSWER_HEADER, out);
    }

    private static void message(String name, String part, String element, StringBuilder out) {
        out.append("  <wsdl:message name=\"")
                .append(name)
                .append("\">\n    <wsdl:part name=\"")
                .append(part);
        out.append("\" element=\"tns:").append(element).append("\"/>\n  </wsdl:message>\n");
    }

    private List<String> headers(WrittenOperation operation, Kind kind) {
        return operation.oneWay() && kind == Kind.ANSWER_HEADER
                ? List.of()
                : operation.fields(kind).stream()
                        .map(f -> f.name().strip())
                        .filter(Names::isName)
                        .distinct()
                        .toList();
    }

    private void headers(WrittenOperation operation, Kind kind, StringBuilder out) {
        List<String> blocks = headers(operation, kind);
        if (blocks.isEmpty()) {
            return;
        }
        out.append("  <wsdl:message name=\"")
                .append(headerMessage(operation, kind))
                .append("\">\n");
        blocks.forEach(b -> out.append("    <wsdl:part name=\"")
                .append(b)
                .append("\" element=\"tns:")
                .append(b)
                .append("\"/>\n"));
        out.append("  </wsdl:message>\n");
    }

    private static String headerMessage(WrittenOperation operation, Kind kind) {
        return name(operation) + (kind == Kind.HEADER ? "Header" : "ResponseHeader");
    }

    private void operation(WrittenOperation o, StringBuilder out) {
        out.append("    <wsdl:operation name=\"").append(name(o)).append("\">\n");
        if (!o.means().isBlank()) {
            StringBuilder text = new StringBuilder();
            Markup.text(Markup.legal(o.means().strip()), text);
            out.append("      <wsdl:documentation>").append(text).append("</wsdl:documentation>\n");
        }
        out.append("      <wsdl:input message=\"tns:").append(name(o)).append("Request\"/>\n");
        if (!o.oneWay()) {
            out.append("      <wsdl:output message=\"tns:").append(name(o)).append("Response\"/>\n");
            faultsOf(o)
                    .forEach(f -> out.append("      <wsdl:fault name=\"")
                            .append(f)
                            .append("\" message=\"tns:")
                            .append(f)
                            .append("\"/>\n"));
        }
        out.append("    </wsdl:operation>\n");
    }

    private List<String> faultsOf(WrittenOperation operation) {
        return operation.oneWay()
                ? List.of()
                : operation.parts().stream()
                        .filter(p -> p.kind() == Kind.FAILS)
                        .map(p -> p.name().strip())
                        .filter(faults::containsKey)
                        .distinct()
                        .toList();
    }

    private void binding(List<WrittenOperation> operations, String prefix, String suffix, StringBuilder out) {
        String service = attribute(contract.service());
        out.append("  <wsdl:binding name=\"")
                .append(service)
                .append(suffix)
                .append("\" type=\"tns:")
                .append(service)
                .append("\">\n");
        out.append("    <")
                .append(prefix)
                .append(":binding style=\"document\" transport=\"")
                .append(SOAP_HTTP)
                .append("\"/>\n");
        for (WrittenOperation o : operations) {
            out.append("    <wsdl:operation name=\"").append(name(o)).append("\">\n");
            out.append("      <")
                    .append(prefix)
                    .append(":operation soapAction=\"")
                    .append(action(o))
                    .append("\"/>\n");
            half("input", headers(o, Kind.HEADER), headerMessage(o, Kind.HEADER), prefix, out);
            if (!o.oneWay()) {
                half("output", headers(o, Kind.ANSWER_HEADER), headerMessage(o, Kind.ANSWER_HEADER), prefix, out);
                faultsOf(o)
                        .forEach(f -> out.append("      <wsdl:fault name=\"")
                                .append(f)
                                .append("\"><")
                                .append(prefix)
                                .append(":fault name=\"")
                                .append(f)
                                .append("\" use=\"literal\"/></wsdl:fault>\n"));
            }
            out.append("    </wsdl:operation>\n");
        }
        out.append("  </wsdl:binding>\n");
    }

    private static void half(String name, List<String> blocks, String message, String prefix, StringBuilder out) {
        out.append("      <wsdl:").append(name).append("><").append(prefix).append(":body use=\"literal\"/>");
        blocks.forEach(b -> out.append("<")
                .append(prefix)
                .append(":header message=\"tns:")
                .append(message)
                .append("\" part=\"")
                .append(b)
                .append("\" use=\"literal\"/>"));
        out.append("</wsdl:").append(name).append(">\n");
    }

    private String action(WrittenOperation operation) {
        String namespace = contract.namespace().strip();
        String between =
                namespace.endsWith("/") || namespace.endsWith(":") ? "" : namespace.startsWith("urn:") ? ":" : "/";
        return attribute(namespace + between + name(operation));
    }

    private void port(String prefix, String suffix, String address, StringBuilder out) {
        String service = attribute(contract.service());
        out.append("    <wsdl:port name=\"")
                .append(service)
                .append(suffix)
                .append("\" binding=\"tns:")
                .append(service)
                .append(suffix)
                .append("\">\n");
        out.append("      <")
                .append(prefix)
                .append(":address location=\"")
                .append(attribute(address.strip()))
                .append("\"/>\n");
        out.append("    </wsdl:port>\n");
    }
}
