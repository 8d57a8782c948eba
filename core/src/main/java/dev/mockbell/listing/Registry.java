package dev.mockbell.listing;

import dev.mockbell.problem.Problem;
import dev.mockbell.task.StopSignal;
import dev.mockbell.xml.Markup;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.net.URI;
import java.net.URISyntaxException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.w3c.dom.Element;

/**
 * Asks the inquiry interface of a UDDI version 3 registry for all services and what describes them (UDDI 3.0.2 §5.1, and the
 * technical note on WSDL in a registry).
 */
final class Registry {
    private static final String UDDI = "urn:uddi-org:api_v3";
    private static final String SOAP = "http://schemas.xmlsoap.org/soap/envelope/";
    private static final int PAGE = 100;
    private static final int BATCH = 25;
    private static final int MOST = 2_000;

    private final URI inquiry;
    private final SoapPost post;
    private final StopSignal stop;
    private final Map<String, Optional<URI>> models = new HashMap<>();

    Registry(URI inquiry, SoapPost post, StopSignal stop) {
        this.inquiry = inquiry;
        this.post = post;
        this.stop = stop;
    }

    /** @throws Problem when no registry answers there, or it refuses */
    Leads leads() {
        Leads leads = new Leads();
        List<String> keys = services();
        for (int from = 0; from < keys.size(); from += BATCH) {
            List<Element> services = new ArrayList<>();
            Element detail = ask(
                    "get_serviceDetail",
                    "",
                    elements("serviceKey", keys.subList(from, Math.min(keys.size(), from + BATCH))));
            services.addAll(Xml.children(detail, UDDI, "businessService"));
            models(services);
            services.forEach(s -> service(s, leads));
        }
        return leads;
    }

    private List<String> services() {
        Set<String> keys = new LinkedHashSet<>();
        for (int head = 1; keys.size() < MOST; ) {
            Element list = ask(
                    "find_service",
                    " maxRows=\"" + PAGE + "\" listHead=\"" + head + "\"",
                    "<findQualifiers><findQualifier>uddi:uddi.org:findqualifier:approximatematch</findQualifier>"
                            + "</findQualifiers><name>%</name>");
            List<Element> infos = Xml.children(list, UDDI, "serviceInfos").stream()
                    .flatMap(i -> Xml.children(i, UDDI, "serviceInfo").stream())
                    .toList();
            int known = keys.size();
            infos.forEach(i -> keys.add(i.getAttribute("serviceKey")));
            head += infos.size();
            if (infos.isEmpty() || keys.size() == known || head > actual(list).orElse(head - 1)) {
                break;
            }
        }
        return List.copyOf(keys);
    }

    private static Optional<Integer> actual(Element list) {
        return Xml.children(list, UDDI, "listDescription").stream()
                .flatMap(d -> Xml.children(d, UDDI, "actualCount").stream())
                .map(e -> e.getTextContent().strip())
                .filter(t -> t.matches("\\d{1,9}"))
                .map(Integer::parseInt)
                .findFirst();
    }

    private static String elements(String name, List<String> values) {
        return values.stream()
                .map(v -> "<" + name + ">" + Markup.anywhere(v) + "</" + name + ">")
                .collect(Collectors.joining());
    }

    /** Learns where the technical models that services are of are described. */
    private void models(List<Element> services) {
        Set<String> wanted = new LinkedHashSet<>();
        services.forEach(s -> instances(s).forEach(i -> wanted.add(i.getAttribute("tModelKey"))));
        wanted.removeIf(k -> k.isBlank() || models.containsKey(k) || k.startsWith("uddi:uddi.org:"));
        if (wanted.isEmpty()) {
            return;
        }
        wanted.forEach(k -> models.put(k, Optional.empty()));
        try {
            Element detail = ask("get_tModelDetail", "", elements("tModelKey", List.copyOf(wanted)));
            for (Element model : Xml.children(detail, UDDI, "tModel")) {
                models.put(model.getAttribute("tModelKey"), overview(model));
            }
        } catch (Problem oneOfThemIsUnknown) {
            // a registry refuses all when it does not know one; what the services say themselves is left then
            stop.check();
        }
    }

    private static List<Element> instances(Element service) {
        return bindings(service).stream()
                .flatMap(b -> Xml.children(b, UDDI, "tModelInstanceDetails").stream())
                .flatMap(d -> Xml.children(d, UDDI, "tModelInstanceInfo").stream())
                .toList();
    }

