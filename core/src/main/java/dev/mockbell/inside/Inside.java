package dev.mockbell.inside;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import com.fasterxml.jackson.core.StreamReadConstraints;
import dev.mockbell.content.Content;
import dev.mockbell.xml.TextEncoding;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.Iterator;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javax.imageio.ImageIO;
import javax.imageio.ImageReader;
import javax.imageio.stream.ImageInputStream;
import javax.imageio.stream.MemoryCacheImageInputStream;

/**
 * What bytes are, found by looking at their start, at most {@value #LOOKED_AT} of them; only CSV is read to its end, when it is
 * not longer than {@value #COUNTED}.
 *
 * @param words for people, a noun: "CSV, 214 rows", "PNG 640×480", "gzip of XML", "a web page titled “Sign in”"
 * @param charset of the text; that of UTF-8 for what is none
 * @param skip how many bytes of byte order mark stand in front of the text
 */
public record Inside(Kind kind, String words, Content content, Charset charset, int skip) {
    static final int LOOKED_AT = 16 * 1024;
    static final int COUNTED = 4 << 20;

    /** Pictures keep their size behind what cameras write. */
    private static final int PICTURE_HEAD = 256 * 1024;

    private static final Pattern PROLOG = Pattern.compile("(?s)\\s*(?:<\\?.*?\\?>\\s*|<!--.*?-->\\s*)*+");
    private static final Pattern TITLE = Pattern.compile("(?is)<title[^>]*>(.*?)</title\\s*>");
    private static final Pattern NUMERIC = Pattern.compile("&#([xX][0-9a-fA-F]{1,6}|\\d{1,7});");
    private static final Pattern PAGE =
            Pattern.compile("(?is)<(?:!doctype\\s+html|html[\\s>]|head[\\s>]|body[\\s>]).*");

    /** What servers say in haste, without the rest of a page. */
    private static final Pattern PIECE = Pattern.compile("(?i)<(?:h[1-6]|br|hr|center|font)(?:\\s[^>]*)?/?>");

    private static final Pattern ELEMENT = Pattern.compile("(?s)<(?:!DOCTYPE|[\\p{L}_]).*");
    private static final Pattern NAME = Pattern.compile("(?s)<([\\p{L}_][^\\s/>]*)");
    private static final JsonFactory JSON = JsonFactory.builder()
            .streamReadConstraints(
                    StreamReadConstraints.builder().maxNestingDepth(1_000).build())
            .build();

    /** Looks at bytes of which nothing is said. */
    public static Inside of(Content content) {
        return of(content, "");
    }

    /**
     * Looks at bytes.
     *
     * @param contentType the Content-Type that they came with, which tells the encoding of a text; empty when there is none
     */
    public static Inside of(Content content, String contentType) {
        byte[] start = content.start(LOOKED_AT);
        TextEncoding encoding = TextEncoding.of(start, contentType);
        if (start.length == 0) {
            return new Inside(Kind.EMPTY, "nothing", content, encoding.charset(), 0);
        }
        return binary(start, content, encoding).orElseGet(() -> text(start, content, encoding));
    }

    private static Optional<Inside> binary(byte[] start, Content content, TextEncoding encoding) {
        Kind kind = magic(start);
        if (kind == null) {
            return Optional.empty();
        }
        String words = switch (kind) {
            case PDF -> "PDF, " + size(content);
            case ZIP -> Packed.words(content);
            case GZIP ->
                "gzip of " + Packed.unzipped(content).map(i -> i.words()).orElse("something spoilt");
            default -> picture(kind, content);
        };
        return Optional.of(new Inside(kind, words, content, encoding.charset(), 0));
    }

    private static Kind magic(byte[] start) {
        String first = new String(start, 0, Math.min(start.length, 8), StandardCharsets.ISO_8859_1);
        if (first.startsWith("\u0089PNG\r\n\u001a\n")) {
            return Kind.PNG;
        }
        if (first.startsWith("\u00ff\u00d8\u00ff")) {
            return Kind.JPEG;
        }
        if (first.startsWith("GIF87a") || first.startsWith("GIF89a")) {
            return Kind.GIF;
        }
        if (first.startsWith("%PDF-")) {
            return Kind.PDF;
        }
        if (first.startsWith("PK\u0003\u0004") || first.startsWith("PK\u0005\u0006")) {
            return Kind.ZIP;
        }
        if (first.startsWith("\u001f\u008b\b")) {
            return Kind.GZIP;
        }
        boolean bitmap = first.startsWith("BM") && start.length > 26 && start[14] == 40 && start[15] == 0;
        return bitmap ? Kind.BMP : null;
    }

    private static String picture(Kind kind, Content content) {
        try {
            return kind
                    + size(content, kind)
                            .map(s -> " " + s.width() + "×" + s.height())
                            .orElse("");
        } catch (IOException | RuntimeException spoilt) {
            // its readers fail in many ways on what only begins like a picture
            return kind + ", spoilt";
        }
    }

    private record Size(int width, int height) {}

    private static Optional<Size> size(Content content, Kind kind) throws IOException {
        if (!kind.isPicture()) {
            return Optional.empty();
        }
        byte[] head = content.start(PICTURE_HEAD);
        try (ImageInputStream in = new MemoryCacheImageInputStream(new ByteArrayInputStream(head))) {
            Iterator<ImageReader> readers = ImageIO.getImageReaders(in);
            if (!readers.hasNext()) {
                return Optional.empty();
            }
            ImageReader reader = readers.next();
            try {
                reader.setInput(in, true, true);
                return Optional.of(new Size(reader.getWidth(0), reader.getHeight(0)));
            } finally {
                reader.dispose();
            }
        }
    }

