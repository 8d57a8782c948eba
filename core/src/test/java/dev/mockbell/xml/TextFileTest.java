package dev.mockbell.xml;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Files of XML that people give. */
class TextFileTest {
    @TempDir
    private Path folder;

    private String read(byte[] bytes) throws IOException {
        return TextFile.read(Files.write(folder.resolve("body.xml"), bytes), "The body's file", 1);
    }

    @Test
    void aFileIsReadByItsOwnWordAndIsUtf8FromThenOn() throws IOException {
        String latin = "<?xml version='1.0' encoding='ISO-8859-1'?><hut name='Kåld'/>";
        assertThat(read(latin.getBytes(StandardCharsets.ISO_8859_1))).isEqualTo(latin.replace("ISO-8859-1", "UTF-8"));
        assertThat(read("\uFEFF<hut/>".getBytes(StandardCharsets.UTF_8))).isEqualTo("<hut/>");
        String wide = "<?xml version='1.0' encoding=\"UTF-16\"?><hut name='Kåld'/>";
        assertThat(read(("\uFEFF" + wide).getBytes(StandardCharsets.UTF_16LE)))
                .isEqualTo(wide.replace("UTF-16", "UTF-8"));
        assertThat(read("<hut name='Kåld'/>".getBytes(StandardCharsets.UTF_8))).isEqualTo("<hut name='Kåld'/>");
    }

    @Test
    void whatCannotBeReadIsToldWithItsPath() {
        assertThatThrownBy(() -> read("<hut name='Kåld'/>".getBytes(StandardCharsets.ISO_8859_1)))
                .hasMessageContaining("The body's file has bytes that are not UTF-8 text")
                .hasMessageContaining("name its encoding");
        assertThatThrownBy(() -> TextFile.read(folder.resolve("none"), "The body's file", 1))
                .hasMessageContaining("The body's file is missing");
        assertThatThrownBy(() -> read(new byte[(1 << 20) + 1])).hasMessageContaining("more than the 1 MB");
    }
}
