package dev.mockbell.load;

import static org.assertj.core.api.Assertions.assertThat;

import io.netty.buffer.Unpooled;
import io.netty.channel.embedded.EmbeddedChannel;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * The reader of answers beside a plain one that reads a whole text with a pointer: whatever bytes come, in whatever pieces, both
 * find the same answers and end the same way.
 */
class ReaderFuzzTest {
    private static final String[] HEADS = {
        "HTTP/1.1 200 OK",
        "HTTP/1.0 200 OK",
        "HTTP/1.1 500 No",
        "HTTP/1.1 204 Nothing",
        "HTTP/1.1 100 Continue",
        "HTTP/1.1 304 Same",
        "HTTP/1.1 2x0 OK",
        "ICY 200 OK here",
        "HTTP/1.1 200"
    };
    private static final String[] FIELDS = {
        "Content-Length: 5",
        "content-length:5",
        "Content-Length: 12",
        "Content-Length: -1",
        "Content-Length: 5x",
        "Content-Length: 5, 5",
        "Transfer-Encoding: chunked",
        "Transfer-Encoding: gzip",
        "Connection: close",
        "Connection: keep-alive",
        "X-Any: thing",
        "X-Empty:",
        "Content-Length : 5",
        " folded"
    };
    private static final String[] BODIES = {
        "hello",
        "hello world!",
        "5\r\nhello\r\n0\r\n\r\n",
        "5;x=y\r\nhello\r\n0\r\nT: v\r\n\r\n",
        "-5\r\nhello\r\n0\r\n\r\n",
        "zz\r\n",
        "0\r\n\r\n",
        "",
        "ffffffffffffffff\r\n"
    };

    /** What a reader found: an answer a line, and how it ended. */
    private static final class Seen implements ResponseReader.Sink {
        private final List<String> lines = new ArrayList<>();
        private boolean over;

        @Override
        public boolean wants(int status) {
            return true;
        }

        @Override
        public void response(int status, String head, byte[] body, boolean reusable) {
            if (!over) {
                lines.add(status + " " + new String(body, StandardCharsets.ISO_8859_1) + " " + reusable);
                // who may not use a connection again does not
                over = !reusable;
            }
        }

        @Override
        public void broken(String reason) {
            if (!over) {
                lines.add(reason.startsWith("not HTTP") ? "refused" : "ended");
                over = true;
            }
        }
    }

    private static List<String> ours(byte[] bytes, SplittableRandom random) {
        Seen seen = new Seen();
        EmbeddedChannel channel = new EmbeddedChannel(new ResponseReader(seen));
        int at = 0;
        while (at < bytes.length && channel.isOpen() && !seen.over) {
            int most = random.nextInt(3) == 0 ? 1 : 40;
            int count = Math.min(bytes.length - at, 1 + random.nextInt(most));
            channel.writeInbound(Unpooled.copiedBuffer(bytes, at, count));
            at += count;
        }
        channel.finishAndReleaseAll();
        return seen.lines;
    }

    /** Reads the same in one go (RFC 9112 §2, §6, §7). */
    private static final class Plain {
        private final String text;
        private final List<String> lines = new ArrayList<>();
        private int at;

        Plain(byte[] bytes) {
            text = new String(bytes, StandardCharsets.ISO_8859_1);
        }

        List<String> read() {
            while (true) {
                String verdict = one();
                if (!verdict.isEmpty()) {
                    lines.add(verdict);
                    if (!verdict.endsWith(" true")) {
                        return lines;
                    }
                }
            }
        }

        private int endOfHead() {
            for (int lf = text.indexOf('\n', at); lf >= 0; lf = text.indexOf('\n', lf + 1)) {
                if (text.startsWith("\n", lf + 1)) {
                    return lf + 2;
                }
                if (text.startsWith("\r\n", lf + 1)) {
                    return lf + 3;
                }
            }
            return -1;
        }

