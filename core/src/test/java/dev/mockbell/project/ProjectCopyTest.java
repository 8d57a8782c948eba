package dev.mockbell.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.suite.Suite;
import dev.mockbell.task.StopSignal;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ProjectCopyTest {
    @TempDir
    Path folder;

    private final ProjectStore store = new ProjectStore();

    @Test
    void theFilesAreTheSameAndWhatBelongsToTheMachineStays() throws IOException {
        Path first = folder.resolve("first");
        store.create(first, "Huts");
        store.saveSuite(first, new Suite("s", "Stay", List.of()));
        Files.writeString(first.resolve(".gitignore"), "reports\n");
        Files.createDirectories(first.resolve(".git/objects"));
        Files.writeString(ProjectStore.hidden(first).resolve("id"), "x");
        Files.createSymbolicLink(first.resolve("link"), folder);
        Path second = folder.resolve("second");
        assertThat(ProjectCopy.of(first, second, new StopSignal())).isEqualTo(3);
        assertThat(store.open(second).suites()).isEqualTo(store.open(first).suites());
        try (var list = Files.list(second)) {
            assertThat(list.map(p -> p.getFileName().toString()))
                    .contains("mockbell.yaml", "suites", ".gitignore")
                    .doesNotContain(".git", "link");
        }
        assertThat(second.resolve(".mockbell/id")).doesNotExist();
        assertThatThrownBy(() -> ProjectCopy.of(first, second, new StopSignal()))
                .hasMessageContaining("holds something already");
        assertThatThrownBy(() -> ProjectCopy.of(first, first.resolve("inner"), new StopSignal()))
                .hasMessageContaining("in the project itself");
        assertThat(first.resolve("inner")).doesNotExist();
    }
}
