package dev.mockbell.exchange;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.problem.Problem;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Parts as files: named after what they say of themselves, never outside the folder, never over another. */
class PartFilesTest {
    @TempDir
    private Path folder;

    private static Message message(String... parts) {
        StringBuilder text = new StringBuilder("--b\r\n\r\n<a/>\r\n");
        for (String part : parts) {
            text.append("--b\r\n").append(part).append("\r\n");
        }
        Content body = Content.of(text.append("--b--").toString().getBytes(StandardCharsets.UTF_8));
        return new HttpMessage(
                "HTTP/1.1 200 OK", List.of(new Header("Content-Type", "multipart/related; boundary=b")), body, body);
    }

    private List<String> saved(String... parts) {
        return PartFiles.save(message(parts), folder).stream()
                .map(f -> {
                    assertThat(f).hasParent(folder);
                    return f.getFileName().toString();
                })
                .toList();
    }

    @Test
    void aPartIsNamedByItsFileElseByItsIdAndType() throws Exception {
        assertThat(saved(
                        "Content-Disposition: attachment; filename=\"hut map.png\"\r\n\r\nmap",
                        "Content-ID: <photo@huts>\r\nContent-Type: image/jpeg\r\n\r\nphoto",
                        "\r\nbare"))
                .containsExactly("hut map.png", "photo@huts.jpg", "part-3.bin");
        assertThat(folder.resolve("photo@huts.jpg")).hasContent("photo");
    }

    @Test
    void aNameLeadsNowhereElseAndTakesNoFilesPlace() throws Exception {
        Files.writeString(folder.resolve("map.png"), "mine");
        assertThat(saved(
                        "Content-Disposition: attachment; filename=\"../../map.png\"\r\n\r\none",
                        "Content-Disposition: attachment; filename=\"C:\\\\huts\\\\map.png\"\r\n\r\ntwo",
                        "Content-ID: <../up>\r\n\r\nthree"))
                .containsExactly("map-2.png", "map-3.png", "%2E.%2Fup.bin");
        assertThat(folder.resolve("map.png")).hasContent("mine");
    }

    @Test
    void whatIsInBase64OnTheWayIsItselfInTheFile() {
        assertThat(saved("Content-Transfer-Encoding: BASE64\r\n\r\nYnVu\r\naw=="))
                .containsExactly("part-1.bin");
        assertThat(folder.resolve("part-1.bin")).hasContent("bunk");
    }

    @Test
    void aFolderThatCannotBeIsTold() throws Exception {
        Path file = Files.writeString(folder.resolve("file"), "");
        Message message = message("\r\nbare");
        assertThatThrownBy(() -> PartFiles.save(message, file))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("The parts cannot be saved");
        assertThat(PartFiles.save(message(), file)).isEmpty();
    }
}
