package dev.mockbell.guide;

import dev.mockbell.guide.GuideSpan.Style;
import java.util.ArrayList;
import java.util.List;
import org.commonmark.ext.gfm.tables.TableBlock;
import org.commonmark.ext.gfm.tables.TableCell;
import org.commonmark.ext.gfm.tables.TableRow;
import org.commonmark.ext.gfm.tables.TablesExtension;
import org.commonmark.node.BulletList;
import org.commonmark.node.Code;
import org.commonmark.node.Emphasis;
import org.commonmark.node.FencedCodeBlock;
import org.commonmark.node.Heading;
import org.commonmark.node.Image;
import org.commonmark.node.Link;
import org.commonmark.node.ListItem;
import org.commonmark.node.Node;
import org.commonmark.node.OrderedList;
import org.commonmark.node.Paragraph;
import org.commonmark.node.SoftLineBreak;
import org.commonmark.node.StrongEmphasis;
import org.commonmark.node.Text;
import org.commonmark.parser.Parser;

/** Makes blocks of Markdown. What the guide's pages do not use, such as quotations, is passed over. */
final class MarkdownPage {
    private final String base;

    /** @param base where pages and pictures lie on the class path */
    MarkdownPage(String base) {
        this.base = base;
    }

    GuidePage read(String name, String text) {
        Node root = Parser.builder()
                .extensions(List.of(TablesExtension.create()))
                .build()
                .parse(text);
        List<GuideBlock> blocks = blocks(root);
        String title = blocks.stream()
                .filter(GuideBlock.Heading.class::isInstance)
                .findFirst()
                .map(b -> words(((GuideBlock.Heading) b).words()))
                .orElse(name);
        return new GuidePage(name, title, text, blocks);
    }

    private static String words(List<GuideSpan> spans) {
        StringBuilder words = new StringBuilder();
        spans.forEach(s -> words.append(s.text()));
        return words.toString();
    }

    private List<GuideBlock> blocks(Node parent) {
        List<GuideBlock> blocks = new ArrayList<>();
        for (Node node = parent.getFirstChild(); node != null; node = node.getNext()) {
            if (node instanceof Heading heading) {
                blocks.add(new GuideBlock.Heading(heading.getLevel(), spans(node)));
            } else if (node instanceof Paragraph && node.getFirstChild() instanceof Image image) {
                blocks.add(new GuideBlock.Picture(
                        base + image.getDestination().replaceFirst("^\\.\\./", ""), words(spans(image))));
            } else if (node instanceof Paragraph) {
                blocks.add(new GuideBlock.Paragraph(spans(node)));
            } else if (node instanceof FencedCodeBlock code) {
                blocks.add(new GuideBlock.Code(code.getLiteral().stripTrailing(), String.valueOf(code.getInfo())));
            } else if (node instanceof BulletList || node instanceof OrderedList) {
                blocks.add(new GuideBlock.Items(node instanceof OrderedList, items(node)));
            } else if (node instanceof TableBlock) {
                blocks.add(new GuideBlock.Table(rows(node)));
            }
        }
        return blocks;
    }

    private List<List<GuideBlock>> items(Node list) {
        List<List<GuideBlock>> items = new ArrayList<>();
        for (Node item = list.getFirstChild(); item != null; item = item.getNext()) {
            if (item instanceof ListItem) {
                items.add(blocks(item));
            }
        }
        return items;
    }

    private static List<List<List<GuideSpan>>> rows(Node table) {
        List<List<List<GuideSpan>>> rows = new ArrayList<>();
        for (Node part = table.getFirstChild(); part != null; part = part.getNext()) {
            for (Node row = part.getFirstChild(); row instanceof TableRow; row = row.getNext()) {
                List<List<GuideSpan>> cells = new ArrayList<>();
                for (Node cell = row.getFirstChild(); cell instanceof TableCell; cell = cell.getNext()) {
                    cells.add(spans(cell));
                }
                rows.add(cells);
            }
        }
        return rows;
    }

    private static List<GuideSpan> spans(Node parent) {
        List<GuideSpan> spans = new ArrayList<>();
        collect(parent, Style.PLAIN, "", spans);
        return spans;
    }

    private static void collect(Node parent, Style style, String target, List<GuideSpan> into) {
        for (Node node = parent.getFirstChild(); node != null; node = node.getNext()) {
            if (node instanceof Text text) {
                into.add(new GuideSpan(text.getLiteral(), style, target));
            } else if (node instanceof Code code) {
                into.add(new GuideSpan(code.getLiteral(), Style.CODE, target));
            } else if (node instanceof SoftLineBreak) {
                into.add(new GuideSpan(" ", style, target));
            } else if (node instanceof Link link) {
                collect(node, Style.LINK, link.getDestination().replaceFirst("\\.md$", ""), into);
            } else if (node instanceof StrongEmphasis) {
                collect(node, Style.STRONG, target, into);
            } else if (node instanceof Emphasis) {
                collect(node, Style.EMPHASIS, target, into);
            } else {
                collect(node, style, target, into);
            }
        }
    }
}
