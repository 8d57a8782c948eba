package dev.mockbell.xml;

import dev.mockbell.content.MediaType;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * How the bytes of an XML document become characters: by the byte order mark, else by the XML declaration, else by the
 * Content-Type it came with, else as UTF-8 (XML 1.0 §4.3.3 and appendix F).
 *
 * @param skip how many bytes of byte order mark stand in front
 * @param doubt what was odd about it, a clause; empty when all agrees
 */
public record TextEncoding(Charset charset, int skip, Optional<String> doubt) {
    private static final Pattern DECLARED =
            Pattern.compile("\\s*<\\?xml\\s[^>]*?encoding\\s*=\\s*[\"']([^\"']+)[\"'][^>]*>");
    private static final Pattern LATE = Pattern.compile("^(\\s+)(<\\?xml\\s[^>]*>)");

    /**
     * Finds the encoding.
     *
     * @param contentType the Content-Type header of the answer that brought it; empty when there is none
     */
    public static TextEncoding of(byte[] bytes, String contentType) {
        if (starts(bytes, 0xEF, 0xBB, 0xBF)) {
            return new TextEncoding(StandardCharsets.UTF_8, 3, Optional.empty());
        }
        if (starts(bytes, 0, 0, 0xFE, 0xFF) || starts(bytes, 0xFF, 0xFE, 0, 0)) {
            return new TextEncoding(Charset.forName(bytes[0] == 0 ? "UTF-32BE" : "UTF-32LE"), 4, Optional.empty());
        }
        if (starts(bytes, 0xFE, 0xFF) || starts(bytes, 0xFF, 0xFE)) {
            boolean big = (bytes[0] & 0xFF) == 0xFE;
            return new TextEncoding(big ? StandardCharsets.UTF_16BE : StandardCharsets.UTF_16LE, 2, Optional.empty());
        }
        Charset wide = wide(bytes);
        return wide != null ? new TextEncoding(wide, 0, Optional.empty()) : narrow(bytes, contentType);
    }

    /** The first characters are markup, so their zero bytes tell the width of a character. */
    private static Charset wide(byte[] bytes) {
        if (starts(bytes, 0, 0, 0, '<')) {
            return Charset.forName("UTF-32BE");
        }
        if (starts(bytes, '<', 0, 0, 0)) {
            return Charset.forName("UTF-32LE");
        }
        if (starts(bytes, 0, '<')) {
            return StandardCharsets.UTF_16BE;
        }
        return starts(bytes, '<', 0) ? StandardCharsets.UTF_16LE : null;
    }

    private static TextEncoding narrow(byte[] bytes, String contentType) {
        boolean ebcdic = starts(bytes, 0x4C, 0x6F, 0xA7, 0x94) && Charset.isSupported("IBM037");
        Charset plain = ebcdic ? Charset.forName("IBM037") : StandardCharsets.ISO_8859_1;
        Matcher declared = DECLARED.matcher(new String(bytes, 0, Math.min(bytes.length, 400), plain));
        Optional<Charset> given = new MediaType(contentType).charset();
        if (!declared.lookingAt()) {
            return new TextEncoding(given.orElse(StandardCharsets.UTF_8), 0, Optional.empty());
        }
        String name = declared.group(1).strip();
        Optional<Charset> known = MediaType.charset(name);
        boolean wideName = name.toUpperCase(Locale.ROOT).matches("UTF-?(16|32).*|UCS-?[24].*|ISO-10646-UCS-[24]");
        if (known.isEmpty() || wideName) {
            Charset used = given.filter(c -> !c.name().matches("UTF-(16|32).*")).orElse(StandardCharsets.UTF_8);
            String why = wideName ? ", but its characters have one byte each" : ", which is not known here";
            return new TextEncoding(
                    used,
                    0,
                    Optional.of("The document declares the encoding " + name + why + "; it is read as " + used));
        }
        return new TextEncoding(known.get(), 0, Optional.empty());
    }

    /**
     * Whether one of several texts may stand in a document, found without decoding all of it.
     *
     * @param common a part that all of the texts share
     */
    public static boolean mentions(byte[] bytes, String common, java.util.Collection<String> texts) {
        String whole = bytes.length > 1 && (bytes[0] == 0 || bytes[1] == 0)
                ? null
                : new String(bytes, StandardCharsets.ISO_8859_1);
        if (whole == null || whole.startsWith("\u00fe\u00ff") || whole.startsWith("\u00ff\u00fe")) {
            return true;
        }
        return whole.contains(common) && texts.stream().anyMatch(whole::contains);
    }

    /** The document's text, without byte order mark. */
    public String decode(byte[] bytes) {
        return new String(bytes, skip, bytes.length - skip, charset);
    }

    /**
     * The bytes with an XML declaration that does not stand at the very beginning blanked out, as some servers write
     * empty lines in front of it; the same array when there is none. Places stay the same.
     */
    byte[] withoutLateDeclaration(byte[] bytes) {
        if (bytes.length <= skip || !Character.isWhitespace(bytes[skip])) {
            return bytes;
        }
        int length = Math.min(bytes.length - skip, 4_096);
        Matcher late = LATE.matcher(new String(bytes, skip, length, StandardCharsets.ISO_8859_1));
        if (!late.find()) {
            return bytes;
        }
        byte[] blanked = bytes.clone();
        Arrays.fill(blanked, skip + late.start(2), skip + late.end(2), (byte) ' ');
        return blanked;
    }

    private static boolean starts(byte[] bytes, int... with) {
        for (int i = 0; i < with.length; i++) {
            if (bytes.length <= i || (bytes[i] & 0xFF) != with[i]) {
                return false;
            }
        }
        return true;
    }
}
