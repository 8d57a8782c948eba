package dev.mockbell.sheet;

import dev.mockbell.message.ElementMatch;
import dev.mockbell.message.Fragments;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.message.MessagePath;
import dev.mockbell.message.Prefixes;
import dev.mockbell.problem.Problem;
import dev.mockbell.sample.SampleBuilder;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.sample.SampleValues;
import dev.mockbell.schema.AttributeDecl;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.schema.Particle;
import dev.mockbell.schema.SimpleType;
import dev.mockbell.sheet.SheetRow.Kind;
import dev.mockbell.sheet.SheetRow.Round;
import dev.mockbell.sheet.SheetRow.State;
import dev.mockbell.sheet.SheetRow.Target;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.xml.WrittenXml;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.w3c.dom.Attr;
import org.w3c.dom.CDATASection;
import org.w3c.dom.CharacterData;
import org.w3c.dom.Document;
import org.w3c.dom.Element;
import org.w3c.dom.Node;
import org.w3c.dom.Text;

/**
 * A message as a typed outline that is edited in place. The XML tree is the truth: the rows show it against the contract,
 * every edit is an edit of the tree, and whatever the contract does not know stays where it is. An edit costs what it
 * touches: rows of other parts are the same objects before and after. Not safe for several threads at once.
 *
 * <p>Edits take a row that the sheet gave earlier; it may be older than the last edit as long as its place still stands.
 */
public final class Sheet {
    /** The namespace of {@code xsi:type} and {@code xsi:nil} (XML Schema Part 1, §2.6). */
    public static final String XSI = "http://www.w3.org/2001/XMLSchema-instance";

    /** Rows are laid out by recursion, so a message nested deeper than this has XML as its only face. */
    private static final int DEEPEST = 500;

    /** Names of places start with that of the element that they are in. */
    private static final Pattern PLACE = Pattern.compile("(nil |)([0-9]+)(.*)", Pattern.DOTALL);

    private final MessageOutline outline;
    private final Document document;
    private final RowIds ids = new RowIds();
    private final SheetRows rows;
    private final Map<String, List<Node>> setAside = new HashMap<>();
    private final WrittenXml written;
    private Optional<SheetRow> root;

    private Sheet(MessageOutline outline, Document document, boolean templated) {
        this.outline = outline;
        this.document = document;
        this.written = new WrittenXml(document);
        this.rows = new SheetRows(outline.schemas(), ids, templated);
    }

    /**
     * Opens a message whose values may hold expressions in braces.
     *
     * @param text the payload; empty for an empty body
     * @throws Problem when it is not well-formed or nested more than 500 deep
     */
    public static Sheet open(MessageOutline outline, String text) {
        return open(outline, text, true);
    }

    /** As {@link #open(MessageOutline, String)}, for a message that was received: a brace in it is a brace. */
    public static Sheet openReceived(MessageOutline outline, String text) {
        return open(outline, text, false);
    }

    private static Sheet open(MessageOutline outline, String text, boolean templated) {
        XmlLimits most = new XmlLimits(DEEPEST, 0, XmlLimits.MESSAGE.bytes(), false);
        Document document = text.isBlank() ? Xml.newDocument() : Xml.parse(text.strip(), "message", most);
        return new Sheet(outline, document, templated);
    }

    /**
     * Remembers what had been taken out of another sheet of the same kind of message, so that it comes back here too: where
     * an element stands at the same path.
     */
    public void remember(Sheet other) {
        if (other.setAside.isEmpty() || document.getDocumentElement() == null) {
            return;
        }
        Map<String, Node> nodes = other.ids.nodes();
        other.setAside.forEach((place, parts) -> {
            Matcher matcher = PLACE.matcher(place);
            Node there = matcher.matches() ? nodes.get(matcher.group(2)) : null;
            if (!(there instanceof Element) || there.getOwnerDocument() != other.document) {
                return;
            }
            MessagePath.node(document.getDocumentElement(), MessagePath.of(there))
                    .ifPresent(here -> setAside.put(
                            matcher.group(1) + ids.of(here) + matcher.group(3),
                            new ArrayList<>(parts.stream()
                                    .map(n -> document.importNode(n, true))
                                    .toList())));
        });
    }

