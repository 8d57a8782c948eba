package dev.mockbell.xml;

import java.util.AbstractList;
import java.util.ArrayDeque;
import java.util.Arrays;
import java.util.Deque;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Collectors;

/**
 * The tags of a text that is being written and so need not be well-formed yet. What cannot be a tag is passed over; a close
 * tag belongs to the nearest open one of its name. Takes time in proportion to the text, and little room beside it.
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

    private final String text;
    private int count;
    private int[] starts = new int[64];
    private int[] ends = new int[64];
    private int[] partners = new int[64];
    private Kind[] kinds = new Kind[64];

    private TagScan(String text) {
        this.text = text;
    }

    public static TagScan of(String text) {
        TagScan scan = new TagScan(text);
        Deque<Integer> open = new ArrayDeque<>();
        int at = text.indexOf('<');
        while (at >= 0) {
            int end = skipped(text, at);
            if (end < 0) {
                end = scan.tag(at, open);
            }
            at = text.indexOf('<', Math.max(end, at + 1));
        }
        return scan;
    }

    private void add(int start, int end, Kind kind, int partner) {
        if (count == starts.length) {
            int more = count + (count >> 1);
            starts = Arrays.copyOf(starts, more);
            ends = Arrays.copyOf(ends, more);
            partners = Arrays.copyOf(partners, more);
            kinds = Arrays.copyOf(kinds, more);
        }
        starts[count] = start;
        ends[count] = end;
        partners[count] = partner;
        kinds[count++] = kind;
    }

    private Tag tag(int index) {
        String name = text.substring(nameStart(index), nameEnd(nameStart(index)));
        return new Tag(starts[index], ends[index], name, kinds[index], partners[index]);
    }

    private int nameStart(int index) {
        return starts[index] + (kinds[index] == Kind.CLOSE ? 2 : 1);
    }

    private int nameEnd(int from) {
        int end = from;
        while (end < text.length() && isName(text.charAt(end))) {
            end++;
        }
        return end;
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

    private int tag(int at, Deque<Integer> open) {
        boolean closing = at + 1 < text.length() && text.charAt(at + 1) == '/';
        int nameStart = at + (closing ? 2 : 1);
        int nameEnd = nameEnd(nameStart);
        if (nameEnd == nameStart) {
            return at + 1;
        }
        int end = end(text, nameEnd);
        boolean closed = end > 0 && end <= text.length() && text.charAt(end - 1) == '>';
        boolean empty = !closing && closed && text.charAt(end - 2) == '/';
        int index = count;
        if (empty) {
            add(at, end, Kind.EMPTY, index);
        } else if (closing) {
            int partner = partner(open, nameStart, nameEnd - nameStart);
            if (partner >= 0) {
                partners[partner] = index;
            }
            add(at, end, Kind.CLOSE, partner);
        } else {
            open.push(index);
            add(at, end, Kind.OPEN, -1);
        }
        return end;
    }

    private int partner(Deque<Integer> open, int name, int length) {
        if (open.stream().limit(200).noneMatch(i -> isNamed(i, name, length))) {
            return -1;
        }
        int index = open.pop();
        while (!isNamed(index, name, length)) {
            index = open.pop();
        }
        return index;
    }

    /** Whether a tag has the name that stands at a place of the text. */
    private boolean isNamed(int index, int name, int length) {
        int own = nameStart(index);
        return text.regionMatches(own, text, name, length) && nameEnd(own) == own + length;
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

    /** In the order of the text; made as they are asked for. */
    public List<Tag> tags() {
        return new AbstractList<>() {
            @Override
            public Tag get(int index) {
                return tag(Objects.checkIndex(index, count));
            }

            @Override
            public int size() {
                return count;
            }
        };
    }

    /** The tag that an offset stands in or right behind. */
    public Optional<Tag> at(int offset) {
        int index = index(offset);
        return index < 0 ? Optional.empty() : Optional.of(tag(index));
    }

    private int index(int offset) {
        int low = 0;
        int high = count - 1;
        while (low <= high) {
            int middle = (low + high) >>> 1;
            if (offset < starts[middle]) {
                high = middle - 1;
            } else if (offset > ends[middle]) {
                low = middle + 1;
            } else {
                return middle;
            }
        }
        return -1;
    }

    /** The tag that belongs to another one. */
    public Optional<Tag> partner(Tag tag) {
        return tag.partner < 0 ? Optional.empty() : Optional.of(tag(tag.partner));
    }

    /** The tags of the elements that are open at an offset, the outermost first. */
    public List<Tag> openAt(int offset) {
        return openBefore(offset).stream().map(this::tag).collect(Collectors.toList());
    }

    private Deque<Integer> openBefore(int offset) {
        Deque<Integer> open = new ArrayDeque<>();
        for (int i = 0; i < count && starts[i] < offset; i++) {
            if (kinds[i] == Kind.OPEN) {
                open.addLast(i);
            } else if (kinds[i] == Kind.CLOSE && partners[i] >= 0) {
                while (!open.isEmpty() && open.peekLast() >= partners[i]) {
                    open.removeLast();
                }
            }
        }
        return open;
    }

    /**
     * The names on the way to the element that an offset is in, as an XPath, with a position where others of the name stand
     * beside it; empty outside of all, and where an element does not end.
     */
    public Optional<String> pathAt(int offset) {
        Deque<Integer> way = openBefore(offset);
        int at = index(offset);
        boolean opens = at >= 0 && kinds[at] != Kind.CLOSE;
        if (opens && (way.isEmpty() || way.peekLast() < at)) {
            way.addLast(at);
        }
        if (way.isEmpty() || way.stream().anyMatch(t -> partners[t] < 0)) {
            return Optional.empty();
        }
        StringBuilder path = new StringBuilder();
        int around = -1;
        for (int tag : way) {
            path.append('/').append(text, localStart(tag), nameEnd(nameStart(tag)));
            if (around >= 0) {
                path.append(position(around, tag));
            }
            around = tag;
        }
        return Optional.of(path.toString());
    }

    private int localStart(int index) {
        int start = nameStart(index);
        int colon = text.indexOf(':', start);
        return colon >= 0 && colon < nameEnd(start) ? colon + 1 : start;
    }

    private String position(int around, int tag) {
        int name = localStart(tag);
        int length = nameEnd(name) - name;
        int like = 0;
        int own = 0;
        int i = around + 1;
        while (i < partners[around]) {
            int child = localStart(i);
            if (text.regionMatches(child, text, name, length) && nameEnd(child) == child + length) {
                like++;
                own = i == tag ? like : own;
            }
            i = Math.max(i, partners[i]) + 1;
        }
        return like > 1 ? "[" + own + "]" : "";
    }
}
