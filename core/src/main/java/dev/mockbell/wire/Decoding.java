package dev.mockbell.wire;

import dev.mockbell.content.Content;
import dev.mockbell.content.ContentSink;
import dev.mockbell.problem.Problem;
import java.io.BufferedInputStream;
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
final class Decoding {
    /** What is asked for. */
    static final String ACCEPTED = "gzip, deflate";

    private static final int STEP = 64 * 1024;

    private Decoding() {}

    /** A body is not coded as it says. */
    static final class Undecodable extends IOException {
        private static final long serialVersionUID = 1L;

        Undecodable(String words) {
            super(words);
        }
    }

    /**
     * The body as it was before it was coded.
     *
     * @param codings the values of Content-Encoding, in the order in which they were applied
     * @param most how many bytes are taken
     * @throws IOException when it is not coded so, or is larger
     */
    static Content plain(Content body, List<String> codings, long most) throws IOException {
        List<String> last = new ArrayList<>();
        for (String value : codings) {
            for (String coding : value.split(",")) {
                last.add(coding.strip().toLowerCase(Locale.ROOT));
            }
        }
        Collections.reverse(last);
        Content plain = body;
        for (String coding : last) {
            // an answer without a body has nothing that is coded
            boolean coded = !plain.isEmpty() && !coding.isEmpty() && !coding.equals("identity");
            plain = coded ? decoded(plain, coding, most) : plain;
        }
        return plain;
    }

    private static Content decoded(Content body, String coding, long most) throws IOException {
        ContentSink plain = new ContentSink();
        try (InputStream in = stream(body, coding)) {
            byte[] piece = new byte[STEP];
            int count;
            while ((count = in.read(piece)) >= 0) {
                if (plain.size() + count > most) {
                    throw new BoundedBody.TooLarge(most);
                }
                plain.write(piece, 0, count);
            }
        } catch (EOFException e) {
            throw new Undecodable("is compressed by " + coding + ", and its end is missing");
        } catch (ZipException e) {
            throw new Undecodable(
                    "says that it is compressed by " + coding + ", but cannot be unpacked: " + Problem.reason(e));
        }
        return plain.content();
    }

    private static InputStream stream(Content body, String coding) throws IOException {
        return switch (coding) {
            case "gzip", "x-gzip" -> new GZIPInputStream(body.open(), STEP);
            case "deflate" -> {
                byte[] start = body.start(2);
                // the wrapping of RFC 1950, which is due, and which many leave out
                boolean wrapped = start.length == 2
                        && (start[0] & 0x0F) == 8
                        && ((start[0] & 0xFF) << 8 | start[1] & 0xFF) % 31 == 0;
                yield new InflaterInputStream(new BufferedInputStream(body.open()), new Inflater(!wrapped), STEP);
            }
            default ->
                throw new Undecodable("is compressed by " + coding + ", which was not asked for and is not known here");
        };
    }
}