        private String one() {
            int end = endOfHead();
            if (end < 0) {
                return "ended";
            }
            String[] head = text.substring(at, end).split("\n");
            if (end - at < 12 || text.charAt(at) != 'H' || text.charAt(at + 4) != '/') {
                return "refused";
            }
            String status = text.substring(at + 9, at + 12);
            if (!status.matches("[0-9]{3}")) {
                return "refused";
            }
            status = String.valueOf(Integer.parseInt(status));
            boolean reusable = text.charAt(at + 7) == '1';
            long length = -1;
            boolean chunked = false;
            for (int i = 1; i < head.length; i++) {
                int colon = head[i].indexOf(':');
                if (colon < 1) {
                    continue;
                }
                String value = head[i].substring(colon + 1).strip();
                switch (head[i].substring(0, colon).toLowerCase(Locale.ROOT)) {
                    case "content-length" -> {
                        if (!value.matches("[0-9]{1,18}") || length >= 0 && length != Long.parseLong(value)) {
                            return "refused";
                        }
                        length = Long.parseLong(value);
                    }
                    case "transfer-encoding" ->
                        chunked = value.toLowerCase(Locale.ROOT).contains("chunked");
                    case "connection" ->
                        reusable = !value.toLowerCase(Locale.ROOT).contains("close")
                                && (reusable || value.toLowerCase(Locale.ROOT).contains("keep-alive"));
                    default -> {
                        // others say nothing of where the body ends
                    }
                }
            }
            at = end;
            if (Integer.parseInt(status) / 100 == 1) {
                return "";
            }
            if (status.equals("204") || status.equals("304") || length == 0 && !chunked) {
                return status + "  " + reusable;
            }
            if (chunked) {
                return chunks(status, reusable);
            }
            if (length > 0) {
                if (text.length() - at < length) {
                    return "ended";
                }
                at += (int) length;
                return status + " " + text.substring(at - (int) length, at) + " " + reusable;
            }
            String rest = text.substring(at);
            at = text.length();
            return status + " " + rest + " false";
        }

        private String chunks(String status, boolean reusable) {
            StringBuilder body = new StringBuilder();
            while (true) {
                int lf = text.indexOf('\n', at);
                if (lf < 0) {
                    return "ended";
                }
                String line = text.substring(at, lf).strip();
                at = lf + 1;
                if (line.isEmpty()) {
                    continue;
                }
                String size = line.contains(";")
                        ? line.substring(0, line.indexOf(';')).strip()
                        : line;
                if (!size.matches("[0-9A-Fa-f]{1,15}")) {
                    return "refused";
                }
                long count = Long.parseLong(size, 16);
                if (count == 0) {
                    return trailer(status, body.toString(), reusable);
                }
                if (text.length() - at < count) {
                    return "ended";
                }
                body.append(text, at, at + (int) count);
                at += (int) count;
            }
        }

        private String trailer(String status, String body, boolean reusable) {
            while (true) {
                int lf = text.indexOf('\n', at);
                if (lf < 0) {
                    return "ended";
                }
                boolean empty = lf - at <= 1;
                at = lf + 1;
                if (empty) {
                    return status + " " + body + " " + reusable;
                }
            }
        }
    }

    private static byte[] answers(SplittableRandom random) {
        StringBuilder text = new StringBuilder();
        for (int i = 0; i < 1 + random.nextInt(3); i++) {
            text.append(HEADS[random.nextInt(random.nextInt(3) == 0 ? HEADS.length : 3)])
                    .append("\r\n");
            for (int f = 0; f < random.nextInt(4); f++) {
                text.append(FIELDS[random.nextInt(random.nextInt(3) == 0 ? FIELDS.length : 3)])
                        .append(random.nextInt(9) == 0 ? "\n" : "\r\n");
            }
            text.append("\r\n").append(BODIES[random.nextInt(BODIES.length)]);
        }
        byte[] bytes = text.toString().getBytes(StandardCharsets.ISO_8859_1);
        for (int i = 0; i < random.nextInt(3); i++) {
            bytes[random.nextInt(bytes.length)] = (byte) random.nextInt(256);
        }
        return bytes;
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8})
    void bothReadersSeeTheSameInAnyBytesAndAnyPieces(long seed) {
        SplittableRandom random = new SplittableRandom(seed);
        for (int i = 0; i < 4_000; i++) {
            byte[] bytes = answers(random);
            assertThat(ours(bytes, random))
                    .as("seed %d, round %d: %s", seed, i, new String(bytes, StandardCharsets.ISO_8859_1))
                    .isEqualTo(new Plain(bytes).read());
        }
    }

    @Test
    void theSameAnswerAgainAndAgainIsReadTheSame() {
        String one = "HTTP/1.1 200 OK\r\nContent-Length: 5\r\n\r\nhello";
        assertThat(ours((one + one + one).getBytes(StandardCharsets.ISO_8859_1), new SplittableRandom(1)))
                .containsExactly("200 hello true", "200 hello true", "200 hello true", "ended");
    }
}
