package dev.mockbell.request;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.content.MediaType;
import dev.mockbell.soap.Xop;
import dev.mockbell.wire.CallRequest;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.UUID;

/**
 * Puts parts beside the envelope of a message: as XOP (XML-binary Optimized Packaging §4, SOAP MTOM §4) where the envelope
 * includes one, else as SOAP with Attachments (§3). Nothing is copied.
 */
public final class Packaging {
    private Packaging() {}

    /** The request with its body as the root of parts; the same request when there are none. */
    public static CallRequest of(CallRequest request, List<Attachment> attachments) {
        return of(request, attachments, false);
    }

    /**
     * As {@link #of(CallRequest, List)}.
     *
     * @param always whether the service wants XOP also where there is nothing to leave to a part
     */
    public static CallRequest of(CallRequest request, List<Attachment> attachments, boolean always) {
        if (attachments.isEmpty() && !always) {
            return request;
        }
        String plain = Header.first(request.headers(), "Content-Type").orElse("text/xml; charset=utf-8");
        Packed packed = packed(plain, request.body(), attachments, always);
        return request.with(new Header("Content-Type", packed.type())).with(packed.body());
    }

    /**
     * A message in parts.
     *
     * @param type its Content-Type
     */
    public record Packed(String type, Content body) {}

    /**
     * An envelope with parts beside it.
     *
     * @param plain the Content-Type that it has alone
     * @param always as for {@link #of(CallRequest, List, boolean)}
     */
    public static Packed packed(String plain, Content envelope, List<Attachment> attachments, boolean always) {
        String soap = new MediaType(plain).name();
        String action = new MediaType(plain)
                .parameter("action")
                .map(a -> "; action=\"" + a + "\"")
                .orElse("");
        boolean xop = always || Xop.isIn(Xml.parse(envelope, plain, "the message", XmlLimits.MESSAGE));
        String unique = UUID.randomUUID().toString();
        String boundary = "part-" + unique;
        String start = "<envelope-" + unique + "@mockbell>";
        String charset =
                new MediaType(plain).charset().orElse(StandardCharsets.UTF_8).name();
        String rootType = xop ? "application/xop+xml; charset=" + charset + "; type=" + quoted(soap + action) : plain;
        String type = "multipart/related; type=" + quoted(xop ? "application/xop+xml" : soap) + "; start="
                + quoted(start) + (xop ? "; start-info=" + quoted(soap + action) : action) + "; boundary="
                + quoted(boundary);
        Content body = Content.joined(head(boundary, start, rootType, ""), envelope);
        for (Attachment attachment : attachments) {
            Content head = head(boundary, "<" + attachment.id() + ">", attachment.type(), "\r\n");
            body = Content.joined(Content.joined(body, head), attachment.content());
        }
        body = Content.joined(body, text("\r\n--" + boundary + "--\r\n"));
        return new Packed(type, body);
    }

    private static Content head(String boundary, String id, String type, String before) {
        return text(before + "--" + boundary + "\r\nContent-Type: " + type
                + "\r\nContent-Transfer-Encoding: binary\r\nContent-ID: " + id + "\r\n\r\n");
    }

    private static Content text(String text) {
        return Content.of(text.getBytes(StandardCharsets.ISO_8859_1));
    }

    private static String quoted(String value) {
        return "\"" + value.replace("\\", "\\\\").replace("\"", "\\\"") + "\"";
    }
}
