package dev.mockbell.sheet;

import dev.mockbell.message.ElementMatch;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.sample.SampleBuilder;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import dev.mockbell.xml.XmlText;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.w3c.dom.Comment;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

/**
 * The blocks of a request's SOAP header, one after the other as text, beside what the contract names for it. Immutable.
 *
 * @param outline of the request
 * @param blocks each an element that stands alone
 */
public record HeaderBlocks(MessageOutline outline, List<String> blocks) {
    public HeaderBlocks {
        blocks = List.copyOf(blocks);
    }

    /**
     * Takes a text of blocks apart.
     *
     * @throws Problem when it is not well-formed
     */
    public static HeaderBlocks of(MessageOutline outline, String text) {
        if (text.isBlank()) {
            return new HeaderBlocks(outline, List.of());
        }
        Element all = Xml.parse("<blocks>" + text + "</blocks>", "the header blocks", XmlLimits.MESSAGE)
                .getDocumentElement();
        List<String> blocks = new ArrayList<>();
        StringBuilder before = new StringBuilder();
        for (Node node = all.getFirstChild(); node != null; node = node.getNextSibling()) {
            if (node instanceof Element element) {
                blocks.add(before + XmlText.exact(element));
                before.setLength(0);
            } else if (node instanceof Comment comment) {
                // what is said of a block stays with it
                before.append("<!--").append(comment.getData()).append("-->\n");
            }
        }
        if (!before.isEmpty()) {
            int last = blocks.size() - 1;
            String rest = before.toString().stripTrailing();
            if (last < 0) {
                blocks.add(rest);
            } else {
                blocks.set(last, blocks.get(last) + "\n" + rest);
            }
        }
        return new HeaderBlocks(outline, blocks);
    }

    /** The blocks as one text. */
    public String text() {
        return String.join("\n", blocks);
    }

    /** The header that the contract names so. */
    public Optional<ElementDecl> declared(String localName) {
        return outline.headers().stream()
                .filter(h -> h.name().getLocalPart().equals(localName))
                .findFirst();
    }

    /** The outline of a declared block, as of a message of its own. */
    public MessageOutline outlineOf(ElementDecl header) {
        return new MessageOutline(
                outline.schemas(), outline.prefixes(), Optional.of(header), List.of(), outline.encoding(), List.of());
    }

    /** The block of a declared header; empty when it is left out. */
    public Optional<String> block(ElementDecl header) {
        return blocks.stream().filter(b -> isOf(header, b)).findFirst();
    }

    /** With a declared block in; a sample of it when there is none yet. */
    public HeaderBlocks with(ElementDecl header) {
        return block(header).isPresent()
                ? this
                : with(header, XmlText.laidOut(new SampleBuilder(outline, Detail.REQUIRED).build(header)));
    }

    /** With another text of a declared block, in its place or behind the others. */
    public HeaderBlocks with(ElementDecl header, String text) {
        List<String> changed = new ArrayList<>(blocks);
        for (int i = 0; i < changed.size(); i++) {
            if (isOf(header, changed.get(i))) {
                changed.set(i, text);
                return new HeaderBlocks(outline, changed);
            }
        }
        changed.add(text);
        return new HeaderBlocks(outline, changed);
    }

    /** With a block of any kind: a declared one in its place, another behind those that are there. */
    public HeaderBlocks with(String block) {
        Optional<ElementDecl> declared =
                outline.headers().stream().filter(h -> isOf(h, block)).findFirst();
        if (declared.isPresent()) {
            return with(declared.get(), block);
        }
        List<String> more = new ArrayList<>(blocks);
        more.add(block);
        return new HeaderBlocks(outline, more);
    }

    /** Without a declared block. */
    public HeaderBlocks without(ElementDecl header) {
        return new HeaderBlocks(
                outline, blocks.stream().filter(b -> !isOf(header, b)).toList());
    }

    /** The blocks that the contract does not name, as one text. */
    public String free() {
        return blocks.stream().filter(b -> !isDeclared(b)).collect(Collectors.joining("\n"));
    }

    /**
     * With other blocks that the contract does not name, behind those that it does.
     *
     * @throws Problem when they are not well-formed
     */
    public HeaderBlocks withFree(String text) {
        List<String> changed =
                new ArrayList<>(blocks.stream().filter(this::isDeclared).toList());
        changed.addAll(of(outline, text).blocks);
        return new HeaderBlocks(outline, changed);
    }

    private boolean isDeclared(String block) {
        return first(block)
                .filter(e -> outline.headers().stream().anyMatch(h -> ElementMatch.matches(h, e)))
                .isPresent();
    }

    /** The names of the declared headers, for people. */
    public String names() {
        return outline.headers().stream().map(h -> h.name().getLocalPart()).collect(Collectors.joining(", "));
    }

    private static boolean isOf(ElementDecl header, String block) {
        return first(block).filter(e -> ElementMatch.matches(header, e)).isPresent();
    }

    /** The element of a block; empty where it is a comment alone. */
    private static Optional<Element> first(String block) {
        Element holder = Xml.parse("<block>" + block + "</block>", "a header block", XmlLimits.MESSAGE)
                .getDocumentElement();
        return Xml.children(holder).stream().findFirst();
    }
}
