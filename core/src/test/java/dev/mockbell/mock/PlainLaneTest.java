package dev.mockbell.mock;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapVersion;
import io.netty.buffer.ByteBuf;
import io.netty.buffer.Unpooled;
import io.netty.channel.embedded.EmbeddedChannel;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Plain calls by their bytes, without a socket. */
class PlainLaneTest {
    private final MockUnderTest mock = new MockUnderTest();
    private final List<EmbeddedChannel> open = new ArrayList<>();
    private boolean widened;

    @BeforeEach
    void start() {
        mock.answering(MockAnswer.otherwise("echo", "<said>{//*:nights}</said>"));
    }

    @AfterEach
    void close() {
        open.forEach(EmbeddedChannel::finishAndReleaseAll);
        mock.close();
    }

    private EmbeddedChannel channel() {
        ByteTap tap = new ByteTap(true);
        Intake.Door door = mock.host.intake().door();
        EmbeddedChannel channel = new EmbeddedChannel(
                tap,
                door,
                new PlainLane(mock.host, tap, door, mock.host.intake().bounds(), context -> widened = true));
        open.add(channel);
        return channel;
    }

    private static byte[] request(int nights) {
        byte[] body = Envelope.around(SoapVersion.V11, MockUnderTest.book("NF-07", nights), List.of())
                .getBytes(StandardCharsets.UTF_8);
        return ("POST /stay HTTP/1.1\r\nHost: h\r\nContent-Type: text/xml\r\nContent-Length: " + body.length
                        + "\r\n\r\n" + new String(body, StandardCharsets.UTF_8))
                .getBytes(StandardCharsets.UTF_8);
    }

    /** All that was said, without the moments. */
    private static String said(EmbeddedChannel channel) {
        StringBuilder all = new StringBuilder();
        channel.runPendingTasks();
        for (ByteBuf out = channel.readOutbound(); out != null; out = channel.readOutbound()) {
            all.append(out.toString(StandardCharsets.UTF_8));
            out.release();
        }
        return all.toString().replaceAll("date: [^\r]+", "date");
    }

    @Test
    void howTheBytesAreCutMakesNoDifference() {
        byte[] three = new byte[0];
        for (int nights = 1; nights <= 3; nights++) {
            byte[] one = request(nights);
            three = Arrays.copyOf(three, three.length + one.length);
            System.arraycopy(one, 0, three, three.length - one.length, one.length);
        }
        EmbeddedChannel whole = channel();
        whole.writeInbound(Unpooled.wrappedBuffer(three));
        String wanted = said(whole);
        assertThat(wanted).contains("<said>1</said>").contains("<said>2</said>").contains("<said>3</said>");
        Random random = new Random(7);
        for (int round = 0; round < 60; round++) {
            EmbeddedChannel channel = channel();
            int at = 0;
            while (at < three.length) {
                int count = Math.min(three.length - at, 1 + random.nextInt(round % 3 == 0 ? 3 : 200));
                channel.writeInbound(Unpooled.copiedBuffer(three, at, count));
                at += count;
            }
            assertThat(said(channel)).as("round " + round).isEqualTo(wanted);
        }
        assertThat(widened).isFalse();
    }

    @Test
    void whateverElseComesGoesTheLibrarysWayWithAllItsBytes() {
        for (String start : List.of(
                "GET /stay?wsdl HTTP/1.1\r\n",
                "POST /stay HTTP/1.1\r\nTransfer-Encoding: chunked\r\nHost: h\r\n\r\n",
                "POST /stay HTTP/1.0\r\nHost: h\r\nContent-Length: 1\r\n\r\n",
                "POST /nowhere HTTP/1.1\r\nHost: h\r\nContent-Length: 1\r\n\r\n",
                "POST /stay HTTP/1.1\r\nHost: h\r\nExpect: 100-continue\r\nContent-Length: 1\r\n\r\n",
                "\u0016\u0003\u0001")) {
            widened = false;
            EmbeddedChannel channel = channel();
            channel.writeInbound(Unpooled.copiedBuffer(start, StandardCharsets.ISO_8859_1));
            assertThat(widened).as(start).isTrue();
            StringBuilder passed = new StringBuilder();
            for (ByteBuf in = channel.readInbound(); in != null; in = channel.readInbound()) {
                passed.append(in.toString(StandardCharsets.ISO_8859_1));
                in.release();
            }
            assertThat(passed.toString()).as(start).isEqualTo(start);
        }
    }
}
