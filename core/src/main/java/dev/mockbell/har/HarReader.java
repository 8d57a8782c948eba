package dev.mockbell.har;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.JsonToken;
import com.fasterxml.jackson.core.StreamReadConstraints;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.content.MediaType;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.Message;
import dev.mockbell.exchange.Ties;
import dev.mockbell.exchange.Timing;
import dev.mockbell.message.OperationFinder;
import dev.mockbell.problem.Problem;
import dev.mockbell.soap.SoapFault;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.task.StopSignal;
import java.io.IOException;
import java.io.InputStream;
import java.net.URI;
import java.net.URISyntaxException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Consumer;

/**
 * Reads exchanges from HAR 1.2, one after the other, so that there may be any number of them. What tools leave out or write
 * otherwise than it says is taken as far as it goes; an entry that is none is told and passed over.
 */
public final class HarReader {
    /** Longer texts in the file are refused. */
    private static final int LONGEST = 512 << 20;

    private static final int DEEPEST = 100;

    private final OperationFinder operations;
    private final Consumer<String> remark;

    /**
     * @param operations tells which operation an entry is
     * @param remark hears of entries that are passed over, a sentence each
     */
    public HarReader(OperationFinder operations, Consumer<String> remark) {
        this.operations = operations;
        this.remark = remark;
    }

