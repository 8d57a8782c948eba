package dev.mockbell.request;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.content.Part;
import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.problem.Problem;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.wire.CallRequest;
import java.io.RandomAccessFile;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Parts beside an envelope, read back by the reader of answers. */
class PackagingTest {
    private static final String INCLUDE =
            "<x:Include xmlns:x='http://www.w3.org/2004/08/xop/include' href='cid:hut%20map'/>";

    private static CallRequest request(SoapVersion version, String holds) {
        String envelope = "<e:Envelope xmlns:e='" + version.namespace() + "'><e:Body><photo>" + holds
                + "</photo></e:Body></e:Envelope>";
        return new CallRequest(
                "POST",
                URI.create("http://huts.northfell.example/"),
                List.of(new Header("Content-Type", version.contentType("urn:up"))),
                Content.of(envelope.getBytes(StandardCharsets.UTF_8)),
                Duration.ofSeconds(1));
    }

    private static Attachment part(String id, String text) {
        return new Attachment(id, "text/plain", Content.of(text.getBytes(StandardCharsets.UTF_8)));
    }

    private static HttpMessage message(CallRequest request) {
        return new HttpMessage("POST / HTTP/1.1", request.headers(), request.body(), request.body());
    }

    @Test
    void withAnIncludeItIsXopInBothVersions() {
        for (SoapVersion version : SoapVersion.values()) {
            CallRequest made =
                    Packaging.of(request(version, INCLUDE.replace("%20", "-")), List.of(part("hut-map", "m")));
            HttpMessage message = message(made);
            assertThat(message.type().parameter("type")).contains("application/xop+xml");
            String info = version == SoapVersion.V11 ? "text/xml" : "application/soap+xml; action=\"urn:up\"";
            assertThat(message.type().parameter("start-info")).contains(info);
            assertThat(message.root().header("Content-Type").orElseThrow())
                    .startsWith("application/xop+xml; charset=UTF-8; type=\"" + version.mediaType());
            assertThat(SoapMessage.of(message, "test").payload().orElseThrow().getTextContent())
                    .isEqualTo("bQ==");
        }
    }

    @Test
    void withoutOneItIsSoapWithAttachments() {
        CallRequest made =
                Packaging.of(request(SoapVersion.V11, "cid:a"), List.of(part("a", "one\r\n--part"), part("b", "")));
        HttpMessage message = message(made);
        assertThat(message.type().parameter("type")).contains("text/xml");
        assertThat(message.root().header("Content-Type")).contains("text/xml; charset=utf-8");
        assertThat(message.attachments()).extracting(p -> p.id().orElse("")).containsExactly("a", "b");
        assertThat(message.attachments())
                .extracting(Part::content)
                .extracting(c -> c.text(StandardCharsets.UTF_8))
                .containsExactly("one\r\n--part", "");
    }

    @Test
    void withoutPartsTheRequestStaysAsItIs() {
        CallRequest plain = request(SoapVersion.V12, "");
        assertThat(Packaging.of(plain, List.of())).isSameAs(plain);
    }

    @Test
    void aFileIsTakenAsItIsNowAndItsTypeByItsName(@TempDir Path folder) throws Exception {
        Path file = Files.writeString(folder.resolve("map.png"), "map");
        Attachment taken = Attachment.of("map@huts", file);
        Files.writeString(file, "another");
        assertThat(taken.type()).isEqualTo("image/png");
        assertThat(taken.address()).isEqualTo("cid:map%40huts");
        assertThat(taken.content().text(StandardCharsets.UTF_8)).isEqualTo("map");
        assertThatThrownBy(() -> Attachment.of("a", folder.resolve("none")))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("The file of the part a cannot be read");
        assertThatThrownBy(() -> Attachment.of("a\r\nX: y", file)).hasMessageContaining("cannot be the id of a part");
    }

    @Test
    void aLargePartIsNotHeldInMemory(@TempDir Path folder) throws Exception {
        Path file = folder.resolve("large.bin");
        try (RandomAccessFile large = new RandomAccessFile(file.toFile(), "rw")) {
            large.setLength(64L << 20);
        }
        CallRequest made = Packaging.of(request(SoapVersion.V11, "cid:a"), List.of(Attachment.of("a", file)));
        assertThat(made.body().size()).isGreaterThan(64L << 20);
        // a stretch of it is read where it lies
        assertThat(made.body().slice(50L << 20, (50L << 20) + 3).bytes()).containsExactly(0, 0, 0);
    }
}
