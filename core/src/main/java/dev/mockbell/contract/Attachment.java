package dev.mockbell.contract;

import java.util.List;
import java.util.Locale;

/**
 * A part of a message that travels beside its envelope (WSDL 1.1 §5.4).
 *
 * @param part the name of the message's part
 * @param types the media types that it may be of, which may stand for many ({@code image/*}); empty for any
 */
public record Attachment(String part, List<String> types) {
    public Attachment {
        types = List.copyOf(types);
    }

    /** Whether it may be of a media type, whose parameters do not count. */
    public boolean mayBe(String mediaType) {
        String plain = mediaType.split(";", 2)[0].strip().toLowerCase(Locale.ROOT);
        return types.isEmpty()
                || types.stream()
                        .map(t -> t.split(";", 2)[0].strip().toLowerCase(Locale.ROOT))
                        .anyMatch(t -> t.equals(plain)
                                || t.equals("*")
                                || t.equals("*/*")
                                || t.endsWith("/*") && plain.startsWith(t.substring(0, t.length() - 1)));
    }

    /** The types in words. */
    public String words() {
        return types.isEmpty() ? "of any type" : String.join(" or ", types);
    }
}
