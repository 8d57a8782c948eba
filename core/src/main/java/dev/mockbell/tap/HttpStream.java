package dev.mockbell.tap;

import io.netty.buffer.ByteBuf;
import io.netty.buffer.ByteBufUtil;
import io.netty.buffer.Unpooled;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/**
 * Follows the messages of HTTP/1.1 in one direction of a connection (RFC 9112 §2, §6, §7.1), without changing or holding back
 * a byte but those of a head until it is whole. What is no HTTP is followed no further and goes as it comes. For one thread.
 */
final class HttpStream {
    /** A head that is longer is none that a relay looks into. */
    static final int LONGEST_HEAD = 256 << 10;

    private static final int LONGEST_LINE = 64 << 10;

    /** How the body of a message ends. */
    enum Kind {
        NONE,
        LENGTH,
        CHUNKED,
        UNTIL_CLOSE,
        /** Not HTTP any more: everything that comes belongs to it. */
        OPAQUE
    }

    /** @param length in bytes; 0 where the kind does not have one */
    record Body(Kind kind, long length) {
        static final Body NONE = new Body(Kind.NONE, 0);
        static final Body CHUNKED = new Body(Kind.CHUNKED, 0);
        static final Body UNTIL_CLOSE = new Body(Kind.UNTIL_CLOSE, 0);
        static final Body OPAQUE = new Body(Kind.OPAQUE, 0);

        static Body of(long length) {
            return length == 0 ? NONE : new Body(Kind.LENGTH, length);
        }
    }

    /** Hears what comes. */
    interface Ear {
        /**
         * A head is whole.
         *
         * @param head with the empty line that ends it
         * @return how what follows it is framed
         */
        Body head(String head);

        /** Bytes of a body as they are on the connection, chunk sizes and trailers included; only for the call. */
        void body(ByteBuf bytes);

        /** The message is whole. */
        void end();
    }

    private enum State {
        HEAD,
        LENGTH,
        CHUNK_SIZE,
        CHUNK_DATA,
        CHUNK_END,
        TRAILERS,
        UNTIL_CLOSE,
        OPAQUE
    }

    private final Ear ear;
    private State state = State.HEAD;
    private byte[] held = new byte[1_024];
    private int holding;

    /** The head of the message before: most have the same on one connection, which is then the same text. */
    private byte[] before = {};

    private String headBefore = "";
    private int lineStart;
    private long left;
    private long size;
    private boolean sizeOver;
    private int lineLength;
    private boolean paused;
    private ByteBuf kept = Unpooled.EMPTY_BUFFER;

    HttpStream(Ear ear) {
        this.ear = ear;
    }

    /** Stops behind the message that has just ended, or begins again with what was kept meanwhile. */
    void pause(boolean pause) {
        paused = pause;
        if (!pause && kept.isReadable()) {
            ByteBuf again = kept;
            kept = Unpooled.EMPTY_BUFFER;
            feed(again);
        }
    }

    boolean isPaused() {
        return paused;
    }

    /** How many bytes came while it was paused. */
    int kept() {
        return kept.readableBytes();
    }

    /** From here on nothing is looked into. */
    void opaque() {
        state = State.OPAQUE;
    }

    /** From here on a new message begins. */
    void restart() {
        state = State.HEAD;
        holding = 0;
        lineStart = 0;
    }

    /** Takes bytes as they come, and releases them. */
    void feed(ByteBuf in) {
        try {
            while (in.isReadable() && !paused) {
                step(in);
            }
            if (in.isReadable()) {
                kept = kept.isReadable() ? Unpooled.wrappedBuffer(kept, in.retain()) : in.retain();
            }
        } finally {
            in.release();
        }
    }

    private void step(ByteBuf in) {
        switch (state) {
            case HEAD -> head(in);
            case LENGTH -> {
                int take = (int) Math.min(left, in.readableBytes());
                ear.body(in.readSlice(take));
                left -= take;
                if (left == 0) {
                    ended();
                }
            }
            case UNTIL_CLOSE, OPAQUE -> ear.body(in.readSlice(in.readableBytes()));
            default -> chunks(in);
        }
    }

    private void ended() {
        state = State.HEAD;
        ear.end();
    }

