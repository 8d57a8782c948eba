package dev.mockbell.load;

import dev.mockbell.content.Content;
import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.JmsMessage;
import dev.mockbell.exchange.Message;
import dev.mockbell.wire.CallRequest;
import dev.mockbell.wire.Connect;
import dev.mockbell.wire.Framing;
import dev.mockbell.wire.WireHead;
import dev.mockbell.wire.jms.JmsAddress;
import dev.mockbell.wire.jms.RequestProperties;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.util.List;
import javax.net.ssl.SSLContext;

/** How a step's requests go, and what they look like on that way. */
sealed interface Way {
    /** By whom; empty for nobody. Connections are not shared with others. */
    String profile();

    /** A request as it goes, with its head. */
    byte[] written(CallRequest request);

    /** What {@link #written} wrote. */
    Message message(URI address, Content written);

    /** Requests of the same target may go by the same connection. */
    String target(URI address);

    /**
     * To a server.
     *
     * @param tls null where TLS is not spoken
     */
    record Http(String profile, SSLContext tls) implements Way {
        /** Each request is written at once, with its length. */
        @Override
        public byte[] written(CallRequest request) {
            return WireHead.encoded(request.with(Framing.USUAL)).bytes();
        }

        @Override
        public Message message(URI address, Content written) {
            int end = written.text(StandardCharsets.ISO_8859_1).indexOf("\r\n\r\n");
            return WireHead.read(written, end < 0 ? written : written.slice(end + 4, written.size()))
                    .orElseGet(() ->
                            new HttpMessage("POST " + address.getRawPath() + " HTTP/1.1", List.of(), written, written));
        }

        boolean isSecure() {
            return tls != null;
        }

        static boolean isSecure(URI address) {
            return "https".equalsIgnoreCase(address.getScheme());
        }

        static int port(URI address) {
            return address.getPort() > 0 ? address.getPort() : isSecure(address) ? 443 : 80;
        }

        @Override
        public String target(URI address) {
            return address.getScheme() + "://" + address.getHost() + ":" + port(address) + " " + profile;
        }
    }

    /**
     * To a queue or topic.
     *
     * @param to where it leads, as the step's address says
     * @param by how its broker is reached
     * @param answered whether an answer is to come
     */
    record Queue(String profile, JmsAddress to, Connect by, boolean answered, Peer peer) implements Way {
        /** Who answers. */
        sealed interface Peer {
            /** Whoever takes messages from there. */
            record Service() implements Peer {}

            /** We ourselves, by way of the broker. */
            record Ourselves(Content answer) implements Peer {}

            /** Nobody: it is as if the answer came at once. */
            record Nobody(Content answer) implements Peer {}
        }

        @Override
        public byte[] written(CallRequest request) {
            return RequestProperties.shown(request, to, request.body()).wire().bytes();
        }

        @Override
        public JmsMessage message(URI address, Content written) {
            return JmsMessage.of(written);
        }

        @Override
        public String target(URI address) {
            return address + " " + profile;
        }

        Queue answeredBy(Peer other) {
            return new Queue(profile, to, by, answered, other);
        }
    }
}
