package dev.mockbell.load;

import io.netty.buffer.ByteBuf;
import io.netty.buffer.ByteBufUtil;
import io.netty.buffer.Unpooled;
import io.netty.channel.ChannelHandlerContext;
import io.netty.channel.ChannelInboundHandlerAdapter;
import io.netty.util.AsciiString;
import java.nio.charset.StandardCharsets;

/**
 * Reads responses off one connection (RFC 9112 §6): by Content-Length, in chunks, or to the end of the connection. It
 * keeps head and content only when asked to, so that a plain good answer costs no copy.
 */
final class ResponseReader extends ChannelInboundHandlerAdapter {
    private static final int MOST_HEAD = 64 * 1024;
    private static final int MOST_BODY = 64 << 20;
    private static final int MOST_CHUNK_LINE = 4 * 1024;
    private static final int MOST_TRAILER = 64 * 1024;
    private static final AsciiString LENGTH = AsciiString.cached("content-length");
    private static final AsciiString CODING = AsciiString.cached("transfer-encoding");
    private static final AsciiString CONNECTION = AsciiString.cached("connection");

    /** What hears of responses, on the connection's event loop. */
    interface Sink {
        /** Something of a response has come; first of all that concern it. */
        default void came() {}

        /** Whether the content of a response of that status is wanted. */
        boolean wants(int status);

        /**
         * A whole response.
         *
         * @param head start line and headers as received; null unless wanted
         * @param body null unless wanted
         * @param reusable whether the connection may be used again
         */
        void response(int status, String head, byte[] body, boolean reusable);

        /** The connection ended or sent what is no HTTP, with the reason. */
        void broken(String reason);
    }

    private enum State {
        HEAD,
        LENGTH,
        CHUNK_SIZE,
        CHUNK,
        TRAILER,
        TO_END
    }

    private static final byte[] FAULT = "Fault".getBytes(StandardCharsets.ISO_8859_1);
    private static final int MOST_REMEMBERED = 1_024;

    private final Sink sink;
    private ByteBuf before;
    private int beforeStatus;
    private boolean beforeReusable;
    private long beforeLength;
    private boolean beforeChunked;
    private ByteBuf held = Unpooled.EMPTY_BUFFER;
    private State state = State.HEAD;
    private int status;
    private String head;
    private boolean wanted;
    private boolean reusable;
    private long left;
    private ByteBuf body;
    private int trailer;

    /** What came is no HTTP, or more than is taken. */
    private static final class Refused extends RuntimeException {
        private static final long serialVersionUID = 1L;

        Refused(String why) {
            super(why, null, false, false);
        }
    }

    ResponseReader(Sink sink) {
        this.sink = sink;
    }

    @Override
    public void channelRead(ChannelHandlerContext context, Object message) {
        ByteBuf in = (ByteBuf) message;
        sink.came();
        if (held.isReadable()) {
            ByteBuf joined = context.alloc().buffer(held.readableBytes() + in.readableBytes());
            joined.writeBytes(held).writeBytes(in);
            held.release();
            in.release();
            in = joined;
        }
        held = Unpooled.EMPTY_BUFFER;
        try {
            while (in.isReadable() && step(in)) {
                // each step consumes a head, a piece of content or a whole response
            }
            if (in.isReadable()) {
                held = in;
                return;
            }
        } catch (Refused e) {
            sink.broken(e.getMessage());
            context.close();
        }
        in.release();
    }

    private boolean step(ByteBuf in) {
        switch (state) {
            case HEAD -> {
                return head(in);
            }
            case LENGTH, CHUNK -> {
                if (state == State.LENGTH && wanted && body == null && left <= in.readableBytes()) {
                    whole(in);
                    return true;
                }
                int count = (int) Math.min(left, in.readableBytes());
                take(in, count);
                left -= count;
                if (left == 0) {
                    if (state == State.LENGTH) {
                        done();
                    } else {
                        state = State.CHUNK_SIZE;
                    }
                }
                return true;
            }
            case CHUNK_SIZE -> {
                return chunkSize(in);
            }
            case TRAILER -> {
                int end = line(in, MOST_TRAILER - trailer, "the trailer");
                if (end < 0) {
                    return false;
                }
                trailer += end - in.readerIndex();
                boolean empty = end - in.readerIndex() <= 1;
                in.readerIndex(end + 1);
                if (empty) {
                    done();
                }
                return true;
            }
            default -> {
                take(in, in.readableBytes());
                return true;
            }
        }
    }

