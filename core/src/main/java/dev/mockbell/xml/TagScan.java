package dev.mockbell.xml;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Optional;

/**
 * The tags of a text that is being written and so need not be well-formed yet. What cannot be a tag is passed over; a close
 * tag belongs to the nearest open one of its name. Takes time in proportion to the text.
 */
public final class TagScan {
    /** What a tag does. */
    public enum Kind {
        OPEN,
        CLOSE,
        EMPTY
    }

    /**
     * A tag.
     *
     * @param start offset of the angle bracket
     * @param end offset behind the closing one, or where the text or the next tag begins when there is none
     * @param name with its prefix
     * @param partner index of the tag that belongs to it; itself for an empty one, -1 when there is none
     */
    public record Tag(int start, int end, String name, Kind kind, int partner) {}

    private final List<Tag> tags;

    private TagScan(List<Tag> tags) {
        this.tags = tags;
    }

    public static TagScan of(String text) {
        List<Tag> found = new ArrayList<>();
        Deque<Integer> open = new ArrayDeque<>();
        int at = text.indexOf('<');
        while (at >= 0) {
            int end = skipped(text, at);
            if (end < 0) {
                end = tag(text, at, found, open);
            }
            at = text.indexOf('<', Math.max(end, at + 1));
        }
        return new TagScan(found);
    }

    /** Behind a comment, CDATA section, processing instruction or declaration that starts here; -1 when none does. */
    private static int skipped(String text, int at) {
        String close = text.startsWith("<!--", at)
                ? "-->"
                : text.startsWith("<![CDATA[", at)
                        ? "]]>"
                        : text.startsWith("<?", at) ? "?>" : text.startsWith("<!", at) ? ">" : null;
        if (close == null) {
            return -1;
        }
        int end = text.indexOf(close, at + 2);
        return end < 0 ? text.length() : end + close.length();
    }

    private static int tag(String text, int at, List<Tag> found, Deque<Integer> open) {
        boolean closing = at + 1 < text.length() && text.charAt(at + 1) == '/';
        int nameStart = at + (closing ? 2 : 1);
        int nameEnd = nameStart;
        while (nameEnd < text.length() && isName(text.charAt(nameEnd))) {
            nameEnd++;
        }
        if (nameEnd == nameStart) {
            return at + 1;
        }
        String name = text.substring(nameStart, nameEnd);
        int end = end(text, nameEnd);
        boolean closed = end > 0 && end <= text.length() && text.charAt(end - 1) == '>';
        boolean empty = !closing && closed && text.charAt(end - 2) == '/';
        int index = found.size();
        if (empty) {
            found.add(new Tag(at, end, name, Kind.EMPTY, index));
        } else if (closing) {
            int partner = partner(found, open, name);
            if (partner >= 0) {
                Tag first = found.get(partner);
                found.set(partner, new Tag(first.start, first.end, first.name, first.kind, index));
            }
            found.add(new Tag(at, end, name, Kind.CLOSE, partner));
        } else {
            open.push(index);
            found.add(new Tag(at, end, name, Kind.OPEN, -1));
        }
        return end;
    }

    private static int partner(List<Tag> found, Deque<Integer> open, String name) {
        if (open.stream().limit(200).noneMatch(i -> found.get(i).name().equals(name))) {
            return -1;
        }
        int index = open.pop();
        while (!found.get(index).name().equals(name)) {
            index = open.pop();
        }
        return index;
    }

    /** Behind the bracket that ends a tag; quoted values may hold anything but the next tag ends what is not closed. */
    private static int end(String text, int from) {
        char quote = 0;
        for (int i = from; i < text.length(); i++) {
            char c = text.charAt(i);
            if (quote != 0) {
                quote = c == quote ? 0 : quote;
                if (c == '<') {
                    return i;
                }
            } else if (c == '"' || c == '\'') {
                quote = c;
            } else if (c == '>') {
                return i + 1;
            } else if (c == '<') {
                return i;
            }
        }
        return text.length();
    }

    private static boolean isName(char c) {
        return Character.isLetterOrDigit(c) || c == ':' || c == '_' || c == '-' || c == '.';
    }

    /** In the order of the text. */
    public List<Tag> tags() {
        return List.copyOf(tags);
    }

    /** The tag that an offset stands in or right behind. */
    public Optional<Tag> at(int offset) {
        int low = 0;
        int high = tags.size() - 1;
        while (low <= high) {
            int middle = (low + high) >>> 1;
            Tag tag = tags.get(middle);
            if (offset < tag.start) {
                high = middle - 1;
            } else if (offset > tag.end) {
                low = middle + 1;
            } else {
                return Optional.of(tag);
            }
        }
        return Optional.empty();
    }

    /** The tag that belongs to another one. */
    public Optional<Tag> partner(Tag tag) {
        return tag.partner < 0 ? Optional.empty() : Optional.of(tags.get(tag.partner));
    }

    /** The tags of the elements that are open at an offset, the outermost first. */
    public List<Tag> openAt(int offset) {
        Deque<Tag> open = new ArrayDeque<>();
        for (Tag tag : tags) {
            if (tag.start >= offset) {
                break;
            }
            if (tag.kind == Kind.OPEN) {
                open.addLast(tag);
            } else if (tag.kind == Kind.CLOSE && tag.partner >= 0) {
                Tag first = tags.get(tag.partner);
                while (!open.isEmpty() && open.peekLast().start >= first.start) {
                    open.removeLast();
                }
            }
        }
        return List.copyOf(open);
    }

    /**
     * The names on the way to the element that an offset is in, as an XPath, with a position where others of the name stand
     * beside it; empty outside of all, and where an element does not end.
     */
    public Optional<String> pathAt(int offset) {
        Deque<Tag> way = new ArrayDeque<>(openAt(offset));
        at(offset)
                .filter(t -> t.kind == Kind.EMPTY || t.kind == Kind.OPEN)
                .filter(t -> way.isEmpty() || way.peekLast().start < t.start)
                .ifPresent(way::addLast);
        if (way.isEmpty() || way.stream().anyMatch(t -> t.partner < 0)) {
            return Optional.empty();
        }
        StringBuilder path = new StringBuilder();
        Tag around = null;
        for (Tag tag : way) {
            path.append('/').append(local(tag.name));
            if (around != null) {
                path.append(position(around, tag));
            }
            around = tag;
        }
        return Optional.of(path.toString());
    }

    private static String local(String name) {
        return name.substring(name.indexOf(':') + 1);
    }

    private String position(Tag around, Tag tag) {
        int like = 0;
        int own = 0;
        int i = tags.get(around.partner).partner + 1;
        while (i < around.partner) {
            Tag child = tags.get(i);
            if (local(child.name).equals(local(tag.name))) {
                like++;
                own = child.start == tag.start ? like : own;
            }
            i = Math.max(i, child.partner) + 1;
        }
        return like > 1 ? "[" + own + "]" : "";
    }
}
