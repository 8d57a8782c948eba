package dev.mockbell.file;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class InsideTest {
    @TempDir
    Path folder;

    private Inside inside() throws IOException {
        return new Inside(Files.createDirectories(folder.resolve("project")));
    }

    @ParameterizedTest
    @ValueSource(strings = {"/etc/passwd", "../secret", "a/../../secret", "..", "a\u0000b"})
    void whatLeadsOutIsRefused(String written) throws IOException {
        Inside inside = inside();
        assertThatThrownBy(() -> inside.resolve(inside.folder(), written)).isInstanceOf(Problem.class);
    }

    @ParameterizedTest
    @ValueSource(strings = {"a.xml", "deep/er/a.xml", "a/../b.xml", "..a", "."})
    void whatStaysInsideIsFound(String written) throws IOException {
        Inside inside = inside();
        Path found = inside.resolve(inside.folder(), written);
        assertThat(found.normalize().toString()).startsWith(inside.folder().toString());
    }

    @Test
    void aLinkThatLeadsOutIsRefusedWhereverItStands() throws IOException {
        Inside inside = inside();
        Path outside = Files.createDirectories(folder.resolve("outside"));
        Files.writeString(outside.resolve("a.xml"), "<a/>");
        Files.createSymbolicLink(inside.folder().resolve("file.xml"), outside.resolve("a.xml"));
        Files.createSymbolicLink(inside.folder().resolve("sub"), outside);
        Files.createSymbolicLink(inside.folder().resolve("nowhere"), folder.resolve("not/there"));
        for (String written : new String[] {"file.xml", "sub/a.xml", "sub/new.xml", "nowhere", "nowhere/x"}) {
            assertThatThrownBy(() -> inside.resolve(inside.folder(), written))
                    .as(written)
                    .isInstanceOf(Problem.class)
                    .hasMessageContaining("leads out");
        }
    }

    @Test
    void aFolderThatIsItselfReachedByALinkIsFine() throws IOException {
        inside();
        Path link = Files.createSymbolicLink(folder.resolve("link"), folder.resolve("project"));
        assertThat(new Inside(link).resolve(link, "a.xml")).isEqualTo(link.resolve("a.xml"));
    }
}
