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
 */
public record WireText(String bytes, String decoded, String how) {
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
        byte[] start = wire.start(most);
        int head = (int) Math.min(start.length, WireBytes.headLength(wire));
        byte[] body = Arrays.copyOfRange(start, head, start.length);
        String type = message.header("Content-Type").orElse("");
        String bytes = HexText.of(Arrays.copyOf(start, head), "") + HexText.of(body, type) + more(wire.size(), most);
        List<String> undone = new ArrayList<>(WireBytes.codings(message));
        Content plain = message.body();
        // as it came: what is masked is as long as it likes
        long came = message.wire().size() - WireBytes.headLength(message.wire());
        boolean same = came == plain.size() && undone.isEmpty();
        if (same || plain.isEmpty() || message.wire().isEmpty()) {
            return new WireText(bytes, "", "");
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
        byte[] masked =
                redactor.flatMap(r -> WireBytes.masked(come, r::message)).orElse(come);
        return new WireText(
                bytes, HexText.of(masked, type) + more(plain.size(), most), how.isEmpty() ? "encryption" : how);
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

        private final byte[] bytes;
        private final StringBuilder out = new StringBuilder();
        private int hexed;

        private HexText(byte[] bytes) {
            this.bytes = bytes;
        }

        static String of(byte[] bytes, String type) {
            TextEncoding encoding = TextEncoding.of(bytes, type);
            boolean other = !encoding.charset().equals(StandardCharsets.UTF_8);
            if (other) {
                String text = encoding.decode(bytes);
                if (isText(text)) {
                    return text;
                }
            }
            return new HexText(bytes).written();
        }

        private static boolean isText(String text) {
            return text.chars()
                    .noneMatch(c -> c < ' ' && c != '\n' && c != '\r' && c != '\t' || c == '\uFFFD' || c == 0x7F);
        }

        private String written() {
            int at = 0;
            while (at < bytes.length) {
                int text = textEnd(at);
                boolean whole = text - at >= SHORTEST || at == 0 && text == bytes.length;
                if (whole) {
                    out.append(new String(bytes, at, text - at, StandardCharsets.UTF_8));
                    at = text;
                    continue;
                }
                int end = Math.max(text, at + 1);
                while (end < bytes.length && textEnd(end) - end < SHORTEST) {
                    end = Math.max(textEnd(end), end + 1);
                }
                hex(at, end);
                at = end;
            }
            return out.toString();
        }

        /** Up to where what begins at {@code from} is UTF-8 without control characters. */
        private int textEnd(int from) {
            int at = from;
            while (at < bytes.length) {
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
            if (first < 0xC2 || first > 0xF4 || at + length > bytes.length) {
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

        private void hex(int from, int to) {
            if (out.length() > 0 && out.charAt(out.length() - 1) != '\n') {
                out.append('\n');
            }
            int end = Math.min(to, from + Math.max(0, MOST_HEX - hexed));
            for (int line = from; line < end; line += WIDTH) {
                int stop = Math.min(end, line + WIDTH);
                out.append(HEX.toHexDigits(line, 6)).append("  ");
                for (int i = line; i < line + WIDTH; i++) {
                    out.append(i < stop ? HEX.toHexDigits(bytes[i]) : "  ").append(' ');
                }
                out.append(' ');
                for (int i = line; i < stop; i++) {
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
