package dev.mockbell.contract;

import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;

/**
 * One document of a contract, byte for byte as it was fetched.
 *
 * @param uri where it was in the end
 * @param requested the address under which it was asked for; the same as {@code uri} without a redirect
 */
public record SourceDocument(String uri, String requested, Kind kind, byte[] bytes) {
    /** What it describes. */
    public enum Kind {
        WSDL,
        XSD
    }

    /** The SHA-256 of the bytes, in lower-case hexadecimal digits. */
    public String sha256() {
        try {
            return HexFormat.of().formatHex(MessageDigest.getInstance("SHA-256").digest(bytes));
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java has SHA-256", e);
        }
    }

    /** The text, decoded by byte order mark or XML declaration; UTF-8 otherwise (XML 1.0 appendix F). */
    public String text() {
        Charset charset = StandardCharsets.UTF_8;
        int skip = 0;
        if (starts(0xEF, 0xBB, 0xBF)) {
            skip = 3;
        } else if (starts(0xFE, 0xFF)) {
            charset = StandardCharsets.UTF_16BE;
            skip = 2;
        } else if (starts(0xFF, 0xFE)) {
            charset = StandardCharsets.UTF_16LE;
            skip = 2;
        } else {
            String head = new String(bytes, 0, Math.min(bytes.length, 200), StandardCharsets.ISO_8859_1);
            java.util.regex.Matcher named = java.util.regex.Pattern.compile(
                            "<\\?xml[^>]*encoding\\s*=\\s*[\"']([A-Za-z0-9._-]+)[\"']")
                    .matcher(head);
            if (named.find() && Charset.isSupported(named.group(1))) {
                charset = Charset.forName(named.group(1));
            }
        }
        return new String(bytes, skip, bytes.length - skip, charset);
    }

    private boolean starts(int... with) {
        for (int i = 0; i < with.length; i++) {
            if (bytes.length <= i || (bytes[i] & 0xFF) != with[i]) {
                return false;
            }
        }
        return true;
    }
}
