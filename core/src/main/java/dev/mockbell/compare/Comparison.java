package dev.mockbell.compare;

import dev.mockbell.message.MessagePath;
import dev.mockbell.xml.Xml;
import java.util.ArrayList;
import java.util.Collections;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import javax.xml.namespace.QName;
import org.w3c.dom.Attr;
import org.w3c.dom.Element;
import org.w3c.dom.Node;
import org.w3c.dom.Text;

/**
 * A message held against an older one, element by element. Prefixes, comments and declarations of namespaces say nothing and are
 * passed over. Costs what the two messages have, and for repeated elements that differ at most a million steps more each time.
 */
public final class Comparison {
    /** Differences that are kept one by one; beyond, they are counted. */
    public static final int MOST_KEPT = 5_000;

    private static final String XMLNS = "http://www.w3.org/2000/xmlns/";

    private Set<Node> leftOut;
    private Map<Element, Hash> hashes;
    private final List<Difference> differences = new ArrayList<>();
    private final Map<Difference.Kind, Integer> counts = new EnumMap<>(Difference.Kind.class);
    private final Map<Node, String> changed = new IdentityHashMap<>();
    private final Set<Node> more = Collections.newSetFromMap(new IdentityHashMap<>());

    private Comparison(Set<Node> leftOut, int elements) {
        this.leftOut = leftOut;
        // growing it step by step costs more than all the rest
        this.hashes = new IdentityHashMap<>(elements);
    }

    /**
     * Compares two messages by their roots.
     *
     * @param leftOut nodes of either that are not compared, with all below them
     */
    public static Comparison of(Element before, Element now, Set<Node> leftOut) {
        Comparison made = new Comparison(leftOut, count(before) + count(now));
        if (!name(before).equals(name(now))) {
            made.found(
                    Difference.Kind.CHANGED,
                    MessagePath.of(now),
                    name(before).toString(),
                    name(now).toString());
            made.more.add(now);
        } else if (!leftOut.contains(before) && !leftOut.contains(now)) {
            long was = made.hash(before).exact();
            if (was != made.hash(now).exact()) {
                made.compare(before, now, "/" + now.getLocalName());
            }
        }
        // nothing of the trees is held for longer, nor the room that they took
        made.hashes = Map.of();
        made.leftOut = Set.of();
        return made;
    }

    private static int count(Element element) {
        int count = 1;
        for (Node n = element.getFirstChild(); n != null; n = n.getNextSibling()) {
            count += n instanceof Element child ? count(child) : 0;
        }
        return count;
    }

    private void found(Difference.Kind kind, String path, String before, String now) {
        counts.merge(kind, 1, Integer::sum);
        if (differences.size() < MOST_KEPT) {
            differences.add(new Difference(kind, path, before, now));
        }
    }

    /**
     * What an element says.
     *
     * @param loose equal also where only white space differs, by which like is paired with like
     * @param exact equal where nothing is to be told
     */
    private record Hash(long loose, long exact) {
        Hash with(long looser, long exacter) {
            return new Hash(mixed(loose * 31 + looser), mixed(exact * 31 + exacter));
        }
    }

    private Hash hash(Element element) {
        long attributes = 0;
        for (Attr attr : attributes(element)) {
            // in whatever order
            attributes += mixed(name(attr).hashCode() * 31L + attr.getValue().hashCode());
        }
        long start = name(element).hashCode() * 0x9E3779B97F4A7C15L + attributes;
        Hash hash = new Hash(mixed(start), mixed(start));
        StringBuilder text = new StringBuilder();
        boolean elements = false;
        for (Node n = element.getFirstChild(); n != null; n = n.getNextSibling()) {
            if (n instanceof Element child) {
                elements = true;
                if (!leftOut.contains(child)) {
                    Hash below = hash(child);
                    hash = hash.with(below.loose, below.exact);
                }
            } else if (n instanceof Text t) {
                text.append(t.getData());
            }
        }
        // white space between elements says nothing, and in a value it is told
        String all = elements && text.toString().isBlank() ? "" : text.toString();
        hash = hash.with(normal(all).hashCode(), all.hashCode());
        hashes.put(element, hash);
        return hash;
    }

    private static long mixed(long value) {
        long x = value * 0xBF58476D1CE4E5B9L;
        x ^= x >>> 29;
        x *= 0x94D049BB133111EBL;
        return x ^ x >>> 32;
    }

    private static QName name(Node node) {
        String local = node.getLocalName() == null ? node.getNodeName() : node.getLocalName();
        return new QName(node.getNamespaceURI() == null ? "" : node.getNamespaceURI(), local);
    }

    private List<Attr> attributes(Element element) {
        List<Attr> found = new ArrayList<>();
        for (Attr attr : Xml.attributes(element)) {
            if (!XMLNS.equals(attr.getNamespaceURI()) && !leftOut.contains(attr)) {
                found.add(attr);
            }
        }
        return found;
    }

