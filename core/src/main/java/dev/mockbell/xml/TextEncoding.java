package dev.mockbell.xml;

import dev.mockbell.content.MediaType;
import java.nio.ByteBuffer;
import java.nio.CharBuffer;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * How the bytes of an XML document become characters: by the byte order mark, else by the charset of the Content-Type it came
 * with, else by the XML declaration, else as UTF-8 (RFC 7303 §3, XML 1.0 §4.3.3 and appendix F). A charset that the first bytes
 * show to be wrong, since their characters are wider or narrower, is passed over, and so is one that is not known here. A page
 * or text that came in the place of XML and names no charset is read as browsers do.
 *
 * @param skip how many bytes of byte order mark stand in front
 * @param doubt what was odd about it, a clause; empty when all agrees
 */
public record TextEncoding(Charset charset, int skip, Optional<String> doubt) {
    private static final Pattern DECLARED =
            Pattern.compile("\\s*<\\?xml\\s[^>]*?encoding\\s*=\\s*[\"']([^\"']+)[\"'][^>]*>");
    private static final Pattern WIDE = Pattern.compile("UTF-?(16|32).*|UCS-?[24].*|ISO-10646-UCS-[24]");
    private static final Pattern PAGE =
            Pattern.compile("<meta\\s[^>]*?charset\\s*=\\s*[\"']?\\s*([\\w:.-]+)", Pattern.CASE_INSENSITIVE);

    /** As the HTML standard has it (§13.2.3.2), of which this is the usual fallback too. */
    private static final int PAGE_LOOKED_AT = 1_024;

    /** Bytes that windows-1252 has no character for. */
    private static final String UNDEFINED = "\u0081\u008d\u008f\u0090\u009d";

    private static final int LEAST_TEXT = 8;

    /** One character in so many may be beyond ASCII. */
    private static final int MOST_BEYOND = 4;

