package dev.mockbell.expression;

import java.util.ArrayList;
import java.util.List;
import net.sf.saxon.Configuration;
import net.sf.saxon.event.ReceiverOption;
import net.sf.saxon.expr.parser.Loc;
import net.sf.saxon.om.AttributeInfo;
import net.sf.saxon.om.AttributeMap;
import net.sf.saxon.om.EmptyAttributeMap;
import net.sf.saxon.om.LargeAttributeMap;
import net.sf.saxon.om.NamespaceMap;
import net.sf.saxon.om.NamespaceUri;
import net.sf.saxon.om.SmallAttributeMap;
import net.sf.saxon.s9api.XdmNode;
import net.sf.saxon.s9api.XdmValue;
import net.sf.saxon.str.StringView;
import net.sf.saxon.trans.XPathException;
import net.sf.saxon.tree.tiny.TinyBuilder;
import net.sf.saxon.type.BuiltInAtomicType;
import net.sf.saxon.type.Untyped;

/**
 * Puts elements together into a tree that expressions can look at. What is said of an element ends with the next element, text or
 * end. For one thread, and one tree.
 */
public final class TreeBuilding {
    private final TreeNames names;
    private final TinyBuilder builder;
    private final List<NamespaceMap> scopes = new ArrayList<>();
    private final List<AttributeInfo> attributes = new ArrayList<>();
    private NamespaceMap scope = NamespaceMap.emptyMap();
    private String prefix = "";
    private String uri = "";
    private String local;

    TreeBuilding(Configuration configuration, TreeNames names) {
        this.names = names;
        this.builder = new TinyBuilder(configuration.makePipelineConfiguration());
        builder.open();
        add(() -> builder.startDocument(ReceiverOption.NONE));
    }

    private interface Piece {
        void added() throws XPathException;
    }

    private static void add(Piece piece) {
        try {
            piece.added();
        } catch (XPathException e) {
            throw new IllegalStateException("a tree can always be built", e);
        }
    }

    /** An element begins; names without a namespace have an empty one. */
    public void start(String itsPrefix, String namespace, String localName) {
        begin();
        prefix = itsPrefix;
        uri = namespace;
        local = localName;
        scopes.add(scope);
    }

    /** The element that has begun declares a namespace; an empty prefix is the default, an empty namespace takes it back. */
    public void declare(String itsPrefix, String namespace) {
        scope = scope.bind(itsPrefix, NamespaceUri.of(namespace));
    }

    /** The element that has begun has an attribute. */
    public void attribute(String itsPrefix, String namespace, String localName, String value) {
        attributes.add(new AttributeInfo(
                names.of(itsPrefix, namespace, localName),
                BuiltInAtomicType.UNTYPED_ATOMIC,
                value,
                Loc.NONE,
                ReceiverOption.NONE));
    }

    private void begin() {
        if (local == null) {
            return;
        }
        AttributeMap all = attributes.isEmpty()
                ? EmptyAttributeMap.getInstance()
                : attributes.size() <= SmallAttributeMap.LIMIT
                        ? new SmallAttributeMap(new ArrayList<>(attributes))
                        : new LargeAttributeMap(new ArrayList<>(attributes));
        add(() -> builder.startElement(
                names.of(prefix, uri, local), Untyped.getInstance(), all, scope, Loc.NONE, ReceiverOption.NONE));
        attributes.clear();
        local = null;
    }

    public void text(String characters) {
        begin();
        add(() -> builder.characters(StringView.of(characters), Loc.NONE, ReceiverOption.NONE));
    }

    public void comment(String characters) {
        begin();
        add(() -> builder.comment(StringView.of(characters), Loc.NONE, ReceiverOption.NONE));
    }

    /** The innermost element ends. */
    public void end() {
        begin();
        scope = scopes.remove(scopes.size() - 1);
        add(builder::endElement);
    }

    /** The document that holds all of it; nothing can be added then. */
    public XdmNode done() {
        add(() -> {
            builder.endDocument();
            builder.close();
        });
        return (XdmNode) XdmValue.wrap(builder.getCurrentRoot());
    }
}