    /** The message as XML, exactly as the tree holds it. */
    public String text() {
        return document.getDocumentElement() == null ? "" : written.text();
    }

    /** How many characters at the start of the text given last are surely as in another; 0 unless it came right before. */
    public int sameBefore(String other) {
        return written.sameBefore(other);
    }

    /** As {@link #sameBefore}, at the end. */
    public int sameAfter(String other) {
        return written.sameAfter(other);
    }

    public MessageOutline outline() {
        return outline;
    }

    /** The row of the message's root; empty when the body is empty. */
    public Optional<SheetRow> root() {
        if (root == null) {
            root = Optional.ofNullable(document.getDocumentElement())
                    .flatMap(this::payload)
                    .map(e -> {
                        ElementDecl declared = outline.root()
                                .filter(d -> ElementMatch.matches(d, e))
                                .or(() -> outline.schemas().element(ElementMatch.nameOf(e)))
                                .orElse(null);
                        return rows.row(declared, e);
                    });
        }
        return root;
    }

    /** The element itself, or of a whole envelope the first in its body. */
    private Optional<Element> payload(Element element) {
        boolean envelope = "Envelope".equals(element.getLocalName())
                && SoapVersion.ofNamespace(element.getNamespaceURI()).isPresent();
        if (!envelope) {
            return Optional.of(element);
        }
        Optional<Element> body = Xml.children(element, element.getNamespaceURI(), "Body").stream()
                .findFirst();
        return outline.isWholeBody()
                ? body
                : body.flatMap(b -> Xml.children(b).stream().findFirst());
    }

    /** The row of that id, as it is now. */
    public Optional<SheetRow> row(String id) {
        return root().map(r -> RowSearch.id(r, id));
    }

    /** The row of the element or attribute that a path leads to, as {@link SheetRow#path()} gives it. */
    public Optional<SheetRow> at(String path) {
        return root().flatMap(r -> RowSearch.at(r, path));
    }

    /**
     * The row at a path of names and positions; what is left out on the way is put in.
     *
     * @return empty when the contract has no such place
     */
    public Optional<SheetRow> ensure(String path) {
        return new Reach(this).at(path);
    }

    /** The row as it is now; laid out by its parent alone, so that many edits in a row cost what they touch. */
    SheetRow now(SheetRow row) {
        return standing(row).orElse(row);
    }

    /** A row given earlier, as it is now; empty when there is no such row any more. Costs what its parent holds, at most. */
    public Optional<SheetRow> standing(SheetRow row) {
        Element parent = row.target().parent();
        Optional<SheetRow> holder = parent == null ? root() : rows.again(parent);
        return holder.map(h -> parent == null ? h : RowSearch.direct(h, row.id()));
    }

    /** The row that holds this one as it is now. */
    Optional<SheetRow> holder(SheetRow row) {
        return Optional.ofNullable(row.target().parent()).flatMap(rows::again);
    }

    /** Says that an element has changed: its attributes, its text, or which nodes are right in it. */
    private void touched(Element element) {
        rows.forget(element);
        written.changed(element);
        root = null;
    }

    private void insert(Element parent, Node node, Node before) {
        Placement.insert(parent, node, before);
        written.placed(node);
    }

    /** Types a value. Comments within the element stay, and what was a CDATA section is one afterwards. */
    public void setValue(SheetRow row, String value) {
        Node node = row.target().node();
        if (node instanceof Attr attr) {
            attr.setValue(value);
            touched(attr.getOwnerElement());
        } else if (node instanceof CharacterData text) {
            text.setData(value);
            touched((Element) text.getParentNode());
        } else if (node instanceof Element element) {
            setText(element, value);
            element.removeAttributeNS(XSI, "nil");
            touched(element);
        }
    }

