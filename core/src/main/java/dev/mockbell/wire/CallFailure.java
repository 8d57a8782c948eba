package dev.mockbell.wire;

import dev.mockbell.content.Chunks;
import dev.mockbell.content.Content;
import dev.mockbell.content.ContentCoding;
import dev.mockbell.content.HttpHead;
import dev.mockbell.content.TooLarge;
import dev.mockbell.exchange.Message;
import dev.mockbell.problem.Problem;
import dev.mockbell.problem.Took;
import java.io.IOException;
import java.io.InterruptedIOException;
import java.net.ConnectException;
import java.net.InetSocketAddress;
import java.net.NoRouteToHostException;
import java.net.SocketException;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.util.Optional;
import org.apache.hc.client5.http.ConnectTimeoutException;
import org.apache.hc.core5.http.ConnectionClosedException;
import org.apache.hc.core5.http.MalformedChunkCodingException;
import org.apache.hc.core5.http.MessageConstraintException;
import org.apache.hc.core5.http.NoHttpResponseException;
import org.apache.hc.core5.http.ProtocolException;
import org.apache.hc.core5.http.TruncatedChunkException;

/**
 * Why there was no whole answer: what and where, and what helps.
 *
 * @param words a sentence without its full stop
 * @param next sentences; empty when nothing is known to help
 */
record CallFailure(String words, String next) {
    private static final String LONGER = "Allow more time, or find out what the service is busy with.";

    /** The head of a frame of HTTP/2, in bytes (RFC 9113 §4.1). */
    private static final int SETTINGS = 9;

    private static final String SERVICE = "That is the service's fault, or that of something on the way to it.";

    /** The answer had begun or not: it was not there as a whole in time. */
    static final class NotWhole extends InterruptedIOException {
        private static final long serialVersionUID = 1L;
    }

    /** The proxy would not let the request through. */
    static final class ProxyRefused extends IOException {
        private static final long serialVersionUID = 1L;

        ProxyRefused(String status) {
            super(status);
        }
    }

    /** @param taken what went over the connection until then */
    static CallFailure of(Throwable failure, CallRequest request, Connect by, Recording.Taken taken) {
        URI address = request.address();
        boolean secure = "https".equalsIgnoreCase(address.getScheme());
        String where = address.getHost() == null ? address.toString() : address.getHost() + port(request);
        if (failure instanceof Problem problem) {
            return new CallFailure(problem.what(), "");
        }
        if (failure instanceof TooLarge) {
            return new CallFailure(failure.getMessage(), "What it began with is kept.");
        }
        if (failure instanceof ProxyRefused) {
            return new CallFailure(
                    "The proxy does not let the request through to " + where + ": " + failure.getMessage(),
                    "Check the proxy's settings and who may use it.");
        }
        Optional<CallFailure> late = late(failure, where, by, taken, secure);
        if (late.isPresent()) {
            return late.get();
        }
        if (failure instanceof ConnectException || failure instanceof NoRouteToHostException) {
            Optional<String> proxy = proxy(by, address);
            if (proxy.isPresent()) {
                return new CallFailure("Nothing answers at " + proxy.get(), "Check its address and that it runs.");
            }
        }
        return Unreachable.of(failure, where)
                .map(u -> new CallFailure(u.words(), u.next()))
                .orElseGet(() -> ofAnswer(failure, where, taken));
    }

    /** The proxy that was asked for the connection. */
    private static Optional<String> proxy(Connect by, URI address) {
        return by.proxy(address)
                .map(p -> (InetSocketAddress) p.address())
                .map(a -> "the proxy " + a.getHostString() + ":" + a.getPort());
    }

    private static Optional<CallFailure> late(
            Throwable failure, String where, Connect by, Recording.Taken taken, boolean secure) {
        boolean whole = failure instanceof NotWhole;
        String within = " within "
                + Took.words(whole ? by.timeouts().whole() : by.timeouts().answer());
        if (failure instanceof ConnectTimeoutException || whole && taken.firstSent() == 0) {
            String connecting =
                    whole ? within : " within " + Took.words(by.timeouts().connect());
            return Optional.of(new CallFailure(
                    "No connection to " + where + (secure ? " by TLS" : "") + connecting,
                    "Check the address, and whether something on the way keeps it back."));
        }
        if (failure instanceof InterruptedIOException) {
            boolean begun = taken.firstReceived() != 0;
            return Optional.of(
                    new CallFailure((begun ? "No whole answer from " : "No answer from ") + where + within, LONGER));
        }
        return Optional.empty();
    }

