package dev.mockbell.completion;

import dev.mockbell.message.MessageOutline;
import dev.mockbell.schema.AttributeDecl;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.schema.Particle;
import dev.mockbell.schema.SimpleType;
import dev.mockbell.schema.TypeDef;
import dev.mockbell.sheet.Sheet;
import dev.mockbell.sheet.Variant;
import dev.mockbell.xml.TagScan;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javax.xml.namespace.QName;

/** What can be written at a place of a message, by the contract. The text need not be well-formed. */
public final class Completions {
    private static final Pattern DECLARATION = Pattern.compile("xmlns(?::([^\\s=]+))?\\s*=\\s*([\"'])(.*?)\\2");
    private static final Pattern TYPE = Pattern.compile("\\s([^\\s=<>\"'/]+):type\\s*=\\s*([\"'])(.*?)\\2");
    private static final Pattern ATTRIBUTE = Pattern.compile("([^\\s=<>\"'/]+)\\s*=\\s*[\"']");

    /**
     * A proposal.
     *
     * @param label what is shown
     * @param detail its type
     * @param text what takes the place of what was written so far
     * @param caret where the caret goes within the text
     */
    public record Proposal(String label, String detail, String documentation, String text, int caret) {}

    /**
     * What is proposed at a place.
     *
     * @param from offset of what was written so far, which a proposal replaces
     */
    public record At(int from, List<Proposal> proposals) {
        static At none(int offset) {
            return new At(offset, List.of());
        }
    }

    private final MessageOutline outline;
    private final String text;
    private final int offset;
    private final Map<String, String> prefixes = new LinkedHashMap<>();
    private final Map<String, String> namespaces = new HashMap<>();

    /**
     * An element on the way.
     *
     * @param name without its prefix
     * @param type the type that it says it has; empty for the declared one
     */
    private record Step(String name, Optional<TypeDef> type) {}

    /** An element with the type that it has at its place. */
    private record Held(ElementDecl element, TypeDef type) {}

    private Completions(MessageOutline outline, String text, int offset) {
        this.outline = outline;
        this.text = text;
        this.offset = offset;
    }

    /** What can stand at an offset of a payload or an envelope. */
    public static At at(MessageOutline outline, String text, int offset) {
        return new Completions(outline, text, Math.max(0, Math.min(offset, text.length()))).find();
    }

    private At find() {
        if (isIn("<!--", "-->") || isIn("<![CDATA[", "]]>") || isIn("<?", "?>")) {
            return At.none(offset);
        }
        int tag = text.lastIndexOf('<', offset - 1);
        int start = tag >= 0 && isInTag(tag) ? tag : -1;
        List<TagScan.Tag> open =
                TagScan.of(text.substring(0, start >= 0 ? start : offset)).openAt(offset);
        prefixes.putAll(outline.prefixes().entrySet().stream()
                .collect(LinkedHashMap::new, (m, e) -> m.put(e.getKey(), e.getValue()), Map::putAll));
        open.forEach(t -> declarations(text.substring(t.start(), t.end())));
        if (start < 0) {
            return content(open);
        }
        String written = text.substring(start + 1, offset);
        if (written.startsWith("/")) {
            return close(open, start);
        }
        if (written.chars().noneMatch(Character::isWhitespace)) {
            return elements(open, start, written);
        }
        declarations(text.substring(start, offset));
        return inTag(open, written);
    }

    private boolean isIn(String opening, String closing) {
        int open = text.lastIndexOf(opening, offset - 1);
        int close = open < 0 ? -1 : text.indexOf(closing, open + 2);
        return open >= 0 && (close < 0 || close + closing.length() > offset);
    }

    /** Whether the offset is still within the tag that starts there. */
    private boolean isInTag(int start) {
        char quote = 0;
        for (int i = start + 1; i < offset; i++) {
            char c = text.charAt(i);
            if (quote != 0) {
                quote = c == quote ? 0 : quote;
            } else if (c == '"' || c == '\'') {
                quote = c;
            } else if (c == '>') {
                return false;
            }
        }
        return !text.startsWith("<!", start) && !text.startsWith("<?", start);
    }

    private void declarations(String tag) {
        Matcher matcher = DECLARATION.matcher(tag);
        while (matcher.find()) {
            String prefix = matcher.group(1) == null ? "" : matcher.group(1);
            prefixes.put(matcher.group(3), prefix);
            namespaces.put(prefix, matcher.group(3));
        }
    }

    /** An element with its tag as far as it is written; the declarations in it and around it are known. */
    private Step step(String name, String tag) {
        Matcher matcher = TYPE.matcher(tag);
        Optional<TypeDef> type = Optional.empty();
        while (matcher.find()) {
            if (Sheet.XSI.equals(namespaces.get(matcher.group(1)))) {
                String named = matcher.group(3).strip();
                int colon = named.indexOf(':');
                String namespace = namespaces.getOrDefault(colon < 0 ? "" : named.substring(0, colon), "");
                type = outline.schemas().type(new QName(namespace, named.substring(colon + 1)));
            }
        }
        return new Step(local(name), type);
    }

