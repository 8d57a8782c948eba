package dev.mockbell.demo.fronts;

import com.sun.net.httpserver.Headers;
import dev.mockbell.content.Content;
import dev.mockbell.content.ContentSink;
import dev.mockbell.content.Header;
import dev.mockbell.content.MediaType;
import dev.mockbell.content.Multipart;
import dev.mockbell.content.Part;
import dev.mockbell.soap.Xop;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import dev.mockbell.xml.XmlText;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.w3c.dom.Document;
import org.w3c.dom.Element;

/**
 * A request with a security header, taken apart so that the header can be used and taken out.
 *
 * @param envelope with the parts in their place that it leaves values to, while these are looked at
 */
record SecuredMessage(MediaType type, Document envelope, List<Part> parts, Runnable partsOut) {
    static final String WSSE = "http://docs.oasis-open.org/wss/2004/01/oasis-200401-wss-wssecurity-secext-1.0.xsd";

    static SecuredMessage read(InputStream body, Headers headers, boolean covering) throws IOException {
        ContentSink sink = new ContentSink();
        body.transferTo(sink);
        MediaType type = new MediaType(String.valueOf(headers.getFirst("Content-Type")));
        Part whole = new Part(List.of(new Header("Content-Type", type.text())), sink.content());
        Multipart parts = Multipart.is(type)
                ? Multipart.of(sink.content(), type)
                : new Multipart(List.of(whole), whole, List.of());
        Part root = parts.root();
        List<Part> all = parts.attachments();
        Document envelope =
                Xml.parse(root.content(), root.header("Content-Type").orElse(""), "request", XmlLimits.MESSAGE);
        Runnable out = covering && !all.isEmpty() ? Xop.inPlace(envelope, all) : () -> {};
        return new SecuredMessage(type, envelope, all, out);
    }

    /** The security header; null when there is none. */
    Element security() {
        Element root = envelope.getDocumentElement();
        return Xml.children(root, root.getNamespaceURI(), "Header").stream()
                .flatMap(h -> Xml.children(h, WSSE, "Security").stream())
                .findFirst()
                .orElse(null);
    }

    /** The body as the service is to see it: without the security header, with its parts beside it. */
    Content plain() {
        Element security = security();
        if (security != null) {
            security.getParentNode().removeChild(security);
        }
        partsOut.run();
        Content text = text(XmlText.exact(envelope));
        if (parts.isEmpty() && !Multipart.is(type)) {
            return text;
        }
        String boundary = type.parameter("boundary").orElse("");
        String start = type.parameter("start").orElse("<root>");
        String root = type.parameter("start-info").orElse("text/xml");
        Content body = Content.joined(
                text("--" + boundary + "\r\nContent-Type: application/xop+xml; charset=utf-8; type=\"" + root
                        + "\"\r\nContent-ID: " + start + "\r\n\r\n"),
                text);
        for (Part part : parts) {
            StringBuilder head = new StringBuilder("\r\n--" + boundary + "\r\n");
            part.headers()
                    .forEach(h ->
                            head.append(h.name()).append(": ").append(h.value()).append("\r\n"));
            body = Content.joined(Content.joined(body, text(head.append("\r\n").toString())), part.content());
        }
        return Content.joined(body, text("\r\n--" + boundary + "--\r\n"));
    }

    static Content text(String text) {
        return Content.of(text.getBytes(StandardCharsets.UTF_8));
    }
}
