package dev.mockbell.guide;

import java.util.List;

/**
 * A page.
 *
 * @param name as links name it, without an ending
 * @param text as it was written
 */
public record GuidePage(String name, String title, String text, List<GuideBlock> blocks) {
    public GuidePage {
        blocks = List.copyOf(blocks);
    }
}
