package dev.mockbell.exchange;

import dev.mockbell.content.Content;
import dev.mockbell.inside.Packed;
import dev.mockbell.redact.Redactor;
import dev.mockbell.xml.TextEncoding;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HexFormat;
import java.util.List;
import java.util.Optional;

/**
 * What went over the connection for people to look at: its bytes, in hex where they are no text, and the message that they
 * came to where that is another.
 *
 * @param bytes of the message, head and body, as they were on the way
 * @param decoded the body without what was done to it for the way; empty when nothing was
 * @param how what was undone: "gzip, chunked"; empty when nothing was
 * @param masked whether something of it is masked
 */
public record WireText(String bytes, String decoded, String how, boolean masked) {
    /** More than a person goes through by eye. */
    static final int MOST_HEX = 64 << 10;

    /**
     * Writes a message out.
     *
     * @param redactor what masks credentials and secrets; empty to show everything
     * @param most how many bytes of each are shown; what is left out is said
     */
    public static WireText of(Message message, Optional<Redactor> redactor, int most) {
        Content wire = new WireBytes(redactor).of(message);
        boolean masks = wire != message.wire();
        byte[] start = wire.start(most);
        int head = (int) Math.min(start.length, WireBytes.headLength(wire));
        String type = message.header("Content-Type").orElse("");
        HexText text = new HexText(start.length + 64);
        text.add(start, 0, head, "");
        text.add(start, head, start.length, type);
        String bytes = text.ending(more(wire.size(), most));
        List<String> undone = new ArrayList<>(WireBytes.codings(message));
        Content plain = message.body();
        // as it came: what is masked is as long as it likes
        long came = message.wire().size() - WireBytes.headLength(message.wire());
        boolean same = came == plain.size() && undone.isEmpty();
        if (same || plain.isEmpty() || message.wire().isEmpty()) {
            return new WireText(bytes, "", "", masks);
        }
        String how = String.join(", ", undone);
        boolean compressed = undone.stream().anyMatch(c -> !c.equals("chunked"));
        Optional<Content> rest = compressed ? Packed.asFarAsItGoes(plain, most) : Optional.empty();
        if (rest.isPresent()) {
            // it could not be undone as it should, or it is packed twice
            plain = rest.get();
            how += ", as far as it goes";
        }
        byte[] come = plain.start(most);
        Optional<byte[]> hidden = redactor.flatMap(r -> WireBytes.masked(come, r::message));
        byte[] shown = hidden.orElse(come);
        HexText decoded = new HexText(shown.length + 64);
        decoded.add(shown, 0, shown.length, type);
        return new WireText(
                bytes,
                decoded.ending(more(plain.size(), most)),
                how.isEmpty() ? "encryption" : how,
                masks || hidden.isPresent());
    }

    /** Whether something of a message would be masked. */
    public static boolean masks(Message message, Redactor redactor, int most) {
        Optional<Redactor> masking = Optional.of(redactor);
        return new WireBytes(masking).of(message) != message.wire()
                || WireBytes.masked(message.body().start(most), redactor::message)
                        .isPresent();
    }

    private static String more(long size, int most) {
        return size <= most ? "" : "\n\n(" + (size - most) + " more bytes are not shown; they are kept)";
    }

    /** Bytes as text; stretches that are none in hex. */
    private static final class HexText {
        private static final int WIDTH = 8;
        private static final HexFormat HEX = HexFormat.of();

        /** A shorter stretch of text among bytes that are none is chance. */
        private static final int SHORTEST = 24;

        /** What is made a text at a time. */
        private static final int CHUNK = 64 << 10;

        private final StringBuilder out;
        private byte[] bytes = {};
        private int stop;
        private int hexed;

        /** @param size about how many characters there will be */
        HexText(int size) {
            out = new StringBuilder(size);
        }

        String ending(String end) {
            return out.append(end).toString();
        }

        void add(byte[] from, int start, int end, String type) {
            byte[] first = Arrays.copyOfRange(from, start, Math.min(end, start + CHUNK));
            TextEncoding encoding = TextEncoding.of(first, type);
            boolean other = !encoding.charset().equals(StandardCharsets.UTF_8);
            if (other) {
                String text = encoding.decode(Arrays.copyOfRange(from, start, end));
                if (isText(text)) {
                    out.append(text);
                    return;
                }
            }
            bytes = from;
            stop = end;
            hexed = 0;
            write(start);
        }

        private static boolean isText(String text) {
            return text.chars()
                    .noneMatch(c -> c < ' ' && c != '\n' && c != '\r' && c != '\t' || c == '\uFFFD' || c == 0x7F);
        }

        private void write(int start) {
            int at = start;
            while (at < stop) {
                int text = textEnd(at);
                boolean whole = text - at >= SHORTEST || at == start && text == stop;
                if (whole) {
                    text(at, text);
                    at = text;
                    continue;
                }
                int end = Math.max(text, at + 1);
                while (end < stop && textEnd(end) - end < SHORTEST) {
                    end = Math.max(textEnd(end), end + 1);
                }
                hex(at, end, start);
                at = end;
            }
        }

        private void text(int from, int to) {
            int at = from;
            while (at < to) {
                int end = Math.min(to, at + CHUNK);
                while (end < to && (bytes[end] & 0xC0) == 0x80) {
                    end++;
                }
                out.append(new String(bytes, at, end - at, StandardCharsets.UTF_8));
                at = end;
            }
        }

        /** Up to where what begins at {@code from} is UTF-8 without control characters. */
        private int textEnd(int from) {
            int at = from;
            while (at < stop) {
                int length = character(at);
                if (length == 0) {
                    return at;
                }
                at += length;
            }
            return at;
        }

        /** How many bytes the character at a place has; 0 when there is none (RFC 3629 §4). */
        private int character(int at) {
            int first = bytes[at] & 0xFF;
            if (first < 0x80) {
                boolean white = first == '\n' || first == '\r' || first == '\t';
                return first >= ' ' && first != 0x7F || white ? 1 : 0;
            }
            int length = first >= 0xF0 ? 4 : first >= 0xE0 ? 3 : 2;
            if (first < 0xC2 || first > 0xF4 || at + length > stop) {
                return 0;
            }
            for (int i = 1; i < length; i++) {
                if ((bytes[at + i] & 0xC0) != 0x80) {
                    return 0;
                }
            }
            int second = bytes[at + 1] & 0xFF;
            boolean wrong = first == 0xE0 && second < 0xA0
                    || first == 0xED && second > 0x9F
                    || first == 0xF0 && second < 0x90
                    || first == 0xF4 && second > 0x8F;
            return wrong ? 0 : length;
        }

        private void hex(int from, int to, int start) {
            if (out.length() > 0 && out.charAt(out.length() - 1) != '\n') {
                out.append('\n');
            }
            int end = Math.min(to, from + Math.max(0, MOST_HEX - hexed));
            for (int line = from; line < end; line += WIDTH) {
                int last = Math.min(end, line + WIDTH);
                out.append(HEX.toHexDigits(line - start, 6)).append("  ");
                for (int i = line; i < line + WIDTH; i++) {
                    out.append(i < last ? HEX.toHexDigits(bytes[i]) : "  ").append(' ');
                }
                out.append(' ');
                for (int i = line; i < last; i++) {
                    out.append(bytes[i] >= ' ' && bytes[i] < 0x7F ? (char) bytes[i] : '·');
                }
                out.append('\n');
            }
            hexed += end - from;
            if (end < to) {
                out.append("… ").append(to - end).append(" more bytes that are no text\n");
            }
        }
    }
}
