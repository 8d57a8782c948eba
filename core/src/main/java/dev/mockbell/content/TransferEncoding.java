package dev.mockbell.content;

import jakarta.mail.MessagingException;
import jakarta.mail.internet.MimeUtility;
import java.io.IOException;
import java.io.InputStream;
import java.util.Base64;
import java.util.Locale;

/**
 * What was done to a part for the way (RFC 2045 §6), undone. HTTP needs none of it, but services that put their parts together as
 * mail does send it all the same.
 */
public final class TransferEncoding {
    private static final String FIELD = "Content-Transfer-Encoding";

    private TransferEncoding() {}

    /** Whether something was done to a part that can be undone. */
    public static boolean isIn(Part part) {
        return !name(part).isEmpty();
    }

    /** What a part holds, as a stream for the caller to close; as it stands there where nothing is known to have been done to it. */
    public static InputStream open(Part part) throws IOException {
        InputStream in = part.content().open();
        return switch (name(part)) {
            // lines may have any length, and other characters between
            case "base64" -> Base64.getMimeDecoder().wrap(in);
            case "quoted-printable" -> quotedPrintable(in);
            default -> in;
        };
    }

    private static InputStream quotedPrintable(InputStream in) throws IOException {
        try {
            return MimeUtility.decode(in, "quoted-printable");
        } catch (MessagingException e) {
            in.close();
            throw new IOException("The part cannot be read: " + e.getMessage(), e);
        }
    }

    /** The part with what it holds, to be read as if it had come so; the same one where nothing was done, or not rightly. */
    public static Part undone(Part part) {
        if (!isIn(part)) {
            return part;
        }
        ContentSink plain = new ContentSink();
        try (InputStream in = open(part)) {
            in.transferTo(plain);
        } catch (IOException notSo) {
            return part;
        }
        return new Part(
                part.headers().stream()
                        .filter(h -> !h.name().equalsIgnoreCase(FIELD))
                        .toList(),
                plain.content());
    }

    private static String name(Part part) {
        String name = part.header(FIELD).orElse("").strip().toLowerCase(Locale.ROOT);
        return name.equals("base64") || name.equals("quoted-printable") ? name : "";
    }
}
