package dev.mockbell.har;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.StreamWriteFeature;
import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.content.Part;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Message;
import dev.mockbell.exchange.Timing;
import dev.mockbell.redact.Redactor;
import dev.mockbell.xml.TextEncoding;
import java.io.IOException;
import java.io.OutputStream;
import java.net.URLDecoder;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.util.Base64;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * Writes exchanges as HAR 1.2, one after the other, so that there may be any number of them. What HAR has no field for stands in
 * fields whose names begin with an underscore, as it allows.
 */
public final class HarWriter implements AutoCloseable {
    private static final String CREATOR = "Mock Bell";

    private final JsonGenerator json;
    private final Optional<Redactor> redactor;
    private final long most;

    /**
     * @param redactor what masks credentials and secrets; empty to write the very bytes
     * @param most how large a body may be to be written, in bytes; of a larger one it is said that it was left out
     */
    public HarWriter(OutputStream out, String version, Optional<Redactor> redactor, long most) throws IOException {
        this.redactor = redactor;
        this.most = most;
        json = JsonFactory.builder()
                .disable(StreamWriteFeature.AUTO_CLOSE_CONTENT)
                .build()
                .createGenerator(out);
        json.writeStartObject();
        json.writeObjectFieldStart("log");
        json.writeStringField("version", "1.2");
        json.writeObjectFieldStart("creator");
        json.writeStringField("name", CREATOR);
        json.writeStringField("version", version);
        json.writeEndObject();
        json.writeArrayFieldStart("entries");
    }

    /** Writes one. */
    public void write(Exchange e) throws IOException {
        json.writeRaw("\n");
        json.writeStartObject();
        json.writeStringField("startedDateTime", e.started().toString());
        json.writeNumberField("time", millis(e.timing().total()));
        request(e);
        response(e);
        json.writeObjectFieldStart("cache");
        json.writeEndObject();
        timings(e.timing());
        if (!e.note().isEmpty()) {
            json.writeStringField("comment", text(e.note()));
        }
        json.writeStringField("_way", e.way().name().toLowerCase(Locale.ROOT));
        json.writeStringField("_result", e.outcome().name().toLowerCase(Locale.ROOT));
        own("_contract", e.contract());
        own("_operation", e.operation());
        own("_from", e.origin());
        own("_caller", e.ties().caller());
        json.writeEndObject();
    }

    private void own(String name, String value) throws IOException {
        if (!value.isEmpty()) {
            json.writeStringField(name, text(value));
        }
    }

    private String text(String value) {
        return redactor.map(r -> r.text(value)).orElse(value);
    }

    private void request(Exchange e) throws IOException {
        Message m = e.request();
        String[] title = m.title().split(" ", 3);
        json.writeObjectFieldStart("request");
        json.writeStringField("method", title[0]);
        json.writeStringField("url", text(e.endpoint()));
        json.writeStringField("httpVersion", title.length > 2 ? title[2] : "HTTP/1.1");
        cookies(m, "Cookie");
        headers(m);
        query(e.endpoint());
        if (!m.body().isEmpty()) {
            json.writeObjectFieldStart("postData");
            json.writeStringField("mimeType", m.type().text());
            body(m, "_encoding");
            json.writeEndObject();
        }
        sizes(m);
        json.writeEndObject();
    }

    private void response(Exchange e) throws IOException {
        json.writeObjectFieldStart("response");
        Optional<Message> came = e.response();
        json.writeNumberField("status", e.status());
        String[] title = came.map(Message::title).orElse("").split(" ", 3);
        json.writeStringField("statusText", title.length > 2 ? title[2] : "");
        json.writeStringField("httpVersion", title[0]);
        if (came.isEmpty()) {
            none();
        } else {
            Message m = came.get();
            cookies(m, "Set-Cookie");
            headers(m);
            json.writeObjectFieldStart("content");
            json.writeNumberField("size", m.body().size());
            json.writeStringField("mimeType", m.type().text());
            body(m, "encoding");
            json.writeEndObject();
            json.writeStringField("redirectURL", text(m.header("Location").orElse("")));
            sizes(m);
        }
        json.writeEndObject();
    }

    /** HAR has no entry without an answer: one of nothing stands in its place. */
    private void none() throws IOException {
        json.writeArrayFieldStart("cookies");
        json.writeEndArray();
        json.writeArrayFieldStart("headers");
        json.writeEndArray();
        json.writeObjectFieldStart("content");
        json.writeNumberField("size", 0);
        json.writeStringField("mimeType", "");
        json.writeEndObject();
        json.writeStringField("redirectURL", "");
        json.writeNumberField("headersSize", -1);
        json.writeNumberField("bodySize", -1);
    }

    private void cookies(Message m, String field) throws IOException {
        json.writeArrayFieldStart("cookies");
        for (Header header : m.headers()) {
            if (header.name().equalsIgnoreCase(field)) {
                // of an answer a cookie and its attributes, of a request all cookies
                String[] pairs = header.value().split(";");
                for (int i = 0; i < ("Set-Cookie".equals(field) ? 1 : pairs.length); i++) {
                    String[] pair = pairs[i].strip().split("=", 2);
                    json.writeStartObject();
                    json.writeStringField("name", pair[0]);
                    json.writeStringField("value", masked(pair.length > 1 ? pair[1] : ""));
                    json.writeEndObject();
                }
            }
        }
        json.writeEndArray();
    }

