package dev.mockbell.contract;

import dev.mockbell.xml.Xml;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.w3c.dom.Element;

/**
 * The address of a port over queues, with what the WSDL says of it beside: on the port before the service before the binding, and
 * what the address itself says before all (SOAP over Java Message Service 1.0 §3.4).
 */
final class QueueAddress {
    private static final String NAMESPACE = "http://www.w3.org/2010/soapjms/";

    /** Properties of the binding that are parameters of an address (RFC 6167 §4). */
    private static final List<String> PARAMETERS = List.of(
            "jndiConnectionFactoryName",
            "jndiInitialContextFactory",
            "jndiURL",
            "deliveryMode",
            "priority",
            "timeToLive",
            "replyToName",
            "topicReplyToName",
            "targetService");

    private QueueAddress() {}

    /** The whole address; empty where neither the address nor the properties say one. */
    static Optional<String> of(Optional<String> location, Element binding, Element service, Element port) {
        Map<String, String> said = new LinkedHashMap<>();
        Map<String, String> context = new LinkedHashMap<>();
        for (Element holder : List.of(binding, service, port)) {
            for (Element property : Xml.children(holder)) {
                if (NAMESPACE.equals(property.getNamespaceURI())) {
                    if ("jndiContextParameter".equals(property.getLocalName())) {
                        context.put("jndi-" + property.getAttribute("name"), property.getAttribute("value"));
                    } else {
                        said.put(
                                property.getLocalName(),
                                property.getTextContent().strip());
                    }
                }
            }
        }
        String address = location.orElseGet(() -> said.containsKey("destinationName")
                ? "jms:" + said.getOrDefault("lookupVariant", "jndi") + ":" + said.get("destinationName")
                : "");
        if (!address.startsWith("jms:")) {
            return location;
        }
        Map<String, String> missing = new LinkedHashMap<>();
        PARAMETERS.stream().filter(said::containsKey).forEach(p -> missing.put(p, said.get(p)));
        missing.putAll(context);
        missing.keySet().removeIf(p -> address.matches(".*[?&]" + java.util.regex.Pattern.quote(p) + "=.*"));
        String more = missing.entrySet().stream()
                .map(p -> p.getKey() + "=" + encoded(p.getValue()))
                .collect(Collectors.joining("&"));
        return Optional.of(more.isEmpty() ? address : address + (address.indexOf('?') < 0 ? "?" : "&") + more);
    }

    private static String encoded(String value) {
        return URLEncoder.encode(value, StandardCharsets.UTF_8)
                .replace("+", "%20")
                .replace("%3A", ":")
                .replace("%2F", "/");
    }
}
