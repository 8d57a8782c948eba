package dev.mockbell.inside;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.content.Content;
import dev.mockbell.problem.Problem;
import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Base64;
import java.util.HexFormat;
import java.util.List;
import java.util.Random;
import java.util.zip.CRC32;
import java.util.zip.GZIPOutputStream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** What bytes and values hold. */
class InsideTest {
    private static Inside of(String text) {
        return Inside.of(Content.of(text.getBytes(StandardCharsets.UTF_8)));
    }

    private static byte[] gzip(byte[] bytes) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (GZIPOutputStream gzip = new GZIPOutputStream(out)) {
            gzip.write(bytes);
        }
        return out.toByteArray();
    }

    private static byte[] picture(String format) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        ImageIO.write(new BufferedImage(64, 48, BufferedImage.TYPE_INT_RGB), format, out);
        return out.toByteArray();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "<a/> | XML | XML, <a>",
                "<?xml version='1.0'?><!-- x --><n:hut xmlns:n='u'><b/></n:hut> | XML | XML, <n:hut>",
                "<html><title>Gr&#246;&#xDf;er &#x2014; &amp;#65; &#0;&#99999999;</title> | WEB_PAGE | a web page titled “Größer — &#65; \uFFFD&#99999999;”",
                "<!DOCTYPE HTML><title> Sign  in </title> | WEB_PAGE | a web page titled “Sign in”",
                "<html lang='en'> | WEB_PAGE | a web page",
                "<h1>404 Not Found</h1>No context found | WEB_PAGE | a web page",
                "{\"a\": [1, {\"b\": null}]} | JSON | JSON",
                "[1, 2] | JSON | JSON",
                "{not json} | TEXT | text, 10 bytes",
                "Dear guest, welcome. | TEXT | text, 20 bytes",
                "12345 | TEXT | text, 5 bytes",
                "'' | EMPTY | nothing",
            })
    void aTextIsKnownByHowItBegins(String text, Kind kind, String words) {
        assertThat(of(text).kind()).isEqualTo(kind);
        assertThat(of(text).words()).isEqualTo(words);
    }

    @Test
    void rowsAreATableWhenEachHasAsManyValues() {
        assertThat(of("hour,wind,sky\n06,14,clear\n07,18,\"haze, thin\"\n").words())
                .isEqualTo("CSV, 2 rows");
        assertThat(of("1;2\n3;4\n5;6\n").words()).isEqualTo("CSV, 3 rows");
        assertThat(of("a\tb\n1\t2").words()).isEqualTo("CSV, 1 row");
        assertThat(of("Dear Ines, hello\nsee you, soon").kind())
                .as("two lines of prose")
                .isEqualTo(Kind.TEXT);
        assertThat(of("a,b\n1,2,3\n").kind()).isEqualTo(Kind.TEXT);
        Separated read = Separated.of("hour,wind\n06,14\n07,18\n").orElseThrow();
        assertThat(read.header()).isTrue();
        assertThat(read.count()).isEqualTo(2);
        assertThat(read.separator()).isEqualTo(',');
    }

    @ParameterizedTest
    @CsvSource({"png, PNG 64×48", "jpg, JPEG 64×48", "gif, GIF 64×48", "bmp, BMP 64×48"})
    void aPictureIsKnownByItsFirstBytesWithItsSize(String format, String words) throws IOException {
        Inside inside = Inside.of(Content.of(picture(format)));
        assertThat(inside.words()).isEqualTo(words);
        assertThat(inside.kind().isPicture()).isTrue();
        byte[] cut = Arrays.copyOf(picture(format), 12);
        assertThat(Inside.of(Content.of(cut)).kind().isPicture())
                .as("one that is spoilt does no harm")
                .isEqualTo(!format.equals("bmp"));
    }

    @Test
    void whatIsPackedIsSaidAndUnpacked() throws IOException {
        byte[] xml = "<hut><name>Skarn</name></hut>".getBytes(StandardCharsets.UTF_8);
        Inside gzip = Inside.of(Content.of(gzip(xml)));
        assertThat(gzip.words()).isEqualTo("gzip of XML, <hut>");
        assertThat(Packed.gunzipped(gzip.content()).bytes()).isEqualTo(xml);
        byte[] cut = Arrays.copyOf(gzip(xml), 14);
        assertThat(Inside.of(Content.of(cut)).words()).isEqualTo("gzip of something spoilt");
        assertThatThrownBy(() -> Packed.gunzipped(Content.of(cut)))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("spoilt");
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (ZipOutputStream zip = new ZipOutputStream(out)) {
            zip.putNextEntry(new ZipEntry("huts/one.xml"));
            zip.write(xml);
            zip.putNextEntry(new ZipEntry("two.txt"));
            zip.write(new byte[] {'h', 'i'});
        }
        Content archive = Content.of(out.toByteArray());
        assertThat(Inside.of(archive).words()).isEqualTo("zip, 2 files");
        assertThat(Packed.entries(archive))
                .containsExactly(new Packed.Entry("huts/one.xml", xml.length), new Packed.Entry("two.txt", 2));
        assertThat(Packed.entry(archive, "two.txt").text(StandardCharsets.UTF_8))
                .isEqualTo("hi");
        assertThatThrownBy(() -> Packed.entry(archive, "three")).hasMessageContaining("no file “three”");
    }

    @Test
    void whatPacksVeryMuchIsNotUnpackedWhole() throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (GZIPOutputStream gzip = new GZIPOutputStream(out)) {
            byte[] zeros = new byte[1 << 20];
            for (int i = 0; i <= Packed.MOST >> 20; i++) {
                gzip.write(zeros);
            }
        }
        Content bomb = Content.of(out.toByteArray());
        assertThat(Inside.of(bomb).kind()).isEqualTo(Kind.GZIP);
        assertThatThrownBy(() -> Packed.gunzipped(bomb)).hasMessageContaining("more than 256 MB");
    }

    @Test
    void aTypedValueIsDecodedByItsType() {
        String csv = Base64.getMimeEncoder()
                .encodeToString("a,b\n1,2\n3,4\n".repeat(9).getBytes(StandardCharsets.UTF_8));
        EncodedValue value = EncodedValue.of(csv, "base64Binary").orElseThrow();
        assertThat(value.coding()).isEqualTo(EncodedValue.Coding.BASE64);
        assertThat(value.inside().kind()).isEqualTo(Kind.CSV);
        assertThat(EncodedValue.of("FF000180", "hexBinary").orElseThrow().words())
                .isEqualTo("hex, 4 bytes");
        assertThat(EncodedValue.of("!!", "base64Binary")).isEmpty();
        assertThat(EncodedValue.of("12345678901234", "decimal")).isEmpty();
        assertThat(EncodedValue.of("", "base64Binary")).isEmpty();
    }

    @Test
    void aTextIsDecodedWhenWhatIsInItIsSomething() throws IOException {
        String xml = "<hut><name>Kåldfjell</name></hut>";
        byte[] bytes = xml.getBytes(StandardCharsets.UTF_8);
        assertThat(EncodedValue.byLook(xml).orElseThrow().coding()).isEqualTo(EncodedValue.Coding.NONE);
        assertThat(EncodedValue.byLook(Base64.getEncoder().encodeToString(bytes))
                        .orElseThrow()
                        .words())
                .isEqualTo("XML, <hut>");
        assertThat(EncodedValue.byLook(Base64.getUrlEncoder().encodeToString(bytes)))
                .isPresent();
        assertThat(EncodedValue.byLook(HexFormat.of().formatHex(bytes))
                        .orElseThrow()
                        .coding())
                .isEqualTo(EncodedValue.Coding.HEX);
        String packed = Base64.getEncoder().encodeToString(gzip(gzip(bytes)));
        assertThat(EncodedValue.byLook(packed).orElseThrow().unpacked().text(100))
                .isEqualTo(xml);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "short",
                "ReservationConfirmed",
                "d41d8cd98f00b204e9800998ecf8427e",
                "20270214120000000000000000000000",
                "Skarn Tarn Hut, 18 bunks",
                "550e8400-e29b-41d4-a716-446655440000",
                "Bring water.\nAnd a torch.",
            })
    void aPlainValueStaysOne(String text) {
        assertThat(EncodedValue.byLook(text)).isEmpty();
    }

    @Test
    void anAddressThatHoldsItsBytesIsLookedInto() {
        String csv = Base64.getEncoder().encodeToString("hut;bunks\n1;18\n2;4\n".getBytes(StandardCharsets.UTF_8));
        for (String type : List.of("", "text/csv", "text/csv;charset=utf-8")) {
            EncodedValue value =
                    EncodedValue.of("data:" + type + ";base64," + csv, "anyURI").orElseThrow();
            assertThat(value.words()).isEqualTo("CSV, 2 rows");
            assertThat(value.coding()).isEqualTo(EncodedValue.Coding.BASE64);
        }
        assertThat(EncodedValue.of("DATA:;BASE64,/wABgA==", "").orElseThrow().words())
                .isEqualTo("base64, 4 bytes");
        for (String none : List.of("data:,plain", "http://hut/data:;base64,AAAA", "data:;base64,*", "data:;base64,")) {
            assertThat(EncodedValue.of(none, "anyURI")).as(none).isEmpty();
        }
    }

    @Test
    void whatGzipHoldsIsCountedToItsEndOrNotAtAll() throws IOException {
        String rows = "a;b\n" + "1;2\n".repeat(50_000);
        assertThat(Inside.of(Content.of(gzip(rows.getBytes(StandardCharsets.UTF_8))))
                        .words())
                .isEqualTo("gzip of CSV, 50000 rows");
        assertThat(Inside.of(Content.of(gzip(rows.repeat(40).getBytes(StandardCharsets.UTF_8))))
                        .words())
                .isEqualTo("gzip of CSV");
        assertThat(Inside.of(Content.of(gzip("0".repeat(9_000_000).getBytes(StandardCharsets.UTF_8))))
                        .words())
                .isEqualTo("gzip of text");
    }

    @Test
    void textOfWesternEuropeIsReadWhereNothingIsSaidOfIt() {
        byte[] csv =
                "Name;Ort\nM\u00fcller;K\u00f6ln\n\u20ac 5;\u201eX\u201c\n".getBytes(Charset.forName("windows-1252"));
        Inside inside = Inside.of(Content.of(csv));
        assertThat(inside.words()).isEqualTo("CSV, 2 rows");
        assertThat(inside.text(100)).contains("M\u00fcller;K\u00f6ln").contains("\u20ac 5;\u201eX\u201c");
        byte[] greek = "\u039a\u03b1\u03bb\u03b7\u03bc\u03ad\u03c1\u03b1".getBytes(Charset.forName("ISO-8859-7"));
        assertThat(Inside.of(Content.of(greek)).kind()).isEqualTo(Kind.BINARY);
        byte[] spoilt = ("K\u00e5ldfjell, \u00f8st, \u00e6ld " + "and on ".repeat(9)).getBytes(StandardCharsets.UTF_8);
        spoilt[spoilt.length - 3] = (byte) 0xFF;
        assertThat(Inside.of(Content.of(spoilt)).kind())
                .as("it is UTF-8, but for one place")
                .isEqualTo(Kind.BINARY);
        assertThat(Inside.of(Content.of("abc\u0000d\u00fc efgh".getBytes(StandardCharsets.ISO_8859_1)))
                        .kind())
                .isEqualTo(Kind.BINARY);
    }

    @Test
    void anyBytesAreLookedAtWithoutHarm() {
        Random random = new Random(7);
        for (int i = 0; i < 2_000; i++) {
            byte[] bytes = new byte[random.nextInt(200)];
            random.nextBytes(bytes);
            byte[][] starts = {
                {(byte) 0x89, 'P', 'N', 'G', 13, 10, 26, 10},
                {'P', 'K', 3, 4},
                {31, (byte) 139, 8},
                {'G', 'I', 'F', '8', '9', 'a'},
                {}
            };
            byte[] start = starts[i % starts.length];
            System.arraycopy(start, 0, bytes, 0, Math.min(start.length, bytes.length));
            Inside inside = Inside.of(Content.of(bytes));
            assertThat(inside.words()).isNotBlank();
            assertThat(inside.pixels()).isNotNegative();
        }
    }

    /** A head of few bytes may say that a picture takes all the memory there is; whoever shows it asks first. */
    @Test
    void howLargeAPictureWouldBeIsKnownByItsHead() throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        ImageIO.write(new BufferedImage(64, 48, BufferedImage.TYPE_INT_RGB), "png", out);
        byte[] png = out.toByteArray();
        assertThat(Inside.of(Content.of(png)).pixels()).isEqualTo(64 * 48);
        // the width and the height of a PNG stand behind its signature and the name of its first chunk
        ByteBuffer.wrap(png).putInt(16, 60_000).putInt(20, 50_000);
        CRC32 sum = new CRC32();
        sum.update(png, 12, 17);
        ByteBuffer.wrap(png).putInt(29, (int) sum.getValue());
        Inside bomb = Inside.of(Content.of(png));
        assertThat(bomb.words()).isEqualTo("PNG 60000×50000");
        assertThat(bomb.pixels()).isEqualTo(3_000_000_000L);
        assertThat(Inside.of(Content.of(new byte[] {1, 2, 3, 0})).pixels()).isZero();
    }
}
