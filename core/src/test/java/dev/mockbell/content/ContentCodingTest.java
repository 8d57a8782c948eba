package dev.mockbell.content;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Random;
import java.util.zip.Deflater;
import java.util.zip.DeflaterOutputStream;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Codings of bodies, also such as are followed by something. */
class ContentCodingTest {
    private static final byte[] TEXT = "<hut>Alpine</hut>".repeat(400).getBytes(StandardCharsets.UTF_8);

    /** Does not get smaller, so that it fills the buffers it is read by. */
    private static final byte[] NOISE = noise();

    private static byte[] noise() {
        byte[] noise = new byte[300_000];
        new Random(3).nextBytes(noise);
        return noise;
    }

    private static byte[] gzip(byte[] plain) throws IOException {
        ByteArrayOutputStream packed = new ByteArrayOutputStream();
        try (GZIPOutputStream out = new GZIPOutputStream(packed)) {
            out.write(plain);
        }
        return packed.toByteArray();
    }

    private static byte[] deflate(byte[] plain, boolean bare) throws IOException {
        ByteArrayOutputStream packed = new ByteArrayOutputStream();
        Deflater deflater = new Deflater(Deflater.DEFAULT_COMPRESSION, bare);
        try (DeflaterOutputStream out = new DeflaterOutputStream(packed, deflater)) {
            out.write(plain);
        }
        deflater.end();
        return packed.toByteArray();
    }

    private static byte[] joined(byte[]... parts) {
        ByteArrayOutputStream all = new ByteArrayOutputStream();
        for (byte[] part : parts) {
            all.writeBytes(part);
        }
        return all.toByteArray();
    }

    private static List<Header> coded(String coding) {
        return List.of(new Header("content-encoding", coding));
    }

    private static void isUndone(byte[] body, String coding, byte[] plain, String... flaws) throws IOException {
        Content content = Content.of(body);
        assertThat(ContentCoding.undone(content, coded(coding), 1 << 20).bytes())
                .isEqualTo(plain);
        assertThat(ContentCoding.flaws(content, coded(coding), 1 << 20)).containsExactly(flaws);
    }

    @Test
    void eachCodingIsUndoneToItsEnd() throws IOException {
        for (byte[] plain : List.of(TEXT, NOISE)) {
            isUndone(gzip(plain), "gzip", plain);
            isUndone(gzip(plain), "X-GZip, identity", plain);
            isUndone(deflate(plain, false), "deflate", plain);
            isUndone(deflate(plain, true), "deflate", plain);
            isUndone(gzip(deflate(plain, false)), "deflate, gzip", plain);
        }
        isUndone(new byte[0], "gzip", new byte[0]);
        isUndone(TEXT, "identity", TEXT);
    }

    @Test
    void severalMembersOfGzipAreOneBody() throws IOException {
        isUndone(joined(gzip(TEXT), gzip(NOISE), gzip(TEXT)), "gzip", joined(TEXT, NOISE, TEXT));
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 2, 7, 9, 20, 100, 70_000, 200_000})
    void whatFollowsTheEndIsCounted(int more) throws IOException {
        byte[] zeros = new byte[more];
        String flaw = (more == 1 ? "1 byte follows" : more + " bytes follow")
                + " the end of what is compressed by %s, and " + (more == 1 ? "is" : "are") + " passed over";
        for (byte[] plain : List.of(TEXT, NOISE)) {
            isUndone(joined(gzip(plain), zeros), "gzip", plain, String.format(flaw, "gzip"));
            isUndone(joined(deflate(plain, false), zeros), "deflate", plain, String.format(flaw, "deflate"));
            isUndone(joined(deflate(plain, true), zeros), "deflate", plain, String.format(flaw, "deflate"));
            isUndone(joined(gzip(TEXT), gzip(plain), zeros), "gzip", joined(TEXT, plain), String.format(flaw, "gzip"));
        }
    }

    @Test
    void aMemberThatOnlyBeginsIsNoMember() throws IOException {
        isUndone(
                joined(gzip(TEXT), new byte[] {0x1F, (byte) 0x8B, 8}),
                "gzip",
                TEXT,
                "3 bytes follow the end of what is compressed by gzip, and are passed over");
    }

    @Test
    void whatCannotBeUndoneIsToldAndIsNoFlawBeside() throws IOException {
        byte[] packed = gzip(TEXT);
        byte[] cut = java.util.Arrays.copyOf(packed, packed.length - 20);
        assertThatThrownBy(() -> ContentCoding.undone(Content.of(cut), coded("gzip"), 1 << 20))
                .isInstanceOf(ContentCoding.Undecodable.class)
                .hasMessage("is compressed by gzip, and its end is missing");
        assertThatThrownBy(() -> ContentCoding.undone(Content.of(TEXT), coded("gzip"), 1 << 20))
                .isInstanceOf(ContentCoding.Undecodable.class)
                .hasMessageContaining("cannot be unpacked");
        assertThatThrownBy(() -> ContentCoding.undone(Content.of(TEXT), coded("br"), 1 << 20))
                .isInstanceOf(ContentCoding.Undecodable.class)
                .hasMessageContaining("by br, which was not asked for");
        assertThatThrownBy(() -> ContentCoding.undone(Content.of(packed), coded("gzip"), TEXT.length - 1))
                .isInstanceOf(TooLarge.class);
        assertThat(ContentCoding.flaws(Content.of(cut), coded("gzip"), 1 << 20)).isEmpty();
    }

    @Test
    void chunksAreTakenApartAsFarAsTheyCame() throws IOException {
        String sent = "4;name=v\r\nWiki\r\n00A\r\npedia in\r\n\r\n0\r\nTrailer: x\r\n\r\n";
        assertThat(text(sent)).isEqualTo("Wikipedia in\r\n");
        assertThat(text("4\r\nWi")).isEqualTo("Wi");
        assertThat(text("")).isEmpty();
        assertThatThrownBy(() -> text("none\r\n"))
                .isInstanceOf(IOException.class)
                .hasMessage("“none” stands where the length of a chunk is due (RFC 9112 §7.1)");
        assertThat(Chunks.in(List.of(new Header("transfer-encoding", "gzip, Chunked"))))
                .isTrue();
        assertThat(Chunks.in(coded("gzip"))).isFalse();
    }

    private static String text(String sent) throws IOException {
        return new String(
                Chunks.undone(Content.of(sent.getBytes(StandardCharsets.UTF_8)))
                        .body()
                        .bytes(),
                StandardCharsets.UTF_8);
    }
}