    /**
     * Reads all entries.
     *
     * @param name of the file, for errors
     * @return how many were read
     * @throws Problem when it is no HAR, or ends before its time
     */
    public long read(InputStream in, String name, StopSignal stop, Consumer<Exchange> each) {
        JsonFactory factory = JsonFactory.builder()
                .streamReadConstraints(StreamReadConstraints.builder()
                        .maxStringLength(LONGEST)
                        .maxNestingDepth(DEEPEST)
                        .build())
                .build();
        ObjectMapper mapper = new ObjectMapper(factory);
        long[] count = {0};
        long[] seen = {0};
        try (JsonParser json = factory.createParser(in)) {
            if (json.nextToken() != JsonToken.START_OBJECT || !enter(json, "log") || !enter(json, "entries")) {
                throw noHar(name, null);
            }
            while (json.nextToken() == JsonToken.START_OBJECT) {
                stop.check();
                JsonNode entry = mapper.readTree(json);
                seen[0]++;
                exchange(entry, seen[0]).ifPresent(e -> {
                    each.accept(e);
                    count[0]++;
                });
            }
            if (json.currentToken() != JsonToken.END_ARRAY) {
                throw noHar(name, null);
            }
            return count[0];
        } catch (JsonProcessingException e) {
            String where = e.getLocation() == null
                    ? ""
                    : " at line " + e.getLocation().getLineNr() + ", column "
                            + e.getLocation().getColumnNr();
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The file is not whole JSON" + where + ": " + e.getOriginalMessage(),
                    name,
                    count[0] + " entries before that were read.",
                    e);
        } catch (IOException e) {
            throw Problem.of(Problem.Kind.INPUT, "The file cannot be read: " + Problem.reason(e), name, null, e);
        }
    }

    private static Problem noHar(String name, Exception cause) {
        return Problem.of(
                Problem.Kind.INPUT,
                "This is no HAR file: it has no list of entries in a log",
                name,
                "Export the traffic as HAR 1.2 from the tool that has it.",
                cause);
    }

    /** Goes into the value of a field of the object that the parser is in; false when it has none, or none to go into. */
    private static boolean enter(JsonParser json, String field) throws IOException {
        while (json.nextToken() == JsonToken.FIELD_NAME) {
            String name = json.currentName();
            JsonToken value = json.nextToken();
            if (field.equals(name)) {
                return value == JsonToken.START_OBJECT || value == JsonToken.START_ARRAY;
            }
            json.skipChildren();
        }
        return false;
    }

    private Optional<Exchange> exchange(JsonNode entry, long number) {
        String url = entry.path("request").path("url").asText("");
        String method = entry.path("request").path("method").asText("");
        if (url.isEmpty() || method.isEmpty()) {
            remark.accept("Entry " + number + " has no request; it is passed over.");
            return Optional.empty();
        }
        Message request = request(entry.path("request"), method, url);
        JsonNode answered = entry.path("response");
        int status = answered.path("status").asInt(0);
        Optional<Message> response = status <= 0 ? Optional.empty() : Optional.of(response(answered, status));
        Optional<OperationFinder.Found> found = operations.find(request);
        Optional<String> fault = response.flatMap(SoapMessage::faultOf).map(SoapFault::title);
        Outcome outcome =
                response.isEmpty() ? Outcome.FAILED : fault.isPresent() || status >= 400 ? Outcome.FAULT : Outcome.FINE;
        String comment = entry.path("comment").asText("");
        String note = !comment.isEmpty()
                ? comment
                : outcome == Outcome.FAILED
                        ? answered.path("_error").asText("no answer")
                        : outcome == Outcome.FAULT ? fault.orElse("status " + status) : "";
        return Optional.of(new Exchange(
                        0,
                        started(entry.path("startedDateTime").asText("")),
                        one(Way.class, entry.path("_way").asText(""), Way.CALLED),
                        found.map(OperationFinder.Found::contract)
                                .orElse(entry.path("_contract").asText("")),
                        found.map(OperationFinder.Found::operation)
                                .orElse(entry.path("_operation").asText("")),
                        url,
                        entry.path("_from").asText("HAR"),
                        request,
                        response,
                        timing(entry),
                        one(Outcome.class, entry.path("_result").asText(""), outcome),
                        note)
                .with(Ties.from(entry.path("_caller").asText(""))));
    }

    private static <E extends Enum<E>> E one(Class<E> kind, String written, E otherwise) {
        for (E each : kind.getEnumConstants()) {
            if (each.name().toLowerCase(Locale.ROOT).equals(written)) {
                return each;
            }
        }
        return otherwise;
    }

    private static Instant started(String text) {
        try {
            return OffsetDateTime.parse(text).toInstant();
        } catch (DateTimeException notSaid) {
            return Instant.EPOCH;
        }
    }

    private static Message request(JsonNode r, String method, String url) {
        List<Header> headers = headers(r);
        String version = r.path("httpVersion").asText("HTTP/1.1");
        JsonNode posted = r.path("postData");
        Content body = body(posted, posted.path("_encoding").asText(""), type(headers, posted));
        return new HttpMessage(method + " " + target(url) + " " + http(version), headers, body, Content.NONE);
    }

    private static Message response(JsonNode r, int status) {
        List<Header> headers = headers(r);
        JsonNode content = r.path("content");
        Content body = body(content, content.path("encoding").asText(""), type(headers, content));
        String title = http(r.path("httpVersion").asText("HTTP/1.1")) + " " + status + " "
                + r.path("statusText").asText("");
        return new HttpMessage(title.stripTrailing(), headers, body, Content.NONE);
    }

    /** Browsers write {@code h2}, {@code http/2.0} and worse. */
    private static String http(String written) {
        String v = written.strip().toUpperCase(Locale.ROOT);
        if (v.startsWith("HTTP/") && !v.contains(" ")) {
            return v;
        }
        return v.startsWith("H2") ? "HTTP/2" : v.startsWith("H3") ? "HTTP/3" : "HTTP/1.1";
    }

    private static String target(String url) {
        try {
            URI address = new URI(url);
            String path = address.getRawPath() == null || address.getRawPath().isEmpty() ? "/" : address.getRawPath();
            return path + (address.getRawQuery() == null ? "" : "?" + address.getRawQuery());
        } catch (URISyntaxException e) {
            return url.replaceAll("\\s", "%20");
        }
    }

    private static List<Header> headers(JsonNode r) {
        List<Header> headers = new ArrayList<>();
        for (JsonNode h : r.path("headers")) {
            String name = h.path("name").asText("");
            // those of HTTP/2 that stand for the start line
            if (!name.isEmpty() && !name.startsWith(":")) {
                headers.add(new Header(name, h.path("value").asText("").replaceAll("[\\r\\n]+", " ")));
            }
        }
        return headers;
    }

    private static MediaType type(List<Header> headers, JsonNode content) {
        return new MediaType(Header.first(headers, "Content-Type")
                .orElse(content.path("mimeType").asText("")));
    }

    private static Content body(JsonNode content, String encoding, MediaType type) {
        String text = content.path("text").asText("");
        if ("base64".equals(encoding)) {
            try {
                return Content.of(Base64.getMimeDecoder().decode(text));
            } catch (IllegalArgumentException asItIs) {
                return Content.of(text.getBytes(StandardCharsets.UTF_8));
            }
        }
        Charset charset = type.charset().filter(Charset::canEncode).orElse(StandardCharsets.UTF_8);
        return Content.of(text.getBytes(charset));
    }

    private static Timing timing(JsonNode entry) {
        JsonNode t = entry.path("timings");
        long tls = nanos(t.path("ssl"));
        long connect = Math.max(0, nanos(t.path("connect")) - tls);
        Timing parts = new Timing(
                nanos(t.path("dns")),
                connect,
                tls,
                nanos(t.path("send")),
                nanos(t.path("wait")),
                nanos(t.path("receive")));
        return parts.total() > 0 ? parts : new Timing(0, 0, nanos(entry.path("time")), 0);
    }

    private static long nanos(JsonNode millis) {
        double value = millis.asDouble(-1);
        return value <= 0 || value > 1e12 ? 0 : Math.round(value * 1e6);
    }
}