    private void setText(Element element, String value) {
        List<Node> old = new ArrayList<>();
        CDATASection marked = null;
        for (Node n = element.getFirstChild(); n != null; n = n.getNextSibling()) {
            if (n instanceof CharacterData && n instanceof Text) {
                old.add(n);
                marked = n instanceof CDATASection c ? c : marked;
            }
        }
        Node anchor = old.isEmpty() ? null : old.get(old.size() - 1).getNextSibling();
        old.forEach(element::removeChild);
        boolean stays = marked != null && !value.contains("]]>");
        if (!value.isEmpty()) {
            element.insertBefore(stays ? document.createCDATASection(value) : document.createTextNode(value), anchor);
        }
    }

    /**
     * Puts a part in that was left out; one that was there before comes back with its values. With a part of a group that
     * must stand together comes the rest of the group.
     */
    public void include(SheetRow given) {
        SheetRow row = now(given);
        Target target = row.target();
        if (row.state() != State.LEFT_OUT) {
            return;
        }
        if (target.attribute().isPresent()) {
            include(target.attribute().get(), target);
        } else if (row.kind() == Kind.CHOICE) {
            choose(row, chosenBefore(row));
        } else if (target.round().filter(r -> r.nodes().isEmpty()).isPresent()) {
            includeRound(row);
        } else {
            target.element().ifPresent(declared -> includeElement(declared, target));
        }
        touched(target.parent());
    }

    private void includeElement(ElementDecl declared, Target target) {
        List<Node> back = setAside.remove(target.place());
        List<Node> nodes = back != null ? back : List.of(sample(declared, target.parent()));
        nodes.forEach(n -> insert(target.parent(), n, target.before()));
    }

    private void includeRound(SheetRow row) {
        Target target = row.target();
        Round round = target.round().orElseThrow();
        List<Node> back = setAside.remove(target.parent() == null ? "" : roundPlace(row));
        if (back != null) {
            back.forEach(n -> insert(target.parent(), n, target.before()));
        } else {
            SheetShape.firstInstance(round.group())
                    .forEach(d -> insert(target.parent(), sample(d, target.parent()), target.before()));
        }
        touched(target.parent());
        SheetRow own = now(row);
        if (own.state() == State.LEFT_OUT
                && own.target().round().filter(r -> !r.nodes().isEmpty()).isPresent()) {
            own.target().element().ifPresent(d -> includeElement(d, own.target()));
        }
    }

    private static String roundPlace(SheetRow row) {
        String place = row.target().place();
        return place.substring(0, place.lastIndexOf('/')) + "/("
                + SheetShape.title(row.target().round().orElseThrow().group()) + ")";
    }

    private void include(AttributeDecl declared, Target target) {
        Element owner = target.parent();
        List<Node> back = setAside.remove(target.place());
        if (back != null) {
            owner.setAttributeNodeNS((Attr) back.get(0));
            return;
        }
        Prefixes prefixes = new Prefixes(outline.prefixes());
        prefixes.inScopeOf(owner);
        String local = declared.name().getLocalPart();
        String value = declared.fixed()
                .or(declared::byDefault)
                .orElseGet(() -> declared.type()
                        .simple()
                        .map(t -> free(t, local, prefixes))
                        .orElse(""));
        String namespace = declared.name().getNamespaceURI();
        if (namespace.isEmpty()) {
            owner.setAttributeNS(null, local, value);
        } else {
            owner.setAttributeNS(namespace, prefixes.lexical(declared.name()), value);
        }
        prefixes.declareOn(owner);
    }

    /** A sample value; of a type whose values must differ over the document, one that is not there yet. */
    private String free(SimpleType type, String name, Prefixes prefixes) {
        SampleValues values = new SampleValues(prefixes);
        String value = values.of(type, name, 0);
        boolean unique = "ID".equals(type.builtIn());
        for (int i = 1; unique && i < 1_000 && text().contains("\"" + value + "\""); i++) {
            value = values.of(type, name, i);
        }
        return value;
    }

