package dev.mockbell.load;

import dev.mockbell.check.Capture;
import dev.mockbell.check.Check;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Expressions.Compiled;
import dev.mockbell.expression.Expressions.Effort;
import dev.mockbell.expression.Scope;
import dev.mockbell.expression.TreeBuilding;
import dev.mockbell.expression.TreeCopy;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.suite.Case;
import dev.mockbell.xml.Xml;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import net.sf.saxon.s9api.XdmAtomicValue;
import net.sf.saxon.s9api.XdmNode;
import net.sf.saxon.s9api.XdmValue;
import org.codehaus.stax2.XMLInputFactory2;
import org.codehaus.stax2.io.Stax2ByteArraySource;

/**
 * Looks into good answers the quick way, where all that is asked are conditions, values at paths, and captures: the payload
 * becomes a tree as it is read, and expressions are compiled once. It says only that an answer is good; whatever is not surely so
 * is looked at again in full, which finds the words for it.
 */
final class QuickLook {
    private static final String STATUS = "status";
    private static final String MILLIS = "millis";

    private final Expressions expressions;
    private final XMLInputFactory2 xml = (XMLInputFactory2) Xml.streaming();
    private final List<String> names;
    private final XdmValue[] known;
    private final List<Asked> conditions = new ArrayList<>();
    private final List<Asked> captures = new ArrayList<>();

    /** The head of a plain answer; most have the same until the clock's next second. */
    private volatile String plain = "";

    /**
     * @param expected the text that must be found; null for a condition
     * @param name of the capture; empty for a check
     */
    private record Asked(Compiled compiled, String expected, String name) {}

    private QuickLook(Expressions expressions, List<String> names, XdmValue[] known) {
        this.expressions = expressions;
        this.names = names;
        this.known = known;
    }

    /**
     * The quick way for a case.
     *
     * @param captured names of variables that come up in the run
     * @return empty where more is asked of answers than goes quickly
     */
    static Optional<QuickLook> of(
            Case kept, Optional<MessageOutline> outline, Scope scope, Expressions expressions, Set<String> captured) {
        boolean simple =
                outline.filter(o -> !o.isWholeBody() && o.encoding().isEmpty()).isPresent();
        if (!simple) {
            return Optional.empty();
        }
        Set<String> all = new TreeSet<>(captured);
        all.addAll(scope.variables().keySet());
        all.add(STATUS);
        all.add(MILLIS);
        List<String> names = List.copyOf(all);
        QuickLook made = new QuickLook(
                expressions, names, names.stream().map(scope.variables()::get).toArray(XdmValue[]::new));
        try {
            for (Check check : kept.checks()) {
                if (!made.add(check, scope)) {
                    return Optional.empty();
                }
            }
            for (Capture capture : kept.captures()) {
                if (capture.takes() != Capture.Takes.VALUE || capture.fromRequest()) {
                    return Optional.empty();
                }
                made.captures.add(new Asked(expressions.compiled(capture.path(), names, scope), null, capture.name()));
            }
        } catch (Problem wrong) {
            // the full look says it at its place
            return Optional.empty();
        }
        return Optional.of(made);
    }

    private boolean add(Check check, Scope scope) {
        if (check instanceof Check.NoFault || check.latestMillis().isPresent()) {
            // a fault is left to the full look; lateness is judged by who knows when it was due
            return true;
        }
        if (check instanceof Check.Condition condition) {
            conditions.add(new Asked(expressions.compiled(condition.xpath(), names, scope), null, ""));
            return true;
        }
        boolean plain = check instanceof Check.Value value
                && value.tolerance().isEmpty()
                && value.expected().indexOf('{') < 0
                && value.expected().indexOf('}') < 0;
        if (plain) {
            Check.Value value = (Check.Value) check;
            conditions.add(new Asked(expressions.compiled(value.path(), names, scope), value.expected(), ""));
        }
        return plain;
    }

