package dev.mockbell.contract;

import java.net.URI;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/**
 * What carries the messages of a SOAP binding (WSDL 1.1 §3.3, WSDL 2.0 part 2 §5.2). The envelope does not depend on it.
 *
 * @param uri as the contract gives it; empty when it does not
 * @param kind what it is known to be
 * @param name for people: {@code HTTP}, {@code JMS}; the URI itself where it is not known
 */
public record Transport(Optional<String> uri, Kind kind, String name) {
    /** HTTP, or what a contract means that names none (WS-I Basic Profile 1.2 R2702). */
    public static final Transport HTTP = new Transport(Optional.empty(), Kind.HTTP, "HTTP");

    private static final Map<String, String> OTHERS = others();

    /** Whether a transport is HTTP. */
    public enum Kind {
        HTTP,
        /** Known, and not HTTP. */
        OTHER,
        /** A URI that says nothing here; an HTTP address at a port still says how the service is reached. */
        UNKNOWN
    }

    /** The transport of that URI. */
    public static Transport of(Optional<String> given) {
        Optional<String> uri = given.map(String::strip).filter(u -> !u.isEmpty());
        if (uri.isEmpty()) {
            return HTTP;
        }
        List<String> words = words(uri.get());
        if (!words.isEmpty() && words.get(words.size() - 1).matches("(soap)?https?")) {
            return new Transport(uri, Kind.HTTP, "HTTP");
        }
        for (Map.Entry<String, String> other : OTHERS.entrySet()) {
            if (words.stream().anyMatch(w -> w.equals(other.getKey()) || w.equals("soap" + other.getKey()))) {
                return new Transport(uri, Kind.OTHER, other.getValue());
            }
        }
        return new Transport(uri, Kind.UNKNOWN, uri.get());
    }

    /** Whether messages can be sent by HTTP: always but where the contract says that something else carries them. */
    public boolean byHttp() {
        return kind != Kind.OTHER;
    }

    /** Whether messages go by a queue or topic, by SOAP over Java Message Service 1.0. */
    public boolean byQueue() {
        return kind == Kind.OTHER && "JMS".equals(name);
    }

    /** Whether this program can send its messages. */
    public boolean canBeSent() {
        return byHttp() || byQueue();
    }

    /** As in JSON: the name in small letters, or the URI where it is not known. */
    public String code() {
        return kind == Kind.UNKNOWN ? name : name.toLowerCase(Locale.ROOT);
    }

    /** The words of a URI that may name a transport, in small letters; a host's name says nothing of it. */
    private static List<String> words(String uri) {
        String telling = uri;
        try {
            URI parsed = new URI(uri);
            if (parsed.getHost() != null && String.valueOf(parsed.getScheme()).matches("(?i)https?")) {
                telling = parsed.getRawPath() + " " + String.valueOf(parsed.getRawFragment());
            }
        } catch (java.net.URISyntaxException e) {
            telling = uri;
        }
        return Arrays.stream(telling.toLowerCase(Locale.ROOT).split("[^\\p{L}\\p{N}]+"))
                .filter(w -> !w.isEmpty() && !"null".equals(w) && !w.matches("[0-9]+"))
                .toList();
    }

    private static Map<String, String> others() {
        Map<String, String> names = new LinkedHashMap<>();
        names.put("jms", "JMS");
        names.put("smtp", "SMTP");
        names.put("mail", "SMTP");
        names.put("email", "SMTP");
        names.put("tcp", "TCP");
        names.put("udp", "UDP");
        names.put("ftp", "FTP");
        names.put("amqp", "AMQP");
        names.put("mqtt", "MQTT");
        names.put("xmpp", "XMPP");
        names.put("beep", "BEEP");
        names.put("websocket", "WebSocket");
        names.put("msmq", "MSMQ");
        names.put("mq", "MQ");
        names.put("pipe", "named pipe");
        names.put("namedpipe", "named pipe");
        names.put("corba", "CORBA");
        names.put("iiop", "IIOP");
        names.put("rmi", "RMI");
        names.put("vm", "VM");
        return names;
    }
}
