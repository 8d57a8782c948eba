package dev.mockbell.contract;

import dev.mockbell.xml.TextEncoding;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;

/**
 * One document of a contract, byte for byte as it was fetched.
 *
 * @param uri where it was in the end
 * @param requested the address under which it was asked for; the same as {@code uri} without a redirect
 * @param contentType the Content-Type it came with, which may tell its encoding; empty when none
 */
public record SourceDocument(String uri, String requested, Kind kind, byte[] bytes, String contentType) {
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

    /** The text, decoded as {@link TextEncoding} finds. */
    public String text() {
        return TextEncoding.of(bytes, contentType).decode(bytes);
    }
}