    private Element sample(ElementDecl declared, Element parent) {
        return new SampleBuilder(outline, Detail.REQUIRED).buildFor(declared, parent);
    }

    /**
     * Takes a part out, or all that stands of a choice or a group that must stand together. It comes back when put in again.
     * The root stays.
     */
    public void leaveOut(SheetRow given) {
        if (given.target().parent() == null || standing(given).isEmpty()) {
            return;
        }
        SheetRow row = now(given);
        Target target = row.target();
        if (row.kind() == Kind.CHOICE) {
            setAside.put(target.place() + "|" + row.value(), target.nodes());
            setAside.put(target.place() + "|", List.of(document.createTextNode(row.value())));
            target.nodes().forEach(Placement::remove);
        } else if (target.node() == null) {
            return;
        } else if (target.node() instanceof Attr attr) {
            setAside.put(target.place(), List.of(attr));
            attr.getOwnerElement().removeAttributeNode(attr);
        } else if (target.round().filter(Round::canGo).isPresent()
                && !row.occurs().optional()) {
            List<Node> nodes = target.round().get().nodes();
            setAside.put(roundPlace(row), nodes);
            nodes.forEach(Placement::remove);
        } else {
            setAside.computeIfAbsent(target.place(), p -> new ArrayList<>()).add(target.node());
            Placement.remove(target.node());
        }
        touched(target.parent());
    }

    /** Takes a row out that the contract may even require: one of several, or what it does not know. */
    public void remove(SheetRow given) {
        if (standing(given).isEmpty()) {
            return;
        }
        SheetRow row = now(given);
        if (row.target().node() instanceof Attr || row.kind() == Kind.CHOICE) {
            leaveOut(row);
        } else if (row.target().node() != null && row.target().parent() != null) {
            setAside.put(
                    row.target().place(), new ArrayList<>(List.of(row.target().node())));
            Placement.remove(row.target().node());
            touched(row.target().parent());
        }
    }

    /** Adds one more of a repeating part behind the row; one that was taken out comes back first. */
    public void addRepeat(SheetRow given) {
        SheetRow row = now(given);
        Target target = row.target();
        if (row.kind() == Kind.REPEATS) {
            if (!row.children().isEmpty()) {
                addRepeat(row.children().get(row.children().size() - 1));
            }
            return;
        }
        if (row.kind() == Kind.CHOICE) {
            Node last = target.nodes().get(target.nodes().size() - 1);
            Particle branch = target.branches().get(Math.max(0, row.options().indexOf(row.value())));
            insertAll(target.parent(), SheetShape.firstInstance(branch), Placement.nextMarkup(last));
        } else {
            List<Node> back = setAside.get(target.place());
            Node node = back == null || back.isEmpty()
                    ? sample(target.element().orElseThrow(), target.parent())
                    : back.remove(back.size() - 1);
            insert(target.parent(), node, Placement.nextMarkup(target.node()));
        }
        touched(target.parent());
    }

    /** Adds one more of the group that the row is part of, behind the group's standing. */
    public void addGroup(SheetRow given) {
        SheetRow row = now(given);
        Round round = row.target().round().orElseThrow();
        Node last = round.nodes().get(round.nodes().size() - 1);
        insertAll(row.target().parent(), SheetShape.firstInstance(round.group()), Placement.nextMarkup(last));
        touched(row.target().parent());
    }

    private void insertAll(Element parent, List<ElementDecl> declared, Node before) {
        declared.forEach(d -> insert(parent, sample(d, parent), before));
    }

    /** Adds a copy of the row's element behind it. */
    public void duplicate(SheetRow given) {
        SheetRow row = now(given);
        Node node = row.target().node();
        if (node instanceof Element && row.target().parent() != null) {
            insert(row.target().parent(), node.cloneNode(true), Placement.nextMarkup(node));
            touched(row.target().parent());
        }
    }

