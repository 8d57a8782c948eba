package dev.mockbell.content;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.io.InputStream;
import java.util.Arrays;
import java.util.Random;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

class ContentTest {
    private static final byte[] BYTES = bytes(ContentSink.IN_MEMORY + 1_000);

    private static byte[] bytes(int size) {
        byte[] bytes = new byte[size];
        new Random(size).nextBytes(bytes);
        return bytes;
    }

    private static Content sunk(byte[] bytes, int step) {
        try (ContentSink sink = new ContentSink()) {
            for (int at = 0; at < bytes.length; at += step) {
                sink.write(bytes, at, Math.min(step, bytes.length - at));
            }
            assertThat(sink.size()).isEqualTo(bytes.length);
            return sink.content();
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
    }

    /** The same bytes in every kind of content. */
    static Stream<Content> kinds() {
        byte[] wider = new byte[BYTES.length + 20];
        System.arraycopy(BYTES, 0, wider, 10, BYTES.length);
        Content first = Content.of(Arrays.copyOf(BYTES, 12_345));
        Content second = Content.of(Arrays.copyOfRange(BYTES, 12_345, BYTES.length));
        return Stream.of(
                Content.of(BYTES),
                Content.of(wider).slice(10, wider.length - 10),
                Content.joined(first, second),
                sunk(BYTES, 64 * 1024),
                sunk(BYTES, ContentSink.IN_MEMORY),
                sunk(wider, 99_999).slice(5, wider.length).slice(5, BYTES.length + 5),
                new Slice(Content.joined(Content.NONE, new Joined(first, second)), 0, BYTES.length));
    }

    @ParameterizedTest
    @MethodSource("kinds")
    void everyKindGivesTheSameBytesAsOftenAsAsked(Content content) throws IOException {
        assertThat(content.size()).isEqualTo(BYTES.length);
        assertThat(content.bytes()).isEqualTo(BYTES);
        assertThat(content.start(7)).isEqualTo(Arrays.copyOf(BYTES, 7));
        assertThat(Content.same(content, Content.of(BYTES))).isTrue();
        for (int from : new int[] {0, 1, 12_344, 12_345, 12_346, BYTES.length - 1, BYTES.length}) {
            try (InputStream in = content.open(from)) {
                assertThat(in.readAllBytes()).isEqualTo(Arrays.copyOfRange(BYTES, from, BYTES.length));
                assertThat(in.read()).isEqualTo(-1);
            }
        }
        assertThat(content.slice(100, 30_000).bytes()).isEqualTo(Arrays.copyOfRange(BYTES, 100, 30_000));
        assertThat(content.slice(50, 50).isEmpty()).isTrue();
    }

    @ParameterizedTest
    @MethodSource("kinds")
    void bytesOneByOneAndSkippedAreTheSame(Content content) throws IOException {
        try (InputStream in = content.open(12_000)) {
            for (int i = 0; i < 500; i++) {
                assertThat(in.read()).isEqualTo(BYTES[12_000 + i] & 0xFF);
            }
            in.skipNBytes(1_000);
            assertThat(in.read()).isEqualTo(BYTES[13_500] & 0xFF);
        }
    }

    @ParameterizedTest
    @MethodSource("kinds")
    void aPlaceOutsideIsRefused(Content content) {
        assertThatThrownBy(() -> content.open(BYTES.length + 1)).isInstanceOf(IndexOutOfBoundsException.class);
        assertThatThrownBy(() -> content.open(-1)).isInstanceOf(IndexOutOfBoundsException.class);
        assertThatThrownBy(() -> content.slice(3, BYTES.length + 1L)).isInstanceOf(IndexOutOfBoundsException.class);
    }

    @ParameterizedTest
    @MethodSource("kinds")
    void oneOtherByteIsADifference(Content content) {
        byte[] other = BYTES.clone();
        other[other.length - 1]++;
        assertThat(Content.same(content, Content.of(other))).isFalse();
        assertThat(Content.same(content, Content.of(BYTES).slice(0, 40))).isFalse();
    }

    @Test
    void severalReadAContentInAFileAtOnceAlsoWhenOneIsInterrupted() throws Exception {
        Content content = sunk(BYTES, 50_000);
        Thread interrupted = new Thread(() -> {
            Thread.currentThread().interrupt();
            content.bytes();
        });
        interrupted.start();
        interrupted.join();
        Stream.of(1, 2, 3, 4)
                .parallel()
                .forEach(i -> assertThat(content.bytes()).isEqualTo(BYTES));
    }
}
