package dev.mockbell.project;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.problem.Problem;
import java.io.StringReader;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.Map;
import java.util.regex.Pattern;
import org.yaml.snakeyaml.DumperOptions.ScalarStyle;
import org.yaml.snakeyaml.LoaderOptions;
import org.yaml.snakeyaml.Yaml;
import org.yaml.snakeyaml.error.Mark;
import org.yaml.snakeyaml.error.MarkedYAMLException;
import org.yaml.snakeyaml.error.YAMLException;
import org.yaml.snakeyaml.nodes.MappingNode;
import org.yaml.snakeyaml.nodes.Node;
import org.yaml.snakeyaml.nodes.NodeTuple;
import org.yaml.snakeyaml.nodes.ScalarNode;
import org.yaml.snakeyaml.nodes.SequenceNode;

/**
 * YAML as a tree whose values know their lines. Plain scalars are read by the core schema of YAML 1.2 (§10.3.2), so that
 * {@code no} is a word; where the file's schema wants text, {@code 007} and {@code 1.50} stay what was written.
 */
final class YamlReader {
    private static final int MOST_CHARACTERS = 64 << 20;
    private static final int MOST_VALUES = 1_000_000;
    private static final int DEEPEST = 100;
    private static final Pattern WHOLE = Pattern.compile("[-+]?(0|[1-9][0-9]{0,400})");
    private static final Pattern NUMBER = Pattern.compile("[-+]?(\\.[0-9]+|[0-9]+(\\.[0-9]*)?)([eE][-+]?[0-9]{1,3})?");

    /** @param lines where each value stands, counted from 1, by its JSON pointer (RFC 6901) */
    record Read(JsonNode tree, Map<String, Integer> lines) {
        /** The line of a value, or of the nearest that it is in. */
        int line(String pointer) {
            String at = pointer;
            while (!lines.containsKey(at) && !at.isEmpty()) {
                at = at.substring(0, at.lastIndexOf('/'));
            }
            return lines.getOrDefault(at, 1);
        }
    }

    private final String file;
    private final Map<String, Integer> lines = new HashMap<>();
    private final Map<Node, Boolean> open = new IdentityHashMap<>();
    private int values;

    private YamlReader(String file) {
        this.file = file;
    }

    /**
     * Reads text.
     *
     * @param file its name, for what there is to say
     * @throws Problem with line and column when it is not well-formed YAML
     */
    static Read read(String text, String file, SchemaPlace place) {
        LoaderOptions options = new LoaderOptions();
        options.setCodePointLimit(MOST_CHARACTERS);
        options.setNestingDepthLimit(DEEPEST);
        options.setAllowDuplicateKeys(false);
        YamlReader reader = new YamlReader(file);
        try {
            Node root = new Yaml(options).compose(new StringReader(text));
            JsonNode tree = root == null ? JsonNodeFactory.instance.nullNode() : reader.node(root, place, "");
            return new Read(tree, reader.lines);
        } catch (MarkedYAMLException e) {
            Mark mark = e.getProblemMark();
            String at = mark == null ? "" : ":" + (mark.getLine() + 1) + ":" + (mark.getColumn() + 1);
            throw wrong(e.getProblem() == null ? Problem.reason(e) : e.getProblem(), file + at, e);
        } catch (YAMLException e) {
            throw wrong(Problem.reason(e).lines().findFirst().orElse(""), file, e);
        }
    }

    private static Problem wrong(String what, String place, Exception cause) {
        return Problem.of(
                Problem.Kind.INPUT,
                "The file is not well-formed YAML: " + what,
                place,
                "Mend it there; it is left as it is.",
                cause);
    }

    private Problem wrong(String what, Node node) {
        Mark mark = node.getStartMark();
        return wrong(what, file + ":" + (mark.getLine() + 1) + ":" + (mark.getColumn() + 1), null);
    }

    private JsonNode node(Node node, SchemaPlace place, String pointer) {
        if (++values > MOST_VALUES) {
            throw wrong("it has more than " + MOST_VALUES + " values", node);
        }
        lines.put(pointer, node.getStartMark().getLine() + 1);
        if (node instanceof ScalarNode scalar) {
            return scalar(scalar, place);
        }
        if (open.put(node, true) != null) {
            throw wrong("a value holds itself", node);
        }
        JsonNode made = node instanceof MappingNode mapping
                ? mapping(mapping, place, pointer)
                : sequence((SequenceNode) node, place, pointer);
        open.remove(node);
        return made;
    }

    private ObjectNode mapping(MappingNode node, SchemaPlace place, String pointer) {
        ObjectNode made = JsonNodeFactory.instance.objectNode();
        for (NodeTuple tuple : node.getValue()) {
            if (!(tuple.getKeyNode() instanceof ScalarNode key)) {
                throw wrong("a key must be text", tuple.getKeyNode());
            }
            String name = key.getValue();
            if (made.has(name)) {
                throw wrong("the key “" + name + "” stands here twice", key);
            }
            String below = pointer + "/" + name.replace("~", "~0").replace("/", "~1");
            made.set(name, node(tuple.getValueNode(), place.key(name), below));
            lines.put(below, key.getStartMark().getLine() + 1);
        }
        return made;
    }

    private ArrayNode sequence(SequenceNode node, SchemaPlace place, String pointer) {
        ArrayNode made = JsonNodeFactory.instance.arrayNode();
        SchemaPlace item = place.item();
        for (Node value : node.getValue()) {
            made.add(node(value, item, pointer + "/" + made.size()));
        }
        return made;
    }

    private static JsonNode scalar(ScalarNode node, SchemaPlace place) {
        JsonNodeFactory make = JsonNodeFactory.instance;
        String text = node.getValue();
        boolean plain = node.getScalarStyle() == ScalarStyle.PLAIN;
        if (!plain || place.isText() && !isNull(text)) {
            return make.textNode(text);
        }
        if (isNull(text)) {
            return place.isText() ? make.textNode("") : make.nullNode();
        }
        if (text.matches("true|True|TRUE|false|False|FALSE")) {
            return make.booleanNode(text.charAt(0) == 't' || text.charAt(0) == 'T');
        }
        if (WHOLE.matcher(text).matches()) {
            BigInteger number = new BigInteger(text);
            return number.bitLength() < 32
                    ? make.numberNode(number.intValue())
                    : number.bitLength() < 64 ? make.numberNode(number.longValue()) : make.numberNode(number);
        }
        if (NUMBER.matcher(text).matches() && !text.matches("[-+]?0[0-9]+")) {
            return make.numberNode(new BigDecimal(text));
        }
        return make.textNode(text);
    }

    private static boolean isNull(String text) {
        return text.isEmpty() || text.equals("~") || text.equalsIgnoreCase("null");
    }
}