    /** Where the line ends; -1 when that is not there yet. */
    private static int line(ByteBuf in, int most, String what) {
        int end = in.indexOf(in.readerIndex(), in.writerIndex(), (byte) '\n');
        int length = (end < 0 ? in.writerIndex() : end) - in.readerIndex();
        if (length > most) {
            throw new Refused("not HTTP: " + what + " is larger than " + most + " bytes");
        }
        return end;
    }

    private boolean chunkSize(ByteBuf in) {
        int end = line(in, MOST_CHUNK_LINE, "the line of a chunk");
        if (end < 0) {
            return false;
        }
        String text = in.toString(in.readerIndex(), end - in.readerIndex(), StandardCharsets.ISO_8859_1)
                .strip();
        in.readerIndex(end + 1);
        if (text.isEmpty()) {
            return true;
        }
        int semicolon = text.indexOf(';');
        String size = semicolon < 0 ? text : text.substring(0, semicolon).strip();
        // hexadecimal digits and nothing else (RFC 9112 §7.1); a sign would make it negative
        if (!size.matches("[0-9A-Fa-f]{1,15}")) {
            throw new Refused("not HTTP: the size of a chunk is no hexadecimal number");
        }
        left = Long.parseLong(size, 16);
        trailer = 0;
        state = left == 0 ? State.TRAILER : State.CHUNK;
        return true;
    }

    /** The same head as the one before means the same: most services send it again and again. */
    private boolean headAgain(ByteBuf in) {
        int from = in.readerIndex();
        if (before == null
                || in.readableBytes() < before.writerIndex()
                || !ByteBufUtil.equals(in, from, before, 0, before.writerIndex())) {
            return false;
        }
        status = beforeStatus;
        reusable = beforeReusable;
        begin(in, from, from + before.writerIndex(), beforeLength, beforeChunked);
        return true;
    }

    private boolean head(ByteBuf in) {
        if (headAgain(in)) {
            return true;
        }
        int from = in.readerIndex();
        int end = endOfHead(in);
        if (end < 0) {
            if (in.readableBytes() > MOST_HEAD) {
                throw new Refused("not HTTP: the headers are larger than " + MOST_HEAD + " bytes");
            }
            return false;
        }
        if (end - from < 12 || in.getByte(from) != 'H' || in.getByte(from + 4) != '/') {
            throw new Refused("not HTTP: the answer does not start with a status line");
        }
        status = digit(in, from + 9) * 100 + digit(in, from + 10) * 10 + digit(in, from + 11);
        reusable = in.getByte(from + 7) == '1';
        long length = -1;
        boolean chunked = false;
        int at = in.indexOf(from, end, (byte) '\n') + 1;
        while (at > 0 && at < end) {
            int lineEnd = in.indexOf(at, end, (byte) '\n');
            if (lineEnd < 0) {
                break;
            }
            int colon = in.indexOf(at, lineEnd, (byte) ':');
            if (colon > 0) {
                if (named(in, at, colon, LENGTH)) {
                    long given = number(in, colon + 1, lineEnd);
                    if (length >= 0 && given != length) {
                        throw new Refused("not HTTP: two lengths that differ");
                    }
                    length = given;
                } else if (named(in, at, colon, CODING)) {
                    chunked = text(in, colon + 1, lineEnd)
                            .toLowerCase(java.util.Locale.ROOT)
                            .contains("chunked");
                } else if (named(in, at, colon, CONNECTION)) {
                    String value = text(in, colon + 1, lineEnd).toLowerCase(java.util.Locale.ROOT);
                    reusable = !value.contains("close") && (reusable || value.contains("keep-alive"));
                }
            }
            at = lineEnd + 1;
        }
        if (status / 100 == 1) {
            in.readerIndex(end);
            return true;
        }
        remember(in, from, end, length, chunked);
        begin(in, from, end, length, chunked);
        return true;
    }

    private void remember(ByteBuf in, int from, int end, long length, boolean chunked) {
        if (end - from <= MOST_REMEMBERED) {
            before = before == null ? Unpooled.buffer(MOST_REMEMBERED) : before.clear();
            before.writeBytes(in, from, end - from);
            beforeStatus = status;
            beforeReusable = reusable;
            beforeLength = length;
            beforeChunked = chunked;
        }
    }

