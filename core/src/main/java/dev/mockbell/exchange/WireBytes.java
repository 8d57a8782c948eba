package dev.mockbell.exchange;

import dev.mockbell.content.Content;
import dev.mockbell.content.ContentSink;
import dev.mockbell.content.HttpHead;
import dev.mockbell.redact.Redactor;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;

/**
 * What went over the connection, byte for byte, but for what is masked.
 *
 * @param redactor what masks credentials and secrets; empty for the very bytes
 */
public record WireBytes(Optional<Redactor> redactor) {
    /** What is masked at a time, so that a long message needs no more memory than a short one. */
    private static final int PIECE = 1 << 20;

    /** A piece ends behind an element or a line that ends within so many of its last bytes. */
    private static final int SEAM = 64 << 10;

    /** A value in so many bytes before and behind a seam would be seen to be cut by it. */
    private static final int AROUND = 8 << 10;

    private static final int MOST_SEAMS_TRIED = 200;

    /** Where there is neither markup nor a line, a place so far before is tried next. */
    private static final int STEP = 500;

    private static final int LONGEST_HEAD = 256 << 10;

    /** The bytes of one side. */
    public Content of(Message message) {
        Content wire = message.wire();
        if (redactor.isEmpty() || wire.isEmpty()) {
            return wire;
        }
        Content shown = masked(wire, redactor.get()::wire);
        return veil(message, shown).orElse(shown);
    }

    /**
     * What stands in place of a body whose coding hides a secret: compressed, it would still be there for whoever unpacks it,
     * and where chunks cut it in two it is not found.
     *
     * @param shown the wire, masked
     * @return nothing when there is no such secret
     */
    private Optional<Content> veil(Message message, Content shown) {
        List<String> codings = codings(message);
        if (redactor.isEmpty() || codings.isEmpty() || message.body().isEmpty()) {
            return Optional.empty();
        }
        Content body = masked(message.body(), redactor.get()::message);
        boolean compressed = codings.stream().anyMatch(c -> !c.equals("chunked"));
        boolean hidden = compressed ? body != message.body() : marks(body) > marks(shown);
        if (!hidden) {
            return Optional.empty();
        }
        String words = "(a body of " + (message.wire().size() - headLength(message.wire())) + " bytes, "
                + String.join(", ", codings) + ", which holds a secret: it is not shown masked)";
        byte[] head = message.wire().start((int) headLength(message.wire()));
        byte[] masked = masked(head, redactor.get()::wire).orElse(head);
        return Optional.of(Content.joined(Content.of(masked), Content.of(words.getBytes(StandardCharsets.UTF_8))));
    }

    /** What was done to the body for the way, in order (RFC 9110 §8.4, RFC 9112 §6.1); empty for nothing. */
    static List<String> codings(Message message) {
        return message.headers().stream()
                .filter(h -> h.name().equalsIgnoreCase("Content-Encoding")
                        || h.name().equalsIgnoreCase("Transfer-Encoding"))
                .sorted(Comparator.comparing(h -> h.name().toLowerCase(Locale.ROOT)))
                .flatMap(h -> Stream.of(h.value().split(",")))
                .map(c -> c.strip().toLowerCase(Locale.ROOT))
                .filter(c -> !c.isEmpty() && !c.equals("identity"))
                .toList();
    }

    /** Where the body begins; everything, when there is none. */
    static long headLength(Content wire) {
        return HttpHead.of(wire).map(HttpHead::end).orElse((int) Math.min(LONGEST_HEAD, wire.size()));
    }

    private static long marks(Content content) {
        byte[] mark = Redactor.MASK.getBytes(StandardCharsets.UTF_8);
        long count = 0;
        try (InputStream in = new BufferedInputStream(content.open())) {
            int at = 0;
            for (int b = in.read(); b >= 0; b = in.read()) {
                at = b == (mark[at] & 0xFF) ? at + 1 : b == (mark[0] & 0xFF) ? 1 : 0;
                if (at == mark.length) {
                    count++;
                    at = 0;
                }
            }
        } catch (IOException e) {
            throw Content.unreadable(e);
        }
        return count;
    }

    /** The same content when there is nothing to mask. */
    private Content masked(Content content, UnaryOperator<String> mask) {
        if (content.size() <= PIECE) {
            return masked(content.bytes(), mask).map(Content::of).orElse(content);
        }
        try {
            return inPieces(content, mask);
        } catch (IOException e) {
            throw Content.unreadable(e);
        }
    }