    private void head(ByteBuf in) {
        while (in.isReadable()) {
            byte b = in.readByte();
            if (holding == 0 && (b == '\r' || b == '\n')) {
                // empty lines before a message are passed over (RFC 9112 §2.2)
                continue;
            }
            if (holding == held.length) {
                held = Arrays.copyOf(held, held.length * 2);
            }
            held[holding++] = b;
            if (b == '\n') {
                int length = holding - lineStart;
                boolean first = lineStart == 0;
                boolean empty = length == 1 || length == 2 && held[holding - 2] == '\r';
                if (first && !isStartLine()) {
                    noHttp();
                    return;
                }
                lineStart = holding;
                if (empty) {
                    headed();
                    return;
                }
            } else if (holding >= LONGEST_HEAD || lineStart == 0 && isNoText(b)) {
                noHttp();
                return;
            }
        }
    }

    private static boolean isNoText(byte b) {
        return b >= 0 && b < ' ' && b != '\t' && b != '\r' || b == 127;
    }

    private boolean isStartLine() {
        return new String(held, 0, holding, StandardCharsets.ISO_8859_1).contains("HTTP/");
    }

    private void noHttp() {
        ByteBuf all = Unpooled.wrappedBuffer(Arrays.copyOf(held, holding));
        restart();
        state = State.OPAQUE;
        ear.body(all);
    }

    private void headed() {
        boolean again = holding == before.length && Arrays.equals(held, 0, holding, before, 0, holding);
        if (!again) {
            before = Arrays.copyOf(held, holding);
            headBefore = new String(before, StandardCharsets.ISO_8859_1);
        }
        String head = headBefore;
        restart();
        Body body = ear.head(head);
        left = body.length();
        switch (body.kind()) {
            case NONE -> ended();
            case LENGTH -> state = State.LENGTH;
            case CHUNKED -> chunk();
            case UNTIL_CLOSE -> state = State.UNTIL_CLOSE;
            case OPAQUE -> state = State.OPAQUE;
        }
    }

    private void chunk() {
        state = State.CHUNK_SIZE;
        size = 0;
        sizeOver = false;
        lineLength = 0;
    }

    /** Goes through as much as there is, and hands it on in one piece. */
    private void chunks(ByteBuf in) {
        int from = in.readerIndex();
        boolean end = false;
        while (in.isReadable() && !end && state != State.OPAQUE) {
            if (state == State.CHUNK_DATA) {
                int take = (int) Math.min(left, in.readableBytes());
                in.skipBytes(take);
                left -= take;
                state = left == 0 ? State.CHUNK_END : state;
            } else {
                end = line(in.readByte());
            }
        }
        ear.body(in.slice(from, in.readerIndex() - from));
        if (end) {
            ended();
        }
    }

    /** A byte of what frames the chunks; whether it is the last of the message. */
    private boolean line(byte b) {
        if (++lineLength > LONGEST_LINE) {
            state = State.OPAQUE;
            return false;
        }
        switch (state) {
            case CHUNK_SIZE -> size(b);
            case CHUNK_END -> {
                if (b == '\n') {
                    chunk();
                } else if (b != '\r') {
                    state = State.OPAQUE;
                }
            }
            default -> {
                if (b == '\n') {
                    boolean over = size == 0;
                    size = 0;
                    lineLength = 0;
                    return over;
                }
                size += b == '\r' ? 0 : 1;
            }
        }
        return false;
    }

    private void size(byte b) {
        int digit = Character.digit(b, 16);
        if (b == '\n') {
            left = size;
            state = size == 0 ? State.TRAILERS : State.CHUNK_DATA;
            size = 0;
            lineLength = 0;
        } else if (!sizeOver && digit >= 0 && size < Long.MAX_VALUE >> 5) {
            size = size << 4 | digit;
        } else if (b == ';' || b == ' ' || b == '\t' || b == '\r' || sizeOver) {
            // extensions (RFC 9112 §7.1.1) are nobody's here
            sizeOver = true;
        } else {
            state = State.OPAQUE;
        }
    }

    /** Nothing comes any more; whether a message ends by that. */
    boolean closed() {
        boolean ends = state == State.UNTIL_CLOSE;
        if (ends) {
            ended();
        }
        kept.release();
        kept = Unpooled.EMPTY_BUFFER;
        return ends;
    }

    /** The bytes of a buffer, which stays as it is. */
    static byte[] bytes(ByteBuf buffer) {
        return ByteBufUtil.getBytes(buffer);
    }
}