    /** How many pixels a picture has, which is what showing it takes; 0 for what is none, or spoilt. A few bytes may say very many. */
    public long pixels() {
        try {
            return size(content, kind).map(s -> (long) s.width() * s.height()).orElse(0L);
        } catch (IOException | RuntimeException spoilt) {
            return 0;
        }
    }

    private static Inside text(byte[] start, Content content, TextEncoding said) {
        boolean cut = start.length < content.size();
        Optional<TextEncoding> found = isText(said.decode(start), cut)
                ? Optional.of(said)
                : TextEncoding.western(start).filter(w -> said.charset().equals(StandardCharsets.UTF_8));
        if (found.isEmpty()) {
            return new Inside(Kind.BINARY, "binary, " + size(content), content, said.charset(), 0);
        }
        TextEncoding encoding = found.get();
        String text = encoding.decode(start);
        Matcher prolog = PROLOG.matcher(text);
        String body = prolog.lookingAt() ? text.substring(prolog.end()) : text;
        Kind kind = Kind.TEXT;
        String words = null;
        if (body.startsWith("<")) {
            if (PAGE.matcher(body).matches() || PIECE.matcher(body).lookingAt()) {
                kind = Kind.WEB_PAGE;
                words = page(text);
            } else if (ELEMENT.matcher(body).matches()) {
                kind = Kind.XML;
                Matcher name = NAME.matcher(body);
                words = name.lookingAt() ? "XML, <" + name.group(1) + ">" : "XML";
            }
        } else if (text.isBlank() && !cut) {
            words = "nothing but " + (text.isEmpty() ? "a byte order mark" : "white space");
        } else if (isJson(body, cut)) {
            kind = Kind.JSON;
            words = "JSON";
        } else if (content.size() <= COUNTED) {
            Optional<Separated> rows =
                    Separated.of(content.slice(encoding.skip(), content.size()).text(encoding.charset()));
            if (rows.isPresent()) {
                kind = Kind.CSV;
                words = rows.get().words();
            }
        }
        return new Inside(
                kind, words == null ? "text, " + size(content) : words, content, encoding.charset(), encoding.skip());
    }

    private static String page(String text) {
        Matcher title = TITLE.matcher(text);
        String found = title.find() ? title.group(1).strip().replaceAll("\\s+", " ") : "";
        return found.isEmpty() ? "a web page" : "a web page titled “" + unescaped(found) + "”";
    }

    /** The references of a page's text that are met most (HTML §13.2.5.72). */
    private static String unescaped(String text) {
        String shown = NUMERIC.matcher(text)
                .replaceAll(m -> Matcher.quoteReplacement(character(m.group(1))))
                .replace("&lt;", "<")
                .replace("&gt;", ">")
                .replace("&quot;", "\"")
                .replace("&nbsp;", " ")
                .replace("&amp;", "&");
        return shown.length() > 80 ? shown.substring(0, 79) + "…" : shown;
    }

    private static String character(String number) {
        boolean hex = number.startsWith("x") || number.startsWith("X");
        int point = Integer.parseInt(hex ? number.substring(1) : number, hex ? 16 : 10);
        return Character.isValidCodePoint(point) && !Character.isISOControl(point)
                ? Character.toString(point)
                : "\uFFFD";
    }

    /** No control characters but white space, and nothing that the encoding does not have. */
    private static boolean isText(String text, boolean cut) {
        int end = cut ? Math.max(0, text.length() - 4) : text.length();
        for (int i = 0; i < end; i++) {
            char c = text.charAt(i);
            boolean control = c < ' ' && c != '\n' && c != '\r' && c != '\t' && c != '\f' && c != 27;
            if (control || c == '\uFFFD' || c == 0x7F || c == '\uFFFE' || c == '\uFFFF') {
                return false;
            }
        }
        return true;
    }

    /** An object or an array; a lone number or word is a text. */
    private static boolean isJson(String body, boolean cut) {
        if (!body.startsWith("{") && !body.startsWith("[")) {
            return false;
        }
        try (JsonParser parser = JSON.createParser(body)) {
            int depth = 0;
            JsonToken token = parser.nextToken();
            while (token != null) {
                depth += token.isStructStart() ? 1 : token.isStructEnd() ? -1 : 0;
                token = parser.nextToken();
            }
            return depth == 0;
        } catch (IOException e) {
            // the rest of a long one was not looked at
            return cut && body.length() > 64 && !(body.startsWith("[") && Character.isLetter(body.charAt(1)));
        }
    }

    /** The same without saying how much it is. */
    Inside uncounted() {
        return new Inside(kind, words.replaceFirst(", .*", ""), content, charset, skip);
    }

    static String size(Content content) {
        return size(content.size());
    }

    static String size(long bytes) {
        return String.format(Locale.ROOT, "%,d bytes", bytes).replace(',', '\u202f');
    }

    /**
     * The text, from its beginning.
     *
     * @param most how many bytes of it
     */
    public String text(int most) {
        byte[] bytes = content.start(most);
        return new String(bytes, Math.min(skip, bytes.length), Math.max(0, bytes.length - skip), charset);
    }
}
