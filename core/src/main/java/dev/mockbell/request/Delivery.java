package dev.mockbell.request;

import dev.mockbell.choice.Choice;
import dev.mockbell.soap.Addressing;
import dev.mockbell.wire.Connect;
import dev.mockbell.wire.Framing;
import java.time.Duration;
import java.util.function.Consumer;

/**
 * How a request is delivered, beside what it says.
 *
 * @param endpoint where to, perhaps with expressions, in place of where the environment and the contract say; empty for there
 * @param addressing which WS-Addressing it speaks
 * @param replyTo where a WS-Addressing answer goes, perhaps with expressions; empty for the way that the request came
 * @param charset what the envelope is encoded in
 * @param follows whether a call goes on to where the answer leads
 * @param ownConnection whether the call has a connection to itself, in place of one that is kept
 * @param waiting how long for what
 * @param inlineKilobytes files up to this size go within the envelope, larger ones as parts beside it; 0 for all as parts
 */
public record Delivery(
        String endpoint,
        Addressing addressing,
        String replyTo,
        String charset,
        Compression compression,
        Framing framing,
        boolean follows,
        boolean ownConnection,
        int inlineKilobytes,
        Waiting waiting) {
    /** As most services expect it. */
    public static final Delivery USUAL = new Delivery(
            "", Addressing.AS_CONTRACT, "", "UTF-8", Compression.NONE, Framing.USUAL, false, false, 0, Waiting.USUAL);

    /**
     * How long is waited, in seconds; 0 for as long as usual.
     *
     * @param connect for the connection
     * @param answer for the first byte of the answer, and for each that follows
     * @param whole for all of it
     */
    public record Waiting(double connect, double answer, double whole) {
        public static final Waiting USUAL = new Waiting(0, 0, 0);

        /** Those times in place of the usual ones. */
        public Connect.Timeouts over(Connect.Timeouts usual) {
            return new Connect.Timeouts(
                    of(connect, usual.connect()), of(answer, usual.answer()), of(whole, usual.whole()));
        }

        /** How long all of it may take; another time where that is not said. */
        public Duration wholeOr(Duration usual) {
            return of(whole, usual);
        }

        private static Duration of(double seconds, Duration usual) {
            return seconds > 0 ? Duration.ofMillis(Math.max(1, Math.round(seconds * 1_000))) : usual;
        }
    }

    /** How the body of a request is compressed (RFC 9110 §8.4.1). */
    public enum Compression implements Choice {
        NONE("none", "Left as it is"),
        GZIP("gzip", "By gzip"),
        DEFLATE("deflate", "By deflate");

        private final String code;
        private final String title;

        Compression(String code, String title) {
            this.code = code;
            this.title = title;
        }

        @Override
        public String code() {
            return code;
        }

        @Override
        public String title() {
            return title;
        }
    }

    public Delivery to(String address) {
        return changed(d -> d.endpoint = address);
    }

    public Delivery with(Addressing other) {
        return changed(d -> d.addressing = other);
    }

    public Delivery replyingTo(String address) {
        return changed(d -> d.replyTo = address);
    }

    public Delivery in(String otherCharset) {
        return changed(d -> d.charset = otherCharset);
    }

    public Delivery with(Compression other) {
        return changed(d -> d.compression = other);
    }

    public Delivery with(Framing other) {
        return changed(d -> d.framing = other);
    }

    public Delivery following(boolean other) {
        return changed(d -> d.follows = other);
    }

    public Delivery onOwnConnection(boolean other) {
        return changed(d -> d.ownConnection = other);
    }

    public Delivery inliningUpTo(int kilobytes) {
        return changed(d -> d.inlineKilobytes = kilobytes);
    }

    public Delivery with(Waiting other) {
        return changed(d -> d.waiting = other);
    }

    private Delivery changed(Consumer<Changing> change) {
        Changing changing = new Changing(this);
        change.accept(changing);
        return changing.made();
    }

    /** Its parts while one of them is changed. */
    private static final class Changing {
        private String endpoint;
        private Addressing addressing;
        private String replyTo;
        private String charset;
        private Compression compression;
        private Framing framing;
        private boolean follows;
        private boolean ownConnection;
        private int inlineKilobytes;
        private Waiting waiting;

        Changing(Delivery from) {
            endpoint = from.endpoint;
            addressing = from.addressing;
            replyTo = from.replyTo;
            charset = from.charset;
            compression = from.compression;
            framing = from.framing;
            follows = from.follows;
            ownConnection = from.ownConnection;
            inlineKilobytes = from.inlineKilobytes;
            waiting = from.waiting;
        }

        Delivery made() {
            return new Delivery(
                    endpoint,
                    addressing,
                    replyTo,
                    charset,
                    compression,
                    framing,
                    follows,
                    ownConnection,
                    inlineKilobytes,
                    waiting);
        }
    }

    /** Nothing done to the bytes: as text that can be read and pasted. */
    public Delivery readable() {
        return in("UTF-8").with(Compression.NONE).with(Framing.USUAL);
    }
}