    private void begin(ByteBuf in, int from, int end, long length, boolean chunked) {
        wanted = sink.wants(status);
        // a fault that pretends to be a good answer is not taken for one
        if (!wanted && length > 0 && status / 100 == 2) {
            wanted = hasFault(in, end, (int) Math.min(in.writerIndex(), end + length));
        }
        head = wanted ? in.toString(from, end - from, StandardCharsets.ISO_8859_1) : null;
        body = null;
        in.readerIndex(end);
        if (status == 204 || status == 304 || length == 0 && !chunked) {
            done();
        } else if (chunked) {
            state = State.CHUNK_SIZE;
        } else if (length > 0) {
            left = length;
            state = State.LENGTH;
        } else {
            reusable = false;
            state = State.TO_END;
        }
    }

    /** Whether an element may be there that is called Fault; as far as the answer has come with its head. */
    private static boolean hasFault(ByteBuf in, int from, int to) {
        for (int at = in.indexOf(from, to, (byte) 'F'); at >= 0; at = in.indexOf(at + 1, to, (byte) 'F')) {
            if (at + FAULT.length <= to && at > from && matches(in, at)) {
                byte lead = in.getByte(at - 1);
                if (lead == ':' || lead == '<') {
                    return true;
                }
            }
        }
        return false;
    }

    private static boolean matches(ByteBuf in, int at) {
        for (int i = 1; i < FAULT.length; i++) {
            if (in.getByte(at + i) != FAULT[i]) {
                return false;
            }
        }
        return true;
    }

    private static int endOfHead(ByteBuf in) {
        int at = in.readerIndex();
        while (true) {
            int lf = in.indexOf(at, in.writerIndex(), (byte) '\n');
            if (lf < 0 || lf + 1 >= in.writerIndex()) {
                return -1;
            }
            if (in.getByte(lf + 1) == '\n') {
                return lf + 2;
            }
            if (in.getByte(lf + 1) == '\r' && lf + 2 < in.writerIndex() && in.getByte(lf + 2) == '\n') {
                return lf + 3;
            }
            at = lf + 1;
        }
    }

    private static int digit(ByteBuf in, int at) {
        int digit = in.getByte(at) - '0';
        if (digit < 0 || digit > 9) {
            throw new Refused("not HTTP: the status is not a number");
        }
        return digit;
    }

    private static boolean named(ByteBuf in, int from, int to, AsciiString name) {
        if (to - from != name.length()) {
            return false;
        }
        for (int i = 0; i < name.length(); i++) {
            int c = in.getByte(from + i);
            if ((c >= 'A' && c <= 'Z' ? c + 32 : c) != name.byteAt(i)) {
                return false;
            }
        }
        return true;
    }

    private static String text(ByteBuf in, int from, int to) {
        return in.toString(from, to - from, StandardCharsets.ISO_8859_1).strip();
    }

    private static long number(ByteBuf in, int from, int to) {
        String text = text(in, from, to);
        if (!text.matches("[0-9]{1,18}")) {
            throw new Refused("not HTTP: the Content-Length is not a number");
        }
        return Long.parseLong(text);
    }

    private void take(ByteBuf in, int count) {
        if (!wanted) {
            in.skipBytes(count);
            return;
        }
        if (body == null) {
            body = Unpooled.buffer((int) Math.max(1_024, Math.min(left, 65_536)));
        }
        // part of an answer must not be taken for the whole of it
        if (body.readableBytes() + (long) count > MOST_BODY) {
            throw tooLarge();
        }
        body.writeBytes(in, count);
    }

    /** All of a content has come in one piece, as most do: it is copied once. */
    private void whole(ByteBuf in) {
        if (left > MOST_BODY) {
            throw tooLarge();
        }
        byte[] content = new byte[(int) left];
        in.readBytes(content);
        left = 0;
        state = State.HEAD;
        sink.response(status, head, content, reusable);
    }

    private static Refused tooLarge() {
        return new Refused("the answer is larger than the " + (MOST_BODY >> 20) + " MB that are looked into");
    }

    private void done() {
        state = State.HEAD;
        byte[] content = null;
        if (wanted) {
            content = new byte[body == null ? 0 : body.readableBytes()];
            if (body != null) {
                body.readBytes(content);
                body = null;
            }
        }
        sink.response(status, head, content, reusable);
    }

    @Override
    public void channelInactive(ChannelHandlerContext context) {
        held.release();
        held = Unpooled.EMPTY_BUFFER;
        if (state == State.TO_END) {
            done();
        }
        sink.broken("connection closed");
    }

    @Override
    public void exceptionCaught(ChannelHandlerContext context, Throwable cause) {
        sink.broken(dev.mockbell.problem.Problem.reason(cause));
        context.close();
    }
}
