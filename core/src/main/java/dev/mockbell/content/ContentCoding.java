package dev.mockbell.content;

import dev.mockbell.problem.Problem;
import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Locale;
import java.util.zip.GZIPInputStream;
import java.util.zip.Inflater;
import java.util.zip.InflaterInputStream;
import java.util.zip.ZipException;

/** Undoes the codings of a body (RFC 9110 §8.4) to their end, so that a body which breaks them is told. */
public final class ContentCoding {
    /** What is asked for. */
    public static final String ACCEPTED = "gzip, deflate";

    private static final int STEP = 64 * 1024;

    private ContentCoding() {}

    /** A body is not coded as it says. */
    public static final class Undecodable extends IOException {
        private static final long serialVersionUID = 1L;

        Undecodable(String words) {
            super(words);
        }
    }

    /** Whether a message with these fields has a body that is coded. */
    public static boolean isIn(List<Header> headers) {
        return !lastFirst(headers).isEmpty();
    }

    /**
     * The body as it was before it was coded.
     *
     * @param headers the message's fields; those of Content-Encoding count
     * @param most how many bytes are taken
     * @throws TooLarge when it is larger
     * @throws Undecodable when it is not coded as the fields say
     */
    public static Content undone(Content body, List<Header> headers, long most) throws IOException {
        return undone(body, headers, most, new ArrayList<>());
    }

    /**
     * What is not right about how a body is coded, though it can be undone; sentences without a full stop.
     *
     * @param most as in {@link #undone}
     */
    public static List<String> flaws(Content body, List<Header> headers, long most) {
        List<String> flaws = new ArrayList<>();
        try {
            undone(body, headers, most, flaws);
        } catch (IOException notSo) {
            // that it cannot be undone was told in its place
            return List.of();
        }
        return flaws;
    }

    private static Content undone(Content body, List<Header> headers, long most, List<String> flaws)
            throws IOException {
        Content plain = body;
        for (String coding : lastFirst(headers)) {
            // an answer without a body has nothing that is coded
            plain = plain.isEmpty() ? plain : decoded(plain, coding, most, flaws);
        }
        return plain;
    }

    private static List<String> lastFirst(List<Header> headers) {
        List<String> codings = new ArrayList<>();
        for (Header header : headers) {
            if (header.name().equalsIgnoreCase("Content-Encoding")) {
                for (String coding : header.value().split(",")) {
                    codings.add(coding.strip().toLowerCase(Locale.ROOT));
                }
            }
        }
        codings.removeIf(c -> c.isEmpty() || c.equals("identity"));
        Collections.reverse(codings);
        return codings;
    }

    private static Content decoded(Content body, String coding, long most, List<String> flaws) throws IOException {
        ContentSink plain = new ContentSink();
        try (InputStream from = body.open();
                Packed in = unpacking(new CountedStream(from), coding, body.start(2))) {
            byte[] piece = new byte[STEP];
            int count;
            while ((count = in.plain().read(piece)) >= 0) {
                if (plain.size() + count > most) {
                    throw new TooLarge(most);
                }
                plain.write(piece, 0, count);
            }
            long beyond = body.size() - in.end();
            if (beyond > 0) {
                flaws.add(beyond + (beyond == 1 ? " byte follows" : " bytes follow")
                        + " the end of what is compressed by " + coding + ", and " + (beyond == 1 ? "is" : "are")
                        + " passed over");
            }
        } catch (EOFException e) {
            throw new Undecodable("is compressed by " + coding + ", and its end is missing");
        } catch (ZipException e) {
            throw new Undecodable(
                    "says that it is compressed by " + coding + ", but cannot be unpacked: " + Problem.reason(e));
        }
        return plain.content();
    }

    private static Packed unpacking(CountedStream from, String coding, byte[] start) throws IOException {
        return switch (coding) {
            case "gzip", "x-gzip" -> new Gzip(from);
            case "deflate" -> {
                // the wrapping of RFC 1950, which is due, and which many leave out
                boolean wrapped = start.length == 2
                        && (start[0] & 0x0F) == 8
                        && ((start[0] & 0xFF) << 8 | start[1] & 0xFF) % 31 == 0;
                yield new Deflate(from, !wrapped);
            }
            default ->
                throw new Undecodable("is compressed by " + coding + ", which was not asked for and is not known here");
        };
    }

    /** A compressed body while it is unpacked. */
    private interface Packed extends AutoCloseable {
        InputStream plain();

        /** Once all is read: where in the body the end of it was. */
        long end();

        @Override
        void close() throws IOException;
    }

    private static final class Gzip extends GZIPInputStream implements Packed {
        /** Behind the last member stand its checksum and length (RFC 1952 §2.3.1). */
        private static final int TRAILER = 8;

        private final CountedStream from;
        private long filled;

        Gzip(CountedStream from) throws IOException {
            super(from, STEP);
            this.from = from;
        }

        @Override
        protected void fill() throws IOException {
            super.fill();
            filled = from.count();
        }

        @Override
        public InputStream plain() {
            return this;
        }

        @Override
        public long end() {
            // what was read since then was to find out whether another member follows
            return filled - inf.getRemaining() + TRAILER;
        }
    }

    private static final class Deflate extends InflaterInputStream implements Packed {
        private final CountedStream from;

        Deflate(CountedStream from, boolean bare) {
            super(from, new Inflater(bare), STEP);
            this.from = from;
        }

        @Override
        public InputStream plain() {
            return this;
        }

        @Override
        public long end() {
            return from.count() - inf.getRemaining();
        }

        @Override
        public void close() throws IOException {
            super.close();
            inf.end();
        }
    }
}
