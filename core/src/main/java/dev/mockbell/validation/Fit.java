package dev.mockbell.validation;

import dev.mockbell.message.ElementMatch;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.sheet.RowPaths;
import dev.mockbell.sheet.Sheet;
import dev.mockbell.sheet.SheetRow;
import dev.mockbell.sheet.SheetRow.Kind;
import dev.mockbell.sheet.SheetRow.State;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import dev.mockbell.xml.XmlText;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javax.xml.namespace.QName;
import org.w3c.dom.Attr;
import org.w3c.dom.Document;
import org.w3c.dom.Element;

/**
 * How a message that was written earlier fits a contract as it is now.
 *
 * @param misfits what does not fit; empty when all does
 * @param steps what the proposal changes, a sentence each; fewer than the misfits where only a person can tell
 * @param proposal the message with what can be mended mended: names that were changed, parts that became required, parts
 *     that are gone. Values stay as they are
 */
public record Fit(List<Misfit> misfits, List<String> steps, String proposal) {
    private static final int MOST_STEPS = 500;

    /**
     * Something that does not fit.
     *
     * @param path where, {@code /ReserveBunks/nights}; empty for the message as a whole
     */
    public record Misfit(String path, String problem) {
        /** A sentence. */
        @Override
        public String toString() {
            return path.isEmpty() ? problem : path + ": " + problem;
        }
    }

    /** Holds a payload against an outline. Text that is not well-formed does not fit and has no proposal. */
    public static Fit of(MessageOutline outline, String payload) {
        try {
            Sheet sheet = Sheet.open(outline, payload);
            List<Misfit> misfits = new ArrayList<>();
            rootMisfit(outline, sheet).map(m -> new Misfit("", m)).ifPresent(misfits::add);
            sheet.root().ifPresent(r -> collect(r, RowPaths.of(r), "", misfits));
            if (misfits.isEmpty()) {
                return new Fit(List.of(), List.of(), payload);
            }
            List<String> steps = new ArrayList<>();
            Sheet mended = Sheet.open(outline, renamed(outline, payload, steps));
            mend(mended, steps);
            return new Fit(List.copyOf(misfits), List.copyOf(steps), mended.text());
        } catch (Problem problem) {
            return new Fit(List.of(new Misfit("", problem.getMessage())), List.of(), payload);
        }
    }

    public boolean isGood() {
        return misfits.isEmpty();
    }

    private static Optional<String> rootMisfit(MessageOutline outline, Sheet sheet) {
        Optional<SheetRow> root = sheet.root();
        if (root.isEmpty()) {
            return outline.root()
                    .map(r -> "the body holds no element, " + r.name().getLocalPart() + " is expected");
        }
        Element element = (Element) root.get().target().node();
        return outline.root()
                .filter(r -> !ElementMatch.matches(r, element))
                .map(r -> "the body holds " + ElementMatch.nameOf(element) + ", " + r.name() + " is expected");
    }

    private static void collect(SheetRow row, RowPaths paths, String above, List<Misfit> into) {
        String own = paths.path(row);
        // what is not there has no path of its own
        String path = own.isEmpty() ? above + "/" + row.label() : own;
        row.problem().ifPresent(p -> into.add(new Misfit(path, p)));
        row.children().forEach(c -> collect(c, paths, path, into));
    }

    /** A root of the old name or namespace gets the new one; a changed namespace is changed wherever it stands. */
    private static String renamed(MessageOutline outline, String payload, List<String> steps) {
        if (outline.root().isEmpty() || payload.isBlank()) {
            return payload;
        }
        QName wanted = outline.root().get().name();
        Document document = Xml.parse(payload.strip(), "message", XmlLimits.MESSAGE);
        Element root = document.getDocumentElement();
        if (ElementMatch.matches(outline.root().get(), root)) {
            return payload;
        }
        String old = root.getNamespaceURI() == null ? "" : root.getNamespaceURI();
        if (!old.equals(wanted.getNamespaceURI())
                && !old.isEmpty()
                && !wanted.getNamespaceURI().isEmpty()) {
            steps.add("the namespace " + old + " becomes " + wanted.getNamespaceURI());
            moveTo(document, root, old, wanted.getNamespaceURI());
            root = document.getDocumentElement();
        }
        if (!root.getLocalName().equals(wanted.getLocalPart())) {
            steps.add(root.getLocalName() + " becomes " + wanted.getLocalPart());
            String prefix = root.getPrefix() == null ? "" : root.getPrefix() + ":";
            document.renameNode(root, root.getNamespaceURI(), prefix + wanted.getLocalPart());
        }
        return XmlText.exact(document);
    }

