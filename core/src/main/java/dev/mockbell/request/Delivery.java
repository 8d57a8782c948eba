package dev.mockbell.request;

import dev.mockbell.choice.Choice;
import dev.mockbell.soap.Addressing;
import dev.mockbell.wire.Framing;

/**
 * How a request is delivered, beside what it says.
 *
 * @param endpoint where to, perhaps with expressions, in place of where the environment and the contract say; empty for there
 * @param addressing which WS-Addressing it speaks
 * @param replyTo where a WS-Addressing answer goes, perhaps with expressions; empty for the way that the request came
 * @param charset what the envelope is encoded in
 * @param follows whether a call goes on to where the answer leads
 * @param ownConnection whether the call has a connection to itself, in place of one that is kept
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
        int inlineKilobytes) {
    /** As most services expect it. */
    public static final Delivery USUAL =
            new Delivery("", Addressing.AS_CONTRACT, "", "UTF-8", Compression.NONE, Framing.USUAL, false, false, 0);

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
        return new Delivery(
                address, addressing, replyTo, charset, compression, framing, follows, ownConnection, inlineKilobytes);
    }

    public Delivery with(Addressing other) {
        return new Delivery(
                endpoint, other, replyTo, charset, compression, framing, follows, ownConnection, inlineKilobytes);
    }

    public Delivery replyingTo(String address) {
        return new Delivery(
                endpoint, addressing, address, charset, compression, framing, follows, ownConnection, inlineKilobytes);
    }

    public Delivery in(String otherCharset) {
        return new Delivery(
                endpoint,
                addressing,
                replyTo,
                otherCharset,
                compression,
                framing,
                follows,
                ownConnection,
                inlineKilobytes);
    }

    public Delivery with(Compression other) {
        return new Delivery(
                endpoint, addressing, replyTo, charset, other, framing, follows, ownConnection, inlineKilobytes);
    }

    public Delivery with(Framing other) {
        return new Delivery(
                endpoint, addressing, replyTo, charset, compression, other, follows, ownConnection, inlineKilobytes);
    }

    public Delivery following(boolean other) {
        return new Delivery(
                endpoint, addressing, replyTo, charset, compression, framing, other, ownConnection, inlineKilobytes);
    }

    public Delivery onOwnConnection(boolean other) {
        return new Delivery(
                endpoint, addressing, replyTo, charset, compression, framing, follows, other, inlineKilobytes);
    }

    public Delivery inliningUpTo(int kilobytes) {
        return new Delivery(
                endpoint, addressing, replyTo, charset, compression, framing, follows, ownConnection, kilobytes);
    }

    /** Nothing done to the bytes: as text that can be read and pasted. */
    public Delivery readable() {
        return in("UTF-8").with(Compression.NONE).with(Framing.USUAL);
    }
}
