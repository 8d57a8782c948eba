package dev.mockbell.listing;

import dev.mockbell.xml.Location;
import dev.mockbell.xml.TextEncoding;
import java.net.URI;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jsoup.Jsoup;
import org.jsoup.nodes.Document;
import org.jsoup.nodes.Element;

/** What a web page leads to: links to WSDLs, addresses of them in its text, links to services, further lists below it. */
final class PageLeads {
    /** A page of the kind that a server makes of a folder or of its services. */
    private static final Pattern SERVICE = Pattern.compile("(?i).*\\.(asmx|svc|jws)$|.*/services?/[^/]+$");

    private static final Pattern IN_TEXT =
            Pattern.compile("(?i)https?://[^\\s\"'<>()]+(?:\\?(?:single)?wsdl\\b|\\.wsdl\\b)");
    private static final int MOST_TEXT = 1 << 20;

    private final URI page;
    private final Leads leads = new Leads();

    private PageLeads(URI page) {
        this.page = page;
    }

    static Leads of(URI page, byte[] bytes, String contentType) {
        String text = TextEncoding.of(bytes, contentType).decode(bytes);
        Document document = Jsoup.parse(text, page.toString());
        PageLeads found = new PageLeads(page);
        document.select("a[href], area[href], frame[src], iframe[src], link[href]")
                .forEach(found::link);
        String words = document.wholeText();
        Matcher matcher = IN_TEXT.matcher(words.length() > MOST_TEXT ? words.substring(0, MOST_TEXT) : words);
        while (matcher.find()) {
            found.resolve(matcher.group()).ifPresent(u -> found.leads.contract("", u, false));
        }
        return found.leads;
    }

    private void link(Element element) {
        boolean frame = element.tagName().endsWith("frame");
        String to = element.attr(frame ? "src" : "href").strip();
        Optional<URI> address = to.isEmpty() || to.startsWith("#") ? Optional.empty() : resolve(to);
        if (address.isEmpty()) {
            return;
        }
        URI uri = address.get();
        String name = element.text().replaceAll("(?i)^(wsdl|\\?wsdl|service description)$", "");
        String path = uri.getPath() == null ? "" : uri.getPath();
        String query = uri.getQuery() == null ? "" : uri.getQuery();
        if (query.matches("(?i)(single)?wsdl(=.*)?")
                || path.toLowerCase(Locale.ROOT).matches(".*\\.wsdl(\\.xml)?")) {
            leads.contract(name.isEmpty() ? heading(element) : name, uri, false);
        } else if (path.toLowerCase(Locale.ROOT).endsWith(".wsil") || isInspection(element)) {
            leads.listing(uri);
        } else if (query.isEmpty() && SERVICE.matcher(path).matches() && sameServer(uri)) {
            leads.contract(name, URI.create(withoutFragment(uri) + "?wsdl"), true);
        } else if (query.isEmpty() && (frame || path.endsWith("/")) && isBelow(uri)) {
            leads.listing(uri);
        }
    }

    /** How a page says that an inspection document describes it (WS-Inspection 1.0 §4.2). */
    private static boolean isInspection(Element element) {
        return "serviceInspection".equalsIgnoreCase(element.attr("name"))
                || "text/xml".equals(element.attr("type"))
                        && element.attr("href").matches("(?i).*inspection.*");
    }

    /** What stands before a link that is called nothing of its own, in its row or line. */
    private static String heading(Element link) {
        Element row = link.closest("tr, li, dd, p");
        String words = row == null ? "" : row.ownText().isBlank() ? row.text() : row.ownText();
        return words.length() > 60 ? "" : words.replaceAll("(?i)\\s*\\[?wsdl]?\\s*$", "");
    }

    private Optional<URI> resolve(String to) {
        return Location.resolve(page.toString(), to)
                .filter(u -> u.getScheme() != null)
                // a page of the network leads to no file of this machine
                .filter(u -> u.getScheme().matches("https?") || u.getScheme().equals(page.getScheme()));
    }

    private boolean sameServer(URI uri) {
        return String.valueOf(page.getAuthority()).equals(String.valueOf(uri.getAuthority()));
    }

    private boolean isBelow(URI uri) {
        String folder = page.getPath() == null ? "/" : page.getPath().replaceAll("[^/]*$", "");
        String path = uri.getPath() == null ? "" : uri.getPath();
        return sameServer(uri) && path.startsWith(folder) && path.length() > folder.length();
    }

    private static String withoutFragment(URI uri) {
        return uri.toString().replaceAll("#.*", "");
    }
}
