package dev.mockbell.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.locks.LockSupport;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.condition.EnabledIf;
import org.junit.jupiter.api.io.TempDir;

/** Lines come in order, none is lost without a word, and a disk that takes nothing holds up nobody. */
class RequestLogTest {
    private static final Path FULL = Path.of("/dev/full");

    @TempDir
    private Path folder;

    private final List<String> told = new CopyOnWriteArrayList<>();

    static boolean isThereOneThatIsFull() {
        return Files.isWritable(FULL);
    }

    @Test
    void linesAreAddedToWhatIsThereInTheirOrder() throws IOException {
        Path file = folder.resolve("requests.log");
        Files.writeString(file, "of yesterday\n");
        try (RequestLog log = RequestLog.open(file, told::add)) {
            IntStream.range(0, 10_000).forEach(i -> log.add("line " + i));
        }
        List<String> lines = Files.readAllLines(file);
        assertThat(lines)
                .hasSize(10_001)
                .startsWith("of yesterday", "line 0", "line 1")
                .endsWith("line 9999");
        assertThat(told).isEmpty();
    }

    @Test
    void aLineIsInTheFileSoonWhileTheLogIsOpen() throws IOException {
        Path file = folder.resolve("requests.log");
        try (RequestLog log = RequestLog.open(file, told::add)) {
            log.add("Grüße");
            for (int i = 0; i < 500 && Files.size(file) == 0; i++) {
                LockSupport.parkNanos(10_000_000);
            }
            assertThat(Files.readAllLines(file)).containsExactly("Grüße");
        }
    }

    @Test
    void ofAFloodTheFileSaysHowManyLinesItHasNot() throws IOException {
        Path file = folder.resolve("requests.log");
        try (RequestLog log = RequestLog.open(file, told::add, 100)) {
            IntStream.range(0, 50).forEach(i -> log.add("a line of twenty more"));
        }
        List<String> lines = Files.readAllLines(file);
        long counted = lines.stream()
                .mapToLong(l -> l.startsWith("… and ") ? Long.parseLong(l.split(" ")[2]) : 1)
                .sum();
        assertThat(counted).isEqualTo(50);
        assertThat(lines).hasSizeLessThan(50).anyMatch(l -> l.startsWith("… and "));
    }

    @Test
    @EnabledIf("isThereOneThatIsFull")
    void thatTheDiskIsFullIsSaidOnceAndThatLinesAreMissingAtTheEnd() {
        RequestLog log = RequestLog.open(FULL, told::add);
        log.add("one");
        for (int i = 0; i < 500 && told.isEmpty(); i++) {
            LockSupport.parkNanos(10_000_000);
        }
        log.add("two");
        log.close();
        assertThat(told).hasSize(2).last().isEqualTo("The last lines are not in the log.");
        assertThat(told.get(0)).startsWith("The log cannot be written: ");
    }

    @Test
    void aFolderIsNoLog() {
        assertThatThrownBy(() -> RequestLog.open(folder, told::add))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("The log cannot be written");
    }
}
