package dev.mockbell.redact;

import dev.mockbell.content.HttpHead;
import dev.mockbell.xml.Markup;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Base64;
import java.util.Comparator;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Masks credentials: what headers, addresses and WS-Security carry of them by their nature, and the values of secrets in
 * every encoding in which a message may hold them: plain, as XML, JSON and percent-encoded text, in hexadecimal and within
 * base64 at any offset. Immutable; safe for many threads.
 */
public final class Redactor {
    /** What stands in place of a credential. */
    public static final String MASK = "•••";

    /** Knows no values, only the places where credentials stand. */
    public static final Redactor USUAL = new Redactor(Map.of());

    /** A value of one character would make every text unreadable and hide nothing. */
    private static final int SHORTEST = 2;

    /** So much of a base64 text must be the value's alone to be taken for it. */
    private static final int SHORTEST_ENCODED = 6;

    private static final Pattern CREDENTIAL_HEADER = Pattern.compile(
            "(?i)(proxy-)?authorization|(set-)?cookie2?|.*(api-?key|token|secret|password|credential).*");
    /** As lenient as who reads it: a field may go on in the next line. */
    private static final Pattern HEADER_LINE = Pattern.compile(
            "(?m)^([!#$%&'*+.^_`|~0-9A-Za-z-]+)([ \\t]*:[ \\t]*)([^\\r\\n]*+(?:\\r?\\n[ \\t][^\\r\\n]*+)*+)");

    private static final Pattern SCHEME =
            Pattern.compile("(?i)(Basic|Bearer|Digest|Negotiate|NTLM|AWS4-HMAC-SHA256)\\s+\\S.*");
    /** Stands for whatever begins a value that is masked as a whole. */
    private static final String OPEN_VALUE = "<Password>";

    private static final Pattern LOGIN = Pattern.compile("(?i)\\b([a-z][a-z0-9+.-]*://)([^/?#@\\s<>\"']*)@");
    private static final Pattern SECURITY =
            Pattern.compile("(?s)<(?:([\\w.-]+):)?Security[\\s>].*?(</(?:\\1:)?Security\\s*>|\\z)");
    private static final Pattern PASSWORD = Pattern.compile(
            "(?s)(<(?:[\\w.-]+:)?(?:Password|BinarySecurityToken)(?:\\s[^<>]*)?(?<!/)>)(.*?)(</(?:[\\w.-]+:)?(?:Password|BinarySecurityToken)\\s*>|\\z)");

    private final Map<String, String> secrets;
    private final List<String> forms;

    private Redactor(Map<String, String> secrets) {
        this.secrets = secrets;
        Set<String> all = new LinkedHashSet<>();
        secrets.values().stream().filter(v -> v.length() >= SHORTEST).forEach(v -> forms(v, all));
        // the longest first, or a short one would break up a long one that holds it
        this.forms = all.stream()
                .sorted(Comparator.comparingInt(String::length).reversed())
                .toList();
    }

    /** @param secrets values by name */
    public static Redactor of(Map<String, String> secrets) {
        return secrets.isEmpty() ? USUAL : new Redactor(new LinkedHashMap<>(secrets));
    }

    private static void forms(String value, Set<String> into) {
        into.addAll(Markup.forms(value));
        into.add(value.replace("\\", "\\\\").replace("\"", "\\\""));
        into.add(value.replace("\\", "\\\\").replace("\"", "\\\"").replace("/", "\\/"));
        String percent = percentEncoded(value);
        into.add(percent);
        into.add(percent.replace("%20", "+"));
        into.add(percent.toLowerCase(Locale.ROOT));
        byte[] bytes = value.getBytes(StandardCharsets.UTF_8);
        if (bytes.length >= 4) {
            into.add(HexFormat.of().formatHex(bytes));
            into.add(HexFormat.of().withUpperCase().formatHex(bytes));
        }
        for (int offset = 0; offset < 3; offset++) {
            String core = base64(bytes, offset);
            if (core.length() >= SHORTEST_ENCODED) {
                into.add(core);
                into.add(core.replace('+', '-').replace('/', '_'));
            }
        }
    }

    /** What is in a base64 text whatever stands around the value, when the value starts at a place of its group of three. */
    private static String base64(byte[] bytes, int offset) {
        byte[] padded = new byte[offset + bytes.length];
        System.arraycopy(bytes, 0, padded, offset, bytes.length);
        String all = Base64.getEncoder().withoutPadding().encodeToString(padded);
        int from = offset == 0 ? 0 : offset + 1;
        int to = padded.length % 3 == 0 ? all.length() : all.length() - 1;
        return from < to ? all.substring(from, to) : "";
    }

