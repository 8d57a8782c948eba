package dev.mockbell.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.util.Map;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class AtomicFileTest {
    @TempDir
    Path folder;

    @Test
    void nothingIsLeftBesideTheFile() throws IOException {
        Path file = folder.resolve("deep/er/a.txt");
        AtomicFile.write(file, "one");
        AtomicFile.write(file, "two");
        assertThat(file).hasContent("two");
        try (Stream<Path> list = Files.list(file.getParent())) {
            assertThat(list).containsExactly(file);
        }
    }

    @Test
    void theSameContentIsNotWrittenAgain() throws IOException {
        Path file = folder.resolve("a.txt");
        AtomicFile.write(file, "one");
        FileTime old = FileTime.fromMillis(1_000_000);
        Files.setLastModifiedTime(file, old);
        AtomicFile.write(file, "one");
        assertThat(Files.getLastModifiedTime(file)).isEqualTo(old);
    }

    @Test
    void whatCannotBeWrittenIsToldAndTheOldStays() throws IOException {
        Path file = Files.writeString(folder.resolve("plain"), "a file, not a folder");
        assertThatThrownBy(() -> AtomicFile.write(file.resolve("below.txt"), "x"))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("cannot be written");
        assertThat(file).hasContent("a file, not a folder");
    }

    @Test
    void anEnvironmentKnowsPortsAndWholeContracts() {
        Environment environment =
                new Environment("e", Map.of("stay/One", "http://one", "stay", "http://all"), java.util.List.of());
        assertThat(environment.endpoint("stay", "One")).contains("http://one");
        assertThat(environment.endpoint("stay", "Two")).contains("http://all");
        assertThat(environment.endpoint("other", "One")).isEmpty();
    }
}
