package dev.mockbell.guide;

import java.util.List;

/** A piece of a page, one below the other. */
public sealed interface GuideBlock {
    /** @param level 1 for the page's title */
    record Heading(int level, List<GuideSpan> words) implements GuideBlock {}

    /** Words that flow. */
    record Paragraph(List<GuideSpan> words) implements GuideBlock {}

    /**
     * Lines as they are typed.
     *
     * @param info what the fence says of them: {@code sh} where they are commands
     */
    record Code(String text, String info) implements GuideBlock {}

    /** Items, each of which is blocks. */
    record Items(boolean numbered, List<List<GuideBlock>> items) implements GuideBlock {}

    /** Rows of cells; the first row names the columns. */
    record Table(List<List<List<GuideSpan>>> rows) implements GuideBlock {}

    /**
     * A picture.
     *
     * @param resource its name on the class path
     * @param words what it shows, for people who do not see it
     */
    record Picture(String resource, String words) implements GuideBlock {}
}
