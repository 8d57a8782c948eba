package dev.mockbell.load;

import static org.assertj.core.api.Assertions.assertThat;

import io.netty.buffer.Unpooled;
import io.netty.channel.embedded.EmbeddedChannel;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class ResponseReaderTest {
    private final List<String> heard = new ArrayList<>();
    private final EmbeddedChannel channel = new EmbeddedChannel(new ResponseReader(new ResponseReader.Sink() {
        @Override
        public boolean wants(int status) {
            return true;
        }

        @Override
        public void response(int status, String head, byte[] body, boolean reusable) {
            heard.add(status + " " + new String(body, StandardCharsets.UTF_8) + (reusable ? " again" : " once"));
        }

        @Override
        public void broken(String reason) {
            heard.add("broken: " + reason);
        }
    }));

    private void receive(String bytes, int piece) {
        for (int i = 0; i < bytes.length() && channel.isOpen(); i += piece) {
            channel.writeInbound(Unpooled.copiedBuffer(
                    bytes.substring(i, Math.min(bytes.length(), i + piece)), StandardCharsets.ISO_8859_1));
        }
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 3, 7, 1_000})
    void responsesAreReadHoweverTheyAreCut(int piece) {
        receive(
                "HTTP/1.1 200 OK\r\ncontent-LENGTH: 5\r\n\r\nhello"
                        + "HTTP/1.1 100 Continue\r\n\r\n"
                        + "HTTP/1.1 500 No\r\nTransfer-Encoding: chunked\r\n\r\n2;x=y\r\nab\r\n1\r\nc\r\n0\r\nTrailer: t\r\n\r\n"
                        + "HTTP/1.1 202 Accepted\r\nContent-Length: 0\r\nConnection: close\r\n\r\n",
                piece);
        assertThat(heard).containsExactly("200 hello again", "500 abc again", "202  once");
    }

    @Test
    void withoutALengthTheBodyEndsWithTheConnection() {
        receive("HTTP/1.0 200 OK\r\n\r\nall of it", 4);
        assertThat(heard).isEmpty();
        channel.close();
        assertThat(heard.get(0)).isEqualTo("200 all of it once");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "garbage\r\n\r\n",
                "HTTP/1.1 2x0 OK\r\n\r\n",
                "HTTP/1.1 200 OK\r\nContent-Length: many\r\n\r\n",
                "HTTP/1.1 200 OK\r\nContent-Length: -5\r\n\r\nhello",
                "HTTP/1.1 200 OK\r\nContent-Length: 5\r\nContent-Length: 6\r\n\r\nhello",
                "HTTP/1.1 200 OK\r\nTransfer-Encoding: chunked\r\n\r\n-5\r\nhello\r\n",
                "HTTP/1.1 200 OK\r\nTransfer-Encoding: chunked\r\n\r\n+5\r\nhello\r\n",
                "HTTP/1.1 200 OK\r\nTransfer-Encoding: chunked\r\n\r\nffffffffffffffff\r\nhello\r\n"
            })
    void whatIsNoHttpBreaksTheConnection(String bytes) {
        receive(bytes, 100);
        assertThat(heard.get(0)).startsWith("broken: not HTTP");
        assertThat(channel.isOpen()).isFalse();
    }

    @Test
    void headersWithoutEndAreStopped() {
        receive("HTTP/1.1 200 OK\r\n" + "X: y\r\n".repeat(20_000), 10_000);
        assertThat(heard.get(0)).contains("headers are larger");
    }

    @Test
    void linesOfChunksAndTrailersHaveBounds() {
        receive("HTTP/1.1 200 OK\r\nTransfer-Encoding: chunked\r\n\r\n" + "1".repeat(20_000), 1_000);
        assertThat(heard.get(0)).contains("line of a chunk is larger");
        assertThat(channel.isOpen()).isFalse();
    }

    @Test
    void aTrailerWithoutEndIsStopped() {
        receive("HTTP/1.1 200 OK\r\nTransfer-Encoding: chunked\r\n\r\n0\r\n" + "T: x\r\n".repeat(20_000), 1_000);
        assertThat(heard.get(0)).contains("trailer is larger");
    }

    @Test
    void anAnswerThatIsTooLargeToBeLookedIntoIsNotTakenForItsBeginning() {
        int length = 65 << 20;
        receive("HTTP/1.1 500 No\r\nContent-Length: " + length + "\r\n\r\n", 1_000);
        for (int sent = 0; sent < length && channel.isOpen(); sent += 1 << 20) {
            channel.writeInbound(Unpooled.wrappedBuffer(new byte[1 << 20]));
        }
        assertThat(heard.get(0)).contains("larger than the 64 MB");
    }
}