    /** Unreserved characters stay (RFC 3986 §2.3). */
    private static String percentEncoded(String value) {
        StringBuilder out = new StringBuilder();
        for (byte b : value.getBytes(StandardCharsets.UTF_8)) {
            char c = (char) (b & 0xFF);
            if (c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c >= '0' && c <= '9' || "-._~".indexOf(c) >= 0) {
                out.append(c);
            } else {
                out.append('%').append(HexFormat.of().withUpperCase().toHexDigits(b));
            }
        }
        return out.toString();
    }

    /** A text with the values of secrets masked, and the logins of addresses in it. */
    public String text(String text) {
        return values(logins(text));
    }

    private String values(String text) {
        String shown = text;
        for (String form : forms) {
            shown = shown.replace(form, MASK);
        }
        return shown;
    }

    private static String logins(String text) {
        return text.indexOf('@') < 0 ? text : LOGIN.matcher(text).replaceAll("$1" + MASK + "@");
    }

    /** An address without what is before the {@code @} of its authority (RFC 3986 §3.2.1). */
    public static String withoutLogin(String address) {
        return address.indexOf('@') < 0 ? address : LOGIN.matcher(address).replaceAll("$1");
    }

    /** The value of a header; of credentials the scheme alone stays. */
    public String header(String name, String value) {
        if (!CREDENTIAL_HEADER.matcher(name).matches() || value.isBlank()) {
            return text(value);
        }
        Matcher scheme = SCHEME.matcher(value.strip());
        return scheme.matches() ? scheme.group(1) + " " + MASK : MASK;
    }

    /** An XML message: values of secrets, logins of addresses, and what WS-Security holds of passwords and tokens. */
    public String message(String xml) {
        return message("", xml);
    }

    /**
     * As {@link #message(String)}, for a piece of a message that is longer than one would take at once.
     *
     * @param open what {@link #open} says of the pieces before it
     */
    public String message(String open, String piece) {
        String shown = security(open + piece).substring(open.length());
        // a value that goes on in this piece is masked where it begins
        return text(open.endsWith(OPEN_VALUE) ? shown.substring(MASK.length()) : shown);
    }

    /**
     * What of a security header is open where a piece of a message ends, so that the next is masked as it would be behind it.
     *
     * @param open what was open where this one begins; empty for nothing
     */
    public String open(String open, String piece) {
        String text = open + piece;
        String left = "";
        Matcher security = SECURITY.matcher(text.contains("Security") ? text : "");
        while (security.find()) {
            left = "";
            if (security.group(2).isEmpty()) {
                left = "<" + (security.group(1) == null ? "" : security.group(1) + ":") + "Security>";
                Matcher value = PASSWORD.matcher(security.group());
                boolean goesOn = false;
                while (value.find()) {
                    goesOn = value.group(3).isEmpty();
                }
                left += goesOn ? OPEN_VALUE : "";
            }
        }
        return left;
    }

    private static String security(String xml) {
        if (!xml.contains("Security")) {
            return xml;
        }
        StringBuilder out = new StringBuilder();
        Matcher security = SECURITY.matcher(xml);
        while (security.find()) {
            String masked = PASSWORD.matcher(security.group()).replaceAll("$1" + MASK + "$3");
            security.appendReplacement(out, Matcher.quoteReplacement(masked));
        }
        return security.appendTail(out).toString();
    }

    /** A whole HTTP message as it went over the wire: its headers, then its body as a message. */
    public String wire(String text) {
        int end = HttpHead.of(text).map(HttpHead::end).orElse(text.length());
        String head = text.substring(0, end);
        StringBuilder out = new StringBuilder();
        Matcher line = HEADER_LINE.matcher(head);
        while (line.find()) {
            String value = header(line.group(1), line.group(3));
            line.appendReplacement(out, Matcher.quoteReplacement(line.group(1) + line.group(2) + value));
        }
        line.appendTail(out);
        return message(out.append(text, end, text.length()).toString());
    }

    /**
     * A text that is to be kept, with an expression in place of each secret, so that the value does not end up in a file.
     *
     * @param text with its braces doubled already
     */
    public String unfilled(String text) {
        String kept = text;
        List<Map.Entry<String, String>> longest = new ArrayList<>(secrets.entrySet());
        longest.sort(Comparator.comparingInt(
                        (Map.Entry<String, String> e) -> e.getValue().length())
                .reversed());
        for (Map.Entry<String, String> secret : longest) {
            String value = secret.getValue().replace("{", "{{").replace("}", "}}");
            if (value.length() >= SHORTEST) {
                String expression = "{$secret:" + secret.getKey() + "}";
                for (String form : Markup.forms(value)) {
                    kept = kept.replace(form, expression);
                }
            }
        }
        return kept;
    }
}