    /**
     * Moves one of several elements past its neighbour of the same kind.
     *
     * @param by -1 for up, 1 for down
     * @return whether there was a neighbour
     */
    public boolean move(SheetRow given, int by) {
        SheetRow row = now(given);
        if (!(row.target().node() instanceof Element element) || row.index() == 0) {
            return false;
        }
        Node other = element;
        do {
            other = by < 0 ? other.getPreviousSibling() : other.getNextSibling();
        } while (other != null && !(other instanceof Element));
        boolean like = other instanceof Element neighbour
                && ElementMatch.nameOf(neighbour).equals(ElementMatch.nameOf(element));
        if (!like) {
            return false;
        }
        Element parent = row.target().parent();
        Node first = by < 0 ? other : element;
        Node second = by < 0 ? element : other;
        Node anchor = second.getNextSibling();
        Node gapEnd = first.getNextSibling();
        if (gapEnd == second) {
            parent.insertBefore(second, first);
        } else {
            parent.insertBefore(second, first);
            parent.insertBefore(first, anchor);
        }
        touched(parent);
        return true;
    }

    private String chosenBefore(SheetRow row) {
        List<Node> branch = setAside.get(row.target().place() + "|");
        return branch != null
                ? branch.get(0).getNodeValue()
                : row.options().isEmpty() ? "" : row.options().get(0);
    }

    /** Takes a branch of a choice in place of the one that stands. */
    public void choose(SheetRow given, String option) {
        SheetRow row = now(given);
        Target target = row.target();
        int index = row.options().indexOf(option);
        if (index < 0 || option.equals(row.value())) {
            return;
        }
        List<Node> standing = target.nodes();
        Node before = standing.isEmpty() ? target.before() : Placement.nextMarkup(standing.get(standing.size() - 1));
        if (!standing.isEmpty()) {
            setAside.put(target.place() + "|" + row.value(), standing);
            standing.forEach(Placement::remove);
        }
        List<Node> back = setAside.remove(target.place() + "|" + option);
        if (back != null) {
            back.forEach(n -> insert(target.parent(), n, before));
        } else {
            insertAll(
                    target.parent(), SheetShape.firstInstance(target.branches().get(index)), before);
        }
        touched(target.parent());
    }

    /** Marks an element as having no value, or takes the mark away; what was in it then comes back. */
    public void setNil(SheetRow given, boolean nil) {
        Element element = (Element) given.target().node();
        String place = "nil " + given.id();
        if (nil) {
            List<Node> inside = new ArrayList<>();
            while (element.hasChildNodes()) {
                inside.add(element.removeChild(element.getFirstChild()));
            }
            setAside.put(place, inside);
            Prefixes prefixes = new Prefixes(outline.prefixes());
            prefixes.inScopeOf(element);
            element.setAttributeNS(XSI, prefixes.of(XSI) + ":nil", "true");
            prefixes.declareOn(element);
        } else {
            element.removeAttributeNS(XSI, "nil");
            List<Node> inside = setAside.remove(place);
            if (inside != null && !element.hasChildNodes()) {
                inside.forEach(element::appendChild);
            }
        }
        touched(element);
    }

    /** Adds text at the end of an element of mixed content. */
    public void addText(SheetRow given, String text) {
        if (given.target().node() instanceof Element element) {
            element.appendChild(document.createTextNode(text));
            touched(element);
        }
    }

    /**
     * Puts attributes on an element, as they are written in its tag, with declarations of their prefixes if need be. One
     * that is there already gets the new value; one that the contract does not know is a flaw of its row.
     *
     * @throws Problem when the text is not attributes; nothing has changed then
     */
    public void addAttributes(SheetRow given, String text) {
        if (!(given.target().node() instanceof Element element)) {
            return;
        }
        List<Attr> read = Fragments.attributes(text, element);
        for (Attr attr : read) {
            element.setAttributeNodeNS((Attr) document.importNode(attr, true));
        }
        touched(element);
    }

