package dev.mockbell.wire.jms;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.exchange.JmsMessage;
import dev.mockbell.wire.CallRequest;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;

/** The properties with which a request goes to a queue or topic (SOAP over Java Message Service 1.0 §2.2.3, §2.2.4). */
public final class RequestProperties {
    private static final int USUAL_PRIORITY = 4;

    private RequestProperties() {}

    /** What a request's head comes to, by name. */
    static Map<String, String> of(CallRequest request, JmsAddress address) {
        Map<String, String> properties = new TreeMap<>();
        properties.put(Envelopes.VERSION, "1.0");
        properties.put(JmsMessage.CONTENT_TYPE, contentType(request));
        properties.put(Envelopes.REQUEST_URI, address.requestUri());
        address.parameter("targetService").ifPresent(t -> properties.put(Envelopes.TARGET, t));
        for (Header header : request.headers()) {
            switch (header.name().toLowerCase(Locale.ROOT)) {
                case "content-type", "host", "content-length", "accept-encoding", "connection" -> {
                    // the first stands above, the others are of the way over HTTP
                }
                case "soapaction" ->
                    properties.put(Envelopes.ACTION, header.value().replaceAll("^\"|\"$", ""));
                case "content-encoding" -> properties.put(Envelopes.ENCODING, header.value());
                default -> Envelopes.property(header.name()).ifPresent(name -> properties.put(name, header.value()));
            }
        }
        return properties;
    }

    static String contentType(CallRequest request) {
        return Header.first(request.headers(), "Content-Type").orElse("text/xml; charset=utf-8");
    }

    /**
     * A request as it would be sent, without what the broker adds to it.
     *
     * @param body to be shown with it
     * @throws dev.mockbell.problem.Problem when the address cannot be
     */
    public static JmsMessage shown(CallRequest request, Content body) {
        return shown(request, JmsAddress.of(request.address()), body);
    }

    /** As {@link #shown(CallRequest, Content)}, to an address that was read already. */
    public static JmsMessage shown(CallRequest request, JmsAddress address, Content body) {
        List<Header> headers = new ArrayList<>();
        headers.add(new Header("JMSDeliveryMode", address.isPersistent() ? "PERSISTENT" : "NON_PERSISTENT"));
        headers.add(new Header("JMSPriority", String.valueOf(address.priority().orElse(USUAL_PRIORITY))));
        of(request, address).forEach((name, value) -> headers.add(new Header(name, value)));
        return new JmsMessage("TO " + address.title(), headers, body);
    }
}
