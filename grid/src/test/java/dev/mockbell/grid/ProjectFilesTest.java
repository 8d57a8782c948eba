package dev.mockbell.grid;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.problem.Problem;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermission;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ProjectFilesTest {
    @TempDir
    Path folder;

    private Path write(String name, String text) throws IOException {
        Path file = folder.resolve("project").resolve(name);
        Files.createDirectories(file.getParent());
        return Files.writeString(file, text);
    }

    private List<String> packedAndLaidOut() throws IOException {
        Path to = Files.createDirectory(folder.resolve("to"));
        ProjectFiles.unpack(ProjectFiles.pack(folder.resolve("project")), to);
        try (Stream<Path> all = Files.walk(to)) {
            return all.filter(Files::isRegularFile)
                    .map(p -> to.relativize(p).toString())
                    .sorted()
                    .toList();
        }
    }

    @Test
    void whatIsHiddenStaysAtHomeAndTheRestIsTheSame() throws IOException {
        write("mockbell.yaml", "name: Northfell");
        write("cases/stay/Book/one.xml", "<a/>");
        write(".mockbell/ledger.db", "kept");
        write(".git/config", "kept");
        write("data/.key", "kept");
        assertThat(packedAndLaidOut()).containsExactly("cases/stay/Book/one.xml", "mockbell.yaml");
        assertThat(folder.resolve("to/cases/stay/Book/one.xml")).hasContent("<a/>");
        assertThat(Files.getPosixFilePermissions(folder.resolve("to/mockbell.yaml")))
                .containsExactlyInAnyOrder(PosixFilePermission.OWNER_READ, PosixFilePermission.OWNER_WRITE);
    }

    @Test
    void linksThatLeadOutAreLeftBehind() throws IOException {
        Path outside = Files.writeString(folder.resolve("outside.txt"), "not yours");
        write("mockbell.yaml", "name: Northfell");
        Files.createSymbolicLink(folder.resolve("project/taken.txt"), outside);
        Files.createSymbolicLink(folder.resolve("project/all"), folder);
        assertThat(packedAndLaidOut()).containsExactly("mockbell.yaml");
    }

    @Test
    void theSameFilesAreKnownAgain() throws IOException {
        write("mockbell.yaml", "name: Northfell");
        String before = ProjectFiles.digest(ProjectFiles.pack(folder.resolve("project")));
        Files.setLastModifiedTime(
                folder.resolve("project/mockbell.yaml"), java.nio.file.attribute.FileTime.fromMillis(1_000_000));
        assertThat(ProjectFiles.digest(ProjectFiles.pack(folder.resolve("project"))))
                .isEqualTo(before);
        write("mockbell.yaml", "name: Southfell");
        assertThat(ProjectFiles.digest(ProjectFiles.pack(folder.resolve("project"))))
                .isNotEqualTo(before);
    }

    @Test
    void namesThatLeadOutAreNotLaidOut() throws IOException {
        for (String name : List.of("../out.txt", "/tmp/out.txt", "a/../../out.txt")) {
            ByteArrayOutputStream bytes = new ByteArrayOutputStream();
            try (ZipOutputStream out = new ZipOutputStream(bytes)) {
                out.putNextEntry(new ZipEntry(name));
                out.write(1);
            }
            Path to = Files.createTempDirectory(folder, "to");
            assertThatThrownBy(() -> ProjectFiles.unpack(bytes.toByteArray(), to))
                    .isInstanceOf(Problem.class)
                    .hasMessageContaining("leads out of the folder");
        }
        assertThat(folder.resolve("out.txt")).doesNotExist();
    }

    @Test
    void piecesInAnyOrderGiveTheWhole() {
        byte[] whole = new byte[Spoken.PIECE * 3 + 5];
        new java.util.Random(3).nextBytes(whole);
        List<byte[]> parts = Pieces.of(whole);
        assertThat(parts).hasSize(4);
        List<Integer> order = new ArrayList<>(List.of(0, 1, 2, 3));
        Collections.shuffle(order, new java.util.Random(1));
        Pieces pieces = new Pieces(4);
        Optional<byte[]> result = Optional.empty();
        for (int at : order) {
            assertThat(result).isEmpty();
            pieces.add(9, parts.get(at));
            result = pieces.add(at, parts.get(at));
        }
        assertThat(Arrays.equals(result.orElseThrow(), whole)).isTrue();
        assertThat(Pieces.of(new byte[0])).hasSize(1);
    }

    @Test
    void whatAWorkerWasSentGoesWithIt() throws IOException {
        write("mockbell.yaml", "name: Northfell");
        byte[] packed = ProjectFiles.pack(folder.resolve("project"));
        FilesHere here = new FilesHere();
        assertThatThrownBy(() -> here.put("another digest", packed)).hasMessageContaining("damaged on their way");
        here.put(ProjectFiles.digest(packed), packed);
        Path laid = here.folder();
        assertThat(laid.resolve("mockbell.yaml")).exists();
        assertThat(Files.getPosixFilePermissions(laid)).hasSize(3);
        assertThat(here.has(ProjectFiles.digest(packed))).isTrue();
        here.close();
        assertThat(laid).doesNotExist();
        assertThat(here.has(ProjectFiles.digest(packed))).isFalse();
    }
}
