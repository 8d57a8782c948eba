package dev.mockbell.guide;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.guide.GuideSpan.Style;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

class GuideTest {
    private final Guide guide = new Guide();

    private static List<GuideBlock> all(List<GuideBlock> blocks) {
        List<GuideBlock> all = new ArrayList<>();
        for (GuideBlock block : blocks) {
            all.add(block);
            if (block instanceof GuideBlock.Items items) {
                items.items().forEach(i -> all.addAll(all(i)));
            }
        }
        return all;
    }

    private static List<GuideSpan> spans(GuideBlock block) {
        List<GuideSpan> spans = new ArrayList<>();
        if (block instanceof GuideBlock.Paragraph paragraph) {
            spans.addAll(paragraph.words());
        } else if (block instanceof GuideBlock.Table table) {
            table.rows().forEach(r -> r.forEach(spans::addAll));
        }
        return spans;
    }

    @Test
    void everyPageHasItsPictureAndEveryLinkAPage() {
        List<String> names = guide.contents().stream().map(Guide.Entry::name).toList();
        assertThat(names).hasSizeGreaterThan(10).doesNotHaveDuplicates();
        for (String name : names) {
            List<GuideBlock> blocks = all(guide.page(name).blocks());
            assertThat(blocks).as(name).anyMatch(GuideBlock.Picture.class::isInstance);
            for (GuideBlock block : blocks) {
                if (block instanceof GuideBlock.Picture picture) {
                    assertThat(Guide.class.getResource(picture.resource()))
                            .as(name + ": " + picture.resource())
                            .isNotNull();
                }
                spans(block).stream()
                        .filter(s -> s.style() == Style.LINK)
                        .forEach(s -> assertThat(names).as(name).contains(s.target()));
            }
        }
    }

    @Test
    void aPageIsReadAsItIsWritten() {
        GuidePage page = new MarkdownPage("/base/").read("x", """
                # A *title*

                Words with `code`, **weight** and a [link](calling.md)
                that go on.

                1. one
                   ```sh
                   mockbell call
                   ```
                2. two

                | a | b |
                |---|---|
                | 1 | `2` |

                ![What it shows](../screenshots/a.png)
                """);
        assertThat(page.title()).isEqualTo("A title");
        assertThat(page.blocks()).hasSize(5);
        assertThat(page.blocks().get(1))
                .isEqualTo(new GuideBlock.Paragraph(List.of(
                        new GuideSpan("Words with ", Style.PLAIN, ""),
                        new GuideSpan("code", Style.CODE, ""),
                        new GuideSpan(", ", Style.PLAIN, ""),
                        new GuideSpan("weight", Style.STRONG, ""),
                        new GuideSpan(" and a ", Style.PLAIN, ""),
                        new GuideSpan("link", Style.LINK, "calling"),
                        new GuideSpan(" ", Style.PLAIN, ""),
                        new GuideSpan("that go on.", Style.PLAIN, ""))));
        GuideBlock.Items items = (GuideBlock.Items) page.blocks().get(2);
        assertThat(items.numbered()).isTrue();
        assertThat(items.items().get(0)).contains(new GuideBlock.Code("mockbell call", "sh"));
        assertThat(((GuideBlock.Table) page.blocks().get(3)).rows())
                .containsExactly(
                        List.of(
                                List.of(new GuideSpan("a", Style.PLAIN, "")),
                                List.of(new GuideSpan("b", Style.PLAIN, ""))),
                        List.of(
                                List.of(new GuideSpan("1", Style.PLAIN, "")),
                                List.of(new GuideSpan("2", Style.CODE, ""))));
        assertThat(page.blocks().get(4)).isEqualTo(new GuideBlock.Picture("/base/screenshots/a.png", "What it shows"));
    }

    @Test
    void aPageThatIsNotThereIsSaid() {
        assertThatThrownBy(() -> guide.page("../schemas/case")).hasMessageContaining("has no page");
        assertThatThrownBy(() -> guide.page("nothing")).hasMessageContaining("has no page");
    }
}
