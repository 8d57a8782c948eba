package dev.mockbell.message;

import dev.mockbell.schema.AttributeDecl;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.schema.Particle;
import dev.mockbell.schema.SimpleType;
import dev.mockbell.schema.TypeDef;
import dev.mockbell.xml.TagScan;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** What can be written at a place of a message, by the contract. The text need not be well-formed. */
public final class Completions {
    private static final Pattern DECLARATION = Pattern.compile("xmlns(?::([^\\s=]+))?\\s*=\\s*([\"'])(.*?)\\2");
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
            prefixes.put(matcher.group(3), matcher.group(1) == null ? "" : matcher.group(1));
        }
    }

    private static String local(String name) {
        return name.substring(name.indexOf(':') + 1);
    }

    /** The declaration of the innermost open element; empty where the contract does not lead there. */
    private Optional<ElementDecl> declared(List<String> names) {
        List<String> path = new ArrayList<>(names);
        if (!path.isEmpty() && "Envelope".equals(path.get(0))) {
            path.remove(0);
            if (!path.isEmpty() && !outline.isWholeBody()) {
                path.remove(0);
            }
        }
        if (path.isEmpty() || outline.root().isEmpty()) {
            return Optional.empty();
        }
        ElementDecl at = outline.root().get();
        if (!at.name().getLocalPart().equals(path.get(0))) {
            return outline.headers().stream()
                    .filter(h -> h.name().getLocalPart().equals(path.get(0)))
                    .findFirst()
                    .flatMap(h -> below(h, path));
        }
        return below(at, path);
    }

    private static Optional<ElementDecl> below(ElementDecl top, List<String> path) {
        ElementDecl at = top;
        for (int i = 1; i < path.size(); i++) {
            String name = path.get(i);
            Optional<ElementDecl> child = children(at.type()).stream()
                    .filter(c -> c.name().getLocalPart().equals(name))
                    .findFirst();
            if (child.isEmpty()) {
                return Optional.empty();
            }
            at = child.get();
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

    private static List<String> names(List<TagScan.Tag> open) {
        return open.stream().map(t -> local(t.name())).toList();
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
        List<String> names = names(open);
        boolean body = names.equals(List.of("Envelope", "Body")) && !outline.isWholeBody();
        if (open.isEmpty() || body) {
            candidates = outline.root().map(List::of).orElse(List.of());
        } else if (names.equals(List.of("Envelope", "Header"))) {
            candidates = outline.headers();
        } else {
            candidates = declared(names).map(d -> children(d.type())).orElse(List.of());
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
        List<String> names = new ArrayList<>(names(open));
        names.add(local(name));
        Optional<ElementDecl> declared = declared(names);
        if (declared.isEmpty()) {
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
        return quote != 0 ? attributeValue(declared.get(), written, quoted) : attributes(declared.get(), written);
    }

    private At attributeValue(ElementDecl declared, String written, int quoted) {
        String before = written.substring(0, quoted - 1).replaceFirst("\\s*=\\s*$", "");
        String attribute = local(before.substring(Math.max(before.lastIndexOf(' '), before.lastIndexOf('\n')) + 1));
        String part = written.substring(quoted);
        return declared.type().attributes().stream()
                .filter(a -> a.name().getLocalPart().equals(attribute))
                .findFirst()
                .flatMap(a -> a.type().simple())
                .map(t -> values(t, part))
                .orElse(At.none(offset));
    }

    private At attributes(ElementDecl declared, String written) {
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
        for (AttributeDecl a : declared.type().attributes()) {
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
        return new At(from, found);
    }

    private At content(List<TagScan.Tag> open) {
        Optional<SimpleType> type = declared(names(open)).flatMap(d -> d.type().simple());
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
