package dev.mockbell.tap;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.exchange.Message;
import dev.mockbell.wire.Unframed;
import dev.mockbell.xml.TextEncoding;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/**
 * Changes the addresses in a contract's documents, so that clients which read them by way of a tap call by way of it: those of
 * ports and endpoints (WSDL 1.1 §3.8, WSDL 2.0 §5.10.3), of endpoint references, and where imports are found. Names of
 * namespaces stay, also where they look like an address; so does every other byte.
 */
final class AddressRewriting {
    /** A document that is larger goes as it comes. */
    static final int LARGEST = 32 << 20;

    private static final Pattern QUERY = Pattern.compile("(?:^|&)(?:wsdl|xsd|singlewsdl|schema)[0-9.]*(?:=|&|$)");
    private static final Pattern PATH = Pattern.compile(".*\\.(?:wsdl|xsd)");

    private AddressRewriting() {}

    /** Whether what is asked for may be a document of a contract. */
    static boolean concerns(Head request) {
        if (!"GET".equals(request.method())) {
            return false;
        }
        String target = request.target().toLowerCase(Locale.ROOT);
        int mark = target.indexOf('?');
        return mark >= 0
                ? QUERY.matcher(target.substring(mark + 1)).find()
                        || PATH.matcher(target.substring(0, mark)).matches()
                : PATH.matcher(target).matches();
    }

    /** Whether an answer may be one. */
    static boolean concernsAnswer(Head answer) {
        boolean fits = answer.length() <= LARGEST;
        String type = answer.field("Content-Type").orElse("xml").toLowerCase(Locale.ROOT);
        return answer.status() == 200 && fits && (type.contains("xml") || type.contains("text/plain"));
    }

    /**
     * The answer as the client gets it; empty when nothing in it changes.
     *
     * @param wire as it came from the service
     * @param there {@code http://huts.example:81}
     * @param here as {@code there}, of the tap as the client called it
     */
    static Optional<byte[]> rewritten(Head answer, Content wire, Destination there, String here) {
        int start = answer.text().length();
        Message message = Unframed.message(answer.title(), answer.headers(), start, wire);
        byte[] body = message.body().bytes();
        TextEncoding encoding =
                TextEncoding.of(body, answer.field("Content-Type").orElse(""));
        String text = encoding.decode(body);
        String changed = changed(text, there, here);
        if (changed.equals(text)) {
            return Optional.empty();
        }
        byte[] mark = new byte[encoding.skip()];
        System.arraycopy(body, 0, mark, 0, mark.length);
        byte[] encoded = changed.getBytes(encoding.charset());
        List<Header> fields = new ArrayList<>();
        fields.add(new Header("Content-Length", String.valueOf(mark.length + encoded.length)));
        // what was said of the bytes before is not true of these
        Stream.of("Transfer-Encoding", "Content-Encoding", "ETag", "Content-MD5", "Digest", "Repr-Digest", "Trailer")
                .forEach(name -> fields.add(new Header(name, null)));
        byte[] head = answer.with(answer.title(), fields).getBytes(StandardCharsets.ISO_8859_1);
        byte[] all = new byte[head.length + mark.length + encoded.length];
        System.arraycopy(head, 0, all, 0, head.length);
        System.arraycopy(mark, 0, all, head.length, mark.length);
        System.arraycopy(encoded, 0, all, head.length + mark.length, encoded.length);
        return Optional.of(all);
    }

    static String changed(String text, Destination there, String here) {
        Pattern addresses = Pattern.compile(
                "((?:\\b(?:location|schemaLocation|address)\\s*=\\s*[\"']\\s*)|(?:<(?:[\\w.-]+:)?Address\\b[^<>]*>\\s*))"
                        + base(there) + "(?=[/?#\"'<\\s])",
                Pattern.CASE_INSENSITIVE);
        return addresses.matcher(text).replaceAll(m -> Matcher.quoteReplacement(m.group(1) + here));
    }

    private static String base(Destination there) {
        String port = there.port() == (there.tls() ? 443 : 80) ? "(?::" + there.port() + ")?" : ":" + there.port();
        String name = there.host().contains(":") ? "[" + there.host() + "]" : there.host();
        return (there.tls() ? "https" : "http") + "://" + Pattern.quote(name) + port;
    }

    private static Pattern start(Destination there) {
        return Pattern.compile("^" + base(there) + "(?=[/?#]|$)", Pattern.CASE_INSENSITIVE);
    }

    /** Whether an address is one of that service. */
    static boolean isAt(String address, Destination there) {
        return start(there).matcher(address).find();
    }

    /** An address of that service, by way of here. */
    static String moved(String address, Destination there, String here) {
        return start(there).matcher(address).replaceFirst(Matcher.quoteReplacement(here));
    }
}
