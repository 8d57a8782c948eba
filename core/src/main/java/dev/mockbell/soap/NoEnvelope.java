package dev.mockbell.soap;

import dev.mockbell.content.MediaType;
import dev.mockbell.content.Part;
import dev.mockbell.exchange.Message;
import dev.mockbell.inside.Inside;
import dev.mockbell.inside.Kind;
import dev.mockbell.problem.Problem;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Pattern;
import org.w3c.dom.Document;
import org.w3c.dom.Element;

/**
 * What came where a SOAP envelope was due.
 *
 * @param inside what the body is
 * @param document the XML that it is; empty when it is none, or not well-formed
 * @param words what it is, a clause: "the body is a web page titled “Sign in” (text/html)"
 * @param next what helps, sentences; empty when nothing is known to
 */
public record NoEnvelope(Inside inside, Optional<Document> document, String words, String next) {
    private static final int START = 200;
    private static final Pattern SECONDS = Pattern.compile("\\d+");
    private static final String WSDL = "http://schemas.xmlsoap.org/wsdl/";

    /** Looks at a message whose body is no envelope. */
    public static NoEnvelope of(Message message) {
        Part root = message.root();
        Inside inside = Inside.of(root.content(), root.header("Content-Type").orElse(""));
        Optional<Document> document = Optional.empty();
        String what = inside.words();
        String next = "";
        if (inside.kind() == Kind.XML || inside.kind() == Kind.BINARY && isMeantAsXml(root)) {
            try {
                document = Optional.of(
                        Xml.parse(root.content(), root.header("Content-Type").orElse(""), "answer", XmlLimits.MESSAGE));
                Element element = document.get().getDocumentElement();
                boolean wsdl = isWsdl(element);
                what = wsdl ? "a WSDL, not an answer" : "XML, <" + element.getTagName() + ">, not a SOAP envelope";
                next = wsdl ? "The endpoint is a contract's address; the service's is in it." : "";
            } catch (Problem broken) {
                return new NoEnvelope(inside, document, lower(broken.what()) + at(broken), "");
            }
        }
        Optional<String> apart = notInParts(message);
        if (inside.kind() != Kind.EMPTY && apart.isPresent()) {
            return new NoEnvelope(inside, document, apart.get(), "");
        }
        String words = inside.kind() == Kind.EMPTY ? "there is no body" : "the body is " + what + typed(root, inside);
        return new NoEnvelope(inside, document, words, next);
    }

    /** Why a body whose type says that it is in parts is not. */
    private static Optional<String> notInParts(Message message) {
        try {
            message.parts();
            return Optional.empty();
        } catch (Problem notSo) {
            return Optional.of(lower(notSo.what()));
        }
    }

    /** Characters that no XML may have make it look like something else. */
    private static boolean isMeantAsXml(Part root) {
        String type = new MediaType(root.header("Content-Type").orElse("")).name();
        String start = new String(root.content().start(START), StandardCharsets.UTF_8);
        return isXml(type) && start.strip().startsWith("<");
    }

    private static boolean isWsdl(Element element) {
        return WSDL.equals(element.getNamespaceURI()) && "definitions".equals(element.getLocalName())
                || "http://www.w3.org/ns/wsdl".equals(element.getNamespaceURI());
    }

    /** Whether a contract came, as it does from an address that was mistaken for the service's. */
    public boolean isContract() {
        return document.map(Document::getDocumentElement)
                .filter(NoEnvelope::isWsdl)
                .isPresent();
    }

    private static String at(Problem problem) {
        return problem.where().map(w -> " (" + w + ")").orElse("");
    }

    private static String typed(Part root, Inside inside) {
        String type = root.header("Content-Type")
                .map(t -> t.split(";", 2)[0].strip().toLowerCase(Locale.ROOT))
                .orElse("");
        return " (" + (type.isEmpty() ? "without a type" : type) + (isOther(type, inside) ? ", which it is not" : "")
                + ")";
    }

    /** Whether a body is for certain not what its type says. */
    private static boolean isOther(String type, Inside inside) {
        Kind kind = inside.kind();
        boolean text =
                kind == Kind.CSV || kind == Kind.TEXT && !inside.text(START).isBlank();
        boolean xml = isXml(type);
        boolean json = type.endsWith("/json") || type.endsWith("+json");
        return xml && (text || kind == Kind.JSON) || json && (text || kind == Kind.XML || kind == Kind.WEB_PAGE);
    }

    private static boolean isXml(String type) {
        return type.endsWith("/xml") || type.endsWith("+xml");
    }

    /**
     * What the head of an answer says of where to go and what is asked for, clauses: "it leads to …", "it asks for Basic …".
     */
    public static List<String> told(Message message) {
        List<String> told = new ArrayList<>();
        if (message.status() / 100 == 3) {
            message.header("Location").ifPresent(l -> told.add("it leads to " + shown(l)));
        }
        challenge(message, "WWW-Authenticate").ifPresent(c -> told.add("it asks for " + c));
        challenge(message, "Proxy-Authenticate").ifPresent(c -> told.add("the proxy asks for " + c));
        message.header("Retry-After")
                .ifPresent(r -> told.add("it may be asked again after " + shown(r)
                        + (SECONDS.matcher(r.strip()).matches() ? " s" : "")));
        if (message.status() == 405) {
            message.header("Allow").ifPresent(a -> told.add("it allows " + shown(a)));
        }
        return told;
    }

    private static Optional<String> challenge(Message message, String name) {
        List<String> all = message.headers().stream()
                .filter(h -> h.name().equalsIgnoreCase(name))
                .map(h -> shown(h.value()))
                .toList();
        return all.isEmpty() ? Optional.empty() : Optional.of(String.join(" or ", all));
    }

    private static String shown(String value) {
        String line = value.strip().replaceAll("\\p{Cntrl}", "\uFFFD");
        return line.length() > 200 ? line.substring(0, 199) + "…" : line;
    }

    /** What helps with a status, sentences; empty when nothing is known to. */
    public static String help(int status) {
        return switch (status) {
            case 301, 302, 303, 307, 308 -> "It is followed where the case, or --follow, says so.";
            case 401 -> "Give a login by a security profile, or by --user.";
            case 403 -> "Who calls may not do this here; try another login or client certificate.";
            case 404, 410 -> "Check the path of the endpoint.";
            case 405, 501 -> "Check the endpoint; services take POST.";
            case 407 -> "Give the proxy's login by a security profile, or by --proxy-user.";
            case 411 -> "The server wants the length; send without chunks.";
            case 413 -> "The server takes no request of this size.";
            case 415 -> "Try the other version of SOAP, or no compression.";
            case 502, 503, 504 -> "What stands before the service cannot reach it; check that it is up.";
            default -> "";
        };
    }

    private static String lower(String text) {
        boolean name = text.length() > 1 && Character.isUpperCase(text.charAt(1));
        return name ? text : Character.toLowerCase(text.charAt(0)) + text.substring(1);
    }
}