    private static String local(String name) {
        return name.substring(name.indexOf(':') + 1);
    }

    /** The innermost open element; empty where the contract does not lead there. */
    private Optional<Held> held(List<Step> steps) {
        List<Step> path = new ArrayList<>(steps);
        if (!path.isEmpty() && "Envelope".equals(path.get(0).name())) {
            path.remove(0);
            if (!path.isEmpty() && !outline.isWholeBody()) {
                path.remove(0);
            }
        }
        if (path.isEmpty() || outline.root().isEmpty()) {
            return Optional.empty();
        }
        ElementDecl at = outline.root().get();
        if (!at.name().getLocalPart().equals(path.get(0).name())) {
            return outline.headers().stream()
                    .filter(h -> h.name().getLocalPart().equals(path.get(0).name()))
                    .findFirst()
                    .flatMap(h -> below(h, path));
        }
        return below(at, path);
    }

    private static Optional<Held> below(ElementDecl top, List<Step> path) {
        Held at = new Held(top, path.get(0).type().orElse(top.type()));
        for (Step step : path.subList(1, path.size())) {
            Optional<ElementDecl> child = children(at.type()).stream()
                    .filter(c -> c.name().getLocalPart().equals(step.name()))
                    .findFirst();
            if (child.isEmpty()) {
                return Optional.empty();
            }
            at = new Held(child.get(), step.type().orElse(child.get().type()));
        }
        return Optional.of(at);
    }

    private static List<ElementDecl> children(TypeDef type) {
        List<ElementDecl> found = new ArrayList<>();
        type.particle().ifPresent(p -> collect(p, found));
        return found;
    }

    private static void collect(Particle particle, List<ElementDecl> into) {
        if (particle instanceof Particle.OfElement e) {
            if (!e.element().isAbstract()) {
                into.add(e.element());
            }
            into.addAll(e.element().substitutes());
        } else if (particle instanceof Particle.OfGroup g) {
            g.parts().forEach(p -> collect(p, into));
        }
    }

    private List<Step> steps(List<TagScan.Tag> open) {
        return open.stream()
                .map(t -> step(t.name(), text.substring(t.start(), t.end())))
                .toList();
    }

    private At close(List<TagScan.Tag> open, int start) {
        if (open.isEmpty()) {
            return At.none(offset);
        }
        String name = open.get(open.size() - 1).name();
        boolean closed = text.startsWith(">", offset);
        String written = "</" + name + (closed ? "" : ">");
        return new At(start, List.of(new Proposal("/" + name, "close", "", written, written.length())));
    }

    private At elements(List<TagScan.Tag> open, int start, String written) {
        List<ElementDecl> candidates;
        List<String> names = open.stream().map(t -> local(t.name())).toList();
        boolean body = names.equals(List.of("Envelope", "Body")) && !outline.isWholeBody();
        if (open.isEmpty() || body) {
            candidates = outline.root().map(List::of).orElse(List.of());
        } else if (names.equals(List.of("Envelope", "Header"))) {
            candidates = outline.headers();
        } else {
            candidates = held(steps(open)).map(h -> children(h.type())).orElse(List.of());
        }
        List<Proposal> found = new ArrayList<>();
        for (ElementDecl c : candidates) {
            String name = lexical(c.name().getNamespaceURI(), c.name().getLocalPart());
            boolean fits = written.isEmpty()
                    || name.toLowerCase(Locale.ROOT).startsWith(written.toLowerCase(Locale.ROOT))
                    || local(name).toLowerCase(Locale.ROOT).startsWith(written.toLowerCase(Locale.ROOT));
            if (fits && found.stream().noneMatch(p -> p.label().equals(name))) {
                String opening = "<" + name + ">";
                boolean unknown = !prefixes.containsKey(c.name().getNamespaceURI());
                String declaring = unknown && !c.name().getNamespaceURI().isEmpty()
                        ? "<" + name + " xmlns=\"" + c.name().getNamespaceURI() + "\">"
                        : opening;
                found.add(new Proposal(
                        name,
                        c.type().summary(),
                        c.documentation(),
                        declaring + "</" + name + ">",
                        declaring.length()));
            }
        }
        return new At(start, found);
    }

    private String lexical(String namespace, String localName) {
        String prefix = prefixes.getOrDefault(namespace, "");
        return prefix.isEmpty() ? localName : prefix + ":" + localName;
    }

    private At inTag(List<TagScan.Tag> open, String written) {
        String name = written.split("\\s", 2)[0];
        List<Step> steps = new ArrayList<>(steps(open));
        steps.add(step(name, written));
        Optional<Held> held = held(steps);
        if (held.isEmpty()) {
            return At.none(offset);
        }
        char quote = 0;
        int quoted = -1;
        for (int i = 0; i < written.length(); i++) {
            char c = written.charAt(i);
            if (quote != 0) {
                quote = c == quote ? 0 : quote;
            } else if (c == '"' || c == '\'') {
                quote = c;
                quoted = i + 1;
            }
        }
        return quote != 0 ? attributeValue(held.get(), written, quoted) : attributes(held.get(), written);
    }

