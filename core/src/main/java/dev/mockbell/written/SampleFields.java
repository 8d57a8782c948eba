package dev.mockbell.written;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.StreamReadConstraints;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import dev.mockbell.problem.Problem;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.w3c.dom.Attr;
import org.w3c.dom.Document;
import org.w3c.dom.Element;

/**
 * The fields that a sample message has, of XML or JSON: what stands more than once repeats, what is not in each of several may be
 * left out, and types are those that all values are of.
 *
 * @param root the name of the message; empty for JSON, which has none
 */
public record SampleFields(String root, List<WrittenField> fields) {
    private static final int DEEPEST = 200;

    public SampleFields {
        fields = List.copyOf(fields);
    }

    /**
     * Reads a sample.
     *
     * @throws Problem when it is neither well-formed XML nor JSON
     */
    public static SampleFields of(String text) {
        String given = text.strip();
        if (given.isEmpty()) {
            throw Problem.input("There is no sample", null, "Paste a message of XML or JSON.");
        }
        return given.startsWith("<") ? xml(given) : json(given);
    }

    /** The operation that the message's name tells of: without what says that it is a request or an answer. */
    public String operation() {
        return root.replaceFirst("(Request|Req|Response|Resp|Answer|Result|Reply)$", "");
    }

    /** Whether the message's name says that it is an answer. */
    public boolean isAnswer() {
        return root.matches(".*(Response|Resp|Answer|Result|Reply)$");
    }

    private static SampleFields xml(String text) {
        Document document = Xml.parse(text, "the sample", XmlLimits.MESSAGE);
        Element root = document.getDocumentElement();
        if ("Envelope".equals(root.getLocalName())) {
            Optional<Document> payload = SoapMessage.of(document, "the sample").payloadDocument();
            root = payload.map(Document::getDocumentElement)
                    .orElseThrow(() -> Problem.input(
                            "The envelope's body is empty", "the sample", "Paste a message with something in it."));
        }
        return new SampleFields(
                root.getLocalName(), element("", List.of(root), 0).inner());
    }

    /** The field that elements of one name are. */
    private static WrittenField element(String name, List<Element> all, int depth) {
        if (depth > DEEPEST) {
            throw Problem.input("The sample is nested too deep", "the sample", "Paste a shorter one.");
        }
        Map<String, List<List<Element>>> children = new LinkedHashMap<>();
        Map<String, List<String>> attributes = new LinkedHashMap<>();
        List<String> values = new ArrayList<>();
        boolean nil = false;
        for (Element one : all) {
            Map<String, List<Element>> own = new LinkedHashMap<>();
            Xml.children(one)
                    .forEach(c -> own.computeIfAbsent(c.getLocalName(), n -> new ArrayList<>())
                            .add(c));
            own.forEach((n, list) ->
                    children.computeIfAbsent(n, k -> new ArrayList<>()).add(list));
            for (Attr a : Xml.attributes(one)) {
                if ("nil".equals(a.getLocalName())) {
                    nil = true;
                } else if (a.getNamespaceURI() == null) {
                    attributes
                            .computeIfAbsent(a.getName(), n -> new ArrayList<>())
                            .add(a.getValue());
                }
            }
            if (own.isEmpty() && !one.getTextContent().isEmpty()) {
                values.add(one.getTextContent());
            }
        }
        List<WrittenField> inner = new ArrayList<>();
        attributes.forEach((n, list) ->
                inner.add(field("@" + n, type(list), list.size() < all.size() ? "may be left out" : "", List.of())));
        children.forEach((n, lists) -> {
            List<Element> flat = lists.stream().flatMap(List::stream).toList();
            WrittenField made = element(n, flat, depth + 1);
            boolean repeats = lists.stream().anyMatch(l -> l.size() > 1);
            boolean always = lists.size() == all.size();
            inner.add(field(n, made.type(), often(repeats, always, made.often().contains("nil")), made.inner()));
        });
        String type = inner.isEmpty() ? type(values) : "";
        return new WrittenField(name, type, nil ? "may be nil" : "", "", "", inner);
    }

