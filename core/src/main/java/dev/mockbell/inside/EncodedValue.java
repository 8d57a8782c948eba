package dev.mockbell.inside;

import dev.mockbell.content.Content;
import java.nio.charset.StandardCharsets;
import java.util.Base64;
import java.util.HexFormat;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A value of a message that holds something of its own.
 *
 * @param coding how its bytes are written in the value
 */
public record EncodedValue(Coding coding, Inside inside) {
    /** What is shorter says nothing beyond itself. */
    private static final int SHORTEST = 12;

    /** How much of a value by look alone is tried; one that does not hold to its alphabet there does not later. */
    private static final int TRIED = 4_096;

    /** So much of an address may come before its bytes. */
    private static final int LONGEST_TYPE = 400;

    private static final Pattern DATA = Pattern.compile("(?i)data:([^,]*?);base64,");

    /** How bytes are written as text. */
    public enum Coding {
        /** They are the text. */
        NONE("text"),
        /** RFC 4648 §4, or §5 where it has the signs of that. */
        BASE64("base64"),
        /** Two digits a byte. */
        HEX("hex");

        private final String title;

        Coding(String title) {
            this.title = title;
        }

        public String title() {
            return title;
        }
    }

    /**
     * What a value of a declared type holds.
     *
     * @param primitive the name of the primitive type that its type stems from, such as {@code base64Binary}
     * @return empty when it is a value like any other, or not written as its type demands
     */
    public static Optional<EncodedValue> of(String value, String primitive) {
        return switch (primitive) {
            case "base64Binary" -> base64(value, "").map(c -> new EncodedValue(Coding.BASE64, c));
            case "hexBinary" -> hex(value).map(c -> new EncodedValue(Coding.HEX, c));
            case "anyURI" -> data(value.strip());
            case "string", "anySimpleType", "anyAtomicType", "anyType", "" -> byLook(value);
            default -> Optional.empty();
        };
    }

    /** What a value that is said to hold something holds, whatever its type. */
    public static Optional<EncodedValue> within(String value) {
        return of(value, "").or(() -> of(value, "base64Binary")).or(() -> of(value, "hexBinary"));
    }

    /** The bytes of an address that holds them itself, in base64 (RFC 2397). */
    private static Optional<EncodedValue> data(String text) {
        Matcher address = DATA.matcher(text.substring(0, Math.min(text.length(), LONGEST_TYPE)));
        return address.lookingAt()
                ? base64(text.substring(address.end()), address.group(1)).map(i -> new EncodedValue(Coding.BASE64, i))
                : Optional.empty();
    }

    /** What a value of which only the text is known may hold. */
    static Optional<EncodedValue> byLook(String value) {
        String text = value.strip();
        if (text.length() < SHORTEST) {
            return Optional.empty();
        }
        Optional<EncodedValue> data = data(text);
        if (data.isPresent()) {
            return data;
        }
        char first = text.charAt(0);
        if (first == '<' || first == '{' || first == '[' || text.indexOf('\n') > 0) {
            return Optional.of(Inside.of(Content.of(text.getBytes(StandardCharsets.UTF_8)), "; charset=utf-8"))
                    .filter(i -> i.kind() != Kind.TEXT && i.kind() != Kind.BINARY)
                    .map(i -> new EncodedValue(Coding.NONE, i))
                    .or(() -> coded(text));
        }
        return coded(text);
    }

    private static Optional<EncodedValue> coded(String text) {
        String start = text.substring(0, Math.min(text.length(), TRIED));
        if (start.matches("[0-9A-Fa-f\\s]+") && !start.matches("[0-9\\s]+")) {
            Optional<EncodedValue> hex = hex(text)
                    .filter(i -> i.kind() != Kind.BINARY && i.content().size() >= SHORTEST)
                    .map(i -> new EncodedValue(Coding.HEX, i));
            if (hex.isPresent()) {
                return hex;
            }
        }
        // a word of letters alone may be base64 by chance, but then of bytes that are nothing, and hardly of whole
        // groups
        return start.matches("[A-Za-z0-9+/=_\\s-]+") && tight(text).length() % 4 == 0
                ? base64(text, "")
                        .filter(i -> i.kind() != Kind.BINARY && i.content().size() >= SHORTEST)
                        .map(i -> new EncodedValue(Coding.BASE64, i))
                : Optional.empty();
    }

    /** @param contentType what the value is said to hold; empty when nothing is said */
    private static Optional<Inside> base64(String value, String contentType) {
        String tight = tight(value);
        if (tight.isEmpty()) {
            return Optional.empty();
        }
        boolean url = tight.indexOf('-') >= 0 || tight.indexOf('_') >= 0;
        try {
            byte[] bytes = (url ? Base64.getUrlDecoder() : Base64.getDecoder()).decode(tight);
            return Optional.of(Inside.of(Content.of(bytes), contentType));
        } catch (IllegalArgumentException notBase64) {
            return Optional.empty();
        }
    }

    private static Optional<Inside> hex(String value) {
        String tight = tight(value);
        if (tight.isEmpty() || tight.length() % 2 != 0) {
            return Optional.empty();
        }
        try {
            return Optional.of(Inside.of(Content.of(HexFormat.of().parseHex(tight))));
        } catch (IllegalArgumentException notHex) {
            return Optional.empty();
        }
    }

    private static String tight(String value) {
        StringBuilder out = new StringBuilder(value.length());
        for (int i = 0; i < value.length(); i++) {
            char c = value.charAt(i);
            if (c > ' ') {
                out.append(c);
            }
        }
        return out.toString();
    }

    /** What a chip on the row says: "CSV, 214 rows"; where the bytes are nothing known, how they are written and how many. */
    public String words() {
        return inside.kind() == Kind.BINARY ? coding.title() + ", " + Inside.size(inside.content()) : inside.words();
    }

    /** What is within what is packed in it, however often; itself when nothing is. */
    public Inside unpacked() {
        Inside at = inside;
        for (int i = 0; i < 3 && at.kind() == Kind.GZIP; i++) {
            at = Inside.of(Packed.gunzipped(at.content()));
        }
        return at;
    }
}
