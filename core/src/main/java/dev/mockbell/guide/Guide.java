package dev.mockbell.guide;

import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;

/** The pages of the guide, read from what the program brings along; nothing is fetched. Safe for many threads. */
public final class Guide {
    private static final String BASE = "/dev/mockbell/guide/";
    private static final String CONTENTS = "README";

    private final Map<String, GuidePage> read = new ConcurrentHashMap<>();

    /** A page, in the order of the work. */
    public record Entry(String name, String title) {}

    /** The pages there are, in the order of the work. */
    public List<Entry> contents() {
        List<Entry> entries = new ArrayList<>();
        for (GuideBlock block : page(CONTENTS).blocks()) {
            if (block instanceof GuideBlock.Items items) {
                items.items().forEach(item -> entries.add(entry(item)));
            }
        }
        return entries;
    }

    private static Entry entry(List<GuideBlock> item) {
        GuideSpan link = ((GuideBlock.Paragraph) item.get(0)).words().get(0);
        return new Entry(link.target(), link.text());
    }

    /**
     * A page.
     *
     * @param name as in {@link #contents}
     * @throws Problem when there is none of that name
     */
    public GuidePage page(String name) {
        return read.computeIfAbsent(name, Guide::read);
    }

    private static GuidePage read(String name) {
        if (!name.matches("[A-Za-z-]+")) {
            throw none(name);
        }
        try (InputStream in = Guide.class.getResourceAsStream(BASE + "pages/" + name + ".md")) {
            if (in == null) {
                throw none(name);
            }
            String text = new String(in.readAllBytes(), StandardCharsets.UTF_8);
            return new MarkdownPage(BASE).read(name, text);
        } catch (IOException e) {
            throw Problem.of(Problem.Kind.INPUT, "The page cannot be read: " + Problem.reason(e), name, null, e);
        }
    }

    private static Problem none(String name) {
        return Problem.input("The guide has no page “" + name + "”", null, "“mockbell guide” lists those there are.");
    }
}