    /** A cookie is a credential by its nature. */
    private String masked(String value) {
        return redactor.isPresent() ? Redactor.MASK : value;
    }

    private void headers(Message m) throws IOException {
        json.writeArrayFieldStart("headers");
        for (Header header : m.headers()) {
            String line = header.name() + ": " + header.value();
            String shown = redactor.map(r -> r.wire(m.title() + "\r\n" + line + "\r\n\r\n"))
                    .map(t -> t.substring(t.indexOf("\r\n") + 2).strip())
                    .orElse(line);
            int colon = shown.indexOf(": ");
            json.writeStartObject();
            json.writeStringField("name", header.name());
            json.writeStringField("value", colon < 0 ? "" : shown.substring(colon + 2));
            json.writeEndObject();
        }
        json.writeEndArray();
    }

    private void query(String address) throws IOException {
        json.writeArrayFieldStart("queryString");
        int mark = address.indexOf('?');
        if (mark >= 0 && mark < address.length() - 1) {
            for (String pair : text(address).substring(mark + 1).split("&")) {
                String[] both = pair.split("=", 2);
                json.writeStartObject();
                json.writeStringField("name", decoded(both[0]));
                json.writeStringField("value", both.length > 1 ? decoded(both[1]) : "");
                json.writeEndObject();
            }
        }
        json.writeEndArray();
    }

    private static String decoded(String text) {
        try {
            return URLDecoder.decode(text, StandardCharsets.UTF_8);
        } catch (IllegalArgumentException asItIs) {
            return text;
        }
    }

    /** @param how the name of the field that says how bytes which are no text are written */
    private void body(Message m, String how) throws IOException {
        if (m.body().isEmpty()) {
            return;
        }
        if (m.body().size() > most) {
            json.writeStringField("text", "");
            json.writeStringField("comment", "The body of " + m.body().size() + " bytes was left out.");
            return;
        }
        byte[] bytes = m.body().bytes();
        Optional<String> text = m.attachments().isEmpty() ? asText(m, bytes) : Optional.empty();
        if (text.isPresent()) {
            json.writeStringField(
                    "text", redactor.map(r -> r.message(text.get())).orElse(text.get()));
        } else {
            // in parts, the text among them still has what is to be masked
            byte[] shown = redactor.map(r -> latin1(r.message(new String(bytes, StandardCharsets.ISO_8859_1))))
                    .orElse(bytes);
            json.writeStringField("text", Base64.getEncoder().encodeToString(shown));
            json.writeStringField(how, "base64");
        }
    }

    private static byte[] latin1(String text) {
        // each character is a byte here, which the mark of a masking is not
        String mark = new String(Redactor.MASK.getBytes(StandardCharsets.UTF_8), StandardCharsets.ISO_8859_1);
        return text.replace(Redactor.MASK, mark).getBytes(StandardCharsets.ISO_8859_1);
    }

    /** The bytes as text that becomes the same bytes again; empty when they are none. */
    private static Optional<String> asText(Message m, byte[] bytes) {
        Part whole = new Part(m.headers(), m.body());
        TextEncoding encoding =
                TextEncoding.of(bytes, whole.header("Content-Type").orElse(""));
        try {
            String text = encoding.charset()
                    .newDecoder()
                    .decode(java.nio.ByteBuffer.wrap(bytes, encoding.skip(), bytes.length - encoding.skip()))
                    .toString();
            return text.chars().anyMatch(c -> c < ' ' && c != '\t' && c != '\r' && c != '\n')
                    ? Optional.empty()
                    : Optional.of(text);
        } catch (CharacterCodingException noText) {
            return Optional.empty();
        }
    }

    private void sizes(Message m) throws IOException {
        json.writeNumberField("headersSize", m.head().length());
        Content wire = m.wire();
        long body = wire.isEmpty()
                ? m.body().size()
                : Math.max(0, wire.size() - m.head().length());
        json.writeNumberField("bodySize", body);
    }

    /** In milliseconds; -1 for what did not happen or is not known. The connection's time has that of TLS in it, as HAR wants. */
    private void timings(Timing t) throws IOException {
        json.writeObjectFieldStart("timings");
        json.writeNumberField("blocked", -1);
        json.writeNumberField("dns", t.name() == 0 ? -1 : millis(t.name()));
        json.writeNumberField("connect", t.connect() + t.tls() == 0 ? -1 : millis(t.connect() + t.tls()));
        json.writeNumberField("ssl", t.tls() == 0 ? -1 : millis(t.tls()));
        json.writeNumberField("send", millis(t.send()));
        json.writeNumberField("wait", millis(t.await()));
        json.writeNumberField("receive", millis(t.receive()));
        json.writeEndObject();
    }

    private static double millis(long nanos) {
        return nanos / 1_000 / 1e3;
    }

    /** Writes the end; the stream stays open. */
    @Override
    public void close() throws IOException {
        json.writeRaw("\n");
        json.writeEndArray();
        json.writeEndObject();
        json.writeEndObject();
        json.flush();
    }

    /** The names of all fields that this writes besides those of HAR. */
    static List<String> own() {
        return List.of("_way", "_result", "_contract", "_operation", "_from", "_caller", "_encoding");
    }
}