    /**
     * Looks into an answer.
     *
     * @param head its start line and fields
     * @param values of variables; captures are added
     * @return whether it is surely good
     * @throws Expressions.MoreEffort when an expression takes more than a moment
     */
    boolean isGood(int status, String head, byte[] body, long nanos, Map<String, String> values) {
        if (!isPlain(head)) {
            return false;
        }
        XdmNode payload;
        try {
            payload = payload(body);
        } catch (XMLStreamException notSo) {
            return false;
        }
        if (payload == null) {
            return false;
        }
        XdmValue[] bound = known.clone();
        for (int i = 0; i < bound.length; i++) {
            String name = names.get(i);
            String value = values.get(name);
            if (value != null) {
                bound[i] = Scope.untyped(value);
            } else if (STATUS.equals(name)) {
                bound[i] = new XdmAtomicValue(status);
            } else if (MILLIS.equals(name)) {
                bound[i] = new XdmAtomicValue(nanos / 1_000_000);
            }
        }
        try {
            for (Asked asked : conditions) {
                boolean holds = asked.expected() == null
                        ? asked.compiled().holds(bound, payload, Effort.LITTLE)
                        : isValue(asked, asked.compiled().value(bound, payload, Effort.LITTLE));
                if (!holds) {
                    return false;
                }
            }
            return taken(bound, payload, values);
        } catch (Problem undecided) {
            return false;
        }
    }

    private static boolean isValue(Asked asked, XdmValue found) {
        return found.size() > 0 && asked.expected().equals(Expressions.text(found));
    }

    private boolean taken(XdmValue[] bound, XdmNode payload, Map<String, String> values) {
        String[] found = new String[captures.size()];
        for (int i = 0; i < found.length; i++) {
            XdmValue value = captures.get(i).compiled().value(bound, payload, Effort.LITTLE);
            if (value.size() != 1) {
                // nothing, or more than one: the full look knows what that means
                return false;
            }
            found[i] = Expressions.text(value);
        }
        for (int i = 0; i < found.length; i++) {
            values.put(captures.get(i).name(), found[i]);
        }
        return true;
    }

    /** UTF-8 and nothing around the envelope; other forms go the long way. */
    private boolean isPlain(String head) {
        if (head.equals(plain)) {
            return true;
        }
        boolean is = isPlainly(head);
        if (is) {
            plain = head;
        }
        return is;
    }

    private static boolean isPlainly(String head) {
        String fields = head.toLowerCase(Locale.ROOT);
        boolean utf8 = !fields.contains("charset=")
                || fields.contains("charset=utf-8")
                || fields.contains("charset=\"utf-8\"");
        return utf8 && !fields.contains("multipart/") && !fields.contains("content-encoding:");
    }

    /** The payload as a document; null when there is none, or it is a fault, or this is no envelope. */
    private XdmNode payload(byte[] body) throws XMLStreamException {
        XMLStreamReader reader = xml.createXMLStreamReader(new Stax2ByteArraySource(body, 0, body.length));
        TreeCopy copy = new TreeCopy();
        XdmNode found = null;
        String soap = "";
        int depth = 0;
        boolean inBody = false;
        try {
            while (reader.hasNext()) {
                int event = reader.next();
                if (event == XMLStreamConstants.START_ELEMENT) {
                    depth++;
                    String namespace = reader.getNamespaceURI();
                    if (depth == 1) {
                        soap = namespace;
                        if (!"Envelope".equals(reader.getLocalName())
                                || SoapVersion.ofNamespace(String.valueOf(soap)).isEmpty()) {
                            return null;
                        }
                        copy.declared(reader);
                    } else if (depth == 2) {
                        inBody = "Body".equals(reader.getLocalName()) && soap.equals(namespace);
                        if (inBody) {
                            copy.declared(reader);
                        }
                    } else if (depth == 3 && inBody) {
                        if (found != null || soap.equals(namespace)) {
                            return null;
                        }
                        TreeBuilding tree = expressions.building();
                        copy.copy(reader, tree);
                        found = tree.done();
                        depth--;
                    }
                } else if (event == XMLStreamConstants.END_ELEMENT) {
                    depth--;
                } else if (event == XMLStreamConstants.DTD) {
                    return null;
                }
            }
        } finally {
            reader.close();
        }
        return found;
    }
}
