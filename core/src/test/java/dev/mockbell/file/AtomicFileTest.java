package dev.mockbell.file;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.nio.file.attribute.PosixFilePermissions;
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
    void aSharedFileKeepsItsModeAndANewOneFollowsTheUmask() throws IOException {
        Path plain = Files.createFile(folder.resolve("plain"));
        Path file = folder.resolve("new.yaml");
        AtomicFile.write(file, "one");
        assertThat(mode(file)).as("as any new file").isEqualTo(mode(plain));
        Files.setPosixFilePermissions(file, PosixFilePermissions.fromString("rw-rw-r--"));
        AtomicFile.write(file, "two");
        assertThat(mode(file)).isEqualTo("rw-rw-r--");
    }

    @Test
    void whatIsTheUsersOwnIsForNobodyElse() throws IOException {
        Path file = folder.resolve("own/secret");
        AtomicFile.writePrivate(file, "x");
        assertThat(mode(file)).isEqualTo("rw-------");
        assertThat(mode(file.getParent())).isEqualTo("rwx------");
        Files.setPosixFilePermissions(file, PosixFilePermissions.fromString("rw-r--r--"));
        AtomicFile.writePrivate(file, "x");
        assertThat(mode(file)).as("also when nothing else is to be written").isEqualTo("rw-------");
    }

    @Test
    void aLinkStaysALink() throws IOException {
        Path file = Files.writeString(folder.resolve("real"), "one");
        Path link = Files.createSymbolicLink(folder.resolve("link"), file);
        AtomicFile.write(link, "two");
        assertThat(link).isSymbolicLink();
        assertThat(file).hasContent("two");
    }

    @Test
    void whatAKilledProcessLeftIsSweptWhenItIsOld() throws IOException {
        Path old = Files.createFile(folder.resolve(".a.yaml.3f2a.new"));
        Files.setLastModifiedTime(old, FileTime.fromMillis(1_000_000));
        Path fresh = Files.createFile(folder.resolve(".a.yaml.3f2b.new"));
        Path other = Files.createFile(folder.resolve("mine.new"));
        Files.setLastModifiedTime(other, FileTime.fromMillis(1_000_000));
        AtomicFile.sweep(folder);
        assertThat(old).doesNotExist();
        assertThat(fresh).exists();
        assertThat(other).exists();
    }

    private static String mode(Path path) throws IOException {
        return PosixFilePermissions.toString(Files.getPosixFilePermissions(path));
    }
}