    private static void moveTo(Document document, Element element, String from, String to) {
        for (Attr a : Xml.attributes(element)) {
            boolean declares =
                    a.getNodeName().equals("xmlns") || a.getNodeName().startsWith("xmlns:");
            if (declares && a.getNodeValue().equals(from)) {
                a.setNodeValue(to);
            }
        }
        Element now = element;
        if (from.equals(element.getNamespaceURI())) {
            now = (Element) document.renameNode(element, to, element.getNodeName());
        }
        for (Element child : Xml.children(now)) {
            moveTo(document, child, from, to);
        }
    }

    private static void mend(Sheet sheet, List<String> steps) {
        int guard = 0;
        boolean again = true;
        while (again && guard++ < MOST_STEPS) {
            again = sheet.root().isPresent() && step(sheet, sheet.root().get(), steps);
        }
    }

    /** Makes the first change that is due at or below the row. */
    private static boolean step(Sheet sheet, SheetRow row, List<String> steps) {
        List<SheetRow> strange = row.children().stream().filter(Fit::isStrange).toList();
        Map<String, SheetRow> free = new LinkedHashMap<>();
        row.children().stream()
                .filter(c -> c.state() == State.LEFT_OUT && c.target().element().isPresent())
                .forEach(c -> free.putIfAbsent(c.label(), c));
        for (SheetRow s : strange) {
            Optional<SheetRow> place = likest(s, free);
            if (place.isPresent()) {
                ElementDecl declared = place.get().target().element().orElseThrow();
                String was = s.path();
                sheet.moveTo(s, place.get());
                boolean sameName = s.label().equals(declared.name().getLocalPart());
                steps.add(was
                        + (sameName
                                ? " goes to its new place"
                                : " becomes " + declared.name().getLocalPart()));
                return true;
            }
        }
        if (!strange.isEmpty()) {
            SheetRow gone = strange.get(0);
            steps.add(gone.path() + " is taken out; the contract does not know it");
            sheet.remove(gone);
            return true;
        }
        for (SheetRow child : row.children()) {
            boolean missing = child.state() == State.LEFT_OUT
                    && child.problem().isPresent()
                    && (child.target().element().isPresent()
                            || child.target().attribute().isPresent()
                            || child.kind() == Kind.CHOICE);
            if (missing) {
                steps.add(
                        row.path() + "/" + child.label() + " is put in with a sample value; the contract requires it");
                sheet.include(child);
                return true;
            }
        }
        for (SheetRow child : row.children()) {
            if (child.tally().problems() > 0 && step(sheet, child, steps)) {
                return true;
            }
        }
        return false;
    }

    private static boolean isStrange(SheetRow row) {
        return row.problem().isPresent()
                && row.target().element().isEmpty()
                && row.target().attribute().isEmpty()
                && row.target().node() != null
                && row.kind() != Kind.TEXT;
    }

    private static Optional<SheetRow> likest(SheetRow strange, Map<String, SheetRow> free) {
        SheetRow best = null;
        double most = 0.55;
        for (SheetRow place : free.values()) {
            double like = Likeness.of(strange.label().replace("@", ""), place.label());
            boolean same = (place.kind() == Kind.VALUE) == strange.children().isEmpty();
            if (same && like > most) {
                most = like;
                best = place;
            }
        }
        return Optional.ofNullable(best);
    }
}