    private static final Charset WESTERN = Charset.forName("windows-1252");
    private static final Pattern VERSION = Pattern.compile("\\s*<\\?xml\\s+version\\s*=\\s*[\"']([^\"']*)[\"']");
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
        return wide != null ? wide(wide, contentType) : narrow(bytes, contentType);
    }

    private static TextEncoding wide(Charset found, String contentType) {
        Optional<String> named = new MediaType(contentType)
                .parameter("charset")
                .filter(n -> !WIDE.matcher(n.toUpperCase(Locale.ROOT)).matches());
        return new TextEncoding(
                found, 0, named.map(n -> doubt("Content-Type names", n, "but its characters are wider", found)));
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
        Matcher declaration = DECLARED.matcher(new String(bytes, 0, Math.min(bytes.length, 400), plain));
        Optional<String> declared =
                declaration.lookingAt() ? Optional.of(declaration.group(1).strip()) : Optional.empty();
        MediaType type = new MediaType(contentType);
        Optional<String> named = type.parameter("charset").filter(n -> !n.isBlank());
        if (named.isEmpty()
                && declared.isEmpty()
                && type.name().startsWith("text/")
                && !type.name().endsWith("/xml")) {
            return plain(bytes, type);
        }
        // the first bytes are of that family for certain, whatever a header that was written for another text says
        Optional<Charset> given = named.flatMap(TextEncoding::narrow).filter(c -> !ebcdic || isEbcdic(c));
        Optional<Charset> own = declared.flatMap(TextEncoding::narrow);
        Charset used = given.or(() -> own).orElse(ebcdic ? plain : StandardCharsets.UTF_8);
        Optional<String> doubt = named.filter(n -> given.isEmpty())
                .map(n -> doubt("Content-Type names", n, why(n), used))
                .or(() -> declared.filter(d -> own.isEmpty()).map(d -> doubt("document declares", d, why(d), used)))
                .or(() -> declared.filter(d -> !own.get().equals(used))
                        .map(d -> doubt("document declares", d, "its Content-Type " + named.get(), used)));
        return new TextEncoding(used, 0, doubt);
    }

    /** A text that is no XML and says nothing of itself: what a page says within, else UTF-8, else what most others are in. */
    private static TextEncoding plain(byte[] bytes, MediaType type) {
        Matcher page =
                PAGE.matcher(new String(bytes, 0, Math.min(bytes.length, PAGE_LOOKED_AT), StandardCharsets.ISO_8859_1));
        Optional<Charset> said =
                type.name().equals("text/html") && page.find() ? narrow(page.group(1)) : Optional.empty();
        return new TextEncoding(said.orElse(isUtf8(bytes) ? StandardCharsets.UTF_8 : WESTERN), 0, Optional.empty());
    }

    /** Whether nothing speaks against it; a character at the end may be cut. */
    private static boolean isUtf8(byte[] bytes) {
        CharBuffer text = CharBuffer.allocate(bytes.length);
        return !StandardCharsets.UTF_8
                .newDecoder()
                .decode(ByteBuffer.wrap(bytes), text, false)
                .isError();
    }

    /**
     * How bytes of which nothing is said, and which are no UTF-8, become characters where they can hardly be anything but text of
     * Western Europe: letters and punctuation, a few of them beyond ASCII.
     *
     * @param start of the bytes
     * @return empty where they may as well be anything
     */
    public static Optional<TextEncoding> western(byte[] start) {
        int beyond = 0;
        for (byte b : start) {
            int c = b & 0xFF;
            boolean control = c < ' ' && c != '\t' && c != '\n' && c != '\r' && c != '\f' || c == 0x7F;
            if (control || UNDEFINED.indexOf(c) >= 0) {
                return Optional.empty();
            }
            beyond += c > 0x7F ? 1 : 0;
        }
        long replaced = new String(start, StandardCharsets.UTF_8)
                .chars()
                .filter(c -> c == 0xFFFD)
                .count();
        // of UTF-8 that is spoilt in one place all others are right
        boolean likely = start.length >= LEAST_TEXT && beyond * MOST_BEYOND <= start.length && replaced * 2 > beyond;
        return likely ? Optional.of(new TextEncoding(WESTERN, 0, Optional.empty())) : Optional.empty();
    }

    private static Optional<Charset> narrow(String name) {
        return WIDE.matcher(name.toUpperCase(Locale.ROOT)).matches() ? Optional.empty() : MediaType.charset(name);
    }

    private static boolean isEbcdic(Charset charset) {
        return charset.canEncode() && "<".getBytes(charset)[0] == 0x4C;
    }

    private static String why(String name) {
        boolean wide = WIDE.matcher(name.toUpperCase(Locale.ROOT)).matches();
        return wide ? "but its characters have one byte each" : "which is not known here";
    }

    private static String doubt(String who, String name, String why, Charset used) {
        return "The " + who + " the encoding " + name + ", " + why + "; it is read as " + used;
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

    /** A document's text without what its declaration says of another encoding, since it is to be written as UTF-8. */
    String inUtf8(String text) {
        Matcher declared = DECLARED.matcher(text);
        boolean other = !charset.equals(StandardCharsets.UTF_8)
                || declared.lookingAt() && !narrow(declared.group(1).strip()).equals(Optional.of(charset));
        return other && declared.lookingAt()
                ? text.substring(0, declared.start(1)) + "UTF-8" + text.substring(declared.end(1))
                : text;
    }

    /**
     * A document's bytes in UTF-8; the same array where they are that already.
     *
     * @param contentType the Content-Type that it came with; empty when there is none
     */
    public static byte[] inUtf8(byte[] bytes, String contentType) {
        TextEncoding encoding = of(bytes, contentType);
        return encoding.charset().equals(StandardCharsets.UTF_8)
                ? bytes
                : encoding.inUtf8(encoding.decode(bytes)).getBytes(StandardCharsets.UTF_8);
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

    /** Whether the XML declaration does not stand at the very beginning, as XML 1.0 §2.8 demands. */
    public boolean isDeclaredLate(byte[] start) {
        return withoutLateDeclaration(start) != start;
    }

    /** The version of XML that a document declares (XML 1.0 §2.8); empty when it has no declaration. */
    public Optional<String> version(byte[] start) {
        Matcher declared = VERSION.matcher(decode(start));
        return declared.lookingAt() ? Optional.of(declared.group(1)) : Optional.empty();
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
