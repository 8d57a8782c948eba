package dev.mockbell.tap;

import dev.mockbell.content.Content;
import dev.mockbell.content.ContentSink;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.Message;
import dev.mockbell.exchange.Ties;
import dev.mockbell.exchange.Timing;
import dev.mockbell.message.OperationFinder;
import dev.mockbell.soap.SoapFault;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.wire.Unframed;
import io.netty.buffer.ByteBuf;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** What is seen of one exchange while it passes. For the thread of its connection, until it is handed over as a whole. */
final class Trace {
    private static final Logger LOG = LoggerFactory.getLogger(Trace.class);

    /** More of a message is passed on, and not kept. */
    private static final long MOST_KEPT = 512L << 20;

    private final Instant started = Instant.now();
    private final long began = System.nanoTime();
    private final Half asked = new Half();
    private final Half told = new Half();
    private final String base;
    private final String caller;
    private Head request;
    private Head answer;
    private long connect;
    private long requestEnded;
    private long answerBegan;
    private long answerEnded;
    private String trouble = "";
    private String byHand = "";
    private Message askedBy;
    private Message answeredBy;
    private boolean opaque;

    /** One direction. */
    private static final class Half {
        private final ContentSink sink = new ContentSink();
        private int head;
        private long passed;
        private boolean full;

        void add(byte[] bytes) {
            passed += bytes.length;
            full |= sink.size() + bytes.length > MOST_KEPT;
            if (!full) {
                try {
                    sink.write(bytes, 0, bytes.length);
                } catch (IOException e) {
                    // what passes goes on, whatever becomes of its record
                    LOG.warn("bytes that pass cannot be kept", e);
                    full = true;
                }
            }
        }
    }

    /**
     * @param base of the address where the request goes: {@code http://huts.example:81}
     * @param caller the client's address
     */
    Trace(String base, String caller) {
        this.base = base;
        this.caller = caller;
    }

    Optional<Head> request() {
        return Optional.ofNullable(request);
    }

    void request(Head head) {
        request = head;
        byte[] bytes = head.text().getBytes(StandardCharsets.ISO_8859_1);
        asked.head = bytes.length;
        asked.add(bytes);
    }

    void requestBody(ByteBuf bytes) {
        asked.add(HttpStream.bytes(bytes));
    }

    /** The request as a message; nothing of it may come any more. */
    Message requestMessage() {
        return message(request, asked);
    }

    /** The answer as a message; nothing of it may come any more. */
    Message answerMessage() {
        return message(answer, told);
    }

    /** Somebody had a hand in it. */
    void byHand(String words) {
        byHand = byHand.isEmpty() ? words : byHand + ", " + words;
    }

    /** The answer is another than the service's, or there was none of it. */
    void answeredBy(Message instead) {
        answeredBy = instead;
    }

    /** The request is another than the client's. */
    void askedBy(Message instead) {
        askedBy = instead;
    }

    void requestEnded() {
        requestEnded = System.nanoTime();
    }

    /** The connection to the service took so long. */
    void connected(long nanos) {
        connect = nanos;
    }

    void answer(Head head) {
        answer = head;
        answerBegan = answerBegan == 0 ? System.nanoTime() : answerBegan;
        byte[] bytes = head.text().getBytes(StandardCharsets.ISO_8859_1);
        told.head = bytes.length;
        told.add(bytes);
    }

    void answerBody(ByteBuf bytes) {
        answerBegan = answerBegan == 0 ? System.nanoTime() : answerBegan;
        told.add(HttpStream.bytes(bytes));
    }

    void answerEnded() {
        answerEnded = System.nanoTime();
    }

    /** What comes back is no answer of HTTP. */
    void opaque() {
        opaque = true;
    }

    /** Something went wrong with it. */
    void trouble(String words) {
        trouble = trouble.isEmpty() ? words : trouble;
    }

    /** The exchange; makes messages of the bytes, which takes a while for large ones. */
    Exchange exchange(String origin, OperationFinder operations) {
        Message asking = askedBy == null ? message(request, asked) : askedBy;
        Optional<Message> came = told.sink.size() == 0 ? Optional.empty() : Optional.of(message(answer, told));
        Optional<Message> answering = answeredBy == null ? came : Optional.of(answeredBy);
        Optional<OperationFinder.Found> found = operations.find(asking);
        Outcome outcome = outcome(answering);
        return new Exchange(
                        0,
                        started,
                        Way.TAPPED,
                        found.map(OperationFinder.Found::contract).orElse(""),
                        found.map(OperationFinder.Found::operation).orElse(""),
                        request == null ? base : base + path(request.target()),
                        origin,
                        asking,
                        answering,
                        timing(),
                        outcome,
                        note(outcome, answering))
                .with(Ties.from(caller));
    }

    private static String path(String target) {
        int scheme = target.indexOf("://");
        if (scheme < 0) {
            return target.startsWith("/") ? target : "";
        }
        int slash = target.indexOf('/', scheme + 3);
        return slash < 0 ? "" : target.substring(slash);
    }

    private static Message message(Head head, Half half) {
        Content wire = half.sink.content();
        return head == null
                ? new HttpMessage("", List.of(), wire, wire)
                : Unframed.message(head.title(), head.headers(), half.head, wire);
    }

    private Outcome outcome(Optional<Message> answering) {
        boolean headless = answeredBy == null && answer == null && request != null && !opaque;
        if (!trouble.isEmpty() || answering.isEmpty() || headless) {
            return Outcome.FAILED;
        }
        if (opaque) {
            return Outcome.FINE;
        }
        return answering.get().status() >= 400
                        || SoapMessage.faultOf(answering.get()).isPresent()
                ? Outcome.FAULT
                : Outcome.FINE;
    }

    private String note(Outcome outcome, Optional<Message> answering) {
        String words = trouble;
        if (words.isEmpty() && outcome == Outcome.FAULT) {
            words = SoapMessage.faultOf(answering.orElseThrow())
                    .map(SoapFault::title)
                    .orElseGet(() -> answering.orElseThrow().title());
        }
        if (words.isEmpty() && outcome == Outcome.FAILED) {
            words = "no answer";
        }
        if (!byHand.isEmpty()) {
            words += (words.isEmpty() ? "" : " · ") + byHand;
        }
        if (asked.full || told.full) {
            words += (words.isEmpty() ? "" : " · ") + "only the start is kept: " + asked.passed
                    + " bytes passed there, " + told.passed + " back";
        }
        return words;
    }

    private Timing timing() {
        long sent = requestEnded == 0 ? System.nanoTime() : requestEnded;
        long send = Math.max(0, sent - began - connect);
        long await = answerBegan == 0 ? 0 : Math.max(0, answerBegan - sent);
        long receive = answerEnded == 0 || answerBegan == 0 ? 0 : answerEnded - answerBegan;
        return new Timing(connect, send, await, receive);
    }
}