    private static List<Element> bindings(Element service) {
        return Xml.children(service, UDDI, "bindingTemplates").stream()
                .flatMap(b -> Xml.children(b, UDDI, "bindingTemplate").stream())
                .toList();
    }

    private void service(Element service, Leads leads) {
        String name = Xml.children(service, UDDI, "name").stream()
                .findFirst()
                .map(e -> e.getTextContent().strip())
                .orElse("");
        for (Element binding : bindings(service)) {
            Optional<Element> access =
                    Xml.children(binding, UDDI, "accessPoint").stream().findFirst();
            Optional<URI> point = access.flatMap(a -> uri(a.getTextContent()));
            boolean deployed = access.filter(a -> a.getAttribute("useType")
                            .toLowerCase(java.util.Locale.ROOT)
                            .endsWith("wsdldeployment"))
                    .isPresent();
            Optional<URI> described = instances(service).stream()
                    .flatMap(i -> Xml.children(i, UDDI, "instanceDetails").stream())
                    .flatMap(d -> overview(d).stream())
                    .findFirst()
                    .or(() -> instances(service).stream()
                            .flatMap(i -> models.getOrDefault(i.getAttribute("tModelKey"), Optional.empty()).stream())
                            .findFirst());
            if (deployed && point.isPresent()) {
                leads.contract(name, point.get(), false);
            } else if (described.isPresent()) {
                leads.contract(name, described.get(), false);
            } else {
                point.flatMap(p -> uri(p.toString().replaceAll("[?#].*", "") + "?wsdl"))
                        .ifPresent(u -> leads.contract(name, u, true));
            }
        }
    }

    /** The WSDL that an overview leads to, without the pointer to a part of it. */
    private static Optional<URI> overview(Element of) {
        return Xml.children(of, UDDI, "overviewDoc").stream()
                .flatMap(d -> Xml.children(d, UDDI, "overviewURL").stream())
                .filter(u -> "wsdlInterface".equals(u.getAttribute("useType"))
                        || u.getTextContent().matches("(?is).*wsdl.*"))
                .flatMap(u -> uri(u.getTextContent().replaceAll("#.*", "")).stream())
                .findFirst();
    }

    private static Optional<URI> uri(String text) {
        try {
            // a registry leads to no file of this machine
            return Optional.of(new URI(text.strip().replace(" ", "%20")))
                    .filter(u -> u.getScheme() != null && u.getScheme().matches("(?i)https?"));
        } catch (URISyntaxException e) {
            return Optional.empty();
        }
    }

    private Element ask(String message, String attributes, String inside) {
        stop.check();
        String envelope = "<s:Envelope xmlns:s=\"" + SOAP + "\"><s:Body><" + message + " xmlns=\"" + UDDI + "\""
                + attributes + ">" + inside + "</" + message + "></s:Body></s:Envelope>";
        byte[] answer = post.post(inquiry, message, envelope.getBytes(StandardCharsets.UTF_8), stop);
        if (answer.length == 0) {
            throw none();
        }
        Element root;
        try {
            root = Xml.parse(answer, "", inquiry.toString(), XmlLimits.MESSAGE).getDocumentElement();
        } catch (Problem noXml) {
            throw none();
        }
        Optional<Element> content = Xml.children(root, SOAP, "Body").stream()
                .flatMap(b -> Xml.children(b).stream())
                .findFirst();
        if (content.filter(c -> "Fault".equals(c.getLocalName())).isPresent()) {
            throw refused(content.get());
        }
        return content.filter(c -> UDDI.equals(c.getNamespaceURI())).orElseThrow(this::none);
    }

    private Problem none() {
        return Problem.input(
                "No UDDI version 3 registry answers there",
                inquiry.toString(),
                "Give the address of its inquiry interface, or of a page that lists services.");
    }

    private Problem refused(Element fault) {
        String said = all(fault, "errInfo").stream()
                .findFirst()
                .map(e -> e.getTextContent().strip())
                .filter(t -> !t.isEmpty())
                .orElseGet(() -> Xml.children(fault).stream()
                        .filter(e -> "faultstring".equals(e.getLocalName()))
                        .map(e -> e.getTextContent().strip())
                        .findFirst()
                        .orElse("it gives no reason"));
        return Problem.input("The registry refuses: " + said, inquiry.toString(), null);
    }

    private static List<Element> all(Element within, String name) {
        List<Element> found = new ArrayList<>();
        var nodes = within.getElementsByTagNameNS(UDDI, name);
        for (int i = 0; i < nodes.getLength(); i++) {
            found.add((Element) nodes.item(i));
        }
        return found;
    }
}
