package dev.mockbell.wire.jms;

import dev.mockbell.problem.Problem;
import java.net.URI;
import java.net.URISyntaxException;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.OptionalLong;
import java.util.Set;

/**
 * An address of the scheme {@code jms} (RFC 6167): {@code jms:queue:trails?jndiURL=tcp://127.0.0.1:61616}.
 *
 * @param parameters what stands behind the question mark, decoded
 */
public record JmsAddress(Variant variant, String destination, Map<String, String> parameters) {
    public static final String SCHEME = "jms";

    /** How the destination is told (RFC 6167 §4). */
    public enum Variant {
        /** The name under which it is looked up. */
        JNDI,
        /** The name of a queue. */
        QUEUE,
        /** The name of a topic. */
        TOPIC;

        /** As in the address. */
        public String code() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    /** What a broker's address may begin with, besides those that are looked up. */
    private static final Set<String> BROKERS = Set.of("tcp", "amqp", "amqps");

    public JmsAddress {
        parameters = Map.copyOf(new LinkedHashMap<>(parameters));
    }

    /** Whether an address is of this scheme. */
    public static boolean is(URI address) {
        return SCHEME.equalsIgnoreCase(address.getScheme());
    }

    /**
     * Reads an address.
     *
     * @throws Problem when it is none, or says what cannot be
     */
    public static JmsAddress of(URI address) {
        String text = address.toString();
        String rest = text.substring(text.indexOf(':') + 1);
        int query = rest.indexOf('?');
        String path = query < 0 ? rest : rest.substring(0, query);
        int colon = path.indexOf(':');
        String kind = colon < 0 ? "" : path.substring(0, colon).toLowerCase(Locale.ROOT);
        Variant variant = switch (kind) {
            case "jndi" -> Variant.JNDI;
            case "queue" -> Variant.QUEUE;
            case "topic" -> Variant.TOPIC;
            default -> throw wrong("It names neither a queue nor a topic", text);
        };
        String destination = decoded(path.substring(colon + 1));
        if (destination.isBlank()) {
            throw wrong("The destination has no name", text);
        }
        Map<String, String> parameters = new LinkedHashMap<>();
        for (String pair : query < 0 ? new String[0] : rest.substring(query + 1).split("&")) {
            int equals = pair.indexOf('=');
            if (equals > 0) {
                parameters.put(decoded(pair.substring(0, equals)), decoded(pair.substring(equals + 1)));
            }
        }
        JmsAddress read = new JmsAddress(variant, destination, parameters);
        read.check(text);
        return read;
    }

    /** As {@link #of(URI)}, of a text. */
    public static JmsAddress of(String address) {
        try {
            return of(new URI(address.strip()));
        } catch (URISyntaxException e) {
            throw Problem.of(
                    Problem.Kind.INPUT, "This is not a well-formed address: " + e.getReason(), address, "Mend it.", e);
        }
    }

    private static Problem wrong(String what, String address) {
        return Problem.input(
                what, address, "Write jms:queue:NAME?jndiURL=tcp://HOST:61616, or jms:topic:NAME or jms:jndi:NAME.");
    }

    private static String decoded(String text) {
        // a plus is a plus here: this is no form
        return URLDecoder.decode(text.replace("+", "%2B"), StandardCharsets.UTF_8);
    }

    private void check(String text) {
        String mode = parameters.getOrDefault("deliveryMode", "PERSISTENT");
        if (!mode.equals("PERSISTENT") && !mode.equals("NON_PERSISTENT")) {
            throw Problem.input(
                    "The delivery mode “" + mode + "” is none", text, "Write PERSISTENT or NON_PERSISTENT.");
        }
        if (priority().isPresent() && (priority().getAsInt() < 0 || priority().getAsInt() > 9)) {
            throw Problem.input("There is no priority " + priority().getAsInt(), text, "They go from 0 to 9.");
        }
        if (timeToLive().isPresent() && timeToLive().getAsLong() < 0) {
            throw Problem.input("The time to live is less than nothing", text, "Give milliseconds; 0 is for ever.");
        }
    }

    /** Where the broker is; empty when the address does not say. */
    public Optional<URI> broker() {
        return parameter("jndiURL").map(u -> {
            try {
                return new URI(u);
            } catch (URISyntaxException e) {
                throw Problem.of(
                        Problem.Kind.INPUT,
                        "The broker's address is not well-formed: " + e.getReason(),
                        u,
                        "Mend it.",
                        e);
            }
        });
    }

    /** The broker's host, for which secrets are held back or given; empty where it is not told. */
    public String host() {
        return broker().map(URI::getHost).orElse("");
    }

    /** Which host an address leads to: that of the broker for one of a queue, its own for any other. */
    public static String hostOf(URI address) {
        return is(address) ? of(address).host() : address.getHost();
    }

    /** Whether it is looked up by names that the user's own provider knows. */
    public boolean isLookedUp() {
        return variant == Variant.JNDI || parameters.containsKey("jndiInitialContextFactory");
    }

    /** Whether the broker speaks a protocol that this program has itself. */
    public boolean isKnownBroker() {
        return broker().map(b -> BROKERS.contains(String.valueOf(b.getScheme()).toLowerCase(Locale.ROOT)))
                .orElse(false);
    }

    public Optional<String> parameter(String name) {
        return Optional.ofNullable(parameters.get(name)).filter(v -> !v.isBlank());
    }

    /** From 0 to 9; empty for the usual one, 4. */
    public OptionalInt priority() {
        return parameter("priority")
                .map(p -> OptionalInt.of((int) number("priority", p)))
                .orElse(OptionalInt.empty());
    }

    /** How long a message is of use, in milliseconds; 0 or empty for ever. */
    public OptionalLong timeToLive() {
        return parameter("timeToLive")
                .map(t -> OptionalLong.of(number("timeToLive", t)))
                .orElse(OptionalLong.empty());
    }

    private static long number(String name, String text) {
        if (!text.matches("-?\\d{1,18}")) {
            throw Problem.input("“" + text + "” is no number", name, "Give a number.");
        }
        return Long.parseLong(text);
    }

    /** Whether the broker keeps messages on its disk until they are taken. */
    public boolean isPersistent() {
        return !"NON_PERSISTENT".equals(parameters.get("deliveryMode"));
    }

    /** Whether a message goes as text; as bytes otherwise. */
    public boolean goesAsText() {
        return "text".equalsIgnoreCase(parameters.getOrDefault("messageType", "bytes"));
    }

    /** The same at another broker. */
    public JmsAddress at(String broker) {
        Map<String, String> other = new LinkedHashMap<>(parameters);
        other.put("jndiURL", broker);
        return new JmsAddress(variant, destination, other);
    }

    /** The address without what only says how it is reached, as the service is told it (SOAP over JMS §2.2.3, requestURI). */
    public String requestUri() {
        return SCHEME + ":" + variant.code() + ":" + destination;
    }

    /** For people: {@code queue trails}. */
    public String title() {
        return (variant == Variant.JNDI ? "destination " : variant.code() + " ") + destination;
    }
}