    private void compare(Element before, Element now, String path) {
        compareAttributes(before, now, path);
        List<Element> was = children(before);
        List<Element> is = children(now);
        String oldText = text(before);
        String newText = text(now);
        boolean leaf = was.isEmpty() && is.isEmpty();
        if (!oldText.equals(newText) && (leaf || !oldText.isBlank() || !newText.isBlank())) {
            boolean spaced = normal(oldText).equals(normal(newText));
            found(spaced ? Difference.Kind.WHITE_SPACE : Difference.Kind.CHANGED, path, oldText, newText);
            if (!spaced) {
                changed.put(now, oldText);
            }
        }
        if (!leaf) {
            compareChildren(was, is, path, positions(before), positions(now));
        }
    }

    private void compareAttributes(Element before, Element now, String path) {
        Map<QName, Attr> old = new LinkedHashMap<>();
        attributes(before).forEach(a -> old.put(name(a), a));
        for (Attr attr : attributes(now)) {
            Attr was = old.remove(name(attr));
            String at = path + "/" + step(attr);
            if (was == null) {
                found(Difference.Kind.MORE, at, "", attr.getValue());
                more.add(attr);
            } else if (!was.getValue().equals(attr.getValue())) {
                boolean spaced = normal(was.getValue()).equals(normal(attr.getValue()));
                found(
                        spaced ? Difference.Kind.WHITE_SPACE : Difference.Kind.CHANGED,
                        at,
                        was.getValue(),
                        attr.getValue());
                if (!spaced) {
                    changed.put(attr, was.getValue());
                }
            }
        }
        old.values().forEach(a -> found(Difference.Kind.GONE, path + "/" + step(a), a.getValue(), ""));
    }

    private static String step(Attr attr) {
        String local = attr.getLocalName() == null ? attr.getName() : attr.getLocalName();
        return attr.getNamespaceURI() == null ? "@" + local : "@*:" + local;
    }

    private void compareChildren(
            List<Element> was,
            List<Element> is,
            String path,
            Map<Element, String> oldSteps,
            Map<Element, String> newSteps) {
        Map<QName, List<Element>> old = byName(was);
        Map<QName, List<Element>> others = byName(is);
        Map<Element, Element> pairs = new IdentityHashMap<>();
        others.forEach((name, list) -> {
            List<Element> like = old.getOrDefault(name, List.of());
            Alignment alignment = Alignment.of(like, list, e -> hashes.get(e).loose(), key(like, list));
            for (int j = 0; j < list.size(); j++) {
                Element now = list.get(j);
                String at = path + "/" + newSteps.get(now);
                int place = alignment.before()[j];
                if (place < 0) {
                    found(Difference.Kind.MORE, at, "", gist(now));
                    more.add(now);
                } else {
                    pairs.put(now, like.get(place));
                    if (hashes.get(now).exact() != hashes.get(like.get(place)).exact()) {
                        compare(like.get(place), now, at);
                    }
                }
            }
            alignment.gone().forEach(place -> gone(like.get(place), path, oldSteps));
        });
        old.forEach((name, list) -> {
            if (!others.containsKey(name)) {
                list.forEach(e -> gone(e, path, oldSteps));
            }
        });
        compareOrder(was, is, pairs, path, newSteps);
    }

    private void gone(Element element, String path, Map<Element, String> steps) {
        found(Difference.Kind.GONE, path + "/" + steps.get(element), gist(element), "");
    }

    /** The first that does not follow what it followed before; those behind it are mostly shifted by it alone. */
    private void compareOrder(
            List<Element> was, List<Element> is, Map<Element, Element> pairs, String path, Map<Element, String> steps) {
        Map<Element, Integer> places = new IdentityHashMap<>();
        for (int i = 0; i < was.size(); i++) {
            places.put(was.get(i), i);
        }
        int last = -1;
        for (Element now : is) {
            Element before = pairs.get(now);
            if (before != null) {
                int place = places.get(before);
                if (place < last) {
                    found(Difference.Kind.ORDER, path + "/" + steps.get(now), "", "");
                    return;
                }
                last = place;
            }
        }
    }

    private static Map<QName, List<Element>> byName(List<Element> elements) {
        return elements.stream()
                .collect(Collectors.groupingBy(Comparison::name, LinkedHashMap::new, Collectors.toList()));
    }

    private List<Element> children(Element element) {
        List<Element> all = Xml.children(element);
        return leftOut.isEmpty()
                ? all
                : all.stream().filter(e -> !leftOut.contains(e)).toList();
    }

    /** Each child's name, with its position where there are several. */
    private static Map<Element, String> positions(Element parent) {
        Map<String, Integer> like = new HashMap<>();
        List<Element> all = Xml.children(parent);
        all.forEach(e -> like.merge(e.getLocalName(), 1, Integer::sum));
        Map<String, Integer> seen = new HashMap<>();
        Map<Element, String> steps = new IdentityHashMap<>();
        for (Element e : all) {
            int position = seen.merge(e.getLocalName(), 1, Integer::sum);
            steps.put(e, like.get(e.getLocalName()) > 1 ? e.getLocalName() + "[" + position + "]" : e.getLocalName());
        }
        return steps;
    }

