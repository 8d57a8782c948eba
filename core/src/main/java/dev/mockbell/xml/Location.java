package dev.mockbell.xml;

import java.net.URI;
import java.net.URISyntaxException;
import java.util.Locale;
import java.util.Optional;

/** Finds out where a reference from one document to another leads. */
public final class Location {
    private static final String UNSAFE = " \"<>[]^`{|}";

    private Location() {}

    /**
     * The address that a location means, seen from the document that has it (RFC 3986 §5). Spaces, backslashes and other
     * characters that authors write and addresses must escape are forgiven.
     *
     * @return empty when no address can be made of it
     */
    public static Optional<URI> resolve(String base, String location) {
        String text = legal(location.strip());
        if (text.matches("(?i)[a-z]:/.*")) {
            text = "file:/" + text;
        }
        try {
            if (text.startsWith("?")) {
                return Optional.of(canonical(new URI(base.replaceAll("[?#].*", "") + text)));
            }
            return Optional.of(canonical(new URI(base).resolve(new URI(text)).normalize()));
        } catch (URISyntaxException | IllegalArgumentException notAnAddress) {
            return Optional.empty();
        }
    }

    /** One way of writing an address of a file, of which Java has two. */
    public static URI canonical(URI uri) {
        return URI.create(uri.toString().replaceFirst("^file:/(?!/)", "file:///"));
    }

    private static String legal(String location) {
        StringBuilder legal = new StringBuilder();
        // brackets are at home in the host of an address of IP version 6 (RFC 3986 §3.2.2)
        String unsafe = location.matches("(?i)[a-z][a-z0-9+.-]*://\\[.*") ? UNSAFE.replaceAll("[\\[\\]]", "") : UNSAFE;
        for (int i = 0; i < location.length(); i++) {
            char c = location.charAt(i);
            boolean escaped = c == '%' && location.substring(i).matches("(?s)%[0-9A-Fa-f]{2}.*");
            if (c == '\\') {
                legal.append('/');
            } else if (unsafe.indexOf(c) >= 0 || c == '%' && !escaped) {
                legal.append('%').append(String.format(Locale.ROOT, "%02X", (int) c));
            } else {
                legal.append(c);
            }
        }
        return legal.toString();
    }
}