    /** What may stand in the row's place: other types by {@code xsi:type}, and elements that substitute. */
    public List<Variant> variants(SheetRow row) {
        return Variant.of(now(row));
    }

    /** Takes another type or element for a row; values of the same name go over, and what it was comes back when chosen again. */
    public void become(SheetRow given, Variant variant) {
        SheetRow row = now(given);
        Element old = (Element) row.target().node();
        Element parent = row.target().parent();
        if (parent == null || variant.isNow()) {
            return;
        }
        String place = row.target().place() + " as ";
        List<Node> back = setAside.remove(place + variant.title());
        Element fresh = back == null
                ? new SampleBuilder(outline, Detail.REQUIRED).buildFor(variant.element(), variant.type(), parent)
                : (Element) back.get(0);
        if (back == null) {
            Carry.over(old, fresh);
        }
        variants(row).stream()
                .filter(Variant::isNow)
                .findFirst()
                .ifPresent(v -> setAside.put(place + v.title(), List.of(old)));
        insert(parent, fresh, old);
        Placement.remove(old);
        touched(parent);
    }

    /** Puts every optional part in, or takes every optional part out, below the root. Nothing else changes. */
    public void fill(Detail detail) {
        ensureRoot();
        if (detail == Detail.FULL) {
            new Filling(this).all();
        } else {
            new Filling(this).requiredOnly();
        }
    }

    /** Takes the optional parts out whose values are still those of a sample. */
    public void keepWhatDiffers() {
        ensureRoot();
        new Filling(this).whatDiffers();
    }

    private void ensureRoot() {
        if (document.getDocumentElement() == null) {
            outline.root().ifPresent(declared -> {
                Element fresh = new SampleBuilder(outline, Detail.REQUIRED).build(declared);
                document.appendChild(document.importNode(fresh, true));
                root = null;
            });
        }
    }

    /** Gives an element the name and the place of a part that is left out; what is in it stays. */
    public void moveTo(SheetRow given, SheetRow leftOut) {
        SheetRow place = now(leftOut);
        Element parent = place.target().parent();
        ElementDecl declared = place.target().element().orElseThrow();
        Element element = (Element) given.target().node();
        Element named = sample(declared, parent);
        String name = named.getTagName();
        boolean declares = named.getPrefix() != null
                && !declared.name().getNamespaceURI().equals(parent.lookupNamespaceURI(named.getPrefix()));
        Node before = place.target().before() == element
                ? Placement.nextMarkup(element)
                : place.target().before();
        Placement.remove(element);
        Element moved = (Element) document.renameNode(element, named.getNamespaceURI(), name);
        if (declares) {
            moved.setAttributeNS(
                    "http://www.w3.org/2000/xmlns/", "xmlns:" + named.getPrefix(), named.getNamespaceURI());
        }
        insert(parent, moved, before);
        touched(parent);
    }

    /** The part of the message that a row stands for, as XML that stands alone. */
    public String xml(SheetRow row) {
        return Fragments.text(row.target().node());
    }

    /**
     * Puts XML in: in place of the row's element when its name is the same, as a child where the contract has a place for
     * it, or where any element may stand.
     *
     * @throws Problem when it is not well-formed or has no place there
     */
    public void pasteXml(SheetRow given, String xml) {
        SheetRow row = now(given);
        touched(new Pasting(this, document).paste(row, xml));
    }

    /**
     * Fills repeating elements from the rows of a table, from the row's element on; elements are added as they are needed.
     *
     * @param table lines of cells. When the cells of the first line are all names of fields, it names the columns, else
     *     the columns are the fields in their order
     * @return how many elements were filled
     * @throws Problem when a line has more cells than the element has fields
     */
    public int pasteRows(SheetRow given, List<List<String>> table) {
        return new PastedRows(this).paste(now(given), table);
    }
}