    /**
     * A field or attribute of its own that every one has and no two share, as an identifier would be; of several that of which most
     * values are in both lists, since what identifies stays while what it is about changes. Null for none.
     */
    private Function<Element, String> key(List<Element> was, List<Element> is) {
        if (was.size() < 2 && is.size() < 2 || was.isEmpty() || is.isEmpty()) {
            return null;
        }
        List<Function<Element, String>> candidates = new ArrayList<>();
        for (Element field : children(is.get(0))) {
            if (Xml.children(field).isEmpty() && candidates.size() < 3) {
                QName name = name(field);
                candidates.add(e -> Xml.children(e, field.getNamespaceURI(), name.getLocalPart()).stream()
                        .findFirst()
                        .map(f -> f.getTextContent().strip())
                        .orElse(""));
            }
        }
        for (Attr attr : attributes(is.get(0))) {
            candidates.add(
                    e -> e.getAttributeNS(attr.getNamespaceURI(), name(attr).getLocalPart())
                            .strip());
        }
        Function<Element, String> best = null;
        int most = -1;
        for (Function<Element, String> key : candidates) {
            Set<String> before = values(was, key);
            Set<String> now = before.isEmpty() ? Set.of() : values(is, key);
            if (!now.isEmpty()) {
                now.retainAll(before);
                if (now.size() > most) {
                    most = now.size();
                    best = key;
                }
            }
        }
        return best;
    }

    /** The values of what may be a key; none when it is missing somewhere, or two have the same. */
    private static Set<String> values(List<Element> elements, Function<Element, String> key) {
        Set<String> seen = new HashSet<>();
        for (Element e : elements) {
            String value = key.apply(e);
            if (value.isEmpty() || !seen.add(value)) {
                return Set.of();
            }
        }
        return seen;
    }

    private static String text(Element element) {
        StringBuilder text = new StringBuilder();
        for (Node n = element.getFirstChild(); n != null; n = n.getNextSibling()) {
            if (n instanceof Text t) {
                text.append(t.getData());
            }
        }
        return text.toString();
    }

    private static String normal(String text) {
        boolean plain = true;
        for (int i = 0; i < text.length() && plain; i++) {
            char c = text.charAt(i);
            plain = c > ' ' || c == ' ' && i > 0 && i < text.length() - 1 && text.charAt(i - 1) != ' ';
        }
        return plain ? text : text.strip().replaceAll("\\s+", " ");
    }

    /** The first few values in an element, for a line. */
    private static String gist(Element element) {
        StringBuilder text = new StringBuilder();
        gist(element, text);
        return text.toString();
    }

    private static void gist(Element element, StringBuilder into) {
        String own = text(element).strip();
        if (!own.isEmpty() && into.length() < 100) {
            into.append(into.length() == 0 ? "" : ", ").append(own, 0, Math.min(own.length(), 100));
        }
        for (Node n = element.getFirstChild(); n != null && into.length() < 100; n = n.getNextSibling()) {
            if (n instanceof Element child) {
                gist(child, into);
            }
        }
    }

    /** The differences in the order of the newer message, the first {@value #MOST_KEPT}. */
    public List<Difference> differences() {
        return Collections.unmodifiableList(differences);
    }

    /** How many differences of a kind there are, also those that are not kept. */
    public int count(Difference.Kind kind) {
        return counts.getOrDefault(kind, 0);
    }

    /** Whether both say the same, however it is ordered and spaced. */
    public boolean isSame() {
        return counts.keySet().stream().noneMatch(Difference.Kind::counts);
    }

    /** What an element or attribute of the newer message held before; empty when it holds the same, or was not there. */
    public Optional<String> before(Node now) {
        return Optional.ofNullable(changed.get(now));
    }

    /** Whether an element or attribute of the newer message, or what it stands in, was not there before. */
    public boolean isMore(Node now) {
        Node at = now;
        while (at != null) {
            if (more.contains(at)) {
                return true;
            }
            at = at instanceof Attr attr ? attr.getOwnerElement() : at.getParentNode();
        }
        return false;
    }

    /** "3 changed, 1 gone; order differs", or "the same". */
    public String words() {
        List<String> words = new ArrayList<>();
        add(words, Difference.Kind.CHANGED, "changed");
        add(words, Difference.Kind.MORE, "more");
        add(words, Difference.Kind.GONE, "gone");
        String values = words.isEmpty() ? "the same" : String.join(", ", words);
        String order = count(Difference.Kind.ORDER) > 0 ? "; the order differs" : "";
        String space = count(Difference.Kind.WHITE_SPACE) > 0 ? "; white space differs" : "";
        return values + order + space;
    }

    private void add(List<String> words, Difference.Kind kind, String word) {
        if (count(kind) > 0) {
            words.add(count(kind) + " " + word);
        }
    }
}
