package dev.mockbell.schema;

import java.util.Locale;
import java.util.Map;
import java.util.MissingResourceException;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.apache.xerces.impl.xs.XSMessageFormatter;
import org.apache.xerces.util.MessageFormatter;

/**
 * Says what breaks a rule of XML Schema, each a sentence without its full stop. The rules that schemas of services break are
 * said in plain words; the others in the library's.
 */
public final class SchemaWords implements MessageFormatter {
    /** By the rule's name in the recommendation; {0} and so on are what the library tells of it. */
    static final Map<String, String> PLAIN = Map.ofEntries(
            Map.entry("src-resolve", "No schema has the {1} {0}"),
            Map.entry("src-resolve.4.1", "{2} has no namespace here, and this schema imports no schema without one"),
            Map.entry("src-resolve.4.2", "{2} is of the namespace {1}, of which there is no schema"),
            Map.entry("s4s-att-invalid-value", "The attribute {1} of <{0}> has a value that it cannot have: {2}"),
            Map.entry("s4s-att-must-appear", "<{0}> lacks the attribute {1}"),
            Map.entry("s4s-att-not-allowed", "<{0}> has the attribute {1}, which means nothing there"),
            Map.entry("s4s-elt-must-match.1", "<{2}> cannot stand where it does in <{0}>"),
            Map.entry("s4s-elt-must-match.2", "<{0}> lacks what it must hold"),
            Map.entry("s4s-elt-invalid-content.1", "<{1}> cannot stand where it does in {0}, or not so often"),
            Map.entry("s4s-elt-invalid-content.2", "<{1}> is empty, which it cannot be in {0}"),
            Map.entry("s4s-elt-invalid-content.3", "<{0}> stands behind declarations and must stand before them"),
            Map.entry("cos-all-limited.1.2", "An all group stands beside other content; it can only be all of it"),
            Map.entry("cos-all-limited.2", "{1} may stand {0} times in an all group, where once is the most"),
            Map.entry("ct-props-correct.3", "The type {0} is derived from itself"),
            Map.entry("ct-props-correct.4", "The type {0} has the attribute {1} twice"),
            Map.entry("ct-props-correct.5", "The type {0} has two attributes of the type ID, {1} and {2}"),
            Map.entry("ag-props-correct.2", "The attribute group {0} has the attribute {1} twice"),
            Map.entry("st-props-correct.2", "The type {0} is derived from itself"),
            Map.entry("mg-props-correct.2", "The group {0} holds itself"),
            Map.entry("src-attribute_group.3", "The attribute group {0} holds itself"),
            Map.entry("cos-ct-extends.1.1", "The type {0} extends {1}, which allows no extension"),
            Map.entry("cos-ct-extends.1.4.3.2.2.1.a", "The type {0} is not mixed, while the type that it extends is"),
            Map.entry("cos-ct-extends.1.4.3.2.2.1.b", "The type {0} is mixed, while the type that it extends is not"),
            Map.entry("derivation-ok-restriction.1", "The type {0} restricts {1}, which allows no restriction"),
            Map.entry("src-ct.1", "The type {0} has complexContent, while its base {1} is a simple type"),
            Map.entry("src-ct.2.1", "The type {0} has simpleContent, while its base has none"),
            Map.entry("src-element.1", "The element {0} has both a default and a fixed value"),
            Map.entry("src-element.2.1", "An element has neither a name nor a ref"),
            Map.entry("src-element.3", "The element {0} has a type by name and another inside"),
            Map.entry("src-attribute.1", "The attribute {0} has both a default and a fixed value"),
            Map.entry("src-attribute.2", "The attribute {0} has a default value and is not optional"),
            Map.entry("src-attribute.3.1", "An attribute has neither a name nor a ref"),
            Map.entry("src-attribute.4", "The attribute {0} has a type by name and another inside"),
            Map.entry("sch-props-correct.2", "{0} is declared twice; the first counts"),
            Map.entry("p-props-correct.2.1", "minOccurs is {1}, above maxOccurs, which is {2}"),
            Map.entry(
                    "minInclusive-less-than-equal-to-maxInclusive",
                    "minInclusive is {0}, above maxInclusive, which is {1}"),
            Map.entry("minLength-less-than-equal-to-maxLength", "minLength is {0}, above maxLength, which is {1}"),
            Map.entry("enumeration-valid-restriction", "“{0}” is listed and is no value of the type {1}"),
            Map.entry("cos-applicable-facets", "The facet {0} is none of the type {1}"),
            Map.entry("InvalidRegex", "The pattern {0} is no regular expression of XML Schema: {1}"));

    private static final Map<String, String> KINDS = Map.of(
            "type definition", "type",
            "element declaration", "element",
            "attribute declaration", "attribute",
            "attribute group", "attribute group",
            "group", "group",
            "notation", "notation",
            "identity constraint", "key");

    private static final Pattern AT_THE_START = Pattern.compile("^[A-Za-z][\\w.-]*: (: )?");
    private static final Pattern WITHIN = Pattern.compile("(?<=\\s)[a-z0-9]+(-[A-Za-z0-9]+)+[\\w.]*: ");

    private static final Pattern COMMA = Pattern.compile("([^\\s,]*),([^\\s,]+)");

    private final MessageFormatter library = new XSMessageFormatter();

    SchemaWords() {}

    @Override
    public String formatMessage(Locale locale, String key, Object[] arguments) throws MissingResourceException {
        String plain = PLAIN.get(key);
        if (plain == null) {
            // its own names of rules stand before the sentences and within them
            return tidy(library.formatMessage(Locale.ENGLISH, key, arguments));
        }
        String text = plain;
        for (int i = 0; arguments != null && i < arguments.length; i++) {
            text = text.replace("{" + i + "}", shown(String.valueOf(arguments[i])));
        }
        return text;
    }

    /** A qualified name comes with a comma between namespace and name, an element with where it stands. */
    private static String shown(String argument) {
        Matcher name = COMMA.matcher(argument);
        String read = name.matches()
                ? name.group(1).isEmpty() ? name.group(2) : "{" + name.group(1) + "}" + name.group(2)
                : argument.replaceFirst(" \\((local|global)\\)$", "");
        return tidy(KINDS.getOrDefault(read, read));
    }

    /** What the library says of a rule, without the rule's name, which stands before the text and within it. */
    public static String withoutRules(String text) {
        return AT_THE_START
                .matcher(WITHIN.matcher(text).replaceAll(""))
                .replaceFirst("")
                .strip();
    }

    /** As {@link #withoutRules}, and without the last full stop. */
    static String tidy(String text) {
        return withoutRules(text).replaceFirst("\\.$", "");
    }
}
