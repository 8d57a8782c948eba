package dev.mockbell.load;

import dev.mockbell.wire.EventLoops;
import io.netty.buffer.ByteBuf;
import io.netty.buffer.Unpooled;
import io.netty.channel.Channel;
import io.netty.channel.ChannelHandlerContext;
import io.netty.channel.ChannelInboundHandlerAdapter;
import io.netty.channel.socket.ChannelInputShutdownEvent;
import java.net.InetSocketAddress;
import java.net.URI;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import javax.net.ssl.SSLContext;
import javax.net.ssl.SSLEngine;

/**
 * Answers our own requests on loopback at once, in all the ways in which services answer: what the engine meets for the first time
 * in a run would be slow there. It understands no more HTTP than our requests need: a head with a length, and the body.
 */
final class LoopbackPeer implements AutoCloseable {
    private static final int TURNS = 512;

    private final Channel listening;
    private final boolean secure;

    /**
     * @param body of a good answer
     * @param fault of one that is a fault
     * @param tls speaks TLS; empty for a peer that does not
     */
    LoopbackPeer(EventLoops loops, String body, String fault, Optional<SSLContext> tls) {
        Answers answers = new Answers(body, fault);
        secure = tls.isPresent();
        listening = loops.listen("127.0.0.1", 0, made -> {
            tls.ifPresent(context -> {
                SSLEngine engine = context.createSSLEngine();
                engine.setUseClientMode(false);
                made.pipeline().addLast(loops.tls(engine));
            });
            made.pipeline().addLast(new Answering(answers));
        });
    }

    /** An answer in the pieces in which it is sent. */
    private record Answer(List<ByteBuf> pieces, boolean closes) {}

    /** The answers in turn. */
    private static final class Answers {
        private final List<Answer> usual;
        private final Answer fault;
        private final Answer last;

        Answers(String body, String fault) {
            String type = "Content-Type: text/xml; charset=utf-8\r\n";
            String dated =
                    "Date: Sat, 28 Nov 2026 10:00:%02d GMT\r\n" + type + "Server: peer\r\nKeep-Alive: timeout=60\r\n";
            Answer plain = whole("200 OK", type, body);
            List<Answer> all = new ArrayList<>();
            for (int i = 0; i < 8; i++) {
                all.add(plain);
            }
            for (int i = 0; i < 4; i++) {
                all.add(whole("200 OK", String.format(Locale.ROOT, dated, i), body + " ".repeat(i * 7)));
            }
            all.add(chunked(type, body));
            all.add(whole("200 OK", type, body + "\n".repeat(4_000)));
            all.add(split(whole("200 OK", type, body)));
            all.add(whole("200 OK", type.toLowerCase(Locale.ROOT), body));
            this.usual = List.copyOf(all);
            this.fault = whole("500 Internal Server Error", type, fault);
            this.last = new Answer(
                    whole("200 OK", type + "Connection: close\r\n", body).pieces(), true);
        }

        Answer at(int turn) {
            return turn % TURNS == TURNS - 1 ? last : turn % (TURNS / 4) == 5 ? fault : usual.get(turn % usual.size());
        }

        private static Answer whole(String status, String fields, String body) {
            byte[] content = body.getBytes(StandardCharsets.UTF_8);
            return new Answer(
                    List.of(bytes(
                            "HTTP/1.1 " + status + "\r\n" + fields + "Content-Length: " + content.length + "\r\n\r\n",
                            content)),
                    false);
        }

        private static Answer chunked(String fields, String body) {
            byte[] content = body.getBytes(StandardCharsets.UTF_8);
            byte[] chunk = (Integer.toHexString(content.length) + "\r\n" + body + "\r\n0\r\n\r\n")
                    .getBytes(StandardCharsets.UTF_8);
            return new Answer(
                    List.of(bytes("HTTP/1.1 200 OK\r\n" + fields + "Transfer-Encoding: chunked\r\n\r\n", chunk)),
                    false);
        }

        private static Answer split(Answer whole) {
            ByteBuf all = whole.pieces().get(0);
            int middle = all.readableBytes() / 2;
            return new Answer(
                    List.of(
                            all.slice(0, 20),
                            all.slice(20, middle - 20),
                            all.slice(middle, all.readableBytes() - middle)),
                    false);
        }

        private static ByteBuf bytes(String head, byte[] body) {
            byte[] start = head.getBytes(StandardCharsets.ISO_8859_1);
            // memory that the collector takes back: connections may still hold it when the peer is closed
            ByteBuffer all = ByteBuffer.allocateDirect(start.length + body.length);
            all.put(start).put(body).flip();
            return Unpooled.unreleasableBuffer(Unpooled.wrappedBuffer(all));
        }
    }

    URI address() {
        return URI.create((secure ? "https" : "http") + "://127.0.0.1:"
                + ((InetSocketAddress) listening.localAddress()).getPort() + "/");
    }

    @Override
    public void close() {
        listening.close().syncUninterruptibly();
    }

    private static final class Answering extends ChannelInboundHandlerAdapter {
        private static final byte[] LENGTH = "content-length:".getBytes(StandardCharsets.ISO_8859_1);

        private final Answers answers;
        private ByteBuf held = Unpooled.EMPTY_BUFFER;
        private int turn;

        Answering(Answers answers) {
            this.answers = answers;
        }

        @Override
        public void channelRead(ChannelHandlerContext context, Object message) {
            ByteBuf in = (ByteBuf) message;
            if (held.isReadable()) {
                in = Unpooled.copiedBuffer(held, in);
                held.release();
                ((ByteBuf) message).release();
            }
            held = Unpooled.EMPTY_BUFFER;
            while (whole(in)) {
                Answer answer = answers.at(turn++);
                for (ByteBuf piece : answer.pieces()) {
                    context.writeAndFlush(piece.duplicate(), context.voidPromise());
                }
                if (answer.closes()) {
                    context.close();
                    break;
                }
            }
            if (in.isReadable()) {
                held = in;
            } else {
                in.release();
            }
        }

        /** Passes over a request when it is all there. */
        private static boolean whole(ByteBuf in) {
            int from = in.readerIndex();
            long length = 0;
            for (int at = from; ; ) {
                int end = in.indexOf(at, in.writerIndex(), (byte) '\n');
                if (end < 0) {
                    return false;
                }
                if (end - at <= 1) {
                    if (in.writerIndex() - end - 1 < length) {
                        return false;
                    }
                    in.readerIndex((int) (end + 1 + length));
                    return true;
                }
                if (named(in, at, end)) {
                    length = 0;
                    for (int i = at + LENGTH.length; i < end; i++) {
                        int digit = in.getByte(i) - '0';
                        length = digit >= 0 && digit <= 9 ? length * 10 + digit : length;
                    }
                }
                at = end + 1;
            }
        }

        private static boolean named(ByteBuf in, int at, int end) {
            if (end - at <= LENGTH.length) {
                return false;
            }
            for (int i = 0; i < LENGTH.length; i++) {
                if ((in.getByte(at + i) | 0x20) != (LENGTH[i] | 0x20)) {
                    return false;
                }
            }
            return true;
        }

        @Override
        public void channelInactive(ChannelHandlerContext context) {
            held.release();
            held = Unpooled.EMPTY_BUFFER;
        }

        /** Who has said all and is gone is not waited for: listening ends half a connection at a time. */
        @Override
        public void userEventTriggered(ChannelHandlerContext context, Object event) {
            if (event instanceof ChannelInputShutdownEvent) {
                context.close();
            }
        }

        @Override
        public void exceptionCaught(ChannelHandlerContext context, Throwable cause) {
            context.close();
        }
    }
}
