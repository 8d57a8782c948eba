package dev.mockbell.file;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.atomic.AtomicBoolean;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class FileTreeTest {
    @TempDir
    private Path folder;

    @Test
    void filesAreFoundAsDeepAsWantedAndLinksAreNotFollowed() throws Exception {
        Path deep = Files.createDirectories(folder.resolve("a/b"));
        Files.writeString(folder.resolve("one"), "");
        Files.writeString(folder.resolve("a/two"), "");
        Files.writeString(deep.resolve("three"), "");
        Path link = Files.createSymbolicLink(folder.resolve("a/link"), folder.getParent());
        assertThat(FileTree.found(folder, 2, (file, is) -> is.isRegularFile()))
                .containsExactlyInAnyOrder(folder.resolve("one"), folder.resolve("a/two"));
        assertThat(FileTree.found(folder, 9, (file, is) -> is.isSymbolicLink())).containsExactly(link);
        assertThat(FileTree.found(folder.resolve("none"), 2, (file, is) -> true))
                .isEmpty();
    }

    @Test
    void filesThatComeAndGoMeanwhileAreNoError() throws Exception {
        AtomicBoolean over = new AtomicBoolean();
        for (int i = 0; i < 50; i++) {
            Files.writeString(folder.resolve("stays" + i), "");
        }
        CompletableFuture<Void> writing = CompletableFuture.runAsync(() -> {
            for (int i = 0; !over.get(); i++) {
                try {
                    Path made =
                            Files.createDirectories(folder.resolve("d" + i % 7)).resolve(".x." + i % 5 + ".new");
                    Files.writeString(made, "");
                    Files.delete(made);
                    Files.delete(made.getParent());
                } catch (IOException e) {
                    throw new java.io.UncheckedIOException(e);
                }
            }
        });
        try {
            for (int i = 0; i < 500; i++) {
                assertThat(FileTree.found(folder, 3, FileTreeTest::stays)).hasSize(50);
            }
        } finally {
            over.set(true);
        }
        writing.join();
    }

    private static boolean stays(Path file, BasicFileAttributes is) {
        return file.getFileName().toString().startsWith("stays");
    }
}