    private Content inPieces(Content content, UnaryOperator<String> first) throws IOException {
        ContentSink sink = new ContentSink();
        boolean changed = false;
        try (InputStream in = content.open()) {
            UnaryOperator<String> mask = first;
            String open = "";
            byte[] held = new byte[0];
            while (true) {
                byte[] come = in.readNBytes(PIECE);
                byte[] piece = together(held, come);
                if (piece.length == 0) {
                    return changed ? sink.content() : content;
                }
                int end = come.length == 0 ? piece.length : seam(piece, redactor.get()::message);
                byte[] part = Arrays.copyOf(piece, end);
                held = Arrays.copyOfRange(piece, end, piece.length);
                Optional<byte[]> hidden = masked(part, mask);
                changed |= hidden.isPresent();
                sink.write(hidden.orElse(part));
                // the head was in the first
                open = redactor.get().open(open, new String(part, StandardCharsets.ISO_8859_1));
                String before = open;
                mask = text -> redactor.get().message(before, text);
            }
        }
    }

    /** Where a piece may end so that masking what is before and what is behind masks the whole. */
    private static int seam(byte[] piece, UnaryOperator<String> mask) {
        // what is cut at the very end cannot be seen to be
        int most = Math.max(0, piece.length - AROUND);
        int tried = 0;
        for (int i = most; i > Math.max(0, most - SEAM) && tried < MOST_SEAMS_TRIED; i--) {
            if (piece[i - 1] == '>' || piece[i - 1] == '\n' && !isInTag(piece, i)) {
                if (cutsNothing(piece, i, mask)) {
                    return i;
                }
                tried++;
            }
        }
        for (int i = most; i > Math.max(0, most - SEAM); i -= STEP) {
            int at = character(piece, i);
            if (!isInTag(piece, at) && cutsNothing(piece, at, mask)) {
                return at;
            }
        }
        return most;
    }

    /** A tag is only known as what it is when it is whole. */
    private static boolean isInTag(byte[] piece, int at) {
        int i = at - 1;
        while (i > Math.max(0, at - SEAM) && piece[i] != '<' && piece[i] != '>') {
            i--;
        }
        return i >= 0 && piece[i] == '<';
    }

    private static boolean cutsNothing(byte[] piece, int at, UnaryOperator<String> mask) {
        byte[] before = Arrays.copyOfRange(piece, character(piece, Math.max(0, at - AROUND)), at);
        byte[] behind = Arrays.copyOfRange(piece, at, character(piece, Math.min(piece.length, at + AROUND)));
        byte[] whole = together(before, behind);
        byte[] parts = together(
                masked(before, mask).orElse(before), masked(behind, mask).orElse(behind));
        return Arrays.equals(masked(whole, mask).orElse(whole), parts);
    }

    private static byte[] together(byte[] one, byte[] other) {
        byte[] all = Arrays.copyOf(one, one.length + other.length);
        System.arraycopy(other, 0, all, one.length, other.length);
        return all;
    }

    /** The place, or the next one where a character of UTF-8 begins. */
    private static int character(byte[] bytes, int at) {
        int next = at;
        while (next < bytes.length && (bytes[next] & 0xC0) == 0x80) {
            next++;
        }
        return next;
    }

    /** Empty when there is nothing to mask. */
    static Optional<byte[]> masked(byte[] bytes, UnaryOperator<String> mask) {
        Charset charset = isUtf8(bytes) ? StandardCharsets.UTF_8 : StandardCharsets.ISO_8859_1;
        String text = new String(bytes, charset);
        String shown = mask.apply(text);
        if (shown.equals(text)) {
            return Optional.empty();
        }
        if (charset.equals(StandardCharsets.ISO_8859_1)) {
            // each character is a byte here, which the mark of a masking is not
            shown = shown.replace(Redactor.MASK, new String(Redactor.MASK.getBytes(StandardCharsets.UTF_8), charset));
        }
        return Optional.of(shown.getBytes(charset));
    }

    private static boolean isUtf8(byte[] bytes) {
        try {
            StandardCharsets.UTF_8.newDecoder().decode(ByteBuffer.wrap(bytes));
            return true;
        } catch (CharacterCodingException other) {
            return false;
        }
    }
}