    private At attributeValue(Held held, String written, int quoted) {
        String before = written.substring(0, quoted - 1).replaceFirst("\\s*=\\s*$", "");
        String name = before.substring(Math.max(before.lastIndexOf(' '), before.lastIndexOf('\n')) + 1);
        String part = written.substring(quoted);
        int colon = name.indexOf(':');
        if (colon > 0 && Sheet.XSI.equals(namespaces.get(name.substring(0, colon)))) {
            return instance(held.element(), local(name), part);
        }
        return held.type().attributes().stream()
                .filter(a -> a.name().getLocalPart().equals(local(name)))
                .findFirst()
                .flatMap(a -> a.type().simple())
                .map(t -> values(t, part))
                .orElse(At.none(offset));
    }

    /** Values of {@code xsi:type} and {@code xsi:nil}. */
    private At instance(ElementDecl element, String attribute, String part) {
        List<Proposal> found = new ArrayList<>();
        if ("type".equals(attribute)) {
            Variant.types(element).stream()
                    .filter(t -> t.name().isPresent())
                    .map(t -> new Proposal(
                            lexical(
                                    t.name().get().getNamespaceURI(),
                                    t.name().get().getLocalPart()),
                            t.summary(),
                            "",
                            lexical(
                                    t.name().get().getNamespaceURI(),
                                    t.name().get().getLocalPart()),
                            0))
                    .forEach(found::add);
        } else if ("nil".equals(attribute) && element.nillable()) {
            found.add(new Proposal("true", "", "", "true", 0));
            found.add(new Proposal("false", "", "", "false", 0));
        }
        String lower = part.toLowerCase(Locale.ROOT);
        return new At(
                offset - part.length(),
                found.stream()
                        .filter(p -> p.label().toLowerCase(Locale.ROOT).startsWith(lower))
                        .map(p -> new Proposal(
                                p.label(), p.detail(), "", p.text(), p.text().length()))
                        .toList());
    }

    private At attributes(Held held, String written) {
        List<String> there = new ArrayList<>();
        Matcher matcher = ATTRIBUTE.matcher(written);
        while (matcher.find()) {
            there.add(local(matcher.group(1)));
        }
        int from = offset;
        while (from > 0 && !Character.isWhitespace(text.charAt(from - 1)) && text.charAt(from - 1) != '"') {
            from--;
        }
        String part = text.substring(from, offset).toLowerCase(Locale.ROOT);
        List<Proposal> found = new ArrayList<>();
        for (AttributeDecl a : held.type().attributes()) {
            String local = a.name().getLocalPart();
            String name = a.name().getNamespaceURI().isEmpty()
                    ? local
                    : lexical(a.name().getNamespaceURI(), local);
            if (!there.contains(local) && name.toLowerCase(Locale.ROOT).startsWith(part)) {
                String value = a.fixed().or(a::byDefault).orElse("");
                String whole = name + "=\"" + value + "\"";
                found.add(new Proposal(
                        name,
                        a.type().summary() + (a.required() ? " · required" : ""),
                        a.documentation(),
                        whole,
                        value.isEmpty() ? whole.length() - 1 : whole.length()));
            }
        }
        instanceAttributes(held.element(), there, part, found);
        return new At(from, found);
    }

    /** {@code xsi:type} where another type may stand, {@code xsi:nil} where nil may; with their prefix declared if it is not. */
    private void instanceAttributes(ElementDecl element, List<String> there, String part, List<Proposal> into) {
        boolean declared = namespaces.containsValue(Sheet.XSI);
        String prefix = declared ? prefixes.get(Sheet.XSI) : "xsi";
        for (String local : List.of("type", "nil")) {
            boolean may = "nil".equals(local)
                    ? element.nillable()
                    : Variant.types(element).size() > 1 || element.type().isAbstract();
            String name = prefix + ":" + local;
            if (may && !there.contains(local) && name.startsWith(part)) {
                String declaring = declared ? "" : "xmlns:xsi=\"" + Sheet.XSI + "\" ";
                String whole = declaring + name + "=\"\"";
                into.add(new Proposal(
                        name, "type".equals(local) ? "its type" : "no value", "", whole, whole.length() - 1));
            }
        }
    }

    private At content(List<TagScan.Tag> open) {
        Optional<SimpleType> type = held(steps(open)).flatMap(h -> h.type().simple());
        int from = Math.max(text.lastIndexOf('>', offset - 1), text.lastIndexOf('\n', offset - 1)) + 1;
        return type.map(t -> values(t, text.substring(from, offset))).orElse(At.none(offset));
    }

    private At values(SimpleType type, String part) {
        List<String> all = !type.enumeration().isEmpty()
                ? type.enumeration()
                : "boolean".equals(type.primitive()) ? List.of("true", "false") : List.of();
        String lower = part.strip().toLowerCase(Locale.ROOT);
        List<Proposal> found = all.stream()
                .filter(v -> v.toLowerCase(Locale.ROOT).startsWith(lower))
                .map(v -> new Proposal(v, type.summary(), "", v, v.length()))
                .toList();
        return new At(offset - part.length(), found);
    }
}