    private static WrittenField field(String name, String type, String often, List<WrittenField> inner) {
        return new WrittenField(name, type, often, "", "", inner);
    }

    private static String often(boolean repeats, boolean always, boolean nil) {
        String words = repeats ? always ? "once or more" : "any number" : always ? "" : "may be left out";
        return nil ? (words.isEmpty() ? "once" : words) + ", may be nil" : words;
    }

    private static String type(List<String> values) {
        if (values.isEmpty()) {
            return "text";
        }
        if (values.stream().allMatch(v -> v.strip().matches("-?(0|[1-9]\\d{0,8})"))) {
            return "whole number";
        }
        if (values.stream().allMatch(v -> v.strip().matches("-?(0|[1-9]\\d{0,30})(\\.\\d{1,30})?"))) {
            return "number";
        }
        if (values.stream().allMatch(v -> v.strip().matches("true|false"))) {
            return "yes or no";
        }
        if (values.stream()
                .allMatch(v -> v.strip()
                        .matches("\\d{4}-\\d{2}-\\d{2}T\\d{2}:\\d{2}:\\d{2}(\\.\\d+)?(Z|[+-]\\d{2}:\\d{2})?"))) {
            return "date and time";
        }
        if (values.stream().allMatch(v -> v.strip().matches("\\d{4}-\\d{2}-\\d{2}"))) {
            return "date";
        }
        return values.stream().allMatch(v -> v.strip().matches("\\d{2}:\\d{2}:\\d{2}")) ? "time" : "text";
    }

    private static SampleFields json(String text) {
        try {
            ObjectMapper mapper = new ObjectMapper(JsonFactory.builder()
                    .streamReadConstraints(StreamReadConstraints.builder()
                            .maxNestingDepth(DEEPEST)
                            .build())
                    .build());
            JsonNode root = mapper.readTree(text);
            if (!root.isContainerNode()) {
                throw Problem.input(
                        "The sample is neither XML nor a JSON object", "the sample", "Paste a whole message.");
            }
            List<JsonNode> nodes = root.isArray() ? list(root) : List.of(root);
            List<WrittenField> fields = members("", nodes).inner();
            return new SampleFields("", root.isArray() ? List.of(field("item", "", "any number", fields)) : fields);
        } catch (JsonProcessingException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The sample is neither well-formed XML nor JSON: " + e.getOriginalMessage(),
                    "the sample, line "
                            + (e.getLocation() == null ? 1 : e.getLocation().getLineNr()),
                    "Mend it there.",
                    e);
        }
    }

    private static List<JsonNode> list(JsonNode array) {
        List<JsonNode> all = new ArrayList<>();
        array.forEach(all::add);
        return all;
    }

    private static WrittenField members(String name, List<JsonNode> all) {
        Map<String, List<JsonNode>> members = new LinkedHashMap<>();
        List<String> values = new ArrayList<>();
        for (JsonNode one : all) {
            one.properties()
                    .forEach(e -> members.computeIfAbsent(e.getKey(), k -> new ArrayList<>())
                            .add(e.getValue()));
            if (one.isValueNode() && !one.isNull()) {
                values.add(one.isTextual() && one.asText().isBlank() ? "x" : one.asText());
            }
        }
        List<WrittenField> inner = new ArrayList<>();
        members.forEach((n, list) -> inner.add(member(n, list, list.size() == all.size())));
        return new WrittenField(name, inner.isEmpty() ? type(values) : "", "", "", "", inner);
    }

    private static WrittenField member(String name, List<JsonNode> values, boolean always) {
        boolean repeats = values.stream().anyMatch(JsonNode::isArray);
        boolean nil = values.stream().anyMatch(JsonNode::isNull);
        List<JsonNode> flat = new ArrayList<>();
        values.forEach(v -> {
            if (v.isArray()) {
                v.forEach(flat::add);
            } else {
                flat.add(v);
            }
        });
        WrittenField made = members(name, flat);
        String often = repeats ? often(true, false, false) : often(false, always, nil);
        String fit = Names.isName(name) ? name : Names.near(name);
        return new WrittenField(
                fit, made.type(), often, "", fit.equals(name) ? "" : "“" + name + "” in the sample", made.inner());
    }
}