    private static CallFailure ofAnswer(Throwable failure, String where, Recording.Taken taken) {
        boolean begun = taken.firstReceived() != 0;
        // nobody asked for a connection: this one was kept
        boolean kept = taken.asked() == 0 && taken.firstSent() != 0;
        boolean closed = failure instanceof NoHttpResponseException
                || failure instanceof ConnectionClosedException
                || failure instanceof SocketException;
        if (kept && closed && !begun) {
            return new CallFailure(
                    where + " closed the connection that was kept from an earlier call as the request went out",
                    "Whether it has done anything is not known. Send it again, or give the case a connection of its own.");
        }
        if (failure instanceof ContentCoding.Undecodable) {
            return new CallFailure("The answer of " + where + " " + failure.getMessage(), SERVICE);
        }
        if (failure instanceof MessageConstraintException) {
            return new CallFailure(
                    "The head of the answer of " + where + " is larger than is taken: " + Problem.reason(failure),
                    SERVICE);
        }
        if (failure instanceof TruncatedChunkException
                || failure instanceof NoHttpResponseException
                || failure instanceof ConnectionClosedException) {
            return new CallFailure(where + " closed the connection " + place(taken), SERVICE);
        }
        Optional<String> chunks =
                failure instanceof MalformedChunkCodingException || failure instanceof RuntimeException
                        ? wrongChunk(taken)
                        : Optional.empty();
        if (chunks.isPresent() || failure instanceof MalformedChunkCodingException) {
            return new CallFailure(
                    "The answer of " + where + " comes in chunks that break HTTP/1.1: "
                            + chunks.orElseGet(() -> Problem.reason(failure)),
                    SERVICE);
        }
        if (failure instanceof ProtocolException) {
            byte[] start = taken.received().start(3);
            // an alert or a handshake (RFC 8446 §5.1)
            if (start.length > 1 && (start[0] == 0x15 || start[0] == 0x16) && start[1] == 3) {
                return new CallFailure(
                        where + " speaks TLS at that port", "Try the address with https: in place of http:.");
            }
            return notHttp(failure, where, taken.received());
        }
        if (failure instanceof SocketException) {
            return new CallFailure("The connection to " + where + " broke " + place(taken), SERVICE);
        }
        return new CallFailure(
                "The call to " + where + " failed " + (begun ? place(taken) + ": " : "") + Problem.reason(failure), "");
    }

    private static CallFailure notHttp(Throwable failure, String where, Content received) {
        String said = new String(received.start(60), StandardCharsets.ISO_8859_1);
        if (said.startsWith("HTTP/")) {
            return new CallFailure("The answer of " + where + " breaks HTTP/1.1: " + Problem.reason(failure), SERVICE);
        }
        byte[] start = received.start(SETTINGS);
        // the first that a server sends is a frame of settings (RFC 9113 §3.4, §4.1, §6.5)
        boolean second = start.length == SETTINGS && start[0] == 0 && start[3] == 4 && (start[2] & 0xFF) % 6 == 0;
        return new CallFailure(
                second
                        ? where + " speaks HTTP/2 without being asked to, and HTTP/1.1 is spoken here"
                        : where + " does not speak HTTP: its answer begins with “"
                                + said.split("[\r\n]", 2)[0].replaceAll("[^ -~]", "·") + "”",
                "Check that the address is that of the service.");
    }

    /** What is wrong with the chunks that came; empty where nothing is, or none came. */
    private static Optional<String> wrongChunk(Recording.Taken taken) {
        Optional<HttpHead> head = HttpHead.of(taken.received()).filter(h -> Chunks.in(h.headers()));
        if (head.isPresent()) {
            try {
                Chunks.undone(taken.received()
                        .slice(head.get().end(), taken.received().size()));
            } catch (IOException e) {
                return Optional.of(Problem.reason(e));
            }
        }
        return Optional.empty();
    }

    /** How far the answer had come, in bytes of its body where it said how many there are. */
    private static String place(Recording.Taken taken) {
        Optional<Message> came = WireHead.broken(taken.received());
        if (came.isEmpty()) {
            return "without an answer";
        }
        String had = came.flatMap(m -> m.header("Content-Length"))
                .filter(n -> n.matches("\\d{1,18}"))
                .map(n -> ", after " + came.get().body().size() + " of " + n + " bytes")
                .orElse("");
        return "in the middle of the answer" + had;
    }

    private static String port(CallRequest request) {
        return request.address().getPort() < 0 ? "" : ":" + request.address().getPort();
    }
}
